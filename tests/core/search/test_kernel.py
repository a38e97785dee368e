"""What the kernel judges against scikit-rf, network by network, and against the stations of the cascade."""

import math

import numpy as np
import pytest
import skrf

from yielding_coil import data
from yielding_coil.core.line import Line, Stub
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.ring import Ring
from yielding_coil.core.search import TOPOLOGIES
from yielding_coil.core.search.kernel import Table, carry, judge, judge_rows, numbers_of, reflection_squared
from yielding_coil.core.system import Element, System
from yielding_coil.core.transformer import Transformer

F = np.linspace(20.9e6, 21.5e6, 8)
ANTENNA = 85 - 411j + 1j * np.linspace(-30, 30, 8)
COAX, FOAM, WINDOW = data.cable("pe-5"), data.cable("foam-7-75"), data.cable("window-450")
CORE = Ring(data.ring_material("61"), data.ring_size("FT240"))

PARTS = {
    "coil": [Inductor(1.7e-6, 220, 21.2e6, 1.2e-12), Inductor(3.1e-6, 300, 21.2e6)],
    "capacitor": [Capacitor(6.5e-12, 1500), Capacitor(110e-12, 2000), Capacitor(25e-12)],
    "section": [Line(COAX, 0.4), Line(FOAM, 2.9)],
    "pair": [Line(data.cable("pe-10-75"), 1.1), Line(COAX, 3.3)],
    "stub": [Stub(COAX, 0.7, "open"), Stub(COAX, 2.9, "shorted"), Stub(COAX, 4.1, "open")],
    "hairpin": [Stub(WINDOW, 0.3, "shorted"), Stub(WINDOW, 1.9, "shorted")],
    "transformer": [Transformer(CORE, 2, 5, 1e-7, 3e-12), Transformer(CORE, 3, 14, 5e-8)],
}


class Known:
    """The antenna, read at the frequencies asked for."""

    def impedance_at(self, frequency_hz):
        return ANTENNA


def theirs(slots, row):
    """Γ and the share of power that arrives, by scikit-rf's own cascading of two-ports."""
    frequency = skrf.Frequency.from_f(F, unit="Hz")
    antenna = skrf.Network(frequency=frequency, s=((ANTENNA - 50) / (ANTENNA + 50)).reshape(-1, 1, 1), z0=50)
    whole = None
    for slot, k in zip(slots, row, strict=True):
        part = PARTS[slot.kind][k]
        one, zero = np.ones(F.size), np.zeros(F.size)
        if slot.place == "series":
            abcd = [[one, part.impedance_ohm(F)], [zero, one]]
        elif slot.place == "shunt":
            abcd = [[one, zero], [part.admittance_s(F), one]]
        else:
            a, b, c, d = part.chain(F)
            abcd = [[a, b], [c, d]]
        s = skrf.network.a2s(np.moveaxis(np.array(abcd, dtype=complex), 2, 0), z0=50)
        two = skrf.Network(frequency=frequency, s=s, z0=50)
        whole = two if whole is None else two**whole
    if whole is None:
        return antenna.s[:, 0, 0], np.ones(F.size)
    seen = (whole**antenna).s[:, 0, 0]
    load = antenna.s[:, 0, 0]
    through = np.abs(whole.s[:, 1, 0] / (1 - whole.s[:, 1, 1] * load)) ** 2 * (1 - np.abs(load) ** 2)
    return seen, through / (1 - np.abs(seen) ** 2)


@pytest.mark.parametrize("topology", TOPOLOGIES, ids=lambda t: t.key)
def test_every_topology_is_the_one_of_scikit_rf(topology):
    tables = [Table.of(slot.place, PARTS[slot.kind], F) for slot in topology.slots]

    found = np.concatenate([b for _, b in judge(ANTENNA / 50, tables, 2)])
    index = np.arange(len(found))
    carried = carry(ANTENNA / 50, tables, index)
    rows = np.array(numbers_of(index, tables)).T.reshape(len(found), -1)

    assert len(found) == math.prod(len(PARTS[s.kind]) for s in topology.slots)
    for k, row in enumerate(rows):
        gamma, arrives = theirs(topology.slots, row)
        worst = np.abs(gamma).reshape(2, -1).max(axis=1) ** 2
        assert reflection_squared(found[k]) == pytest.approx(worst, rel=1e-9, abs=1e-9)
        assert carried.loss_db[k] == pytest.approx(max(-10 * np.log10(arrives)), rel=1e-6, abs=1e-9)


@pytest.mark.parametrize("topology", [t for t in TOPOLOGIES if t.slots], ids=lambda t: t.key)
def test_what_parts_carry_is_what_the_stations_say(topology):
    """Losses of each part; volts and amperes of those that are no line (whose crest may lie along it)."""
    tables = [Table.of(slot.place, PARTS[slot.kind], F) for slot in topology.slots]
    carried = carry(ANTENNA / 50, tables, np.array([0]))
    parts = [PARTS[slot.kind][0] for slot in topology.slots]
    elements = [
        Element(f"{k}", s.place, p, True) for k, (s, p) in enumerate(zip(topology.slots, parts, strict=True))
    ]

    stations = System(Known(), elements).stations(F, 1.0)[1:]

    for k, (station, slot) in enumerate(zip(stations, topology.slots, strict=True)):
        assert carried.lost_w[k, 0] == pytest.approx(station.loss_w.max(), rel=1e-6, abs=1e-12)
        if slot.place != "through":
            assert carried.peak_v[k, 0] == pytest.approx(station.peak_voltage_v.max(), rel=1e-9)
            assert carried.peak_a[k, 0] == pytest.approx(station.peak_current_a.max(), rel=1e-9)


def test_each_network_is_judged_once_whatever_the_blocks():
    """Tables larger than a block, in the last place and above it."""
    many = Table.of("series", [Inductor(1e-6 + 1e-9 * k, 200) for k in range(2500)], F)
    few = Table.of("shunt", PARTS["capacitor"], F)

    for tables in ([few, many], [many, few]):
        blocks = list(judge(ANTENNA / 50, tables, 1))
        badness = np.concatenate([b[:, 0] for _, b in sorted(blocks, key=lambda pair: pair[0])])
        rows = numbers_of(np.arange(7500), tables)
        whole = [Table(t.place, t.row(r)) for t, r in zip(tables, rows, strict=True)]

        assert badness.shape == (7500,)
        assert badness == pytest.approx(judge_rows(ANTENNA / 50, whole, 1)[:, 0], rel=1e-12)


def test_a_resistance_below_zero_takes_no_power():
    found = next(judge(np.full(4, -1 + 0.2j), [], 1)).badness

    assert reflection_squared(found) == 1


def test_a_transformers_chain_is_its_flow():
    transformer = PARTS["transformer"][0]
    a, b, c, d = transformer.chain(F)
    flow = transformer.flow(F, ANTENNA)

    assert (a * ANTENNA + b) / (c * ANTENNA + d) == pytest.approx(flow.near_ohm, rel=1e-12)
    assert np.abs(c * ANTENNA + d) == pytest.approx(flow.input_a, rel=1e-12)
    # It is reciprocal: the determinant of its chain is one.
    assert a * d - b * c == pytest.approx(np.ones(F.size), rel=1e-9)
