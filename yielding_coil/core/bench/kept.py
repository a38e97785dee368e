"""What the drawer keeps of a thing that was characterised: a ring's material, a coil, a capacitor, a trap."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from yielding_coil.core.bench.characterise import FoundPart, FoundRing, Value
from yielding_coil.core.constants import MU_0_H_PER_M
from yielding_coil.core.ring import Size

# Points of a curve that is kept.
KEPT_POINTS = 61
# Two standard deviations of a permeability are not believed to be less than this; no tolerance to be more.
LEAST_TOLERANCE, MOST_TOLERANCE = 0.02, 0.5
# Of a capacitor whose loss the sweep does not show (mica, from memory).
UNSEEN_Q = 1500.0


@dataclass(frozen=True, slots=True)
class KeptMaterial:
    """A ring's material: frequency, μ' and μ'' at some points, one tolerance for all of it, the mix it is like."""

    points: tuple[tuple[float, float, float], ...]
    tolerance: float
    like: str | None


@dataclass(frozen=True, slots=True)
class KeptPart:
    """A coil or a trap; errors are two standard deviations over the value. None is what the sweep does not show."""

    inductance_h: float
    inductance_error: float
    capacitance_f: float | None
    q: float | None
    q_at_hz: float | None
    resonance_hz: float | None


@dataclass(frozen=True, slots=True)
class KeptCapacitor:
    """A capacitor; its tolerance is two standard deviations over the value."""

    capacitance_f: float
    tolerance: float
    q: float


def kept_at(found: FoundRing) -> npt.NDArray[np.intp]:
    """Which of a ring's points are kept: at most 61, evenly in log f."""
    f = found.frequency_hz
    wanted = np.geomspace(f[0], f[-1], KEPT_POINTS)
    return np.unique(np.abs(f[np.newaxis, :] - wanted[:, np.newaxis]).argmin(axis=1))


def kept_material(found: FoundRing) -> KeptMaterial:
    """A ring's material as the drawer keeps it; one figure for all of it: what the median point is known to."""
    at = kept_at(found)
    f, mu = found.frequency_hz[at], found.permeability[at]
    spread = np.hypot(found.real_error[at], found.imaginary_error[at]) / np.abs(mu)
    points = tuple(
        (float(hz), max(float(m.real), 1e-3), max(float(-m.imag), 0.0)) for hz, m in zip(f, mu, strict=True)
    )
    tolerance = min(MOST_TOLERANCE, max(LEAST_TOLERANCE, 2 * float(np.median(spread))))
    return KeptMaterial(points, tolerance, found.likely[0].mix if found.likely else None)


def lowest_al_h(found: FoundRing, size: Size) -> float:
    """Henry a turn squared of one ring, at the lowest frequency that was swept."""
    return float(MU_0_H_PER_M * found.permeability[kept_at(found)[0]].real * size.area_m2 / size.path_m)


def _relative(value: Value) -> float:
    return min(MOST_TOLERANCE, 2 * value.error / value.value)


def kept_part(found: FoundPart) -> KeptPart | KeptCapacitor:
    """A part as the drawer keeps it."""
    farad, henry, q = found.capacitance_f, found.inductance_h, found.q
    if found.kind == "capacitor" and farad is not None:
        return KeptCapacitor(farad.value, _relative(farad), UNSEEN_Q if q is None else q.value)
    assert henry is not None
    return KeptPart(
        henry.value,
        _relative(henry),
        None if farad is None else farad.value,
        None if q is None else q.value,
        None if q is None else found.q_at_hz,
        None if found.resonance_hz is None else found.resonance_hz.value,
    )
