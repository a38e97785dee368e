"""How often the fan of a plane moved through 58 class coax holds the antenna: 25 and 60 m, R of 15 to 110 Ω."""

import math
from dataclasses import replace

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.line import Line, LineUncertainty, shift_reference_plane
from yielding_coil.core.reflection import impedance_of, reflection_of, swr_of
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep

pytestmark = [pytest.mark.trial, pytest.mark.deep]

CABLE = next(c.cable for c in data.cables().values() if "58 class" in c.cable.name)
RESIDUAL = 10 ** (-45 / 20)


def antenna(rng):
    """A series circuit whose R rises with frequency, round 5 to 28 MHz."""
    middle = rng.uniform(5e6, 28e6)
    f = np.linspace(0.9 * middle, 1.1 * middle, 41)
    r, q = math.exp(rng.uniform(math.log(15), math.log(110))), rng.uniform(5, 15)
    return f, r * (f / middle) ** 2 * (1 + 1j * q * (f / middle - middle / f))


def seen(rng, f, z, length_m):
    """Through a line of this class as it really is, read with 45 dB of errors that turn with frequency."""
    loss = 1 + 0.05 * rng.normal()
    cable = replace(
        CABLE,
        velocity_factor=CABLE.velocity_factor * (1 + 0.01 * rng.normal()),
        impedance_ohm=CABLE.impedance_ohm * (1 + 0.01 * rng.normal()),
        loss_sqrt=CABLE.loss_sqrt * loss,
        loss_linear=CABLE.loss_linear * loss,
    )
    gamma = reflection_of(Line(cable, length_m * (1 + 0.0025 * rng.normal())).input_impedance(f, z))
    errors = [
        (rng.normal() + 1j * rng.normal())
        * RESIDUAL
        / math.sqrt(6)
        * np.exp(-2j * np.pi * f * rng.uniform(0, 15e-9))
        for _ in range(3)
    ]
    return gamma + sum(error * gamma**power for power, error in enumerate(errors))


@pytest.mark.parametrize("length_m", [25.0, 60.0])
def test_a_plane_moved_to_the_antenna(trials, length_m):
    """1,000 seeds from 20268001, one frequency each; where it says that nothing is known it says nothing."""
    seeds = trials.some(range(20268001, 20268001 + 1000))
    held, told = np.zeros(3), 0
    for seed in seeds:
        rng = np.random.default_rng([seed, int(length_m)])
        f, z = antenna(rng)
        gamma = seen(rng, f, z, length_m)
        size = np.abs(gamma)
        doubt = ReflectionUncertainty.circular(RESIDUAL * np.sqrt((1 + size**2 + size**4) / 3))
        moved = shift_reference_plane(
            Sweep(f, impedance_of(gamma)), Line(CABLE, length_m), "antenna", LineUncertainty(), doubt
        )
        at = rng.integers(f.size)
        if not moved.known[at]:
            continue
        told += 1
        swr = float(swr_of(reflection_of(z[at : at + 1]))[0])
        held += [
            moved.low_ohm.real[at] <= z.real[at] <= moved.high_ohm.real[at],
            moved.low_ohm.imag[at] <= z.imag[at] <= moved.high_ohm.imag[at],
            moved.low_swr[at] <= swr <= moved.high_swr[at],
        ]
    fine = [
        trials.holds(f"plane through {length_m:.0f} m: {name}", int(n), told, cannot_tell=len(seeds) - told)
        for name, n in zip(("R", "X", "SWR"), held, strict=True)
    ]
    assert all(fine)
