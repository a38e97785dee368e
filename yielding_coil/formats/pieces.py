"""The drawer as a table of values between commas or semicolons: a row a piece, lengths in mm, values as written."""

import csv
import io
import re
from collections.abc import Mapping, Sequence
from typing import Any, Literal, NamedTuple
from uuid import uuid4

from yielding_coil.core.errors import RefusedError, UnreadableError
from yielding_coil.core.quantity import Kind, parse
from yielding_coil.formats.text import short, text_of

WHAT_IS_READ = "a table (.csv) whose first row names its columns, kind and name among them"
MOST_ROWS = 2000


class Column(NamedTuple):
    """A column of the table: where its value stands in a piece, and how it is read.

    `reads` is words, a plain number, yes or no, a curve of permeability ("1 640 80; 10 210 190": MHz, µ' and µ'' of
    each point), or a kind of quantity; `scale` is SI over what is written.
    """

    name: str
    field: str
    reads: Literal["words", "number", "count", "yes", "curve"] | Kind
    scale: float = 1.0


MM = 1e-3
COLUMNS = (
    Column("mix", "mix", "words"),
    Column("size", "size", "words"),
    Column("permeability", "points", "curve"),
    Column("like", "like", "words"),
    Column("rings", "stack", "count"),
    Column("al_nh", "al_h", "number", 1e-9),
    Column("metal", "metal", "words"),
    Column("diameter_mm", "diameter_m", "number", MM),
    Column("covered_mm", "covered_m", "number", MM),
    Column("type", "type", "words"),
    Column("value", "capacitance_f", "capacitance"),
    Column("tolerance_percent", "tolerance", "number", 0.01),
    Column("voltage_v", "voltage_v", "number"),
    Column("inductance", "inductance_h", "inductance"),
    Column("inductance_error_percent", "inductance_error", "number", 0.01),
    Column("q_at_mhz", "q_at_hz", "number", 1e6),
    Column("resonance_mhz", "resonance_hz", "number", 1e6),
    Column("q", "q", "number"),
    Column("outer_mm", "outer_m", "number", MM),
    Column("length_mm", "length_m", "number", MM),
    Column("width_mm", "width_m", "number", MM),
    Column("height_mm", "height_m", "number", MM),
    Column("depth_mm", "depth_m", "number", MM),
    Column("round", "round", "yes"),
    Column("impedance_ohm", "impedance_ohm", "number"),
    Column("velocity_factor", "velocity_factor", "number"),
    Column("loss_sqrt", "loss_sqrt", "number"),
    Column("loss_linear", "loss_linear", "number"),
    Column("impedance_tolerance_percent", "impedance_tolerance", "number", 0.01),
    Column("velocity_tolerance_percent", "velocity_tolerance", "number", 0.01),
    Column("loss_tolerance_percent", "loss_tolerance", "number", 0.01),
    Column("low_mhz", "low_hz", "number", 1e6),
    Column("high_mhz", "high_hz", "number", 1e6),
)
# Columns that a kind cannot do without.
NEEDED = {
    "core": ("mix", "size"),
    "material": ("permeability", "tolerance_percent"),
    "wire": ("diameter_mm", "covered_mm"),
    "capacitor": ("value",),
    "coil": ("inductance",),
    "trap": ("inductance", "value"),
    "former": ("outer_mm", "length_mm"),
    "box": ("width_mm", "height_mm", "depth_mm"),
    "cable": ("impedance_ohm", "velocity_factor", "loss_sqrt", "loss_linear", "low_mhz", "high_mhz"),
}
HEADINGS = ("kind", "name", "count", "price", "nominal", *(c.name for c in COLUMNS))
# A decimal comma; three digits behind one may be thousands as well.
_DECIMAL_COMMA = re.compile(r"-?\d+,(?!\d{3}$)\d+")


class PieceRow(NamedTuple):
    """A row as it was read: its line in the file, and the piece as plain values in SI."""

    line: int
    piece: dict[str, Any]


def read(data: bytes) -> list[PieceRow]:
    """Read the table; a blank cell leaves its value to the default.

    Raises:
        UnreadableError: no such table, columns missing, or a cell that is not understood; it names the line.
    """
    text = text_of(data, WHAT_IS_READ)
    # Rows beyond those that are read are counted, and not kept.
    filled: list[tuple[int, list[str]]] = []
    count = 0
    try:
        for line, row in enumerate(csv.reader(io.StringIO(text), delimiter=_separator(text), strict=True), start=1):
            if not any(cell.strip() for cell in row):
                continue
            count += 1
            if count <= MOST_ROWS + 1:
                filled.append((line, [_bare(cell) for cell in row]))
    except csv.Error as error:
        raise UnreadableError(f"this is no table of comma-separated values ({error})") from error
    if not filled:
        raise UnreadableError("the table has no row", accepted=WHAT_IS_READ)
    heading = [c.lower() for c in filled[0][1]]
    missing = [c for c in ("kind", "name") if c not in heading]
    if missing:
        raise UnreadableError(
            f"the columns {' and '.join(missing)} are missing; the first row reads {short(', '.join(heading))}",
            line=filled[0][0],
            accepted=", ".join(HEADINGS),
        )
    unknown = [c for c in heading if c and c not in HEADINGS]
    if unknown:
        raise UnreadableError(
            f"nothing here is called {short(', '.join(unknown))}", line=filled[0][0], accepted=", ".join(HEADINGS)
        )
    if count - 1 > MOST_ROWS:
        raise UnreadableError(f"the table has {count - 1} rows; at most {MOST_ROWS} are read")
    return [PieceRow(line, _piece(line, _named(line, heading, cells))) for line, cells in filled[1:]]


def _separator(text: str) -> str:
    """Between cells: a semicolon where the heading has it, as spreadsheets of many languages write."""
    heading = next((line for line in text.splitlines() if line.strip()), "")
    return ";" if heading.count(";") > heading.count(",") else ","


def _named(line: int, heading: list[str], cells: list[str]) -> dict[str, str]:
    """The cells of a row by the names of their columns; missing ones at its end are empty."""
    if any(cells[len(heading) :]):
        raise UnreadableError(
            f"the row has {len(cells)} cells, the heading names {len(heading)}: "
            "write decimals with a point, or put a cell with a comma between quotation marks",
            line=line,
        )
    return dict(zip(heading, cells, strict=False))


def _piece(line: int, cells: Mapping[str, str]) -> dict[str, Any]:
    kind = cells.get("kind", "").lower()
    if kind not in NEEDED:
        raise UnreadableError(f"there is no kind “{short(kind)}”", line=line, accepted=", ".join(NEEDED))
    missing = [name for name in NEEDED[kind] if not cells.get(name)]
    if missing:
        raise UnreadableError(
            f"a {kind} needs {', '.join(NEEDED[kind])}; {', '.join(missing)} is empty or missing", line=line
        )
    values: dict[str, Any] = {c.field: _cell(line, c, cells[c.name]) for c in COLUMNS if cells.get(c.name)}
    if kind == "cable":
        values.setdefault("impedance_tolerance", 0.02)
        values.setdefault("velocity_tolerance", 0.02)
        values.setdefault("loss_tolerance", 0.1)
        values["name"] = cells["name"]
    if kind == "core" and "points" in values:
        own = {field: values.pop(field) for field in _MATERIAL if field in values}
        # Where it goes no piece of the drawer stands behind it.
        values["material"] = {"id": str(uuid4()), "revision": 1, "values": own}
    piece: dict[str, Any] = {"kind": kind, "name": cells["name"], "price": cells.get("price", ""), "values": values}
    if cells.get("nominal"):
        piece["nominal_key"] = cells["nominal"]
    if cells.get("count"):
        piece["count"] = _cell(line, Column("count", "count", "count"), cells["count"])
    return piece


# What of a core's own material stands in its row.
_MATERIAL = ("points", "tolerance", "like")
_POINT = ("frequency_hz", "real", "imaginary")


def _curve(text: str) -> list[dict[str, float]]:
    """Points of a curve of permeability.

    Raises:
        ValueError: a point is not three numbers.
    """
    rows = [[float(number) for number in point.split()] for point in text.split(";") if point.strip()]
    return [{**dict(zip(_POINT, row, strict=True)), "frequency_hz": row[0] * 1e6} for row in rows]


def _cell(line: int, column: Column, text: str) -> float | int | str | bool | list[dict[str, float]]:
    try:
        if column.reads == "words":
            return text
        if column.reads == "yes":
            return text.lower() in ("yes", "true", "1")
        if column.reads == "count":
            return int(text)
        if column.reads == "curve":
            return _curve(text)
        if column.reads == "number":
            return float(text.replace(",", ".") if _DECIMAL_COMMA.fullmatch(text) else text) * column.scale
        return parse(text, column.reads)
    except RefusedError as why:
        raise UnreadableError(f"{column.name}: {why.message}", line=line) from why
    except ValueError as why:
        what = _WANTED.get(column.reads, "a number, with a point for decimals")
        raise UnreadableError(f"{column.name} reads “{short(text)}”; it must be {what}", line=line) from why


_WANTED = {
    "count": "a whole number",
    "curve": "points of three numbers each, as in “1 640 80; 10 210 190”: MHz, µ′ and µ″",
}


def write(pieces: Sequence[Mapping[str, Any]]) -> bytes:
    """The pieces as such a table; what is read of it again is the same."""
    out = io.StringIO()
    table = csv.DictWriter(out, HEADINGS, lineterminator="\r\n")
    table.writeheader()
    for piece in pieces:
        row = {name: _plain(piece.get(name)) for name in ("kind", "name", "count", "price")}
        row["nominal"] = _plain(piece.get("nominal_key"))
        own = piece["values"].get("material")
        values = {**(own["values"] if own else {}), **piece["values"]}
        for column in COLUMNS:
            value = values.get(column.field)
            if value is None or (column.name in NEEDED["cable"] and piece["kind"] != "cable"):
                continue
            row[column.name] = _written(column, value)
        table.writerow(row)
    return out.getvalue().encode("utf-8")


# What a spreadsheet takes for the beginning of a formula.
_FORMULA = ("=", "+", "@", "-")


def _plain(value: object) -> str:
    """A cell that a spreadsheet takes for words, never for a formula."""
    text = "" if value is None else str(value)
    return f"'{text}" if text.startswith(_FORMULA) else text


def _bare(cell: str) -> str:
    """A cell without the mark that kept it from being a formula."""
    text = cell.strip()
    return text[1:] if text.startswith("'") and text[1:].startswith(_FORMULA) else text


def _written(column: Column, value: Any) -> str:
    if column.reads == "words":
        return _plain(value)
    if column.reads == "yes":
        return "yes" if value else "no"
    if column.reads == "count":
        return str(value)
    if column.reads == "curve":
        return "; ".join(f"{p['frequency_hz'] / 1e6:.12g} {p['real']:.12g} {p['imaginary']:.12g}" for p in value)
    if column.reads == "capacitance":
        return f"{value * 1e12:.12g} pF"
    if column.reads == "inductance":
        return f"{value * 1e6:.12g} µH"
    return f"{value / column.scale:.12g}"
