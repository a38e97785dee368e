"""Practice at finding a fault: a build's antenna breaks on the simulated site, in a way nobody tells."""

import json
from typing import Annotated, Any
from uuid import UUID

import numpy as np
from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.analyser.faulty import fault_text
from yielding_coil.api.analyser import link_of
from yielding_coil.api.build import EntryOut, entry_out
from yielding_coil.api.diagnosis.cases import Known, known_of, opened, search_of
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.core.diagnosis import (
    AS_IT_IS,
    AnyReading,
    Case,
    Done,
    FaultCode,
    SweepRead,
    acts_of,
    hindsight_way,
)
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.fault import (
    ActKey,
    FaultBegunData,
    FaultSweepRead,
    FaultTestData,
    read_fault,
)
from yielding_coil.documents.setup import SetupIn
from yielding_coil.formats import touchstone
from yielding_coil.store import builds as build_queries
from yielding_coil.store.entries import data_of, entries_of, keep_entry
from yielding_coil.store.setups import keep_setup
from yielding_coil.store.sweeps import keep_sweep
from yielding_coil.store.tables import Build, SweepRow

router = router_of("diagnosis")


class PractisedIn(BaseModel):
    """Which test is done on the simulated site."""

    act: ActKey


class BreakIn(BaseModel):
    """How one will look for it."""

    begun: Annotated[FaultBegunData, Field(default_factory=FaultBegunData)]
    utc_offset_min: int = Field(default=0, ge=-900, le=900)


class ToldOut(BaseModel):
    """What it really was, and the shortest way to it beside one's own.

    `shortest` names the tests that would have done, had one known what each would read; null where no three would.
    """

    element: str
    fault: FaultCode
    at_m: float | None
    own: list[str]
    shortest: list[str] | None


@router.post("/builds/{build_id}/fault/practice", status_code=201)
def break_there(request: Request, session: InTransaction, build_id: UUID, asked: BreakIn) -> EntryOut:
    """Let the build's antenna break on the simulated site, and sweep it as it was and as it is, at the radio."""
    build = build_queries.one_build(session, build_id)
    told = asked.begun
    known = known_of(session, request.app, build, told)
    _require(known)
    number = _round(session, build) + 1
    # The site is solved as it was and as it is: seconds.
    session.commit()
    good = _read(request, known, AS_IT_IS, number, sound=True)
    broken = _read(request, known, AS_IT_IS, number)
    before = _keep(session, build, known, AS_IT_IS, good, "when it was good")
    told = told.model_copy(update={"practice": True, "baseline_sweep_id": before.id})
    begun = keep_entry(session, build_id, told, utc_offset_min=asked.utc_offset_min)
    session.flush()
    now = _keep(session, build, known, AS_IT_IS, broken, "as it is, at the radio")
    test = FaultTestData(act=AS_IT_IS, reading=FaultSweepRead())
    keep_entry(session, build_id, test, sweep_id=now.id, setup_id=now.setup_id, utc_offset_min=asked.utc_offset_min)
    session.flush()
    session.refresh(begun)
    return entry_out(session, begun)


@router.post("/builds/{build_id}/fault/practised", status_code=201)
def practise_test(request: Request, session: InTransaction, build_id: UUID, asked: PractisedIn) -> EntryOut:
    """Do one test on the simulated site; what it reads enters the log."""
    build = build_queries.one_build(session, build_id)
    search = search_of(session, build)
    if search.begun is None or not search.told.practice or search.closed is not None:
        raise OutOfDomainError("act", asked.act, "begin a round of practice first")
    known = known_of(session, request.app, build, search.told)
    _require(known)
    number = _round(session, build)
    session.commit()
    read = _read(request, known, asked.act, number)
    sweep_id = setup_id = None
    if read["kind"] == "sweep":
        row = _keep(session, build, known, asked.act, read, asked.act.replace("_", " "))
        sweep_id, setup_id = row.id, row.setup_id
    said = FaultTestData(act=asked.act, reading=read_fault(read))
    entry = keep_entry(session, build_id, said, sweep_id=sweep_id, setup_id=setup_id)
    session.flush()
    session.refresh(entry)
    return entry_out(session, entry)


@router.get("/builds/{build_id}/fault/told")
def told_fault(request: Request, session: InTransaction, build_id: UUID) -> ToldOut:
    """What really broke in this round of practice, once the search is over."""
    build = build_queries.one_build(session, build_id)
    search = search_of(session, build)
    if search.begun is None or not search.told.practice or search.closed is None:
        raise OutOfDomainError("build_id", "a search that goes on", "say first what it was, or give up")
    known = known_of(session, request.app, build, search.told)
    _require(known)
    one = known.one
    assert one is not None
    number = _round(session, build)
    session.commit()
    readings: dict[str, AnyReading] = {}
    for act in acts_of(one):
        read = _read(request, known, act.key, number)
        readings[act.key] = _core_reading(read)
    with link_of(request).using(sweeping=False) as instrument:
        truth = json.loads(instrument.fault_told())
    first = readings.pop(AS_IT_IS)
    found = opened(session, request.app, build, search, known)
    case = found.inquiry.case
    own = [said.act for _, said in search.tests if not said.skipped and said.act != AS_IT_IS]
    done = (Done(AS_IT_IS, first),)
    inquiry = found.inquiry.continued(Case(case.one, case.baseline, case.baseline_act, case.happened, done))
    way = hindsight_way(inquiry, readings)
    return ToldOut(
        element=truth["element"],
        fault=truth["fault"],
        at_m=truth["at_m"],
        own=own,
        shortest=None if way is None else list(way),
    )


def _require(known: Known) -> None:
    if known.one is None or known.hung is None:
        raise OutOfDomainError("build_id", f"a build without {known.missing[0]}", "tell what hangs there first")


def _round(session: Session, build: Build) -> int:
    """How many times it broke here, for practice."""
    return sum(
        1
        for row in entries_of(session, build.id)
        if isinstance(said := data_of(row), FaultBegunData) and said.practice
    )


def _read(request: Request, known: Known, act: str, number: int, *, sound: bool = False) -> dict[str, Any]:
    assert known.one is not None
    assert known.hung is not None
    if act not in {a.key for a in acts_of(known.one)}:
        raise OutOfDomainError("act", act, ", ".join(a.key for a in acts_of(known.one)))
    text = fault_text(known.one, known.hung, known.kind_key, act, number=number, sound=sound)
    with link_of(request).using(sweeping=False) as instrument:
        found: dict[str, Any] = json.loads(instrument.do_test(text))
    return found


def _core_reading(read: dict[str, Any]) -> AnyReading:
    if read["kind"] == "sweep":
        return SweepRead(_sweep(read))
    return FaultTestData(act="x", reading=read_fault(read)).to_core(lambda: _sweep(read))


def _sweep(read: dict[str, Any]) -> Sweep:
    return Sweep(np.array(read["f"]), np.array(read["r"]) + 1j * np.array(read["x"]))


def _keep(session: Session, build: Build, known: Known, act: str, read: dict[str, Any], name: str) -> SweepRow:
    found = _sweep(read)
    setup = keep_setup(session, build.id, SetupIn(plane="bench"), "simulated site")
    row = keep_sweep(
        session,
        found,
        original=touchstone.write(found),
        original_name="practice.s1p",
        reference_ohm=50.0,
        source="simulated",
        build_id=build.id,
        setup_id=setup.id,
    )
    row.name = f"practice: {name}"
    return row
