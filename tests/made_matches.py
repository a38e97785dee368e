"""Shelves and antennas for the search of matches."""

import itertools
import math

import numpy as np

from yielding_coil import data
from yielding_coil.core.matching import Stock
from yielding_coil.core.ring import Ring
from yielding_coil.core.search import Held, Shelf, Tube
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target
from yielding_coil.core.winding import RingCore

FIFTEEN = Target("15 m", 21.0e6, 21.45e6, 2.0)


def a_shelf(*, formers=((0.032, 0.1),), wires=("cu-1.6",), capacitors=(), cables=(), rings=()):
    """Whatever is named, all of it one's own; capacitors are picofarads, volts and how many there are."""
    number = itertools.count()
    return Shelf(
        formers=tuple(Held(next(number), Tube(*f)) for f in formers),
        wires=tuple(Held(next(number), data.winding_wire(w)) for w in wires),
        capacitors=tuple(
            Held(next(number), Stock(f"{pf:g} pF", pf * 1e-12, 0.05, volts, 2000.0, count))
            for pf, volts, count in capacitors
        ),
        cables=tuple(Held(next(number), data.cable_row(c)) for c in cables),
        rings=tuple(
            Held(next(number), RingCore(Ring(data.ring_material(mix), data.ring_size(size)), 0.2))
            for mix, size in rings
        ),
    )


def an_antenna(rng):
    """A wire of one resonance somewhere near a band, by its series circuit; and a target for it."""
    center = rng.uniform(7e6, 28e6)
    width = rng.uniform(0.004, 0.02)
    limit = float(rng.choice([1.5, 2.0, 3.0]))
    target = Target("band", center * (1 - width / 2), center * (1 + width / 2), limit)
    r, q = math.exp(rng.uniform(math.log(8), math.log(400))), rng.uniform(3, 20)
    own = center * math.exp(rng.normal(0, 0.08))
    f = np.linspace(0.8 * center, 1.2 * center, 161)
    x = q * r * (f / own - own / f)
    return Sweep(f, r * (f / center) ** 1.5 + 1j * x), target


def bare(frequency_hz, load_ohm):
    """An antenna that is the same at every frequency, as a sweep."""
    return Sweep(frequency_hz, np.full(frequency_hz.shape, load_ohm, dtype=complex))
