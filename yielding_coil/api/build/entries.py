"""The log of a build: what happened to its wire, told, taken back, put back."""

from datetime import UTC, datetime, timedelta
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.sweep import SetupOut, setup_out
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.trim import evidence_of
from yielding_coil.core.wire import require_amounts
from yielding_coil.documents.fields import Counted, LeavesWire, Words
from yielding_coil.documents.log import (
    CheckedAgainData,
    CutData,
    EntryData,
    EntryText,
    HungData,
    ReadingData,
    replay,
)
from yielding_coil.documents.meter_reading import SweepRead
from yielding_coil.documents.setup import SetupIn
from yielding_coil.store import builds as build_queries
from yielding_coil.store import entries as queries
from yielding_coil.store.entries import data_of, plan_of
from yielding_coil.store.revised import edit
from yielding_coil.store.setups import keep_setup
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Build, Entry, Setup, SweepRow

router = router_of("build")

EARLIEST = datetime(1900, 1, 1, tzinfo=UTC)
# A phone that lay in a drawer for as long.
MOST_WAITED_S = 366 * 24 * 3600.0


class EntryIn(BaseModel):
    """Something that happened; a reading with where and how it was taken.

    With an `id` of its own it may be told again: whoever lost the answer tells it once more, and it is there once.
    """

    id: UUID | None = None
    data: EntryData
    text: EntryText = ""
    setup: SetupIn | None = None
    instrument: Annotated[Words, Field(max_length=120)] = ""
    sweep_id: UUID | None = None
    utc_offset_min: int = Field(default=0, ge=-900, le=900)
    # Of what is told later; now when null. What was done to the wire is told as it happens.
    happened_at: datetime | None = None
    # How long ago it was told to a phone that was out of reach; by that, its clock may be wrong.
    waited_s: float = Field(default=0.0, ge=0, le=MOST_WAITED_S)


class EntryPatch(BaseModel):
    """Other words for an entry; what it says beside them stays."""

    revision: Counted
    text: EntryText


class EntryOut(BaseModel):
    """An entry of the log."""

    id: UUID
    revision: Counted
    number: Counted
    data: EntryData
    text: str
    setup: SetupOut | None
    sweep_id: UUID | None
    happened_at: datetime
    utc_offset_min: int
    # Its sweep is of the simulated analyser.
    simulated: bool = False


def entry_out(session: Session, row: Entry) -> EntryOut:
    """As it travels."""
    setup = session.get(Setup, row.setup_id) if row.setup_id else None
    return EntryOut(
        id=row.id,
        revision=row.revision,
        number=row.number,
        data=data_of(row),
        text=row.text,
        setup=None if setup is None else setup_out(setup),
        sweep_id=row.sweep_id,
        happened_at=row.happened_at,
        utc_offset_min=row.utc_offset_min,
        simulated=_is_simulated(session, row),
    )


def _is_simulated(session: Session, row: Entry) -> bool:
    swept = session.get(SweepRow, row.sweep_id) if row.sweep_id else None
    return swept is not None and swept.source == "simulated"


@router.get("/builds/{build_id}/entries")
def entries(session: InTransaction, build_id: UUID) -> list[EntryOut]:
    """The log of a build, oldest first."""
    build_queries.one_build(session, build_id)
    return [entry_out(session, row) for row in queries.entries_of(session, build_id)]


@router.post("/builds/{build_id}/entries", status_code=201)
def log_entry(session: InTransaction, build_id: UUID, made: EntryIn) -> EntryOut:
    """Something happened; an act that the wire cannot have had, or a reading at odds with itself, is refused."""
    build = build_queries.one_build(session, build_id)
    told = None if made.id is None else _told_before(session, build_id, made.id)
    if told is not None:
        return entry_out(session, told)
    sweep_id = None
    if isinstance(made.data, ReadingData):
        if not isinstance(made.data.reading, SweepRead):
            evidence_of([made.data.reading.to_core()])
        sweep_id = _own_sweep(session, build, made)
    if isinstance(made.data, LeavesWire) and made.sweep_id is not None:
        sweep_id = one_sweep(session, made.sweep_id).id
    if isinstance(made.data, CutData):
        _require_amounts(session, build, made.data)
    setup = made.setup
    if isinstance(made.data, CheckedAgainData):
        one_sweep(session, made.data.before_sweep_id)
    row = queries.keep_entry(
        session,
        build_id,
        made.data,
        text=made.text,
        setup_id=None if setup is None else keep_setup(session, build_id, setup, made.instrument).id,
        sweep_id=sweep_id,
        utc_offset_min=made.utc_offset_min,
        happened_at=_when(made),
        entry_id=made.id,
    )
    if sweep_id is not None and setup is None:
        row.setup_id = one_sweep(session, sweep_id).setup_id
    session.flush()
    session.refresh(row)
    return entry_out(session, row)


def _told_before(session: Session, build_id: UUID, entry_id: UUID) -> Entry | None:
    """The entry under an id, where it was told before; taken back since or not, it is not told anew."""
    queries.hold_log(session, build_id)
    row = session.get(Entry, entry_id)
    if row is not None and row.build_id != build_id:
        raise OutOfDomainError("id", entry_id, "an id that no other build's log has")
    return row


def _when(made: EntryIn) -> datetime | None:
    at = made.happened_at
    if at is None:
        return datetime.now(UTC) - timedelta(seconds=made.waited_s) if made.waited_s else None
    if not isinstance(made.data, LeavesWire):
        raise OutOfDomainError(
            "happened_at", at.isoformat(), "left out: what is done to the wire is told as it happens"
        )
    at = at if at.tzinfo else at.replace(tzinfo=UTC)
    if not EARLIEST <= at <= datetime.now(UTC) + timedelta(days=1):
        raise OutOfDomainError("happened_at", at.isoformat(), "after 1900 and not in the future")
    return at


def _own_sweep(session: Session, build: Build, made: EntryIn) -> UUID | None:
    assert isinstance(made.data, ReadingData)
    if not isinstance(made.data.reading, SweepRead):
        return None
    if made.sweep_id is None:
        raise OutOfDomainError("sweep_id", "left out", "the sweep that was read")
    row = one_sweep(session, made.sweep_id)
    if row.build_id != build.id:
        raise OutOfDomainError("sweep_id", made.sweep_id, "a sweep of this build")
    if row.source == "simulated" and not plan_of(build).practice:
        raise OutOfDomainError(
            "sweep_id",
            "of the simulated analyser, and this wire is a real one",
            "a sweep of it; or say first that this build is for practice",
        )
    return row.id


def _require_amounts(session: Session, build: Build, cut: CutData) -> None:
    hung = [d for e in queries.entries_of(session, build.id) if isinstance(d := data_of(e), HungData)]
    require_amounts(hung[-1].form if hung else "dipole", [] if cut.act == "cut_folds" else cut.per_leg_m)


@router.patch("/entries/{entry_id}")
def reword_entry(session: InTransaction, entry_id: UUID, patch: EntryPatch) -> EntryOut:
    """Give an entry other words; 409 when that was done elsewhere since."""
    row = queries.one_entry(session, entry_id)
    edit(session, row, patch.revision, {"text": patch.text}, lambda: entry_out(session, row))
    return entry_out(session, row)


@router.delete("/entries/{entry_id}", status_code=204)
def take_back(session: InTransaction, entry_id: UUID, revision: Counted) -> None:
    """Take an entry back; refused where a later one needs it."""
    row = queries.one_entry(session, entry_id)
    edit(session, row, revision, {}, lambda: entry_out(session, row))
    queries.bin_entry(session, row)


@router.post("/entries/{entry_id}/restore")
def put_back(session: InTransaction, entry_id: UUID) -> EntryOut:
    """Put an entry back where it was in the log."""
    row = queries.one_entry(session, entry_id, deleted=True)
    queries.hold_log(session, row.build_id)
    row.deleted_at = None
    session.flush()
    replay([data_of(e) for e in queries.entries_of(session, row.build_id)])
    return entry_out(session, row)
