"""What the log of a build says of its wire: where its dips went, the next act, and whether to stop."""

import json
from typing import Annotated, Any
from uuid import UUID

from fastapi import Query, Request
from pydantic import BaseModel
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.build import EntryOut, entry_out
from yielding_coil.api.http import Figure, InTransaction, StopFinding, TrimFinding, router_of
from yielding_coil.api.sweep import Antennas, SetupOut, setup_out
from yielding_coil.api.tables import bands_for
from yielding_coil.api.trim.cuts import NextOut
from yielding_coil.api.trim.meter_readings import EvidenceOut
from yielding_coil.core import trim as core
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.target import Target
from yielding_coil.core.wire import FORMS, KINDS, HungWire, WireForm
from yielding_coil.documents.design import AnyElement, Feedline, RadioTuner, read_content
from yielding_coil.documents.log import CheckData, CutData, EntryIs, HungData, ReadingData, replay, used_so
from yielding_coil.documents.meter_reading import SweepRead
from yielding_coil.documents.ring_wound import WoundTransformer
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as design_queries
from yielding_coil.store import entries as queries
from yielding_coil.store.entries import data_of, plan_of
from yielding_coil.store.sweeps import is_in_bin
from yielding_coil.store.tables import Build, Entry, Setup

router = router_of("trim")


class TrailPoint(BaseModel):
    """The wire between two acts: its leg, and where its dip was read; apart where conditions differ from now."""

    leg_m: float
    folded_m: float
    dip_hz: float | None
    swr: Figure
    apart: bool
    now: bool


class LinkOut(BaseModel):
    """One band of the wire as it now hangs."""

    label: str
    target_hz: float
    leg_m: float
    folded_m: float
    dip_hz: float | None
    settled: bool


class TooHigh(BaseModel):
    """Ways on from a wire that is too short; None where there is no such way, or it is not known."""

    unfold_m: float | None
    splice_m: float
    coil_h: float | None
    low_hz: float | None
    high_hz: float | None
    worst_swr: Figure
    band: str | None


class ResonanceThere(BaseModel):
    """Where X is zero, against where SWR is lowest."""

    frequency_hz: float
    resistance_ohm: float
    swr: Figure
    lowest_hz: float
    lowest_swr: Figure
    together: bool
    nearer: bool


class WithoutFolds(BaseModel):
    """Where the dip would go were the folds cut off."""

    dip_hz: float
    low_hz: float
    high_hz: float


class PlannedOut(BaseModel):
    """The antenna as it is planned, and the unun of the chosen design below it."""

    antenna: WireAntenna
    unun: WoundTransformer | None
    # Whether its bands hang at once, a wire each.
    together: bool


class TrimOut(BaseModel):
    """One band of a wire: how it hangs, where its dip went, and what to do next."""

    label: str
    target_hz: float
    low_hz: float
    high_hz: float
    swr_limit: float
    rule_low_hz: float
    rule_high_hz: float
    form: WireForm
    legs: int
    hung: bool
    link: int
    rounds: int
    links: list[LinkOut]
    trail: list[TrailPoint]
    dip_hz: float | None
    dip_spread: float | None
    lowest_swr: Figure
    dial: EvidenceOut | None
    next: NextOut | None
    too_high: TooHigh | None
    without_folds: WithoutFolds | None
    resonance: ResonanceThere | None
    stop: StopFinding | None
    findings: list[TrimFinding]
    setup: SetupOut | None
    entries: list[EntryOut]
    # What was taken back of the log, newest first; and whether sweeps of the simulated analyser may enter it.
    taken: list[EntryOut]
    practice: bool
    real_readings: bool
    bands_changed: bool
    # Null where no antenna is planned by its numbers.
    planned: PlannedOut | None


@router.get("/builds/{build_id}/trim")
def trim(
    request: Request,
    session: InTransaction,
    build_id: UUID,
    link: Annotated[int | None, Query(ge=0, le=11)] = None,
    by: core.By = "fold",
) -> TrimOut:
    """How a band of this wire stands, and the next act; the first band that is not settled where none is named."""
    kept = _Kept(request, session, build_queries.one_build(session, build_id))
    log = kept.log()
    found = core.advise(log, link, by)
    band, target = found.band, found.band.target
    acts = [d for d in kept.since if isinstance(d, CutData) and d.link == found.link]
    return TrimOut(
        label=target.label,
        target_hz=band.wanted_hz,
        low_hz=target.low_hz,
        high_hz=target.high_hz,
        swr_limit=target.swr_limit,
        rule_low_hz=band.rule_low_hz,
        rule_high_hz=band.rule_high_hz,
        form=log.form,
        legs=FORMS[log.form].legs,
        hung=kept.hung is not None,
        link=found.link,
        rounds=len(acts),
        links=[LinkOut.model_validate(each, from_attributes=True) for each in found.links],
        trail=[TrailPoint.model_validate(each, from_attributes=True) for each in band.trail],
        dip_hz=band.dip_hz,
        dip_spread=band.dip_spread,
        lowest_swr=band.lowest_swr,
        dial=None if band.evidence is None else EvidenceOut.of(band.evidence),
        next=None if band.next is None else NextOut.model_validate(band.next, from_attributes=True),
        too_high=None if band.too_high is None else TooHigh.model_validate(band.too_high, from_attributes=True),
        without_folds=None
        if band.without_folds is None
        else WithoutFolds.model_validate(band.without_folds, from_attributes=True),
        resonance=None
        if band.resonance is None
        else ResonanceThere.model_validate(band.resonance, from_attributes=True),
        stop=None if band.stop is None else StopFinding.model_validate(band.stop, from_attributes=True),
        findings=[TrimFinding.model_validate(f, from_attributes=True) for f in band.findings],
        setup=kept.setup,
        entries=[entry_out(session, row) for row in kept.rows],
        taken=[entry_out(session, row) for row in queries.taken_of(session, build_id)],
        practice=plan_of(kept.build).practice,
        real_readings=queries.has_real_readings(session, kept.rows),
        bands_changed=kept.changed,
        planned=kept.planned(),
    )


class _Kept:
    """The log of a build, read once."""

    def __init__(self, request: Request, session: Session, build: Build) -> None:
        self.request, self.session, self.build = request, session, build
        self.rows = queries.entries_of(session, build.id)
        said = [data_of(row) for row in self.rows]
        self.hangs = replay(said)
        starts = [i for i, each in enumerate(said) if isinstance(each, HungData)]
        start = starts[-1] if starts else len(said)
        last = said[start] if starts else None
        # Bands that came or went since leave the lengths as hung without meaning.
        self.changed = isinstance(last, HungData) and len(last.reach_m) != len(self.trimmed_on)
        self.hung = last if isinstance(last, HungData) and not self.changed else None
        self.start = start if self.hung is not None else len(said)
        self.said = said

    @property
    def trimmed_on(self) -> list[dict[str, Any]]:
        """The bands that its wires are trimmed on: of one wire for all of them, the first."""
        told = self.build.targets
        targets = [Target(t["label"], t["low_hz"], t["high_hz"], t["swr_limit"]) for t in told]
        return [told[i] for i in plan_of(self.build).trimmed_on(targets)]

    @property
    def since(self) -> list[EntryIs]:
        """What was logged since the wire went up."""
        return self.said[self.start :]

    @property
    def setup(self) -> SetupOut | None:
        """How it was read last."""
        found = [self.session.get(Setup, row.setup_id) for row in self.rows[self.start :] if row.setup_id]
        return setup_out(found[-1]) if found and found[-1] is not None else None

    def log(self) -> core.TrimLog:
        """For the core."""
        plan = plan_of(self.build)
        form: WireForm = self.hung.form if self.hung else plan.form
        practice = FORMS[form].practice
        targets = [Target(t["label"], t["low_hz"], t["high_hz"], t["swr_limit"]) for t in self.trimmed_on]
        return core.TrimLog(
            targets=tuple(sorted(targets, key=lambda t: -t.center_hz)),
            moves=plan.moves_of(targets),
            hanging=self.hangs[-1] if self.hangs and self.hung else None,
            readings=tuple(self._readings()),
            form=form,
            arrangement=plan.arrangement,
            aim=plan.aim,
            stop=plan.stop,
            unit="ft" if build_queries.settings(self.session).units == "ft" else "m",
            transformer=plan.transformer,
            network=self._network(),
            checks=tuple(d.passed for d in self.said if isinstance(d, CheckData)),
            bands_changed=self.changed,
            practice_metre_hz=None if practice is None else data.lengths()[practice].metre_hz,
            used_so=used_so(self.since),
            known_bands=tuple(Target(b.label, b.low_hz, b.high_hz, 2.0) for b in bands_for(self.session)),
        )

    def _readings(self) -> list[core.LogReading]:
        rows = zip(self.rows, self.said, self.hangs, strict=True)
        return [
            self._reading(row, said, hanging)
            for row, said, hanging in list(rows)[self.start :]
            if isinstance(said, ReadingData) and hanging is not None
        ]

    def _reading(self, row: Entry, said: ReadingData, hanging: HungWire) -> core.LogReading:
        setup = self.session.get(Setup, row.setup_id) if row.setup_id else None
        by_meter = None if isinstance(said.reading, SweepRead) else said.reading.to_core()
        return core.LogReading(
            link=said.link,
            hanging=hanging,
            conditions=conditions_of(setup),
            instrument=setup.instrument if setup else "",
            evidence=by_meter,
            sweep=self._sweep(row) if by_meter is None else None,
            on_ground=setup is not None and core.lies_on_ground(str((setup.conditions or {}).get("height", ""))),
        )

    def _sweep(self, row: Entry) -> Sweep | SwrSweep | None:
        """The sweep that was read, unless it was thrown away."""
        if row.sweep_id is None or is_in_bin(self.session, row.sweep_id):
            return None
        antennas: Antennas = self.request.app.state.antennas
        return antennas.sweep_of(self.request.app, row.sweep_id)

    def planned(self) -> PlannedOut | None:
        """The antenna by its numbers, behind the unun of the chosen design."""
        antenna = plan_of(self.build).antenna
        if antenna is None:
            return None
        return PlannedOut(
            antenna=antenna,
            unun=next((e for e in self._elements() if isinstance(e, WoundTransformer)), None),
            together=KINDS[antenna.antenna].bands > 1,
        )

    def _network(self) -> bool:
        """Whether the chosen design puts more than a line below the wire."""
        return any(not isinstance(e, Feedline | RadioTuner) for e in self._elements())

    def _elements(self) -> list[AnyElement]:
        """Those of the chosen design."""
        chosen = self.build.chosen_design_id
        if chosen is None:
            return []
        return read_content(design_queries.newest(self.session, chosen).content).elements


def conditions_of(setup: Setup | None) -> str:
    """Plane, line and conditions as one text; the instrument does not move a dip."""
    if setup is None:
        return ""
    words = {name: said for name, said in (setup.conditions or {}).items() if said}
    return json.dumps([setup.plane, setup.line, words], sort_keys=True)
