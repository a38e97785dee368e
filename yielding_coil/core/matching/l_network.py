"""L networks in closed form, and the values that a coil and a capacitor need for them."""

import math
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.arrays import require_finite, require_positive
from yielding_coil.core.errors import NotMatchableError

End = Literal["load", "source"]


@dataclass(frozen=True, slots=True)
class LNetwork:
    """One lossless L: a series reactance and a shunt susceptance, the shunt at one end.

    Positive reactance is a coil, negative a capacitor; positive susceptance a capacitor, negative a coil.
    """

    shunt_at: End
    series_reactance_ohm: float
    shunt_susceptance_s: float


def l_networks(load_ohm: complex, frequency_hz: float, source_ohm: float = 50.0) -> tuple[LNetwork, ...]:
    """Every lossless L that shows `source_ohm` when `load_ohm` closes it; two to four, shunt at the load first.

    `frequency_hz` is where the load was read: reactances do not depend on it, parts made of them do.

    Args:
        load_ohm: finite, resistance above zero.
        frequency_hz: above zero.
        source_ohm: above zero.

    Raises:
        NotMatchableError: the load has no resistance to match.
        OutOfDomainError: a value is not finite, or not above zero.

    Source:
        Pozar, Microwave Engineering, 4th ed., §5.1, eqs. (5.3) and (5.5).

    >>> [n.shunt_at for n in l_networks(94 - 463j, 18.1e6)]
    ['load', 'load']
    """
    require_finite("load_ohm", load_ohm)
    require_positive("frequency_hz", frequency_hz)
    require_positive("source_ohm", source_ohm)
    r, x = load_ohm.real, load_ohm.imag
    if r <= 0:
        raise NotMatchableError(
            f"the load at {frequency_hz / 1e6:.3f} MHz is {r:.3g} {'+' if x >= 0 else '−'} j{abs(x):.3g} Ω; "
            "matching needs a resistance above zero: check the calibration and sweep again",
            field="load_ohm",
            came_in=f"R {r:.3g} Ω",
            accepted="R above zero",
        )
    found: list[LNetwork] = []
    square = r * r + x * x - source_ohm * r
    if square >= 0:
        root = math.sqrt(r / source_ohm) * math.sqrt(square)
        for sign in (1, -1):
            b = (x + sign * root) / (r * r + x * x)  # eq. (5.3a)
            # Behind the shunt R is the source's by construction; the series part takes out what is left of X.
            behind = 1 / (1 / load_ohm + 1j * b)
            found.append(LNetwork("load", -behind.imag, b))
    if r <= source_ohm:
        root = math.sqrt(r * (source_ohm - r))
        for sign in (1, -1):
            series = sign * root - x  # eq. (5.6a)
            b = sign * math.sqrt((source_ohm - r) / r) / source_ohm  # eq. (5.6b)
            found.append(LNetwork("source", series, b))
    return tuple(found)


def part_for_reactance(reactance_ohm: float, frequency_hz: float) -> tuple[Literal["coil", "capacitor"], float]:
    """What makes a reactance: a coil in henry where it is positive, a capacitor in farad where negative."""
    omega = 2 * math.pi * frequency_hz
    if reactance_ohm >= 0:
        return "coil", reactance_ohm / omega
    return "capacitor", -1 / (omega * reactance_ohm)


def part_for_susceptance(susceptance_s: float, frequency_hz: float) -> tuple[Literal["coil", "capacitor"], float]:
    """What makes a susceptance: a capacitor in farad where it is positive, a coil in henry where negative."""
    omega = 2 * math.pi * frequency_hz
    if susceptance_s >= 0:
        return "capacitor", susceptance_s / omega
    return "coil", -1 / (omega * susceptance_s)
