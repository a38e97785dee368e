"""Traps: a coil and a capacitor across each other in a wire, of parts or of coax, and what they do to a leg."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from scipy.optimize import brentq

from yielding_coil.core.arrays import Complex, Real, Reals, require_not_negative, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import NotMatchableError, OutOfDomainError
from yielding_coil.core.line import Cable
from yielding_coil.core.parts import Inductor
from yielding_coil.core.solenoid import Solenoid

# Mica stands far above the coil in Q (1,000 to 3,000, from memory).
CAPACITOR_Q = 1500.0
# A braided shield loses so many times what round wire of its size would: four of them what a smooth tube carries on
# its inside alone, the rest the braid's (from memory: coax traps show a Q of 100 to 200).
BRAID = 10.0


@dataclass(frozen=True, slots=True)
class Trap:
    """A coil and a capacitor across each other.

    Args:
        inductance_h: of the coil, its own capacitance counted with the capacitor.
        capacitance_f: of everything across it.
        q: of the coil at resonance; it grows as √f.
        capacitor_q: of the capacitor, the same everywhere.

    Raises:
        OutOfDomainError: a value is not above zero.

    >>> trap = Trap(1.543e-6, 50e-12, 250)
    >>> round(trap.resonance_hz / 1e6, 2)
    18.12
    """

    inductance_h: Reals
    capacitance_f: Reals
    q: Reals
    capacitor_q: float = CAPACITOR_Q

    def __post_init__(self) -> None:
        for name in ("inductance_h", "capacitance_f", "q", "capacitor_q"):
            require_positive(name, getattr(self, name))

    @property
    def resonance_hz(self) -> float:
        """Where its reactances cancel; that of the mean values where they are several."""
        return _resonance(float(np.asarray(self.inductance_h).mean()), float(np.asarray(self.capacitance_f).mean()))

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens, broadcast over values and frequencies."""
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        coil = Inductor(self.inductance_h, self.q, self.resonance_hz).admittance_s(frequency_hz)
        return np.asarray(coil + omega * self.capacitance_f * (1j + 1 / self.capacitor_q), dtype=complex)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm, broadcast over values and frequencies."""
        return np.asarray(1 / self.admittance_s(frequency_hz), dtype=complex)

    def acts_as_h(self, frequency_hz: float) -> float:
        """The inductance it acts as, X/ω; negative above its resonance, where it acts as a capacitor."""
        require_positive("frequency_hz", frequency_hz)
        return float(self.impedance_ohm(frequency_hz).imag / (2 * math.pi * frequency_hz))


def coil_for(capacitance_f: float, resonance_hz: float) -> float:
    """Inductance that resonates a capacitance, henry.

    Raises:
        OutOfDomainError: a value is not above zero.
    """
    require_positive("capacitance_f", capacitance_f)
    require_positive("resonance_hz", resonance_hz)
    return 1 / ((2 * math.pi * resonance_hz) ** 2 * capacitance_f)


def housed_hz(resonance_hz: float, capacitance_f: float, added_f: float) -> float:
    """Where it resonates once a tube, glue or screws put so much more capacitance across it."""
    require_not_negative("added_f", added_f)
    return resonance_hz / math.sqrt(1 + added_f / capacitance_f)


def _resonance(inductance_h: float, capacitance_f: float) -> float:
    return 1 / (2 * math.pi * math.sqrt(inductance_h * capacitance_f))


@dataclass(frozen=True, slots=True)
class CoaxTrap:
    """A trap wound of coax: the shield's end joined to the centre's beginning, the other two ends its terminals.

    Shield and centre are two coils that share their field, one after the other: four times the inductance of the
    shield's turns, and the inductance of the line itself. Between them lies half the trap's voltage all along, so
    that the capacitance of the coax counts a quarter.

    Args:
        coil: the shield's turns: diameter to the middle of the coax, pitch, turns, diameter of the shield.
        cable: the coax.

    Source:
        Two equal coils with full coupling in series, L + L + 2M (any text on coupled circuits), and the energy in a
        capacitance at half the voltage; the line's own inductance is Z0/v a metre (Pozar, 4th ed., §2.1).
    """

    coil: Solenoid
    cable: Cable

    @property
    def length_m(self) -> float:
        """Of coax in the winding."""
        return self.coil.wire_length_m

    @property
    def inductance_h(self) -> float:
        """Between its terminals."""
        cable = self.cable
        a_metre = float(cable.impedance_ohm) / float(cable.velocity_factor) / SPEED_OF_LIGHT_M_PER_S
        return 4 * self.coil.inductance_h + a_metre * self.length_m

    @property
    def capacitance_f(self) -> float:
        """Between its terminals: a quarter of the coax's, and the coil's own."""
        return self.cable.capacitance_f_per_m() * self.length_m / 4 + self.coil.self_capacitance_f

    @property
    def resonance_hz(self) -> float:
        """Where it traps."""
        return _resonance(self.inductance_h, self.capacitance_f)

    def trap(self) -> Trap:
        """As a circuit. The loss is that of both conductors, the same current in each."""
        at = self.resonance_hz
        shield = BRAID * float(self.coil.resistance_ohm(at))
        # The centre loses what the coax loses when matched, nearly all of it in the centre: R ≈ 2·Z0·α.
        nepers = float(self.cable.propagation(at)[0].real) * self.length_m
        ohm = shield + 2 * float(self.cable.impedance_ohm) * nepers
        return Trap(self.inductance_h, self.capacitance_f, 2 * math.pi * at * self.inductance_h / ohm, 1e4)


def coax_turns_for(resonance_hz: float, former_m: float, outer_m: float, shield_m: float, cable: Cable) -> CoaxTrap:
    """Touching turns of coax on a former that trap a frequency, in quarters of a turn.

    Args:
        former_m: diameter of the former.
        outer_m, shield_m: of the coax over its jacket and over its shield.

    Raises:
        NotMatchableError: between one and a hundred turns none does.
    """
    require_positive("resonance_hz", resonance_hz)

    def wound(turns: float) -> CoaxTrap:
        return CoaxTrap(Solenoid(former_m + outer_m, outer_m, turns, shield_m), cable)

    def off(turns: float) -> float:
        return wound(turns).resonance_hz / resonance_hz - 1

    if off(1.0) < 0 or off(100.0) > 0:
        raise NotMatchableError(
            f"no winding of this coax on a {former_m * 1e3:.3g} mm former traps {resonance_hz / 1e6:.4g} MHz",
            accepted="another former, or a trap of a coil and a capacitor",
        )
    return wound(round(4 * float(brentq(off, 1.0, 100.0, xtol=1e-4))) / 4)


class Borne(NamedTuple):
    """What one trap bears with a power into the antenna: peaks of the sine, watts in it and in all traps.

    `radiates_ohm` is the estimate of the feedpoint's resistance without the traps' loss.
    """

    voltage_v: Real
    current_a: Real
    trap_w: Real
    all_traps_w: Real
    radiates_ohm: Real
    reactance_ohm: Real


def _line_ohm(length_m: Reals, radius_m: float) -> Real:
    """Mean characteristic impedance of a wire of its own length."""
    return np.asarray(60 * (np.log(2 * np.asarray(length_m) / radius_m) - 1))


def _beyond(outer_m: Reals, radius_m: float, trap_ohm: Complex, f: Reals) -> Complex:
    """The trap and the wire beyond it, as the inner section sees them."""
    turn = 2 * math.pi * np.asarray(f) / SPEED_OF_LIGHT_M_PER_S * outer_m
    return np.asarray(trap_ohm - 1j * _line_ohm(outer_m, radius_m) / np.tan(turn))


def _reactance(inner_m: Reals, outer_m: Reals, radius_m: float, trap_ohm: Complex, f: Reals) -> Real:
    """Of a leg at its feedpoint; shapes broadcast."""
    turn = 2 * math.pi * np.asarray(f) / SPEED_OF_LIGHT_M_PER_S * inner_m
    z0, beyond = _line_ohm(inner_m, radius_m), _beyond(outer_m, radius_m, trap_ohm, f)
    c, s = np.cos(turn), np.sin(turn)
    return np.asarray((z0 * (beyond * c + 1j * z0 * s) / (z0 * c + 1j * beyond * s)).imag)


@dataclass(frozen=True, slots=True)
class TrappedLeg:
    """A leg of wire with a trap in it, by the line estimate: each section an open or closed line of its own.

    Good to some percent for thin wires that stand clear; wires computed in full will take its place. What is fed
    is a leg against ground, or two legs alike.

    Args:
        inner_m: from the feedpoint to the trap.
        outer_m: beyond it.
        radius_m: of the wire.
        trap: in between.
        legs: 1 against ground, 2 for a dipole.

    Source:
        X = Ka·cot βh for the section beyond, tan βh for the one before, Ka = 60·(ln(2h/a) − 1) with each section's
        own length (common practice; after Schelkunoff, Proc. IRE 29, 1941, from memory).
    """

    inner_m: float
    outer_m: float
    radius_m: float
    trap: Trap
    legs: int = 2

    def __post_init__(self) -> None:
        for name in ("inner_m", "outer_m", "radius_m"):
            require_positive(name, getattr(self, name))
        if self.legs not in (1, 2):
            raise OutOfDomainError("legs", self.legs, "1 against ground or 2 for a dipole")

    def reactance_ohm(self, frequency_hz: Reals) -> Real:
        """Of one leg at the feedpoint; zero where the antenna resonates."""
        f = np.asarray(frequency_hz, dtype=float)
        return _reactance(self.inner_m, self.outer_m, self.radius_m, self.trap.impedance_ohm(f), f)

    def borne(self, frequency_hz: Reals, power_w: float) -> Borne:
        """What a trap bears with so much power into the antenna.

        Args:
            frequency_hz: near where the antenna resonates.
            power_w: peak envelope power, zero or more.

        Source:
            The resistance from the current along the wire: 73 Ω for the half sine of a dipole, in proportion to the
            square of the current's sum over the length (Balanis, Antenna Theory, §4.3 and §4.6).
        """
        require_not_negative("power_w", power_w)
        f = np.atleast_1d(np.asarray(frequency_hz, dtype=float))
        beta = 2 * math.pi * f / SPEED_OF_LIGHT_M_PER_S
        turn, z0 = beta * self.inner_m, _line_ohm(self.inner_m, self.radius_m)
        beyond = _beyond(self.outer_m, self.radius_m, self.trap.impedance_ohm(f), f)
        # With one ampere through the trap.
        feed_a = np.cos(turn) + 1j * beyond / z0 * np.sin(turn)
        inner = (np.sin(turn) + 1j * beyond / z0 * (1 - np.cos(turn))) / beta
        outer = np.tan(beta * self.outer_m / 2) / beta
        # Metres of the full current: λ/2π a leg for a quarter wave.
        metres = np.abs(inner + outer) / np.maximum(np.abs(feed_a), 1e-9)
        radiates = 73.1 * self.legs / 2 * (metres * beta) ** 2
        trap_ohm = self.trap.impedance_ohm(f)
        lost = self.legs * trap_ohm.real / np.maximum(np.abs(feed_a), 1e-9) ** 2
        amperes2 = 2 * power_w / (radiates + lost) / np.maximum(np.abs(feed_a), 1e-9) ** 2
        watts = amperes2 * trap_ohm.real / 2
        return Borne(
            np.sqrt(amperes2) * np.abs(trap_ohm),
            np.sqrt(amperes2),
            watts,
            self.legs * watts,
            np.asarray(radiates),
            self.reactance_ohm(f),
        )


def leg_for(trap: Trap, high_hz: float, low_hz: float, radius_m: float, legs: int = 2) -> TrappedLeg:
    """The leg that resonates on both bands.

    Args:
        trap: tuned near the upper band.
        high_hz, low_hz: the middles of the bands.

    Raises:
        OutOfDomainError: the bands are not in that order.
        NotMatchableError: this trap leaves no length that does: it loads the lower band too much.
    """
    require_positive("low_hz", low_hz)
    if not low_hz < high_hz:
        raise OutOfDomainError("low_hz", f"{low_hz / 1e6:.4g} MHz", f"below {high_hz / 1e6:.4g} MHz")
    quarter = SPEED_OF_LIGHT_M_PER_S / 4
    outer = 0.5 * quarter * (1 / low_hz - 1 / high_hz)
    inner = quarter / high_hz
    at_high, at_low = trap.impedance_ohm(high_hz), trap.impedance_ohm(low_hz)

    def inner_off(metres: Reals) -> Real:
        return _reactance(metres, outer, radius_m, at_high, high_hz)

    def outer_off(metres: Reals) -> Real:
        return _reactance(inner, metres, radius_m, at_low, low_hz)

    for _ in range(60):
        before = (inner, outer)
        inner = _zero(inner_off, inner)
        outer = _zero(outer_off, outer)
        if abs(inner - before[0]) + abs(outer - before[1]) < 1e-6:
            break
    return TrappedLeg(inner, outer, radius_m, trap, legs)


def _zero(of: Callable[[Reals], Real], near: float) -> float:
    """The length nearest to one at which a reactance passes zero upwards."""
    lengths = near * np.geomspace(0.02, 5.0, 480)
    values = of(lengths)
    rising = np.flatnonzero((values[:-1] < 0) & (values[1:] >= 0) & (np.abs(np.diff(values)) < 5e3))
    if rising.size == 0:
        raise NotMatchableError(
            "no length of wire makes both bands resonate with this trap",
            accepted="a smaller coil with a larger capacitor, which loads the lower band less",
        )
    at = int(rising[np.argmin(np.abs(np.log(lengths[rising] / near)))])
    return float(brentq(lambda m: float(of(m)), float(lengths[at]), float(lengths[at + 1]), xtol=1e-7))
