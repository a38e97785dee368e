"""The bench: what a sweep of a wound thing says of it."""

from yielding_coil.core.bench import characterise, suspects, verdict
from yielding_coil.core.bench.characterise import FoundPart, FoundRing, NotThisError, TurnsSweep, Value
from yielding_coil.core.bench.findings import (
    KEPT_NOISE,
    BenchReport,
    bench_verdict,
    crossings_of,
    trusted_db,
    useful,
)
from yielding_coil.core.bench.fixtures import setup_of, setups_of, shown_resistor_ohm, winding_suspects
from yielding_coil.core.bench.hypothesis import TURNS, Fixture, Hypothesis, name_of, widened
from yielding_coil.core.bench.kept import (
    KeptCapacitor,
    KeptMaterial,
    KeptPart,
    kept_at,
    kept_material,
    kept_part,
    lowest_al_h,
)
from yielding_coil.core.bench.planned import Planned, bucking_turns, named
from yielding_coil.core.bench.seen import LEAD_H, NUISANCES, seen_of
from yielding_coil.core.bench.suspect_fit import BenchSweep
from yielding_coil.core.bench.suspects import (
    alone_setups,
    coil_suspects,
    ring_suspects,
    suspects_of,
    transformer_setups,
    transformer_suspects,
    trap_suspects,
)
from yielding_coil.core.bench.verdict import Ranked, Verdict, classify

__all__ = [
    "KEPT_NOISE",
    "LEAD_H",
    "NUISANCES",
    "TURNS",
    "BenchReport",
    "BenchSweep",
    "Fixture",
    "FoundPart",
    "FoundRing",
    "Hypothesis",
    "KeptCapacitor",
    "KeptMaterial",
    "KeptPart",
    "NotThisError",
    "Planned",
    "Ranked",
    "TurnsSweep",
    "Value",
    "Verdict",
    "alone_setups",
    "bench_verdict",
    "bucking_turns",
    "characterise",
    "classify",
    "coil_suspects",
    "crossings_of",
    "kept_at",
    "kept_material",
    "kept_part",
    "lowest_al_h",
    "name_of",
    "named",
    "ring_suspects",
    "seen_of",
    "setup_of",
    "setups_of",
    "shown_resistor_ohm",
    "suspects",
    "suspects_of",
    "transformer_setups",
    "transformer_suspects",
    "trap_suspects",
    "trusted_db",
    "useful",
    "verdict",
    "widened",
    "winding_suspects",
]
