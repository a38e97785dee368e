"""What is taken in hand for a build, what of it lies in the drawer, and what is to be bought."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

ThingKind = Literal[
    "ring",
    "wire",
    "cable",
    "capacitor",
    "variable_capacitor",
    "former",
    "box",
    "socket",
    "post",
    "resistor",
    "ties",
    "insulators",
    "antenna_wire",
]
Traits = Mapping[str, float | str]
Source = Literal["measured", "drawer", "too_few", "buy"]

# Wires and tubes are one size within this; capacitors are one value (common practice: their own 5 %).
ALIKE, SAME_VALUE = 0.03, 0.05


@dataclass(frozen=True, slots=True)
class Holding:
    """Something in the drawer: what it is, how many, whether a sweep of one's own stands behind it, its price."""

    kind: ThingKind
    name: str
    traits: Traits
    count: int | None = None
    measured: bool = False
    price: str = ""


@dataclass(frozen=True, slots=True)
class Thing:
    """A line of the parts list.

    Args:
        kind: what it is; `name` as the trade calls it.
        part: key of what it is for; empty for the build as a whole.
        count: so many of them; 0 as many as are needed.
        length_m: of each piece; None where it has none.
        traits: in SI units, by which it is found in the drawer.
        source: where it comes from; `have` lie there, None where nobody counted.
        price: as it was paid, in words.
    """

    kind: ThingKind
    name: str
    part: str = ""
    count: int = 1
    length_m: float | None = None
    traits: Traits | None = None
    source: Source = "buy"
    have: int | None = None
    price: str = ""


def _number(traits: Traits, name: str) -> float:
    value = traits.get(name)
    return float(value) if isinstance(value, int | float) else 0.0


def _near(wanted: Traits, held: Traits, name: str, within: float) -> bool:
    ours, theirs = _number(wanted, name), _number(held, name)
    return ours > 0 and abs(theirs - ours) <= within * ours


def _ring(wanted: Traits, held: Traits) -> bool:
    return all(wanted.get(n) == held.get(n) for n in ("mix", "size"))


def _capacitor(wanted: Traits, held: Traits) -> bool:
    stands = _number(held, "voltage_v") >= _number(wanted, "voltage_v")
    return stands and _near(wanted, held, "capacitance_f", SAME_VALUE)


# Whether what lies in the drawer will do, a row a kind; of the other kinds nobody keeps count.
WILL_DO: Mapping[ThingKind, Callable[[Traits, Traits], bool]] = {
    "ring": _ring,
    "wire": lambda wanted, held: _near(wanted, held, "diameter_m", ALIKE),
    "antenna_wire": lambda wanted, held: _near(wanted, held, "diameter_m", ALIKE),
    "cable": lambda wanted, held: wanted.get("name") == held.get("name"),
    "capacitor": _capacitor,
    "former": lambda wanted, held: _near(wanted, held, "outer_m", ALIKE),
    "box": lambda wanted, held: wanted.get("key") == held.get("key"),
}
# Kept as one kind in the drawer.
KEPT_AS: Mapping[ThingKind, ThingKind] = {"antenna_wire": "wire"}


def from_drawer(things: Sequence[Thing], drawer: Sequence[Holding], builds: int = 1) -> tuple[Thing, ...]:
    """The list for so many builds, each line with what lies in the drawer for it.

    What one line takes is gone for the next; wire and cable are not counted. One's own measured piece comes first.
    """
    left = {id(h): h.count for h in drawer}
    return tuple(_taken(replace(thing, count=thing.count * builds), drawer, left) for thing in things)


def _taken(thing: Thing, drawer: Sequence[Holding], left: dict[int, int | None]) -> Thing:
    rule = WILL_DO.get(thing.kind)
    if rule is None or thing.traits is None:
        return thing
    kind, traits = KEPT_AS.get(thing.kind, thing.kind), thing.traits
    some = [h for h in drawer if h.kind == kind and rule(traits, h.traits) and left[id(h)] != 0]
    if not some:
        return thing
    best = max(some, key=lambda h: (_enough(left[id(h)], thing), h.measured))
    there = left[id(best)]
    if thing.length_m is None and there is not None:
        left[id(best)] = max(0, there - thing.count)
    source: Source = "measured" if best.measured else "drawer"
    return replace(
        thing, source=source if _enough(there, thing) else "too_few", have=there, price=thing.price or best.price
    )


def _enough(there: int | None, thing: Thing) -> bool:
    return there is None or thing.length_m is not None or there >= thing.count
