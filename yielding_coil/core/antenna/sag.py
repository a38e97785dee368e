"""How far a wire between two supports hangs through: its weight, the coax in its middle, the pull."""

import math
from dataclasses import dataclass

from yielding_coil.core.arrays import require_not_negative, require_positive
from yielding_coil.core.wire import Hung, Stock

GRAVITY_M_PER_S2 = 9.80665
# kg/m³ and, of soft copper, aluminium and steel wire, what tears it in N/m² (handbook values, from memory).
DENSITY = {"copper": 8960.0, "aluminium": 2700.0, "steel": 7850.0}
TEARS = {"copper": 220e6, "aluminium": 160e6, "steel": 400e6}
PLASTIC_DENSITY = 1300.0
# A 5 mm coax with a choke or balun at its top (common practice).
COAX_KG_PER_M, BALUN_KG = 0.038, 0.15
USUAL_PULL_N = 50.0
# Of what sags in the middle, its mean over the span: of a chain two thirds, of a weight in the middle half.
CHAIN_MEAN, POINT_MEAN = 2 / 3, 1 / 2


@dataclass(frozen=True, slots=True)
class Sag:
    """A rough figure: `middle_m` lower in the middle, `mean_m` over the wire; the pull over what tears it.

    `coax_kg` hangs in the middle, with its balun; 0 where none does.
    """

    span_m: float
    pull_n: float
    wire_kg: float
    coax_kg: float
    middle_m: float
    mean_m: float
    tears_share: float


def catenary_m(span_m: float, newton_per_m: float, pull_n: float, middle_n: float = 0.0) -> float:
    """How much lower its middle hangs than its ends, in metres, at a level pull.

    Source:
        y = a·cosh(x/a), a the level pull over the weight a metre; a weight in the middle makes of each half a
        piece of such a curve that begins with the slope weight / (2·pull) (statics of cables, any handbook).
    """
    for name, value in (("span_m", span_m), ("newton_per_m", newton_per_m), ("pull_n", pull_n)):
        require_positive(name, value)
    require_not_negative("middle_n", middle_n)
    a = pull_n / newton_per_m
    begins = math.asinh(middle_n / (2 * pull_n))
    return a * (math.cosh(begins + span_m / (2 * a)) - math.cosh(begins))


def kg_per_m(stock: Stock) -> float:
    """Of a wire with its covering."""
    metal = math.pi * stock.radius_m**2
    cover = math.pi * stock.insulation.outer_radius_m**2 - metal if stock.insulation else 0.0
    return DENSITY.get(stock.conductor, DENSITY["copper"]) * metal + PLASTIC_DENSITY * cover


def sag_of(hung: Hung, pull_n: float = USUAL_PULL_N) -> Sag | None:
    """How far it hangs through; None for what does not hang between two supports."""
    if not hung.spans:
        return None
    require_positive("pull_n", pull_n)
    ends = [w.start_m for w in hung.structure().wires[:1]] + [hung.structure().wires[0].end_m]
    span = max(abs(ends[1][0] - ends[0][0]), 0.01)
    wire = kg_per_m(hung.stock)
    coax = BALUN_KG + COAX_KG_PER_M * (ends[0][2] + ends[1][2]) / 2 if hung.spans == "coax" else 0.0
    whole = catenary_m(span, wire * GRAVITY_M_PER_S2, pull_n, coax * GRAVITY_M_PER_S2)
    alone = catenary_m(span, wire * GRAVITY_M_PER_S2, pull_n)
    tears = TEARS.get(hung.stock.conductor, TEARS["copper"]) * math.pi * hung.stock.radius_m**2
    return Sag(
        span_m=span,
        pull_n=pull_n,
        wire_kg=wire * math.dist(*ends),
        coax_kg=coax,
        middle_m=whole,
        mean_m=CHAIN_MEAN * alone + POINT_MEAN * (whole - alone),
        tears_share=pull_n / tears,
    )
