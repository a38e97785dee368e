"""Single-layer air coils: inductance at radio frequency, loss, and where they stop being coils."""

import math
from dataclasses import dataclass

import numpy as np
from scipy.interpolate import RectBivariateSpline
from scipy.optimize import brentq
from scipy.special import ellipe, ellipkm1

from yielding_coil.core.arrays import Complex, Real, Reals, require_positive
from yielding_coil.core.conductor import rim_ohm
from yielding_coil.core.constants import COPPER_RESISTIVITY_OHM_M, MU_0_H_PER_M
from yielding_coil.core.errors import OutOfDomainError

# Medhurst's proximity factor Φ: rows length/diameter, columns pitch/wire diameter.
# R. G. Medhurst, Wireless Engineer 24, Feb and Mar 1947 (table from memory).
_LENGTHS = [0.0, 0.2, 0.4, 0.6, 0.8, 1.0, 2.0, 4.0, 6.0, 8.0, 10.0]
_PITCHES = [1.0, 1.111, 1.25, 1.429, 1.667, 2.0, 2.5, 3.333, 5.0, 10.0]
_PROXIMITY = [
    [5.31, 3.73, 2.74, 2.12, 1.74, 1.44, 1.26, 1.16, 1.07, 1.02],
    [5.45, 3.84, 2.83, 2.20, 1.77, 1.48, 1.29, 1.19, 1.08, 1.02],
    [5.65, 3.99, 2.97, 2.28, 1.83, 1.54, 1.33, 1.21, 1.08, 1.03],
    [5.80, 4.11, 3.10, 2.38, 1.89, 1.60, 1.38, 1.22, 1.10, 1.03],
    [5.80, 4.17, 3.20, 2.44, 1.92, 1.64, 1.42, 1.23, 1.10, 1.03],
    [5.55, 4.10, 3.17, 2.47, 1.94, 1.67, 1.45, 1.24, 1.10, 1.03],
    [4.10, 3.36, 2.74, 2.32, 1.98, 1.74, 1.50, 1.28, 1.13, 1.04],
    [3.54, 3.05, 2.60, 2.27, 2.01, 1.78, 1.54, 1.32, 1.15, 1.04],
    [3.31, 2.92, 2.60, 2.29, 2.03, 1.80, 1.56, 1.34, 1.16, 1.04],
    [3.20, 2.90, 2.62, 2.34, 2.08, 1.81, 1.57, 1.34, 1.165, 1.04],
    [3.23, 2.93, 2.65, 2.27, 2.10, 1.83, 1.58, 1.35, 1.17, 1.04],
]
_PROXIMITY_LONG = [3.41, 3.11, 2.815, 2.51, 2.22, 1.93, 1.65, 1.395, 1.19, 1.05]
_proximity = RectBivariateSpline(_LENGTHS, _PITCHES, _PROXIMITY, kx=1, ky=1)

# Medhurst's H, pF for each cm of diameter, one end earthed (same source, from memory).
_H_LENGTHS = [0.1, 0.2, 0.3, 0.5, 0.7, 1, 1.5, 2, 3, 4, 5, 7, 10, 15, 20]
_H = [0.96, 0.70, 0.60, 0.50, 0.47, 0.46, 0.47, 0.50, 0.61, 0.72, 0.81, 1.01, 1.32, 1.86, 2.36]

# What close turns and thick wire take from the surface-current value, by pitch/wire diameter: a share of their own,
# and one for each wire diameter over the coil's (computed by rings of surface current whose density may crowd; a
# cross-check of ours, not a publication; tests/core/test_deep_solenoid.py).
_CROWD_PITCHES = [1.0, 1.05, 1.1, 1.3, 1.6, 2.0, 3.0, 5.0, 10.0]
_CROWD = [0.040, 0.031, 0.0235, 0.011, 0.005, 0.001, 0.0, 0.0, 0.0]
_CROWD_THICK = [0.79, 0.78, 0.77, 0.76, 0.70, 0.655, 0.565, 0.53, 0.50]
# How far that is off at most, two standard deviations; nearly touching turns are computed less well.
MODEL_DOUBT, TOUCHING_DOUBT = 0.012, 0.025

MOST_TURNS = 500.0


def nagaoka(diameter_over_length: float) -> float:
    """Nagaoka's coefficient: what the open ends leave of a long coil's inductance.

    Source:
        Nagaoka, J. Coll. Sci. Tokyo 27, 1909, through complete elliptic integrals.

    >>> round(nagaoka(1.0), 6)
    0.688423
    """
    u = diameter_over_length
    k2 = u * u / (1 + u * u)
    k = math.sqrt(k2)
    big_k, big_e = float(ellipkm1(1 - k2)), float(ellipe(k2))
    k1 = math.sqrt(1 - k2)
    return 4 / (3 * math.pi * k1) * (k1 * k1 / k2 * (big_k - big_e) + big_e - k)


def rosa_spacing(turns: float) -> float:
    """Rosa's B: what round wire of several turns does to the mutual inductance of a sheet.

    Source:
        Rosa & Grover, NBS Bulletin 8, 1911, table VIII, as its Stirling series
        ln 2π − 3/2 − ln N/6N − 0.33084/N − 1/120N³ + 1/504N⁵ (series from memory).

    >>> round(rosa_spacing(10), 4)
    0.2664
    """
    n = turns
    return (
        math.log(2 * math.pi)
        - 1.5
        - math.log(n) / (6 * n)
        - 0.33084236 / n
        - 1 / (120 * n**3)
        + 1 / (504 * n**5)
        - 0.0011923 / n**7
        + 0.0005068 / n**9
    )


@dataclass(frozen=True, slots=True)
class Solenoid:
    """A single layer of round wire on a tube, or on air.

    Valid from one turn up, wire thin beside the coil, no core, no shield nearer than a diameter.

    Args:
        diameter_m: to the wire's centre.
        pitch_m: from turn to turn, not less than the wire.
        turns: halves and any fraction allowed.
        wire_diameter_m: of the metal.
        resistivity_ohm_m: of the metal; copper when left out.
        permeability: of the metal against free space, for the skin effect.

    Raises:
        OutOfDomainError: a size not above zero, or wire thicker than its pitch.

    >>> coil = Solenoid(50e-3, 3e-3, 15, 1e-3)
    >>> round(coil.inductance_h * 1e6, 2)
    8.21
    """

    diameter_m: float
    pitch_m: float
    turns: float
    wire_diameter_m: float
    resistivity_ohm_m: float = COPPER_RESISTIVITY_OHM_M
    permeability: float = 1.0

    def __post_init__(self) -> None:
        for name in ("diameter_m", "pitch_m", "turns", "wire_diameter_m", "resistivity_ohm_m", "permeability"):
            require_positive(name, getattr(self, name))
        if self.turns < 1 or self.turns > MOST_TURNS:
            raise OutOfDomainError("turns", self.turns, f"1 to {MOST_TURNS:.0f}")
        if self.wire_diameter_m > self.pitch_m * (1 + 1e-9):
            raise OutOfDomainError(
                "wire_diameter_m",
                f"{self.wire_diameter_m * 1e3:.3g} mm",
                f"not thicker than the pitch, {self.pitch_m * 1e3:.3g} mm",
            )
        if self.wire_diameter_m >= self.diameter_m:
            raise OutOfDomainError(
                "diameter_m",
                f"{self.diameter_m * 1e3:.3g} mm",
                f"larger than the wire, {self.wire_diameter_m * 1e3:.3g} mm",
            )

    @property
    def length_m(self) -> float:
        """Length of the winding, turns times pitch."""
        return self.turns * self.pitch_m

    @property
    def sheet_inductance_h(self) -> float:
        """Inductance of a current sheet of the same size."""
        area = math.pi * self.diameter_m**2 / 4
        return MU_0_H_PER_M * self.turns**2 * area / self.length_m * nagaoka(self.diameter_m / self.length_m)

    @property
    def inductance_h(self) -> float:
        """Inductance at radio frequency, the current on the wire's surface and even round it.

        Source:
            Current sheet less Rosa's corrections, k_s = 3/2 − ln(2p/d) for surface current (5/4 is for
            current all through the wire).
        """
        round_wire = 1.5 - math.log(2 * self.pitch_m / self.wire_diameter_m)
        correction = round_wire + rosa_spacing(self.turns)
        return self.sheet_inductance_h - MU_0_H_PER_M * self.diameter_m / 2 * self.turns * correction

    @property
    def crowded_inductance_h(self) -> float:
        """What an analyser reads well below self-resonance: in close turns and thick wire current crowds."""
        ratio = self.pitch_m / self.wire_diameter_m
        close = float(np.interp(ratio, _CROWD_PITCHES, _CROWD))
        thick = float(np.interp(ratio, _CROWD_PITCHES, _CROWD_THICK)) * self.wire_diameter_m / self.diameter_m
        return self.inductance_h * (1 - close - thick)

    @property
    def model_doubt(self) -> float:
        """Two standard deviations of the computed inductance, relative, whatever hands do."""
        return TOUCHING_DOUBT if self.pitch_m < 1.05 * self.wire_diameter_m else MODEL_DOUBT

    def reading_h(self, frequency_hz: float) -> float:
        """What an analyser reads at a frequency: crowded, and with the coil's own capacitance.

        Negative above self-resonance.
        """
        omega = 2 * math.pi * frequency_hz
        return 1 / (1 / self.crowded_inductance_h - omega**2 * self.self_capacitance_f)

    @property
    def wheeler_inductance_h(self) -> float:
        """Wheeler's rule of thumb, good to 1 % where the winding is longer than 0.4 diameters.

        Source:
            H. A. Wheeler, Proc. IRE 16, 1928: L[µH] = a²N²/(9a + 10b), inches.
        """
        radius_in, length_in = self.diameter_m / 2 / 0.0254, self.length_m / 0.0254
        return 1e-6 * radius_in**2 * self.turns**2 / (9 * radius_in + 10 * length_in)

    @property
    def wire_length_m(self) -> float:
        """Wire in the winding itself, without tails."""
        return self.turns * math.hypot(math.pi * self.diameter_m, self.pitch_m)

    @property
    def proximity_factor(self) -> float:
        """Medhurst's Φ for many turns, by how long the coil is and how far apart its turns."""
        pitch = min(max(self.pitch_m / self.wire_diameter_m, 1.0), 10.0)
        length = self.length_m / self.diameter_m
        if length <= 10:
            return float(_proximity([length], [pitch], grid=False)[0])
        last = float(_proximity([10.0], [pitch], grid=False)[0])
        return last + (float(np.interp(pitch, _PITCHES, _PROXIMITY_LONG)) - last) * (1 - 10 / length)

    def resistance_ohm(self, frequency_hz: Reals) -> Real:
        """Series resistance of the winding at each frequency: skin depth times proximity.

        Source:
            Skin depth on the round wire's rim; proximity after Medhurst, with 1 + (Φ − 1)(1 − 1/N) for few
            turns (memory). Holds from about five skin depths in the wire up.
        """
        straight = rim_ohm(
            self.wire_length_m, self.wire_diameter_m, frequency_hz, self.resistivity_ohm_m, self.permeability
        )
        return straight * (1 + (self.proximity_factor - 1) * (1 - 1 / self.turns))

    def q(self, frequency_hz: Reals) -> Real:
        """Q of the coil by itself, well below self-resonance."""
        return 2 * math.pi * np.asarray(frequency_hz) * self.inductance_h / self.resistance_ohm(frequency_hz)

    @property
    def self_capacitance_f(self) -> float:
        """Self-capacitance with one end earthed, good to 5 % (20 % close-wound near length 2 diameters).

        Source:
            Medhurst 1947, C = H·D; off its table H runs on as the power of l/D that it ends with.
        """
        length = self.length_m / self.diameter_m
        at, h = np.log(_H_LENGTHS), np.log(_H)
        low, high = (h[1] - h[0]) / (at[1] - at[0]), (h[-1] - h[-2]) / (at[-1] - at[-2])
        log = math.log(length)
        past = high * max(log - at[-1], 0.0) + low * min(log - at[0], 0.0)
        return float(np.exp(np.interp(log, at, h) + past)) * self.diameter_m * 100 * 1e-12

    @property
    def self_resonance_hz(self) -> float:
        """Where the coil and its own capacitance resonate."""
        return 1 / (2 * math.pi * math.sqrt(self.inductance_h * self.self_capacitance_f))

    def apparent_inductance_h(self, frequency_hz: float) -> float:
        """What the coil seems to be at a frequency, L/(1 − (f/fs)²).

        Raises:
            OutOfDomainError: above 0.9 of self-resonance, where it is no coil any more.
        """
        ratio = frequency_hz / self.self_resonance_hz
        if ratio > 0.9:
            raise OutOfDomainError(
                "frequency_hz",
                f"{ratio:.2f} of the coil's self-resonance",
                "below 0.9 of it: use a smaller coil or fewer turns",
            )
        return self.inductance_h / (1 - ratio**2)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance with the coil's own capacitance across it, shape of the frequency."""
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        arm = self.resistance_ohm(frequency_hz) + 1j * omega * self.inductance_h
        return arm / (1 + 1j * omega * self.self_capacitance_f * arm)


def turns_for(
    inductance_h: float,
    diameter_m: float,
    pitch_m: float,
    wire_diameter_m: float,
    step: float = 0.5,
    frequency_hz: float = 0.0,
) -> float:
    """Turns that come nearest to an inductance as an analyser reads it, in steps of half a turn.

    Args:
        inductance_h: wanted, above zero.
        diameter_m: to the wire's centre.
        pitch_m: from turn to turn.
        wire_diameter_m: of the metal.
        step: 0.5 for halves, as one winds; 0 for the fraction that hits it.
        frequency_hz: where it is read; 0 for far below self-resonance.

    Raises:
        OutOfDomainError: one turn is already too much, or no number of turns reads it at that frequency.

    >>> turns_for(3.0e-6, 41.6e-3, 2.4e-3, 1.6e-3)
    8.5
    """
    require_positive("inductance_h", inductance_h)

    def excess(turns: float) -> float:
        coil = Solenoid(diameter_m, pitch_m, turns, wire_diameter_m)
        # Above self-resonance the reading turns negative; its inverse runs on without a jump.
        return 1 / inductance_h - (
            1 / coil.crowded_inductance_h - (2 * math.pi * frequency_hz) ** 2 * coil.self_capacitance_f
        )

    low, high = 1.0, 2.0
    while excess(high) < 0 and high < MOST_TURNS:
        low, high = high, min(2 * high, MOST_TURNS)
    if excess(high) < 0 or (low == 1.0 and excess(1.0) > 0.05 / inductance_h):
        raise OutOfDomainError(
            "inductance_h",
            f"{inductance_h * 1e6:.3g} µH",
            f"what 1 to {MOST_TURNS:.0f} turns on this former read: take another former or wire",
        )
    if excess(low) >= 0:
        return low
    exact = float(brentq(excess, low, high, xtol=1e-9))
    if step == 0:
        return exact
    below = max(1.0, math.floor(exact / step) * step)
    return min((below, below + step), key=lambda n: abs(excess(n)))
