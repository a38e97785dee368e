"""Transmission lines: cables by their loss law, lengths of them, and open coax as a capacitor."""

import math
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import (
    Complex,
    Complexes,
    Real,
    Reals,
    is_zero,
    require_finite,
    require_not_negative,
    require_positive,
)
from yielding_coil.core.constants import NEPER_PER_DB, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError

# Stray capacitance of the cut end of a coax stub (practice, about 0.2 pF).
OPEN_END_F = 0.2e-12


@dataclass(frozen=True, slots=True)
class Cable:
    """A kind of line, by nominal data.

    Loss in dB/100 m is `loss_sqrt`·√MHz + `loss_linear`·MHz + `loss_constant`: conductor, dielectric, and
    what follows neither (a steel core below 20 MHz). The velocity factor is the high-frequency one.
    """

    name: str
    impedance_ohm: Reals
    velocity_factor: Reals
    loss_sqrt: Reals
    loss_linear: Reals
    loss_constant: Reals = 0.0

    def __post_init__(self) -> None:
        require_positive("impedance_ohm", self.impedance_ohm)
        require_positive("velocity_factor", self.velocity_factor)
        if (np.asarray(self.velocity_factor) > 1).any():
            raise OutOfDomainError("velocity_factor", np.max(self.velocity_factor), "above zero, at most 1")
        for name in ("loss_sqrt", "loss_linear", "loss_constant"):
            require_not_negative(name, getattr(self, name))

    def propagation(self, frequency_hz: Reals) -> tuple[Complex, Complex]:
        """Complex propagation constant (1/m) and characteristic impedance (ohm) at each frequency.

        Source:
            Wheeler, Proc. IRE 30, 1942: the skin effect's reactance equals its resistance, so
            γ = α_c + α_d + j(β0 + α_c) and Z0 = R0·(1 + ((1 − j)α_c + jα_d)/β0).
        """
        f = np.asarray(frequency_hz, dtype=float)
        per_metre = NEPER_PER_DB / 100
        conductor = (self.loss_sqrt * per_metre / 1e3) * np.sqrt(f)
        if not is_zero(self.loss_constant):
            conductor = conductor + self.loss_constant * per_metre
        dielectric = (self.loss_linear * per_metre / 1e6) * f
        phase = (2 * math.pi / SPEED_OF_LIGHT_M_PER_S / self.velocity_factor) * f
        gamma = np.asarray((conductor + dielectric) + 1j * (phase + conductor), dtype=complex)
        raised = (1 + conductor / phase) + 1j * ((dielectric - conductor) / phase)
        z0 = np.asarray(self.impedance_ohm * raised, dtype=complex)
        return gamma, z0

    def capacitance_f_per_m(self) -> float:
        """Capacitance of a metre at low loss, 1/(v·R0)."""
        return float(1 / (self.velocity_factor * SPEED_OF_LIGHT_M_PER_S * self.impedance_ohm))


@dataclass(frozen=True, slots=True)
class Line:
    """A length of cable between what hangs on its far end and its near end.

    >>> import numpy as np
    >>> quarter = Line(Cable("75 ohm", 75.0, 0.66, 0.0, 0.0), 1.735)
    >>> abs(quarter.input_impedance(28.51e6, 112.5).round(0))
    np.float64(50.0)
    """

    cable: Cable
    length_m: Reals

    def __post_init__(self) -> None:
        require_not_negative("length_m", self.length_m)

    def chain(self, frequency_hz: Reals) -> tuple[Complex, Complex, Complex, Complex]:
        """ABCD of the line from its near (radio) end to its far end: A, B (ohm), C (siemens), D.

        Source:
            Pozar, Microwave Engineering, 4th ed., Table 4.1, with a complex propagation constant.
        """
        return self.chain_of(*self.cable.propagation(frequency_hz))

    def chain_of(self, gamma: Complex, z0: Complex) -> tuple[Complex, Complex, Complex, Complex]:
        """The same from the cable's propagation, where that is known already."""
        up = np.exp(gamma * self.length_m)
        cosh = np.asarray((up + 1 / up) / 2, dtype=complex)
        sinh = np.asarray((up - 1 / up) / 2, dtype=complex)
        return cosh, z0 * sinh, sinh / z0, cosh

    def input_impedance(self, frequency_hz: Reals, load_ohm: Complexes) -> Complex:
        """Impedance at the near end when `load_ohm` closes the far end.

        Args:
            frequency_hz: shape (n,) or one, above zero.
            load_ohm: same shape, finite.

        Returns:
            Same shape, in ohm.

        Raises:
            OutOfDomainError: a frequency is not above zero, or a load not finite.

        Source:
            Pozar, Microwave Engineering, 4th ed., eq. (2.91).
        """
        require_positive("frequency_hz", frequency_hz)
        require_finite("load_ohm", load_ohm)
        a, b, c, d = self.chain(frequency_hz)
        return (a * load_ohm + b) / (c * load_ohm + d)

    def load_impedance(self, frequency_hz: Reals, input_ohm: Complexes) -> Complex:
        """Impedance on the far end that shows `input_ohm` at the near end: the plane moved to the feedpoint.

        The inverse magnifies errors of length, loss and reading; a long line may hide the far end altogether.

        Raises:
            OutOfDomainError: a frequency is not above zero, or an impedance not finite.
        """
        require_positive("frequency_hz", frequency_hz)
        require_finite("input_ohm", input_ohm)
        a, b, c, d = self.chain(frequency_hz)
        return (d * input_ohm - b) / (a - c * input_ohm)

    def matched_loss_db(self, frequency_hz: Reals) -> Real:
        """Loss in dB when the line is closed by its own impedance."""
        require_positive("frequency_hz", frequency_hz)
        gamma, _ = self.cable.propagation(frequency_hz)
        return np.real(gamma) * self.length_m / NEPER_PER_DB

    def loss_db(self, frequency_hz: Reals, load_ohm: Complexes) -> Real:
        """Total loss in dB with this load: the ratio of the real powers at the two ends.

        Raises:
            OutOfDomainError: a frequency is not above zero, a load not finite or without resistance.
        """
        require_positive("frequency_hz", frequency_hz)
        require_finite("load_ohm", load_ohm)
        require_positive("load_ohm (its resistance)", np.asarray(load_ohm, dtype=complex).real)
        a, b, c, d = self.chain(frequency_hz)
        load = np.asarray(load_ohm, dtype=complex)
        near_w = np.asarray(((a * load + b) * np.conj(c * load + d)).real, dtype=float)
        return 10 * np.log10(near_w / load.real)

    def highest_swr(self, frequency_hz: Reals) -> Real:
        """The highest SWR that the near end can show, whatever hangs on the far end."""
        gamma, _ = self.cable.propagation(frequency_hz)
        back = np.asarray(np.exp(-2 * gamma.real * self.length_m), dtype=float)
        return (1 + back) / (1 - back)

    def peaks_along(self, gamma: Complex, z0: Complex, far_v: Complex, far_i: Complex) -> tuple[Real, Real]:
        """Largest voltage and current anywhere on the line.

        Voltage and current at the far end come in, RMS or peak, and the same kind goes out; `gamma` and `z0`
        are the cable's propagation. All of shape (n,).

        |V|² is a sum of two exponentials, which bends upwards, and a cosine; into a load that takes power the
        wave out is the larger one, so of the crests the one next to the near end is highest, and the largest
        lies there or at an end. The crest is taken where the waves are
        in phase; losses shift it, which a nearly matched line at 2 MHz shows by 0.3 %.
        """
        alpha, turn = gamma.real, 2 * gamma.imag
        through_z0 = z0 * far_i
        forward, backward = (far_v + through_z0) / 2, (far_v - through_z0) / 2
        out, back = np.abs(forward), np.abs(backward)
        grown = np.exp(alpha * self.length_m)
        # The waves' phase against each other is `turned` at the far end and grows by `whole` along the line.
        # First row voltage, second current, whose crests lie half a turn away.
        turned = np.arctan2(*_parts(forward * np.conj(backward))) + _HALF_TURN
        whole = turn * self.length_m
        near = (out * grown) ** 2 + (back / grown) ** 2 + 2 * out * back * np.cos(turned + whole)
        last = _in_turn(turned + whole)
        before = grown * np.exp(-alpha / turn * last)
        largest = np.maximum(np.abs(np.stack([far_v, through_z0])), np.sqrt(np.abs(near)))
        largest = np.maximum(largest, (last <= whole) * (out * before + back / before))
        return largest[0], largest[1] / np.abs(z0)


_HALF_TURN = np.array([[0.0], [math.pi]])


def _parts(values: Complex) -> tuple[Real, Real]:
    """Imaginary part, then real, as the arctangent takes them."""
    return values.imag, values.real


def _in_turn(phase: Real) -> Real:
    """Phase from zero up to one turn."""
    return phase - 2 * math.pi * np.floor(phase / (2 * math.pi))


@dataclass(frozen=True, slots=True)
class OpenCoax:
    """A piece of coax, open at its far end, used as a capacitor.

    Args:
        cable: what it is cut from.
        length_m: of the shielded part.
        end_f: stray capacitance of the open end.
        capacity_factor: real over nominal capacitance of the cable; 1 unless a spread is looked at.
    """

    cable: Cable
    length_m: float
    end_f: Reals = OPEN_END_F
    capacity_factor: Reals = 1.0

    def __post_init__(self) -> None:
        require_positive("length_m", self.length_m)

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens at each frequency: tanh(γl)/Z0, with its end."""
        f = np.asarray(frequency_hz, dtype=float)
        gamma, z0 = self.cable.propagation(f)
        back = np.exp(-2 * self.length_m * gamma)
        tanh = (1 - back) / (1 + back)  # several times faster than the library's, as exact here
        return self.capacity_factor * (tanh / z0) + 1j * (2 * math.pi * f) * self.end_f

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm at each frequency."""
        return 1 / self.admittance_s(frequency_hz)

    def capacitance_f(self, frequency_hz: float) -> float:
        """The capacitor that it acts as: tan(βl)/(ωZ0), more than C'·l, plus its end."""
        return float(self.admittance_s(frequency_hz).imag / (2 * math.pi * frequency_hz))


def open_coax_for(capacitance_f: float, cable: Cable, frequency_hz: float) -> OpenCoax:
    """The length of open coax that acts as this capacitor at one frequency.

    Raises:
        OutOfDomainError: the capacitor is not larger than the open end's own stray.

    >>> coax = Cable("5 mm solid PE", 50.0, 0.66, 1.35, 0.025)
    >>> round(open_coax_for(6.55e-12, coax, 21.225e6).length_m, 4)
    0.0628
    """
    if not capacitance_f > OPEN_END_F:
        raise OutOfDomainError(
            "capacitance_f", capacitance_f, f"more than the {OPEN_END_F * 1e12:.1f} pF of an open end"
        )
    gamma, z0 = cable.propagation(frequency_hz)
    wanted_s = 2 * math.pi * frequency_hz * (capacitance_f - OPEN_END_F)
    # Lossless first (tan), then one step of Newton would not move the fourth digit: losses are below 1 %.
    length = math.atan(wanted_s * abs(complex(z0))) / float(gamma.imag)
    return OpenCoax(cable, length)
