"""Calibrations, and what sweeps taken with them carry; setups of sweeps that belong to no build yet."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add what is new; what is kept stays as it is."""
    op.create_table(
        "calibrations",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("plane", sa.String(120), nullable=False),
        sa.Column("instrument", sa.String(120), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("low_hz", sa.Float(), nullable=False),
        sa.Column("high_hz", sa.Float(), nullable=False),
        sa.Column("points", sa.Integer(), nullable=False),
        sa.Column("kit", postgresql.JSONB(), nullable=False),
        sa.Column("taken", postgresql.JSONB(), nullable=False),
        sa.Column("checked", postgresql.JSONB(), nullable=True),
        sa.Column("short", sa.LargeBinary(), nullable=True),
        sa.Column("open", sa.LargeBinary(), nullable=True),
        sa.Column("load", sa.LargeBinary(), nullable=True),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("low_hz < high_hz", name=op.f("ck_calibrations_low_below_high")),
        sa.CheckConstraint("points > 1", name=op.f("ck_calibrations_points_above_one")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_calibrations")),
    )
    op.add_column("sweeps", sa.Column("calibration_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(
        op.f("fk_sweeps_calibration_id"), "sweeps", "calibrations", ["calibration_id"], ["id"], ondelete="SET NULL"
    )
    op.add_column("sweeps", sa.Column("doubt", sa.LargeBinary(), nullable=True))
    op.execute("ALTER TABLE sweeps ALTER COLUMN doubt SET STORAGE EXTERNAL")
    op.alter_column("setups", "build_id", nullable=True)


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
