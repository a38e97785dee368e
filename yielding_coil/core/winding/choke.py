"""Chokes: what the current on the outside of a line meets, judged against bands, and what the coax must bear."""

import math
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real, complex_of, require_not_negative, require_positive
from yielding_coil.core.ring import Ring
from yielding_coil.core.target import Target

# Resistive part that a choke should have: enough, good, and for awkward places (common practice: several hundred
# ohms at least, thousands where a wire's end is fed).
ENOUGH_OHM, GOOD_OHM, AWKWARD_OHM = 500.0, 1500.0, 4000.0
# Coax that is bent once bends to so many of its diameters at the least (common practice; foam wants more).
LEAST_BEND = 5.0
CHOKE_POINTS = 21

Rating = Literal["too little", "reactive", "enough", "good", "awkward places"]


class Rated(NamedTuple):
    """A choke on a band: series R and X at its worst frequency, what that is good for, and Z over the band."""

    label: str
    at_hz: float
    resistance_ohm: float
    reactance_ohm: float
    rating: Rating
    band_ohm: Complex


def rating(resistance_ohm: float, reactance_ohm: float) -> Rating:
    """What an impedance in the way of a current is good for.

    The resistive part counts: a reactance may just be tuned away by the line outside it.

    >>> rating(2500.0, -1000.0)
    'good'
    """
    if resistance_ohm >= AWKWARD_OHM:
        return "awkward places"
    if resistance_ohm >= GOOD_OHM:
        return "good"
    if resistance_ohm >= ENOUGH_OHM:
        return "enough"
    return "reactive" if abs(reactance_ohm) >= ENOUGH_OHM else "too little"


def rated(targets: list[Target], frequency_hz: Real, impedance_ohm: Complex) -> list[Rated]:
    """A choke's impedance on every band, where its resistive part is least.

    Args:
        frequency_hz: shape (n,), rising, over all bands.
        impedance_ohm: shape (n,).
    """
    found = []
    for target in targets:
        f = np.linspace(target.low_hz, target.high_hz, CHOKE_POINTS)
        # Z is steep near resonance, Y nearly straight in f.
        y = 1 / impedance_ohm
        z: Complex = 1 / complex_of(np.interp(f, frequency_hz, y.real), np.interp(f, frequency_hz, y.imag))
        k = int(z.real.argmin())
        r, x = float(z[k].real), float(z[k].imag)
        found.append(Rated(target.label, float(f[k]), r, x, rating(r, x), z))
    return found


class Borne(NamedTuple):
    """What a choke bears where the current through it is known: mean watts in it, and the peak voltage along it."""

    power_w: Real
    voltage_v: Real


def borne(impedance_ohm: Complex, current_a: float, duty: float = 1.0) -> Borne:
    """Heat |I|²·R of an effective current, times its duty, and the peak of |I|·|Z|.

    Args:
        current_a: effective value of the current on the outside of the line.
        duty: share of the time it flows.
    """
    require_not_negative("current_a", current_a)
    require_not_negative("duty", duty)
    z = np.asarray(impedance_ohm)
    return Borne(current_a**2 * z.real * duty, math.sqrt(2) * current_a * np.abs(z))


def highest_current_a(allowed_w: float, resistance_ohm: float, duty: float = 1.0) -> float:
    """The effective current whose mean heat is the allowed one.

    Raises:
        OutOfDomainError: a value is not above zero.
    """
    for name, value in (("allowed_w", allowed_w), ("resistance_ohm", resistance_ohm), ("duty", duty)):
        require_positive(name, value)
    return math.sqrt(allowed_w / (resistance_ohm * duty))


def bundle_m(diameter_m: float, apart_m: float) -> float:
    """Diameter of the one round wire that a common current takes two wires side by side for.

    Args:
        diameter_m: of the metal of each.
        apart_m: from middle to middle.

    Source:
        Two-conductor bundle, radius √(r·s) (any text on power lines).
    """
    for name, value in (("diameter_m", diameter_m), ("apart_m", apart_m)):
        require_positive(name, value)
    return math.sqrt(2 * diameter_m * apart_m)


def bend_m(ring: Ring, outer_m: float) -> float:
    """Radius to which coax bends round a ring's section: the circle round its corners, and half the coax."""
    require_positive("outer_m", outer_m)
    width = (ring.size.outer_m - ring.size.inner_m) / 2
    return math.hypot(width, ring.height_m) / 2 + outer_m / 2
