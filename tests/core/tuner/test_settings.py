"""Every setting of a tuner against scikit-rf and against a search through all of its range."""

import itertools
import math

import numpy as np
import pytest
import skrf
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.tuner import Tuner, TunerSetting, compromise, least_loss, matches_of, nearest, tee_of

HZ = 14.2e6
ELL = Tuner("ell", input_high_f=1500e-12)
LOADS = st.builds(complex, st.floats(5, 2000), st.floats(-800, 800))


def by_scikit_rf(tuner, setting, hz, load):
    """What scikit-rf sees of a load through the three parts, each a two-port of its own."""
    f = skrf.Frequency.from_f([hz], unit="Hz")
    omega = 2 * math.pi * hz
    coil = omega * setting.coil_h * (1 / tuner.coil_q + 1j)
    capacitors = [(1 / tuner.capacitor_q - 1j) / (omega * farad) for farad in (setting.output_f, setting.input_f)]
    arms = {
        "tee": [("series", capacitors[0]), ("shunt", coil), ("series", capacitors[1])],
        "antenna": [("shunt", capacitors[1]), ("series", coil)],
        "radio": [("series", coil), ("shunt", capacitors[1])],
    }[setting.side]
    seen = skrf.Network(frequency=f, s=np.array([[[(load - 50) / (load + 50)]]]), z0=50)
    for place, z in arms:
        two = np.array([[1, z], [0, 1]]) if place == "series" else np.array([[1, 0], [1 / z, 1]])
        seen = skrf.Network(frequency=f, s=skrf.network.a2s(two[np.newaxis].astype(complex)), z0=50) ** seen
    return complex(seen.s[0, 0, 0])


@pytest.mark.parametrize("tuner", [Tuner(), ELL, Tuner(coil_q=40, capacitor_q=300)])
def test_every_setting_matches_by_scikit_rf(tuner):
    rng = np.random.default_rng(20261129)
    tried = 0
    for _ in range(12):
        load = complex(rng.uniform(5, 1500), rng.uniform(-600, 600))
        hz = rng.uniform(3.5e6, 29e6)
        for setting in matches_of(tuner, hz, load, 12).settings:
            assert abs(by_scikit_rf(tuner, setting, hz, load)) < 1e-9
            tried += 1
    assert tried > 10


@given(LOADS, st.floats(3.5e6, 29e6))
@settings(max_examples=60, deadline=None)
def test_what_goes_in_is_what_comes_out_and_what_stays(load, hz):
    """Watts of each part by its own current, against the efficiency of the whole."""
    tuner = Tuner()
    found = matches_of(tuner, hz, load, 8)
    for k, setting in enumerate(found.settings):
        tee, inside = tee_of(tuner, setting, hz), found.carried(k, 100.0)
        ohms = [complex(tee.upper_ohm), 1 / complex(tee.across_s), complex(tee.lower_ohm)]
        lost = sum(a**2 * z.real / 2 for a, z in zip(inside.amperes, ohms, strict=True))
        assert lost == pytest.approx(100 * (1 - found.efficiency[k]), abs=1e-6)


@pytest.mark.deep
def test_every_setting_of_a_tee_against_brute_force():
    """A grid through the whole range of the three parts: what matches there lies by a setting that was found.

    And no point of the grid that matches loses less than the best of them, but for what its mismatch lets it.
    """
    tuner = Tuner()
    axes = [np.geomspace(low, high, 64) for low, high in tuner.stops]
    grid = np.meshgrid(*axes, indexing="ij")
    rng = np.random.default_rng(20261130)
    for _ in range(12):
        load, hz = complex(rng.uniform(8, 800), rng.uniform(-300, 300)), rng.uniform(7e6, 21.3e6)
        tee = tee_of(tuner, TunerSetting("tee", *grid), hz)
        z = tee.near_ohm(load)
        matched = np.abs((z - 50) / (z + 50)) < 0.15
        found = matches_of(tuner, hz, load)
        if not found.settings:
            assert not matched.any()
            continue
        ours = np.log([s.values for s in found.settings])
        for point in np.argwhere(matched):
            there = np.log([axis[k] for axis, k in zip(axes, point, strict=True)])
            assert np.abs(ours - there).max(axis=1).min() < 0.25
        if matched.any():
            assert tee.efficiency(load)[matched].max() <= found.efficiency.max() + 0.01
        (best,) = least_loss(tuner, hz, load)
        assert float(tee_of(tuner, best, hz).efficiency(load)) >= found.efficiency.max() - 1e-12


def test_the_most_capacitance_loses_least_but_not_always():
    """Common practice, and where it fails: a load whose own reactance does the capacitor's work."""
    tuner = Tuner()

    def of(load):
        found = matches_of(tuner, HZ, load)
        total = [s.output_f + s.input_f for s in found.settings]
        return found.efficiency[int(np.argmax(total))], found.efficiency.max()

    most, best = of(25 + 0j)
    assert most == pytest.approx(best, abs=0.002)
    most, best = of(100 + 800j)
    assert most < best - 0.01


def test_an_ell_has_one_setting_for_most_loads():
    """Pozar, Microwave Engineering, §5.1: R below 50 Ω wants the shunt part at the radio, above it at the load."""
    assert [s.side for s in matches_of(ELL, HZ, 12 + 0j).settings] == ["radio"]
    assert [s.side for s in matches_of(ELL, HZ, 300 + 0j).settings] == ["antenna"]


def test_a_tuner_that_cannot_says_the_nearest_it_can():
    """Against a finer search of the same box."""
    small = Tuner(coil_high_h=1.2e-6, output_high_f=120e-12, input_high_f=120e-12)
    load = 8 - 90j
    assert least_loss(small, HZ, load) == [None]
    found, swr = nearest(small, HZ, load)

    axes = [np.geomspace(low, high, 90) for low, high in small.stops]
    z = tee_of(small, TunerSetting("tee", *np.meshgrid(*axes, indexing="ij")), HZ).near_ohm(load)
    gamma = np.abs((z - 50) / (z + 50)).min()
    assert swr <= (1 + gamma) / (1 - gamma) * 1.0005
    assert found.side == "tee"
    for value, (low, high) in zip(found.values, small.stops, strict=True):
        assert low * 0.999999 <= value <= high * 1.000001


def test_where_no_setting_helps_it_is_switched_out():
    found, swr = nearest(Tuner(coil_high_h=1e-6, output_high_f=60e-12, input_high_f=60e-12), 7.1e6, 30 + 40j)

    assert (found.side, swr) == (None, pytest.approx(3.0))


def test_where_it_can_the_nearest_is_a_match():
    rng = np.random.default_rng(20261201)
    for _ in range(20):
        load, hz = complex(rng.uniform(10, 500), rng.uniform(-300, 300)), rng.uniform(7e6, 28e6)
        if least_loss(Tuner(), hz, load)[0] is not None:
            assert nearest(Tuner(), hz, load)[1] < 1.05


@pytest.mark.deep
def test_the_bands_compromise_is_no_worse_than_any_setting_of_a_grid():
    """A wire of Q 15 over 2.5 % of bandwidth: fair everywhere in place of perfect in the middle."""
    tuner = Tuner()
    f = np.linspace(7.0e6, 7.2e6, 9)
    load = 20 + 1j * 20 * 15 * (f / 7.05e6 - 7.05e6 / f)
    (middle,) = least_loss(tuner, f[4], load[4])
    found, swr = compromise(tuner, f, load, [middle])

    def worst(setting):
        z = tee_of(tuner, setting, f).near_ohm(load)
        gamma = np.abs((z - 50) / (z + 50)).max(axis=-1)
        return (1 + gamma) / (1 - gamma)

    axes = [np.geomspace(low, high, 60)[..., np.newaxis] for low, high in tuner.stops]
    grid = np.meshgrid(*[a[:, 0] for a in axes], indexing="ij")
    whole = worst(TunerSetting("tee", *[g[..., np.newaxis] for g in grid]))
    assert swr == pytest.approx(float(worst(found)), rel=1e-9)
    assert swr < float(worst(middle)) - 0.02
    assert swr <= whole.min() + 1e-9


@pytest.mark.parametrize("load", [0 + 5j, -3 + 2j, complex(math.nan, 0), complex(math.inf, 0)])
def test_a_load_that_takes_no_power_is_refused(load):
    for ask in (matches_of, least_loss, nearest):
        with pytest.raises(OutOfDomainError):
            ask(Tuner(), HZ, load)


def test_stops_upside_down_are_refused():
    with pytest.raises(OutOfDomainError, match="above the lower stop"):
        Tuner(coil_low_h=2e-6, coil_high_h=1e-6)


def test_of_all_settings_those_of_one_branch_follow_each_other():
    found = matches_of(Tuner(), HZ, 25 - 60j)
    for a, b in itertools.pairwise(range(len(found.settings))):
        if found.branch[a] == found.branch[b]:
            assert found.settings[b].output_f > found.settings[a].output_f
