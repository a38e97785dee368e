"""A build's search for a fault as the core takes it: from the log, the plan, the design and the baseline."""

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from threading import Lock
from typing import Any, Literal
from uuid import UUID

from fastapi import FastAPI
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.sweep import antenna_known_to
from yielding_coil.core.design import Design
from yielding_coil.core.diagnosis import (
    AS_IT_IS,
    AnyReading,
    BandsRead,
    Case,
    DialRead,
    Done,
    Inquiry,
    Installation,
    of_design,
)
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.line import Line
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS, Hung
from yielding_coil.documents.design import DesignContent, TargetPayload, read_content
from yielding_coil.documents.fault import (
    FaultBegunData,
    FaultMendedData,
    FaultSweepRead,
    FaultTestData,
)
from yielding_coil.documents.log import WirePlan
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as design_queries
from yielding_coil.store.entries import data_of, entries_of
from yielding_coil.store.sweeps import one_sweep, sweep_of
from yielding_coil.store.tables import Build, Entry, Setup, SweepRow
from yielding_coil.store.tables import Design as DesignRow

Missing = Literal["antenna", "bands", "line"]
# SWR by frequency alone counts by so many of its points.
DIAL_POINTS, KEPT = 12, 4


@dataclass(frozen=True)
class Search:
    """The entries of one search, oldest first.

    Args:
        begun: None where nothing is wrong as far as anybody told.
        closed: how it ended; None while it goes on.
    """

    begun: Entry | None
    told: FaultBegunData
    tests: tuple[tuple[Entry, FaultTestData], ...] = ()
    closed: Entry | None = None


def search_of(session: Session, build: Build) -> Search:
    """The newest search in a build's log."""
    begun: Entry | None = None
    told, closed = FaultBegunData(), None
    tests: list[tuple[Entry, FaultTestData]] = []
    for row in entries_of(session, build.id):
        said = data_of(row)
        if isinstance(said, FaultBegunData):
            begun, told, tests, closed = row, said, [], None
        elif isinstance(said, FaultTestData) and begun is not None and closed is None:
            tests.append((row, said))
        elif isinstance(said, FaultMendedData) and begun is not None:
            closed = row
    return Search(begun, told, tuple(tests), closed)


@dataclass(frozen=True)
class Known:
    """What there is to go by.

    Args:
        missing: what has to be told before anything can be computed.
        by: the plan of the wire, the antenna of a design, or somebody's word.
    """

    one: Installation | None
    missing: tuple[Missing, ...]
    by: Literal["plan", "design", "word", "nothing"]
    hung: Hung | None = None
    kind_key: str = ""
    design: DesignRow | None = None
    revision: int | None = None
    line: Line | None = None


def known_of(session: Session, app: FastAPI, build: Build, told: FaultBegunData) -> Known:
    """The installation of a build, from its plan, its design and what is told beside them.

    Raises:
        RefusedError: a cable that is not in the table; an antenna that cannot hang so.
    """
    targets = [TargetPayload.model_validate(t).to_core() for t in build.targets]
    if not targets:
        return Known(None, ("bands",), "nothing")
    design_row, content = _design(session, build)
    plan = None if build.wire is None else WirePlan.model_validate(build.wire)
    antenna = None if plan is None else plan.antenna
    by: Literal["plan", "design", "word", "nothing"] = "plan" if antenna is not None else "nothing"
    if antenna is None and content is not None and isinstance(content.antenna, WireAntenna):
        antenna, by = content.antenna, "design"
    if antenna is None and told.told is not None and content is None:
        kind = KINDS[told.told.antenna]
        one = told.told.to_core(targets)
        hung = told.told.hung(targets)
        return Known(one, (), "word", hung, kind.key, line=_line_of(one))
    if antenna is None and told.told is None:
        return Known(None, ("antenna",), "nothing", design=design_row)
    if antenna is not None:
        hung, kind = antenna.hung(), KINDS[antenna.antenna]
    else:
        assert told.told is not None
        hung, kind, by = told.told.hung(targets), KINDS[told.told.antenna], "word"
    line = told.line.to_core() if told.line is not None else told.told.line() if told.told is not None else None
    line = line or _line_of_baseline(session, build, told)
    design = _core_design(app, content, targets)
    if line is None and (design is None or design.feedline is None):
        return Known(None, ("line",), by, hung, kind.key, design_row)
    one = of_design(hung, kind, targets, design, line=line, feed_at=told.feed_at, by_word=by == "word")
    return Known(
        one,
        (),
        by,
        hung,
        kind.key,
        design_row,
        None if design_row is None else design_queries.newest(session, design_row.id).number,
        _line_of(one),
    )


def _design(session: Session, build: Build) -> tuple[DesignRow | None, DesignContent | None]:
    """The chosen design, else the one worked on last."""
    rows = build_queries.designs_of(session, build.id)
    row = next((r for r in rows if r.id == build.chosen_design_id), rows[-1] if rows else None)
    if row is None:
        return None, None
    content = read_content(design_queries.newest(session, row.id).content)
    # What stands on a resistor is a bench, no antenna.
    return (row, content) if content.antenna.kind != "resistor" else (None, None)


def _core_design(app: FastAPI, content: DesignContent | None, targets: Sequence[Target]) -> Design | None:
    if content is None:
        return None
    return content.to_core(antenna_known_to(app, content))


def _line_of(one: Installation) -> Line | None:
    slot = one.line
    if slot is None or slot.element is None:
        return None
    assert isinstance(slot.element.part, Line)
    return slot.element.part


def baseline_row(session: Session, build: Build, told: FaultBegunData) -> SweepRow | None:
    """The sweep of when it was good: the one that was told, else the build's."""
    found = told.baseline_sweep_id or build.baseline_sweep_id
    row = None if found is None else session.get(SweepRow, found)
    return None if row is None or row.deleted_at is not None else row


def _line_of_baseline(session: Session, build: Build, told: FaultBegunData) -> Line | None:
    """The cable that the baseline, or any sweep of the build, was read through."""
    row = baseline_row(session, build, told)
    setup = session.get(Setup, row.setup_id) if row is not None and row.setup_id else None
    if setup is None or setup.line is None or setup.line.get("cable") not in data.cables():
        return None
    return Line(data.cable(setup.line["cable"]), float(setup.line["length_m"]))


def baseline_of(session: Session, one: Installation, row: SweepRow | None) -> tuple[Sweep | None, str]:
    """The baseline as it was read, and the test by whose plane; none where it carries no impedance."""
    found = None if row is None else sweep_of(row)
    if row is None or not isinstance(found, Sweep):
        return None, AS_IT_IS
    setup = session.get(Setup, row.setup_id) if row.setup_id else None
    plane = "line_end" if setup is None else setup.plane
    has_match = any(slot.element is not None for slot in one.slots[: one.box_end])
    if plane == "feedpoint":
        return found, "above_match" if has_match else "at_feed"
    return found, "at_feed" if plane == "matched" else AS_IT_IS


def reading_of(session: Session, row: Entry, said: FaultTestData) -> AnyReading:
    """What a test read.

    Raises:
        RefusedError: no sweep beside it.
    """

    def swept() -> Sweep:
        raise OutOfDomainError("sweep_id", "SWR alone", "a sweep with impedance")

    if isinstance(said.reading, FaultSweepRead):
        if row.sweep_id is None:
            raise OutOfDomainError("sweep_id", "left out", "the sweep that was read in this test")
        found = sweep_of(one_sweep(session, row.sweep_id, deleted=True))
        if isinstance(found, SwrSweep):
            step = max(1, found.frequency_hz.size // DIAL_POINTS)
            points = zip(found.frequency_hz[::step].tolist(), found.swr[::step].tolist(), strict=True)
            return DialRead(tuple(points))
        return said.to_core(lambda: found)
    return said.to_core(swept)


class Inquiries:
    """Installations as they were last computed, for the next question about them."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[Any, ...], Inquiry] = OrderedDict()
        self._readings: OrderedDict[UUID, Done] = OrderedDict()
        self._lock = Lock()

    def inquiry(self, case: Case, key: tuple[Any, ...]) -> Inquiry:
        """For a case; `key` tells its installation and baseline from others."""
        with self._lock:
            known = self._kept.get(key)
        # What is kept was made of the same installation: its own is taken, so that nothing is solved anew.
        found = Inquiry(case) if known is None else known.continued(replace(case, one=known.case.one))
        with self._lock:
            self._kept[key] = found
            self._kept.move_to_end(key)
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        return found

    def done(self, entry_id: UUID, make: Done) -> Done:
        """The same test as the same object, by which its weights are known again."""
        with self._lock:
            kept = self._readings.setdefault(entry_id, make)
            while len(self._readings) > 400:
                self._readings.popitem(last=False)
            return kept


def inquiries_of(app: FastAPI) -> Inquiries:
    """The application's."""
    if not hasattr(app.state, "inquiries"):
        app.state.inquiries = Inquiries()
    found: Inquiries = app.state.inquiries
    return found


@dataclass(frozen=True)
class Opened:
    """A search with everything computed; tests that cannot be taken stand with why.

    Args:
        refused: by the entry's id.
    """

    inquiry: Inquiry
    refused: dict[UUID, RefusedError]
    counted: tuple[UUID | None, ...]


def opened(session: Session, app: FastAPI, build: Build, search: Search, known: Known) -> Opened:
    """The inquiry of a search as far as its log goes; the session's transaction ends before it is computed."""
    one = known.one
    assert one is not None
    told = search.told
    row = baseline_row(session, build, told)
    baseline, act = baseline_of(session, one, row)
    kept = inquiries_of(app)
    done: list[Done] = []
    counted: list[UUID | None] = []
    labels = {band.label for band in one.bands}
    bands = {label: answer for label, answer in told.bands.items() if label in labels}
    # What a sweep at the radio shows counts in place of what was told of it.
    read = any(said.act == AS_IT_IS and isinstance(said.reading, FaultSweepRead) for _, said in search.tests)
    if bands and search.begun is not None and not read:
        done.append(kept.done(search.begun.id, Done(AS_IT_IS, BandsRead(bands))))
        counted.append(None)
    case = Case(
        one,
        baseline,
        act,
        tuple(told.happened),
        (),
        told.school,
        told.instrument,
        tuple(said.act for _, said in search.tests if said.skipped),
    )
    key = (
        build.id,
        None if known.design is None else known.design.id,
        known.revision,
        None if row is None else row.id,
        told.model_dump_json(exclude={"happened", "bands", "school", "instrument"}),
        str(build.wire),
        str(build.targets),
    )
    tests: dict[UUID, Done] = {}
    refused: dict[UUID, RefusedError] = {}
    for entry, said in search.tests:
        if said.skipped:
            continue
        try:
            tests[entry.id] = kept.done(entry.id, Done(said.act, reading_of(session, entry, said)))
        except RefusedError as why:
            refused[entry.id] = why
    # All that is needed was read; what is computed now takes seconds.
    session.commit()
    inquiry = kept.inquiry(case, key)
    for entry_id, test in tests.items():
        try:
            inquiry.weigh(test)
        except RefusedError as why:
            refused[entry_id] = why
            continue
        done.append(test)
        counted.append(entry_id)
    return Opened(kept.inquiry(replace(case, done=tuple(done)), key), refused, tuple(counted))
