"""Tables the application ships: a row each, with its source and tolerance."""

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, TypeVar

from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.lengths import Rule
from yielding_coil.core.line import Cable

# Speech, telegraphy, constant carrier: share of the peak power that heats (practice).
MODE_DUTY = {"speech": 0.3, "telegraphy": 0.45, "digital": 1.0}


@dataclass(frozen=True, slots=True)
class CableRow:
    """A class of cable with what is known of it, and how well."""

    key: str
    cable: Cable
    loss_tolerance: float
    velocity_tolerance: float
    source: str
    note: str
    coax: bool
    lowest_hz: float | None
    impedance_tolerance: float = 0.02


@dataclass(frozen=True, slots=True)
class WireRow:
    """A wire by its diameter, bare and covered, in metres."""

    key: str
    name: str
    diameter_m: float
    covered_m: float
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
def bands_source() -> str:
    """Where the bands come from, and how sure they are."""
    return str(json.loads((files(__package__) / "bands.json").read_text("utf-8"))["source"])


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
