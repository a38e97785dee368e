"""What the log of a wire says: where each band's dip went, the next act, whether to stop, and what to know."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal, TypeAlias

import numpy as np

from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.finding import Finding, StopCode, TrimCode, Values
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.reflection import swr_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.target import Target
from yielding_coil.core.trim.evidence import Evidence, Weighed, dips_of
from yielding_coil.core.trim.meter_readings import ContradictionError, Dip, dip_in
from yielding_coil.core.trim.next_cut import (
    FAR_OFF,
    FOLD_MOVES,
    LONG_FOLD,
    NEAR_ENOUGH,
    By,
    DipReading,
    NextCut,
    PredictedDip,
    height_of_dipole_m,
    loading_h,
    next_cut,
    slips,
    without_folds,
)
from yielding_coil.core.wire import FORMS, STEP_M, Arrangement, HungWire, WireForm, on_tape

Swept: TypeAlias = Sweep | SwrSweep
TrimFinding: TypeAlias = Finding[TrimCode]

# The frequency rule reaches so far to either side of the target, and stays there.
RULE_REACH = 0.08
# Zero of X and lowest SWR nearer than this fall together.
TOGETHER_HZ = 5e3
# Frequencies on a band at which its worst SWR is looked for.
POINTS = 41
# SWR read within this share of a band of its edge is that of the edge.
AT_EDGE = 0.1
# |Z| or R read within this of the dip is that of the dip.
AT_DIP = 0.01
# Legs further apart than so many marks of the tape are uneven.
UNEVEN_MARKS = 2
# Dips of one wire as it hangs further apart than this many times what is near enough.
DIPS_APART = 4.0


@dataclass(frozen=True, slots=True)
class LogReading:
    """Something that was read on a band.

    Args:
        link: the band, counted from the highest.
        hanging: how the wire hung.
        conditions: anything that names how it was taken; readings with other words are kept apart.
        instrument: that it was read with; it does not move a dip.
        evidence: by meter; or
        sweep: a kept one. Neither where the sweep was thrown away.
    """

    link: int
    hanging: HungWire
    conditions: str = ""
    instrument: str = ""
    evidence: Evidence | None = None
    sweep: Swept | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TrimLog:
    """The log of a wire since it went up, and how it is to be trimmed.

    Args:
        targets: the bands, highest first.
        hanging: how it hangs now; None before it went up.
        readings: oldest first.
        form, arrangement: what it is.
        aim: where in a band its dip is wanted.
        stop: when to stop: the band holds its SWR, or the dip lies where it is wanted.
        unit: of the tape.
        transformer: whether one is told to stand in the line; network whether the chosen design puts one there.
        checks: whether what stands in the line passed on its resistor, oldest first.
        bands_changed: the bands of the build are not those that it was hung for.
        practice_metre_hz: of the practised rule, the whole wire's length times its frequency; None without one.
    """

    targets: tuple[Target, ...]
    hanging: HungWire | None
    readings: tuple[LogReading, ...] = ()
    form: WireForm = "dipole"
    arrangement: Arrangement = "linked"
    aim: Literal["middle", "low"] = "middle"
    stop: Literal["swr", "dip"] = "swr"
    unit: LengthUnit = "m"
    transformer: bool = False
    network: bool = False
    checks: tuple[bool, ...] = ()
    bands_changed: bool = False
    practice_metre_hz: float | None = None

    def wanted_hz(self, link: int) -> float:
        """Where in a band its dip is wanted."""
        target = self.targets[link]
        return target.center_hz if self.aim == "middle" else target.low_hz

    def expected_hz(self, link: int, hanging: HungWire) -> float | None:
        """Where a dip lies by the length alone; None for a wire that has no resonance by its length."""
        if self.practice_metre_hz is None or not FORMS[self.form].resonant:
            return None
        leg, folded = hanging.leg(link)
        return self.practice_metre_hz / ((leg - FOLD_MOVES * folded) * FORMS[self.form].legs)

    def phases(self, link: int) -> list["TrimPhase"]:
        """The log of a band, cut where something was done to it or conditions changed."""
        out: list[TrimPhase] = []
        for reading in self.readings:
            if reading.link != link:
                continue
            reach = reading.hanging.leg(link)
            last = out[-1] if out else None
            if last is None or last.hanging.leg(link) != reach or last.conditions != reading.conditions:
                out.append(TrimPhase(reading.hanging, reading.conditions))
            out[-1].take(reading)
        for phase in out:
            phase.look(self.wanted_hz(link))
        return out


@dataclass(slots=True)
class TrimPhase:
    """The log between two acts, under one set of conditions."""

    hanging: HungWire
    conditions: str
    reads: list[Evidence] = field(default_factory=list)
    sweeps: list[Swept] = field(default_factory=list)
    instruments: list[str] = field(default_factory=list)
    # The last dip found directly, in a sweep or by hand, and the one that points add up to.
    dips: list[Dip] = field(default_factory=list)
    problem: ContradictionError | None = None
    weighed: Weighed | None = None

    def take(self, reading: LogReading) -> None:
        """One reading more."""
        self.instruments.append(reading.instrument)
        if reading.sweep is not None:
            self.sweeps.append(reading.sweep)
        elif reading.evidence is not None:
            self.reads.append(reading.evidence)

    def look(self, near_hz: float) -> None:
        """What its readings say."""
        try:
            self.dips = [dip_in(sweep, near_hz) for sweep in self.sweeps]
            if self.reads:
                self.weighed, found = dips_of(self.reads)
                self.dips += found
        except ContradictionError as problem:
            self.problem = problem

    @property
    def found(self) -> list[Dip]:
        """The dips that were found."""
        return [dip for dip in self.dips if dip.side == "found"]


@dataclass(frozen=True, slots=True)
class TrailPoint:
    """The wire between two acts: its leg, and where its dip was read; apart where conditions differ from now."""

    leg_m: float
    folded_m: float
    dip_hz: float | None
    swr: float | None
    apart: bool
    now: bool


@dataclass(frozen=True, slots=True)
class TooHigh:
    """Ways on from a wire that is too short; None where there is no such way, or it is not known."""

    unfold_m: float | None
    splice_m: float
    coil_h: float | None
    low_hz: float | None
    high_hz: float | None
    worst_swr: float | None


@dataclass(frozen=True, slots=True)
class ResonanceThere:
    """Where X is zero, against where SWR is lowest."""

    frequency_hz: float
    resistance_ohm: float
    swr: float
    lowest_hz: float
    lowest_swr: float | None

    @property
    def together(self) -> bool:
        """Whether they lie too near one another to be told apart at an antenna."""
        return abs(self.frequency_hz - self.lowest_hz) < TOGETHER_HZ


@dataclass(frozen=True, slots=True)
class LinkState:
    """One band of the wire as it now hangs."""

    label: str
    target_hz: float
    leg_m: float
    folded_m: float
    dip_hz: float | None
    settled: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BandAdvice:
    """One band: where its dip went, and what to do next. None is what is not known, or not so."""

    target: Target
    wanted_hz: float
    rule_low_hz: float
    rule_high_hz: float
    trail: tuple[TrailPoint, ...] = ()
    dip_hz: float | None = None
    dip_spread: float | None = None
    lowest_swr: float | None = None
    evidence: Weighed | None = None
    next: NextCut | None = None
    too_high: TooHigh | None = None
    without_folds: PredictedDip | None = None
    resonance: ResonanceThere | None = None
    stop: Finding[StopCode] | None = None
    findings: tuple[TrimFinding, ...] = ()


@dataclass(frozen=True, slots=True)
class TrimAdvice:
    """A wire: which band is looked at, what is known of it, and how all of them stand."""

    link: int
    band: BandAdvice
    links: tuple[LinkState, ...]


def advise(log: TrimLog, link: int | None = None, by: By = "fold") -> TrimAdvice:
    """How a band of a wire stands, and the next act.

    Args:
        link: the band, counted from the highest; the first that is not settled when None.
        by: fold back, or cut off.

    Raises:
        NotFoundError: the wire has no such band.
    """
    if link is not None and link >= len(log.targets):
        raise NotFoundError(f"this build has no band {link}", field="link")
    bands = [band_advice(log, k, by) for k in range(len(log.targets))]
    open_ = [k for k, band in enumerate(bands) if band.stop is None]
    at = link if link is not None else open_[0] if open_ else len(bands) - 1
    band, now = bands[at], log.hanging
    earlier = [k for k in open_ if k < at]
    if now is not None and log.arrangement == "linked" and earlier:
        labels: Values = {"label": log.targets[earlier[0]].label, "this": band.target.label}
        band = replace(band, findings=(Finding("higher_band_first", labels), *band.findings))
    links = []
    for k, each in enumerate(bands):
        leg = now.leg(k)[0] if now is not None else 0.0
        folded = now.folded_m[k] if now is not None else 0.0
        settled = each.stop is not None
        links.append(LinkState(each.target.label, each.wanted_hz, leg, folded, each.dip_hz, settled))
    return TrimAdvice(at, band, tuple(links))


def on_tape_amount(cut: NextCut, unit: LengthUnit) -> NextCut:
    """The same act to the nearest mark of the tape; to the one below where that would be more than may be taken."""
    amount = on_tape(cut.per_leg_m, unit)
    if amount > cut.most_m:
        # What is folded is given back whole, wherever its marks are.
        amount = cut.most_m if cut.act == "unfold" else on_tape(cut.per_leg_m, unit, "down")
    return replace(cut, per_leg_m=amount, act=cut.act if amount > 0 else "none")


def band_advice(log: TrimLog, link: int, by: By = "fold") -> BandAdvice:
    """What is known of one band, in the order in which it matters."""
    target, wanted = log.targets[link], log.wanted_hz(link)
    phases = log.phases(link) if log.hanging is not None else []
    # A wire that is not brought to resonance is not advised, however it hangs.
    hanging = log.hanging if FORMS[log.form].resonant else None
    here = _present(phases, hanging, link)
    blank = BandAdvice(
        target=target,
        wanted_hz=wanted,
        rule_low_hz=wanted * (1 - RULE_REACH),
        rule_high_hz=wanted * (1 + RULE_REACH),
        trail=tuple(_trail(phases, link, here)),
        evidence=None if here is None else here.weighed,
        findings=tuple(wire_findings(log)),
    )
    if hanging is None or here is None:
        return blank
    if here.problem is not None:
        return _with(blank, Finding("contradiction", {"said": here.problem.message}))
    worst, outside = worst_over_band(here, target)
    blank = _with(blank, *outside)
    if log.stop == "swr" and worst is not None and worst <= target.swr_limit:
        blank = replace(blank, stop=Finding("band_holds", {"worst_swr": worst, "off": None}))
    if not here.found:
        return _with(blank, *side_findings(here))
    dip = here.found[-1]
    assert dip.frequency_hz is not None
    seen = replace(
        _with(blank, *reading_findings(phases, here)),
        dip_hz=dip.frequency_hz,
        lowest_swr=dip.swr,
        resonance=_resonance(here.sweeps[-1] if here.sweeps else None, dip.frequency_hz),
    )
    slip = slip_findings(log, link, hanging, dip.frequency_hz)
    if slip:
        return _with(seen, *slip)
    return _next(log, link, by, seen, phases, here, hanging, worst)


def _with(band: BandAdvice, *more: TrimFinding) -> BandAdvice:
    return replace(band, findings=(*band.findings, *more))


def _next(
    log: TrimLog,
    link: int,
    by: By,
    band: BandAdvice,
    phases: Sequence[TrimPhase],
    here: TrimPhase,
    hanging: HungWire,
    worst: float | None,
) -> BandAdvice:
    """The act that brings the dip where it is wanted, and what stands in its way."""
    readings = readings_of(log, link, phases)
    try:
        cut = next_cut(readings, band.wanted_hz, by)
    except OutOfDomainError as refused:
        return _with(band, Finding("contradiction", {"said": refused.message}))
    band = replace(band, dip_hz=cut.dip_hz, dip_spread=cut.dip_spread)
    if cut.apart:
        band = _with(band, Finding("conditions_apart", {"readings": cut.apart}))
    band = replace(band, stop=_stop(log, band, cut, worst, len(readings)))
    sweep = here.sweeps[-1] if here.sweeps else None
    if band.stop is None or log.stop == "dip":
        band = _with(band, *minimum_findings(log.form, band.target.swr_limit, here.found[-1], sweep, here.weighed))
    folded = hanging.folded_m[link]
    short = cut.act in ("unfold", "splice")
    band = replace(
        band,
        next=on_tape_amount(cut, log.unit),
        too_high=_too_high(cut, folded, band, log.unit, sweep, worst) if short else None,
    )
    if folded <= 0:
        return band
    leg, all_folded = hanging.leg(link)
    if all_folded > LONG_FOLD * leg:
        band = _with(band, Finding("long_fold", {"folded_m": all_folded, "leg_m": leg}))
    return replace(band, without_folds=without_folds(readings, band.wanted_hz))


def _present(phases: Sequence[TrimPhase], hanging: HungWire | None, link: int) -> TrimPhase | None:
    """What was read since the last act that moved this band."""
    if not phases or hanging is None:
        return None
    return phases[-1] if phases[-1].hanging.leg(link) == hanging.leg(link) else None


def _trail(phases: Sequence[TrimPhase], link: int, present: TrimPhase | None) -> Iterator[TrailPoint]:
    """One point a phase, oldest first."""
    for phase in phases:
        leg, folded = phase.hanging.leg(link)
        dip = phase.found[-1] if phase.found else None
        yield TrailPoint(
            leg,
            folded,
            None if dip is None else dip.frequency_hz,
            None if dip is None else dip.swr,
            phase.conditions != phases[-1].conditions,
            phase is present,
        )


def wire_findings(log: TrimLog) -> list[TrimFinding]:
    """What concerns the wire as a whole, not the readings of a band."""
    found: list[TrimFinding] = []
    if log.bands_changed:
        found.append(Finding("bands_changed"))
    resonant = FORMS[log.form].resonant
    if not resonant:
        found.append(Finding("not_resonant"))
    if resonant and log.hanging is not None and abs(log.hanging.uneven_m) > UNEVEN_MARKS * STEP_M[log.unit]:
        found.append(Finding("uneven", {"by_m": abs(log.hanging.uneven_m)}))
    if not (log.checks and log.checks[-1]) and (log.transformer or log.network):
        found.append(Finding("check_first", {"failed": "yes" if log.checks else "no"}))
    return found


def worst_over_band(here: TrimPhase, target: Target) -> tuple[float | None, list[TrimFinding]]:
    """Worst SWR over the band as it now hangs, where that is known; and that a sweep leaves the band out."""
    if here.sweeps:
        sweep = here.sweeps[-1]
        if not (sweep.low_hz <= target.low_hz and target.high_hz <= sweep.high_hz):
            return None, [Finding("target_outside", {"low_hz": sweep.low_hz, "high_hz": sweep.high_hz})]
        at = np.linspace(target.low_hz, target.high_hz, POINTS)
        if isinstance(sweep, Sweep):
            return float(swr_of_impedance(sweep.impedance_at(at)).max()), []
        return float(swr_of(sweep.magnitude_at(at).astype(complex)).max()), []
    points = [p for read in here.reads for p in read.points]
    reach = AT_EDGE * (target.high_hz - target.low_hz)
    edges = [
        [p.swr for p in points if abs(p.frequency_hz - edge) <= reach] for edge in (target.low_hz, target.high_hz)
    ]
    return (max(max(each) for each in edges) if all(edges) else None), []


def side_findings(here: TrimPhase) -> list[TrimFinding]:
    """No dip yet: the side it lies on, and what to read next."""
    last = here.dips[-1] if here.dips else None
    if last is None:
        return []
    if here.sweeps and not here.reads:
        return [Finding("beyond_sweep", {"side": last.side, "frequency_hz": last.read_next_hz})]
    values: Values = {"low_hz": last.low_hz, "high_hz": last.high_hz, "frequency_hz": last.read_next_hz}
    if last.side == "above":
        return [Finding("dip_above", values)]
    if last.side == "below":
        return [Finding("dip_below", values)]
    return [Finding("side_open", {"frequency_hz": last.read_next_hz})]


def reading_findings(phases: Sequence[TrimPhase], here: TrimPhase) -> list[TrimFinding]:
    """Readings by several instruments, and dips of the same wire that lie apart."""
    found: list[TrimFinding] = []
    names = sorted({n for phase in phases for n in phase.instruments if n})
    if len(names) > 1:
        found.append(Finding("other_instrument", {"names": "; ".join(names)}))
    dips = [d.frequency_hz for d in here.found if d.frequency_hz is not None]
    if len(dips) > 1:
        apart = (max(dips) - min(dips)) / float(np.mean(dips))
        if apart > DIPS_APART * NEAR_ENOUGH:
            found.append(Finding("dips_apart", {"low_hz": min(dips), "high_hz": max(dips), "share": apart}))
    return found


def slip_findings(log: TrimLog, link: int, hanging: HungWire, dip_hz: float) -> list[TrimFinding]:
    """A dip so far from where the length says that it is to be measured again first."""
    expected = log.expected_hz(link, hanging)
    if expected is None or abs(dip_hz / expected - 1) < FAR_OFF:
        return []
    usual = slips(dip_hz, expected)
    values: Values = {
        "dip_hz": dip_hz,
        "expected_hz": expected,
        "leg_m": hanging.leg(link)[0],
        "slip": usual[0] if usual else None,
    }
    return [Finding("measure_again", values)]


def readings_of(log: TrimLog, link: int, phases: Sequence[TrimPhase]) -> list[DipReading]:
    """Every dip of this band with the leg it was read with.

    What was told to be measured again teaches nothing of what a cut does.
    """
    out = []
    for phase in phases:
        leg, folded = phase.hanging.leg(link)
        expected = log.expected_hz(link, phase.hanging)
        for dip in phase.found:
            if dip.frequency_hz is None or dip.spread is None:
                continue
            if expected is None or abs(dip.frequency_hz / expected - 1) < FAR_OFF:
                out.append(DipReading(dip.frequency_hz, leg, folded, max(dip.spread, 1e-4), phase.conditions))
    return out


def _resonance(sweep: Swept | None, dip_hz: float) -> ResonanceThere | None:
    if not isinstance(sweep, Sweep):
        return None
    near = [r for r in sweep.resonances() if abs(r.frequency_hz / dip_hz - 1) < RULE_REACH]
    if not near:
        return None
    at = min(near, key=lambda r: abs(r.frequency_hz - dip_hz))
    lowest = dip_in(sweep, dip_hz)
    swr = float(swr_of_impedance(complex(at.resistance_ohm)))
    return ResonanceThere(at.frequency_hz, at.resistance_ohm, swr, lowest.frequency_hz or dip_hz, lowest.swr)


def _stop(
    log: TrimLog, band: BandAdvice, cut: NextCut, worst: float | None, readings: int
) -> Finding[StopCode] | None:
    """Good enough by the user's own limit; or the dip lies where it is wanted, and why that is enough."""
    off = cut.dip_hz / band.wanted_hz - 1
    if log.stop == "swr" and worst is not None:
        return None if band.stop is None else Finding(band.stop.code, {**band.stop.values, "off": off})
    if abs(off) > NEAR_ENOUGH:
        return None
    values: Values = {"off": off, "spread": cut.dip_spread, "readings": readings}
    return Finding("dip_there" if log.stop == "dip" else "dip_there_edges_open", values)


def minimum_findings(
    form: WireForm, swr_limit: float, dip: Dip, sweep: Swept | None, weighed: Weighed | None
) -> list[TrimFinding]:
    """A minimum above the limit: what R says, and no more than it can tell."""
    if dip.swr is None or dip.swr <= swr_limit or dip.frequency_hz is None:
        return []
    resistance, reactance = _ohm_at(dip.frequency_hz, sweep, weighed)
    height = None
    if resistance is not None and form == "dipole":
        height = height_of_dipole_m(resistance, dip.frequency_hz)
    side = "unknown" if resistance is None else "low" if resistance < 50 else "high"
    # Where R alone would read much less, it is X that spoils it.
    if reactance is not None and max(resistance or 1, 50) / min(resistance or 1, 50) < 1 + (dip.swr - 1) / 2:
        side = "reactive"
    values: Values = {
        "swr": dip.swr,
        "resistance_ohm": resistance,
        "reactance_ohm": reactance,
        "height_m": height,
        "side": side,
    }
    return [Finding("poor_minimum", values)]


def _ohm_at(frequency_hz: float, sweep: Swept | None, weighed: Weighed | None) -> tuple[float | None, float | None]:
    """R and X at a dip, as far as they were read there."""
    if isinstance(sweep, Sweep):
        there = complex(sweep.impedance_at(frequency_hz))
        return there.real, there.imag
    if weighed is None or not weighed.impedances:
        return None, None
    nearest = min(weighed.impedances, key=lambda z: abs(z.frequency_hz - frequency_hz))
    near = abs(nearest.frequency_hz / frequency_hz - 1) < AT_DIP
    return nearest.resistance_ohm if near else None, None


def _too_high(
    cut: NextCut, folded_m: float, band: BandAdvice, unit: LengthUnit, sweep: Swept | None, worst: float | None
) -> TooHigh:
    """Too short: every way on with its figures."""
    coil = None
    if isinstance(sweep, Sweep) and sweep.low_hz <= band.wanted_hz <= sweep.high_hz:
        x = float(sweep.impedance_at(band.wanted_hz).imag)
        coil = loading_h(x, band.wanted_hz) if x < 0 else None
    # All folds out may not be enough; what is spliced then is the rest.
    whole = cut.exact_m if cut.act == "splice" else cut.exact_m * cut.moves
    enough = cut.act == "unfold" and cut.exact_m <= folded_m
    rest = 0.0 if enough else whole - (folded_m * cut.moves if cut.act == "unfold" else 0.0)
    held = sweep.bandwidth(band.target.swr_limit) if sweep is not None else None
    return TooHigh(
        unfold_m=on_tape(min(cut.exact_m, folded_m), unit) if folded_m > 0 else None,
        splice_m=on_tape(max(0.0, rest if rest > 0 else whole), unit),
        coil_h=coil,
        low_hz=None if held is None or held.low_open else held.low_hz,
        high_hz=None if held is None or held.high_open else held.high_hz,
        worst_swr=worst,
    )
