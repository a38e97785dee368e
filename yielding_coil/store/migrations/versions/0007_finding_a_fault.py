"""What a search for a fault tells the log."""

from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

KINDS = (
    "kind in ('note', 'reading', 'cut', 'bench_check', 'built', 'hung', 'fault_test', 'use_so', 'on_air', "
    "'checked_again', 'done', 'remind', 'position_removed', 'fault_begun', 'fault_mended')"
)


def upgrade() -> None:
    """Two kinds of entries more; what is kept stays as it is."""
    op.drop_constraint(op.f("ck_entries_kind"), "entries", type_="check")
    op.create_check_constraint(op.f("ck_entries_kind"), "entries", KINDS)


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
