"""How often the intervals of a dip hold it, over wires and errors that are not the core's own."""

import math

import numpy as np
import pytest

from yielding_coil.core.sweep import Sweep
from yielding_coil.core.trim import ContradictionError, SwrPoint, dip_in, dip_of

pytestmark = [pytest.mark.trial, pytest.mark.deep]


class Wire:
    """A half-wave as an open line behind its own resistance, R rising and bending with frequency, behind some coax.

    R of 15 to 110 Ω, Q of 4 to 30: the core's own fit is a series circuit, or a polynomial.
    """

    def __init__(self, rng, coax_m=2.0):
        self.hz = rng.uniform(5e6, 28e6)
        self.r = math.exp(rng.uniform(math.log(15), math.log(110)))
        self.q = math.exp(rng.uniform(math.log(4), math.log(30)))
        self.rise, self.bend = rng.uniform(0, 4), rng.normal(0, 5)
        self.coax_m = rng.choice([0.0, rng.uniform(0, coax_m)])
        fine = self.hz * np.linspace(0.85, 1.15, 12001)
        self.dip_hz = float(fine[np.argmin(np.abs(self.gamma(fine)))])

    def gamma(self, f):
        u = f / self.hz
        z = self.r * u**self.rise * (1 + self.bend * (u - 1) ** 2) - 4j * self.r * self.q / math.pi / np.tan(
            math.pi / 2 * u
        )
        there_and_back = 4 * math.pi * f / (0.66 * 299_792_458) * self.coax_m
        return (z - 50) / (z + 50) * np.exp(-1j * there_and_back - 0.02 * self.coax_m * np.sqrt(f / 14e6))


def ripple(rng, f, rms):
    """An error term as reflections on real lengths of line make it: three of them, within 45 cm."""
    lines = [np.exp(-2j * math.pi * f * rng.uniform(0, 3e-9)) for _ in range(3)]
    return sum((rng.normal() + 1j * rng.normal()) * line for line in lines) * rms / math.sqrt(6)


def swept(rng, wire, f):
    """As an analyser shows it: three terms of 40 to 50 dB together, and noise."""
    rms = 10 ** (-rng.uniform(40, 50) / 20) / math.sqrt(3)
    gamma = wire.gamma(f)
    seen = gamma + ripple(rng, f, rms) + ripple(rng, f, rms) * gamma + ripple(rng, f, rms) * gamma**2
    seen = seen + 5e-4 * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
    seen = seen * np.minimum(1, 0.999 / np.maximum(np.abs(seen), 1e-9))
    return Sweep(f, 50 * (1 + seen) / (1 - seen))


def dense(rng, dip):
    return np.linspace(
        dip * (1 - rng.uniform(0.03, 0.15)), dip * (1 + rng.uniform(0.03, 0.15)), rng.integers(101, 401)
    )


def coarse(rng, dip):
    return np.linspace(1e6, 30e6, rng.choice([51, 101, 201]))


def lopsided(rng, dip):
    low, high = ((0.012, 0.12), (0.12, 0.012))[rng.integers(2)]
    return np.linspace(dip * (1 - low), dip * (1 + high), rng.integers(41, 161))


@pytest.mark.parametrize("sampled", [dense, coarse, lopsided])
def test_the_dip_of_a_sweep(trials, sampled):
    seeds = trials.some(range(20263001, 20263001 + 1000))
    held, cannot = 0, 0
    for seed in seeds:
        rng = np.random.default_rng(seed)
        wire = Wire(rng)
        found = dip_in(swept(rng, wire, sampled(rng, wire.dip_hz)), wire.dip_hz * (1 + 0.01 * rng.normal()))
        if found.side != "found":
            cannot += 1
        else:
            held += found.low_hz <= wire.dip_hz <= found.high_hz
    told = len(seeds) - cannot
    assert cannot <= 0.15 * len(seeds)
    assert trials.holds(f"dip by a {sampled.__name__} sweep", held, told, cannot_tell=cannot)


@pytest.mark.parametrize(
    ("meter", "step"),
    [(0.015, 0.01), (0.03, 0.1), (0.04, 0.1), (0.06, 0.1)],
    ids=["analyser", "needle", "power", "radio"],
)
def test_the_dip_by_a_dial(trials, meter, step):
    """Three to seven readings, rounded, on a meter whose scale is a little off and whose strays have long tails."""
    seeds = trials.some(range(20264001, 20264001 + 1000))
    held, cannot = 0, 0
    for seed in seeds:
        rng = np.random.default_rng(seed)
        wire = Wire(rng, coax_m=0.0)
        count = rng.integers(3, 8)
        reach = rng.uniform(0.01, 0.04) * wire.hz
        places = np.linspace(-1, 1, count) + rng.normal(0, 0.1, count) + rng.uniform(-1, 1)
        # One time in five the dial is turned where the rule of length promised the dip, not round it.
        off = rng.uniform(-0.03, 0.06) * wire.hz if rng.random() < 0.2 else 0.0
        at = np.sort(wire.dip_hz + off + reach * places)
        size = np.abs(wire.gamma(at)) * (1 + 0.03 * rng.normal())
        size = np.clip(size + meter * rng.standard_t(8, count) / math.sqrt(8 / 6), 0, 0.95)
        swr = np.maximum(np.round((1 + size) / (1 - size) / step) * step, 1.0)
        try:
            found = dip_of([SwrPoint(float(f), float(s), meter) for f, s in zip(at, swr, strict=True)])
        except ContradictionError:
            cannot += 1
            continue
        if found.side != "found":
            cannot += 1
            continue
        held += found.low_hz <= wire.dip_hz <= found.high_hz
    name = f"dip by a dial, |Γ| ± {meter}, 3 to 7 readings"
    assert trials.holds(name, held, len(seeds) - cannot, cannot_tell=cannot)
