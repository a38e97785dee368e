"""Work that takes a while, where several processes and machines share it."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """One table more; what is kept stays as it is."""
    op.create_table(
        "jobs",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("asked", JSONB(), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("progress", JSONB(), nullable=False),
        sa.Column("found", JSONB(), nullable=True),
        sa.Column("problem", JSONB(), nullable=True),
        sa.Column("stop", sa.Boolean(), nullable=False),
        *(
            sa.Column(name, sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)
            for name in ("made_at", "heard_at", "beat_at")
        ),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint(
            "state in ('queued', 'running', 'done', 'stopped', 'failed')", name=op.f("ck_jobs_state_known")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_jobs")),
    )


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
