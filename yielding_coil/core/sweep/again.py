"""The same thing swept twice, something done to it between: what moved, by how much, whether it matters."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.sweep.assessment import BandChange, band_change, usual_doubt
from yielding_coil.core.sweep.sweep import Sweep
from yielding_coil.core.target import Target

MovedState = Literal["cannot_tell", "still", "moved", "matters"]
# Compared at so many frequencies that both sweeps reach.
POINTS = 201
# A reactance that moved less is as good as it was (common practice: parts are brought to 2 %); an SWR likewise.
ALLOWED, SWR_ALLOWED = 0.02, 0.1
# What is this much more reactance than resistance is a coil or a capacitor alone.
REACTIVE = 3.0


@dataclass(frozen=True, slots=True)
class MovedSince:
    """A second sweep of a thing against a first.

    Args:
        state: cannot tell where the sweeps have nothing in common; still where nothing moved beyond the analyser's
            own doubt; matters where a band is lost, its SWR rises by a tenth, or a reactance moves by 2 %.
        at_hz: where Γ moved most, against the doubt there.
        reflection_change: |ΔΓ| there; `doubt` is what the two readings may differ by on their own, two standard
            deviations.
        reactance_share: of a coil or capacitor alone, how far X moved, relative, in the middle of the first target
            that both reach; None where it is no such thing.
        targets: what became of each target.
    """

    state: MovedState
    at_hz: float | None = None
    reflection_change: float | None = None
    doubt: float | None = None
    reactance_share: float | None = None
    targets: tuple[BandChange, ...] = ()


def moved_since(first: Sweep, second: Sweep, targets: Sequence[Target]) -> MovedSince:
    """What glue, ties, a box or a year did to it.

    Args:
        first, second: of the same thing at the same plane.
        targets: the bands it serves.
    """
    low, high = max(first.low_hz, second.low_hz), min(first.high_hz, second.high_hz)
    if not low < high or any(g[0] <= low and high <= g[1] for s in (first, second) for g in s.gaps):
        return MovedSince("cannot_tell")
    f = np.linspace(low, high, POINTS)
    for gap in (*first.gaps, *second.gaps):
        f = f[(f <= gap[0]) | (f >= gap[1])]
    change = np.abs(second.reflection_at(f) - first.reflection_at(f))
    squares = [np.interp(f, s.frequency_hz, (s.doubt or usual_doubt(s)).rms) ** 2 for s in (first, second)]
    doubt = 2 * np.sqrt(squares[0] + squares[1])
    # A sweep of no doubt at all is one that was computed: then every change counts.
    worst = int(np.argmax(change / np.maximum(doubt, 1e-12)))
    bands = tuple(band_change(first, second, t) for t in targets)
    share = _reactance_share(first, second, [t.center_hz for t in targets if low <= t.center_hz <= high])
    state: MovedState = "still"
    if change[worst] > doubt[worst]:
        lost = any(_is_lost(b, t.swr_limit) for b, t in zip(bands, targets, strict=True))
        state = "matters" if lost or (share is not None and abs(share) > ALLOWED) else "moved"
    return MovedSince(state, float(f[worst]), float(change[worst]), float(doubt[worst]), share, bands)


def _is_lost(band: BandChange, limit: float) -> bool:
    before, after = band.first_worst_swr, band.second_worst_swr
    if before is None or after is None:
        return False
    return after > limit >= before or (after > before + SWR_ALLOWED and after > 1 + SWR_ALLOWED and before <= limit)


def _reactance_share(first: Sweep, second: Sweep, centers_hz: Sequence[float]) -> float | None:
    if not centers_hz:
        return None
    before, after = (complex(s.impedance_at(centers_hz[0])) for s in (first, second))
    if abs(before.imag) < REACTIVE * abs(before.real):
        return None
    return (after.imag - before.imag) / before.imag
