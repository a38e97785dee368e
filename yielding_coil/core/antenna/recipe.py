"""A recipe checked: an antenna as somebody passed it on, and what each difference of this place does to its dip."""

import math
from dataclasses import dataclass, replace
from typing import Any

from yielding_coil.core.antenna.tuning import hung_dip
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import AntennaKind, Hung, OnRadials


@dataclass(frozen=True, slots=True)
class Difference:
    """One thing that is otherwise here, a number by its name, "stock" or "soil"; and what it moves the dip by."""

    name: str
    there: float | None
    here: float | None
    moves_hz: float | None


@dataclass(frozen=True, slots=True)
class Recipe:
    """Where it dips as passed on, and here, None where nowhere near; differences by what they move."""

    there_hz: float | None
    here_hz: float | None
    differences: tuple[Difference, ...]


def checked(kind: AntennaKind, there: Hung, here: Hung, near_hz: float) -> Recipe:
    """Both, and each difference taken by itself from the one as passed on.

    Raises:
        OutOfDomainError: two kinds of antenna.
    """
    if type(there) is not type(here):
        raise OutOfDomainError("recipe", "another kind of antenna", f"the same, {kind.name}")
    before = hung_dip(there, near_hz, kind.feed_ohm)
    found = []
    for name, moved in _changed(there, here).items():
        numbers = (there.numbers.get(name), here.numbers.get(name))
        found.append(Difference(name, *numbers, _told(_dip(moved, near_hz, kind.feed_ohm) - before)))
    found.sort(key=lambda d: -abs(d.moves_hz or 0.0))
    return Recipe(_told(before), _told(_dip(here, near_hz, kind.feed_ohm)), tuple(found))


def _changed(there: Hung, here: Hung) -> dict[str, Hung]:
    """The one passed on with one thing at a time as it is here."""
    own: Any = there
    numbers = here.numbers
    found = {n: there.told(**{n: numbers[n]}) for n, value in there.numbers.items() if numbers[n] != value}
    if there.stock != here.stock:
        found["stock"] = replace(own, stock=here.stock)
    if there.soil != here.soil:
        found["soil"] = replace(own, **{"soil" if isinstance(there, OnRadials) else "ground": here.soil})
    return found


def _dip(hung: Hung, near_hz: float, feed_ohm: float) -> float:
    try:
        return hung_dip(hung, near_hz, feed_ohm)
    except OutOfDomainError:
        # It cannot hang so by itself: what it does there, nobody can tell.
        return math.nan


def _told(value: float) -> float | None:
    return value if math.isfinite(value) else None
