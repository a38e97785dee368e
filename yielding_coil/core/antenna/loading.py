"""Where to put a loading coil: what each place asks for and gives; and what a little more wire or coil moves."""

import contextlib
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.antenna.bearing import bearing_of
from yielding_coil.core.antenna.tuning import hung_dip, tuned
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.wire import NUMBERS, Hung, LoadedDipole, LoadedVertical, line_estimate_h

# Places along the wire that are looked at; the least of a dipole's is some way out.
PLACES = (0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9)
# How wide: once matched in the middle, up to this SWR; looked for so far to either side.
WIDTH_SWR, WIDTH_SIDE, WIDTH_POINTS = 2.0, 0.06, 401
# What is added to see what moves: of a length in metres, of all else as a share of it.
ADDED_M, ADDED_SHARE = 0.1, 0.02
# The lowest dip is looked for down to here, in so many steps.
LOWEST_HZ, STEPS = 1e5, 240

Loaded = LoadedVertical | LoadedDipole


@dataclass(frozen=True, slots=True)
class CoilPlace:
    """A coil at one place of a short wire, as it brings it to the band.

    Args:
        coil_at: share of the wire, 0 at the feed.
        inductance_h, above_m: what that asks for: of each coil, and how much wire is left above it.
        estimate_h: by the line estimate; None where it gives none.
        resistance_ohm: at the feed, in resonance.
        radiated_w, coil_w, wire_w, ground_w: where the power goes.
        width_hz: within which the SWR stays under 2 once matched in the middle; None beyond what is looked at.
        voltage_v: across one coil, peak.
    """

    coil_at: float
    inductance_h: float
    above_m: float
    estimate_h: float | None
    resistance_ohm: float
    radiated_w: float
    coil_w: float
    wire_w: float
    ground_w: float
    width_hz: float | None
    voltage_v: float


def coil_places(hung: Loaded, wanted_hz: float, power_w: float, feed_ohm: float) -> tuple[CoilPlace, ...]:
    """The same short antenna with its coil at one place after another, each time brought to the band.

    Places that no coil brings there are left out.

    Raises:
        OutOfDomainError: none of them does; says the lowest frequency that the largest coil reaches.
    """
    found = []
    for at in sorted({*PLACES, hung.coil_at}):
        with contextlib.suppress(OutOfDomainError):
            found.append(_place(hung, at, wanted_hz, power_w, feed_ohm))
    if not found:
        largest = NUMBERS["inductance_h"].most
        low = lowest_dip_hz(hung.told(inductance_h=largest), feed_ohm)
        reach = "its dip lies lower than any" if low is None else f"{low / 1e6:.4g} MHz at the lowest"
        raise OutOfDomainError(
            "coil",
            f"{wanted_hz / 1e6:.4g} MHz from {hung.trimmed_m:.4g} m of wire",
            f"what a coil of up to {largest * 1e3:g} mH can bring there ({reach}), below its quarter-wave",
        )
    return tuple(found)


def _place(hung: Loaded, at: float, wanted_hz: float, power_w: float, feed_ohm: float) -> CoilPlace:
    whole = hung.trimmed_m
    below, above = at * whole, (1 - at) * whole
    estimate = None
    moved = hung.told(coil_at=at)
    with contextlib.suppress(OutOfDomainError):
        estimate = line_estimate_h(wanted_hz, below, above, hung.stock.radius_m, hung.own_f)
        moved = moved.told(inductance_h=estimate)
    made = tuned(moved, wanted_hz, feed_ohm)
    structure = made.structure()
    watts = made.watts_at(wanted_hz, power_w)
    f = np.linspace(1 - WIDTH_SIDE, 1 + WIDTH_SIDE, WIDTH_POINTS) * wanted_hz
    z = structure.impedance_at(f)
    middle = complex(z[WIDTH_POINTS // 2])
    within = swr_of_impedance(z - 1j * middle.imag, middle.real) <= WIDTH_SWR
    width = None if within[0] or within[-1] else float(f[within][-1] - f[within][0])
    return CoilPlace(
        at,
        made.inductance_h,
        above,
        estimate,
        middle.real,
        float(watts[0]),
        float(watts[2]),
        float(watts[1]),
        float(watts[3]),
        width,
        bearing_of(made, wanted_hz, power_w, structure)[0].voltage_v,
    )


def lowest_dip_hz(hung: Hung, feed_ohm: float) -> float | None:
    """The lowest dip of an antenna, in Hz; None where it lies below 100 kHz or there is none."""
    structure = hung.structure()
    for low, high in ((LOWEST_HZ, 3e6), (3e6, 6e7)):
        f = np.geomspace(low, high, STEPS)
        try:
            x = structure.impedance_at(f).imag
        except OutOfDomainError:
            # So low over real ground that nothing is told down there.
            continue
        if low == LOWEST_HZ and x[0] >= 0:
            return None
        rising = np.flatnonzero((x[:-1] < 0) & (x[1:] >= 0))
        if rising.size:
            return hung_dip(hung, float(f[rising[0]]), feed_ohm)
    return None


@dataclass(frozen=True, slots=True)
class Moved:
    """What one of its numbers, a little larger, moves the dip by.

    Args:
        name: of the number; added: to it, in its unit.
    """

    name: str
    added: float
    moves_hz: float


def moved_by(hung: Hung, near_hz: float, feed_ohm: float) -> tuple[Moved, ...]:
    """“What if I stretch it”: the dip with 10 cm more of each length, and 2 % more of each coil.

    Args:
        near_hz: the dip nearest to it is followed.

    Raises:
        OutOfDomainError: it has no dip near by.
    """
    dip = hung_dip(hung, near_hz, feed_ohm)
    if not math.isfinite(dip):
        raise OutOfDomainError("near_hz", f"{near_hz / 1e6:.4g} MHz", "near one of its dips")
    found = []
    for name in _stretched(hung):
        value = float(getattr(hung, name))
        added = ADDED_M if NUMBERS[name].unit == "m" else ADDED_SHARE * value
        with contextlib.suppress(OutOfDomainError):
            there = hung_dip(hung.told(**{name: value + added}), dip, feed_ohm)
            if math.isfinite(there):
                found.append(Moved(name, added, there - dip))
    return tuple(found)


def _stretched(hung: Hung) -> Sequence[str]:
    return (*hung.lengths, *(n for n in hung.others if NUMBERS[n].unit in ("H", "F", "m")))
