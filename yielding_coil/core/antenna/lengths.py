"""How long by the model and by each rule, and why they differ."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from yielding_coil.core.antenna.tuning import POWERS, hung_dip
from yielding_coil.core.wire import (
    BARE_VELOCITY,
    COVERED_VELOCITY,
    FORMS,
    AntennaKind,
    Hung,
    OnRadials,
    Rule,
    rules_for,
)

ReasonCode = Literal["covering", "surroundings"]


@dataclass(frozen=True, slots=True)
class RuleLength:
    """What a rule says of the same part, and how much longer that is than the model's, relative."""

    key: str
    school: str
    source: str
    length_m: float
    low_m: float
    high_m: float
    longer: float | None


@dataclass(frozen=True, slots=True)
class Reason:
    """What of the place makes the model's wire longer than the same bare wire in free space, relative."""

    code: ReasonCode
    longer: float


@dataclass(frozen=True, slots=True)
class ModelLength:
    """What the antenna is tuned by as it dips where it is wanted, nine in ten between low and high; and the rules.

    Args:
        tuned_by: name of that number; `value` of it in SI units, None where no value of it dips there.
        part_m: the part that rules speak of; `is_part` where that is what it is tuned by.
        band: which of the antenna's bands it is, the highest first.
    """

    tuned_by: str
    value: float | None
    low: float | None
    high: float | None
    part_m: float
    is_part: bool
    band: int
    rules: tuple[RuleLength, ...]
    reasons: tuple[Reason, ...]


def lengths_of(
    kind: AntennaKind,
    tuned: Hung | None,
    here: Hung,
    off: tuple[float, float] | None,
    wanted_hz: float,
    rules: Sequence[Rule],
) -> ModelLength:
    """The model's length beside each rule's.

    Args:
        tuned: as it dips where it is wanted; None where it cannot be brought there.
        here: as it is planned.
        off: the lowest and the highest of where nine in ten dip, over where it is expected; None where not told.
    """
    own = tuned or here
    form, corners = FORMS[kind.form], getattr(own, "corners", 1)
    name = own.tuned_on(wanted_hz)
    value = None if tuned is None else float(getattr(tuned, name))
    low = high = None
    if value is not None and off is not None:
        # One that comes out low asks for less wire, or less coil.
        low, high = sorted(value * by ** (-1 / POWERS.get(name, -1.0)) for by in off)
    band = own.band_of(wanted_hz)
    reach = own.reaches_m[band]
    part = reach / (corners if form.part == "side" else 1)
    velocity = BARE_VELOCITY if own.stock.insulation is None else COVERED_VELOCITY
    found = []
    for rule in rules_for(kind.form, rules, corners if form.part == "side" else None):
        says = rule.length(wanted_hz, velocity).over(form.parts(corners))
        longer = None if tuned is None else says.length_m / part - 1
        found.append(RuleLength(rule.key, rule.school, rule.source, says.length_m, says.low_m, says.high_m, longer))
    reasons = () if tuned is None or not found else _reasons(kind, tuned, wanted_hz)
    is_part = float(getattr(own, name)) == reach
    return ModelLength(name, value, low, high, part, is_part, band, tuple(found), reasons)


def _reasons(kind: AntennaKind, tuned: Hung, wanted_hz: float) -> tuple[Reason, ...]:
    """By how much its dip moves without its covering, and without the ground as well."""
    bare: Any = tuned
    found = []
    before = wanted_hz
    if tuned.stock.insulation is not None:
        bare = replace(bare, stock=replace(tuned.stock, insulation=None))
        dip = hung_dip(bare, wanted_hz, kind.feed_ohm)
        if math.isfinite(dip):
            # What lets it dip higher without covering is wire that covering saves.
            found.append(Reason("covering", before / dip - 1))
            before = dip
    if not isinstance(tuned, OnRadials):
        dip = hung_dip(replace(bare, ground="none"), wanted_hz, kind.feed_ohm)
        if math.isfinite(dip):
            found.append(Reason("surroundings", before / dip - 1))
    return tuple(found)
