"""A person's word in the log that a band is used as it is."""

from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

KINDS = "kind in ('note', 'reading', 'cut', 'bench_check', 'built', 'hung', 'fault_test', 'use_so')"


def upgrade() -> None:
    """One kind of entry more; what is kept stays as it is."""
    op.drop_constraint(op.f("ck_entries_kind"), "entries", type_="check")
    op.create_check_constraint(op.f("ck_entries_kind"), "entries", KINDS)


def downgrade() -> None:
    """There is no way back that keeps everything."""
    raise NotImplementedError("restore the data folder from before the update")
