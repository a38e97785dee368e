"""A ring that is cracked, or on which two turns touch: its data with what that does to them."""

import math
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.ring import Material, Ring


@dataclass(frozen=True, slots=True)
class FaultyRing:
    """A ring with an air gap, a closed turn, or both.

    Args:
        ring: as it was meant.
        gap_m: of air, all of them along the path together.
        closed_h: inductance of a turn closed on itself that no other links; none when left out.
        closed_ohm: its resistance.

    Source:
        A gap in a magnetic path: 1/μ_e = 1/μ + gap/path (any text on magnetics); a closed turn is a winding of one
        turn on a short.
    """

    ring: Ring
    gap_m: float = 0.0
    closed_h: float | None = None
    closed_ohm: float = 0.02

    @property
    def material(self) -> Material:
        """What it is made of."""
        return self.ring.material

    def core_ohm(self, frequency_hz: Reals, turns: Reals) -> Complex:
        """Impedance of turns on it, shape broadcast."""
        f = np.asarray(frequency_hz, dtype=float)
        core = self.ring.core_ohm(f, turns)
        if self.gap_m:
            air = self.ring.core_ohm(f, turns) / self.ring.material.permeability(f)
            core = 1 / (1 / core + self.gap_m / self.ring.size.path_m / air)
        if self.closed_h is not None:
            closed = np.square(turns) * (self.closed_ohm + 2j * math.pi * f * self.closed_h)
            core = core * closed / (core + closed)
        return np.asarray(core)

    def flux_t(self, frequency_hz: Reals, turns: float, peak_v: Reals) -> Real:
        """Peak flux density of a voltage (peak of the sine) across so many turns."""
        return self.ring.flux_t(frequency_hz, turns, peak_v)
