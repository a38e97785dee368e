"""One capacitor made of two: in series or parallel, by value, tolerance and voltage."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement
from typing import Literal, NamedTuple

from yielding_coil.core.arrays import require_not_negative, require_positive


@dataclass(frozen=True, slots=True)
class Stock:
    """Capacitors of one kind that lie in the drawer; `count` None when nobody counted.

    `tolerance` is two standard deviations over the value; `q` the same at every frequency.
    """

    name: str
    capacitance_f: float
    tolerance: float
    voltage_v: float
    q: float
    count: int | None = None


class Combination(NamedTuple):
    """What one or two of them make together: value, tolerance, the voltage that both stand, Q."""

    parts: tuple[Stock, ...]
    way: Literal["alone", "series", "parallel"]
    capacitance_f: float
    tolerance: float
    voltage_v: float
    q: float


def alone(one: Stock) -> Combination:
    """A single one."""
    return Combination((one,), "alone", one.capacitance_f, one.tolerance, one.voltage_v, one.q)


def series(one: Stock, other: Stock) -> Combination:
    """Two in series: the smaller takes the larger part of the voltage; errors add as independent ones."""
    a, b = one.capacitance_f, other.capacitance_f
    both = a * b / (a + b)
    # dC/C of a series pair: each by its share of the elastance.
    tolerance = math.hypot(one.tolerance * b / (a + b), other.tolerance * a / (a + b))
    voltage = min(one.voltage_v * (a + b) / b, other.voltage_v * (a + b) / a)
    q = both / (both**2 * (1 / (a * one.q) + 1 / (b * other.q)))
    return Combination((one, other), "series", both, tolerance, voltage, q)


def parallel(one: Stock, other: Stock) -> Combination:
    """Two in parallel: both see the whole voltage."""
    a, b = one.capacitance_f, other.capacitance_f
    tolerance = math.hypot(one.tolerance * a, other.tolerance * b) / (a + b)
    q = (a + b) / (a / one.q + b / other.q)
    return Combination((one, other), "parallel", a + b, tolerance, min(one.voltage_v, other.voltage_v), q)


def combinations(
    stock: Sequence[Stock], capacitance_f: float, voltage_v: float = 0.0, within: float = 0.1
) -> list[Combination]:
    """What in stock makes a value and stands a voltage, nearest first; among equals the fewest parts.

    Args:
        stock: what lies in the drawer; two of a kind need a count of two, or none.
        capacitance_f: wanted, above zero.
        voltage_v: peak that it must stand.
        within: how far off it may be, relative.

    Raises:
        OutOfDomainError: a value not above zero, or a voltage below it.

    >>> mica = Stock("240 pF mica", 240e-12, 0.05, 500.0, 2000.0, 2)
    >>> combinations([mica], 120e-12, 700.0)[0].way
    'series'
    """
    require_positive("capacitance_f", capacitance_f)
    require_not_negative("voltage_v", voltage_v)
    found = [alone(s) for s in stock if s.count is None or s.count >= 1]
    for one, other in combinations_with_replacement(stock, 2):
        needed = 2 if one is other else 1
        if all(s.count is None or s.count >= needed for s in (one, other)):
            found += [series(one, other), parallel(one, other)]
    near = [
        c for c in found if abs(c.capacitance_f / capacitance_f - 1) <= within + 1e-12 and c.voltage_v >= voltage_v
    ]
    return sorted(
        near, key=lambda c: (round(abs(c.capacitance_f / capacitance_f - 1), 3), len(c.parts), c.tolerance)
    )


# Values sold, a decade (IEC 60063, E24).
E24 = (10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91)
# Of what is sold: values from half to twice the wanted one.
LEAST_SHARE, MOST_SHARE, DECADES = 0.45, 2.2, range(-13, -6)


@dataclass(frozen=True, slots=True)
class CapacitorKind:
    """A kind that the trade sells: tolerance (two standard deviations), Q, usual voltages."""

    name: str
    tolerance: float
    q: float
    voltages_v: tuple[float, ...]


def sold_for(kind: CapacitorKind, capacitance_f: float, voltage_v: float) -> list[Stock]:
    """What is sold of a kind for a voltage round a value."""
    return [
        Stock(f"{value * 1e12:.3g} pF {kind.name}", value, kind.tolerance, voltage_v, kind.q)
        for value in (step * 10.0**decade for decade in DECADES for step in E24)
        if LEAST_SHARE * capacitance_f <= value <= MOST_SHARE * capacitance_f
    ]


def cheapest_sold(
    kinds: Sequence[CapacitorKind], capacitance_f: float, voltage_v: float = 0.0, within: float = 0.1
) -> list[Combination]:
    """What of some kinds that are sold makes a value and stands a voltage, two of one kind at most.

    Nearest first; among equals the fewest parts, and the kind that comes first, of its lowest voltage.

    Raises:
        OutOfDomainError: as `combinations`.
    """
    found: dict[tuple[tuple[str, ...], str], Combination] = {}
    for kind in kinds:
        for volts in kind.voltages_v:
            for each in combinations(sold_for(kind, capacitance_f, volts), capacitance_f, voltage_v, within):
                found.setdefault((tuple(p.name for p in each.parts), each.way), each)
    return sorted(found.values(), key=lambda c: (round(abs(c.capacitance_f / capacitance_f - 1), 3), len(c.parts)))
