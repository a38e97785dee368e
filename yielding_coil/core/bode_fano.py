"""How good a match over a band can be at all, whoever designs it."""

import math
from typing import Literal

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.errors import OutOfDomainError

Circuits = Literal["antenna alone", "one more", "any"]


def lowest_reflection(fractional_bandwidth: float, q: float, circuits: Circuits = "any") -> float:
    """The least |Γ| that a lossless match can hold over a whole band, of an antenna that is one resonance.

    Args:
        fractional_bandwidth: width of the band over its centre, above zero.
        q: of the antenna tuned at the band's centre, above zero.
        circuits: tuned circuits besides the antenna: none (tuned and transformed only), one, or any number.

    Raises:
        OutOfDomainError: a value is not above zero, or the number of circuits not known.

    Source:
        Lopez, IEEE Antennas and Propagation Magazine 46(4), 2004, the closed forms of Fano's limit:
        BQ = 2Γ/(1 − Γ²), 2√Γ/(1 − Γ), π/ln(1/Γ), solved for Γ. Losses in the match lower the reflection
        further, at the price of power; two close resonances are not one.

    >>> round(lowest_reflection(0.1, 7.5, "antenna alone"), 4)
    0.3333
    """
    require_positive("fractional_bandwidth", fractional_bandwidth)
    require_positive("q", q)
    bq = fractional_bandwidth * q
    if circuits == "any":
        return math.exp(-math.pi / bq)
    # Both other forms are x = 2s/(1 − s²), once with s = Γ and once with s = √Γ.
    root = bq / (1 + math.sqrt(1 + bq * bq))
    if circuits == "antenna alone":
        return root
    if circuits == "one more":
        return root * root
    raise OutOfDomainError("circuits", circuits, "antenna alone, one more, or any")


def lowest_swr(fractional_bandwidth: float, q: float, circuits: Circuits = "any") -> float:
    """The same as the SWR at the worst place of the band."""
    gamma = lowest_reflection(fractional_bandwidth, q, circuits)
    return (1 + gamma) / (1 - gamma)
