"""What every analyser can do for a sweep, and how passes over it are gathered."""

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Protocol

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import RefusedError


class AnalyserError(RefusedError):
    """The instrument did not do what was asked; nothing that was there before is lost."""

    code = "analyser_failed"
    status = 503


class AnalyserGoneError(AnalyserError):
    """Nothing answers at its address, or the connection broke."""

    code = "analyser_gone"


class AnalyserSilentError(AnalyserError):
    """It did not answer in time."""

    code = "analyser_silent"


class AnalyserGarbageError(AnalyserError):
    """It answered something that is no sweep."""

    code = "analyser_garbage"


class AnalyserRefusedError(AnalyserError):
    """It reported an error of its own."""

    code = "analyser_refused"


class Analyser(Protocol):
    """An instrument that sweeps a reflection."""

    identity: str
    low_hz: float
    high_hz: float
    most_points: int

    def sweep(self, low_hz: float, high_hz: float, points: int) -> Complex:
        """Raw Γ against 50 Ω at evenly spaced frequencies, at most `most_points` of them.

        Raises:
            AnalyserError: the connection, the answer, or the instrument's own word.
        """
        ...

    def close(self) -> None:
        """Let go of the instrument."""
        ...


@dataclass(slots=True)
class Taken:
    """Passes over a sweep as they come in.

    Args:
        frequency_hz: shape (n,).
    """

    frequency_hz: Real
    passes: int = 0
    _sum: Complex = field(init=False)
    _squares: float = 0.0
    _latest: Complex = field(init=False)

    def __post_init__(self) -> None:
        self._sum = np.zeros(self.frequency_hz.shape, dtype=complex)
        self._latest = self._sum

    def add(self, raw: Complex) -> None:
        """One whole pass more."""
        if self.passes:
            away = raw - self._sum / self.passes
            self._squares += float(np.mean(np.abs(away) ** 2)) * self.passes / (self.passes + 1)
        self._sum = self._sum + raw
        self.passes += 1
        self._latest = raw

    @property
    def mean(self) -> Complex:
        """Mean of the passes; shape (n,)."""
        return self._sum / max(self.passes, 1)

    @property
    def latest(self) -> Complex:
        """The newest whole pass; shape (n,)."""
        return self._latest

    @property
    def noise_rms(self) -> float:
        """Root mean square of |δΓ| of one pass: from the scatter between passes, or along a single one.

        The latter takes third differences, in which a smooth curve leaves next to nothing and noise √20 of itself.
        """
        if self.passes > 1:
            return float(np.sqrt(self._squares / (self.passes - 1)))
        if self.frequency_hz.size < 8:
            return 0.0
        rough = np.abs(np.diff(self._latest, 3)) ** 2 / 20
        return float(np.sqrt(np.median(rough) / np.log(2)))


@dataclass(frozen=True, slots=True)
class Step:
    """How far a sweep has come: pass counted from 1, points of it that are there, and the newest raw Γ of them."""

    number: int
    points: int
    raw: Complex


def grid(low_hz: float, high_hz: float, points: int) -> Real:
    """Evenly spaced frequencies; the middle when there is only one point."""
    return np.linspace(low_hz, high_hz, points) if points > 1 else np.array([(low_hz + high_hz) / 2])


def one_pass(analyser: Analyser, frequency_hz: Real, on_points: Callable[[Complex], bool]) -> Complex | None:
    """One pass, in pieces as large as the instrument takes.

    Args:
        on_points: told what is there after each piece; says whether to go on.

    Returns:
        Raw Γ, shape (n,); None when stopped on the way.

    Raises:
        AnalyserError: from the instrument.
    """
    n = frequency_hz.size
    pieces = max(1, -(-n // analyser.most_points))
    edges = np.linspace(0, n, pieces + 1).astype(int)
    raw = np.empty(n, dtype=complex)
    for first, end in pairwise(edges):
        at = frequency_hz[first:end]
        raw[first:end] = analyser.sweep(float(at[0]), float(at[-1]), at.size)
        if not on_points(raw[:end]) and end < n:
            return None
    return raw


def take(
    analyser: Analyser,
    frequency_hz: Real,
    passes: int | None,
    on_step: Callable[[Step, Taken], bool],
) -> tuple[Taken, AnalyserError | None]:
    """Passes over a sweep, averaged, until there are enough, `on_step` says stop, or the instrument fails.

    Args:
        passes: how many; without end when None.
        on_step: told how far it has come; says whether to go on.

    Returns:
        What was gathered, and what went wrong if something did: whole passes are kept.
    """
    taken = Taken(frequency_hz)
    going = True

    def on_points(raw: Complex) -> bool:
        nonlocal going
        going = going and on_step(Step(taken.passes + 1, raw.size, raw), taken)
        return going

    try:
        while going and (passes is None or taken.passes < passes):
            raw = one_pass(analyser, frequency_hz, on_points)
            if raw is not None:
                taken.add(raw)
    except AnalyserError as error:
        return taken, error
    return taken, None
