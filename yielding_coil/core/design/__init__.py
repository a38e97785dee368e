"""Designs: what stands below an antenna, what it will do, how its parts are made, how many builds hold."""

from yielding_coil.core.design.bands import BandFlow, BandsPrediction, predict_bands
from yielding_coil.core.design.design import (
    CapacitorToMake,
    CoaxCapacitor,
    Design,
    Feedline,
    FixedCapacitor,
    LineToMake,
    RadioTuner,
    TunerToSet,
    nothing_wound,
)
from yielding_coil.core.design.findings import design_findings
from yielding_coil.core.design.fit import AsBuilt, BuiltValue, Change, SlipOdds, as_built
from yielding_coil.core.design.line_match import MatchSection, MatchStub, SectionToMake, StubToMake
from yielding_coil.core.design.parts_list import parts_list
from yielding_coil.core.design.prediction import (
    BenchLoad,
    Evaluation,
    FeedlineComparison,
    arc_midpoint,
    bench_load,
    compare_feedlines,
    drawn_grid,
    evaluate,
    wire_split,
)
from yielding_coil.core.design.slips import Slip, SlipKind, slips_of
from yielding_coil.core.design.yields import (
    AtLimit,
    DesignSummary,
    YieldGain,
    YieldPrediction,
    design_yield,
    few_hold,
    predict_yield,
    share_of,
    summary_of,
)

__all__ = [
    "AsBuilt",
    "AtLimit",
    "BandFlow",
    "BandsPrediction",
    "BenchLoad",
    "BuiltValue",
    "CapacitorToMake",
    "Change",
    "CoaxCapacitor",
    "Design",
    "DesignSummary",
    "Evaluation",
    "Feedline",
    "FeedlineComparison",
    "FixedCapacitor",
    "LineToMake",
    "MatchSection",
    "MatchStub",
    "RadioTuner",
    "SectionToMake",
    "Slip",
    "SlipKind",
    "SlipOdds",
    "StubToMake",
    "TunerToSet",
    "YieldGain",
    "YieldPrediction",
    "arc_midpoint",
    "as_built",
    "bench_load",
    "compare_feedlines",
    "design_findings",
    "design_yield",
    "drawn_grid",
    "evaluate",
    "few_hold",
    "nothing_wound",
    "parts_list",
    "predict_bands",
    "predict_yield",
    "share_of",
    "slips_of",
    "summary_of",
    "wire_split",
]
