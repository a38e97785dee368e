"""One-port parts that stand in a network: coils and capacitors with loss, and fixed loads.

Values may be arrays that broadcast against the frequency: shape (builds, 1) makes many builds at once.
"""

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Reals, is_zero, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError


def bare_inductance_h(reading_h: float, frequency_hz: float, own_f: float) -> float:
    """What a coil's turns make, whose own capacitance raises what an analyser reads: 1/L = 1/L' + ω²·C.

    Args:
        reading_h: X/ω at the frequency, above zero.
        own_f: of the coil, across it.

    Source:
        A coil and a capacitor across each other (any text on circuits).
    """
    require_positive("reading_h", reading_h)
    return 1 / (1 / reading_h + (2 * math.pi * frequency_hz) ** 2 * own_f)


def inductance_reading_h(bare_h: float, frequency_hz: float, own_f: float) -> float:
    """What an analyser reads of turns of this inductance: `bare_inductance_h` the other way round.

    Raises:
        OutOfDomainError: at or above self-resonance, where it reads a capacitor.

    >>> round(inductance_reading_h(bare_inductance_h(2.28e-6, 21e6, 1.5e-12), 21e6, 1.5e-12) * 1e6, 6)
    2.28
    """
    inverse = 1 / bare_h - (2 * math.pi * frequency_hz) ** 2 * own_f
    if inverse <= 0:
        raise OutOfDomainError("inductance_h", f"{bare_h * 1e6:.3g} µH", "below its self-resonance")
    return 1 / inverse


def own_resonance_hz(inductance_h: float, own_f: float) -> float:
    """Where an inductance resonates with the capacitance across it; endless without one."""
    return 1 / (2 * math.pi * math.sqrt(inductance_h * own_f)) if own_f > 0 else math.inf


class OnePort(Protocol):
    """Anything with two ends that stands in series or across."""

    def impedance_ohm(self, frequency_hz: Reals) -> Complex: ...

    def admittance_s(self, frequency_hz: Reals) -> Complex: ...


# A larger capacitor of a winding is a slip of the unit (common practice: some ten to some thousand picofarads).
LARGEST_F = 10e-9


def require_of_a_winding(name: str, capacitance_f: float) -> None:
    """Raise OutOfDomainError for a capacitor that nobody puts to a winding."""
    if capacitance_f > LARGEST_F:
        raise OutOfDomainError(
            name, f"{capacitance_f:.3g} F", f"at most {LARGEST_F * 1e9:.0f} nF: was it meant in pF?"
        )


def _require_quality(q: Reals) -> None:
    """A Q is above zero; endless where nothing is lost."""
    if not np.all(np.asarray(q) > 0):
        raise OutOfDomainError("q", float(np.min(q)), "above zero")


@dataclass(frozen=True, slots=True)
class Inductor:
    """A coil by its values.

    Args:
        inductance_h: above zero, well below self-resonance.
        q: at `q_at_hz`, growing as √f as the skin effect has it; at every frequency when that is left out.
        q_at_hz: where `q` holds.
        self_capacitance_f: across the coil.
    """

    inductance_h: Reals
    q: Reals = math.inf
    q_at_hz: float | None = None
    self_capacitance_f: Reals = 0.0

    def __post_init__(self) -> None:
        require_positive("inductance_h", self.inductance_h)
        _require_quality(self.q)
        require_not_negative("self_capacitance_f", self.self_capacitance_f)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm, broadcast over values and frequencies."""
        f = np.asarray(frequency_hz, dtype=float)
        # Loss angle first, on the frequencies alone: builds multiply it by one number each.
        loss = 1 / self.q if self.q_at_hz is None else math.sqrt(self.q_at_hz) / (self.q * np.sqrt(f))
        per_henry = np.asarray(2 * math.pi * f * (1j + loss), dtype=complex)
        arm = np.asarray(self.inductance_h * per_henry, dtype=complex)
        if is_zero(self.self_capacitance_f):
            return arm
        return arm / (1 + arm * (2j * math.pi * f * self.self_capacitance_f))

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens, broadcast over values and frequencies."""
        return np.asarray(1 / self.impedance_ohm(frequency_hz))


@dataclass(frozen=True, slots=True)
class Capacitor:
    """A capacitor by its values; Q the same at every frequency."""

    capacitance_f: Reals
    q: Reals = math.inf

    def __post_init__(self) -> None:
        require_positive("capacitance_f", self.capacitance_f)
        _require_quality(self.q)

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens, broadcast over values and frequencies."""
        per_farad = 2 * math.pi * np.asarray(frequency_hz, dtype=float) * (1j + 1 / self.q)
        return np.asarray(self.capacitance_f * per_farad, dtype=complex)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm, broadcast over values and frequencies."""
        return np.asarray(1 / self.admittance_s(frequency_hz))


@dataclass(frozen=True, slots=True)
class FixedLoad:
    """A resistor, or any impedance that stays the same, in place of an antenna."""

    load_ohm: Complexes

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """The same impedance at every frequency."""
        return np.broadcast_to(np.asarray(self.load_ohm, dtype=complex), np.shape(frequency_hz)).copy()


@dataclass(frozen=True, slots=True)
class Resistor:
    """A resistance that is the same at every frequency."""

    resistance_ohm: Reals

    def __post_init__(self) -> None:
        require_not_negative("resistance_ohm", self.resistance_ohm)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm, broadcast over values and frequencies."""
        return np.asarray(self.resistance_ohm + 0j * np.asarray(frequency_hz, dtype=float))

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens; endless where there is no resistance."""
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.asarray(1 / self.impedance_ohm(frequency_hz))
