"""What has to be said of a sweep as it is taken, and where else to look for a dip."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.calibration.correction import like_a_standard
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.finding import AcquisitionCode, Finding
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep

Findings = list[Finding[AcquisitionCode]]

# A calibration older than this is told of (common practice: again when the day or the cable has changed).
OLD_H = 8.0
# An antenna with a dip better than this in view needs no looking elsewhere; one that stays above three times as
# much shows no side by its SWR, and X tells it.
A_DIP, NO_SIDE = 5.0, 3.0
# A dip at the very edge of a sweep, within this share of its width, is none yet.
EDGE = 0.02
# A look further goes so many times as far either way; what dips below this |Γ| there is worth a sweep.
FURTHER, WORTH_A_LOOK = 4.0, 0.6
# A hertz of rounding is not outside a calibration.
ROUNDING_HZ = 1.0


class OutsideCalibrationError(RefusedError):
    """The sweep goes further than the calibration; the usual slip after widening."""

    code = "outside_calibration"


@dataclass(frozen=True, slots=True)
class CalibrationInUse:
    """What of a calibration counts for a sweep: its frequencies, shape (n,), and its age in hours."""

    frequency_hz: Real
    age_h: float


def require_covered(calibrated: tuple[float, float] | None, low_hz: float, high_hz: float) -> None:
    """Raise OutsideCalibrationError unless the calibration covers the sweep; None is no calibration.

    Args:
        calibrated: its lowest and highest frequency.
    """
    if calibrated is None:
        return
    low, high = calibrated
    if low - ROUNDING_HZ <= low_hz and high_hz <= high + ROUNDING_HZ:
        return
    raise OutsideCalibrationError(
        f"the sweep goes from {low_hz / 1e6:.6g} to {high_hz / 1e6:.6g} MHz, but this calibration only from "
        f"{low / 1e6:.6g} to {high / 1e6:.6g} MHz: sweep inside it, or calibrate anew",
        field="calibration_id",
        accepted=f"{low:.0f} to {high:.0f} Hz",
    )


def good_dip(found: Sweep) -> bool:
    """Whether the best match lies inside the sweep, not at its edge, and is a dip worth the name."""
    best = found.best_match()
    edge = EDGE * (found.high_hz - found.low_hz)
    return best.swr <= A_DIP and found.low_hz + edge < best.frequency_hz < found.high_hz - edge


def acquisition_findings(
    swept_hz: Real,
    found: Sweep | None,
    calibration: CalibrationInUse | None,
    *,
    kept_passes: int | None = None,
) -> Findings:
    """What has to be said of a sweep.

    Args:
        swept_hz: frequencies that were asked for.
        found: what was swept; None while more came back than any antenna returns.
        calibration: that corrected it; None for a raw sweep.
        kept_passes: whole passes before it broke off; None when it went through.
    """
    out: Findings = []
    if calibration is None:
        out.append(Finding("uncorrected"))
    else:
        if not np.array_equal(swept_hz, calibration.frequency_hz):
            out.append(Finding("interpolated", {"points": calibration.frequency_hz.size}))
        if calibration.age_h > OLD_H:
            out.append(Finding("old_calibration", {"age_h": calibration.age_h}))
    if kept_passes is not None:
        out.append(Finding("kept_passes", {"passes": kept_passes}))
    if found is None:
        return out
    gamma = found.reflection()
    above = int((np.abs(gamma) > HIGHEST_REFLECTION).sum())
    if above:
        out.append(Finding("above_one", {"points": above}))
    standard = like_a_standard(gamma) if calibration is not None else None
    if standard is not None:
        out.append(Finding("like_a_standard", {"standard": standard}))
    elif not good_dip(found):
        out.append(_no_dip(found))
    return out


def _no_dip(found: Sweep) -> Finding[AcquisitionCode]:
    """On which side the dip lies: where the SWR falls; where it hardly does, by the sign of X."""
    best = found.best_match()
    middle = (found.low_hz + found.high_hz) / 2
    falls = best.swr < NO_SIDE * A_DIP
    above = best.frequency_hz > middle if falls else bool(np.median(found.impedance_ohm.imag) < 0)
    where: Literal["above", "below"] = "above" if above else "below"
    return Finding("no_dip", {"where": where, "swr": best.swr, "falls": "yes" if falls else "no"})


def wide_range(low_hz: float, high_hz: float, lowest_hz: float, highest_hz: float) -> tuple[float, float]:
    """Where one quick look further goes, inside what the instrument sweeps."""
    return max(lowest_hz, low_hz / FURTHER), min(highest_hz, high_hz * FURTHER)


def dip_elsewhere(
    frequency_hz: Real,
    raw: Complex | None,
    asked: tuple[float, float],
    found: Sweep,
    limits_hz: tuple[float, float],
) -> Finding[AcquisitionCode]:
    """By one quick look further: where |Γ| dips outside the sweep, nearest to it; a range round it to sweep next.

    Args:
        frequency_hz: shape (n,), of the look.
        raw: reflections there, uncorrected; None where the look failed.
        asked: lowest and highest frequency that was swept before.
        found: that sweep.
        limits_hz: what the instrument sweeps.
    """
    f = frequency_hz
    lowest, highest = float(f[0]), float(f[-1])
    nowhere = Finding[AcquisitionCode]("no_dip_anywhere", {"low_hz": lowest, "high_hz": highest})
    if raw is None:
        return nowhere
    size = np.abs(raw)
    inner = (size[1:-1] < size[:-2]) & (size[1:-1] <= size[2:])
    outside = (f[1:-1] < found.low_hz) | (f[1:-1] > found.high_hz)
    candidates = np.flatnonzero(inner & outside & (size[1:-1] < WORTH_A_LOOK)) + 1
    if candidates.size == 0:
        return nowhere
    middle, span = (asked[0] + asked[1]) / 2, asked[1] - asked[0]
    nearest = float(f[candidates[np.argmin(np.abs(np.log(f[candidates] / middle)))]])
    return Finding(
        "dip_elsewhere",
        {
            "frequency_hz": nearest,
            "low_hz": max(limits_hz[0], nearest - span / 2),
            "high_hz": min(limits_hz[1], nearest + span / 2),
        },
    )
