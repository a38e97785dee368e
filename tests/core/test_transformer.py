from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.constants import mu_0

from yielding_coil import data
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import reflection_of, swr_of_impedance
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import TRIED_F, CoreTask, input_capacitance, rate_cores, turn_pairs, warming_c

RING = Ring(data.ring_material("43"), data.ring_size("FT240"))
PLAIN = Transformer(RING, 2, 14)
F = np.linspace(1.8e6, 30e6, 29)
PAIR = Line(Cable("pair", 45.0, 0.7, 8.0, 0.1), 0.6)


@pytest.mark.parametrize(
    ("mhz", "seen", "swr", "loss_db"),
    [(3.6, 29.34 + 15.47j, 1.938, 1.25), (14.2, 38.26 + 7.66j, 1.376, 0.99)],
)
def test_two_in_fourteen_on_the_usual_ring(mhz, seen, swr, loss_db):
    """2450 Ω, no leakage, no capacitance: computed from the data by an independent code, to its digits."""
    z = complex(PLAIN.input_impedance(mhz * 1e6, 2450))

    assert z == pytest.approx(seen, abs=0.0075)
    assert float(swr_of_impedance(z)) == pytest.approx(swr, abs=0.001)
    assert float(PLAIN.loss_db(mhz * 1e6, 2450)) == pytest.approx(loss_db, abs=0.005)


def test_leakage_and_the_capacitor_across_the_input():
    """150 nH and 100 pF: SWR 1.862 at 3.6, 1.111 at 14.2, 1.509 at 28.4 MHz (computed, lossless capacitor)."""
    wound = replace(PLAIN, leakage_h=150e-9, input_capacitance_f=100e-12, input_q=1e9)

    swr = swr_of_impedance(wound.input_impedance(np.array([3.6e6, 14.2e6, 28.4e6]), np.full(3, 2450)))

    assert swr == pytest.approx([1.862, 1.111, 1.509], abs=0.002)


def test_two_stacked_lose_about_half():
    """0.67 dB at 3.6 MHz (computed)."""
    two = Transformer(Ring(RING.material, RING.size, 2), 2, 14)

    assert float(two.loss_db(3.6e6, 2450)) == pytest.approx(0.67, abs=0.005)


@pytest.mark.parametrize(("m", "n", "ohm", "swr"), [(2, 14, 5000, 2.04), (2, 16, 3200, 1.0), (3, 21, 2450, 1.0)])
def test_what_a_ratio_makes_of_a_load(m, n, ohm, swr):
    """49:1 on 5 kΩ reads 2.04 (common practice); 64:1 fits 3.2 kΩ, 49:1 2.45 kΩ: an enormous ideal core."""
    ideal = Transformer(Ring(RING.material, RING.size, permeability_factor=1e9), m, n)

    assert float(swr_of_impedance(ideal.input_impedance(7e6, ohm))) == pytest.approx(swr, abs=0.005)


def nodal(t: Transformer, frequency: np.ndarray, load: complex) -> np.ndarray:
    """The same circuit by modified nodal analysis: one matrix a frequency, solved by elimination.

    Nodes: 0 input, 1 behind leakage and copper (or the line), 2 the ideal secondary, 3 the load; 1 A into node 0.
    Unknown currents: 4 of the ideal secondary, 5 and 6 of what stands in series.
    """
    seen = []
    for f in frequency:
        w = 2 * np.pi * f
        a = np.zeros((7, 7), dtype=complex)

        def across(node, siemens, a=a):
            a[node, node] += siemens

        def series(one, other, ohm, current, a=a):
            """Row `current`: v(one) − v(other) − ohm·i = 0; i leaves one node and enters the other."""
            a[current, one], a[current, other], a[current, current] = 1, -1, -ohm
            a[one, current], a[other, current] = 1, -1

        turns = t.core_turns or t.primary_turns
        mu = complex(t.ring.material.permeability(f)) * t.ring.one_al_h / t.ring.computed_al_h
        core = (
            (1j * w * mu_0 * mu * turns**2 * t.ring.stack) * t.ring.size.area_m2 / t.ring.size.path_m / t.share**2
        )
        across(0, 1j * w * t.input_capacitance_f + w * t.input_capacitance_f / t.input_q)
        if t.line is not None:
            gamma, z0 = t.line.cable.propagation(f)
            u = complex(gamma) * t.line.length_m
            through = 1 / (complex(z0) * np.sinh(u))
            a[0, 0] += np.cosh(u) * through
            a[1, 1] += np.cosh(u) * through
            a[0, 1] -= through
            a[1, 0] -= through
            a[5, 5] = 1
        else:
            low = 0 if t.primary is None else float(t.primary.resistance_ohm(f))
            series(0, 1, low + 1j * w * t.leakage_h, 5)
        across(1, 1 / core)
        series(2, 3, 0 if t.secondary is None else float(t.secondary.resistance_ohm(f)), 6)
        across(3, 1j * w * t.winding_capacitance_f)
        across(3, 1 / load)
        n = t.secondary_turns / t.primary_turns
        # Row and column 4: v3 − n·v2 = 0; current i leaves the secondary, n·i enters the primary.
        a[4, 2], a[4, 1] = 1, -n
        a[2, 4], a[1, 4] = -1, n
        seen.append(np.linalg.solve(a, np.eye(7, dtype=complex)[0])[0])
    return np.array(seen)


CIRCUITS = {
    "plain": PLAIN,
    "with everything": Transformer(
        Ring(data.ring_material("52"), data.ring_size("FT140"), 2),
        3,
        21,
        0.12e-6,
        3e-12,
        110e-12,
        800.0,
        Conductor(0.2, 1e-3),
        Conductor(1.1, 0.8e-3),
    ),
    "tapped powder": Transformer(
        Ring(data.ring_material("2"), data.ring_size("T200")), 4, 12, 0.05e-6, 2e-12, primary=Conductor(0.3, 1e-3)
    ),
    "current balun": Transformer(RING, 10, 20, line=PAIR, share=0.5, core_turns=10),
}


@pytest.mark.parametrize("name", CIRCUITS)
@pytest.mark.parametrize("load", [2450 + 0j, 180 - 900j, 3200 + 2100j])
def test_the_circuit_solved_by_nodes_instead(name, load):
    """Modified nodal analysis (Ho, Ruehli & Brennan, IEEE Trans. CAS 22, 1975) of the same circuit."""
    ours = CIRCUITS[name].input_impedance(F, np.full(F.shape, load))

    assert np.abs(reflection_of(ours) - reflection_of(nodal(CIRCUITS[name], F, load))).max() < 1e-9


@given(st.integers(1, 6), st.integers(0, 40), st.complex_numbers(min_magnitude=1, max_magnitude=1e4))
def test_an_ideal_core_carries_a_load_over_by_the_square_of_the_turns(m, more, load):
    ideal = Transformer(Ring(RING.material, RING.size, permeability_factor=1e14), m, m + more)

    seen = complex(ideal.input_impedance(7e6, load))

    assert abs(reflection_of(seen) - reflection_of(load / ideal.impedance_ratio)) < 1e-6


@given(st.integers(1, 6), st.integers(0, 40), st.floats(1.8e6, 50e6))
def test_without_a_load_it_shows_the_magnetising_impedance(m, more, f):
    wound = Transformer(RING, m, m + more)

    assert complex(wound.input_impedance(f, 1e15)) == pytest.approx(complex(RING.impedance_ohm(f, m)), rel=1e-6)


@given(st.sampled_from(list(CIRCUITS)), st.floats(1.8e6, 50e6), st.floats(1.0, 1e4), st.floats(-1e4, 1e4))
def test_power_in_is_power_into_load_core_copper_and_capacitor(name, f, r, x):
    """The input's own V·I* against the sum of what each part takes."""
    flow = CIRCUITS[name].flow(f, r + 1j * x)

    into = float(flow.input_a) ** 2 * float(np.real(flow.near_ohm)) / 2
    assert float(flow.input_w) == pytest.approx(into, rel=1e-9)
    assert min(flow.core_w, flow.copper_w, flow.capacitor_w) >= -1e-15


def test_it_stands_in_the_drop():
    """Its loss there is what goes in less what comes out, its voltage that of the wire post."""
    wound = CIRCUITS["with everything"]
    below, post = System(FixedLoad(2450.0), [Element("unun", "through", wound)]).stations(F, 100.0)[::-1]

    flow = wound.flow(F, 2450.0).at_power(100.0)
    assert below.loss_w == pytest.approx(100 - flow.load_w)
    assert post.power_w == pytest.approx(flow.load_w)
    assert below.peak_voltage_v == pytest.approx(np.maximum(flow.load_v, flow.input_v))
    assert post.voltage_v == pytest.approx(np.sqrt(2 * 2450 * flow.load_w))


def test_a_match_is_judged_below_a_transformer_and_above_the_line():
    line = Line(data.cable("pe-5"), 10.0)
    system = System(FixedLoad(2450.0), [Element("unun", "through", PLAIN), Element("line", "through", line)])

    assert system.match_station == 1
    with pytest.raises(OutOfDomainError, match="through for a line, a transformer or a tuner"):
        Element("unun", "series", PLAIN)


BANDS = [Target("30 m", 10.1e6, 10.15e6, 2.0), Target("15 m", 21.0e6, 21.45e6, 2.0)]


def test_the_capacitor_across_the_input_is_the_best_there_is():
    """Against every half picofarad from 0 to 400."""
    wound = replace(PLAIN, leakage_h=0.2e-6, winding_capacitance_f=2e-12)
    f = np.concatenate([np.linspace(t.low_hz, t.high_hz, 21) for t in BANDS])

    def worst(farad):
        z = replace(wound, input_capacitance_f=farad).input_impedance(f, np.full(f.shape, 2450.0))
        return float(swr_of_impedance(z).max())

    best = input_capacitance(wound, FixedLoad(2450.0), BANDS)

    assert best > 0
    assert worst(best) <= min(worst(c) for c in np.arange(0, 400e-12, 0.5e-12)) + 1e-4


def test_no_capacitor_where_none_helps():
    assert input_capacitance(replace(PLAIN, winding_capacitance_f=5e-12), FixedLoad(2450.0), BANDS) == 0


def test_all_cores_judged_at_once_are_judged_as_each_alone():
    rings = [
        Ring(data.ring_material(mix), data.ring_size(size), stack)
        for mix in ("43", "52", "61")
        for size in ("FT114", "FT140", "FT240")
        for stack in (1, 2)
    ]
    plan = Transformer(
        rings[0], 1, 7, 0.1e-6, 2.5e-12, primary=Conductor(1.0, 1e-3), secondary=Conductor(1.0, 1e-3)
    )
    task = CoreTask(FixedLoad(2450.0), BANDS, 100.0, 0.3, plan, 1.08e-3)

    found = rate_cores(rings, turn_pairs(7.0, 3), task)

    assert len(found) == len(rings) * 3
    f = np.concatenate([np.linspace(t.low_hz, t.high_hz, 5) for t in BANDS])
    for judged in found:
        m, n = judged.primary_turns, judged.secondary_turns
        metre = judged.ring.wire_length_m(1, 1.08e-3)
        alone = replace(
            plan,
            ring=judged.ring,
            primary_turns=m,
            secondary_turns=n,
            leakage_h=0.1e-6 * m**1.55,
            input_capacitance_f=judged.input_capacitance_f,
            primary=Conductor(metre * m, 1e-3),
            secondary=Conductor(metre * n, 1e-3),
        )
        # The worst over the core's own spread, 20 % either way, at full power by the mode's share.
        load = np.full(f.shape, 2450.0)
        builds = [replace(alone, permeability_factor=factor) for factor in (0.8, 1.0, 1.2)]
        flows = [build.flow(f, load).at_power(30.0) for build in builds]
        assert judged.worst_loss_db == pytest.approx(max(float(b.loss_db(f, load).max()) for b in builds))
        assert judged.worst_swr == pytest.approx(max(float(swr_of_impedance(w.near_ohm).max()) for w in flows))
        hottest = max(float((w.core_w + w.copper_w).max()) for w in flows)
        assert judged.rise_c == pytest.approx(warming_c(hottest, judged.ring.surface_m2))
        assert judged.input_capacitance_f in TRIED_F
    good = [j.fits and j.reach <= 1 and j.rise_c <= 40 for j in found]
    assert any(good)
    assert good == sorted(good, reverse=True)


def test_more_loss_heats_in_proportion_to_the_power():
    a, b = (PLAIN.flow(7e6, 2450.0).at_power(w) for w in (50.0, 100.0))

    assert float(b.core_w) == pytest.approx(2 * float(a.core_w))
    assert float(b.load_v) == pytest.approx(np.sqrt(2) * float(a.load_v))


def test_refusals():
    with pytest.raises(OutOfDomainError, match="primary_turns is 15; it must be at most the 14 turns"):
        Transformer(RING, 15, 14)
    with pytest.raises(OutOfDomainError, match="leakage_h is -1e-09; it must be zero or more"):
        Transformer(RING, 2, 14, -1e-9)
    with pytest.raises(OutOfDomainError, match=r"load_ohm \(its resistance\)"):
        PLAIN.loss_db(7e6, 0j)
    with pytest.raises(OutOfDomainError, match="turns_ratio is 0.5"):
        turn_pairs(0.5)
    with pytest.raises(OutOfDomainError, match="rings is none"):
        rate_cores([], [(2, 14)], CoreTask(FixedLoad(50.0), BANDS, 100.0, 0.3, PLAIN, 1e-3))
