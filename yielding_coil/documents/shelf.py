"""What a match may be made from, as the tables and the drawer have it, and a found network as a design keeps it."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, Literal
from uuid import UUID

from yielding_coil import data
from yielding_coil.core import design as core
from yielding_coil.core.line import CableRow
from yielding_coil.core.matching import E24, Stock
from yielding_coil.core.search import FoundPart, Held, Shelf, Tube
from yielding_coil.core.winding import AirCoil, CoilOnRing, WoundTransformer
from yielding_coil.documents import design, ring_wound
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import AnyElement, CableSnapshot
from yielding_coil.documents.fields import PieceSnapshot
from yielding_coil.documents.piece import AnyPiece, stock_of

ThingKind = Literal["former", "wire", "capacitor", "cable", "ring"]
# Of what the trade sells: wires that hold their shape, capacitors where power goes, rings that are easily had.
WIRES = ("cu-1", "cu-1.6", "cu-2")
SOLD = {"mica": (500.0, 1000.0), "np0": (3000.0,)}
DECADES = (-12, -11, -10, -9)
RINGS = (
    ("43", "FT140", 1),
    ("43", "FT240", 1),
    ("43", "FT240", 2),
    ("52", "FT240", 1),
    ("61", "FT240", 1),
    ("2", "T130", 1),
    ("2", "T200", 1),
    ("6", "T130", 1),
)


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A thing that parts are made from, in words; `piece` where it lies in the drawer."""

    kind: ThingKind
    name: str
    price: str = ""
    key: str = ""
    piece: PieceSnapshot | None = None
    held: AnyPiece | None = None
    core: ring_wound.RingCore | None = None

    @property
    def mine(self) -> bool:
        """Whether it lies in the drawer."""
        return self.piece is not None


@dataclass(slots=True)
class Stocked:
    """A shelf for the search, and what its references mean."""

    things: list[OnShelf] = field(default_factory=list)
    formers: list[Held[Tube]] = field(default_factory=list)
    wires: list[Held[Any]] = field(default_factory=list)
    capacitors: list[Held[Stock]] = field(default_factory=list)
    cables: list[Held[CableRow]] = field(default_factory=list)
    rings: list[Held[Any]] = field(default_factory=list)

    def add(self, to: list[Held[Any]], thing: Any, what: OnShelf) -> None:
        """One thing more."""
        to.append(Held(len(self.things), thing, price_of(what.price), what.mine))
        self.things.append(what)

    def shelf(self) -> Shelf:
        """For the search."""
        return Shelf(
            tuple(self.formers), tuple(self.wires), tuple(self.capacitors), tuple(self.cables), tuple(self.rings)
        )


def price_of(text: str) -> float | None:
    """The first number of a price as it was paid; None where there is none.

    >>> price_of("3,50 a metre"), price_of("")
    (3.5, None)
    """
    found = re.search(r"\d+(?:[.,]\d+)?", text)
    return None if found is None else float(found.group().replace(",", "."))


def stocked(pieces: Sequence[tuple[UUID, int, AnyPiece]], *, sold: bool) -> tuple[Stocked, bool]:
    """What lies in the drawer, with what is sold where that is asked for or the drawer holds nothing of use.

    Wire is taken from the trade where the drawer holds none: nobody counts it.

    Returns:
        The shelf, and whether the drawer itself holds anything to match with.
    """
    shelf = Stocked()
    for piece_id, revision, piece in pieces:
        _from_drawer(shelf, piece_id, revision, piece)
    useful = bool(shelf.formers or shelf.capacitors or shelf.cables or shelf.rings)
    everything = sold or not useful
    if everything or not shelf.wires:
        for key in WIRES:
            shelf.add(shelf.wires, data.winding_wire(key), OnShelf("wire", data.wire(key).name, key=key))
    if everything:
        _from_trade(shelf)
    return shelf, useful


def _from_trade(shelf: Stocked) -> None:
    for former in data.formers().values():
        tube = Tube(former.outer_m, former.length_m)
        shelf.add(shelf.formers, tube, OnShelf("former", former.name, key=former.key))
    for key, voltages in SOLD.items():
        row = data.capacitor(key)
        for volts in voltages:
            for decade in DECADES:
                for step in E24:
                    farad = step * 10.0**decade
                    name = f"{_picofarad(farad)} {row.name}, {volts:.0f} V"
                    stock = Stock(name, farad, row.tolerance, volts, row.q)
                    shelf.add(shelf.capacitors, stock, OnShelf("capacitor", name, key=key))
    for cable in data.cables().values():
        shelf.add(shelf.cables, cable, OnShelf("cable", cable.cable.name, key=cable.key))
    for mix, size, stack in RINGS:
        core_of = ring_wound.RingCore(mix=mix, size=size, stack=stack)
        name = f"{'' if stack == 1 else f'{stack} × '}{size}-{mix} ring"
        shelf.add(shelf.rings, core_of.to_core(), OnShelf("ring", name, core=core_of))


def _picofarad(farad: float) -> str:
    return f"{farad * 1e9:.3g} nF" if farad >= 1e-9 else f"{farad * 1e12:.3g} pF"


def _from_drawer(shelf: Stocked, piece_id: UUID, revision: int, piece: AnyPiece) -> None:
    """One piece, where a match may be made from it and any of it is left."""
    if piece.count == 0:
        return
    snapshot = PieceSnapshot(id=piece_id, revision=revision, values=_values(piece))
    common: dict[str, Any] = {"price": piece.price, "piece": snapshot, "held": piece}
    if piece.kind == "former":
        tube = Tube(piece.values.outer_m, piece.values.length_m)
        shelf.add(shelf.formers, tube, OnShelf("former", piece.name, **common))
    elif piece.kind == "wire":
        own = ring_wound.WireSnapshot(id=piece_id, revision=revision, values=piece.values)
        shelf.add(shelf.wires, ring_wound.wire_of("", own), OnShelf("wire", piece.name, **common))
    elif piece.kind == "capacitor":
        shelf.add(shelf.capacitors, stock_of(piece), OnShelf("capacitor", piece.name, **common))
    elif piece.kind == "cable":
        row = piece.values.row(f"own-{piece_id}")
        shelf.add(shelf.cables, row, OnShelf("cable", piece.name, key=piece.nominal_key or "", **common))
    elif piece.kind == "core":
        for stack in range(1, 1 + min(piece.count or 1, 2)):
            core_of = piece.values.model_copy(update={"stack": stack})
            name = piece.name if stack == 1 else f"{stack} × {piece.name}"
            shelf.add(shelf.rings, core_of.to_core(), OnShelf("ring", name, core=core_of, **common))


def _values(piece: AnyPiece) -> dict[str, Any]:
    return piece.values.model_dump(mode="json")


def element_of(part: FoundPart, things: Sequence[OnShelf]) -> AnyElement:
    """A part that was found, as a design keeps it."""
    made_of = [things[ref] for ref in part.item.refs]
    element = part.element
    by_kind = {thing.kind: thing for thing in made_of}
    if isinstance(element, AirCoil):
        return Coil(
            key=element.key,
            place=element.place,
            inductance_h=element.inductance_h,
            former_m=element.former_m,
            pitch_m=element.pitch_m,
            **_wire(by_kind["wire"]),
        )
    if isinstance(element, core.FixedCapacitor):
        return _capacitor(part, element, made_of)
    if isinstance(element, core.CoaxCapacitor):
        cable = by_kind["cable"]
        return design.CoaxCapacitor(
            key=element.key,
            place=element.place,
            capacitance_f=element.capacitance_f,
            cable=cable.key or element.cable.key,
            cable_piece=_cable(cable),
        )
    if isinstance(element, core.MatchSection):
        cable = by_kind["cable"]
        return design.MatchSection(
            key=element.key,
            cable=cable.key or element.cable.key,
            length_m=element.length_m,
            pieces=element.pieces,
            piece=_cable(cable),
        )
    if isinstance(element, core.MatchStub):
        cable = by_kind["cable"]
        return design.MatchStub(
            key=element.key,
            place=element.place,
            cable=cable.key or element.cable.key,
            length_m=element.length_m,
            end=element.end,
            piece=_cable(cable),
        )
    ring = by_kind["ring"]
    assert ring.core is not None
    wound: dict[str, Any] = {
        "key": element.key,
        "core": ring.core,
        "piece": ring.piece,
        **_wire(by_kind["wire"]),
    }
    if isinstance(element, CoilOnRing):
        return ring_wound.CoilOnRing(**wound, place=element.place, turns=element.turns)
    assert isinstance(element, WoundTransformer)
    return ring_wound.WoundTransformer(
        **wound,
        wiring=element.wiring,
        primary_turns=element.primary_turns,
        secondary_turns=element.secondary_turns,
    )


def _wire(thing: OnShelf) -> dict[str, Any]:
    if thing.piece is None:
        return {"wire": thing.key}
    own = ring_wound.WireSnapshot.model_validate(thing.piece.model_dump())
    return {"wire": (thing.held.nominal_key if thing.held else None) or WIRES[0], "wire_piece": own}


def _cable(thing: OnShelf) -> CableSnapshot | None:
    return None if thing.piece is None else CableSnapshot.model_validate(thing.piece.model_dump())


def _capacitor(part: FoundPart, element: core.FixedCapacitor, made_of: Sequence[OnShelf]) -> design.FixedCapacitor:
    found = part.item.pair
    pair = None
    if found is not None and found.way != "alone":
        halves = [
            design.CapacitorOfPair(
                name=stock.name,
                capacitance_f=stock.capacitance_f,
                piece_id=thing.piece.id if thing.piece else None,
            )
            for stock, thing in zip(found.parts, made_of, strict=True)
        ]
        pair = design.CapacitorPair(way=found.way, parts=halves, voltage_v=found.voltage_v)
    return design.FixedCapacitor(
        key=element.key,
        place=element.place,
        capacitance_f=element.capacitance_f,
        q=element.q,
        spread=element.spread,
        piece=made_of[0].piece if pair is None else None,
        pair=pair,
    )
