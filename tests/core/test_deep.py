"""Long seeded trials and big references; run by ./test --deep."""

from pathlib import Path

import numpy as np
import pytest
import skrf

from yielding_coil.core.matching import best_parts, candidates
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
from yielding_coil.core.reflection import swr_of
from yielding_coil.core.system import Element, System, worst_over
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import Spread, swr_fan, yield_of
from yielding_coil.formats import touchstone

pytestmark = pytest.mark.deep

DEMO = Path(__file__).parents[2] / "yielding_coil" / "demo"
BAND = Target("15 m", 21.0e6, 21.45e6, 2.0)
SPREADS = [Spread("coil", "l", "inductance_h", 0.04), Spread("capacitor", "c", "capacitance_f", 0.04, 0.2e-12)]
READING = Spread("reading", "antenna", "reflection", 0.02)


@pytest.fixture(scope="module")
def wire():
    return touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())


def system(wire):
    return System(
        wire,
        [Element("c", "shunt", Capacitor(6.55e-12, 1000)), Element("l", "series", Inductor(2.28e-6, 220))],
    )


def test_the_yield_of_a_plain_trial_of_twenty_thousand(wire):
    """Pseudo-random builds one by one through written-out circuit algebra; seed 20261123, chosen beforehand."""
    rng = np.random.default_rng(20261123)
    f = np.linspace(BAND.low_hz, BAND.high_hz, 41)
    omega, z = 2 * np.pi * f, wire.impedance_at(f)
    gamma = (z - 50) / (z + 50)
    holds = 0
    trials = 20_000
    for _ in range(trials):
        a, b, c, d, e = rng.normal(size=5)
        seen = gamma * (1 + 0.01 * (d + 1j * e) / np.sqrt(2))
        load = 50 * (1 + seen) / (1 - seen)
        farad = 6.55e-12 * (1 + 0.02 * b) + 0.1e-12 * b
        behind = 1 / (1 / load + omega * farad * (1j + 1 / 1000))
        box = behind + omega * 2.28e-6 * (1 + 0.02 * a) * (1j + 1 / 220)
        holds += bool(np.all(np.abs((box - 50) / (box + 50)) <= 1 / 3) and np.all(np.abs(seen) < 1))
        del c
    plain = holds / trials
    found = yield_of(system(wire), [BAND], [*SPREADS, READING], np.random.default_rng(1), 4096)

    # Three standard errors of both together.
    assert found.share == pytest.approx(
        plain, abs=3 * np.hypot(found.standard_error, (plain * (1 - plain) / trials) ** 0.5)
    )


def test_more_builds_come_nearer(wire):
    """The stated standard error falls about as the root of the builds, or faster (Owen 1998)."""
    errors = {
        builds: np.mean(
            [
                yield_of(
                    system(wire), [BAND], [*SPREADS, READING], np.random.default_rng(s), builds, costs=False
                ).standard_error
                for s in range(12)
            ]
        )
        for builds in (256, 4096)
    }
    assert errors[4096] < errors[256] / 3


def test_the_fan_of_scikit_rf(wire):
    """scikit-rf 2.2.0: 300 builds of the same two parts, seed 7; its quantiles lie near the fan's edges."""
    rng = np.random.default_rng(7)
    f = np.linspace(20.6e6, 21.9e6, 27)
    media = skrf.media.DefinedGammaZ0(skrf.Frequency.from_f(f, unit="Hz"), z0=50)
    gamma = wire.impedance_at(f)
    antenna = skrf.Network(frequency=media.frequency, s=((gamma - 50) / (gamma + 50)).reshape(-1, 1, 1), z0=50)
    swr = []
    for a, b in rng.normal(0, 0.02, (300, 2)):
        match = media.inductor(2.28e-6 * (1 + a)) ** (media.shunt_capacitor(6.55e-12 * (1 + b)) ** antenna)
        swr.append(swr_of(match.s[:, 0, 0]))
    lossless = System(wire, [Element("c", "shunt", Capacitor(6.55e-12)), Element("l", "series", Inductor(2.28e-6))])
    spreads = [Spread("coil", "l", "inductance_h", 0.04), Spread("capacitor", "c", "capacitance_f", 0.04)]
    low, high = swr_fan(lossless, f, spreads, np.random.default_rng(3), 2048)

    assert np.quantile(swr, 0.975, axis=0) == pytest.approx(high, rel=0.08)
    assert np.quantile(swr, 0.025, axis=0) == pytest.approx(low, rel=0.08)


@pytest.mark.parametrize("seed", range(20))
def test_no_grid_beats_the_optimum_on_wires_at_random(seed):
    """Twenty seeded wires as a resistance with a sloping reactance; a 41 by 41 grid round the found optimum."""
    rng = np.random.default_rng(seed)
    r, x, slope = rng.uniform(8, 400), rng.uniform(-600, 600), rng.uniform(20, 400)

    class Wire:
        def impedance_at(self, frequency_hz):
            return r + 1j * (x + slope * (np.asarray(frequency_hz) / BAND.center_hz - 1) * 10)

    for network in candidates(Wire(), [BAND]):
        best = best_parts(Wire(), network, [BAND])
        kinds = {"coil": lambda v: Inductor(v, q=220), "capacitor": lambda v: Capacitor(v, q=1000)}
        around = np.exp(np.linspace(-0.4, 0.4, 41))
        grid = best.shape.system(
            Wire(),
            kinds[best.shape.series](best.series_value * around[:, None, None]),
            kinds[best.shape.shunt](best.shunt_value * around[None, :, None]),
        )
        f = np.linspace(BAND.low_hz, BAND.high_hz, 41)
        z = grid.impedance(f)
        lowest = np.abs((z - 50) / (z + 50)).max(axis=-1).min()
        found = (best.worst_swr - 1) / (best.worst_swr + 1)
        assert found <= lowest * (1 + 2e-3)


def test_worst_over_names_each_target(wire):
    two = [BAND, Target("low end", 21.0e6, 21.1e6, 2.0)]
    whole, part = worst_over(system(wire), two)

    assert part <= whole
    assert worst_over(System(FixedLoad(100), []), [BAND]) == pytest.approx((2.0,))
