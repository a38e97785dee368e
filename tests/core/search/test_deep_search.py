"""Fifty seeded antennas: nothing of a small drawer beats the front, no closed form beats the ideal."""

import itertools
import math

import numpy as np
import pytest
from made_matches import a_shelf, an_antenna

from yielding_coil.core.design import Design
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.search import TOPOLOGIES, SearchTask, search_matches
from yielding_coil.core.search.closed import closed_forms
from yielding_coil.core.search.front import EXCESS_STEP, LOSS_STEP_DB
from yielding_coil.core.search.ideal import CAPACITOR_Q, COIL_Q, best, networks
from yielding_coil.core.search.network import Question
from yielding_coil.core.search.shelf import items_of
from yielding_coil.core.system import Element, System, worst_over

pytestmark = [pytest.mark.deep, pytest.mark.trial]

SEEDS = range(20261201, 20261251)
SHELF = a_shelf(
    formers=((0.025, 0.03),),
    capacitors=((8.2, 5000.0, 1), (33, 5000.0, 1), (150, 5000.0, 1), (680, 5000.0, 1)),
)


def every_point(topology, antenna, target):
    """Excess, loss and parts of every combination, by plain complex sums: no table, no block, no front."""
    f = np.linspace(target.low_hz, target.high_hz, 41)
    load = antenna.impedance_at(f)
    choices = [items_of(s.kind, SHELF, target.center_hz, target.high_hz) for s in topology.slots]
    rows = {}
    for k, slot in enumerate(topology.slots):
        seen = "impedance_ohm" if slot.place == "series" else "admittance_s"
        parts = [item.element.part(target.center_hz) for item in choices[k]]
        rows[slot.place, k] = np.array([getattr(part, seen)(f) for part in parts])
    heads = itertools.product(*(range(len(c)) for c in choices[:-1]))
    for head in heads if topology.slots else [()]:
        z, arrives = load, np.ones(f.size)
        for k, pick in enumerate((*head, slice(None)) if topology.slots else ()):
            place = topology.slots[k].place
            x = rows[place, k][pick]
            near = z + x if place == "series" else z / (1 + z * x)
            arrives = arrives * (z.real / near.real if place == "series" else (1 / z).real / (1 / near).real)
            z = near
        gamma = np.abs((z - 50) / (z + 50)).max(axis=-1)
        excess = (1 + gamma) / (1 - gamma) / target.swr_limit
        loss = (-10 * np.log10(arrives)).max(axis=-1)
        count = sum(choices[k][p].count for k, p in enumerate(head))
        last = np.array([i.count for i in choices[-1]]) if topology.slots else 0
        yield np.broadcast_arrays(np.rint(excess / EXCESS_STEP), np.rint(loss / LOSS_STEP_DB), count + last)


def test_no_point_of_a_small_drawer_beats_the_front(trials):
    """Every combination there is, for topologies of up to three parts without lines or cores."""
    topologies = tuple(
        t for t in TOPOLOGIES if all(s.kind in ("coil", "capacitor") for s in t.slots) and len(t.slots) <= 3
    )
    points = beaten = 0
    for seed in trials.some(SEEDS):
        antenna, target = an_antenna(np.random.default_rng(seed))
        design = Design(antenna=antenna, targets=(target,), elements=())
        task = SearchTask(design, SHELF, power_w=1.0, topologies=topologies, most_loss_db=math.inf)
        front = [c.worth for c in list(search_matches(task))[-1].front]
        assert front
        for topology in topologies:
            for excess, loss, parts in every_point(topology, antenna, target):
                points += excess.size
                for worth in front:
                    nowhere_worse = (excess <= worth.excess) & (loss <= worth.loss) & (parts <= worth.parts)
                    better = (excess < worth.excess) | (loss < worth.loss) | (parts < worth.parts)
                    beaten += int((nowhere_worse & better).sum())
    trials.note("search: points of small drawers against the front", points=points, beat_it=beaten)
    assert beaten == 0


def test_no_closed_form_beats_the_ideal(trials):
    """Every closed form in the middle of the band, judged by the cascade with parts of the same quality."""
    topologies = [t for t in TOPOLOGIES if t.slots and all(s.kind in ("coil", "capacitor") for s in t.slots)]
    tried = worse = 0
    for seed in trials.some(SEEDS):
        antenna, target = an_antenna(np.random.default_rng(seed))
        question = Question.of(antenna.impedance_at, (target,), 41)
        for network in networks(topologies, ()):
            found = best(network, question)
            for values in closed_forms(network, question):
                elements = [
                    Element(
                        str(k),
                        slot.place,
                        Inductor(v, COIL_Q, target.center_hz) if slot.kind == "coil" else Capacitor(v, CAPACITOR_Q),
                    )
                    for k, (slot, v) in enumerate(zip(network.topology.slots, values, strict=True))
                ]
                (swr,) = worst_over(System(antenna, elements), (target,))
                tried += 1
                worse += found.excess > swr / target.swr_limit * (1 + 1e-9)
    trials.note("search: closed forms against the ideal", tried=tried, better_than_it=worse)
    assert tried > 50
    assert worse == 0
