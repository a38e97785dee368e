"""Ticks on build sheets, photographs in the log, and what else a log says."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

KINDS = (
    "kind in ('note', 'reading', 'cut', 'bench_check', 'built', 'hung', 'fault_test', 'use_so', 'on_air', "
    "'checked_again', 'done', 'remind', 'position_removed')"
)


def upgrade() -> None:
    """Two tables and some kinds of entries more; what is kept stays as it is."""
    op.drop_constraint(op.f("ck_entries_kind"), "entries", type_="check")
    op.create_check_constraint(op.f("ck_entries_kind"), "entries", KINDS)
    op.create_index(op.f("ix_entries_sweep_id"), "entries", ["sweep_id"])
    op.create_table(
        "ticks",
        sa.Column("design_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("done", sa.Boolean(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("ticked_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["design_id"], ["designs.id"], name=op.f("fk_ticks_design_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("design_id", "number", "step", name=op.f("pk_ticks")),
    )
    op.create_table(
        "photographs",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(255), nullable=False),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("located", sa.Boolean(), nullable=False),
        sa.Column("taken_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("original", sa.LargeBinary(), nullable=False),
        sa.Column("view", sa.LargeBinary(), nullable=True),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("kind in ('jpeg', 'png')", name=op.f("ck_photographs_kind_known")),
        sa.ForeignKeyConstraint(
            ["entry_id"], ["entries.id"], name=op.f("fk_photographs_entry_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_photographs")),
    )
    op.create_index(op.f("ix_photographs_entry_id"), "photographs", ["entry_id"])
    # Pressed already: the database need not try again.
    op.execute("ALTER TABLE photographs ALTER COLUMN original SET STORAGE EXTERNAL")
    op.execute("ALTER TABLE photographs ALTER COLUMN view SET STORAGE EXTERNAL")


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
