"""What bench sweeps cannot tell from what is planned, and the one more sweep that would tell two suspects apart."""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from scipy.linalg import block_diag, cho_factor, cho_solve

from yielding_coil.core.arrays import Real
from yielding_coil.core.bench.hypothesis import GRADUAL, RIGHT, Fixture, Hypothesis
from yielding_coil.core.bench.seen import seen_of
from yielding_coil.core.bench.suspect_fit import BenchSweep, as_meant, shape_columns
from yielding_coil.core.fitting import both_parts, residual_columns, residual_of

# Squares of the weighted distance from which on two are told apart: about three standard deviations. One sweep more
# is worth it from where it splits them by a factor of ten.
TELLS, SPLITS = 9.0, 2 * math.log(10)
STEP = 1e-4


def hidden_faults(
    taken: Sequence[BenchSweep], suspects: Sequence[Hypothesis], among: Sequence[Hypothesis]
) -> tuple[Hypothesis, ...]:
    """Faults that these sweeps could not tell from what is planned: their curves lie within its tolerances."""
    planned = next((s for s in suspects if s.code == RIGHT), None)
    if planned is None:
        return ()
    others = [s for s in among if s is not planned and s.code not in GRADUAL]
    around = _Around.of(planned, taken)
    return tuple(s for s in others if around.distance(s, taken) < TELLS)


class _Around(NamedTuple):
    """What a suspect shows in some sweeps; the factored covariance of its tolerances and of the sweeps' doubt."""

    seen: Real
    factor: tuple[Real, bool]

    @classmethod
    def of(cls, suspect: Hypothesis, taken: Sequence[BenchSweep]) -> "_Around":
        still = as_meant(suspect)
        builds = np.concatenate([still, still + STEP * np.eye(still.size)])
        seen, slopes, blocks = [], [], []
        for t in taken:
            f, _ = t.thinned()
            gamma = seen_of(suspect, t.setup, f, builds)
            seen.append(both_parts(gamma[0]))
            slopes.append(both_parts(gamma[1:] - gamma[0]) / STEP)
            left_by = residual_columns(f, gamma[0], residual_of(t.residual_db))
            columns = np.concatenate([left_by, shape_columns(suspect, t.setup, f, still)], axis=1)
            blocks.append(columns @ columns.T + np.eye(2 * f.size) * (t.noise**2 / 2))
        slope = np.concatenate(slopes, axis=1)
        return cls(np.concatenate(seen), cho_factor(block_diag(*blocks) + slope.T @ slope))

    def distance(self, other: Hypothesis, taken: Sequence[BenchSweep]) -> float:
        """Squares of the distance to another suspect as it is meant."""
        still = as_meant(other)
        there = [both_parts(seen_of(other, t.setup, t.thinned()[0], still)[0]) for t in taken]
        apart = self.seen - np.concatenate(there)
        return float(apart @ cho_solve(self.factor, apart))


def telling_setup(
    one: Hypothesis, other: Hypothesis, taken: Sequence[BenchSweep], setups: Sequence[Fixture]
) -> Fixture | None:
    """The set-up that, swept as well, would tell two suspects apart best beyond their tolerances."""
    have = {t.setup.key for t in taken}
    best, most = None, SPLITS
    for setup in setups:
        if setup.key in have:
            continue
        more = [*taken, replace(taken[0], setup=setup)]
        squares = _Around.of(one, more).distance(other, more)
        if squares > most:
            best, most = setup, squares
    return best
