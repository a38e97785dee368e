"""The first tables"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "builds",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("power_w", sa.Double(), nullable=False),
        sa.Column("mode", sa.String(length=20), nullable=False),
        sa.Column("notes", sa.String(), nullable=False),
        sa.Column("skipped_stages", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("targets", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("chosen_design_id", sa.Uuid(), nullable=True),
        sa.Column("baseline_sweep_id", sa.Uuid(), nullable=True),
        sa.Column("demo", sa.Boolean(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("power_w > 0", name=op.f("ck_builds_power_above_zero")),
        sa.ForeignKeyConstraint(
            ["baseline_sweep_id"],
            ["sweeps.id"],
            name=op.f("fk_builds_baseline_sweep_id"),
            ondelete="SET NULL",
            use_alter=True,
        ),
        sa.ForeignKeyConstraint(
            ["chosen_design_id"],
            ["designs.id"],
            name=op.f("fk_builds_chosen_design_id"),
            ondelete="SET NULL",
            use_alter=True,
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_builds")),
    )
    op.create_table(
        "settings",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("units", sa.String(length=2), nullable=False),
        sa.Column("demo_laid_in", sa.Boolean(), nullable=False),
        sa.CheckConstraint("id = 1", name=op.f("ck_settings_one_row")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_settings")),
    )
    op.create_table(
        "designs",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("build_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["build_id"], ["builds.id"], name=op.f("fk_designs_build_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_designs")),
    )
    op.create_index(op.f("ix_designs_build_id"), "designs", ["build_id"], unique=False)
    op.create_table(
        "setups",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("build_id", sa.Uuid(), nullable=False),
        sa.Column("plane", sa.String(length=20), nullable=False),
        sa.Column("line", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("conditions", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("instrument", sa.String(length=120), nullable=False),
        sa.ForeignKeyConstraint(["build_id"], ["builds.id"], name=op.f("fk_setups_build_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_setups")),
    )
    op.create_index(op.f("ix_setups_build_id"), "setups", ["build_id"], unique=False)
    op.create_table(
        "design_revisions",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("design_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(length=120), nullable=False),
        sa.Column("content", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("summary", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("undo_number", sa.Integer(), nullable=True),
        sa.Column("redo_number", sa.Integer(), nullable=True),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.CheckConstraint("number > 0", name=op.f("ck_design_revisions_number_above_zero")),
        sa.ForeignKeyConstraint(
            ["design_id"], ["designs.id"], name=op.f("fk_design_revisions_design_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_design_revisions")),
        sa.UniqueConstraint("design_id", "number", name=op.f("uq_design_revisions_design_id")),
    )
    op.create_index(op.f("ix_design_revisions_design_id"), "design_revisions", ["design_id"], unique=False)
    op.create_table(
        "sweeps",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("build_id", sa.Uuid(), nullable=True),
        sa.Column("setup_id", sa.Uuid(), nullable=True),
        sa.Column("source", sa.String(length=20), nullable=False),
        sa.Column("swept_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("points", sa.Integer(), nullable=False),
        sa.Column("low_hz", sa.Double(), nullable=False),
        sa.Column("high_hz", sa.Double(), nullable=False),
        sa.Column("reference_ohm", sa.Double(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("original", sa.LargeBinary(), nullable=False),
        sa.Column("original_name", sa.String(length=255), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("low_hz <= high_hz", name=op.f("ck_sweeps_low_below_high")),
        sa.CheckConstraint("points > 0", name=op.f("ck_sweeps_points_above_zero")),
        sa.CheckConstraint("reference_ohm > 0", name=op.f("ck_sweeps_reference_above_zero")),
        sa.ForeignKeyConstraint(["build_id"], ["builds.id"], name=op.f("fk_sweeps_build_id"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["setup_id"], ["setups.id"], name=op.f("fk_sweeps_setup_id"), ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sweeps")),
    )
    op.create_index(op.f("ix_sweeps_build_id"), "sweeps", ["build_id"], unique=False)
    op.create_table(
        "pieces",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("count", sa.Integer(), nullable=True),
        sa.Column("nominal_key", sa.String(length=60), nullable=True),
        sa.Column("values", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("provenance", sa.String(length=20), nullable=False),
        sa.Column("sweep_id", sa.Uuid(), nullable=True),
        sa.Column("price", sa.String(length=40), nullable=True),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["sweep_id"], ["sweeps.id"], name=op.f("fk_pieces_sweep_id"), ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pieces")),
    )
    # Builds and what hangs on them point at each other: these two come when both sides are there.
    op.create_foreign_key(
        "fk_builds_chosen_design_id", "builds", "designs", ["chosen_design_id"], ["id"], ondelete="SET NULL"
    )
    op.create_foreign_key(
        "fk_builds_baseline_sweep_id", "builds", "sweeps", ["baseline_sweep_id"], ["id"], ondelete="SET NULL"
    )


def downgrade() -> None:
    op.drop_constraint("fk_builds_chosen_design_id", "builds")
    op.drop_constraint("fk_builds_baseline_sweep_id", "builds")
    op.drop_table("pieces")
    op.drop_index(op.f("ix_sweeps_build_id"), table_name="sweeps")
    op.drop_table("sweeps")
    op.drop_index(op.f("ix_design_revisions_design_id"), table_name="design_revisions")
    op.drop_table("design_revisions")
    op.drop_index(op.f("ix_setups_build_id"), table_name="setups")
    op.drop_table("setups")
    op.drop_index(op.f("ix_designs_build_id"), table_name="designs")
    op.drop_table("designs")
    op.drop_table("settings")
    op.drop_table("builds")
