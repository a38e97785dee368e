"""What is left of what may have broken on a build, and the test that tells most for the least effort."""

from dataclasses import replace
from datetime import datetime
from typing import Literal
from uuid import UUID

import numpy as np
from fastapi import Request
from pydantic import BaseModel

from yielding_coil.api.diagnosis.cases import (
    Known,
    Missing,
    Opened,
    Search,
    baseline_row,
    known_of,
    opened,
    search_of,
)
from yielding_coil.api.http import InTransaction, Problem, number, problem_of, router_of
from yielding_coil.core.diagnosis import (
    FOUND,
    Act,
    ActCode,
    CautionCode,
    Diagnosis,
    DoneCaution,
    FaultCode,
    Left,
    Offered,
    Reads,
    School,
    State,
    SweepRead,
    Where,
    by_halves,
    cautions_of,
    distance_curve,
    elements_of,
    mending_cautions,
    resolution_m,
    stands_in,
)
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.sweep import MovedState, Sweep, moved_since
from yielding_coil.documents.design import TargetPayload
from yielding_coil.documents.fault import FaultBegunData, FaultMendedData, FaultRead
from yielding_coil.documents.fields import Counted
from yielding_coil.store import builds as build_queries
from yielding_coil.store.entries import data_of
from yielding_coil.store.sweeps import sweep_of
from yielding_coil.store.tables import Build, SweepRow

router = router_of("diagnosis")


class ElementOut(BaseModel):
    """A thing that may be broken, from the antenna down, and how likely it is."""

    key: str
    # What kind of thing it is; of a part of the antenna its role.
    kind: str
    group: Literal["antenna", "box", "line", "shack"]
    odds: float
    state: Literal["untested", "cleared", "suspected", "found"]


class LeftOut(BaseModel):
    """One suspect that is left; its place on the line counts from the radio's end."""

    key: str
    code: FaultCode
    odds: float
    at_m: float | None
    within_m: float | None
    amount: float | None


class ShowsOut(BaseModel):
    """What a test will show where it is one of the leading suspects; an endless ohm is null with `open`."""

    key: str
    code: FaultCode
    swr: list[float] | None
    ohm: float | None
    open: bool
    answer: str | None
    change: float | None


class OfferOut(BaseModel):
    """A test that can be done, and what it tells."""

    key: str
    code: ActCode
    of: str
    other: str
    where: Where
    reads: Reads
    answers: list[str]
    effort: int
    bits: float
    splits: float
    load_ohm: float | None
    shows: list[ShowsOut]
    cautions: list[CautionCode]


class FaultTestOut(BaseModel):
    """A test that was done; one that could not be taken stands with why."""

    entry_id: UUID
    revision: Counted
    act: str
    code: ActCode | None
    of: str
    where: Where | None
    skipped: bool
    reading: FaultRead | None
    sweep_id: UUID | None
    text: str
    happened_at: datetime
    problem: Problem | None


class EchoOut(BaseModel):
    """What comes back along the line by the newest sweep through it, and by the baseline."""

    metres: list[float]
    now: list[float] | None
    before: list[float] | None
    line_m: float
    resolution_m: float
    range_m: float


class BaselineKnownOut(BaseModel):
    """The sweep of when it was good."""

    sweep_id: UUID
    name: str
    swept_at: datetime
    # It carries an impedance, so that it teaches what stood there.
    used: bool
    misfit: float


class AgainstOut(BaseModel):
    """Two tests that no suspect explains together; null stands for what was told at first."""

    first: UUID | None
    second: UUID | None


class OtherPlaneOut(BaseModel):
    """A sweep that looks as if it had been read in another test."""

    entry_id: UUID | None
    looks_like: str
    code: ActCode


class HalvesOut(BaseModel):
    """How long the same search takes by halves, without a model."""

    tests: int
    walks: int


class EndedOut(BaseModel):
    """How a search ended, and what was swept since against the baseline."""

    entry_id: UUID
    happened_at: datetime
    data: FaultMendedData
    again: MovedState | None
    again_sweep_id: UUID | None


class FaultOut(BaseModel):
    """A build's search for a fault, as far as it is."""

    begun_entry_id: UUID | None
    begun_at: datetime | None
    begun: FaultBegunData
    missing: list[Missing]
    known_by: Literal["plan", "design", "word", "nothing"]
    bands: list[str]
    baseline: BaselineKnownOut | None
    line_m: float | None
    feed_at: Where | None
    resolution_m: float | None
    elements: list[ElementOut]
    state: State | None
    alike: int
    left: list[LeftOut]
    offered: list[OfferOut]
    tests: list[FaultTestOut]
    trips: int
    effort: int
    against: AgainstOut | None
    other_plane: OtherPlaneOut | None
    echo: EchoOut | None
    halves: HalvesOut | None
    mend: list[DoneCaution]
    ended: EndedOut | None


@router.get("/builds/{build_id}/fault")
def fault(request: Request, session: InTransaction, build_id: UUID, school: School | None = None) -> FaultOut:
    """What is known, what is left, what to do next, by a school. Nothing is kept but what the log says."""
    build = build_queries.one_build(session, build_id)
    search = search_of(session, build)
    if school is not None:
        search = replace(search, told=search.told.model_copy(update={"school": school}))
    known = known_of(session, request.app, build, search.told)
    row = baseline_row(session, build, search.told)
    # Before anybody says that something is wrong nothing is computed.
    begun = known.one is not None and search.begun is not None
    found = opened(session, request.app, build, search, known) if begun else None
    diagnosis = None if found is None else found.inquiry.diagnosis()
    acts = {} if found is None else found.inquiry.acts
    labels = [TargetPayload.model_validate(t).label for t in build.targets]
    return FaultOut.model_validate(
        {
            "begun_entry_id": None if search.begun is None else search.begun.id,
            "begun_at": None if search.begun is None else search.begun.happened_at,
            "begun": search.told,
            "missing": known.missing,
            "known_by": known.by,
            "bands": labels,
            "baseline": None if row is None else _baseline(row, found),
            "line_m": None if known.line is None else number(float(np.asarray(known.line.length_m))),
            "feed_at": None if known.one is None else known.one.feed_at,
            "resolution_m": _resolution(known, row),
            "elements": [] if diagnosis is None or found is None else _elements(found, diagnosis),
            "state": None if diagnosis is None else diagnosis.state,
            "alike": 0 if diagnosis is None else diagnosis.alike,
            "left": [] if diagnosis is None else [_left(each) for each in diagnosis.left],
            "offered": [] if diagnosis is None else [_offer(each) for each in diagnosis.offered],
            "tests": _tests(search, found, acts),
            "trips": 0 if diagnosis is None else diagnosis.trips,
            "effort": 0 if diagnosis is None else diagnosis.effort,
            "against": None if diagnosis is None or found is None else _against(diagnosis, found),
            "other_plane": None if diagnosis is None or found is None else _other_plane(diagnosis, found),
            "echo": None if found is None else _echo(known, found, row),
            "halves": None if diagnosis is None or known.one is None else _halves(known, diagnosis),
            "mend": [] if diagnosis is None or known.one is None else _mend(known, diagnosis),
            "ended": _ended(session, build, search, row),
        }
    )


def _baseline(row: SweepRow, found: Opened | None) -> dict[str, object]:
    used = found is not None and found.inquiry.case.baseline is not None
    misfit = 0.0 if found is None else found.inquiry.model.built.misfit
    return {
        "sweep_id": row.id,
        "name": row.name,
        "swept_at": row.swept_at,
        "used": used,
        "misfit": number(misfit),
    }


def _resolution(known: Known, row: SweepRow | None) -> float | None:
    if known.one is None:
        return None
    f = known.one.grid
    found = resolution_m(known.one, float(f[0]), float(f[-1]))
    return None if found is None else number(found[0])


def _elements(found: Opened, diagnosis: Diagnosis) -> list[ElementOut]:
    one = found.inquiry.case.one
    odds = found.inquiry.odds_by_element()
    leading = diagnosis.left[0].key if diagnosis.left else ""
    out = []
    for key in elements_of(one):
        kind, group = stands_in(one, key)
        share = odds.get(key, 0.0)
        state = "untested"
        if any(counted is not None for counted in found.counted):
            state = "cleared" if key in diagnosis.cleared else "suspected"
            if key == leading and diagnosis.state == "found":
                state = "found"
        out.append(
            ElementOut.model_validate(
                {"key": key, "kind": kind, "group": group, "odds": number(share), "state": state}
            )
        )
    return out


def _left(each: Left) -> LeftOut:
    def rounded(value: float | None) -> float | None:
        return None if value is None else number(value)

    return LeftOut(
        key=each.key,
        code=each.code,
        odds=number(each.odds) or 0.0,
        at_m=rounded(each.at_m),
        within_m=rounded(each.within_m),
        amount=rounded(each.amount),
    )


def _offer(each: Offered) -> OfferOut:
    act = each.act
    view = act.view
    return OfferOut.model_validate(
        {
            **{name: getattr(act, name) for name in ("key", "code", "of", "other", "where", "reads", "effort")},
            "answers": list(act.answers),
            "bits": number(each.bits),
            "splits": number(min(each.splits, 1e6)),
            "load_ohm": view.load_ohm if view is not None and view.closed == "load" else None,
            "cautions": cautions_of(act),
            "shows": [
                {
                    "key": s.key,
                    "code": s.code,
                    "swr": None if s.swr is None else [number(v) for v in s.swr],
                    "ohm": None if s.ohm is None or s.ohm >= OPEN_OHM else number(s.ohm),
                    "open": s.ohm is not None and s.ohm >= OPEN_OHM,
                    "answer": s.answer,
                    "change": None if s.change is None else number(s.change),
                }
                for s in each.shows
            ],
        }
    )


# From so many ohms on a meter shows no path.
OPEN_OHM = 5e4


def _tests(search: Search, found: Opened | None, acts: dict[str, Act]) -> list[FaultTestOut]:
    out = []
    for entry, said in search.tests:
        act = acts.get(said.act)
        refused = None if found is None else found.refused.get(entry.id)
        out.append(
            FaultTestOut(
                entry_id=entry.id,
                revision=entry.revision,
                act=said.act,
                code=None if act is None else act.code,
                of="" if act is None else act.of,
                where=None if act is None else act.where,
                skipped=said.skipped,
                reading=said.reading,
                sweep_id=entry.sweep_id,
                text=entry.text,
                happened_at=entry.happened_at,
                problem=None if refused is None else problem_of(refused),
            )
        )
    return out


def _against(diagnosis: Diagnosis, found: Opened) -> AgainstOut | None:
    pair = diagnosis.against
    return None if pair is None else AgainstOut(first=found.counted[pair.first], second=found.counted[pair.second])


def _other_plane(diagnosis: Diagnosis, found: Opened) -> OtherPlaneOut | None:
    if diagnosis.other_plane is None:
        return None
    index, key = diagnosis.other_plane
    return OtherPlaneOut(entry_id=found.counted[index], looks_like=key, code=found.inquiry.act(key).code)


def _echo(known: Known, found: Opened, row: SweepRow | None) -> EchoOut | None:
    """By the newest sweep whose lower end is the line's, and the baseline where it was read there too."""
    line = known.line
    if line is None:
        return None
    whole, speed = float(np.asarray(line.length_m)), float(np.asarray(line.cable.velocity_factor))
    until = 1.25 * whole
    now = next(
        (
            done.reading.sweep
            for done in reversed(found.inquiry.case.done)
            if isinstance(done.reading, SweepRead)
            and done.act in ("as_it_is", "line_straight", "line_open", "line_short")
        ),
        None,
    )
    case = found.inquiry.case
    before = case.baseline if case.baseline_act == "as_it_is" else None
    curves = [_curve(each, speed, until) for each in (now, before)]
    known_curve = next((c for c in curves if c is not None), None)
    if known_curve is None:
        return None
    metres = np.linspace(0.0, until, ECHO_POINTS)

    def on(at: int) -> list[float] | None:
        curve = curves[at]
        return (
            None
            if curve is None
            else [number(float(v)) or 0.0 for v in np.interp(metres, curve.metres, curve.size)]
        )

    return EchoOut(
        metres=[number(float(m)) or 0.0 for m in metres],
        now=on(0),
        before=on(1),
        line_m=whole,
        resolution_m=number(known_curve.resolution_m) or 0.0,
        range_m=number(known_curve.range_m) or 0.0,
    )


ECHO_POINTS = 161


def _curve(sweep: Sweep | None, speed: float, until_m: float):  # type: ignore[no-untyped-def]
    if sweep is None:
        return None
    try:
        return distance_curve(sweep, speed, until_m)
    except RefusedError:
        return None


def _halves(known: Known, diagnosis: Diagnosis) -> HalvesOut | None:
    top = diagnosis.left[0]
    assert known.one is not None
    if top.odds < FOUND or top.key not in elements_of(known.one):
        return None
    found = by_halves(known.one, top.key)
    return HalvesOut(tests=found.tests, walks=found.walks)


def _mend(known: Known, diagnosis: Diagnosis) -> list[DoneCaution]:
    assert known.one is not None
    if diagnosis.state not in ("found", "alike") or diagnosis.left[0].code == "nothing":
        return []
    return list(mending_cautions(known.one, diagnosis.left[0].key))


def _ended(session: InTransaction, build: Build, search: Search, baseline: SweepRow | None) -> EndedOut | None:
    entry = search.closed
    if entry is None:
        return None
    said = data_of(entry)
    assert isinstance(said, FaultMendedData)
    newest = next(
        (row for row in reversed(build_queries.sweeps_of(session, build.id)) if row.swept_at > entry.happened_at),
        None,
    )
    again = None
    if newest is not None and baseline is not None:
        first, second = sweep_of(baseline), sweep_of(newest)
        if isinstance(first, Sweep) and isinstance(second, Sweep):
            targets = [TargetPayload.model_validate(t).to_core() for t in build.targets]
            again = moved_since(first, second, targets).state
    return EndedOut(
        entry_id=entry.id,
        happened_at=entry.happened_at,
        data=said,
        again=again,
        again_sweep_id=None if newest is None else newest.id,
    )
