"""The log of what happened to a build, and how its wire is cut."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add what is new; what is kept stays as it is."""
    op.add_column("builds", sa.Column("wire", postgresql.JSONB(), nullable=True))
    op.create_table(
        "entries",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("build_id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("utc_offset_min", sa.Integer(), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("data", postgresql.JSONB(), nullable=False),
        sa.Column("setup_id", sa.Uuid(), nullable=True),
        sa.Column("sweep_id", sa.Uuid(), nullable=True),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint(
            "kind in ('note', 'reading', 'cut', 'bench_check', 'built', 'hung', 'fault_test')",
            name=op.f("ck_entries_kind"),
        ),
        sa.ForeignKeyConstraint(["build_id"], ["builds.id"], name=op.f("fk_entries_build_id"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["setup_id"], ["setups.id"], name=op.f("fk_entries_setup_id"), ondelete="SET NULL"),
        sa.ForeignKeyConstraint(["sweep_id"], ["sweeps.id"], name=op.f("fk_entries_sweep_id"), ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_entries")),
    )
    op.create_index(op.f("ix_entries_build_id"), "entries", ["build_id"])


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
