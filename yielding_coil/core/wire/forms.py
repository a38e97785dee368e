"""Kinds of wire antenna as they are cut, hung and trimmed: a row each."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.errors import OutOfDomainError

WireForm = Literal[
    "dipole",
    "vertical",
    "loop",
    "five-eighths",
    "long-dipole",
    "end-fed",
    "any-length",
    "loaded-dipole",
    "loaded-vertical",
    "trap-dipole",
    "trap-vertical",
]
Part = Literal["leg", "side", "whole"]


@dataclass(frozen=True, slots=True)
class WireKind:
    """A kind of wire antenna.

    Args:
        form: its name in plans and logs.
        legs: that are trimmed alike; of a loop the whole wire counts as one.
        part: what of it is measured with a tape.
        practice: the practised rule, by its key in the table of lengths, that tells where its dip lies by its
            length alone; None where its length alone tells nothing.
        resonant: whether it is brought to resonance by cutting.
        in_sets: whether several of it, linked or nested, serve several bands.
    """

    form: WireForm
    legs: int
    part: Part
    practice: str | None
    resonant: bool = True
    in_sets: bool = False

    def parts(self, corners: int) -> int:
        """How many such parts it has; a loop has as many sides as corners."""
        return {"leg": self.legs, "side": corners, "whole": 1}[self.part]


FORMS: Mapping[WireForm, WireKind] = {
    kind.form: kind
    for kind in (
        WireKind("dipole", 2, "leg", "dipole-practice", in_sets=True),
        WireKind("vertical", 1, "whole", "vertical-practice", in_sets=True),
        WireKind("loop", 1, "side", "loop-practice", in_sets=True),
        WireKind("five-eighths", 1, "whole", None, resonant=False),
        WireKind("end-fed", 1, "whole", "end-fed-practice"),
        WireKind("any-length", 1, "whole", None, resonant=False),
        WireKind("loaded-dipole", 2, "leg", None),
        WireKind("loaded-vertical", 1, "whole", None),
        WireKind("long-dipole", 2, "leg", None, resonant=False),
        WireKind("trap-dipole", 2, "leg", None, in_sets=True),
        WireKind("trap-vertical", 1, "whole", None, in_sets=True),
    )
}


def require_amounts(form: WireForm, per_leg_m: Sequence[float]) -> None:
    """Raise OutOfDomainError where there are more amounts than legs to have had them."""
    legs = FORMS[form].legs
    if len(per_leg_m) > legs:
        raise OutOfDomainError("per_leg_m", f"{len(per_leg_m)} amounts", f"one for each leg, {legs} at most")
