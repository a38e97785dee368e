import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import Spread, swr_fan, yield_of

BAND = [Target("15 m", 21.0e6, 21.45e6, 2.0)]


def coil_and_resistor():
    """A coil in series with 50 Ω: SWR 2 exactly where X is 35.355 Ω, so the yield has a closed form."""
    return System(FixedLoad(50), [Element("coil", "series", Inductor(35.0 / (2 * np.pi * 21.45e6)))])


@pytest.mark.parametrize("two_sigma", [0.01, 0.02, 0.10])
def test_the_share_that_a_normal_coil_leaves_within_two_to_one(two_sigma):
    """|Γ| of 50 + jX is X/√(100² + X²) = 1/3 at X = 35.355; the normal distribution does the rest."""
    from scipy.stats import norm

    expected = norm.cdf((35.35534 / 35.0 - 1) / (two_sigma / 2))
    found = yield_of(
        coil_and_resistor(),
        BAND,
        [Spread("coil", "coil", "inductance_h", two_sigma)],
        np.random.default_rng(7),
    )

    assert found.share == pytest.approx(expected, abs=0.004)
    assert abs(found.share - expected) < max(5 * found.standard_error, 0.002)


def test_the_standard_error_is_what_many_seeds_scatter_by():
    system = coil_and_resistor()
    spreads = [Spread("coil", "coil", "inductance_h", 0.02), Spread("reading", "antenna", "reflection", 0.02)]
    runs = [yield_of(system, BAND, spreads, np.random.default_rng(seed), 512) for seed in range(60)]

    scatter = np.std([r.share for r in runs], ddof=1)
    stated = np.sqrt(np.mean([r.standard_error**2 for r in runs]))
    assert 0.7 < stated / scatter < 1.4


def test_a_contributor_costs_what_is_gained_without_it():
    system = coil_and_resistor()
    coil = Spread("coil", "coil", "inductance_h", 0.02)
    reading = Spread("reading", "antenna", "reflection", 0.02)
    both = yield_of(system, BAND, [coil, reading], np.random.default_rng(3))
    alone = yield_of(system, BAND, [coil], np.random.default_rng(3))

    cost = {c.name: c.share for c in both.costs}
    assert both.share + cost["reading"] == pytest.approx(alone.share, abs=0.01)
    assert {c.name for c in both.costs} == {"coil", "reading"}


def test_the_same_seed_gives_the_same_builds():
    spreads = [Spread("coil", "coil", "inductance_h", 0.04)]
    runs = {yield_of(coil_and_resistor(), BAND, spreads, np.random.default_rng(5)).share for _ in range(3)}

    assert len(runs) == 1


def test_a_build_must_hold_all_targets():
    two = [*BAND, Target("10 m", 28.0e6, 28.5e6, 2.0)]
    spreads = [Spread("coil", "coil", "inductance_h", 0.02)]

    assert yield_of(coil_and_resistor(), two, spreads, np.random.default_rng(1)).share == 0


def test_readings_that_return_more_than_they_got_do_not_hold_and_are_counted():
    nearly_lossless = System(FixedLoad(0.2 - 100j), [Element("coil", "series", Inductor(1e-6))])
    found = yield_of(
        nearly_lossless,
        BAND,
        [Spread("reading", "antenna", "reflection", 0.05)],
        np.random.default_rng(1),
    )

    assert found.impossible > 500
    assert found.share == 0


def test_without_spreads_it_holds_or_it_does_not():
    assert yield_of(coil_and_resistor(), BAND, [], np.random.default_rng(1)).share == 1.0


def test_the_fan_holds_the_nominal_curve_and_nineteen_in_twenty():
    system = System(
        FixedLoad(94 - 463j),
        [Element("c", "shunt", Capacitor(7.01e-12, 1000)), Element("l", "series", Inductor(3.0e-6, 250))],
    )
    f = np.linspace(18.0e6, 18.2e6, 21)
    spreads = [Spread("l", "l", "inductance_h", 0.04), Spread("c", "c", "capacitance_f", 0.04)]
    low, high = swr_fan(system, f, spreads, np.random.default_rng(2))
    at_coil_two_sigma_up = (
        System(
            FixedLoad(94 - 463j),
            [
                Element("c", "shunt", Capacitor(7.01e-12, 1000)),
                Element("l", "series", Inductor(3.24e-6, 250)),
            ],
        )
        .stations(f)[-1]
        .swr
    )

    assert (low >= 1).all()
    assert (low <= high).all()
    assert (at_coil_two_sigma_up > high).all()  # four sigma lie outside nineteen in twenty


@pytest.mark.parametrize(
    ("asked", "words"),
    [
        ({"targets": []}, "at least one band"),
        ({"builds": 1000}, "a power of two"),
        ({"spreads": [Spread("x", "nothing", "inductance_h", 0.1)]}, "it must be one of coil"),
    ],
)
def test_refusals(asked, words):
    given = {"targets": BAND, "spreads": [], "builds": 64, **asked}
    with pytest.raises(OutOfDomainError, match=words):
        yield_of(coil_and_resistor(), given["targets"], given["spreads"], np.random.default_rng(1), given["builds"])
