"""Pi and T networks in closed form: two L back to back, meeting at a resistance that one chooses."""

import math
from collections.abc import Iterator
from typing import Literal, NamedTuple

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.matching.load import matchable


class Arm(NamedTuple):
    """One lossless part of a ladder: a reactance in ohm in series, a susceptance in siemens across."""

    place: Literal["series", "shunt"]
    value: float


Ladder = tuple[Arm, ...]


def pi_networks(load_ohm: complex, virtual_ohm: float, source_ohm: float = 50.0) -> tuple[Ladder, ...]:
    """Shunt, series, shunt from the load down: every sign of it, the low-pass one first.

    Args:
        load_ohm: finite, resistance above zero.
        virtual_ohm: where both halves meet, at most the smaller of both parallel resistances; the smaller it is the
            higher the Q.
        source_ohm: above zero.

    Raises:
        NotMatchableError: the load has no resistance to match.
        OutOfDomainError: a virtual resistance that is not below both.

    Source:
        Bowick, RF Circuit Design, ch. 4 (numbering from memory): two L networks that face each other.

    >>> [round(arm.value, 4) for arm in pi_networks(1000, 4.425, 100)[0]]
    [0.015, 86.9383, 0.0465]
    """
    admittance = 1 / matchable(load_ohm)
    conductance, own = admittance.real, admittance.imag
    require_positive("source_ohm", source_ohm)
    require_positive("virtual_ohm", virtual_ohm)
    most = min(1 / conductance, source_ohm)
    if virtual_ohm > most:
        raise OutOfDomainError("virtual_ohm", f"{virtual_ohm:.3g} Ω", f"at most {most:.3g} Ω for a pi network")
    far = math.sqrt(max(1 / (conductance * virtual_ohm) - 1, 0.0))
    near = math.sqrt(max(source_ohm / virtual_ohm - 1, 0.0))
    return tuple(
        (
            Arm("shunt", a * far * conductance - own),
            Arm("series", (a * far + b * near) * virtual_ohm),
            Arm("shunt", b * near / source_ohm),
        )
        for a, b in _signs()
    )


def tee_networks(load_ohm: complex, virtual_ohm: float, source_ohm: float = 50.0) -> tuple[Ladder, ...]:
    """Series, shunt, series from the load down: every sign of it, the low-pass one first.

    Args:
        load_ohm: finite, resistance above zero.
        virtual_ohm: where both halves meet, at least the larger of both resistances; the larger the higher the Q.
        source_ohm: above zero.

    Raises:
        NotMatchableError: the load has no resistance to match.
        OutOfDomainError: a virtual resistance that is not above both.

    Source:
        Bowick, RF Circuit Design, ch. 4 (numbering from memory).

    >>> [round(arm.value, 4) for arm in tee_networks(10, 1010, 50)[0]]
    [100.0, 0.0142, 219.089]
    """
    load = matchable(load_ohm)
    require_positive("source_ohm", source_ohm)
    require_positive("virtual_ohm", virtual_ohm)
    least = max(load.real, source_ohm)
    if virtual_ohm < least:
        raise OutOfDomainError("virtual_ohm", f"{virtual_ohm:.3g} Ω", f"at least {least:.3g} Ω for a T network")
    far = math.sqrt(max(virtual_ohm / load.real - 1, 0.0))
    near = math.sqrt(max(virtual_ohm / source_ohm - 1, 0.0))
    return tuple(
        (
            Arm("series", a * far * load.real - load.imag),
            Arm("shunt", (a * far + b * near) / virtual_ohm),
            Arm("series", b * near * source_ohm),
        )
        for a, b in _signs()
    )


def _signs() -> Iterator[tuple[int, int]]:
    """Both halves' signs: both low-pass, both high-pass, then the mixed ones."""
    return iter(((1, 1), (-1, -1), (1, -1), (-1, 1)))
