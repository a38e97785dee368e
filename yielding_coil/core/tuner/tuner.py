"""A tuner: two capacitors and a coil with their stops and their losses, as it computes at a setting.

A tee is C-L-C with the coil across the middle; an ell is a coil in series with a capacitor across, which a switch
puts to the antenna's side or to the radio's. Each is told as a tee of three immittances, of which some are zero.
"""

import math
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals, require_positive
from yielding_coil.core.errors import OutOfDomainError

Kind = Literal["tee", "ell"]
# Of an ell: on which side of the coil its capacitor lies.
Side = Literal["tee", "antenna", "radio"]
SIDES: dict[Kind, tuple[Side, ...]] = {"tee": ("tee",), "ell": ("antenna", "radio")}
# Settings of a tee's output capacitor that are looked at first, and then between neighbours.
SCANNED, REFINED = 160, 33


@dataclass(frozen=True, slots=True)
class Tuner:
    """What a tuner can be set to. The three controls are turned without steps.

    Args:
        kind: "tee" (C-L-C), or "ell" (series coil, capacitor across at either side).
        input_low_f, input_high_f: stops of the capacitor at the radio's side; the only one of an ell.
        output_low_f, output_high_f: stops of the one at the antenna's side; of a tee.
        coil_low_h, coil_high_h: stops of the coil.
        coil_q, capacitor_q: of its parts, the same at every setting and frequency.
        stands_v: peak voltage that its capacitors stand; None where that is not known.

    The defaults are those of a tuner for 200 W with air-spaced capacitors and a roller coil (from memory).
    """

    kind: Kind = "tee"
    input_low_f: float = 15e-12
    input_high_f: float = 250e-12
    output_low_f: float = 15e-12
    output_high_f: float = 250e-12
    coil_low_h: float = 0.15e-6
    coil_high_h: float = 25e-6
    coil_q: float = 150.0
    capacitor_q: float = 1500.0
    stands_v: float | None = 1000.0

    def __post_init__(self) -> None:
        for name in ("input_low_f", "output_low_f", "coil_low_h", "coil_q", "capacitor_q"):
            require_positive(name, getattr(self, name))
        for low, high in (
            ("input_low_f", "input_high_f"),
            ("output_low_f", "output_high_f"),
            ("coil_low_h", "coil_high_h"),
        ):
            if not getattr(self, low) < getattr(self, high):
                raise OutOfDomainError(high, getattr(self, high), f"above the lower stop, {getattr(self, low):g}")

    @property
    def sides(self) -> tuple[Side, ...]:
        """The ways in which it can be switched."""
        return SIDES[self.kind]

    @property
    def stops(self) -> Real:
        """Lower and upper stop of output capacitor, coil and input capacitor, shape (3, 2)."""
        return np.array(
            [
                [self.output_low_f, self.output_high_f],
                [self.coil_low_h, self.coil_high_h],
                [self.input_low_f, self.input_high_f],
            ]
        )

    def capacitor_ohm(self, frequency_hz: Reals, farad: Reals) -> Complex:
        """Impedance of one of its capacitors; shapes broadcast."""
        susceptance = 2 * math.pi * np.asarray(frequency_hz, dtype=float) * farad
        return np.asarray((1 / self.capacitor_q - 1j) / susceptance)

    def coil_ohm(self, frequency_hz: Reals, henry: Reals, q: Reals | None = None) -> Complex:
        """Impedance of its coil, of another Q where one is given; shapes broadcast."""
        reactance = 2 * math.pi * np.asarray(frequency_hz, dtype=float) * henry
        return np.asarray(reactance * (1 / (self.coil_q if q is None else q) + 1j))


@dataclass(frozen=True, slots=True)
class TunerSetting:
    """Where the controls stand: values in farad and henry, which may be arrays that broadcast against frequencies.

    `output_f` is NaN of an ell. A side of None is the tuner switched out.
    """

    side: Side | None
    output_f: Reals
    coil_h: Reals
    input_f: Reals

    def at(self, index: tuple[int, ...] | int) -> "TunerSetting":
        """One of many."""
        return TunerSetting(
            self.side, *(float(np.asarray(v)[index]) for v in (self.output_f, self.coil_h, self.input_f))
        )

    @property
    def values(self) -> tuple[float, float, float]:
        """Output capacitor, coil, input capacitor, of one setting."""
        return float(self.output_f), float(self.coil_h), float(self.input_f)


BYPASSED = TunerSetting(None, math.nan, math.nan, math.nan)


class Tee(NamedTuple):
    """Three immittances, from the antenna down: in series, across, in series."""

    upper_ohm: Complexes
    across_s: Complexes
    lower_ohm: Complexes

    def near_ohm(self, far_ohm: Complexes) -> Complex:
        """What the radio's side shows; shapes broadcast."""
        above = far_ohm + self.upper_ohm
        return np.asarray(above / (1 + above * self.across_s) + self.lower_ohm)

    def far_ohm(self, near_ohm: Complexes) -> Complex:
        """What hangs on the antenna's side when the radio's shows this."""
        inner = near_ohm - self.lower_ohm
        return np.asarray(inner / (1 - inner * self.across_s) - self.upper_ohm)

    def carried(self, far_ohm: Complexes, near_a: Reals) -> "Carried":
        """Peak volts and amperes of each part, for a peak current into the radio's side; shapes broadcast."""
        above = far_ohm + self.upper_ohm
        through = near_a / np.abs(1 + above * self.across_s)
        middle_v = through * np.abs(above)
        return Carried(
            np.stack(
                np.broadcast_arrays(through * np.abs(self.upper_ohm), middle_v, near_a * np.abs(self.lower_ohm))
            ),
            np.stack(np.broadcast_arrays(through, middle_v * np.abs(self.across_s), near_a)),
        )

    def efficiency(self, far_ohm: Complexes) -> Real:
        """Power out over power in, where the load takes any; shapes broadcast."""
        above = np.asarray(far_ohm + self.upper_ohm)
        current = np.abs(1 + above * self.across_s)
        return np.asarray(np.asarray(far_ohm, dtype=complex).real / (current**2 * self.near_ohm(far_ohm).real))


class Carried(NamedTuple):
    """Of upper series part, the part across, lower series part: first axis of each."""

    volts: Real
    amperes: Real


def tee_of(tuner: Tuner, setting: TunerSetting, frequency_hz: Reals, coil_q: Reals | None = None) -> Tee:
    """A setting as it computes, its coil of another Q where one is given; shapes broadcast."""
    f = np.asarray(frequency_hz, dtype=float)
    nothing = np.zeros(f.shape, dtype=complex)
    if setting.side is None:
        return Tee(nothing, nothing, nothing)
    if setting.side == "tee":
        upper, lower = tuner.capacitor_ohm(f, setting.output_f), tuner.capacitor_ohm(f, setting.input_f)
        return Tee(upper, 1 / tuner.coil_ohm(f, setting.coil_h, coil_q), lower)
    coil, across = tuner.coil_ohm(f, setting.coil_h, coil_q), 1 / tuner.capacitor_ohm(f, setting.input_f)
    return Tee(nothing, across, coil) if setting.side == "antenna" else Tee(coil, across, nothing)


@dataclass(frozen=True, slots=True)
class TunerNetwork:
    """A tuner in the cascade, set for each band: a frequency belongs to the band that is nearest.

    Args:
        bands_hz: middles of the bands.
        settings: for each of them.
    """

    tuner: Tuner
    bands_hz: tuple[float, ...]
    settings: tuple[TunerSetting, ...]

    def tee(self, frequency_hz: Reals) -> Tee:
        """As it computes at each frequency."""
        f = np.asarray(frequency_hz, dtype=float)
        if len(self.settings) == 1:
            return tee_of(self.tuner, self.settings[0], f)
        log = np.log(np.atleast_1d(f))
        owner = np.abs(log[..., np.newaxis] - np.log(np.array(self.bands_hz))).argmin(axis=-1)
        rows = np.zeros((3, *log.shape), dtype=complex)
        for k, setting in enumerate(self.settings):
            on = owner == k
            for row, value in zip(rows, tee_of(self.tuner, setting, np.atleast_1d(f)[on]), strict=True):
                row[on] = value
        return Tee(*(row.reshape(f.shape) for row in rows))
