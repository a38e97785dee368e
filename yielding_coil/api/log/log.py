"""One line of time: of a build, or of all; and what was so on any day."""

from base64 import urlsafe_b64decode, urlsafe_b64encode
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import Query
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.api.build import EntryOut, entry_out
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.log.photographs import PhotographOut, photograph_out
from yielding_coil.api.sweep import SetupOut, setup_out
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.documents.fields import Counted
from yielding_coil.store import builds as build_queries
from yielding_coil.store import log as queries
from yielding_coil.store.log import Asked, Happened
from yielding_coil.store.photographs import photographs_of
from yielding_coil.store.tables import Build, Design, DesignRevision, Entry, Setup, SweepRow
from yielding_coil.store.then import Then, then_of

router = router_of("log")

Group = Literal["sweeps", "acts", "readings", "checks", "designs", "notes", "photographs", "air"]
MOST = 200


class StateOut(BaseModel):
    """A design as it was begun, or a state of it that has a name."""

    design_id: UUID
    design: str
    number: Counted
    label: str
    worst_swr: float | None
    share: float | None


class SweptOut(BaseModel):
    """A sweep as the log tells it; its curve is asked for when it comes into view."""

    id: UUID
    name: str
    source: Literal["file", "typed", "analyser", "dial", "simulated"]
    carries: Literal["impedance", "swr"]
    swept_at: datetime
    points: int
    low_hz: float
    high_hz: float
    setup: SetupOut | None


def _swept(session: Session, row: SweepRow | None) -> SweptOut | None:
    if row is None:
        return None
    setup = session.get(Setup, row.setup_id) if row.setup_id else None
    told = {name: getattr(row, name) for name in _OF_SWEEP}
    return SweptOut.model_validate({**told, "setup": None if setup is None else setup_out(setup)})


_OF_SWEEP = ("id", "name", "source", "carries", "swept_at", "points", "low_hz", "high_hz")


class LoggedOut(BaseModel):
    """A place on the line of time: an entry with its photographs and the sweep it shows, a sweep, or a state."""

    what: Literal["entry", "sweep", "state"]
    id: UUID
    build_id: UUID
    build: str
    at: datetime
    entry: EntryOut | None = None
    photographs: list[PhotographOut] = []
    sweep: SweptOut | None = None
    state: StateOut | None = None


class LogOut(BaseModel):
    """Some of the line of time, the newest first; `older` asks for what comes before, null at its end."""

    items: list[LoggedOut]
    older: str | None
    # Of a build: how many places its whole line has.
    whole: int | None


def _cursor(found: Happened) -> str:
    return urlsafe_b64encode(f"{found.at.isoformat()} {found.id}".encode()).decode()


def _before(cursor: str | None) -> tuple[datetime, UUID] | None:
    if cursor is None:
        return None
    try:
        at, _, key = urlsafe_b64decode(cursor.encode()).decode().partition(" ")
        return datetime.fromisoformat(at), UUID(key)
    except ValueError:
        raise OutOfDomainError("before", cursor, "what the log gave as `older`") from None


@router.get("/log")
def log(
    session: InTransaction,
    build_id: UUID | None = None,
    groups: Annotated[list[Group], Query(max_length=8)] = [],  # noqa: B006  (FastAPI copies it)
    text: Annotated[str, Query(max_length=120)] = "",
    before: Annotated[str | None, Query(max_length=200)] = None,
    limit: Annotated[int, Query(ge=1, le=MOST)] = 60,
) -> LogOut:
    """What happened to a build, or to all of them, the newest first."""
    if build_id is not None:
        build_queries.one_build(session, build_id)
    asked = Asked(build_id, groups, text.replace("\0", " ").strip(), _before(before))
    found = queries.happened(session, asked, limit + 1)
    shown = found[:limit]
    return LogOut(
        items=_logged(session, shown),
        older=_cursor(shown[-1]) if len(found) > limit else None,
        whole=None if build_id is None else queries.counted(session, build_id),
    )


def _logged(session: Session, found: Sequence[Happened]) -> list[LoggedOut]:
    def rows(kind: Any, what: str) -> dict[UUID, Any]:
        return queries.rows_by_id(session, kind, {h.id for h in found if h.what == what})

    entries, sweeps, states = rows(Entry, "entry"), rows(SweepRow, "sweep"), rows(DesignRevision, "state")
    pictures = photographs_of(session, list(entries))
    names = queries.rows_by_id(session, Build, {h.build_id for h in found})
    out = []
    for each in found:
        item = LoggedOut(
            what=each.what, id=each.id, build_id=each.build_id, build=names[each.build_id].name, at=each.at
        )
        if each.what == "entry":
            row = entries[each.id]
            item.entry = entry_out(session, row)
            item.photographs = [photograph_out(p) for p in pictures[row.id]]
            item.sweep = _swept(session, session.get(SweepRow, row.sweep_id) if row.sweep_id else None)
        elif each.what == "sweep":
            item.sweep = _swept(session, sweeps[each.id])
        else:
            item.state = _state(session, states[each.id])
        out.append(item)
    return out


def _state(session: Session, row: DesignRevision) -> StateOut:
    return StateOut(
        design_id=row.design_id,
        design=session.get_one(Design, row.design_id).name,
        number=row.number,
        label=row.label,
        worst_swr=row.summary.get("worst_swr"),
        share=row.summary.get("share"),
    )


class LegOut(BaseModel):
    """A band's wire from the feedpoint to its end, and what of its piece is folded back."""

    reach_m: float
    folded_m: float


class ThenOut(BaseModel):
    """What was so at a moment; null what was not there yet."""

    at: datetime
    sweep: SweptOut | None
    state: StateOut | None
    legs: list[LegOut] = Field(description="The highest band first; empty before it went up.")
    last: datetime | None


@router.get("/builds/{build_id}/then")
def then(session: InTransaction, build_id: UUID, at: datetime) -> ThenOut:
    """The sweep, the design and the lengths of a build as they were at a moment."""
    build = build_queries.one_build(session, build_id)
    found = then_of(session, build, at if at.tzinfo else at.replace(tzinfo=UTC))
    return _then_out(session, found)


def _then_out(session: Session, found: Then) -> ThenOut:
    return ThenOut(
        at=found.at,
        sweep=_swept(session, found.sweep),
        state=None if found.state is None else _state(session, found.state),
        legs=[LegOut(reach_m=reach, folded_m=folded) for reach, folded in found.legs],
        last=found.last,
    )
