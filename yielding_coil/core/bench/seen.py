"""What builds of a suspect show in a set-up."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals
from yielding_coil.core.bench.hypothesis import Fixture, Hypothesis
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.ring import Core, RingCoil
from yielding_coil.core.system import Element, System
from yielding_coil.core.tolerance import sampled
from yielding_coil.core.transformer import Transformer

OPEN_OHM, SHORT_OHM = 1e9, 1e-3
# Across a few turns of one's own (from memory).
LINK_F = 1e-12
# Wire between the plane and what lies on the bench, nanohenries up to thirty: a half-normal (common practice).
LEAD_H = 15e-9
# Deviates before those of the part: the resistor's, and the lead's.
NUISANCES = 2


@dataclass(frozen=True, slots=True)
class _Load:
    """A resistor as builds have it."""

    ohm: Complexes

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        f = np.asarray(frequency_hz, dtype=float)
        return np.asarray(np.asarray(self.ohm, dtype=complex) * np.ones(f.shape), dtype=complex)


def _place(part: object) -> Literal["series", "through"]:
    return "through" if isinstance(part, Transformer | Line) else "series"


def _core_of(part: object) -> Core:
    ring = getattr(part, "ring", None)
    if ring is None:
        raise OutOfDomainError("link_turns", "on something without a core", "turns on a ring")
    core: Core = ring
    return core


def _magnetising(part: object) -> float:
    """Turns by which wires joined at both ends magnetise."""
    if not isinstance(part, Transformer):
        raise OutOfDomainError("common", "on something with one wire", "wires in hand")
    return float(part.primary_turns if part.core_turns is None else part.core_turns)


def seen_of(suspect: Hypothesis, setup: Fixture, frequency_hz: Real, deviates: Real) -> Complex:
    """Γ against 50 Ω of builds of a suspect in a set-up.

    Args:
        frequency_hz: shape (n,).
        deviates: standard normal, shape (builds, k): the resistor's, the lead's, then one a spread.

    Returns:
        Shape (builds, n).
    """
    part, spreads = suspect.part, suspect.spreads
    columns = [deviates[:, k : k + 1].astype(complex) for k in range(NUISANCES, deviates.shape[1])]
    if setup.link_turns is not None or setup.common:
        turns = _magnetising(part) if setup.link_turns is None else setup.link_turns
        part = RingCoil(_core_of(part), turns, LINK_F)
        kept = [k for k, s in enumerate(spreads) if s.field == "permeability_factor"]
        spreads, columns = tuple(spreads[k] for k in kept), [columns[k] for k in kept]
    place = _place(part)
    ohm: Complexes = 0.0
    if place == "through":
        ohm = OPEN_OHM
        if math.isfinite(setup.load_ohm) and math.isfinite(suspect.load_factor):
            resistor = max(setup.load_ohm, SHORT_OHM) * suspect.load_factor
            doubt = setup.tolerance if suspect.load_doubt is None else suspect.load_doubt
            ohm = np.asarray(resistor * np.maximum(1 + deviates[:, :1] * (doubt / 2), 0.1), dtype=complex)
    system = System(_Load(ohm), [Element("part", place, part)])
    lead = 2j * math.pi * LEAD_H * np.abs(deviates[:, 1:2]) * frequency_hz
    z = sampled(system, spreads, columns).impedance(frequency_hz) + lead
    return np.asarray(np.broadcast_to(reflection_of(z), (deviates.shape[0], frequency_hz.size)), dtype=complex)
