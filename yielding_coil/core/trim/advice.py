"""What the log of a wire says: where each band's dip went, the next act, whether to stop, and what to know."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.finding import Finding, StopCode, Values
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target
from yielding_coil.core.trim.evidence import Weighed
from yielding_coil.core.trim.findings import (
    TrimFinding,
    minimum_findings,
    odd_findings,
    reading_findings,
    side_findings,
    slip_findings,
    wire_findings,
    worst_over_band,
)
from yielding_coil.core.trim.log import Swept, TrimLog, TrimPhase
from yielding_coil.core.trim.meter_readings import REPEATED
from yielding_coil.core.trim.moves import DipReading
from yielding_coil.core.trim.next_cut import (
    FAR_OFF,
    LONG_FOLD,
    NEAR_ENOUGH,
    By,
    NextCut,
    PredictedDip,
    loading_h,
    next_cut,
    without_folds,
)
from yielding_coil.core.trim.swept_dip import dip_in
from yielding_coil.core.wire import FORMS, HungWire, on_tape

# The frequency rule reaches so far to either side of the target, and stays there.
RULE_REACH = 0.08
# A band so near to a dip can be reached by a few centimetres.
NEAR_BAND = 0.04
# Zero of X and lowest SWR nearer than this fall together.
TOGETHER_HZ = 5e3


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
    """Ways on from a wire that is too short; None where there is no such way, or it is not known.

    `band` is another one that the dip lies in, or near.
    """

    unfold_m: float | None
    splice_m: float
    coil_h: float | None
    low_hz: float | None
    high_hz: float | None
    worst_swr: float | None
    band: str | None = None


@dataclass(frozen=True, slots=True)
class ResonanceThere:
    """Where X is zero, against where SWR is lowest; and R there."""

    frequency_hz: float
    resistance_ohm: float
    swr: float
    lowest_hz: float
    lowest_swr: float | None
    lowest_ohm: float | None = None

    @property
    def together(self) -> bool:
        """Whether they lie too near one another to be told apart at an antenna."""
        return abs(self.frequency_hz - self.lowest_hz) < TOGETHER_HZ

    @property
    def nearer(self) -> bool:
        """Whether R is nearer to 50 Ω where SWR is lowest: that, not X, is why it is lowest there."""
        off = abs(self.resistance_ohm - 50)
        return self.lowest_ohm is not None and abs(self.lowest_ohm - 50) < off


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
    if here.on_ground:
        lying = here.found[-1].frequency_hz if here.found else None
        return _with(replace(blank, dip_hz=lying), Finding("on_the_ground"))
    worst, outside = worst_over_band(here, target)
    blank = _with(blank, *outside)
    if link in log.used_so:
        blank = replace(blank, stop=Finding("used_so", {"worst_swr": worst}))
    elif log.stop == "swr" and worst is not None and worst <= target.swr_limit:
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
    slip = slip_findings(log, link, hanging, dip.frequency_hz, again=here.again)
    seen = _with(seen, *slip)
    if slip and not here.again:
        return replace(seen, stop=seen.stop if link in log.used_so else None)
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
    band = _with(replace(band, dip_hz=cut.dip_hz, dip_spread=cut.dip_spread), *odd_findings(cut.odd))
    if cut.apart:
        band = _with(band, Finding("conditions_apart", {"readings": cut.apart}))
    band = _stopped(log, link, band, cut, worst, len(readings), again=here.again)
    sweep = here.sweeps[-1] if here.sweeps else None
    if band.stop is None or log.stop == "dip":
        band = _with(band, *minimum_findings(log.form, band.target.swr_limit, here.found[-1], sweep, here.weighed))
    folded = hanging.folded_m[link]
    # Where the dip is in place already there is nothing to be short of.
    short = cut.act in ("unfold", "splice") and abs(cut.dip_hz / band.wanted_hz - 1) > NEAR_ENOUGH
    band = replace(
        band,
        next=on_tape_amount(cut, log.unit),
        too_high=_too_high(cut, folded, band, log, sweep, worst) if short else None,
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
            near = expected is None or abs(dip.frequency_hz / expected - 1) < FAR_OFF
            if near or phase.again:
                spread = max(dip.spread, REPEATED)
                # What lay on the ground is never of the same company.
                company = f"{phase.conditions} {phase.on_ground}"
                out.append(DipReading(dip.frequency_hz, leg, folded, spread, company, log.moves_on(link)))
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
    lowest_hz = lowest.frequency_hz or dip_hz
    ohm = float(sweep.impedance_at(lowest_hz).real)
    return ResonanceThere(at.frequency_hz, at.resistance_ohm, swr, lowest_hz, lowest.swr, ohm)


def _stopped(
    log: TrimLog, link: int, band: BandAdvice, cut: NextCut, worst: float | None, readings: int, *, again: bool
) -> BandAdvice:
    """Good enough by the user's own limit, or the dip lies where it is wanted; and what keeps it from being so.

    Nobody is told to stop on a reading that no length explains, nor while the SWR at the dip is above the limit.
    """
    off = cut.dip_hz / band.wanted_hz - 1
    values: Values = {"off": off, "spread": cut.dip_spread, "readings": readings}
    if link in log.used_so and band.stop is not None:
        return replace(band, stop=Finding("used_so", {**band.stop.values, "off": off}))
    reached: Finding[StopCode] | None = None
    if log.stop == "swr" and worst is not None:
        if band.stop is not None:
            reached = Finding(band.stop.code, {**band.stop.values, "off": off})
    elif abs(off) <= NEAR_ENOUGH:
        reached = Finding("dip_there" if log.stop == "dip" else "dip_there_edges_open", values)
    limit = band.target.swr_limit
    if abs(off) <= NEAR_ENOUGH and band.lowest_swr is not None and band.lowest_swr > limit:
        band = _with(band, Finding("in_place_too_high", {"swr": band.lowest_swr, "limit": limit}))
        reached = None
    odd_now = any(move.now for move in cut.odd)
    dips_disagree = any(f.code == "dips_apart" for f in band.findings)
    if reached is not None and (odd_now or dips_disagree):
        reached = None
    elif reached is not None and cut.surprising and not again:
        band = _with(band, Finding("read_once_more", {"dip_hz": cut.dip_hz}))
        reached = None
    return replace(band, stop=reached)


def _too_high(
    cut: NextCut, folded_m: float, band: BandAdvice, log: TrimLog, sweep: Swept | None, worst: float | None
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
        unfold_m=on_tape(min(cut.exact_m, folded_m), log.unit) if folded_m > 0 else None,
        splice_m=on_tape(max(0.0, rest if rest > 0 else whole), log.unit),
        coil_h=coil,
        low_hz=None if held is None or held.low_open else held.low_hz,
        high_hz=None if held is None or held.high_open else held.high_hz,
        worst_swr=worst,
        band=_band_at(log, band),
    )


def _band_at(log: TrimLog, band: BandAdvice) -> str | None:
    """Another known band that the dip lies in, or near enough to be brought to."""
    dip = band.dip_hz
    if dip is None:
        return None
    others = [b for b in log.known_bands if not b.low_hz <= band.wanted_hz <= b.high_hz]
    near = [b for b in others if b.low_hz * (1 - NEAR_BAND) <= dip <= b.high_hz * (1 + NEAR_BAND)]
    return min(near, key=lambda b: abs(b.center_hz - dip)).label if near else None
