"""What the log of a build says of its wire: where its dips went, the next act, and whether to stop."""

from collections.abc import Sequence
from typing import Annotated
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Query, Request
from pydantic import BaseModel
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.antennas import Antennas
from yielding_coil.api.cuts import NextOut
from yielding_coil.api.dials import DialOut
from yielding_coil.api.entries import EntryOut, entry_out
from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import number
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.api.setups import SetupOut, setup_out
from yielding_coil.api.stretches import Stretch, conditions_of
from yielding_coil.core import trim as core
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.reflection import swr_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep, SwrReadings
from yielding_coil.core.target import Target
from yielding_coil.core.trim import Dip, dip_in
from yielding_coil.core.wire import STEP_M, Hanging, on_tape
from yielding_coil.documents.design import Feedline, read_content
from yielding_coil.documents.log import LEGS, CheckData, CutData, HungData, ReadingData, WireForm, WirePlan, replay
from yielding_coil.documents.meter_reading import SweepRead, points_of
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as design_queries
from yielding_coil.store import entries as queries
from yielding_coil.store.entries import data_of, plan_of
from yielding_coil.store.sweeps import is_binned
from yielding_coil.store.tables import Build, Setup

router = APIRouter(prefix="/api", tags=["trim"], responses=RESPONSES)

# The frequency rule reaches so far to either side of the target, and stays there.
RULE_REACH = 0.08
# Where a leg's dip is by its length alone, for telling a slip from a site: the practised rules.
EXPECTED = {"dipole": "dipole-practice", "vertical": "vertical-practice", "loop": "loop-practice"}
POINTS = 41


class TrailPoint(BaseModel):
    """The wire between two acts: its leg, and where its dip was read; apart where conditions differ from now."""

    leg_m: float
    folded_m: float
    dip_hz: float | None
    swr: float | None
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
    worst_swr: float | None


class ResonanceThere(BaseModel):
    """Where X is zero, against where SWR is lowest."""

    frequency_hz: float
    resistance_ohm: float
    swr: float | None
    lowest_hz: float
    lowest_swr: float | None


class WithoutFolds(BaseModel):
    """Where the dip would go were the folds cut off."""

    dip_hz: float
    low_hz: float
    high_hz: float


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
    lowest_swr: float | None
    dial: DialOut | None
    next: NextOut | None
    too_high: TooHigh | None
    without_folds: WithoutFolds | None
    resonance: ResonanceThere | None
    stop: Finding | None
    findings: list[Finding]
    setup: SetupOut | None
    entries: list[EntryOut]


@router.get("/builds/{build_id}/trim")
def trim(
    request: Request,
    session: InTransaction,
    build_id: UUID,
    link: Annotated[int | None, Query(ge=0, le=11)] = None,
    by: core.By = "fold",
) -> TrimOut:
    """How a band of this wire stands, and the next act; the first band that is not settled where none is named."""
    build = build_queries.one_build(session, build_id)
    return _Trimming(request, session, build).out(link, by)


class _Trimming:
    """The log of a build, read once."""

    def __init__(self, request: Request, session: Session, build: Build) -> None:
        self.session = session
        self.antennas: Antennas = request.app.state.antennas
        self.request = request
        self.plan: WirePlan = plan_of(build)
        self.build = build
        self.unit: LengthUnit = "ft" if build_queries.settings(session).units == "ft" else "m"
        self.rows = queries.entries_of(session, build.id)
        self.said = [data_of(row) for row in self.rows]
        self.hangs = replay(self.said)
        starts = [i for i, said in enumerate(self.said) if isinstance(said, HungData)]
        self.start = starts[-1] if starts else len(self.rows)
        hung = self.said[self.start] if starts else None
        self.hung = hung if isinstance(hung, HungData) else None
        # Bands that came or went since leave the lengths as hung without meaning.
        self.changed = self.hung is not None and len(self.hung.reach_m) != len(build.targets)
        if self.changed:
            self.hung, self.start = None, len(self.rows)
        self.form: WireForm = self.hung.form if self.hung else self.plan.form
        self.targets = sorted(
            (Target(t["label"], t["low_hz"], t["high_hz"], t["swr_limit"]) for t in build.targets),
            key=lambda t: -t.center_hz,
        )
        setups = [session.get(Setup, row.setup_id) for row in self.rows[self.start :] if row.setup_id]
        self.setup = setups[-1] if setups else None

    def wanted_hz(self, target: Target) -> float:
        """Where in a band its dip is wanted."""
        return target.center_hz if self.plan.aim == "middle" else target.low_hz

    def stretches(self, link: int) -> list[Stretch]:
        """The log of a band since the wire went up, cut where something was done or conditions changed."""
        out: list[Stretch] = []
        near_hz = self.wanted_hz(self.targets[link])
        for row, said, hanging in list(zip(self.rows, self.said, self.hangs, strict=True))[self.start :]:
            if hanging is None or not isinstance(said, ReadingData) or said.link != link:
                continue
            setup = self.session.get(Setup, row.setup_id) if row.setup_id else None
            words = conditions_of(setup)
            reach = hanging.reach(link)
            if not out or out[-1].hanging.reach(link) != reach or out[-1].conditions != words:
                out.append(Stretch(hanging, words))
            here = out[-1]
            here.instruments.append(setup.instrument if setup else "")
            if isinstance(said.reading, SweepRead):
                if row.sweep_id is not None and not is_binned(self.session, row.sweep_id):
                    here.sweeps.append(self.antennas.swept(self.request, row.sweep_id))
            else:
                here.reads.append(said.reading)
        for stretch in out:
            stretch.look(near_hz)
        return out

    def out(self, asked: int | None, by: core.By) -> TrimOut:
        """Everything of one band."""
        if asked is not None and asked >= len(self.targets):
            raise NotFoundError(f"this build has no band {asked}", field="link")
        views = [self.view(link, by) for link in range(len(self.targets))]
        settled = [v.stop is not None for v in views]
        open_ = [i for i, done in enumerate(settled) if not done]
        link = asked if asked is not None else open_[0] if open_ else len(views) - 1
        view = views[link]
        now = self.hangs[-1] if self.hangs and self.hung else None
        if now is not None and self.plan.arrangement == "linked":
            earlier = [i for i in open_ if i < link]
            if earlier:
                first = self.targets[earlier[0]]
                view.findings.insert(
                    0,
                    Finding(
                        code="higher_band_first", values={"label": first.label, "this": self.targets[link].label}
                    ),
                )
        return view.out(
            link,
            [
                LinkOut(
                    label=t.label,
                    target_hz=self.wanted_hz(t),
                    leg_m=now.reach(i)[0] if now else 0.0,
                    folded_m=now.folded_m[i] if now else 0.0,
                    dip_hz=views[i].dip_hz,
                    settled=settled[i],
                )
                for i, t in enumerate(self.targets)
            ],
        )

    def view(self, link: int, by: core.By) -> "_View":
        """What is known of one band."""
        view = _View(self, link)
        view.read(by)
        return view


class _View:
    """One band of a wire, as it is worked out."""

    def __init__(self, whole: _Trimming, link: int) -> None:
        self.whole = whole
        self.link = link
        self.target = whole.targets[link]
        self.wanted_hz = whole.wanted_hz(self.target)
        self.findings: list[Finding] = []
        self.stop: Finding | None = None
        self.next: NextOut | None = None
        self.too_high: TooHigh | None = None
        self.without: WithoutFolds | None = None
        self.resonance: ResonanceThere | None = None
        self.dip_hz: float | None = None
        self.dip_spread: float | None = None
        self.lowest_swr: float | None = None
        self.hanging = whole.hangs[-1] if whole.hangs and whole.hung else None
        self.stretches = whole.stretches(link) if whole.hung else []

    @property
    def present(self) -> Stretch | None:
        """What was read since the last act that moved this band."""
        if not self.stretches or self.hanging is None:
            return None
        last = self.stretches[-1]
        return last if last.hanging.reach(self.link) == self.hanging.reach(self.link) else None

    def add(self, code: str, **values: float | str | None) -> None:
        """Something to know."""
        self.findings.append(Finding(code=code, values=values))

    def read(self, by: core.By) -> None:
        """Work it all out, in the order in which it matters."""
        self._of_the_whole()
        here = self.present
        if self.hanging is None or here is None:
            return
        if here.problem is not None:
            self.add("contradiction", said=here.problem.message)
            return
        found = here.found
        worst = self._worst(here)
        self._holds(worst)
        if not found:
            self._open(here)
            return
        self.dip_hz = found[-1].frequency_hz
        self.lowest_swr = number(found[-1].swr) if found[-1].swr is not None else None
        self._instruments(here)
        sweep = here.sweeps[-1] if here.sweeps else None
        self._resonance(sweep)
        if self._far_off():
            return
        readings = self._readings()
        try:
            cut = core.next_cut(readings, self.wanted_hz, by)
        except OutOfDomainError as refused:
            self.add("contradiction", said=refused.message)
            return
        self.dip_hz, self.dip_spread = cut.dip_hz, cut.dip_spread
        if cut.apart:
            self.add("conditions_apart", readings=cut.apart)
        self._judge(cut, worst, readings)
        if self.stop is None or self.whole.plan.stop == "dip":
            self._poor(found[-1], sweep, here)
        self.next = NextOut.of(cut, self.whole.unit)
        if cut.act in ("unfold", "splice"):
            self._short(cut, sweep, worst)
        folded = self.hanging.folded_m[self.link]
        if folded > 0:
            off = core.without_folds(readings, self.wanted_hz)
            self.without = WithoutFolds(dip_hz=off.dip_hz, low_hz=off.low_hz, high_hz=off.high_hz)
            leg, all_folded = self.hanging.reach(self.link)
            if all_folded > core.LONG_FOLD * leg:
                self.add("long_fold", folded_m=all_folded, leg_m=leg)

    def _of_the_whole(self) -> None:
        """What concerns the build, not the readings."""
        if self.whole.changed:
            self.add("bands_changed")
        if self.whole.form == "five-eighths":
            self.add("not_resonant")
            self.hanging = None
        if self.hanging is not None and abs(self.hanging.uneven_m) > 2 * STEP_M[self.whole.unit]:
            self.add("uneven", by_m=abs(self.hanging.uneven_m))
        checked = [d.passed for d in self.whole.said if isinstance(d, CheckData)]
        if not (checked and checked[-1]) and (self.whole.plan.transformer or self._network()):
            self.add("check_first", failed="yes" if checked else "no")

    def _network(self) -> bool:
        """Whether the chosen design puts more than a line below the wire."""
        chosen = self.whole.build.chosen_design_id
        if chosen is None:
            return False
        content = read_content(design_queries.newest(self.whole.session, chosen).content)
        return any(not isinstance(e, Feedline) for e in content.elements)

    def _open(self, here: Stretch) -> None:
        """No dip yet: the side it lies on, and what to read next."""
        last = here.dips[-1] if here.dips else None
        if last is None:
            return
        if here.sweeps and not here.reads:
            self.add("beyond_sweep", side=last.side, frequency_hz=last.read_next_hz)
        elif last.side == "unknown":
            self.add("side_open", frequency_hz=last.read_next_hz)
        else:
            self.add("dip_" + last.side, low_hz=last.low_hz, high_hz=last.high_hz, frequency_hz=last.read_next_hz)

    def _readings(self) -> list[core.Reading]:
        """Every dip of this band with the leg it was read with, for the core."""
        out = []
        for stretch in self.stretches:
            leg, folded = stretch.hanging.reach(self.link)
            for dip in stretch.found:
                if dip.frequency_hz is None or dip.spread is None:
                    continue
                # What was told to be measured again teaches nothing of what a cut does.
                expected_hz = self._expected(stretch.hanging)
                if expected_hz is None or abs(dip.frequency_hz / expected_hz - 1) < core.FAR_OFF:
                    out.append(
                        core.Reading(dip.frequency_hz, leg, folded, max(dip.spread, 1e-4), stretch.conditions)
                    )
        return out

    def _instruments(self, here: Stretch) -> None:
        names = sorted({n for s in self.stretches for n in s.instruments if n})
        if len(names) > 1:
            self.add("other_instrument", names="; ".join(names))
        dips = [d.frequency_hz for d in here.found if d.frequency_hz is not None]
        if len(dips) > 1:
            apart = (max(dips) - min(dips)) / float(np.mean(dips))
            if apart > 4 * core.NEAR_ENOUGH:
                self.add("dips_apart", low_hz=min(dips), high_hz=max(dips), share=apart)

    def _resonance(self, sweep: Sweep | SwrReadings | None) -> None:
        if not isinstance(sweep, Sweep) or self.dip_hz is None:
            return
        near = [r for r in sweep.resonances() if abs(r.frequency_hz / self.dip_hz - 1) < RULE_REACH]
        if not near:
            return
        at = min(near, key=lambda r: abs(r.frequency_hz - (self.dip_hz or 0.0)))
        lowest = dip_in(sweep, self.dip_hz)
        self.resonance = ResonanceThere(
            frequency_hz=at.frequency_hz,
            resistance_ohm=at.resistance_ohm,
            swr=number(float(swr_of_impedance(complex(at.resistance_ohm)))),
            lowest_hz=lowest.frequency_hz or self.dip_hz,
            lowest_swr=None if lowest.swr is None else number(lowest.swr),
        )

    def _expected(self, hanging: Hanging) -> float | None:
        """Where the dip lies by the length alone; None for a wire that has no resonance by its length."""
        rule = EXPECTED.get(self.whole.form)
        if rule is None:
            return None
        leg, folded = hanging.reach(self.link)
        return data.lengths()[rule].metre_hz / ((leg - core.FOLD_MOVES * folded) * LEGS[self.whole.form])

    def _far_off(self) -> bool:
        """Whether the dip is so far from where the length says that it is to be measured again first."""
        assert self.hanging is not None
        expected_hz = self._expected(self.hanging)
        if expected_hz is None or self.dip_hz is None or abs(self.dip_hz / expected_hz - 1) < core.FAR_OFF:
            return False
        slips = core.slips(self.dip_hz, expected_hz)
        self.add(
            "measure_again",
            dip_hz=self.dip_hz,
            expected_hz=expected_hz,
            leg_m=self.hanging.reach(self.link)[0],
            slip=slips[0] if slips else None,
        )
        return True

    def _worst(self, here: Stretch) -> float | None:
        """Worst SWR over the band as it now hangs, where that is known; endless counts as very large."""
        target = self.target
        if here.sweeps:
            sweep = here.sweeps[-1]
            if not (sweep.low_hz <= target.low_hz and target.high_hz <= sweep.high_hz):
                self.add("target_outside", low_hz=sweep.low_hz, high_hz=sweep.high_hz)
                return None
            at = np.linspace(target.low_hz, target.high_hz, POINTS)
            if isinstance(sweep, Sweep):
                return float(swr_of_impedance(sweep.impedance_at(at)).max())
            return float(swr_of(sweep.magnitude_at(at).astype(complex)).max())
        points = [p for read in here.reads for p in points_of(read)]
        reach = 0.1 * (target.high_hz - target.low_hz)
        edges = [
            [p.swr for p in points if abs(p.frequency_hz - edge) <= reach]
            for edge in (target.low_hz, target.high_hz)
        ]
        return max(max(each) for each in edges) if all(edges) else None

    def _holds(self, worst: float | None) -> None:
        """Good enough by the user's own limit, as soon as the whole band is known to hold it."""
        if self.whole.plan.stop == "swr" and worst is not None and worst <= self.target.swr_limit:
            self.stop = Finding(code="band_holds", values={"worst_swr": number(worst), "off": None})

    def _judge(self, cut: core.NextCut, worst: float | None, readings: Sequence[core.Reading]) -> None:
        """Whether the dip lies where it is wanted, and why that is enough."""
        off = cut.dip_hz / self.wanted_hz - 1
        if self.whole.plan.stop == "swr" and worst is not None:
            if self.stop is not None:
                self.stop.values["off"] = off
            return
        if abs(off) <= core.NEAR_ENOUGH:
            code = "dip_there" if self.whole.plan.stop == "dip" else "dip_there_edges_open"
            self.stop = Finding(code=code, values={"off": off, "spread": cut.dip_spread, "readings": len(readings)})

    def _poor(self, dip: Dip, sweep: Sweep | SwrReadings | None, here: Stretch) -> None:
        """A minimum above the limit: what R says, and no more than it can tell."""
        if dip.swr is None or dip.swr <= self.target.swr_limit or dip.frequency_hz is None:
            return
        resistance = reactance = None
        if isinstance(sweep, Sweep):
            there = complex(sweep.impedance_at(dip.frequency_hz))
            resistance, reactance = there.real, there.imag
        elif here.dial is not None and here.dial.impedances:
            nearest = min(here.dial.impedances, key=lambda z: abs(z.frequency_hz - (dip.frequency_hz or 0.0)))
            if abs(nearest.frequency_hz / dip.frequency_hz - 1) < 0.01:
                resistance = nearest.resistance_ohm
        height = None
        if resistance is not None and self.whole.form == "dipole":
            height = core.height_of_dipole_m(resistance, dip.frequency_hz)
        side = "unknown" if resistance is None else "low" if resistance < 50 else "high"
        # Where R alone would read much less, it is X that spoils it.
        if reactance is not None and max(resistance or 1, 50) / min(resistance or 1, 50) < 1 + (dip.swr - 1) / 2:
            side = "reactive"
        self.add(
            "poor_minimum",
            swr=number(dip.swr),
            resistance_ohm=resistance,
            reactance_ohm=reactance,
            height_m=height,
            side=side,
        )

    def _short(self, cut: core.NextCut, sweep: Sweep | SwrReadings | None, worst: float | None) -> None:
        """Too short: every way on with its figures."""
        assert self.hanging is not None
        coil_h = None
        if isinstance(sweep, Sweep) and sweep.low_hz <= self.wanted_hz <= sweep.high_hz:
            x = float(sweep.impedance_at(self.wanted_hz).imag)
            coil_h = core.loading_h(x, self.wanted_hz) if x < 0 else None
        # All folds out may not be enough; what is spliced then is the rest.
        folded = self.hanging.folded_m[self.link]
        band = sweep.bandwidth(self.target.swr_limit) if sweep is not None else None
        whole = cut.exact_m if cut.act == "splice" else cut.exact_m * cut.moves
        enough = cut.act == "unfold" and cut.exact_m <= folded
        rest = 0.0 if enough else whole - (folded * cut.moves if cut.act == "unfold" else 0.0)
        unit = self.whole.unit
        self.too_high = TooHigh(
            unfold_m=on_tape(min(cut.exact_m, folded), unit) if folded > 0 else None,
            splice_m=on_tape(max(0.0, rest if rest > 0 else whole), unit),
            coil_h=coil_h,
            low_hz=None if band is None or band.low_open else band.low_hz,
            high_hz=None if band is None or band.high_open else band.high_hz,
            worst_swr=None if worst is None else number(worst),
        )

    def out(self, link: int, links: list[LinkOut]) -> TrimOut:
        """As it travels."""
        whole = self.whole
        acts = [d for d in whole.said[whole.start :] if isinstance(d, CutData) and d.link == link]
        here = self.present
        reach = RULE_REACH * self.wanted_hz
        return TrimOut(
            label=self.target.label,
            target_hz=self.wanted_hz,
            low_hz=self.target.low_hz,
            high_hz=self.target.high_hz,
            swr_limit=self.target.swr_limit,
            rule_low_hz=self.wanted_hz - reach,
            rule_high_hz=self.wanted_hz + reach,
            form=whole.form,
            legs=LEGS[whole.form],
            hung=whole.hung is not None,
            link=link,
            rounds=len(acts),
            links=links,
            trail=self._trail(),
            dip_hz=self.dip_hz,
            dip_spread=self.dip_spread,
            lowest_swr=self.lowest_swr,
            dial=None if here is None else here.dial,
            next=self.next,
            too_high=self.too_high,
            without_folds=self.without,
            resonance=self.resonance,
            stop=self.stop,
            findings=self.findings,
            setup=None if whole.setup is None else setup_out(whole.setup),
            entries=[entry_out(whole.session, row) for row in whole.rows],
        )

    def _trail(self) -> list[TrailPoint]:
        """One point a stretch, oldest first."""
        last = self.stretches[-1].conditions if self.stretches else ""
        out = []
        for stretch in self.stretches:
            leg, folded = stretch.hanging.reach(self.link)
            found = stretch.found
            out.append(
                TrailPoint(
                    leg_m=leg,
                    folded_m=folded,
                    dip_hz=found[-1].frequency_hz if found else None,
                    swr=number(found[-1].swr) if found and found[-1].swr is not None else None,
                    apart=stretch.conditions != last,
                    now=stretch is self.present,
                )
            )
        return out
