"""Where the watts go on every band, from the radio to the sky; what the mode allows; what would raise the least."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.design.alternatives import (
    Better,
    CableOnBands,
    TunerOnBands,
    better_ways,
    coaxes_of,
    on_cables,
    with_tuners,
)
from yielding_coil.core.design.design import CoaxCapacitor, Design, Feedline, FixedCapacitor, RadioTuner
from yielding_coil.core.design.line_match import MatchSection, MatchStub
from yielding_coil.core.design.prediction import Evaluation, evaluate, wire_split
from yielding_coil.core.line import CableRow, Line
from yielding_coil.core.modelled_antenna import ModelledAntenna, watts_astray
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.system import System
from yielding_coil.core.target import POINTS, Target
from yielding_coil.core.tolerance import ANTENNA, Spread, sample, sampled
from yielding_coil.core.tuner import TunerNetwork, TunerSetting
from yielding_coil.core.winding import (
    AirCoil,
    AnyWinding,
    BandLosses,
    CoilOnRing,
    LineChoke,
    WoundTransformer,
    band_losses,
)
from yielding_coil.core.wire import Hung

# Builds tried for what goes up, and between what nine of ten of them lie.
BUILDS, NINE_OF_TEN = 512, (0.05, 0.95)
# Q of a coil or capacitor, two standard deviations, relative (Medhurst's close-wound corner is as uncertain; from
# memory for all else).
Q_DOUBT = 0.2

LossKind = Literal[
    "tuner", "line", "section", "transformer", "coil", "capacitor", "stub", "wire", "loads", "ground"
]
AllowedBy = Literal["heat", "voltage"]
# What is wound, by its key: its losses and warmth on every band.
Heats = dict[str, tuple[BandLosses, ...]]
LOSS_KINDS: dict[type, LossKind] = {
    RadioTuner: "tuner",
    Feedline: "line",
    MatchSection: "section",
    MatchStub: "stub",
    WoundTransformer: "transformer",
    AirCoil: "coil",
    CoilOnRing: "coil",
    FixedCapacitor: "capacitor",
    CoaxCapacitor: "capacitor",
}


class Loss(NamedTuple):
    """What stays in one thing; of a line also what it would lose matched, which may be more than it does."""

    key: str
    kind: LossKind
    watts: float
    matched_w: float | None = None


class Ways(NamedTuple):
    """What is seen from a station both ways, and the watts that pass it."""

    key: str
    up_ohm: complex
    down_ohm: complex
    power_w: float


class Warmest(NamedTuple):
    """What warms most in a mode: rise over the air, and when it is two thirds of the way there."""

    key: str
    mode: str
    rise_c: float
    settles_s: float | None


@dataclass(frozen=True, slots=True)
class BandFlow:
    """One band in its middle: where the power that is put in goes, in the order from the radio to the sky.

    Args:
        losses: what stays where; with `up_w` they sum to the power put in.
        up_w: radiated by a modelled wire; of any other, what goes into it.
        up_low_w, up_high_w: between what nine of ten such builds lie.
        radiated: whether `up_w` is radiated, not only into the wire.
        swr_antenna, swr_box: at the feedpoint, and below the match.
        swr_line: on the feedline; None without one.
        swr_meter: at the radio's end of the line, above a tuner.
        swr_radio: what the radio sees.
        peak_voltage_v, voltage_at: the largest on the band, and the station where it occurs.
        peak_current_a, current_at: likewise.
        forward_w, reflected_w: on a meter at the radio's end of the line, above a tuner.
        setting: of the tuner at the radio; None without one.
        stations: from the antenna down, both ways; where nothing is lost one is the other's conjugate.
        warmest: None where nothing that is wound stands in the way.
    """

    label: str
    at_hz: float
    losses: tuple[Loss, ...]
    up_w: float
    up_low_w: float
    up_high_w: float
    radiated: bool
    swr_antenna: float
    swr_box: float
    swr_line: float | None
    swr_meter: float
    swr_radio: float
    peak_voltage_v: float
    voltage_at: str
    peak_current_a: float
    current_at: str
    forward_w: float
    reflected_w: float
    setting: TunerSetting | None
    stations: tuple[Ways, ...]
    warmest: Warmest | None


class Allowed(NamedTuple):
    """The most that may be sent in a mode, what decides it, and where; None where nothing known limits it."""

    mode: str
    power_w: float | None
    by: AllowedBy | None
    key: str | None
    label: str | None


@dataclass(frozen=True, slots=True)
class BandsPrediction:
    """A design band by band, and beside others.

    Args:
        lengths_m: at which cables are compared; empty without a line.
        tuner_assumed: the comparison of tuners is with a usual one, since the design has none.
        better: the changes that raise the least, the best first.
        choke: a choke stands beside the cascade; what it takes is not known here.
    """

    bands: tuple[BandFlow, ...]
    allowed: tuple[Allowed, ...]
    lengths_m: tuple[float, ...]
    cables: tuple[CableOnBands, ...]
    tuners: tuple[TunerOnBands, ...]
    tuner_assumed: bool
    better: tuple[Better, ...]
    choke: bool

    @property
    def least(self) -> BandFlow:
        """The band on which least goes up."""
        return min(self.bands, key=lambda b: b.up_w if math.isfinite(b.up_w) else -1.0)


def predict_bands(
    design: Design,
    power_w: float,
    duties: Mapping[str, float],
    cables: Iterable[CableRow] = (),
    mode: str = "speech",
) -> BandsPrediction:
    """Every band of a design in its middle, at full power; what limits it; other lines, and tuners at either end.

    Args:
        power_w: peak envelope at the radio, above zero.
        duties: share of it that heats, by mode.
        cables: to compare, of which those that are coax are looked at, and the design's own.
        mode: in which warmth is told.

    Raises:
        OutOfDomainError: a band lies outside what is known of the antenna, or a part cannot be made.
    """
    found = evaluate(design, power_w)
    shares = _radiated(design)
    heats: Heats = {
        e.key: band_losses(e, found.system, design.targets, power_w, duties, design.center_hz)
        for e in design.elements
        if isinstance(e, AnyWinding)
    }
    bands = tuple(_flow(found, k, target, shares, heats, mode) for k, target in enumerate(design.targets))
    low, high = _up_range(found, shares)
    bands = tuple(
        replace(band, up_low_w=min(a, band.up_w), up_high_w=max(b, band.up_w))
        for band, a, b in zip(bands, (low * power_w).tolist(), (high * power_w).tolist(), strict=True)
    )
    rows = coaxes_of(design, cables)
    compared, lengths = on_cables(found, shares[:, 0], rows)
    tuners = with_tuners(found, shares[:, 0])
    return BandsPrediction(
        bands,
        _allowed(found, heats, duties),
        lengths,
        compared,
        tuners,
        design.radio_tuner is None,
        better_ways(found, shares[:, 0], rows, tuners),
        any(isinstance(e, LineChoke) for e in design.beside),
    )


def _radiated(design: Design) -> Real:
    """Of what goes into the wire: radiated, lost in wire, loads, ground; one row a band."""
    rows = np.tile([1.0, 0.0, 0.0, 0.0], (len(design.targets), 1))
    for row, target in zip(rows, design.targets, strict=True):
        split = wire_split(design, target.center_hz)
        if split is not None:
            row[:] = split.radiated, split.wire, split.loads, split.ground
    return rows


def _flow(found: Evaluation, index: int, target: Target, shares: Real, heats: Heats, mode: str) -> BandFlow:
    design = found.design
    own = slice(index * POINTS, (index + 1) * POINTS)
    over = [s.at(own) for s in found.judged]
    at = POINTS // 2
    middle = [s.at(at) for s in over]
    hz = target.center_hz
    losses = []
    for k in range(len(design.elements) - 1, -1, -1):
        element, station = design.elements[k], middle[k + 1]
        part = found.system.elements[k].part
        matched = None
        if isinstance(part, Line):
            into = float(middle[k].power_w + station.loss_w)
            matched = into * (1 - 10 ** (-float(part.matched_loss_db(hz)) / 10))
        losses.append(Loss(element.key, LOSS_KINDS[type(element)], float(station.loss_w), matched))
    into_wire = float(middle[0].power_w)
    radiated = isinstance(design.antenna, ModelledAntenna)
    if radiated:
        names: tuple[LossKind, ...] = ("loads", "wire", "ground")
        losses += [
            Loss(name, name, into_wire * float(shares[index, k])) for name, k in zip(names, (2, 1, 3), strict=True)
        ]
    volts = [float(np.nanmax(s.peak_voltage_v, initial=0.0)) for s in over]
    amperes = [float(np.nanmax(s.peak_current_a, initial=0.0)) for s in over]
    lines = [s.line_swr for s, e in zip(middle[1:], found.system.elements, strict=True) if not e.at_box]
    tuner = design.radio_tuner
    network = found.system.elements[-1].part if tuner else None
    meter = middle[-2 if tuner else -1]
    back, passing = float(np.abs(reflection_of(meter.impedance_ohm))) ** 2, float(meter.power_w)
    return BandFlow(
        label=target.label,
        at_hz=hz,
        losses=tuple(losses),
        up_w=into_wire * float(shares[index, 0]),
        up_low_w=math.nan,
        up_high_w=math.nan,
        radiated=radiated,
        swr_antenna=float(middle[0].swr),
        swr_box=float(middle[found.box].swr),
        swr_line=next((float(v) for v in lines if v is not None), None),
        swr_meter=float(meter.swr),
        swr_radio=float(middle[-1].swr),
        peak_voltage_v=max(volts),
        voltage_at=over[int(np.argmax(volts))].key,
        peak_current_a=max(amperes),
        current_at=over[int(np.argmax(amperes))].key,
        forward_w=passing / (1 - back) if back < 1 else math.nan,
        reflected_w=passing * back / (1 - back) if back < 1 else math.nan,
        stations=tuple(
            Ways(s.key, complex(s.impedance_ohm), complex(d[0]), float(s.power_w))
            for s, d in zip(middle, found.system.looking_down(np.array([hz])), strict=True)
        ),
        setting=network.settings[index] if isinstance(network, TunerNetwork) else None,
        warmest=_warmest(heats, index, mode),
    )


def _warmest(heats: Heats, index: int, mode: str) -> Warmest | None:
    """Of what is wound, by its rise in a mode on one band."""
    found = [
        Warmest(key, mode, rise.rise_c, rise.settles_s)
        for key, bands in heats.items()
        for rise in bands[index].rises
        if rise.mode == mode
    ]
    return max(found, key=lambda w: w.rise_c, default=None)


def _up_range(found: Evaluation, shares: Real) -> tuple[Real, Real]:
    """Between which shares of the power put in nine of ten builds lie, one a band.

    A tuner is set anew for every build: what strays of it is the Q of its parts.
    """
    design, system = found.design, found.system
    f = np.array([t.center_hz for t in design.targets])
    lines = [s for e in design.elements if not e.by_hand for s in e.spreads(design.center_hz)]
    losses = [Spread(f"{e.key} Q", e.key, "q", Q_DOUBT) for e in system.elements if hasattr(e.part, "q")]
    spreads = [*design.part_spreads(), *lines, *losses, *design.antenna_spreads()]
    rng = design.rng()
    deviates = sample(spreads, rng, BUILDS)
    tuned = np.ones((1, f.size))
    if design.radio_tuner:
        above = System(system.antenna, system.elements[:-1])
        lost = 1 - system.efficiency(f) / above.efficiency(f)
        tuned = 1 - lost * np.exp(Q_DOUBT / 2 * rng.normal(size=(BUILDS, 1)))
        system = above
    up = np.broadcast_to(sampled(system, spreads, deviates).efficiency(f), (BUILDS, f.size)) * tuned
    if isinstance(design.antenna, ModelledAntenna):
        known = {s.field: d.real for s, d in zip(spreads, deviates, strict=True) if s.element == ANTENNA}
        up = up * _shares_astray(design.antenna.hung, f, shares[:, 0], known, rng)
    low, high = np.quantile(np.where(np.isfinite(up), up, 0.0), NINE_OF_TEN, axis=0)
    return np.asarray(low), np.asarray(high)


def _shares_astray(
    hung: Hung, frequency_hz: Real, share: Real, known: dict[str, Real], rng: np.random.Generator
) -> Real:
    """Radiated shares of builds, shape (builds, bands).

    Args:
        known: deviates by what strays; what moves watts alone is none of a yield's and gets its own here.
    """
    found = np.empty((BUILDS, frequency_hz.size))
    for k, hz in enumerate(frequency_hz):
        moved = share[k] + np.zeros((BUILDS, 1))
        for name, by in watts_astray(hung, float(hz)):
            moved = moved + known.setdefault(name, rng.normal(size=(BUILDS, 1))) * by[0]
        found[:, k] = np.clip(moved[:, 0], 0.0, 1.0)
    return found


def _allowed(found: Evaluation, heats: Heats, duties: Mapping[str, float]) -> tuple[Allowed, ...]:
    """By heat of what is wound, and by volts across what is known to stand so many."""
    design, power_w = found.design, found.power_w
    volts: list[tuple[float, str, str]] = []
    for k, element in enumerate(design.elements):
        stands = None
        if isinstance(element, FixedCapacitor | CoaxCapacitor):
            stands = element.stands_v
        if isinstance(element, RadioTuner):
            stands = element.tuner.stands_v
        if not stands:
            continue
        peaks = found.judged[k + 1].peak_voltage_v.reshape(-1, POINTS)
        for target, row in zip(design.targets, peaks, strict=True):
            peak = float(np.nanmax(row, initial=0.0))
            if peak > 0:
                volts.append((power_w * (stands / peak) ** 2, element.key, target.label))
    warm: dict[str, list[tuple[float, str, str]]] = {mode: [] for mode in duties}
    for key, bands in heats.items():
        for band in bands:
            for rise in band.rises:
                if rise.highest_power_w is not None:
                    warm[rise.mode].append((rise.highest_power_w, key, band.label))
    found_modes: list[Allowed] = []
    for mode in duties:
        reasons: list[tuple[float, AllowedBy, str, str]] = [
            *((w, "heat", key, label) for w, key, label in warm[mode]),
            *((w, "voltage", key, label) for w, key, label in volts),
        ]
        least = min(reasons, default=None)
        found_modes.append(Allowed(mode, *(least if least else (None, None, None, None))))
    return tuple(found_modes)
