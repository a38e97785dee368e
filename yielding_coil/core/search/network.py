"""A network without values: its parts, what its lines are cut from; and the antenna that it is asked to match."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.line import CableRow, End, Line
from yielding_coil.core.search.kernel import REFERENCE_OHM, reflection_squared
from yielding_coil.core.search.topology import Slot, Topology
from yielding_coil.core.target import Target, judged_at


class OfLine(NamedTuple):
    """What a section or a stub is cut from: one or more pieces side by side, its end where it is a stub."""

    row: CableRow
    pieces: int = 1
    end: End | None = None

    @property
    def impedance_ohm(self) -> float:
        """Of all pieces together."""
        return float(np.asarray(self.row.cable.impedance_ohm)) / self.pieces

    def line(self, length_m: Real) -> Line:
        """So much of it, passed through."""
        cable = replace(self.row.cable, impedance_ohm=self.impedance_ohm)
        return Line(cable, length_m)


# A length of line is called a quarter wave within so many degrees of one (common practice).
QUARTER_WITHIN_DEG = 12.0


def is_quarter_wave(slot: Slot, value: float) -> bool:
    """Whether a part is a section of line about a quarter of a wave long."""
    return slot.kind in ("section", "pair") and abs(value - 90.0) <= QUARTER_WITHIN_DEG


@dataclass(frozen=True, slots=True)
class Network:
    """A topology with what its lines are cut from: one entry a part, None where it is no line."""

    topology: Topology
    lines: tuple[OfLine | None, ...]

    @property
    def key(self) -> str:
        """Its name: parts, and impedances of lines."""
        of = [
            "" if line is None else f"@{line.impedance_ohm:.0f}{'' if line.end is None else line.end[0]}"
            for line in self.lines
        ]
        return " ".join(f"{s.place}-{s.kind}{o}" for s, o in zip(self.topology.slots, of, strict=True)) or "none"


@dataclass(frozen=True, slots=True)
class Question:
    """An antenna on its targets, read once.

    Args:
        frequency_hz: shape (targets · points,).
        antenna: over 50 Ω, there.
        limits: SWR, one for each target.
    """

    frequency_hz: Real
    antenna: Complex
    limits: Real
    center_hz: float

    @classmethod
    def of(cls, impedance_at: Callable[[Real], Complex], targets: Sequence[Target], points: int) -> "Question":
        """From an antenna that is known over all targets."""
        frequency, _ = judged_at(targets, points)
        return cls(
            frequency,
            np.asarray(impedance_at(frequency)) / REFERENCE_OHM,
            np.array([t.swr_limit for t in targets]),
            targets[0].center_hz,
        )

    @property
    def targets(self) -> int:
        """How many there are."""
        return len(self.limits)

    def loads(self) -> Iterator[tuple[float, complex]]:
        """Frequency and impedance in the middle of each target, Ω."""
        points = self.frequency_hz.size // self.targets
        for k in range(self.targets):
            at = k * points + points // 2
            yield float(self.frequency_hz[at]), complex(self.antenna[at]) * REFERENCE_OHM

    def excess(self, badness: Real) -> Real:
        """The worst SWR over its limit, of what the kernel judged; shape (networks,)."""
        gamma = np.sqrt(reflection_squared(badness))
        with np.errstate(divide="ignore"):
            swr = (1 + gamma) / np.maximum(1 - gamma, 0.0)
        return np.asarray((swr / self.limits).max(axis=-1))
