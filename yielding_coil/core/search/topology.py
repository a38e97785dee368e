"""Every way to match that is looked at: which kind of part goes where, from the antenna down."""

from dataclasses import dataclass
from typing import Literal, NamedTuple

from yielding_coil.core.system import Place

PartKind = Literal["coil", "capacitor", "section", "pair", "stub", "hairpin", "transformer"]
Family = Literal[
    "none",
    "one",
    "l",
    "pi",
    "tee",
    "transformer",
    "transformer_and",
    "section",
    "series_section",
    "stub",
    "hairpin",
]


class Slot(NamedTuple):
    """Where one part goes, and what kind it is; `pair` is two sections side by side."""

    place: Place
    kind: PartKind


@dataclass(frozen=True, slots=True)
class Topology:
    """A network by its parts, from the antenna down."""

    family: Family
    slots: tuple[Slot, ...]

    @property
    def key(self) -> str:
        """Its name: place and kind of every part."""
        return " ".join(f"{slot.place}-{slot.kind}" for slot in self.slots) or "none"


_COIL: PartKind = "coil"
_CAPACITOR: PartKind = "capacitor"
_REACTANCES = (_COIL, _CAPACITOR)
_BOTH: tuple[Place, Place] = ("series", "shunt")
_TRANSFORMER, _SECTION, _PAIR = Slot("through", "transformer"), Slot("through", "section"), Slot("through", "pair")
_STUB = Slot("shunt", "stub")


def _ladders(family: Family, places: tuple[Place, Place, Place]) -> list[Topology]:
    """The low-pass and the high-pass one of three parts."""
    low: dict[Place, PartKind] = {"shunt": _CAPACITOR, "series": _COIL}
    high: dict[Place, PartKind] = {"shunt": _COIL, "series": _CAPACITOR}
    return [Topology(family, tuple(Slot(place, kinds[place]) for place in places)) for kinds in (low, high)]


# The fewest parts first. A stub at the feedpoint is a stub with no section above it.
TOPOLOGIES: tuple[Topology, ...] = (
    Topology("none", ()),
    *(Topology("one", (Slot(place, kind),)) for place in _BOTH for kind in _REACTANCES),
    Topology("section", (_SECTION,)),
    Topology("section", (_PAIR,)),
    Topology("transformer", (_TRANSFORMER,)),
    Topology("hairpin", (Slot("shunt", "hairpin"),)),
    *(
        Topology("l", (Slot("shunt", shunt), Slot("series", series)))
        for series in _REACTANCES
        for shunt in _REACTANCES
    ),
    *(
        Topology("l", (Slot("series", series), Slot("shunt", shunt)))
        for series in _REACTANCES
        for shunt in _REACTANCES
    ),
    Topology("stub", (_STUB,)),
    Topology("stub", (_SECTION, _STUB)),
    Topology("series_section", (_SECTION, _SECTION)),
    Topology("series_section", (_SECTION, _PAIR)),
    *(Topology("transformer_and", (Slot(place, kind), _TRANSFORMER)) for place in _BOTH for kind in _REACTANCES),
    *(Topology("transformer_and", (_TRANSFORMER, Slot("series", kind))) for kind in _REACTANCES),
    *_ladders("pi", ("shunt", "series", "shunt")),
    *_ladders("tee", ("series", "shunt", "series")),
)
