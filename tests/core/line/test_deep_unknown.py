"""How often the doubt of an unknown line holds it: errors that turn with frequency, a short that is a wire."""

import math

import numpy as np
import pytest

from yielding_coil.core.line import OPEN_END_F, Cable, Line, characterise
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep

pytestmark = [pytest.mark.trial, pytest.mark.deep]

F = np.linspace(1e6, 100e6, 401)
NINE_IN_TEN = 1.645


def ripple(rng, rms):
    """An error term as reflections on real lengths of lead make it."""
    lines = [np.exp(-2j * math.pi * F * rng.uniform(0, 15e-9)) for _ in range(3)]
    return sum((rng.normal() + 1j * rng.normal()) * line for line in lines) * rms / math.sqrt(6)


def read(rng, line, residual_db):
    """Both sweeps with the same three errors; a short of 0 to 10 nH, an open end that strays."""
    errors = [ripple(rng, 10 ** (-residual_db / 20) / math.sqrt(3)) for _ in range(3)]
    farad = max(OPEN_END_F + rng.uniform(-0.15e-12, 0.15e-12), 1e-16)
    ends = (1 / (2j * math.pi * F * farad), 2j * math.pi * F * rng.uniform(0, 10e-9))
    out = []
    for end in ends:
        gamma = reflection_of(line.input_impedance(F, end))
        seen = gamma + sum(error * gamma**power for power, error in enumerate(errors))
        seen = seen + 7e-4 * (rng.normal(size=F.size) + 1j * rng.normal(size=F.size))
        out.append(Sweep(F, impedance_of(seen)))
    return out


@pytest.mark.parametrize("residual_db", [40, 50])
def test_an_unknown_line(trials, residual_db):
    """50 and 75 Ω, 8 to 30 m; 1,000 seeds from 20265001."""
    seeds = trials.some(range(20265001, 20265001 + 1000))
    held = np.zeros(3)
    for seed in seeds:
        rng = np.random.default_rng([seed, residual_db])
        cable = Cable(
            "seeded",
            rng.choice([50, 75]) * rng.uniform(0.95, 1.05),
            rng.uniform(0.66, 0.85),
            rng.uniform(0.6, 1.4),
            rng.uniform(0.005, 0.02),
        )
        line = Line(cable, rng.uniform(8, 30))
        found = characterise(*read(rng, line, residual_db), line.length_m, residual_db=residual_db)
        at = rng.uniform(2e6, 80e6)
        off = (
            (found.impedance_ohm.value - cable.impedance_ohm, found.impedance_ohm.error),
            (found.electrical_m.value - line.length_m / cable.velocity_factor, found.electrical_m.error),
            (
                float(found.matched_loss_db(np.array([at]))[0] - line.matched_loss_db(np.array([at]))[0]),
                found.loss_error_db(at),
            ),
        )
        held += [abs(away) <= NINE_IN_TEN * error for away, error in off]
    names = ("impedance", "electrical length", "loss")
    fine = [
        trials.holds(f"unknown line, {residual_db} dB: {name}", int(n), len(seeds))
        for name, n in zip(names, held, strict=True)
    ]
    assert all(fine)
