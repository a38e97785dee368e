"""Transmission lines: cables by their loss law, lengths of them, and open coax as a capacitor."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from yielding_coil.core.arrays import (
    Complex,
    Complexes,
    Real,
    Reals,
    complex_of,
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
        if f.ndim != 1:
            return self._propagation(f)
        try:
            return _propagated(self, f.tobytes())
        except TypeError:  # of many builds: arrays are no key
            return self._propagation(f)

    def _propagation(self, f: Real) -> tuple[Complex, Complex]:
        per_metre = NEPER_PER_DB / 100
        conductor = (self.loss_sqrt * per_metre / 1e3) * np.sqrt(f)
        if not is_zero(self.loss_constant):
            conductor = conductor + self.loss_constant * per_metre
        dielectric = (self.loss_linear * per_metre / 1e6) * f
        phase = (2 * math.pi / SPEED_OF_LIGHT_M_PER_S / self.velocity_factor) * f
        gamma = complex_of(conductor + dielectric, phase + conductor)
        shared = self.impedance_ohm / phase
        return gamma, complex_of(self.impedance_ohm + shared * conductor, shared * (dielectric - conductor))

    def capacitance_f_per_m(self) -> float:
        """Capacitance of a metre at low loss, 1/(v·R0)."""
        return float(1 / (self.velocity_factor * SPEED_OF_LIGHT_M_PER_S * self.impedance_ohm))


@lru_cache(maxsize=128)
def _propagated(cable: Cable, frequencies: bytes) -> tuple[Complex, Complex]:
    """It stays the same while a part is dragged; read-only, for many hold it."""
    found = cable._propagation(np.frombuffer(frequencies))
    for row in found:
        row.setflags(write=False)
    return found


@dataclass(frozen=True, slots=True)
class CableRow:
    """A class of cable, or one's own, with what is known of it; tolerances are two standard deviations.

    Args:
        key: its name in tables and designs.
        cable: as it computes.
        loss_tolerance, velocity_tolerance, impedance_tolerance: relative.
        source: where the figures are from.
        coax: else two wires.
        lowest_hz: below it the cable loses more than its law says; None where that is not known.
        outer_m: over the jacket of a coax; None where it is not known.
    """

    key: str
    cable: Cable
    loss_tolerance: float
    velocity_tolerance: float
    source: str
    note: str
    coax: bool
    lowest_hz: float | None
    impedance_tolerance: float = 0.02
    outer_m: float | None = None


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
        gamma, z0 = self.cable.propagation(frequency_hz)
        # By real functions: several times faster than the complex exponential, as exact here.
        grown = np.exp(np.minimum(gamma.real * self.length_m, MOST_NEPERS))
        phase = gamma.imag * self.length_m
        shrunk = 1 / grown
        sum_, difference = (grown + shrunk) / 2, (grown - shrunk) / 2
        cos, sin = np.cos(phase), np.sin(phase)
        cosh = complex_of(sum_ * cos, difference * sin)
        sinh = complex_of(difference * cos, sum_ * sin)
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

    def highest_swr(self, frequency_hz: Reals, reference_ohm: float | None = None) -> Real:
        """The highest SWR that the near end can show, whatever hangs on the far end.

        Args:
            frequency_hz: above zero.
            reference_ohm: what SWR is told against; the line's own impedance when left out.

        Source:
            Return loss is at least twice the matched loss; against another reference the disc of possible Γ
            is carried over, its farthest point (|q| + k)/(1 + |q|k), q the line's own Γ (Pozar, §2.3).
        """
        gamma, z0 = self.cable.propagation(frequency_hz)
        back = np.asarray(np.exp(-2 * gamma.real * self.length_m), dtype=float)
        if reference_ohm is not None:
            own = np.abs((z0 - reference_ohm) / (z0 + reference_ohm))
            back = (own + back) / (1 + own * back)
        return (1 + back) / (1 - back)

    def waves(self, frequency_hz: Reals, far_ohm: Complex) -> "Waves":
        """What travels on the line when `far_ohm`, whose resistance is above zero, closes its far end.

        Shapes (n,). No check is made: this is the inner part of a cascade that made them.
        """
        gamma, z0 = self.cable.propagation(frequency_hz)
        forward, backward = far_ohm + z0, far_ohm - z0
        phase = (2 * self.length_m) * gamma.imag
        grown = np.exp(np.minimum(gamma.real * self.length_m, MOST_NEPERS))
        shrunk = 1 / (grown * grown)
        returned = backward / forward * complex_of(np.cos(phase) * shrunk, -np.sin(phase) * shrunk)
        return Waves(far_ohm, z0, phase, gamma.real / (2 * gamma.imag), returned, np.abs(forward) * grown / 2)


@dataclass(frozen=True, slots=True)
class Waves:
    """The two waves on a line for one ampere into what closes its far end; arrays of shape (n,).

    Args:
        far_ohm: what closes the far end.
        z0: complex characteristic impedance.
        phase: of the wave there and back, in radians.
        decay: of a wave, in neper for each radian of that phase.
        returned: the wave back over the wave out, at the near end.
        out_v: size of the wave out at the near end.

    Source:
        Pozar, Microwave Engineering, 4th ed., §2.3 and §2.7, with a complex propagation constant.
    """

    far_ohm: Complex
    z0: Complex
    phase: Real
    decay: Real
    returned: Complex
    out_v: Real

    @property
    def near_ohm(self) -> Complex:
        """Impedance at the near end."""
        return self.z0 * (1 + self.returned) / (1 - self.returned)

    @property
    def current_ratio(self) -> Real:
        """Size of the current into the near end."""
        return self.out_v * np.abs(1 - self.returned) / np.abs(self.z0)

    def peaks(self, volts: Real, amperes: Real) -> tuple[Real, Real]:
        """Largest voltage and current anywhere on the line.

        |V|² is a sum of two exponentials, which bends upwards, and a cosine; into a load that takes power the
        wave out is the larger one, so of the crests the one next to the near end is highest, and the largest
        lies there or at an end. The crest is taken where the waves are in phase; losses shift it, which a
        nearly matched line at 2 MHz shows by 0.3 %.

        Args:
            volts, amperes: peaks at the far end and at the near one, shape (2, n).
        """
        # How far from the near end the waves are in phase, as their phase against each other: first row
        # voltage, second current, whose crests lie half a turn away.
        angle = np.arctan2(self.returned.imag, self.returned.real)
        last = np.empty((2, *angle.shape))
        np.subtract(math.pi, angle, out=last[1])
        np.subtract((2 * math.pi) * (angle > 0), angle, out=last[0])
        before = np.exp(self.decay * last)
        out_v = self.out_v * amperes[0]
        crest = out_v / before + (out_v * np.abs(self.returned)) * before
        crest *= last <= self.phase
        crest[1] /= np.abs(self.z0)
        return (
            np.maximum(np.maximum(crest[0], volts[0]), volts[1]),
            np.maximum(np.maximum(crest[1], amperes[0]), amperes[1]),
        )


# What a line loses beyond so much no number holds, and nothing is seen through it.
MOST_NEPERS = 300.0
# Behind so much matched loss an antenna and a resistor read alike (return loss 20 dB, SWR 1.22 at most).
HIDDEN_DB = 10.0


def highest_swr_behind(loss_db: Real) -> Real:
    """The highest SWR, against the line itself, that can be read through a matched loss in dB; shape kept.

    >>> float(highest_swr_behind(np.array(10.0)).round(2))
    1.22
    """
    back = 10 ** (-loss_db / 10)
    return np.asarray((1 + back) / np.maximum(1 - back, 1e-9))


def hides_antenna(loss_db: float) -> bool:
    """Whether so much matched loss makes an antenna and a resistor read alike."""
    return loss_db >= HIDDEN_DB


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
        # tanh(a + jb) = (sinh 2a + j sin 2b)/(cosh 2a + cos 2b): faster than the complex functions.
        grown = np.exp(np.minimum((2 * self.length_m) * gamma.real, MOST_NEPERS))
        phase = (2 * self.length_m) * gamma.imag
        shrunk = 1 / grown
        over = (2 * self.capacity_factor) / (grown + shrunk + 2 * np.cos(phase))
        line_s = complex_of((grown - shrunk) / 2 * over, np.sin(phase) * over) / z0
        return complex_of(line_s.real, line_s.imag + (2 * math.pi * self.end_f) * f)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm at each frequency."""
        return 1 / self.admittance_s(frequency_hz)

    def capacitance_f(self, frequency_hz: float) -> float:
        """The capacitor that it acts as: tan(βl)/(ωZ0), more than C'·l, plus its end."""
        return float(self.admittance_s(frequency_hz).imag / (2 * math.pi * frequency_hz))


def pair_ohm(diameter_m: float, apart_m: float, permittivity: float = 1.0) -> float:
    """Characteristic impedance of two round wires side by side, lossless, far from anything else.

    Args:
        diameter_m: of the metal of each.
        apart_m: from middle to middle, above the diameter.
        permittivity: relative, of what lies between them.

    Raises:
        OutOfDomainError: a value is not above zero, or the wires touch.

    Source:
        Pozar, Microwave Engineering, table 2.1, two-wire line: L/C gives η·arcosh(D/2a)/π.
    """
    require_positive("diameter_m", diameter_m)
    require_positive("permittivity", permittivity)
    if apart_m <= diameter_m:
        raise OutOfDomainError("apart_m", f"{apart_m:g}", f"above the wires' diameter, {diameter_m:g}")
    return 120 / math.sqrt(permittivity) * math.acosh(apart_m / diameter_m)


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
