"""Tables the application ships: a row each, with its source and tolerance."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal, TypeVar

from yielding_coil.core.conductor import METALS, WindingWire
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.line import Cable, CableRow
from yielding_coil.core.ring import Material, Ring, Size
from yielding_coil.core.wire import Rule

# Speech, telegraphy, constant carrier: share of the peak power that heats (practice).
MODE_DUTY = {"speech": 0.3, "telegraphy": 0.45, "digital": 1.0}


@dataclass(frozen=True, slots=True)
class WireRow:
    """A wire by its diameter, bare and covered, in metres."""

    key: str
    name: str
    diameter_m: float
    covered_m: float
    source: str
    metal: str = "copper"


@dataclass(frozen=True, slots=True)
class CapacitorRow:
    """A kind of capacitor: tolerance as two standard deviations, Q, usual voltages."""

    key: str
    name: str
    tolerance: float
    q: float
    voltages_v: tuple[float, ...]
    note: str


@dataclass(frozen=True, slots=True)
class FormerRow:
    """A tube to wind on."""

    key: str
    name: str
    outer_m: float
    length_m: float
    source: str


@dataclass(frozen=True, slots=True)
class BoxRow:
    """A box or a tube that a ring goes into, inside; a round one has its diameter twice."""

    key: str
    name: str
    width_m: float
    height_m: float
    depth_m: float
    round: bool
    source: str


@dataclass(frozen=True, slots=True)
class BandRow:
    """An amateur band by its edges, and the segments of the modes inside it."""

    key: str
    label: str
    low_hz: float
    high_hz: float
    segments: dict[str, tuple[float, float]]


@dataclass(frozen=True, slots=True)
class MeterRow:
    """What an SWR is read on: one standard deviation of |Γ|."""

    key: str
    label: str
    spread: float


Row = TypeVar("Row")


def _one(rows: dict[str, Row], key: str, what: str) -> Row:
    """A row by its key; refused with the keys there are."""
    if key not in rows:
        raise NotFoundError(
            f"there is no {what} “{key}” in the table", field=what, came_in=key, accepted=", ".join(rows)
        )
    return rows[key]


def _rows(name: str) -> list[dict[str, Any]]:
    rows: list[dict[str, Any]] = json.loads((files(__package__) / name).read_text("utf-8"))["rows"]
    return rows


@cache
def cables() -> dict[str, CableRow]:
    """Nominal cables by key."""
    return {
        row["key"]: CableRow(
            key=row["key"],
            cable=Cable(
                row["name"],
                row["impedance_ohm"],
                row["velocity_factor"],
                row["loss_sqrt"],
                row["loss_linear"],
                row.get("loss_constant", 0.0),
            ),
            loss_tolerance=row["loss_tolerance"],
            velocity_tolerance=row["velocity_tolerance"],
            source=row["source"],
            note=row.get("note", ""),
            coax=row["coax"],
            lowest_hz=row.get("lowest_hz"),
            outer_m=row["outer_mm"] / 1e3 if "outer_mm" in row else None,
        )
        for row in _rows("cables.json")
    }


@cache
def wires() -> dict[str, WireRow]:
    """Winding wires by key."""
    return {row["key"]: WireRow(**row) for row in _rows("wires.json")}


@cache
def bands(region: int = 1) -> dict[str, BandRow]:
    """Amateur bands of an ITU region by key, lowest first."""
    return {
        row["key"]: BandRow(
            row["key"],
            row["label"],
            row["low_hz"],
            row["high_hz"],
            {mode: (edges[0], edges[1]) for mode, edges in row["segments"].items()},
        )
        for row in _rows("bands.json")
        if row["region"] == region
    }


@cache
def lengths() -> dict[str, Rule]:
    """Rules for cutting wire, by key, in the order in which they are shown."""
    return {row["key"]: Rule(**row) for row in _rows("lengths.json")}


@cache
def meters() -> dict[str, MeterRow]:
    """What an SWR may be read on, by key."""
    return {row["key"]: MeterRow(**row) for row in _rows("meters.json")}


def meter(key: str) -> MeterRow:
    """What an SWR was read on.

    Raises:
        NotFoundError: no such key in the table.
    """
    return _one(meters(), key, "meter")


def cable(key: str) -> Cable:
    """A nominal cable; refuses as `cable_row` does."""
    return cable_row(key).cable


def cable_row(key: str) -> CableRow:
    """A nominal cable with what is known of it.

    Raises:
        NotFoundError: no such key in the table.
    """
    return _one(cables(), key, "cable")


def wire(key: str) -> WireRow:
    """A winding wire.

    Raises:
        NotFoundError: no such key in the table.
    """
    return _one(wires(), key, "wire")


def winding_wire(key: str) -> WindingWire:
    """A winding wire with its metal, as the core takes it.

    Raises:
        NotFoundError: no such key in the table.
    """
    row = wire(key)
    of = METALS[row.metal]
    return WindingWire(row.name, row.diameter_m, row.covered_m, of.resistivity_ohm_m, of.permeability)


@cache
def capacitors() -> dict[str, CapacitorRow]:
    """Kinds of capacitor by key."""
    return {
        row["key"]: CapacitorRow(**{**row, "voltages_v": tuple(row["voltages_v"])})
        for row in _rows("capacitors.json")
    }


def capacitor(key: str) -> CapacitorRow:
    """A kind of capacitor.

    Raises:
        NotFoundError: no such key in the table.
    """
    return _one(capacitors(), key, "type")


@cache
def formers() -> dict[str, FormerRow]:
    """Tubes to wind on, by key."""
    return {row["key"]: FormerRow(**row) for row in _rows("formers.json")}


@cache
def boxes() -> dict[str, BoxRow]:
    """Boxes and tubes by key."""
    return {row["key"]: BoxRow(**row) for row in _rows("boxes.json")}


@cache
def ring_materials() -> dict[str, Material]:
    """Ring materials by mix."""
    return {
        row["mix"]: Material(
            **{
                **row,
                "points": tuple((f, real, imaginary) for f, real, imaginary in row["points"]),
                "q_points": tuple((f, q) for f, q in row["q_points"]),
            }
        )
        for row in _rows("ring_materials.json")
    }


def ring_material(mix: str) -> Material:
    """What a ring is made of, by its mix.

    Raises:
        NotFoundError: no such mix in the table.
    """
    return _one(ring_materials(), mix, "mix")


@cache
def ring_sizes() -> dict[str, Size]:
    """Sizes of bare rings by trade name."""
    return {
        row["size"]: Size(
            name=row["size"],
            outer_m=row["outer_mm"] / 1e3,
            inner_m=row["inner_mm"] / 1e3,
            height_m=row["height_mm"] / 1e3,
            area_m2=row["area_mm2"] / 1e6,
            path_m=row["path_mm"] / 1e3,
            trade_al_h=tuple((mix, al / 1e9) for mix, al in row["trade_al_nh"].items()),
            doubtful=row["doubtful"],
        )
        for row in _rows("ring_sizes.json")
    }


def ring_size(name: str) -> Size:
    """Dimensions of a bare ring.

    Raises:
        NotFoundError: no such size in the table.
    """
    return _one(ring_sizes(), name, "size")


def family_of(size: Size) -> Literal["ferrite", "powder"]:
    """What rings of a trade size are made of: the trade names powder by T, ferrite by FT."""
    return "ferrite" if size.name.startswith("F") else "powder"


def trade_rings(stacks: Sequence[int]) -> list[Ring]:
    """Every ring that the trade sells, alone and on top of each other: each size in the mixes of its family."""
    return [
        Ring(material, size, stack)
        for material in ring_materials().values()
        for size in ring_sizes().values()
        if family_of(size) == material.kind
        for stack in stacks
    ]


@cache
def source_of(table: str) -> str:
    """Where a table comes from, as it says itself."""
    return str(json.loads((files(__package__) / f"{table}.json").read_text("utf-8"))["source"])
