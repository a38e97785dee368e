"""What to cut for a wire on some bands: every school's length side by side, and the pieces by the chosen one."""

from collections.abc import Sequence
from dataclasses import dataclass

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.wire.forms import FORMS, Part, WireForm
from yielding_coil.core.wire.lengths import (
    BARE_VELOCITY,
    COVERED_VELOCITY,
    NEIGHBOUR_DOUBT,
    USUAL_ADDED,
    Arrangement,
    Length,
    Rule,
    segments,
)
from yielding_coil.core.wire.tape import on_tape


@dataclass(frozen=True, slots=True)
class Band:
    """A band, by the frequency where it is wanted."""

    label: str
    frequency_hz: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlan:
    """How a wire is to be cut.

    Args:
        rule: key of the school; the form's first when it is not one of the form's.
        covered: plastic over the wire.
        corners: of a loop.
        added: what is left over a piece for folding back and fixing, as a share of a leg.
    """

    form: WireForm = "dipole"
    arrangement: Arrangement = "linked"
    rule: str = ""
    covered: bool = False
    corners: int = 4
    added: float = USUAL_ADDED


@dataclass(frozen=True, slots=True)
class SchoolLength:
    """What one school says of a part: a leg, a side, a whole piece; between low and high."""

    key: str
    school: str
    source: str
    part_m: float
    low_m: float
    high_m: float
    whole_m: float

    @classmethod
    def of(cls, rule: Rule, length: Length, parts: int = 1) -> "SchoolLength":
        """One of so many equal parts of a length that a rule gives."""
        part = length.over(parts)
        return cls(rule.key, rule.school, rule.source, part.length_m, part.low_m, part.high_m, length.length_m)


@dataclass(frozen=True, slots=True)
class BandLengths:
    """One band of the wire, as a tape shows it: its leg from the feedpoint, and the piece that it adds."""

    label: str
    frequency_hz: float
    schools: tuple[SchoolLength, ...]
    leg_m: float
    low_m: float
    high_m: float
    piece_m: float


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece to cut, so many times: what is measured to the mark, what is left over it, and the whole."""

    label: str
    count: int
    measure_m: float
    add_m: float
    cut_m: float


@dataclass(frozen=True, slots=True)
class CutList:
    """Lengths of a wire, highest band first, and what to cut."""

    part: Part
    parts: int
    rule: str
    bands: tuple[BandLengths, ...]
    cuts: tuple[Piece, ...]

    @property
    def wire_m(self) -> float:
        """All of it."""
        return sum(cut.count * cut.cut_m for cut in self.cuts)


def rules_for(form: str, rules: Sequence[Rule], corners: int | None = None) -> list[Rule]:
    """The schools for a form, in the table's order; of loops those with so many corners."""
    return [r for r in rules if r.form == form and (r.corners is None or r.corners == corners)]


def cut_list(plan: CutPlan, bands: Sequence[Band], rules: Sequence[Rule], unit: LengthUnit = "m") -> CutList:
    """Every school's length for each band, and the pieces by the chosen one.

    Args:
        bands: at least one, in any order.
        rules: the table of schools.
        unit: of the tape.

    Raises:
        OutOfDomainError: two bands whose lengths do not rise; a form that no rule knows.
    """
    kind = FORMS[plan.form]
    schools = rules_for(plan.form, rules, plan.corners)
    if not schools:
        raise OutOfDomainError(
            "form", plan.form, "one that a rule of length knows; its coil or trap decides: model it"
        )
    chosen = next((r for r in schools if r.key == plan.rule), schools[0])
    parts = kind.parts(plan.corners)
    velocity = COVERED_VELOCITY if plan.covered else BARE_VELOCITY
    doubt = NEIGHBOUR_DOUBT if plan.arrangement == "nested" and len(bands) > 1 else 0.0
    highest_first = sorted(bands, key=lambda b: -b.frequency_hz)

    def length(rule: Rule, band: Band) -> Length:
        return rule.length(band.frequency_hz, velocity).doubted(doubt)

    reach = [length(chosen, band).over(kind.legs).length_m for band in highest_first]
    own = segments(reach, plan.arrangement)
    out, cuts = [], []
    for band, piece, whole in zip(highest_first, own, reach, strict=True):
        leg = length(chosen, band).over(parts)
        measure, add = on_tape(piece, unit), on_tape(plan.added * whole, unit, "up")
        every = tuple(SchoolLength.of(rule, length(rule, band), parts) for rule in schools)
        out.append(
            BandLengths(
                band.label,
                band.frequency_hz,
                every,
                on_tape(leg.length_m, unit),
                leg.low_m,
                leg.high_m,
                measure,
            )
        )
        cuts.append(Piece(band.label, kind.legs, measure, add, on_tape(measure + add, unit)))
    return CutList(kind.part, parts, chosen.key, tuple(out), tuple(cuts))
