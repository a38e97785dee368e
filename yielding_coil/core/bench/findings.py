"""What sweeps on the bench may be trusted for, and what the verdict on them comes to."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.bench.fixtures import Materials, setups_of, winding_suspects
from yielding_coil.core.bench.hypothesis import RIGHT
from yielding_coil.core.bench.suspect_fit import BenchSweep
from yielding_coil.core.bench.verdict import Verdict, classify
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import BenchCode, Finding
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.winding import AnyWinding

# What is trusted of a sweep, dB below full reflection: of a file, of a calibration without its check, of none.
FILE_DB, UNCHECKED_DB, RAW_DB, BEST_DB = 50.0, 45.0, 25.0, 50.0
# Of one kept pass, root mean square of |δΓ|.
KEPT_NOISE = 1.5e-3
# Where what is wound is described at all.
LOW_HZ, HIGH_HZ = 0.1e6, 60e6
# Zero crossings of X from which on something long hangs there: an antenna or a line.
MANY_CROSSINGS = 3
# Narrower than an octave a sweep tells little.
OCTAVE = 2.0


def trusted_db(*, calibrated: bool, checked_db: float | None = None, by_analyser: bool = False) -> float:
    """How far below full reflection the errors of a sweep are taken to lie.

    Args:
        calibrated: whether it was corrected here.
        checked_db: what the load's check left of that calibration, dB (below zero); None without a check.
        by_analyser: whether an analyser gave it raw; else a file, of which its maker knows.
    """
    if calibrated:
        return UNCHECKED_DB if checked_db is None else min(BEST_DB, -checked_db)
    return RAW_DB if by_analyser else FILE_DB


def useful(sweep: Sweep) -> Sweep:
    """The part of a sweep in which wound things are described.

    Raises:
        OutOfDomainError: nothing of it is.
    """
    inside = (sweep.frequency_hz >= LOW_HZ) & (sweep.frequency_hz <= HIGH_HZ)
    if inside.sum() < 2:
        raise OutOfDomainError(
            "sweep",
            f"from {sweep.low_hz / 1e6:.4g} to {sweep.high_hz / 1e6:.4g} MHz",
            f"within {LOW_HZ / 1e6:g} to {HIGH_HZ / 1e6:g} MHz, where what is wound is described",
        )
    return Sweep(sweep.frequency_hz[inside], sweep.impedance_ohm[inside])


def crossings_of(sweep: Sweep) -> int:
    """How often X passes zero in a sweep."""
    return int((np.diff(np.sign(sweep.impedance_ohm.imag)) != 0).sum())


@dataclass(frozen=True, slots=True)
class BenchReport:
    """A verdict, whether the thing passed (None: cannot tell), and what to know of the sweeps."""

    verdict: Verdict
    passed: bool | None
    findings: tuple[Finding[BenchCode], ...]


def bench_verdict(
    element: AnyWinding, taken: Sequence[BenchSweep], center_hz: float, materials: Materials
) -> BenchReport:
    """Right, or what is wrong with a wound thing, by sweeps of it.

    Args:
        taken: at least one sweep, with the way it was swept.
        center_hz: where values of parts are meant.
        materials: among which a wrong ring may be.

    Raises:
        OutOfDomainError: no sweep, or one of fewer than eleven points.
    """
    said = classify(taken, winding_suspects(element, center_hz, materials), setups_of(element))
    return BenchReport(said, passed(said), tuple(bench_findings(said, taken)))


def passed(said: Verdict) -> bool | None:
    """Whether the thing passed; None where it may be right or not."""
    if said.says == "named":
        return said.likely[0].suspect.code == RIGHT
    return False if said.says == "strange" or RIGHT not in said.codes else None


def bench_findings(said: Verdict, taken: Sequence[BenchSweep]) -> list[Finding[BenchCode]]:
    """Sweeps of something else, or too narrow to tell much."""
    found: list[Finding[BenchCode]] = []
    crossings = max(crossings_of(t.sweep) for t in taken)
    if said.says == "strange" and crossings >= MANY_CROSSINGS:
        found.append(Finding("like_an_antenna", {"crossings": crossings}))
    low, high = max(t.sweep.low_hz for t in taken), min(t.sweep.high_hz for t in taken)
    if high / low < OCTAVE:
        found.append(Finding("narrow_sweep", {"low_hz": low, "high_hz": high}))
    return found
