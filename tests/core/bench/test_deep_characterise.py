"""Rings recognised from sweeps that other code makes, over seeded trials; run by ./test --deep."""

from collections import Counter

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.bench import TurnsSweep, characterise
from yielding_coil.core.sweep import Sweep

pytestmark = pytest.mark.deep

# Chosen before any result was seen.
SEED, TRIALS = 20261128, 50
TABLE = list(data.ring_materials().values())
SIZE = data.ring_size("FT240")
F = np.geomspace(0.1e6, 50e6, 121)


def permeability(mix: str, f: np.ndarray) -> np.ndarray:
    """Of a mix by its points; the unknown one relaxes once at 1.1 MHz from 420, which no mix of the table does."""
    if mix == "unknown":
        return 1 + 420 / (1 + 1j * f / 1.1e6)
    at, real, imaginary = np.array(data.ring_material(mix).points).T
    return np.interp(np.log(f), np.log(at), real) - 1j * np.interp(np.log(f), np.log(at), imaginary)


def swept(mu: np.ndarray, turns: int, rng: np.random.Generator, *, noise_only: bool = False) -> Sweep:
    """Turns on the ring, 0.5 to 3 pF across, 5 to 25 nH of leads, 60 dB of residual errors, noise."""
    omega = 2 * np.pi * F
    z = 1j * omega * (4e-7 * np.pi) * mu * turns**2 * SIZE.area_m2 / SIZE.path_m
    if not noise_only:
        z = 1 / (1 / z + 1j * omega * rng.uniform(0.5e-12, 3e-12)) + 1j * omega * rng.uniform(5e-9, 25e-9)
    gamma = (z - 50) / (z + 50)
    place = np.log(F / F[0]) / np.log(F[-1] / F[0])
    for power in range(0 if noise_only else 3):
        size = 1e-3 / np.sqrt(6) * (rng.normal() + 1j * rng.normal())
        gamma = gamma + size * np.exp(2j * np.pi * place * rng.uniform(-0.5, 0.5)) * gamma**power
    noise = rng.normal(size=(2, F.size)) * 3e-4 / np.sqrt(2)
    gamma = gamma + noise[0] + 1j * noise[1]
    return Sweep(F, 50 * (1 + gamma) / (1 - gamma))


def found_of(mix: str, scale: float, rng: np.random.Generator, *, noise_only: bool = False):
    mu = permeability(mix, F) * scale
    wound = [TurnsSweep(turns, swept(mu, turns, rng, noise_only=noise_only)) for turns in (11, 3)]
    return characterise.ring(wound, SIZE, TABLE, residual_db=60, noise=3e-4)


FIGURES: list[str] = []


@pytest.fixture(scope="module", autouse=True)
def figures(pytestconfig):
    """Printed when all are through, past pytest's capturing."""
    yield
    with pytestconfig.pluginmanager.getplugin("capturemanager").global_and_fixture_disabled():
        print(f"\nRings characterised, {TRIALS} a line:")
        print("\n".join(FIGURES))


@pytest.mark.parametrize("mix", ["31", "43", "61", "52", "unknown"])
def test_a_ring_is_recognised_and_its_intervals_hold_the_truth(mix):
    rng = np.random.default_rng([SEED, *mix.encode()])
    said, held = Counter(), []
    for _ in range(TRIALS):
        scale = rng.uniform(0.8, 1.2)
        found = found_of(mix, scale, rng)
        said[tuple(likely.mix for likely in found.likely)] += 1
        truth = permeability(mix, found.frequency_hz) * scale
        held.append(np.abs(found.permeability.real - truth.real) <= 1.96 * found.real_error)
        held.append(np.abs(found.permeability.imag - truth.imag) <= 1.96 * found.imaginary_error)
    FIGURES.append(f"{mix}: said {dict(said)}, intervals hold {np.concatenate(held).mean():.3f} of the points")

    if mix == "unknown":
        assert said[()] == TRIALS
    else:
        assert sum(count for mixes, count in said.items() if mix in mixes[:2]) == TRIALS
    assert np.concatenate(held).mean() >= 0.85


@pytest.mark.parametrize("mix", ["31", "43", "61", "52"])
def test_with_noise_only_the_permeability_is_right_to_five_percent(mix):
    """0.1 to 10 MHz, both windings."""
    rng = np.random.default_rng([SEED, 1, *mix.encode()])
    worst = 0.0
    for _ in range(TRIALS):
        found = found_of(mix, 1.0, rng, noise_only=True)
        inside = found.frequency_hz <= 10e6
        truth = permeability(mix, found.frequency_hz[inside])
        worst = max(worst, float((np.abs(found.permeability[inside] - truth) / np.abs(truth)).max()))
        assert found.frequency_hz[0] == pytest.approx(0.1e6)
    FIGURES.append(f"{mix}: with noise only at worst {100 * worst:.1f} % off")

    assert worst <= 0.05
