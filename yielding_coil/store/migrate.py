"""Bring a database to the newest shape of the tables, once, however many ask for it."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, text

from yielding_coil.store.folder import ServerError

# Whoever comes first migrates, the others wait and find it done; any number, the same for all of ours.
_ONE_AT_A_TIME = 0x79636D69
WAIT_MS = 600_000


def config(connection: Connection) -> Config:
    """Alembic's settings for one open connection; no file of its own."""
    settings = Config()
    settings.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    settings.set_main_option("path_separator", "os")
    settings.attributes["connection"] = connection
    return settings


def shape_of(engine: Engine) -> str | None:
    """The shape of the tables, by its number; None of an empty database."""
    with engine.connect() as connection:
        return MigrationContext.configure(connection).get_current_revision()


def newest_shape() -> str:
    """The shape that this version of the application works with."""
    with_none = Config()
    with_none.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with_none.set_main_option("path_separator", "os")
    return str(ScriptDirectory.from_config(with_none).get_current_head())


def require_known(shape: str | None) -> None:
    """Go on with tables of this version or an older one.

    Raises:
        ServerError: they were made by a newer version, which alone knows what it keeps in them.
    """
    if shape is not None and shape > newest_shape():
        raise ServerError(
            f"These data were last used by a newer version of Yielding Coil (tables {shape}, this one knows up to "
            f"{newest_shape()}). Nothing was touched. Start that version again; or restore a backup of before the "
            "update into a folder of its own: ./restore FILE --data FOLDER (the backups that each update makes lie "
            "in the folder “backups” beside the data)."
        )


def migrate(engine: Engine) -> None:
    """Apply every migration that this database has not seen.

    Raises:
        ServerError: its tables are of a newer version.
    """
    require_known(shape_of(engine))
    with engine.begin() as connection:
        # Altering a large table takes as long as it takes.
        connection.execute(text(f"SET LOCAL lock_timeout = {WAIT_MS}"))
        connection.execute(text("SET LOCAL statement_timeout = 0"))
        connection.execute(text(f"SELECT pg_advisory_xact_lock({_ONE_AT_A_TIME})"))
        command.upgrade(config(connection), "head")
