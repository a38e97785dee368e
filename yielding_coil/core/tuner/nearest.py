"""As near as a tuner comes: where nothing matches, and over a whole band."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.tuner.settings import closed, inside, require_load, setting_values
from yielding_coil.core.tuner.tuner import BYPASSED, Tuner, TunerSetting, tee_of

# Steps of a control that are tried at once, and how often the stretch is narrowed round the best.
COARSE, FINE, ROUNDS = 25, 9, 9


def nearest(tuner: Tuner, frequency_hz: Reals, load_ohm: Complexes) -> tuple[TunerSetting, float]:
    """The setting with the least of the worst SWR over some frequencies, whatever it reaches, and that SWR.

    Args:
        frequency_hz, load_ohm: shape (n,), all of which count.

    Raises:
        OutOfDomainError: a load takes no power.
    """
    require_load(load_ohm)
    f, load = np.broadcast_arrays(np.atleast_1d(frequency_hz), np.atleast_1d(load_ohm))
    best, least = BYPASSED, float(np.abs(reflection_of(load)).max())
    for side in tuner.sides:
        stops = np.log(tuner.stops)
        low, high = stops[:, 0], stops[:, 1]
        for k in range(ROUNDS):
            count = COARSE if k == 0 else FINE
            axes = [np.linspace(a, b, count) for a, b in zip(low, high, strict=True)]
            if side != "tee":
                axes[0] = np.array([0.0])
            tried = [np.exp(v)[..., np.newaxis] for v in np.meshgrid(*axes, indexing="ij")]
            gamma = reflection_of(tee_of(tuner, TunerSetting(side, *tried), f).near_ohm(load))
            worst = np.abs(gamma).max(axis=-1)
            at = np.unravel_index(int(worst.argmin()), worst.shape)
            if worst[at] < least:
                least = float(worst[at])
                best = TunerSetting(side, *(float(v[at][0]) for v in tried))
            middle = np.array([axis[i] for axis, i in zip(axes, at, strict=True)])
            # The valley is narrow and lies slantwise: it is closed in on slowly.
            reach = (high - low) * (0.16 if k == 0 else 0.3)
            low = np.clip(middle - reach, stops[:, 0], stops[:, 1])
            high = np.clip(middle + reach, stops[:, 0], stops[:, 1])
    return replace(best, output_f=math.nan) if best.side in ("antenna", "radio") else best, _swr(least)


def compromise(
    tuner: Tuner, frequency_hz: Real, load_ohm: Complex, start: Sequence[TunerSetting] = ()
) -> tuple[TunerSetting, float]:
    """The setting with the least of the worst SWR over a band: fair everywhere in place of perfect at one point.

    Args:
        frequency_hz, load_ohm: shape (n,), ascending, n odd: the middle one is the band's.
        start: settings to compare with, such as the one that is perfect in the middle.

    Returns:
        The setting, and its worst SWR.

    Raises:
        OutOfDomainError: a load takes no power.
    """
    require_load(load_ohm)
    f, load = np.asarray(frequency_hz, dtype=float), np.asarray(load_ohm, dtype=complex)
    middle = f.size // 2
    best, swr = nearest(tuner, f, load)
    least = (swr - 1) / (swr + 1)
    for each in start:
        own = float(np.abs(reflection_of(tee_of(tuner, each, f).near_ohm(load))).max())
        if own < least:
            best, least = each, own
    # Every setting by what the band's middle then shows, which straightens the valley that settings lie in.
    for side in tuner.sides:
        low, high = math.log(tuner.output_low_f), math.log(tuner.output_high_f)
        center, size = 0j, min(0.9, 2 * least + 0.02)
        for k in range(ROUNDS):
            outputs = (
                np.exp(np.linspace(low, high, COARSE if k == 0 else FINE)) if side == "tee" else np.array([1.0])
            )
            offsets = size * np.linspace(-1, 1, FINE)
            aims = center + offsets[:, np.newaxis] + 1j * offsets
            aims = aims[np.abs(aims) < 0.95]
            each = closed(
                tuner, side, f[middle], load[middle], outputs[:, np.newaxis], impedance_of(aims)[np.newaxis, :]
            )
            wide = TunerSetting(each.side, *(np.asarray(v)[..., np.newaxis] for v in setting_values(each)))
            with np.errstate(divide="ignore", invalid="ignore"):
                worst = np.abs(reflection_of(tee_of(tuner, wide, f).near_ohm(load))).max(axis=-1)
            worst = np.where(inside(tuner, each), worst, np.inf)
            at = np.unravel_index(int(worst.argmin()), worst.shape)
            if not math.isfinite(float(worst[at])):
                break
            if worst[at] < least:
                best, least = each.at(tuple(int(i) for i in at)), float(worst[at])
            step = (high - low) / 3
            here = math.log(float(outputs[at[0]]))
            low, high = max(low, here - step), min(high, here + step)
            center, size = complex(aims[at[1]]), size / 2
    return best, _swr(least)


def _swr(reflection: float) -> float:
    return (1 + reflection) / (1 - reflection) if reflection < 1 else math.inf
