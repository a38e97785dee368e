"""What one holds, from sweeps of it alone: the permeability of a ring, and coils, capacitors and traps."""

from yielding_coil.core.bench.characterise.parts import FoundPart, Value, part
from yielding_coil.core.bench.characterise.refusal import NotThisError
from yielding_coil.core.bench.characterise.rings import FoundRing, Likeness, TurnsSweep, ring

__all__ = ["FoundPart", "FoundRing", "Likeness", "NotThisError", "TurnsSweep", "Value", "part", "ring"]
