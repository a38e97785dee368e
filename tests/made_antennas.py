"""Antennas of every kind with numbers from anywhere in their ranges, for trials."""

import numpy as np

from yielding_coil.core.wire import Ground, Insulation
from yielding_coil.core.wire.kinds import (
    Dipole,
    EndFed,
    InvertedV,
    LoadedVertical,
    Loop,
    RaisedVertical,
    SlopingDipole,
    Stock,
    Vertical,
)
from yielding_coil.core.wire.kinds.loading import line_estimate_h

C = 299_792_458.0


def hung_somewhere(rng):
    """An antenna, the frequency it is for, and the resistance its feed expects."""
    f = rng.uniform(18e6, 30e6)
    wave = C / f
    radius = rng.uniform(0.0005, 0.0015)
    cover = Insulation(radius * rng.uniform(1.3, 2.2), rng.uniform(2.2, 3.5)) if rng.random() < 0.6 else None
    stock = Stock(radius, insulation=cover)
    ground = Ground(0.001 * 30 ** rng.random(), rng.uniform(5, 20))
    height = rng.uniform(0.15, 0.8) * wave
    leg = rng.uniform(0.228, 0.242) * wave
    over = {"stock": stock, "ground": ground}
    radials = int(rng.integers(4, 65))
    h = rng.uniform(0.1, 0.18) * wave
    coil = line_estimate_h(f, h / 2, h / 2, radius, 1.5e-12)
    choices = (
        lambda: (Dipole(leg, height, **over), 50.0),
        lambda: (SlopingDipole(leg, height + 0.2 * wave, height, **over), 50.0),
        lambda: (InvertedV(leg, height + 0.2 * wave, rng.uniform(90, 140), **over), 50.0),
        lambda: (Vertical(leg, radials, stock=stock), 50.0),
        lambda: (LoadedVertical(h, coil, 0.5, radials=radials, stock=stock), 50.0),
        lambda: (RaisedVertical(leg, leg, height + 0.2 * wave, 3, rng.uniform(0, 50), **over), 50.0),
        lambda: (EndFed(2 * leg, 0.05 * wave, height, height, **over), 2450.0),
        lambda: (Loop(4.4 * leg, height, int(rng.integers(3, 5)), **over), 112.0),
    )
    hung, feed = choices[int(rng.integers(len(choices)))]()
    return hung, f, feed


def as_it_came_out(hung, rng):
    """The same with everything that strays off by chance: its own numbers, no derivatives."""
    for stray in hung.strays():
        hung = hung.strayed(stray, float(rng.normal()))
    return hung


def dip_by_solving(structure, f, feed):
    """Where the SWR on a feed is lowest, by solving and looking closer: nothing of the model's curves is used."""
    at = np.linspace(0.88 * f, 1.12 * f, 241)
    size = np.abs((structure.impedance_at(at) - feed) / (structure.impedance_at(at) + feed))
    low = np.flatnonzero((size[1:-1] <= size[:-2]) & (size[1:-1] < size[2:])) + 1
    if not len(low):
        return None
    i = int(low[np.argmin(np.abs(at[low] - f))])
    near = np.linspace(at[i - 1], at[i + 1], 41)
    z = structure.impedance_at(near)
    return float(near[np.argmin(np.abs((z - feed) / (z + feed)))])
