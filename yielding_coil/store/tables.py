"""The tables: facts and revisions only, so that no kept result can disagree with the core."""

from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import CheckConstraint, DateTime, ForeignKey, LargeBinary, MetaData, String, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """What all tables share: names of constraints, time zones, JSONB for payloads."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_name)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {  # noqa: RUF012  (SQLAlchemy reads it from the class)
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB,
        list[dict[str, Any]]: JSONB,
        list[str]: JSONB,
    }


class Settings(Base):
    """How this installation likes to be spoken to; one row."""

    __tablename__ = "settings"
    __table_args__ = (
        CheckConstraint("id = 1", name="one_row"),
        CheckConstraint("region in (1, 2, 3)", name="region_known"),
    )

    id: Mapped[int] = mapped_column(primary_key=True, default=1)
    revision: Mapped[int] = mapped_column(default=1)
    units: Mapped[str] = mapped_column(String(2), default="m")
    region: Mapped[int] = mapped_column(default=1)
    # Own bands and changed edges by the table's key; what is not named here is the table's.
    bands: Mapped[dict[str, Any]] = mapped_column(default=dict)
    demo_laid_in: Mapped[bool] = mapped_column(default=False)
    # Analysers that a paired device may connect to, as host:port or a serial port; the owner's word.
    analysers: Mapped[list[str]] = mapped_column(default=list)


class Build(Base):
    """One antenna and all that is made for it."""

    __tablename__ = "builds"
    __table_args__ = (CheckConstraint("power_w > 0", name="power_above_zero"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    revision: Mapped[int] = mapped_column(default=1)
    name: Mapped[str] = mapped_column(String(120))
    power_w: Mapped[float]
    mode: Mapped[str] = mapped_column(String(20))
    notes: Mapped[str] = mapped_column(default="")
    skipped_stages: Mapped[list[str]] = mapped_column(default=list)
    targets: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    chosen_design_id: Mapped[UUID | None] = mapped_column(
        ForeignKey("designs.id", ondelete="SET NULL", use_alter=True)
    )
    baseline_sweep_id: Mapped[UUID | None] = mapped_column(
        ForeignKey("sweeps.id", ondelete="SET NULL", use_alter=True)
    )
    # How its wire is cut: form, school, what is added; none until somebody chose.
    wire: Mapped[dict[str, Any] | None]
    demo: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    deleted_at: Mapped[datetime | None]


class Setup(Base):
    """Where and how a sweep was taken; of no build as long as its sweep lies on the bench."""

    __tablename__ = "setups"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    build_id: Mapped[UUID | None] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    plane: Mapped[str] = mapped_column(String(20))
    line: Mapped[dict[str, Any] | None]
    conditions: Mapped[dict[str, Any]] = mapped_column(default=dict)
    instrument: Mapped[str] = mapped_column(String(120), default="")


class Calibration(Base):
    """Raw sweeps of short, open and load at one plane, and what the three were.

    `taken` says of each standard when, how many passes, and their noise; `checked` what the load still showed
    afterwards.
    """

    __tablename__ = "calibrations"
    __table_args__ = (
        CheckConstraint("low_hz < high_hz", name="low_below_high"),
        CheckConstraint("points > 1", name="points_above_one"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    revision: Mapped[int] = mapped_column(default=1)
    name: Mapped[str] = mapped_column(String(120))
    plane: Mapped[str] = mapped_column(String(120))
    instrument: Mapped[str] = mapped_column(String(120), default="")
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    low_hz: Mapped[float]
    high_hz: Mapped[float]
    points: Mapped[int]
    kit: Mapped[dict[str, Any]]
    taken: Mapped[dict[str, Any]] = mapped_column(default=dict)
    checked: Mapped[dict[str, Any] | None]
    short: Mapped[bytes | None] = mapped_column(deferred=True, deferred_group="raw")
    open: Mapped[bytes | None] = mapped_column(deferred=True, deferred_group="raw")
    load: Mapped[bytes | None] = mapped_column(deferred=True, deferred_group="raw")
    deleted_at: Mapped[datetime | None]


class SweepRow(Base):
    """A sweep as it came in, to the byte, and what was read from it. Only its name ever changes.

    `data` is f, R, X a point where it carries an impedance; f, SWR, 0 where it carries SWR alone.
    """

    __tablename__ = "sweeps"
    __table_args__ = (
        CheckConstraint("low_hz <= high_hz", name="low_below_high"),
        CheckConstraint("points > 0", name="points_above_zero"),
        CheckConstraint("reference_ohm > 0", name="reference_above_zero"),
        CheckConstraint("carries in ('impedance', 'swr')", name="carries_known"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    build_id: Mapped[UUID | None] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    setup_id: Mapped[UUID | None] = mapped_column(ForeignKey("setups.id", ondelete="SET NULL"))
    revision: Mapped[int] = mapped_column(default=1)
    name: Mapped[str] = mapped_column(String(255))
    source: Mapped[str] = mapped_column(String(20))
    carries: Mapped[str] = mapped_column(String(10), default="impedance")
    swept_at: Mapped[datetime] = mapped_column(server_default=func.now())
    points: Mapped[int]
    low_hz: Mapped[float]
    high_hz: Mapped[float]
    reference_ohm: Mapped[float]
    calibration_id: Mapped[UUID | None] = mapped_column(ForeignKey("calibrations.id", ondelete="SET NULL"))
    # Variances of the two parts of Γ and their covariance a point, where they are known.
    doubt: Mapped[bytes | None] = mapped_column(deferred=True)
    # Megabytes at times: fetched only where they are looked at.
    data: Mapped[bytes] = mapped_column(deferred=True)
    original: Mapped[bytes] = mapped_column(deferred=True)
    original_name: Mapped[str] = mapped_column(String(255))
    remarks: Mapped[list[str]] = mapped_column(default=list)
    deleted_at: Mapped[datetime | None]


class Design(Base):
    """A match somebody is working on; what it holds is its newest revision."""

    __tablename__ = "designs"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int] = mapped_column(default=1)
    name: Mapped[str] = mapped_column(String(120))
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    deleted_at: Mapped[datetime | None]


class DesignRevision(Base):
    """One settled state of a design; only ever appended.

    `undo_number` and `redo_number` say which revision one step back or forward shows.
    """

    __tablename__ = "design_revisions"
    __table_args__ = (
        UniqueConstraint("design_id", "number"),
        CheckConstraint("number > 0", name="number_above_zero"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    design_id: Mapped[UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    label: Mapped[str] = mapped_column(String(120), default="")
    content: Mapped[dict[str, Any]]
    summary: Mapped[dict[str, Any]] = mapped_column(default=dict)
    undo_number: Mapped[int | None]
    redo_number: Mapped[int | None]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())


class Piece(Base):
    """Something in the drawer: trade data taken over, typed in, or measured."""

    __tablename__ = "pieces"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    revision: Mapped[int] = mapped_column(default=1)
    kind: Mapped[str] = mapped_column(String(20))
    name: Mapped[str] = mapped_column(String(120))
    count: Mapped[int | None]
    nominal_key: Mapped[str | None] = mapped_column(String(60))
    values: Mapped[dict[str, Any]]
    provenance: Mapped[str] = mapped_column(String(20))
    sweep_id: Mapped[UUID | None] = mapped_column(ForeignKey("sweeps.id", ondelete="SET NULL"))
    price: Mapped[str | None] = mapped_column(String(40))
    deleted_at: Mapped[datetime | None]


class Entry(Base):
    """Something that happened to a build: hung, read, cut, checked, noted. Its data differ by kind."""

    __tablename__ = "entries"
    __table_args__ = (
        CheckConstraint(
            "kind in ('note', 'reading', 'cut', 'bench_check', 'built', 'hung', 'fault_test', 'use_so', 'on_air', "
            "'checked_again', 'done', 'remind', 'position_removed', 'fault_begun', 'fault_mended')",
            name="kind",
        ),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int] = mapped_column(default=1)
    # In the order in which they were told, whatever the clocks say.
    number: Mapped[int]
    kind: Mapped[str] = mapped_column(String(20))
    happened_at: Mapped[datetime] = mapped_column(server_default=func.now())
    utc_offset_min: Mapped[int] = mapped_column(default=0)
    text: Mapped[str] = mapped_column(default="")
    data: Mapped[dict[str, Any]]
    setup_id: Mapped[UUID | None] = mapped_column(ForeignKey("setups.id", ondelete="SET NULL"))
    sweep_id: Mapped[UUID | None] = mapped_column(ForeignKey("sweeps.id", ondelete="SET NULL"), index=True)
    deleted_at: Mapped[datetime | None]


class Tick(Base):
    """A step of a build sheet that somebody ticked, or noted something at."""

    __tablename__ = "ticks"

    design_id: Mapped[UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    step: Mapped[str] = mapped_column(String(80), primary_key=True)
    revision: Mapped[int] = mapped_column(default=1)
    done: Mapped[bool] = mapped_column(default=False)
    note: Mapped[str] = mapped_column(default="")
    ticked_at: Mapped[datetime | None]


class Photograph(Base):
    """A photograph at an entry of the log: the original to the byte, and a smaller view made when first seen."""

    __tablename__ = "photographs"
    __table_args__ = (CheckConstraint("kind in ('jpeg', 'png')", name="kind_known"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    entry_id: Mapped[UUID] = mapped_column(ForeignKey("entries.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int] = mapped_column(default=1)
    name: Mapped[str] = mapped_column(String(255))
    kind: Mapped[str] = mapped_column(String(10))
    size: Mapped[int]
    width: Mapped[int]
    height: Mapped[int]
    # Whether the original says where it was taken.
    located: Mapped[bool]
    taken_at: Mapped[datetime | None]
    original: Mapped[bytes] = mapped_column(deferred=True)
    view: Mapped[bytes | None] = mapped_column(deferred=True)
    deleted_at: Mapped[datetime | None]


class Device(Base):
    """A phone or a computer that was paired; of its token only the SHA-256 is kept.

    An `owner` may do what is otherwise done on the computer that runs the application.
    """

    __tablename__ = "devices"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(String(60))
    token_hash: Mapped[bytes] = mapped_column(LargeBinary(32), unique=True)
    owner: Mapped[bool] = mapped_column(default=False)
    paired_at: Mapped[datetime] = mapped_column(server_default=func.now())
    last_seen_at: Mapped[datetime] = mapped_column(server_default=func.now())
    revoked_at: Mapped[datetime | None]


class Pairing(Base):
    """A code that pairs one device once, for some minutes; its device once it did."""

    __tablename__ = "pairings"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    code_hash: Mapped[bytes] = mapped_column(LargeBinary(32), unique=True)
    owner: Mapped[bool] = mapped_column(default=False)
    expires_at: Mapped[datetime]
    device_id: Mapped[UUID | None] = mapped_column(ForeignKey("devices.id", ondelete="CASCADE"))


class JobRow(Base):
    """Work that takes a while, for whichever process is free; gone ten minutes after its end.

    `heard_at` is when somebody last listened, `beat_at` when who works at it last said so.
    """

    __tablename__ = "jobs"
    __table_args__ = (
        CheckConstraint("state in ('queued', 'running', 'done', 'stopped', 'failed')", name="state_known"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    kind: Mapped[str] = mapped_column(String(20))
    asked: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(String(10), default="queued")
    revision: Mapped[int] = mapped_column(default=1)
    progress: Mapped[dict[str, Any]]
    found: Mapped[dict[str, Any] | None]
    problem: Mapped[dict[str, Any] | None]
    stop: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    heard_at: Mapped[datetime] = mapped_column(server_default=func.now())
    beat_at: Mapped[datetime] = mapped_column(server_default=func.now())
    ended_at: Mapped[datetime | None]
