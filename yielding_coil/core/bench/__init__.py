"""The bench: what a sweep of a wound thing says of it."""

from yielding_coil.core.bench.characterise import FoundPart, FoundRing, NotThisError, Value, Wound
from yielding_coil.core.bench.suspects import (
    alone_setups,
    bucking_turns,
    coil_suspects,
    named,
    ring_suspects,
    transformer_setups,
    transformer_suspects,
    trap_suspects,
)
from yielding_coil.core.bench.verdict import (
    Setup,
    Suspect,
    Taken,
    Verdict,
    Weighed,
    judge,
    residual_columns,
    seen_of,
    widened,
)

__all__ = [
    "FoundPart",
    "FoundRing",
    "NotThisError",
    "Setup",
    "Suspect",
    "Taken",
    "Value",
    "Verdict",
    "Weighed",
    "Wound",
    "alone_setups",
    "bucking_turns",
    "coil_suspects",
    "judge",
    "named",
    "residual_columns",
    "ring_suspects",
    "seen_of",
    "transformer_setups",
    "transformer_suspects",
    "trap_suspects",
    "widened",
]
