"""Names of sweeps and designs that can change, sweeps of SWR alone, the region and own bands."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

_EMPTY = sa.text("'{}'::jsonb")
_NONE = sa.text("'[]'::jsonb")


def _add(table: str, *columns: sa.Column[Any]) -> None:
    """New columns; what stands there already gets the default, which new rows then bring themselves."""
    for column in columns:
        op.add_column(table, column)
        op.alter_column(table, column.name, server_default=None)


def upgrade() -> None:
    """Add what is new; what is kept stays as it is."""
    _add(
        "settings",
        sa.Column("region", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("bands", postgresql.JSONB(), nullable=False, server_default=_EMPTY),
    )
    op.create_check_constraint(op.f("ck_settings_region_known"), "settings", "region in (1, 2, 3)")
    _add(
        "sweeps",
        sa.Column("revision", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("name", sa.String(255), nullable=False, server_default=""),
        sa.Column("carries", sa.String(10), nullable=False, server_default="impedance"),
        sa.Column("remarks", postgresql.JSONB(), nullable=False, server_default=_NONE),
    )
    op.execute("UPDATE sweeps SET name = original_name")
    op.create_check_constraint(op.f("ck_sweeps_carries_known"), "sweeps", "carries in ('impedance', 'swr')")
    # Numbers hardly shrink, and pressing them took longer than everything else about a long sweep.
    for column in ("data", "original"):
        op.execute(f"ALTER TABLE sweeps ALTER COLUMN {column} SET STORAGE EXTERNAL")
    _add("designs", sa.Column("revision", sa.Integer(), nullable=False, server_default="1"))


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
