"""Which core, which capacitor: what must hold whatever the numbers, and an independent library's cascade."""

from dataclasses import replace

import numpy as np
import pytest
import skrf
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil import data
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import reflection_of, swr_of_impedance
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import Spread, yield_of
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import CoreTask, input_capacitance, rate_cores, turn_pairs

RING = Ring(data.ring_material("43"), data.ring_size("FT240"))
BANDS = [Target("30 m", 10.1e6, 10.15e6, 2.0), Target("10 m", 28.0e6, 29.7e6, 2.0)]


def task(ohm=3200.0, power_w=100.0, **more):
    plan = Transformer(RING, 2, 16, 0.15e-6, 2.5e-12)
    return CoreTask(FixedLoad(ohm), BANDS, power_w, 0.3, plan, 1.08e-3, **more)


@given(st.floats(1.0, 12.0), st.integers(1, 8))
def test_pairs_of_turns_come_within_a_twentieth_of_the_ratio(ratio, most):
    pairs = turn_pairs(ratio, most)

    assert all(1 <= m <= most and abs(n / m / ratio - 1) <= 0.05 for m, n in pairs)
    assert [m for m, _ in pairs] == sorted({m for m, _ in pairs})


@settings(max_examples=20)
@given(st.floats(100, 8000), st.floats(0, 0.3), st.floats(0, 5))
def test_a_capacitor_never_makes_the_worst_place_worse(ohm, microhenry, picofarad):
    wound = Transformer(RING, 2, 14, microhenry * 1e-6, picofarad * 1e-12)
    f = np.concatenate([np.linspace(t.low_hz, t.high_hz, 21) for t in BANDS])

    def worst(farad):
        z = replace(wound, input_capacitance_f=farad).input_impedance(f, np.full(f.shape, ohm))
        return float(np.abs(reflection_of(z)).max())

    assert worst(input_capacitance(wound, FixedLoad(ohm), BANDS)) <= worst(0.0) + 1e-9


def test_power_changes_the_heat_and_nothing_else():
    rings = [RING, Ring(RING.material, data.ring_size("FT140"))]
    low, high = (
        sorted(
            rate_cores(rings, turn_pairs(8.0, 3), task(power_w=w)),
            key=lambda j: (j.ring.size.name, j.primary_turns),
        )
        for w in (10.0, 100.0)
    )

    for a, b in zip(low, high, strict=True):
        assert (a.worst_swr, a.worst_loss_db, a.reach) == (b.worst_swr, b.worst_loss_db, b.reach)
        # ΔT goes as the power to 0.833 (common practice); the advised power does not move but for its rounding.
        assert b.rise_c / a.rise_c == pytest.approx(10**0.833)
        assert a.highest_power_w == pytest.approx(b.highest_power_w, rel=0.1)


def test_what_does_not_fit_comes_last():
    small = Ring(RING.material, data.ring_size("FT23"))
    found = rate_cores([small, RING], [(5, 40)], task())

    assert [j.fits for j in found] == [True, False]


def test_wires_in_hand_share_the_hole():
    ring = Ring(RING.material, data.ring_size("FT50"))
    turns = ring.turns_that_fit(1.08e-3) // 3

    for together, fits in ((3, True), (4, False)):
        assert rate_cores([ring], [(turns, 3 * turns)], task(strands=together))[0].fits is fits


def test_a_library_cascades_the_same_chain():
    """scikit-rf: each block as its ABCD matrix, cascaded and closed with the load; 1e-9 on Γ."""
    t = Transformer(RING, 2, 16, 0.15e-6, 2.5e-12, 90e-12, 1200.0)
    f = np.linspace(3e6, 30e6, 55)
    w, one, none = 2 * np.pi * f, np.ones(f.size, complex), np.zeros(f.size, complex)

    def network(a, b, c, d):
        s = skrf.network.a2s(np.moveaxis(np.array([[a, b], [c, d]]), 2, 0))
        return skrf.Network(frequency=skrf.Frequency.from_f(f, unit="Hz"), s=s, z0=50)

    n = t.turns_ratio
    chain = (
        network(one, none, w * t.input_capacitance_f * (1j + 1 / t.input_q), one)
        ** network(one, 1j * w * t.leakage_h, none, one)
        ** network(one, none, 1 / RING.impedance_ohm(f, 2), one)
        ** network(one / n, none, none, one * n)
        ** network(one, none, 1j * w * t.winding_capacitance_f, one)
    )
    load = skrf.Network(frequency=chain.frequency, s=np.full((f.size, 1, 1), (3200 - 50) / (3200 + 50)), z0=50)

    ours = reflection_of(t.input_impedance(f, np.full(f.shape, 3200.0)))
    assert np.abs(ours - (chain**load).s[:, 0, 0]).max() < 1e-9


@pytest.mark.deep
def test_the_yield_of_an_unun_is_that_of_builds_made_one_by_one():
    """Plain Monte Carlo with numpy's normals, 4,000 builds of three strays (seed 20261125, fixed beforehand)."""
    t = Transformer(RING, 2, 14, 0.15e-6, 3e-12, 60e-12)
    bands = [Target("30 m", 10.1e6, 10.15e6, 1.5), Target("10 m", 28.0e6, 29.7e6, 1.8)]
    spreads = [
        Spread("core", "u", "permeability_factor", 0.2),
        Spread("leakage", "u", "leakage_h", absolute=0.07e-6),
        Spread("capacitance", "u", "winding_capacitance_f", absolute=1e-12),
    ]
    found = yield_of(
        System(FixedLoad(2450.0), [Element("u", "through", t)]), bands, spreads, np.random.default_rng(5), 4096
    )

    rng, builds, held = np.random.default_rng(20261125), 4000, 0
    for mu, leak, cap in rng.normal(0, 0.5, (builds, 3)):
        made = replace(
            t,
            permeability_factor=1 + 0.2 * mu,
            leakage_h=0.15e-6 + 0.07e-6 * leak,
            winding_capacitance_f=3e-12 + 1e-12 * cap,
        )
        worst = [
            float(
                swr_of_impedance(
                    made.input_impedance(np.linspace(b.low_hz, b.high_hz, 41), np.full(41, 2450.0))
                ).max()
            )
            / b.swr_limit
            for b in bands
        ]
        held += max(worst) <= 1
    share = held / builds
    error = float(np.hypot(np.sqrt(share * (1 - share) / builds), found.standard_error))
    assert 0.05 < share < 0.95
    assert abs(found.share - share) < 4 * error
