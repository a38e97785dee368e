"""How low an antenna radiates: a cut through its elevation, beside a quarter-wave and a dipole in its place."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.wire import KINDS, Ground, Hung, OnRadials

# Elevations at which antennas are compared: what carries far.
COMPARED_DEG = (5.0, 10.0, 15.0, 20.0, 25.0)
# The cut goes where most is sent at these, found by steps of so much.
AZIMUTH_STEP_DEG = 15.0
CUT_DEG = np.linspace(2.0, 178.0, 89)


@dataclass(frozen=True, slots=True)
class ElevationCut:
    """Gain in dBi from one horizon over the zenith to the other, and at the elevations compared.

    Args:
        elevation_deg: 0 to 180, shape (n,).
        gain_dbi: there; `compared_dbi` at `COMPARED_DEG`, on the side that sends more.
        azimuth_deg: of the cut.
    """

    key: str
    elevation_deg: Real
    gain_dbi: Real
    compared_dbi: Real
    azimuth_deg: float


def elevation_cuts(hung: Hung, frequency_hz: float) -> tuple[ElevationCut, ...]:
    """Of the antenna, of a quarter-wave on radials, of a level dipole as high as it reaches; on its soil."""
    top = max(max(w.start_m[2], w.end_m[2]) for w in hung.structure().wires)
    return (
        _cut("this", hung, frequency_hz),
        _reference("vertical", frequency_hz, hung.soil, 0.0),
        _reference("dipole", frequency_hz, hung.soil, round(top, 1)),
    )


@lru_cache(maxsize=64)
def _reference(key: str, frequency_hz: float, soil: Ground, height_m: float) -> ElevationCut:
    usual = KINDS[key].start(frequency_hz)
    numbers = usual.numbers
    if key == "dipole":
        numbers["height_m"] = max(height_m, 1.0)
    return _cut(key, KINDS[key].made(numbers, usual.stock, soil), frequency_hz)


def _cut(key: str, hung: Hung, frequency_hz: float) -> ElevationCut:
    structure = hung.structure()
    far = hung.soil if isinstance(hung, OnRadials) else None
    low = np.array(COMPARED_DEG)
    around = np.arange(0.0, 360.0, AZIMUTH_STEP_DEG)
    seen = structure.gain_dbi(frequency_hz, low[:, None], around[None, :], far)
    best = float(around[np.argmax((10 ** (seen / 10)).sum(axis=0))])
    elevation = np.minimum(CUT_DEG, 180 - CUT_DEG)
    azimuth = np.where(CUT_DEG <= 90, best, (best + 180) % 360)
    gain = structure.gain_dbi(frequency_hz, elevation, azimuth, far)
    return ElevationCut(key, CUT_DEG, gain, structure.gain_dbi(frequency_hz, low, best, far), best)
