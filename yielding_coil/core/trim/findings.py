"""What there is to know of a wire that is trimmed: what comes first, what was odd, what a poor minimum tells."""

from collections.abc import Sequence
from typing import TypeAlias

import numpy as np

from yielding_coil.core.finding import Finding, TrimCode, Values
from yielding_coil.core.reflection import swr_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target
from yielding_coil.core.trim.evidence import Weighed
from yielding_coil.core.trim.log import Swept, TrimLog, TrimPhase
from yielding_coil.core.trim.meter_readings import Dip
from yielding_coil.core.trim.moves import Unexplained
from yielding_coil.core.trim.next_cut import FAR_OFF, NEAR_ENOUGH, height_of_dipole_m, slips
from yielding_coil.core.wire import FORMS, STEP_M, HungWire, WireForm

TrimFinding: TypeAlias = Finding[TrimCode]

# Frequencies on a band at which its worst SWR is looked for.
POINTS = 41
# SWR read within this share of a band of its edge is that of the edge.
AT_EDGE = 0.1
# |Z| or R read within this of the dip is that of the dip.
AT_DIP = 0.01
# Legs further apart than so many marks of the tape are uneven.
UNEVEN_MARKS = 2
# Dips of one wire as it hangs further apart than this many times what is near enough.
DIPS_APART = 4.0


def wire_findings(log: TrimLog) -> list[TrimFinding]:
    """What concerns the wire as a whole, not the readings of a band."""
    found: list[TrimFinding] = []
    if log.bands_changed:
        found.append(Finding("bands_changed"))
    resonant = FORMS[log.form].resonant
    if not resonant:
        found.append(Finding("not_resonant"))
    if resonant and log.hanging is not None and abs(log.hanging.uneven_m) > UNEVEN_MARKS * STEP_M[log.unit]:
        found.append(Finding("uneven", {"by_m": abs(log.hanging.uneven_m)}))
    if not (log.checks and log.checks[-1]) and (log.transformer or log.network):
        found.append(Finding("check_first", {"failed": "yes" if log.checks else "no"}))
    return found


def worst_over_band(here: TrimPhase, target: Target) -> tuple[float | None, list[TrimFinding]]:
    """Worst SWR over the band as it now hangs, where that is known; and that a sweep leaves the band out."""
    if here.sweeps:
        sweep = here.sweeps[-1]
        if not (sweep.low_hz <= target.low_hz and target.high_hz <= sweep.high_hz):
            return None, [Finding("target_outside", {"low_hz": sweep.low_hz, "high_hz": sweep.high_hz})]
        at = np.linspace(target.low_hz, target.high_hz, POINTS)
        if isinstance(sweep, Sweep):
            return float(swr_of_impedance(sweep.impedance_at(at)).max()), []
        return float(swr_of(sweep.magnitude_at(at).astype(complex)).max()), []
    points = [p for read in here.reads for p in read.points]
    reach = AT_EDGE * (target.high_hz - target.low_hz)
    edges = [
        [p.swr for p in points if abs(p.frequency_hz - edge) <= reach] for edge in (target.low_hz, target.high_hz)
    ]
    return (max(max(each) for each in edges) if all(edges) else None), []


def side_findings(here: TrimPhase) -> list[TrimFinding]:
    """No dip yet: the side it lies on, and what to read next."""
    last = here.dips[-1] if here.dips else None
    if last is None:
        return []
    if here.sweeps and not here.reads:
        if last.side == "unknown":
            return [Finding("sweep_closer", {"frequency_hz": last.read_next_hz})]
        return [Finding("beyond_sweep", {"side": last.side, "frequency_hz": last.read_next_hz})]
    values: Values = {"low_hz": last.low_hz, "high_hz": last.high_hz, "frequency_hz": last.read_next_hz}
    if last.side == "above":
        return [Finding("dip_above", values)]
    if last.side == "below":
        return [Finding("dip_below", values)]
    return [Finding("side_open", {"frequency_hz": last.read_next_hz})]


def reading_findings(phases: Sequence[TrimPhase], here: TrimPhase) -> list[TrimFinding]:
    """Readings by several instruments, and dips of the same wire that lie apart."""
    found: list[TrimFinding] = []
    names = sorted({n for phase in phases for n in phase.instruments if n})
    if len(names) > 1:
        found.append(Finding("other_instrument", {"names": "; ".join(names)}))
    dips = [d.frequency_hz for d in here.found if d.frequency_hz is not None]
    # Two that agree with the newest outvote the one that does not.
    if len(dips) > 1 and not here.again:
        apart = (max(dips) - min(dips)) / float(np.mean(dips))
        if apart > DIPS_APART * NEAR_ENOUGH:
            found.append(Finding("dips_apart", {"low_hz": min(dips), "high_hz": max(dips), "share": apart}))
    return found


def slip_findings(log: TrimLog, link: int, hanging: HungWire, dip_hz: float, *, again: bool) -> list[TrimFinding]:
    """A dip so far from where the length says that it is measured again first; and that it was, and it is so."""
    expected = log.expected_hz(link, hanging)
    if expected is None or abs(dip_hz / expected - 1) < FAR_OFF:
        return []
    usual = slips(dip_hz, expected)
    values: Values = {
        "dip_hz": dip_hz,
        "expected_hz": expected,
        "leg_m": hanging.leg(link)[0],
        "slip": usual[0] if usual else None,
    }
    return [Finding("far_from_length" if again else "measure_again", values)]


def odd_findings(odd: Sequence[Unexplained]) -> list[TrimFinding]:
    """Moves of the dip that no length explains: the newest first of all, earlier ones as what was set aside."""
    found: list[TrimFinding] = []
    for move in odd:
        values: Values = {
            "before_hz": move.before_hz,
            "after_hz": move.after_hz,
            "moved": move.moved,
            "expected": move.expected,
            "doubt": 1.645 * move.expected_spread,
            "alone_hz": None if move.alone is None else move.after_hz,
        }
        found.append(Finding("unexplained_move" if move.now else "set_aside", values))
    return found


def minimum_findings(
    form: WireForm, swr_limit: float, dip: Dip, sweep: Swept | None, weighed: Weighed | None
) -> list[TrimFinding]:
    """A minimum above the limit: what R says, and no more than it can tell."""
    if dip.swr is None or dip.swr <= swr_limit or dip.frequency_hz is None:
        return []
    resistance, reactance = _ohm_at(dip.frequency_hz, sweep, weighed)
    height = None
    if resistance is not None and form == "dipole":
        height = height_of_dipole_m(resistance, dip.frequency_hz)
    side = "unknown" if resistance is None else "low" if resistance < 50 else "high"
    # Where R alone would read much less, it is X that spoils it.
    if reactance is not None and max(resistance or 1, 50) / min(resistance or 1, 50) < 1 + (dip.swr - 1) / 2:
        side = "reactive"
    values: Values = {
        "swr": dip.swr,
        "resistance_ohm": resistance,
        "reactance_ohm": reactance,
        "height_m": height,
        "side": side,
    }
    return [Finding("poor_minimum", values)]


def _ohm_at(frequency_hz: float, sweep: Swept | None, weighed: Weighed | None) -> tuple[float | None, float | None]:
    """R and X at a dip, as far as they were read there."""
    if isinstance(sweep, Sweep):
        there = complex(sweep.impedance_at(frequency_hz))
        return there.real, there.imag
    if weighed is None or not weighed.impedances:
        return None, None
    nearest = min(weighed.impedances, key=lambda z: abs(z.frequency_hz - frequency_hz))
    near = abs(nearest.frequency_hz / frequency_hz - 1) < AT_DIP
    return nearest.resistance_ohm if near else None, None
