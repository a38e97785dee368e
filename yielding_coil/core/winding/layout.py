"""Where every turn of a wound ring lies: passes through the hole, the wire's way round them, and what to cut.

The ring lies flat, seen from the front (the coax's side): x to the right, y up, z towards the eye, metres; angles
counter-clockwise from the right. Every pass goes through the hole from front to back, in both halves of a crossed
winding too: what is drawn always magnetises one way.
"""

import math
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.ring import SLACK, SPREAD_RAD, WIDEST_RAD, Ring

# Twisted wires: a twist takes so many diameters over the covering, which makes them 4 % longer (3 to 5, practice).
TWIST_LAY = 11.0
# Diameter of a round twist over that of one wire, by how many there are.
_TWISTED = {1: 1.0, 2: 2.0, 3: 2.155, 4: 2.414}
# Of the ring, what each half of a crossed winding may take.
HALF_RAD = math.radians(158)
BOTTOM_RAD = -math.pi / 2
# A tail comes in and goes out so far beside its turn: start and end of a winding stay apart.
ASIDE_RAD = math.radians(4)

MOST_TURNS = 200


class Pass(NamedTuple):
    """One turn: a pass through the hole.

    Args:
        number: from 1.
        angle_rad: where it goes through the hole.
        out_rad: where it comes up outside.
        wires: names of the wires in it.
        half: 1, or 2 behind the crossing.
        width_rad: what it takes of the hole's round.
    """

    number: int
    angle_rad: float
    out_rad: float
    wires: tuple[str, ...]
    half: int
    width_rad: float


@dataclass(frozen=True, slots=True)
class Strand:
    """One wire of a winding: its name and its first and last turn."""

    name: str
    first: int
    last: int


class Cut(NamedTuple):
    """What to cut of one wire, metres: in the winding, for one turn on average, with both tails."""

    name: str
    winding_m: float
    turn_m: float
    cut_m: float


class Stroke(NamedTuple):
    """A line of the picture from the front: points (x, y) in metres.

    `number` is the turn that it leads into; 0 for the tail at the end.
    """

    wire: str
    kind: Literal["turn", "cross", "tail"]
    number: int
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class WindingLayout:
    """A wound ring.

    Args:
        ring: what it is wound on.
        strands: its wires; a turn holds every wire whose turns include it.
        covered_m: of each wire, over its covering.
        twisted: wires that share a turn are twisted; else they lie side by side.
        crossed: wound half and half, the wire crossing the hole between them; else straight round.
        tape_m: thickness of tape on the ring.
        tail_m: that each wire leaves at each end.

    Raises:
        OutOfDomainError: no turn, wire that does not go through the hole, or more turns than it takes.
    """

    ring: Ring
    strands: tuple[Strand, ...]
    covered_m: float
    twisted: bool = True
    crossed: bool = False
    tape_m: float = 0.0
    tail_m: float = 0.045

    def __post_init__(self) -> None:
        require_positive("covered_m", self.covered_m)
        require_not_negative("tape_m", self.tape_m)
        require_not_negative("tail_m", self.tail_m)
        for strand in self.strands:
            if not 1 <= strand.first <= strand.last <= MOST_TURNS:
                raise OutOfDomainError("turns", strand.last, f"1 to {MOST_TURNS}")
        if self.crossed and self.turns < 2:
            raise OutOfDomainError("turns", self.turns, "2 or more for a winding that crosses over")
        for half, room in self._rooms():
            taken = sum(self._width(n) for n in half)
            if taken > room + 1e-9:
                fit = math.floor(self.turns * room / taken)
                where = "in each half" if self.crossed else "in one layer"
                fit_here = max(1, fit // 2) if self.crossed else fit
                raise OutOfDomainError(
                    "turns",
                    f"{self.turns} of {self.covered_m * 1e3:.3g} mm",
                    f"at most about {fit_here} {where} of this hole ({self.ring.size.inner_m * 1e3:.3g} mm): "
                    "take fewer turns, a thinner wire or a larger ring",
                )

    @property
    def turns(self) -> int:
        """Passes through the hole."""
        return max(s.last for s in self.strands)

    @property
    def crosses_after(self) -> int | None:
        """The turn after which the wire crosses the hole."""
        return math.ceil(self.turns / 2) if self.crossed else None

    def _rooms(self) -> list[tuple[range, float]]:
        """Turns that lie together, and what they may take of the round."""
        after = self.crosses_after
        if after is None:
            return [(range(1, self.turns + 1), 2 * math.pi)]
        return [(range(1, after + 1), HALF_RAD), (range(after + 1, self.turns + 1), HALF_RAD)]

    def wires_in(self, number: int) -> tuple[str, ...]:
        """Names of the wires in a turn."""
        return tuple(s.name for s in self.strands if s.first <= number <= s.last)

    def _bundle_m(self, number: int) -> float:
        """How thick the bundle of a turn stands off the ring."""
        together = len(self.wires_in(number))
        return self.covered_m * (_TWISTED[together] if self.twisted else 1.0)

    def _width(self, number: int) -> float:
        together = len(self.wires_in(number))
        if self.twisted:
            return self.ring.width_rad(self._bundle_m(number), self.tape_m)
        return together * self.ring.width_rad(self.covered_m, self.tape_m)

    def _twist(self, number: int) -> float:
        """How much longer each wire is than the bundle."""
        if not self.twisted or len(self.wires_in(number)) < 2:
            return 1.0
        around = math.pi * (self._bundle_m(number) - self.covered_m)
        return math.hypot(1.0, around / (TWIST_LAY * self.covered_m))

    @property
    def free_rad(self) -> float:
        """What the turns leave of the hole's round."""
        return 2 * math.pi - sum(self._width(n) for n in range(1, self.turns + 1))

    def passes(self) -> tuple[Pass, ...]:
        """Every turn in order: counter-clockwise from the bottom, behind a crossing clockwise."""
        found: list[Pass] = []
        for half, (numbers, _) in enumerate(self._rooms(), start=1):
            widths = [self._width(n) for n in numbers]
            room = HALF_RAD if self.crossed else SPREAD_RAD
            steps = max(len(widths) - 1, 1)
            gap = max(0.0, min((room - sum(widths)) / steps, WIDEST_RAD - min(widths)))
            span = sum(widths) + gap * (len(widths) - 1)
            way = -1 if half == 2 else 1
            at = math.radians(9) if self.crossed else (2 * math.pi - span) / 2
            for number, width in zip(numbers, widths, strict=True):
                middle = at + width / 2
                on = min(width + gap, WIDEST_RAD) / 2
                if number == numbers[-1]:
                    on = min(on, width / 2 + ASIDE_RAD)
                found.append(
                    Pass(
                        number,
                        BOTTOM_RAD + way * middle,
                        BOTTOM_RAD + way * (middle + on),
                        self.wires_in(number),
                        half,
                        width,
                    )
                )
                at += width + gap
        return tuple(found)

    def _radii(self, number: int) -> tuple[float, float, float]:
        """Of a turn's middle line: inside the hole, outside the ring, over its faces."""
        off = self.tape_m + self._bundle_m(number) / 2
        return (
            self.ring.size.inner_m / 2 - off,
            self.ring.size.outer_m / 2 + off,
            self.ring.height_m / 2 + off,
        )

    def way_of(self, name: str) -> Real:
        """A wire's middle line from tail to tail, shape (n, 3), sharp at the edges; tails point straight out."""
        strand = next(s for s in self.strands if s.name == name)
        own = [p for p in self.passes() if strand.first <= p.number <= strand.last]
        points: list[tuple[float, float, float]] = []
        first = own[0]
        inner, outer, up = self._radii(first.number)
        start = self._before(first)
        points += [_at(outer + self.tail_m, start, up), _at(outer, start, up)]
        for turn in own:
            inner, outer, up = self._radii(turn.number)
            points += [
                _at(inner, turn.angle_rad, up),
                _at(inner, turn.angle_rad, -up),
                _at(outer, turn.out_rad, -up),
                _at(outer, turn.out_rad, up),
            ]
        points.append(_at(outer + self.tail_m, own[-1].out_rad, up))
        return np.array(points)

    def _before(self, turn: Pass) -> float:
        """Where the wire that leads into a turn, if it begins there, lies on the rim."""
        on = turn.out_rad - turn.angle_rad
        return turn.angle_rad - math.copysign(min(abs(on), turn.width_rad / 2 + ASIDE_RAD), on)

    def cuts(self) -> tuple[Cut, ...]:
        """What to cut of every wire: its way and 2 % that never lies tight, the twist, the tails; whole mm."""
        numbers = {p.number: p for p in self.passes()}
        found = []
        for strand in self.strands:
            way = self.way_of(strand.name)
            steps = np.linalg.norm(np.diff(way, axis=0), axis=1)
            # Tail, then four steps a turn (into the hole, through, out behind, up outside), then the tail.
            factors = [
                self._twist(n) for n in sorted(numbers) if strand.first <= n <= strand.last for _ in range(4)
            ]
            winding = SLACK * float(np.dot(steps[1:-1], factors))
            cut = math.ceil((winding + 2 * self.tail_m) * 1e3 - 1e-9) / 1e3
            found.append(Cut(strand.name, winding, winding / (strand.last - strand.first + 1), cut))
        return tuple(found)

    def strokes(self, tail_m: float) -> tuple[Stroke, ...]:
        """What is seen from the front: the wires' ways over the front face, tails cut short for the eye."""
        found: list[Stroke] = []
        turns = self.passes()
        by_number = {p.number: p for p in turns}
        after = self.crosses_after
        for strand in self.strands:
            for number in range(strand.first, strand.last + 1):
                turn = by_number[number]
                inner, outer, up = self._radii(number)
                aside = self._aside(turn, strand.name)
                if number == strand.first:
                    out = self._before(turn)
                    begins = _at(outer + tail_m, out + aside, up)
                    kind: Literal["turn", "cross", "tail"] = "tail"
                else:
                    earlier = by_number[number - 1]
                    _, outer, up = self._radii(earlier.number)
                    out = earlier.out_rad
                    begins = _at(outer, out + self._aside(earlier, strand.name), up)
                    kind = "cross" if after is not None and number == after + 1 else "turn"
                points = [begins, _at(inner, turn.angle_rad + aside, up)]
                if kind == "tail":
                    points.insert(1, _at(outer, out + aside, up))
                found.append(Stroke(strand.name, kind, number, tuple((x, y) for x, y, _ in points)))
            last = by_number[strand.last]
            _, outer, up = self._radii(last.number)
            out = last.out_rad + self._aside(last, strand.name)
            ends = [_at(outer - self.covered_m / 2, out, up), _at(outer + tail_m, out, up)]
            found.append(Stroke(strand.name, "tail", 0, tuple((x, y) for x, y, _ in ends)))
        return tuple(found)

    def _aside(self, turn: Pass, name: str) -> float:
        """Where in its turn a wire lies, beside the middle."""
        together = len(turn.wires)
        return turn.width_rad * ((turn.wires.index(name) + 0.5) / together - 0.5)


def _at(radius_m: float, angle_rad: float, z_m: float) -> tuple[float, float, float]:
    return radius_m * math.cos(angle_rad), radius_m * math.sin(angle_rad), z_m


def strands_of(
    names: tuple[str, ...], in_hand: int, primary_turns: int, secondary_turns: int
) -> tuple[Strand, ...]:
    """The wires of a winding on one ring: all along together, or a primary beside the first turns of a long wire.

    Raises:
        OutOfDomainError: a primary with more turns than the whole winding.
    """
    if in_hand > 1:
        return tuple(Strand(name, 1, primary_turns) for name in names[:in_hand])
    if primary_turns > secondary_turns:
        raise OutOfDomainError(
            "primary_turns",
            primary_turns,
            f"at most the {secondary_turns} turns of the whole winding: the tap lies inside it",
        )
    both = (Strand("long", 1, secondary_turns), Strand("primary", 1, primary_turns))
    return both[: len(names)]
