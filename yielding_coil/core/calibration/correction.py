"""One-port calibration by short, open and load: what an analyser's own errors are, and what is left of them."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
from scipy.interpolate import CubicSpline

from yielding_coil.core.arrays import (
    Complex,
    Complexes,
    Real,
    Reals,
    require_finite,
    require_not_negative,
    require_positive,
)
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import CalibrationCode, Finding
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, swr_of
from yielding_coil.core.sweep import ReflectionUncertainty

Standard = Literal["short", "open", "load"]
STANDARDS: tuple[Standard, ...] = ("short", "open", "load")
# Two standards closer than this in Γ, in the middle of the sweep, are one and the same.
ALIKE = 0.2
# A corrected sweep that stays this near a standard is that standard.
LIKE_A_STANDARD = 0.03
# How far each of the three error terms wanders in an hour after it was measured: one standard deviation of each
# of its two parts (memory: a warm instrument and a lead that is moved now and then).
DRIFT_PER_HOUR = 0.001


@dataclass(frozen=True, slots=True)
class Kit:
    """What short, open and load really are, and how well that is known.

    Args:
        load_ohm: resistance of the load.
        open_f: fringing capacitance of the open.
        short_h: inductance of the short.
        open_offset_m, short_offset_m: electrical length between the plane and the standard.
        load_spread: two standard deviations of the load's resistance, relative (practice: 1 %).
        open_spread_f, short_spread_h: two standard deviations of the two (memory).
    """

    load_ohm: float = DEFAULT_REFERENCE_OHM
    open_f: float = 0.0
    short_h: float = 0.0
    open_offset_m: float = 0.0
    short_offset_m: float = 0.0
    load_spread: float = 0.01
    open_spread_f: float = 0.1e-12
    short_spread_h: float = 0.2e-9

    def __post_init__(self) -> None:
        require_positive("load_ohm", self.load_ohm)
        for name in ("load_spread", "open_spread_f", "short_spread_h"):
            require_not_negative(name, getattr(self, name))

    def reflections(self, frequency_hz: Reals) -> tuple[Complex, Complex, Complex]:
        """Γ of short, open and load against 50 Ω at each frequency.

        Source:
            Pozar, Microwave Engineering, 4th ed., eq. (2.35), turned by the offset's delay there and back.
        """
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        z0 = DEFAULT_REFERENCE_OHM
        x, b = omega * self.short_h / z0, omega * self.open_f * z0
        turn = 2j * omega / SPEED_OF_LIGHT_M_PER_S
        short = (1j * x - 1) / (1j * x + 1) * np.exp(-turn * self.short_offset_m)
        open_ = (1 - 1j * b) / (1 + 1j * b) * np.exp(-turn * self.open_offset_m)
        load = np.full(omega.shape, (self.load_ohm - z0) / (self.load_ohm + z0), dtype=complex)
        return np.asarray(short), np.asarray(open_), load

    def strays(self, frequency_hz: Reals) -> tuple[Complex, Complex, Complex]:
        """By how much Γ of short, open and load moves for one standard deviation of what is not known of them."""
        here = self.reflections(frequency_hz)
        moved = replace(
            self,
            load_ohm=self.load_ohm * (1 + self.load_spread / 2),
            open_f=self.open_f + self.open_spread_f / 2,
            short_h=self.short_h + self.short_spread_h / 2,
        ).reflections(frequency_hz)
        short, open_, load = (after - before for after, before in zip(moved, here, strict=True))
        return short, open_, load


IDEAL = Kit()


@dataclass(frozen=True, slots=True)
class Noise:
    """The scatter of raw reflections: root mean square of |δΓ| of one pass, and how many passes were averaged.

    Args:
        rms: of one pass over the antenna.
        passes: averaged over the antenna.
        standards_rms, standards_passes: the same while the standards were swept.
    """

    rms: float
    passes: int = 1
    standards_rms: float = 0.0
    standards_passes: int = 1


@dataclass(frozen=True, eq=False)
class Correction:
    """The three error terms of a one-port at each frequency: raw = (a·Γ + b)/(c·Γ + 1).

    b is the directivity, −c the source match, a + b·(−c) the tracking. Made by `one_port`.
    """

    a: Complex
    b: Complex
    c: Complex
    frequency_hz: Real | None = None
    kit: Kit = IDEAL

    def correct(self, raw_reflection: Complexes) -> Complex:
        """Γ at the plane of the standards.

        Args:
            raw_reflection: as the instrument gives it, at the frequencies of the calibration.

        Returns:
            Same shape.

        Raises:
            OutOfDomainError: another number of points than the calibration has, or values not finite.

        Source:
            Pozar, Microwave Engineering, 4th ed., §4.3 (a bilinear map, inverted).
        """
        raw = np.asarray(raw_reflection, dtype=complex)
        require_finite("raw_reflection", raw)
        if self.a.ndim and raw.shape[-1:] != self.a.shape:
            raise OutOfDomainError(
                "raw_reflection", f"of {raw.shape[-1:]} points", f"as many as the calibration has, {self.a.shape}"
            )
        return np.asarray((raw - self.b) / (self.a - self.c * raw))

    def raw_of(self, reflection: Complexes) -> Complex:
        """What the instrument shows of a Γ at the plane: the inverse of `correct`."""
        gamma = np.asarray(reflection, dtype=complex)
        return np.asarray((self.a * gamma + self.b) / (self.c * gamma + 1))

    @cached_property
    def _spline(self) -> CubicSpline[np.complex128]:
        known = np.asarray(self.frequency_hz)
        terms: Complex = np.stack([self.a, self.b, self.c], axis=-1)
        return CubicSpline(known, terms, bc_type="natural")

    def at(self, frequency_hz: Real) -> "Correction":
        """The correction at other frequencies inside its range, its terms read between those measured.

        Raises:
            OutOfDomainError: a frequency lies outside what was calibrated; or it knows none.
        """
        known = self.frequency_hz
        if known is None:
            raise OutOfDomainError("frequency_hz", "not known", "given to one_port, to read between its points")
        wanted = np.asarray(frequency_hz, dtype=float)
        if np.array_equal(wanted, known):
            return self
        edge = 1e-9 * float(known[-1])
        if wanted.min() < known[0] - edge or wanted.max() > known[-1] + edge:
            raise OutOfDomainError(
                "frequency_hz",
                f"{wanted.min() / 1e6:.6g} to {wanted.max() / 1e6:.6g} MHz",
                f"inside the calibration, {known[0] / 1e6:.6g} to {known[-1] / 1e6:.6g} MHz",
            )
        if known.size == 1:
            return self
        terms = self._spline(np.clip(wanted, known[0], known[-1]))
        return Correction(terms[..., 0], terms[..., 1], terms[..., 2], wanted, self.kit)

    def doubt(
        self,
        reflection: Complex,
        noise: Noise,
        age_h: float = 0.0,
        drift_per_hour: float = DRIFT_PER_HOUR,
    ) -> ReflectionUncertainty:
        """How sure a corrected Γ is: noise, the standards, and drift since they were swept.

        A small error of a one-port calibration is a quadratic in Γ, and so is read off the errors of the three
        standards by Lagrange's interpolation; the measurement's own noise comes through the map's slope.

        Args:
            reflection: corrected Γ, shape (n,), at this correction's frequencies, which must be known.
            noise: of the sweep and of the standards.
            age_h: hours since the standards were swept.
            drift_per_hour: wandering of each error term, one standard deviation a part.

        Raises:
            OutOfDomainError: the correction does not know its frequencies.
        """
        if self.frequency_hz is None:
            raise OutOfDomainError("frequency_hz", "not known", "given to one_port")
        gamma = np.asarray(reflection, dtype=complex)
        standards = self.kit.reflections(self.frequency_hz)
        strays = self.kit.strays(self.frequency_hz)
        parts = ReflectionUncertainty.none(gamma.shape)
        for k, (own, stray) in enumerate(zip(standards, strays, strict=True)):
            first, second = (standards[i] for i in range(3) if i != k)
            share = (gamma - first) * (gamma - second) / ((own - first) * (own - second))
            parts += ReflectionUncertainty.along(share * stray)
            scatter = noise.standards_rms / math.sqrt(noise.standards_passes)
            parts += ReflectionUncertainty.circular(np.abs(share * self._slope(own)) * scatter)
        slope = self._slope(gamma)
        parts += ReflectionUncertainty.circular(np.abs(slope) * (noise.rms / math.sqrt(noise.passes)))
        wander = drift_per_hour * age_h * math.sqrt(2)
        if wander > 0:
            beyond = gamma / (self.c * gamma + 1)
            tracking = self.a - self.b * self.c
            for term in (np.ones_like(gamma), beyond, tracking * beyond**2):
                parts += ReflectionUncertainty.circular(np.abs(slope * term) * wander)
        return parts

    def _slope(self, gamma: Complex) -> Complex:
        """dΓ/draw where the plane shows this Γ."""
        return (self.c * gamma + 1) ** 2 / (self.a - self.b * self.c)


def one_port(
    short: Complexes,
    open_: Complexes,
    load: Complexes,
    frequency_hz: Real | None = None,
    kit: Kit = IDEAL,
) -> Correction:
    """The error terms from raw reflections of short, open and load.

    Args:
        short, open_, load: raw reflections, shape (n,) each.
        frequency_hz: shape (n,), rising; needed for a kit that is not ideal and to read between points.
        kit: what the standards are.

    Raises:
        OutOfDomainError: shapes that differ, values not finite, or standards that cannot be told apart.

    Source:
        Three-term model: Pozar, Microwave Engineering, 4th ed., §4.3; solved for its bilinear coefficients.

    >>> import numpy as np
    >>> correction = one_port(np.array([-0.9 + 0.05j]), np.array([0.95 + 0j]), np.array([0.02j]))
    >>> float(correction.correct(np.array([0.95 + 0j]))[0].real.round(9))
    1.0
    """
    raw = [np.atleast_1d(np.asarray(r, dtype=complex)) for r in (short, open_, load)]
    for name, values in zip(STANDARDS, raw, strict=True):
        require_finite(name, values)
        if values.shape != raw[0].shape:
            raise OutOfDomainError(name, f"of {values.size} points", f"as many as the short has, {raw[0].size}")
    if frequency_hz is None:
        true = (np.array(-1.0 + 0j), np.array(1.0 + 0j), np.array(0j))
        if kit != IDEAL:
            raise OutOfDomainError("frequency_hz", "left out", "given, for standards that change with frequency")
    else:
        require_positive("frequency_hz", frequency_hz)
        true = kit.reflections(frequency_hz)
    (ms, mo, ml), (gs, go, gl) = raw, true
    # Each standard says m = a·Γ + b − c·Γ·m; b leaves by taking the load's line off the other two.
    ss, so = gs - gl, go - gl
    ps, po = gs * ms - gl * ml, go * mo - gl * ml
    determinant = so * ps - ss * po
    if (np.abs(determinant) < 1e-6).any():
        raise OutOfDomainError(
            "the standards", "alike", "three different things: short, open and load, each screwed on in turn"
        )
    a = ((mo - ml) * ps - (ms - ml) * po) / determinant
    c = (ss * (mo - ml) - so * (ms - ml)) / determinant
    return Correction(a, ml - a * gl + c * gl * ml, c, frequency_hz, kit)


# How far a lead bends the phase over a sweep beside its delay, radians; how well it is turned back to be believed.
BENT_RAD, TURNED_BACK_RAD = 0.05, 0.7


@dataclass(frozen=True, slots=True)
class Slip:
    """Something that looks wrong with the standards: which kind of slip, and which two are concerned."""

    code: CalibrationCode
    first: Standard
    second: Standard

    @property
    def finding(self) -> Finding[CalibrationCode]:
        """As it is told."""
        return Finding(self.code, {"first": self.first, "second": self.second})


def slips(raw: Mapping[Standard, Complex], frequency_hz: Real) -> tuple[Slip, ...]:
    """What may have gone wrong while sweeping the standards, from those swept so far.

    A standard left on gives two sweeps alike. The load returns least; if another one does, the two are
    exchanged. The difference of open and short turns with the lead's delay only; turned back to zero frequency
    it points to the right, or to the left when the two are exchanged. A range too narrow for that is said to be.
    Limits chosen for an instrument with directivity better than 14 dB.
    """
    found: list[Slip] = []
    there = [name for name in STANDARDS if name in raw]
    for k, first in enumerate(there):
        for second in there[k + 1 :]:
            if np.median(np.abs(raw[first] - raw[second])) < ALIKE:
                found.append(Slip("left_on", first, second))
    if found:
        return tuple(found)
    sizes = {name: float(np.median(np.abs(raw[name]))) for name in there}
    if "load" in sizes and len(sizes) > 1:
        least = min(sizes, key=lambda name: sizes[name])
        if least != "load":
            return (Slip("swapped", "load", least),)
    if "load" in sizes and sizes["load"] > 0.5:
        return (Slip("load_high", "load", "open"),)
    if {"short", "open"} <= sizes.keys() and frequency_hz.size >= 5:
        span = float(frequency_hz[-1] - frequency_hz[0])
        phase = np.unwrap(np.angle(raw["open"] - raw["short"]))
        line, covariance = np.polyfit(frequency_hz - frequency_hz.mean(), phase, 1, cov=True)
        back = float(frequency_hz.mean())
        # Turned back to zero frequency: noise, and what a lead that is no plain delay bends over the range.
        doubt = back * float(np.hypot(np.sqrt(covariance[0, 0]), BENT_RAD / span))
        at_zero = float(line[1] - line[0] * back)
        if doubt > TURNED_BACK_RAD:
            return (Slip("too_narrow", "short", "open"),)
        if math.cos(at_zero) < 0:
            return (Slip("swapped", "short", "open"),)
    return ()


def like_a_standard(reflection: Complex) -> Standard | None:
    """Which standard a corrected sweep is, if it stays within 0.03 of one over its whole range."""
    for name, ideal in zip(STANDARDS, (-1, 1, 0), strict=True):
        if np.max(np.abs(reflection - ideal)) < LIKE_A_STANDARD:
            return name
    return None


ResidualKind = Literal["as_good", "fair", "moved", "no_load"]
# What a load swept again leaves, dB: as good as such a load is, good enough, something that moved; more is another
# thing than the load (common practice).
GOOD_DB, FAIR_DB, MOVED_DB = -50.0, -35.0, -15.0


def residual_kind(db: float) -> ResidualKind:
    """What the load's check says of a calibration.

    Args:
        db: what is left, negative.
    """
    return "as_good" if db < GOOD_DB else "fair" if db < FAIR_DB else "moved" if db < MOVED_DB else "no_load"


@dataclass(frozen=True, slots=True)
class Residual:
    """What a corrected sweep of the load still shows: root mean square of its distance from the load's Γ."""

    rms: float

    @property
    def db(self) -> float:
        """In dB, negative; −120 at the least."""
        return 20 * math.log10(max(self.rms, 1e-6))

    def impedance_share(self, reflection: complex) -> float:
        """How far an impedance with this Γ may be off, relative: 2·δ/|1 − Γ²|."""
        return 2 * self.rms / max(abs(1 - reflection**2), 1e-9)

    def swr_between(self, reflection: complex) -> tuple[float, float]:
        """Lowest and highest SWR that an antenna with this Γ may be shown with."""
        size = abs(reflection)
        return float(swr_of(max(size - self.rms, 0.0))), float(swr_of(size + self.rms))


def residual(corrected_load: Complex, frequency_hz: Real, kit: Kit = IDEAL) -> Residual:
    """What is left after correction, from sweeping the load once more."""
    away = np.abs(corrected_load - kit.reflections(frequency_hz)[2])
    return Residual(float(np.sqrt(np.mean(away**2))))
