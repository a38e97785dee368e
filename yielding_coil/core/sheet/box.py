"""The wiring of a box: which part lies between which places, so that it can be drawn and checked."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.design import CoaxCapacitor, Design, FixedCapacitor, MatchSection, MatchStub
from yielding_coil.core.element import DesignElement
from yielding_coil.core.winding import Across, AirCoil, CoilOnRing, WoundTransformer

Kind = Literal[
    "coil", "ring_coil", "capacitor", "coax_capacitor", "transformer", "section", "stub", "variable_capacitor"
]
Place = str

CENTRE, SHIELD, POST, GROUND = "coax centre", "coax shield", "wire post", "counterpoise"
LEGS = ("leg 1", "leg 2")


@dataclass(frozen=True, slots=True)
class BoxPart:
    """A part in the box and the places that it lies between.

    Args:
        between: of a part with two ends those; of a line or a transformer its upper hot and cold, then its lower
            hot and cold place.
        end: of a stub.
    """

    key: str
    kind: Kind
    place: Literal["series", "shunt", "through"]
    between: tuple[Place, ...]
    end: Literal["open", "shorted"] | None = None


@dataclass(frozen=True, slots=True)
class BoxWiring:
    """What is in a box, from the antenna down.

    Args:
        posts: places on the outside where the antenna is tied on, hot one first.
        parts: in the order of the cascade.
        links: pairs of places that a plain wire joins.
    """

    posts: tuple[Place, ...]
    parts: tuple[BoxPart, ...]
    links: tuple[tuple[Place, Place], ...]


KINDS: dict[type[DesignElement], Kind] = {
    AirCoil: "coil",
    CoilOnRing: "ring_coil",
    FixedCapacitor: "capacitor",
    CoaxCapacitor: "coax_capacitor",
    WoundTransformer: "transformer",
    MatchSection: "section",
    MatchStub: "stub",
}


def in_box(design: Design) -> list[DesignElement]:
    """What of a design is made by hand and goes into its box; lengths of line hang out of it."""
    return [e for e in design.elements if type(e) in KINDS]


def box_wiring(design: Design) -> BoxWiring | None:
    """How the match of a design is wired between the antenna's posts and the coax socket.

    Returns:
        None where nothing of it goes into a box.
    """
    elements = in_box(design)
    if not elements:
        return None
    balanced = any(isinstance(e, WoundTransformer) and e.way.balanced for e in elements)
    posts = LEGS if balanced else (POST, GROUND)
    hot, cold = posts
    through = [e for e in elements if e.place != "shunt"]
    parts: list[BoxPart] = []
    joint = 0
    for element in elements:
        key, kind, end = element.key, KINDS[type(element)], getattr(element, "end", None)
        if element.place == "shunt":
            parts.append(BoxPart(key, kind, "shunt", (hot, cold), end))
            continue
        last = element is through[-1]
        joint += not last
        below = CENTRE if last else f"joint {joint}"
        if element.place == "series":
            parts.append(BoxPart(key, kind, "series", (hot, below), end))
            hot = below
            continue
        base = SHIELD if _parts_ground(element) else cold
        parts.append(BoxPart(key, kind, "through", (hot, cold, below, base)))
        if isinstance(element, WoundTransformer):
            names = {POST: hot, GROUND: cold, CENTRE: below, SHIELD: base}
            parts += [_across(key, each, names) for each in element.across]
        hot, cold = below, base
    links = [(a, b) for a, b in ((hot, CENTRE), (cold, SHIELD)) if a != b]
    return BoxWiring(tuple(posts), tuple(parts), tuple(links))


def _parts_ground(element: DesignElement) -> bool:
    """Whether its two sides share no ground."""
    return isinstance(element, WoundTransformer) and (element.way.balanced or element.way.key == "separate")


def _across(key: str, part: Across, names: Mapping[str, Place]) -> BoxPart:
    fixed = part.low_f == part.high_f
    one, other = (names[place] for place in part.between)
    return BoxPart(
        f"{key} {'input' if fixed else 'tuning'}",
        "capacitor" if fixed else "variable_capacitor",
        "shunt",
        (one, other),
    )


def names_of(parts: Sequence[BoxPart]) -> list[str]:
    """Every place that a part ends at, each once, in their order.

    >>> names_of([BoxPart("coil", "coil", "series", ("wire post", "coax centre"))])
    ['wire post', 'coax centre']
    """
    return list(dict.fromkeys(place for part in parts for place in part.between))
