"""Normal deviates for trials, spread more evenly than chance spreads them."""

from functools import lru_cache

import numpy as np
from scipy.special import ndtri
from scipy.stats import qmc

from yielding_coil.core.arrays import Real

# What a generator starts from: entropy and spawn key.
Seed = tuple[int, tuple[int, ...]]


@lru_cache(maxsize=64)
def sobol_normal(dimensions: int, exponent: int, seeds: tuple[Seed, ...]) -> Real:
    """A scrambled Sobol set of 2^exponent standard normal deviates for each seed, one set after the other.

    Returns:
        Shape (sets · 2^exponent, dimensions), read-only: a drag asks for the same ones all the time.
    """
    rngs = [np.random.default_rng(np.random.SeedSequence(entropy, spawn_key=key)) for entropy, key in seeds]
    uniform = np.concatenate([qmc.Sobol(dimensions, rng=rng).random_base2(exponent) for rng in rngs])
    found = np.asarray(ndtri(np.clip(uniform, 1e-12, 1 - 1e-12)))
    found.setflags(write=False)
    return found
