"""Lengths of line that are part of a match: sections passed through, and stubs beside the way."""

import math
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from yielding_coil.core.design.design import law_findings
from yielding_coil.core.element import AtWork, Tick
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import DesignCode, Finding
from yielding_coil.core.line import CableRow, End, Line, Stub
from yielding_coil.core.tolerance import Spread

# How well hands cut a piece of line, ends prepared, two standard deviations (common practice).
CUT_ERROR_M = 0.004
# Stubs are cut longer and trimmed; a section has to fit as it is.
STUB_ALLOWANCE_M = 0.02
# Steps of a ruler of line, and how many marks it holds at the most.
STEPS_M, MOST_MARKS, WIDEST_STEP_M = (0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5), 14, 1.0
SHORTEST_M = 0.001


@dataclass(frozen=True, slots=True)
class SectionToMake:
    """A length of line to cut: `degrees` at the centre, `pieces` of it side by side."""

    key: str
    cable_name: str
    impedance_ohm: float
    velocity_factor: float
    length_m: float
    pieces: int
    degrees: float
    loss_db: float
    peak_voltage_v: float
    peak_current_a: float
    kind: Literal["section"] = "section"


@dataclass(frozen=True, slots=True)
class StubToMake:
    """A stub to cut, somewhat longer, and to trim; `degrees` at the centre."""

    key: str
    cable_name: str
    impedance_ohm: float
    velocity_factor: float
    length_m: float
    cut_m: float
    end: End
    degrees: float
    peak_voltage_v: float
    peak_current_a: float
    coax: bool
    kind: Literal["stub"] = "stub"


@dataclass(frozen=True, slots=True, kw_only=True)
class _OfLine:
    """What every length of line in a match has.

    Args:
        key: its name in the design.
        cable: what it is cut from.
        length_m: above zero.
    """

    key: str
    cable: CableRow
    length_m: float

    by_hand: ClassVar[bool] = True

    @property
    def spread(self) -> float:
        """Of its electrical length: the cable's velocity, and how well it is cut; two standard deviations."""
        return math.hypot(self.cable.velocity_tolerance, CUT_ERROR_M / self.length_m)

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray: its electrical length, and the cable's impedance."""
        return (
            Spread(self.key, self.key, "length_m", self.spread),
            Spread(f"{self.key} impedance", self.key, "impedance_ohm", self.cable.impedance_tolerance),
        )

    def degrees(self, center_hz: float, length_m: float | None = None) -> float:
        """How long it is at the centre, electrically."""
        gamma, _ = self.cable.cable.propagation(center_hz)
        return math.degrees(float(gamma.imag) * (self.length_m if length_m is None else length_m))

    def mark(self, center_hz: float, make: float) -> Tick:
        """So many metres of it.

        Raises:
            OutOfDomainError: none at all.
        """
        if not make > 0:
            raise OutOfDomainError("make", f"{make:g} m", "above zero")
        return Tick(make, make)

    def ruler(self, center_hz: float, low: float, high: float) -> list[Tick]:
        """Marks for whole steps of length between two lengths in metres."""
        step = next((s for s in STEPS_M if (high - low) / s <= MOST_MARKS), WIDEST_STEP_M)
        lengths = (np.arange(math.ceil(max(low, SHORTEST_M) / step - 1e-9), high / step + 1e-9) * step).tolist()
        return [Tick(m, m) for m in lengths]

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """Where its cable leaves its law."""
        return law_findings(self.key, self.cable, at.center_hz)


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchSection(_OfLine):
    """A length of line that the power passes through: a quarter wave, a series section.

    Args:
        pieces: one, or two of the same length side by side, which halve the impedance.
    """

    pieces: Literal[1, 2] = 1
    place: Literal["through"] = "through"

    trimmed_in_place: ClassVar[bool] = False

    def part(self, center_hz: float) -> Line:
        """The line by its cable and length."""
        cable = self.cable.cable
        return Line(replace(cable, impedance_ohm=cable.impedance_ohm / self.pieces), self.length_m)

    def to_make(self, at: AtWork) -> SectionToMake:
        """How long to cut it."""
        cable = self.cable.cable
        return SectionToMake(
            key=self.key,
            cable_name=cable.name,
            impedance_ohm=float(np.asarray(cable.impedance_ohm)),
            velocity_factor=float(np.asarray(cable.velocity_factor)),
            length_m=self.length_m,
            pieces=self.pieces,
            degrees=self.degrees(at.center_hz),
            loss_db=at.loss_db,
            peak_voltage_v=at.peak_voltage_v,
            peak_current_a=at.peak_current_a / self.pieces,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchStub(_OfLine):
    """A length of line across the way, open or shorted at its far end; of two wires it is a hairpin.

    Args:
        end: what its far end is.
    """

    end: End
    place: Literal["series", "shunt"] = "shunt"

    trimmed_in_place: ClassVar[bool] = True

    def part(self, center_hz: float) -> Stub:
        """The stub by its cable and length."""
        return Stub(self.cable.cable, self.length_m, self.end)

    def to_make(self, at: AtWork) -> StubToMake:
        """How long to cut it."""
        cable = self.cable.cable
        return StubToMake(
            key=self.key,
            cable_name=cable.name,
            impedance_ohm=float(np.asarray(cable.impedance_ohm)),
            velocity_factor=float(np.asarray(cable.velocity_factor)),
            length_m=self.length_m,
            cut_m=self.length_m + STUB_ALLOWANCE_M,
            end=self.end,
            degrees=self.degrees(at.center_hz),
            peak_voltage_v=at.peak_voltage_v,
            peak_current_a=at.peak_current_a,
            coax=self.cable.coax,
        )
