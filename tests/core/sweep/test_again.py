"""The same thing swept twice: nothing is said to have moved that only was read otherwise, and what moved is."""

import numpy as np
import pytest

from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep, moved_since
from yielding_coil.core.target import Target

F = np.linspace(13e6, 15.5e6, 101)
BAND = Target("20 m", 14.0e6, 14.35e6, 2.0)


def coil(henry, ohm=2.0, f=F, **more):
    return Sweep(f, ohm + 2j * np.pi * f * henry, **more)


def circuit(own_hz, r=45.0, q=12.0):
    return Sweep(F, r * (1 + 1j * q * (F / own_hz - own_hz / F)))


def read(sweep, rng):
    """As an analyser may read it: one error of Γ all over, evenly in a disc; its variance as is usual."""
    size, angle = 0.01 * np.sqrt(2 * rng.uniform()), rng.uniform(0, 2 * np.pi)
    gamma = reflection_of(sweep.impedance_ohm) * (1 + size * np.exp(1j * angle))
    return Sweep(sweep.frequency_hz, impedance_of(gamma))


@pytest.mark.parametrize(
    "thing", [coil(3e-6), circuit(14.2e6), circuit(13.4e6)], ids=["coil", "in the band", "off it"]
)
def test_two_readings_of_one_thing_have_seldom_moved(thing):
    rng = np.random.default_rng(8400)
    states = [moved_since(read(thing, rng), read(thing, rng), [BAND]).state for _ in range(400)]
    assert states.count("still") >= 0.95 * len(states)


@pytest.mark.parametrize(
    ("share", "state"), [(0.0, "still"), (0.013, "moved"), (0.04, "matters"), (-0.04, "matters")]
)
def test_a_coil_that_glue_moved(share, state):
    known = ReflectionUncertainty.circular(np.full(F.size, 2e-4))
    found = moved_since(coil(3e-6, doubt=known), coil(3e-6 * (1 + share), doubt=known), [BAND])
    assert found.state == state
    assert found.reactance_share == pytest.approx(share, abs=1e-9)


def test_a_match_that_lost_its_band_and_one_that_was_lost_before():
    held, gone = circuit(14.17e6), circuit(13.3e6)
    assert moved_since(held, gone, [BAND]).state == "matters"
    assert moved_since(gone, circuit(13.0e6), [BAND]).state == "moved"
    found = moved_since(held, gone, [BAND])
    assert found.targets[0].second_worst_swr > 2 > found.targets[0].first_worst_swr
    assert found.reactance_share is None


def test_nothing_in_common_cannot_be_told():
    above = np.linspace(20e6, 21e6, 11)
    assert moved_since(coil(3e-6), coil(3e-6, f=above), [BAND]).state == "cannot_tell"


def test_a_target_that_one_does_not_reach_says_nothing():
    narrow = np.linspace(13e6, 14.1e6, 41)
    found = moved_since(circuit(14.17e6), coil(3e-6, f=narrow), [BAND])
    assert found.targets[0].second_worst_swr is None
    assert found.state == "moved"
