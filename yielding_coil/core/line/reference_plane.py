"""Moving the plane of a sweep along its line, with the doubt that the line brings."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line.line import Line
from yielding_coil.core.quasi_random import sobol_normal
from yielding_coil.core.reflection import impedance_of, reflection_of, swr_of
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep

Towards = Literal["antenna", "radio"]
Doubtful = Literal["velocity", "loss", "impedance", "length", "reading"]
DOUBTFUL: tuple[Doubtful, ...] = ("velocity", "loss", "impedance", "length", "reading")
# 512 draws, always the same ones.
DRAWS = (6, 9, ((1, ()),))
# Draws go round the reading, not the truth: through a long line the reading's own doubt is bent on the way, and
# what counts as known is chosen by what was read. So much wider nine in ten hold (core/line/test_deep_plane.py).
WIDER = 1.3
# The far impedance counts as known while nine draws in ten of it lie within so much of Γ of their middle:
# a tenth of the way across the chart.
KNOWN_WITHIN = 0.2


@dataclass(frozen=True, slots=True)
class LineUncertainty:
    """How well a line is known: two standard deviations, relative, of each of its values.

    Defaults are those of nominal cables (memory) and of a tape laid along a line (practice).
    """

    velocity: float = 0.02
    loss: float = 0.10
    impedance: float = 0.02
    length: float = 0.005

    @property
    def none(self) -> bool:
        """Whether all is known exactly."""
        return not (self.velocity or self.loss or self.impedance or self.length)


@dataclass(frozen=True, slots=True, eq=False)
class Moved:
    """A sweep at another plane; shapes (n,).

    Args:
        impedance_ohm: by the line as it is taken to be.
        low_ohm, high_ohm: edges of the 90 % bands of R (real part) and of X (imaginary part).
        low_swr, high_swr: edges of that of SWR against 50 Ω.
        doubt: covariance of Γ over the draws, to first order what a further step may go on with.
        known: where the far impedance is known well enough to speak of one.
        shares: of the doubt in Γ in the middle of the sweep, how much each thing brings, largest first.
    """

    frequency_hz: Real
    impedance_ohm: Complex
    low_ohm: Complex
    high_ohm: Complex
    low_swr: Real
    high_swr: Real
    doubt: ReflectionUncertainty
    known: npt.NDArray[np.bool_]
    shares: tuple[tuple[Doubtful, float], ...]


def moved_ohm(line: Line, frequency_hz: Real, impedance_ohm: Complex, towards: Towards) -> Complex:
    """An impedance at one end of a line as it is at the other."""
    if towards == "antenna":
        return line.load_impedance(frequency_hz, impedance_ohm)
    return line.input_impedance(frequency_hz, impedance_ohm)


def shift_reference_plane(
    sweep: Sweep,
    line: Line,
    towards: Towards,
    line_doubt: LineUncertainty | None = None,
    reading: ReflectionUncertainty | None = None,
) -> Moved:
    """A sweep moved through a line, with the fan of what else it may be.

    The fan's edges are the 5 % and 95 % points over 512 lines drawn from a scrambled Sobol sequence, each
    value normal round the one given; so they hold however far Γ is turned. A line that turns Γ by less than
    a few degrees gives a fan as narrow.

    Args:
        sweep: at the near end for `towards` "antenna", at the far end for "radio".
        line: between the two planes.
        towards: where the plane goes.
        line_doubt: how well the line is known; nominal cable when left out.
        reading: how sure the sweep itself is; left out, it is taken as exact.

    Raises:
        OutOfDomainError: the line has no length.
    """
    length_m = float(np.asarray(line.length_m))
    if length_m == 0:
        raise OutOfDomainError("length_m", 0.0, "above zero: without a line there is nothing to move through")
    doubt = LineUncertainty() if line_doubt is None else line_doubt
    f, z = sweep.frequency_hz, sweep.impedance_ohm
    normal = sobol_normal(*DRAWS)
    widths: list[tuple[Doubtful, float]] = []
    middle = np.array([f.size // 2])
    for name in DOUBTFUL:
        only = _draws(f[middle], z[middle], line, towards, _only(doubt, name), _at(reading, middle, name), normal)
        widths.append((name, float(np.std(reflection_of(only)))))
    total = sum(w**2 for _, w in widths)
    shares = sorted(((n, w**2 / total if total else 0.0) for n, w in widths), key=lambda s: -s[1])
    drawn = _draws(f, z, line, towards, doubt, reading, normal)
    gamma = reflection_of(drawn)
    r = np.percentile(drawn.real, (5, 95), axis=0)
    x = np.percentile(drawn.imag, (5, 95), axis=0)
    swr = np.percentile(swr_of(gamma), (5, 95), axis=0, method="nearest")
    centre = gamma.mean(axis=0)
    away = np.percentile(np.abs(gamma - centre), 90, axis=0)
    return Moved(
        f,
        moved_ohm(line, f, z, towards),
        r[0] + 1j * x[0],
        r[1] + 1j * x[1],
        swr[0],
        swr[1],
        ReflectionUncertainty.among(gamma),
        away <= KNOWN_WITHIN,
        tuple(shares),
    )


def _only(doubt: LineUncertainty, name: Doubtful) -> LineUncertainty:
    kept = {n: getattr(doubt, n) if n == name else 0.0 for n in ("velocity", "loss", "impedance", "length")}
    return LineUncertainty(**kept)


def _at(
    reading: ReflectionUncertainty | None, at: npt.NDArray[np.intp], name: Doubtful
) -> ReflectionUncertainty | None:
    if reading is None or name != "reading":
        return None
    return reading.at(at)


def _draws(
    f: Real,
    z: Complex,
    line: Line,
    towards: Towards,
    doubt: LineUncertainty,
    reading: ReflectionUncertainty | None,
    normal: Real,
) -> Complex:
    """Impedances at the other end over all draws, shape (draws, n)."""
    velocity, loss, impedance, length = (
        1 + normal[:, k : k + 1] * (getattr(doubt, name) / 2)
        for k, name in enumerate(("velocity", "loss", "impedance", "length"))
    )
    c = line.cable
    cable = replace(
        c,
        velocity_factor=np.minimum(c.velocity_factor * velocity, 1.0),
        impedance_ohm=c.impedance_ohm * impedance,
        loss_sqrt=np.maximum(c.loss_sqrt * loss, 0.0),
        loss_linear=np.maximum(c.loss_linear * loss, 0.0),
    )
    drawn = Line(cable, line.length_m * length)
    seen = z[np.newaxis]
    if reading is not None:
        seen = impedance_of(reading.drawn(reflection_of(z), WIDER * normal[:, 4:6]))
    return moved_ohm(drawn, f[np.newaxis], seen, towards)


def worth_measuring(shares: Sequence[tuple[Doubtful, float]]) -> Doubtful | None:
    """The one thing that brings most of the doubt; None where there is none."""
    name, share = shares[0]
    return name if share > 0 else None
