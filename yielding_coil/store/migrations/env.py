"""Alembic runs this with the connection that `migrate` opened."""

from alembic import context

from yielding_coil.store.tables import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
