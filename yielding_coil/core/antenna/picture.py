"""An antenna as it is seen from the side, with what flows on it and where not to touch it."""

from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.antenna.hands import place_of
from yielding_coil.core.arrays import Real
from yielding_coil.core.trap import Trap
from yielding_coil.core.wire import Hung, Ints, Structure

# Peak volts against ground from which a hand is burnt. ICNIRP's contact current for the public, 40 mA from 10 to
# 110 MHz (1998, from memory), flows from some 50 V through a body of about a kilohm.
TOUCH_V = 50.0
# As high as hands reach.
REACH_M = 2.5
# What lies further than this before or behind is not held up in this plane.
TOWARDS_EYE_M = 0.02


@dataclass(frozen=True, slots=True)
class Seen:
    """A wire from the side: where its current and voltage are known, in metres, amperes and volts, peaks.

    Ends of `x_m` and `z_m` are the ends of the wire. `phase` tells whether the current flows as at the feed (1), or
    against it (−1).
    """

    x_m: Real
    z_m: Real
    current_a: Real
    phase: Real
    volts_x_m: Real
    volts_z_m: Real
    volts: Real


class Place(NamedTuple):
    """A point seen from the side."""

    x_m: float
    z_m: float


class Fitted(NamedTuple):
    """A part that stands in a wire, seen from the side."""

    x_m: float
    z_m: float
    part: Literal["coil", "trap"]


@dataclass(frozen=True, slots=True)
class Support:
    """What a place hangs on: a pole up to it, or a line tied down to a peg."""

    x_m: float
    z_m: float
    tied: bool


@dataclass(frozen=True, slots=True)
class Held:
    """A place that hands take hold of."""

    key: str
    label: str
    x_m: float
    z_m: float
    numbers: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Picture:
    """From the side.

    Args:
        coils: where each load stands that is no ground.
        highest_v: peak, anywhere; within_reach_v: below what hands reach, 0 where nothing hangs there.
    """

    wires: tuple[Seen, ...]
    feed: Place
    coils: tuple[Fitted, ...]
    handles: tuple[Held, ...]
    supports: tuple[Support, ...]
    highest_v: float
    highest: Place
    within_reach_v: float


def picture_of(hung: Hung, frequency_hz: float, power_w: float, solved_as: Structure | None = None) -> Picture:
    """With currents and voltages at a frequency, when so much goes in.

    Args:
        solved_as: its structure with other segments.

    Raises:
        OutOfDomainError: it cannot hang so, or takes no power there.
    """
    structure = solved_as or hung.structure()
    solved = structure.solve(frequency_hz, power_w)
    volts = structure.voltage_at(frequency_hz, power_w)
    fed = solved.current_a[_nearest(solved.wire, solved.at, structure.source.wire, structure.source.at)]
    turn = np.conj(fed) / max(abs(fed), 1e-30)
    wires = []
    for index, wire in enumerate(structure.wires):
        # Radials that run towards the eye lie behind one another.
        if abs(wire.end_m[1] - wire.start_m[1]) > abs(wire.end_m[0] - wire.start_m[0]):
            continue
        on, over = solved.wire == index, volts.wire == index
        along = solved.current_a[on] * turn
        wires.append(
            Seen(
                solved.position_m[on, 0],
                solved.position_m[on, 2],
                np.abs(along),
                np.where(along.real < 0, -1.0, 1.0),
                volts.position_m[over, 0],
                volts.position_m[over, 2],
                volts.volts[over],
            )
        )
    most = int(np.argmax(volts.volts))
    low = volts.volts[volts.position_m[:, 2] <= REACH_M]
    coils = structure.loads[hung.earths :]
    return Picture(
        wires=tuple(wires),
        feed=_side(structure, structure.source.wire, structure.source.at),
        coils=tuple(
            Fitted(*_side(structure, c.wire, c.at), "trap" if isinstance(c.part, Trap) else "coil") for c in coils
        ),
        handles=tuple(
            Held(h.key, h.label, float(place[0]), float(place[1]), h.numbers)
            for h in hung.handles
            for place in (place_of(structure, h),)
        ),
        supports=tuple(_supports(structure)),
        highest_v=float(volts.volts[most]),
        highest=Place(float(volts.position_m[most, 0]), float(volts.position_m[most, 2])),
        within_reach_v=float(low.max(initial=0.0)),
    )


def _nearest(wire: Ints, at: Real, of: int, share: float) -> int:
    own = np.flatnonzero(wire == of)
    return int(own[np.argmin(np.abs(at[own] - share))])


def _side(structure: Structure, wire: int, at: float) -> Place:
    point = structure.wires[wire].at(at)
    return Place(float(point[0]), float(point[2]))


def _supports(structure: Structure) -> list[Support]:
    """A pole under every place that nothing higher holds; the other free ends are tied down."""
    ends: dict[tuple[float, float, float], list[float]] = {}
    for wire in structure.wires:
        for here, there in ((wire.start_m, wire.end_m), (wire.end_m, wire.start_m)):
            ends.setdefault(tuple(round(v, 4) for v in here), []).append(there[2])  # type: ignore[arg-type]
    found: dict[tuple[float, float], Support] = {}
    for (x, y, z), others in ends.items():
        if z <= 0 or abs(y) > TOWARDS_EYE_M:
            continue
        top = max(others) <= z + 0.01
        if top or len(others) == 1:
            found.setdefault((round(x, 2), round(z, 2)), Support(x, z, tied=not top))
    return list(found.values())
