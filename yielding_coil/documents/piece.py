"""What lies in the drawer: cores, materials, wires, cables, capacitors and the rest; each kind with its values."""

from collections.abc import Sequence
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.matching import Stock
from yielding_coil.core.sheet import Holding, ThingKind, Traits
from yielding_coil.documents.design import CableValues
from yielding_coil.documents.fields import Farad, Henry, Hertz, PartLength, Payload, SpreadOf, Words
from yielding_coil.documents.ring_wound import MaterialValues, RingCore, WireValues

Name = Annotated[Words, Field(min_length=1, max_length=120)]
Key = Annotated[Words, Field(max_length=40)]


class CapacitorValues(Payload):
    """A capacitor: kind by the table, value, tolerance (two standard deviations), voltage, Q."""

    type: Key = "mica"
    capacitance_f: Farad
    tolerance: SpreadOf = 0.05
    voltage_v: Annotated[float, Field(ge=1, le=1e6)] = 500.0
    q: Annotated[float, Field(ge=1, le=1e9)] = 1500.0


class FormerValues(Payload):
    """A tube to wind on."""

    outer_m: PartLength
    length_m: PartLength


class BoxValues(Payload):
    """A box or a tube, inside."""

    width_m: PartLength
    height_m: PartLength
    depth_m: PartLength
    round: bool = False


class PartValues(Payload):
    """A coil or a trap as a sweep of it alone found it; errors are two standard deviations over the value."""

    inductance_h: Henry
    inductance_error: SpreadOf = 0.0
    # Across it; null where the sweep did not show it.
    capacitance_f: Farad | None = None
    q: Annotated[float, Field(gt=0, le=1e6)] | None = None
    q_at_hz: Hertz | None = None
    resonance_hz: Hertz | None = None


class Held(Payload):
    """What every piece has; the price as it was paid, in words."""

    name: Name
    count: Annotated[int, Field(ge=0, le=100000)] | None = None
    price: Annotated[Words, Field(max_length=40)] = ""
    nominal_key: Key | None = None
    # The sweep that proves what was measured.
    sweep_id: UUID | None = None


class CorePiece(Held):
    """A ring, with its inductance factor where it was measured."""

    kind: Literal["core"]
    values: RingCore


class WirePiece(Held):
    """A wire."""

    kind: Literal["wire"]
    values: WireValues


class CablePiece(Held):
    """A cable, as two sweeps and a tape found it."""

    kind: Literal["cable"]
    values: CableValues


class CapacitorPiece(Held):
    """A capacitor."""

    kind: Literal["capacitor"]
    values: CapacitorValues


class FormerPiece(Held):
    """A tube to wind on."""

    kind: Literal["former"]
    values: FormerValues


class BoxPiece(Held):
    """A box or a tube that a ring goes into."""

    kind: Literal["box"]
    values: BoxValues


class MaterialPiece(Held):
    """A ring material as one's own sweeps found it."""

    kind: Literal["material"]
    values: MaterialValues


class CoilPiece(Held):
    """A coil as a sweep found it."""

    kind: Literal["coil"]
    values: PartValues


class TrapPiece(Held):
    """A trap as a sweep found it."""

    kind: Literal["trap"]
    values: PartValues


AnyPiece = Annotated[
    CorePiece
    | MaterialPiece
    | WirePiece
    | CablePiece
    | CapacitorPiece
    | CoilPiece
    | TrapPiece
    | FormerPiece
    | BoxPiece,
    Field(discriminator="kind"),
]
KINDS = ("core", "material", "wire", "cable", "capacitor", "coil", "trap", "former", "box")


def require_known(piece: AnyPiece) -> None:
    """Refuse what names a row that no table has.

    Raises:
        NotFoundError: no such mix, size or kind of capacitor.
    """
    if piece.kind == "core":
        data.ring_material(piece.values.mix)
        data.ring_size(piece.values.size)
    elif piece.kind == "capacitor":
        data.capacitor(piece.values.type)


def stock_of(piece: CapacitorPiece) -> Stock:
    """A capacitor of the drawer for the core."""
    v = piece.values
    return Stock(piece.name, v.capacitance_f, v.tolerance, v.voltage_v, v.q, piece.count)


def _traits(piece: AnyPiece, key: str) -> tuple[ThingKind, Traits, bool] | None:
    """What it is by, and whether a sweep of one's own stands behind it; None of what no build sheet lists."""
    if piece.kind == "core":
        return "ring", {"mix": piece.values.mix, "size": piece.values.size}, piece.values.measured
    if piece.kind == "wire":
        return "wire", {"diameter_m": piece.values.diameter_m}, False
    if piece.kind == "cable":
        return "cable", {"name": piece.values.name}, True
    if piece.kind == "capacitor":
        v = piece.values
        return "capacitor", {"capacitance_f": v.capacitance_f, "voltage_v": v.voltage_v}, piece.sweep_id is not None
    if piece.kind == "former":
        return "former", {"outer_m": piece.values.outer_m}, False
    if piece.kind == "box":
        return "box", {"key": key}, False
    return None


def holdings_of(pieces: Sequence[tuple[UUID, AnyPiece]]) -> list[Holding]:
    """What lies in the drawer, as a build sheet looks for it."""
    found = []
    for piece_id, piece in pieces:
        known = _traits(piece, str(piece_id))
        if known is not None:
            kind, traits, measured = known
            found.append(Holding(kind, piece.name, traits, piece.count, measured, piece.price))
    return found
