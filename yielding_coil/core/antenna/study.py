"""An antenna looked at: in a moment while it is dragged, and in full when it is let go."""

import contextlib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yielding_coil.core.antenna.bearing import Bearing, bearing_of
from yielding_coil.core.antenna.elevation import ElevationCut, elevation_cuts
from yielding_coil.core.antenna.lengths import ModelLength, lengths_of
from yielding_coil.core.antenna.picture import Picture, picture_of
from yielding_coil.core.antenna.sag import Sag, sag_of
from yielding_coil.core.antenna.tuning import hung_dip, moves_by_length, tuned, tuned_together
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.modelled_antenna import ModelledAntenna, Range, dip_near, modelled
from yielding_coil.core.parts import Inductor
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.reflection import reflection_of, swr_of_impedance
from yielding_coil.core.target import Target
from yielding_coil.core.wire import (
    AVERAGE_GROUND,
    KINDS,
    AntennaKind,
    Arrangement,
    Ground,
    Hung,
    OnRadials,
    Piece,
    Rule,
    Stock,
    Structure,
    WirePiece,
    on_tape,
    segments,
    wave_m,
)

# The picture of SWR goes so far beyond the band to either side, and is drawn at so many frequencies.
BESIDE = 0.05
POINTS = 121
# Segments a wave while an end is dragged; of more wires than three fewer.
COARSE, COARSER, MANY_WIRES, COARSE_POINTS = 16.0, 8.0, 3, 41
# On other bands the worst SWR is looked for at so many frequencies.
OTHER_POINTS = 9
# What a piece is tied and stretched to, a third of it: a number no further off than this may stay.
WORTH_CHANGING = 0.002


def drawn_range(target: Target) -> tuple[float, float]:
    """The frequencies that are drawn round a band, in Hz."""
    return target.low_hz * (1 - BESIDE), target.high_hz * (1 + BESIDE)


def begun(
    key: str,
    target: Target,
    stock: Stock | None = None,
    soil: Ground = AVERAGE_GROUND,
    hung_at: Mapping[str, float] | None = None,
    others: Sequence[Target] = (),
) -> Hung:
    """One of a kind to begin with, brought to the middle of a band where it can be.

    Args:
        stock: its wire; bare copper of 2 mm when left out.
        hung_at: heights by name, taken where it has them and can hang so.
        others: bands wanted beside; a kind that serves two takes the nearest.
    """
    kind = KINDS[key]
    pair = pair_of(kind, target, others)
    usual = kind.start(target.center_hz) if pair is None or kind.start_for is None else kind.start_for(*pair)
    start = kind.made(usual.numbers, stock or usual.stock, soil)
    with contextlib.suppress(OutOfDomainError):
        there = start.told(**{name: at for name, at in (hung_at or {}).items() if name in start.heights})
        there.structure()
        start = there
    if not kind.resonant:
        return start
    with contextlib.suppress(OutOfDomainError):
        return tuned_together(start, pair or (target.center_hz,), kind.feed_ohm)
    return start


def pair_of(kind: AntennaKind, target: Target, others: Sequence[Target]) -> tuple[float, float] | None:
    """The two bands that such a kind serves at once, the upper one first, in Hz; None of one that serves one.

    The nearest of the other bands stands beside the one that is asked for.
    """
    own = target.center_hz
    beside = [t.center_hz for t in others if t.center_hz != own]
    if kind.bands < 2 or not beside:
        return None
    other = min(beside, key=lambda f: abs(math.log(f / own)))
    return max(own, other), min(own, other)


@dataclass(frozen=True, slots=True)
class Sketch:
    """What is drawn while an end is dragged: roughly solved, without ranges.

    Args:
        frequency_hz: shape (n,); impedance_ohm: there; swr: on the feed that its kind asks for.
        dip_hz: where the SWR is lowest within them; None where it is lowest at an edge.
    """

    picture: Picture
    frequency_hz: Real
    impedance_ohm: Complex
    swr: Real
    dip_hz: float | None


def sketch(kind: AntennaKind, hung: Hung, target: Target, power_w: float) -> Sketch:
    """Roughly, in some tens of milliseconds.

    Raises:
        OutOfDomainError: it cannot hang so.
    """
    low, high = drawn_range(target)
    whole = hung.structure()
    rough = replace(whole, segments_per_wave=COARSER if len(whole.wires) > MANY_WIRES else COARSE)
    f = np.linspace(low, high, COARSE_POINTS)
    z = rough.impedance_at(f)
    return Sketch(
        picture_of(hung, target.center_hz, power_w, rough),
        f,
        z,
        swr_of_impedance(z, kind.feed_ohm),
        _dip(f, z, target.center_hz, kind.feed_ohm),
    )


def _dip(f: Real, z: Complex, near_hz: float, feed_ohm: float) -> float | None:
    found = dip_near(f, np.abs(reflection_of(z, feed_ohm)), near_hz)
    return found if math.isfinite(found) else None


@dataclass(frozen=True, slots=True)
class WattsOf:
    """Where the power goes in the middle of the band, and between what nine of ten such antennas lie."""

    watts: float
    low_w: float
    high_w: float


@dataclass(frozen=True, slots=True)
class BandSeen:
    """What the same antenna does on another band: its worst SWR on the feed, the dip near by, watts radiated."""

    label: str
    worst_swr: float
    dip_hz: float | None
    radiated_w: float


@dataclass(frozen=True, slots=True)
class Study:
    """An antenna in full.

    Args:
        sketch: the same, finely solved.
        resistance, reactance, swr: between what nine of ten such antennas lie, at the sketch's frequencies.
        dip_low_hz, dip_high_hz: of where they dip; None where it is not told.
        worst_swr: over the band.
        radiated, wire, loads, ground: where the power goes.
        sag_moves_hz: what the dip moves by, since the wire hangs lower than its ends.
        difference_ohm: from what half as many segments give, in the middle of the band.
        estimated: something lies so low over the ground that its impedance is an estimate.
        tuned: its numbers as it dips in the middle of the band; None where they cannot be brought there.
        asked_for: what it is tuned by would have to be for that, where it is off by more than a tape errs.
        moves: what wire off its ends moves the dip, over what the ratio of lengths says.
        coil_reading_h: what an analyser reads of its coil in the middle of the band; None without one.
        bearing: what each of its coils or traps bears in the middle of the band, radials' loss left out.
    """

    sketch: Sketch
    resistance: Range
    reactance: Range
    swr: Range
    dip_low_hz: float | None
    dip_high_hz: float | None
    worst_swr: float
    radiated: WattsOf
    wire: WattsOf
    loads: WattsOf
    ground: WattsOf
    cuts: tuple[ElevationCut, ...]
    lengths: ModelLength
    sag: Sag | None
    sag_moves_hz: float | None
    others: tuple[BandSeen, ...]
    difference_ohm: float
    estimated: bool
    tuned: dict[str, float] | None
    asked_for: float | None
    moves: float
    coil_reading_h: float | None
    bearing: tuple[Bearing, ...]


def study(
    kind: AntennaKind,
    hung: Hung,
    target: Target,
    power_w: float,
    rules: Sequence[Rule],
    *,
    pull_n: float | None = None,
    others: Sequence[Target] = (),
) -> Study:
    """In full, in a second or a few.

    Args:
        rules: the table of schools.
        pull_n: at the ends of a wire between two supports; as usual when left out.
        others: bands that the same antenna is used on.

    Raises:
        OutOfDomainError: it cannot hang so.
    """
    low, high = drawn_range(target)
    wanted, feed = target.center_hz, kind.feed_ohm
    structure = hung.structure()
    f = np.linspace(low, high, POINTS)
    model = modelled(hung, low, high)
    z = model.impedance_at(f)
    drawn = Sketch(picture_of(hung, wanted, power_w), f, z, swr_of_impedance(z, feed), _dip(f, z, wanted, feed))
    dips = _dips(model, drawn.dip_hz, feed)
    brought = _brought(kind, hung, wanted)
    sag = sag_of(hung) if pull_n is None else sag_of(hung, pull_n)
    share = power_w / 100
    range_w = model.watts_range()
    watts = [
        WattsOf(float(w) * share, float(least) * share, float(most) * share)
        for w, least, most in zip(model.watts, range_w.low, range_w.high, strict=True)
    ]
    held = np.linspace(target.low_hz, target.high_hz, OTHER_POINTS)
    return Study(
        sketch=drawn,
        resistance=model.impedance_range(f)[0],
        reactance=model.impedance_range(f)[1],
        swr=model.swr_range(f, feed),
        dip_low_hz=None if dips is None else dips[0],
        dip_high_hz=None if dips is None else dips[1],
        worst_swr=float(swr_of_impedance(model.impedance_at(held), feed).max()),
        radiated=watts[0],
        wire=watts[1],
        loads=watts[2],
        ground=watts[3],
        cuts=elevation_cuts(hung, wanted),
        lengths=lengths_of(kind, brought, hung, _off(dips, drawn.dip_hz), wanted, rules),
        sag=sag,
        sag_moves_hz=None if sag is None or drawn.dip_hz is None else _lowered(hung, sag, drawn.dip_hz, feed),
        others=tuple(_seen(structure, hung, each, feed, power_w) for each in others),
        difference_ohm=float(np.abs(structure.difference_ohm(wanted))),
        estimated=bool(structure.is_estimated(wanted)),
        tuned=None if brought is None else brought.numbers,
        asked_for=_asked_for(hung, brought, hung.tuned_on(wanted)),
        moves=moves_by_length(hung, drawn.dip_hz or wanted, feed) if kind.resonant else 1.0,
        coil_reading_h=coil_reading_h(hung, wanted),
        bearing=bearing_of(hung, wanted, power_w),
    )


def _dips(model: ModelledAntenna, dip_hz: float | None, feed_ohm: float) -> tuple[float, float] | None:
    if dip_hz is None:
        return None
    with contextlib.suppress(OutOfDomainError):
        low, high = model.dip_range(dip_hz, feed_ohm)
        return float(low[0]), float(high[0])
    return None


def _off(dips: tuple[float, float] | None, dip_hz: float | None) -> tuple[float, float] | None:
    """How far the dips stray, over the one that is expected."""
    return None if dips is None or dip_hz is None else (dips[0] / dip_hz, dips[1] / dip_hz)


def _brought(kind: AntennaKind, hung: Hung, wanted_hz: float) -> Hung | None:
    if kind.resonant:
        with contextlib.suppress(OutOfDomainError):
            return tuned(hung, wanted_hz, kind.feed_ohm)
    return None


def _asked_for(hung: Hung, brought: Hung | None, name: str) -> float | None:
    if brought is None:
        return None
    now, then = (float(getattr(one, name)) for one in (hung, brought))
    return then if abs(then / now - 1) > WORTH_CHANGING else None


def _lowered(hung: Hung, sag: Sag, dip_hz: float, feed_ohm: float) -> float | None:
    """What its dip moves by with all its heights as much lower as it hangs on average."""
    try:
        low = hung.told(**{name: getattr(hung, name) - sag.mean_m for name in hung.heights})
        moved = hung_dip(low, dip_hz, feed_ohm) - dip_hz
    except OutOfDomainError:
        return None
    return moved if math.isfinite(moved) else None


def _seen(structure: Structure, hung: Hung, target: Target, feed_ohm: float, power_w: float) -> BandSeen:
    f = np.linspace(target.low_hz, target.high_hz, OTHER_POINTS)
    worst = float(swr_of_impedance(structure.impedance_at(f), feed_ohm).max())
    dip = hung_dip(hung, target.center_hz, feed_ohm)
    sent = float(hung.watts_at(target.center_hz, power_w)[0])
    return BandSeen(target.label, worst, dip if math.isfinite(dip) else None, sent)


def coil_reading_h(hung: Hung, frequency_hz: float) -> float | None:
    """What an analyser reads of the coil that loads it, its own capacitance included; None without one."""
    coils = [load.part for load in hung.structure().loads if isinstance(load.part, Inductor)]
    if not coils:
        return None
    return float(coils[0].impedance_ohm(np.array([frequency_hz]))[0].imag) / (2 * math.pi * frequency_hz)


def cut_pieces(hung: Hung, wanted_hz: float, added: float, unit: LengthUnit = "m") -> tuple[Piece, ...]:
    """What to cut, as a tape shows it: each piece to its mark, so much of it left over, and the whole.

    Radials that lie on the ground are a quarter of a wave, and nothing is left over them (common practice).
    """
    found = [_piece(each, added, unit) for each in hung.pieces()]
    if isinstance(hung, OnRadials):
        found.append(_piece(WirePiece("radial on the ground", hung.radials, wave_m(wanted_hz) / 4), 0.0, unit))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class HungReach:
    """How the wire of a band goes up: from the feed to its end with its folds, and how much is folded back."""

    reach_m: float
    folded_m: float


def hung_reaches(
    hung: Hung, wanted_hz: Sequence[float], added: float, arrangement: Arrangement, unit: LengthUnit = "m"
) -> tuple[HungReach, ...]:
    """As it goes up with so much left over each piece, folded back: of each band, the highest first.

    Args:
        wanted_hz: the bands that it is trimmed on, in any order.
        arrangement: of its wires; linked ones count what lies inside them.
    """
    bands = list(dict.fromkeys(hung.band_of(f) for f in sorted(wanted_hz, reverse=True)))
    planned = [hung.reaches_m[band] for band in bands]
    found: list[HungReach] = []
    for piece in segments(planned, arrangement):
        own = _piece(WirePiece("", 1, piece), added, unit)
        inner = found[-1].reach_m if found and arrangement == "linked" else 0.0
        found.append(HungReach(inner + own.cut_m, own.add_m))
    return tuple(found)


def _piece(piece: WirePiece, added: float, unit: LengthUnit) -> Piece:
    measure, add = on_tape(piece.length_m, unit), on_tape(added * piece.length_m, unit, "up")
    return Piece(piece.label, piece.count, measure, add, on_tape(measure + add, unit))
