"""Every setting of a tuner that matches a load, in closed form, and the one of them that loses least."""

import math
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals, require_finite, require_positive
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM
from yielding_coil.core.tuner.tuner import Carried, Side, Tuner, TunerSetting, tee_of

# Settings of a tee's output capacitor that are looked at first, and then between neighbours.
SCANNED, REFINED = 160, 33


def _crossings(a: Complex, b: complex, turn: complex, target: Reals) -> Real:
    """Real t for which Re(turn/(a + t·b)) is the target: both roots along a last axis, NaN where there is none.

    target·|a + tb|² − Re(turn·conj(a + tb)) = 0 is a quadratic in t.
    """
    square = target * np.abs(b) ** 2
    half = target * (a * b.conjugate()).real - (turn * b.conjugate()).real / 2
    rest = target * np.abs(a) ** 2 - (turn * a.conj()).real
    with np.errstate(invalid="ignore"):
        root = np.sqrt(half**2 - square * rest)
    return np.stack(np.broadcast_arrays((-half + root) / square, (-half - root) / square), axis=-1)


def closed(
    tuner: Tuner, side: Side, frequency_hz: Reals, load_ohm: Complexes, output_f: Reals, wanted_ohm: Complexes
) -> TunerSetting:
    """Coil and input capacitor that bring a load to what is wanted; stops are not looked at.

    Args:
        frequency_hz, load_ohm, output_f, wanted_ohm: broadcast; the output capacitor is a tee's.

    Returns:
        Its values carry one axis more at the end, for the two roots; NaN or negative where there is no such part.

    Source:
        The elements' Q included: conductances and resistances are summed as for the lossless networks of Pozar,
        Microwave Engineering, §5.1, with the loss of the last element in proportion to its reactance.
    """
    omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
    coil, capacitor = 1 / tuner.coil_q, 1 / tuner.capacitor_q
    load, wanted = np.asarray(load_ohm, dtype=complex), np.asarray(wanted_ohm, dtype=complex)
    w = omega[..., np.newaxis]
    with np.errstate(divide="ignore", invalid="ignore"):
        if side == "tee":
            above = np.asarray(load + tuner.capacitor_ohm(frequency_hz, output_f), dtype=complex)
            b = 1 / (coil + 1j)
            t = _crossings(np.asarray(1 / above), b, 1 - 1j * capacitor, wanted.real + wanted.imag * capacitor)
            seen = 1 / (1 / above[..., np.newaxis] + t * b)
            reactance = seen.imag - wanted[..., np.newaxis].imag
            return TunerSetting(
                side, np.asarray(output_f)[..., np.newaxis] + 0 * t, 1 / (w * t), 1 / (w * reactance)
            )
        if side == "antenna":
            b = 1 / (capacitor - 1j)
            t = _crossings(np.asarray(1 / load), b, 1 + 1j * coil, wanted.real - wanted.imag * coil)
            seen = 1 / (1 / load[..., np.newaxis] + t * b)
            return TunerSetting(side, np.nan * t, (wanted[..., np.newaxis].imag - seen.imag) / w, t / w)
        y = 1 / wanted
        b = coil + 1j
        t = _crossings(load, b, 1 + 1j * capacitor, y.real - y.imag * capacitor)
        seen = 1 / (load[..., np.newaxis] + t * b)
        across = (y[..., np.newaxis].imag - seen.imag) * (1 + capacitor**2)
        return TunerSetting(side, np.nan * t, t / w, across / w)


def inside(tuner: Tuner, setting: TunerSetting) -> np.ndarray:
    """Whether all controls are within their stops, shape of the values."""
    within = np.ones(np.broadcast_shapes(*(np.shape(v) for v in setting_values(setting))), dtype=bool)
    for value, (low, high) in zip(setting_values(setting), tuner.stops, strict=True):
        if setting.side == "tee" or value is not setting.output_f:
            with np.errstate(invalid="ignore"):
                within &= (value >= low * (1 - 1e-12)) & (value <= high * (1 + 1e-12))
    return within


def setting_values(setting: TunerSetting) -> tuple[Reals, Reals, Reals]:
    """Output capacitor, coil, input capacitor."""
    return setting.output_f, setting.coil_h, setting.input_f


@dataclass(frozen=True, slots=True)
class Matches:
    """Every setting of a tuner that matches a load at one frequency, as points along its branches.

    Args:
        settings: those of one branch follow each other by output capacitor.
        efficiency: power out over power in, shape (m,).
        branch: shape (m,), the number of the branch that each belongs to, from 1.
    """

    tuner: Tuner
    frequency_hz: float
    load_ohm: complex
    settings: tuple[TunerSetting, ...]
    efficiency: Real
    branch: np.ndarray

    def carried(self, index: int, power_w: float) -> Carried:
        """Peaks in one of them, when the radio sends so much into 50 ohm."""
        tee = tee_of(self.tuner, self.settings[index], self.frequency_hz)
        return tee.carried(self.load_ohm, math.sqrt(2 * power_w / DEFAULT_REFERENCE_OHM))


def require_load(load_ohm: Complexes) -> None:
    """Refuse a load that takes no power.

    Raises:
        OutOfDomainError: its resistance is not above zero, or not finite.
    """
    require_finite("load_ohm", load_ohm)
    require_positive("load_ohm (its resistance)", np.asarray(load_ohm, dtype=complex).real)


def matches_of(tuner: Tuner, frequency_hz: float, load_ohm: complex, points: int = SCANNED) -> Matches:
    """Every setting that matches a load to 50 ohm: of a tee along its output capacitor, of an ell one by one.

    Args:
        points: of the output capacitor that are tried, by equal ratios, both stops among them.

    Raises:
        OutOfDomainError: the frequency is not above zero, or the load takes no power.
    """
    require_positive("frequency_hz", frequency_hz)
    require_load(load_ohm)
    output = np.geomspace(tuner.output_low_f, tuner.output_high_f, points)
    found: list[TunerSetting] = []
    begins: list[bool] = []
    for side in tuner.sides:
        tried = closed(tuner, side, frequency_hz, np.array([load_ohm]), output if side == "tee" else np.nan, 50.0)
        within = inside(tuner, tried)
        for root in (0, 1):
            at = np.flatnonzero(within[:, root])
            begins += [k == 0 or at[k] != at[k - 1] + 1 for k in range(at.size)]
            found += [tried.at((int(k), root)) for k in at]
    efficiency = np.array([float(tee_of(tuner, s, frequency_hz).efficiency(load_ohm)) for s in found])
    return Matches(tuner, frequency_hz, load_ohm, tuple(found), efficiency, np.cumsum(np.array(begins, dtype=int)))


def least_loss(tuner: Tuner, frequency_hz: Reals, load_ohm: Complexes) -> list[TunerSetting | None]:
    """The setting that matches each load with the least loss; None where none matches.

    Args:
        frequency_hz, load_ohm: shape (m,).

    Raises:
        OutOfDomainError: a load takes no power.
    """
    require_load(load_ohm)
    f, load = np.broadcast_arrays(
        np.atleast_1d(np.asarray(frequency_hz, dtype=float)), np.atleast_1d(np.asarray(load_ohm, dtype=complex))
    )
    if not f.size:
        return []
    rows = np.arange(f.size)
    best = np.full(f.size, -1.0)
    found: list[TunerSetting | None] = [None] * f.size
    scan = np.geomspace(tuner.output_low_f, tuner.output_high_f, SCANNED)
    for side in tuner.sides:
        output: Real = np.broadcast_to(scan if side == "tee" else np.nan, (f.size, SCANNED if side == "tee" else 1))
        for _ in range(2):
            tried = closed(tuner, side, f[:, np.newaxis], load[:, np.newaxis], output, 50.0)
            with np.errstate(divide="ignore", invalid="ignore"):
                far = load[:, np.newaxis, np.newaxis]
                share = tee_of(tuner, tried, f[:, np.newaxis, np.newaxis]).efficiency(far)
            worth = np.where(inside(tuner, tried), share, -1.0).reshape(f.size, -1)
            at = worth.argmax(axis=1)
            for k in np.flatnonzero(worth[rows, at] > best):
                best[k] = worth[k, at[k]]
                found[k] = tried.at((int(k), int(at[k]) // 2, int(at[k]) % 2))
            if side != "tee":
                break
            # Between the neighbours of the best of each load.
            low = output[rows, np.maximum(at // 2 - 1, 0)]
            high = output[rows, np.minimum(at // 2 + 1, output.shape[1] - 1)]
            output = np.geomspace(low, high, REFINED, axis=1)
    return found
