"""Comma-separated tables with a heading row: impedance, reflection, or SWR alone, against frequency.

The heading says what each column is and, for frequency, in what unit: “MHz, R, X”, “Frequency (kHz); |Z|; angle”,
“f [MHz], Re Γ, Im Γ”, “MHz, SWR”. RFC 4180 with commas; with semicolons or tabs a comma is a decimal sign.
"""

import csv
import io
import re
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.reflection import impedance_of, magnitude_at_swr, reflection_of
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep, SwrSweep
from yielding_coil.formats.text import lines_of, numbers_of, short, text_of

WHAT_IS_READ = "a table with a heading row, such as “MHz, R, X”, “MHz, |Z|, angle”, “MHz, Re Γ, Im Γ” or “MHz, SWR”"

Quantity = Literal[
    "frequency", "r", "x", "z", "z_angle", "gamma", "gamma_angle", "gamma_db", "re", "im", "swr", "return_loss"
]

# What people write above a column, lower case, without brackets and signs.
_NAMES: dict[str, Quantity] = {
    **dict.fromkeys(("f", "freq", "frequency", "hz", "khz", "mhz", "ghz"), "frequency"),
    **dict.fromkeys(("r", "rs", "resistance", "re z", "z re", "real z", "z real"), "r"),
    **dict.fromkeys(("x", "xs", "reactance", "im z", "z im", "imag z", "z imag"), "x"),
    **dict.fromkeys(("|z|", "z", "impedance", "mag z", "z mag", "abs z"), "z"),
    **dict.fromkeys(("angle", "phase", "theta", "arg z", "angle z", "phase z", "z angle", "z phase"), "z_angle"),
    **dict.fromkeys(("|gamma|", "gamma", "|s11|", "rho", "mag s11", "s11 mag", "mag gamma"), "gamma"),
    **dict.fromkeys(
        ("angle gamma", "angle s11", "s11 angle", "gamma angle", "phase s11", "s11 phase"), "gamma_angle"
    ),
    **dict.fromkeys(("re gamma", "gamma re", "re s11", "s11 re", "s11 real", "real s11", "gamma real"), "re"),
    **dict.fromkeys(("im gamma", "gamma im", "im s11", "s11 im", "s11 imag", "imag s11", "gamma imag"), "im"),
    **dict.fromkeys(("swr", "vswr"), "swr"),
    **dict.fromkeys(("return loss", "rl"), "return_loss"),
    **dict.fromkeys(("s11 db", "db s11"), "gamma_db"),
}
_UNITS = {"hz": 1.0, "khz": 1e3, "mhz": 1e6, "ghz": 1e9}
_OTHER_UNITS = ("ohm", "ohms", "ω", "deg", "degree", "degrees", "°", "db", "rad", ": 1", ":1")


@dataclass(frozen=True, slots=True)
class Table:
    """What a table held: a sweep, or SWR alone; and remarks on columns that were left aside."""

    found: Sweep | SwrSweep
    remarks: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Column:
    quantity: Quantity | None
    heading: str
    unit: str | None


def read(data: bytes) -> Table:
    """Read a table.

    Args:
        data: the file to the byte.

    Raises:
        UnreadableError: no such table; the message says what came in, on which line, and what to do.

    >>> read(b"MHz,R,X\\n7.0,40,-10\\n7.1,42,3\\n").found.low_hz
    7000000.0
    """
    lines = [
        (at, line)
        for at, line in enumerate(lines_of(text_of(data, WHAT_IS_READ)), start=1)
        if line.strip() and not line.lstrip().startswith(("#", "!"))
    ]
    if not lines:
        raise UnreadableError(f"the file holds no table; choose {WHAT_IS_READ}", accepted=WHAT_IS_READ)
    first_line, first = lines[0]
    separator = next((mark for mark in ("\t", ";", ",") if mark in first), None)
    if separator is None:
        raise UnreadableError(
            f"“{short(first)}” is no heading row with commas, semicolons or tabs; choose {WHAT_IS_READ}",
            line=first_line,
            accepted=WHAT_IS_READ,
        )
    columns = [_column(cell) for cell in _cells(first, separator, first_line)]
    if all(_is_number(c.heading) for c in columns if c.heading):
        raise UnreadableError(
            "the table begins with numbers; put a row above them that says what they are, such as “MHz, R, X”",
            line=first_line,
            accepted=WHAT_IS_READ,
        )
    wanted = {c.quantity: i for i, c in reversed(list(enumerate(columns))) if c.quantity}
    if "frequency" not in wanted:
        raise UnreadableError(
            f"no column is the frequency: the heading reads “{short(first)}”; choose {WHAT_IS_READ}",
            line=first_line,
            accepted=WHAT_IS_READ,
        )
    unit = columns[wanted["frequency"]].unit
    if unit not in _UNITS:
        raise UnreadableError(
            "the frequency has no unit; write it into the heading, such as “MHz” or “Frequency (kHz)”",
            line=first_line,
            accepted="Hz, kHz, MHz, GHz",
        )
    if len(lines) < 3:
        raise UnreadableError("the table holds fewer than two points below its heading", accepted=WHAT_IS_READ)
    values = _values(lines[1:], separator, columns, wanted)
    numbered = [at for at, _ in lines[1:]]
    frequency = values["frequency"] * _UNITS[unit]
    _check_frequency(frequency, numbered)
    remarks = [
        f"the column “{short(c.heading)}” was not understood and is left aside" for c in columns if not c.quantity
    ]
    impedance = _impedance(values, columns, wanted)
    if impedance is not None:
        _check_reflection(impedance, numbered)
        sweep = Sweep(frequency, impedance)
        return Table(sweep, (*remarks, *_disagreement(values, sweep)))
    swr = _swr(values)
    if swr is None:
        have = ", ".join(c.heading for c in columns)
        raise UnreadableError(
            f"the columns “{short(have)}” make no impedance: two of a pair are needed; choose {WHAT_IS_READ}",
            line=first_line,
            accepted=WHAT_IS_READ,
        )
    if (swr < 1).any() or not np.isfinite(swr).all():
        at = int(np.argmax(~(swr >= 1) | ~np.isfinite(swr)))
        raise UnreadableError(f"the SWR is {swr[at]:g}; it is 1 or more", line=numbered[at])
    return Table(SwrSweep(frequency, swr), tuple(remarks))


def write(sweep: Sweep) -> bytes:
    """Frequency in hertz, R, X, SWR against 50 Ω; nine significant digits, RFC 4180."""
    out = io.StringIO(newline="")
    table = csv.writer(out)
    table.writerow(("Frequency (Hz)", "R (ohm)", "X (ohm)", "SWR"))
    for f, z, swr in zip(sweep.frequency_hz, sweep.impedance_ohm, sweep.swr(), strict=True):
        table.writerow((f"{f:.12g}", f"{z.real:.9g}", f"{z.imag:.9g}", f"{swr:.6g}" if np.isfinite(swr) else ""))
    return out.getvalue().encode()


def write_readings(readings: SwrSweep) -> bytes:
    """Frequency in hertz and SWR."""
    rows = [f"{f:.12g},{s:.6g}\r\n" for f, s in zip(readings.frequency_hz, readings.swr, strict=True)]
    return ("Frequency (Hz),SWR\r\n" + "".join(rows)).encode()


def _cells(line: str, separator: str, at: int) -> list[str]:
    try:
        return [cell.strip() for cell in next(csv.reader([line], delimiter=separator, strict=True))]
    except csv.Error as why:
        raise UnreadableError(f"“{short(line)}” is no row of a table ({why})", line=at) from None


def _column(heading: str) -> _Column:
    plain = heading.lower().replace("γ", "gamma").replace("µ", "u").strip()
    unit = None
    if plain.endswith(("]", ")")):
        begins = max(plain.rfind("["), plain.rfind("("))
        inside = plain[begins + 1 : -1].strip()
        if begins >= 0 and inside in (*_UNITS, *_OTHER_UNITS):
            unit, plain = inside, plain[:begins]
    name = " ".join(re.sub(r"[^a-z0-9| ]+", " ", plain).split())
    words = name.split()
    if unit is None and words and words[-1] in (*_UNITS, "db", "ohm", "ohms", "deg"):
        unit = words[-1]
        if len(words) > 1 and " ".join(words) not in _NAMES:
            name = " ".join(words[:-1])
    if name == "s11":
        return _Column("gamma_db" if unit == "db" else "gamma", heading, unit)
    return _Column(_NAMES.get(name), heading, unit)


def _is_number(text: str) -> bool:
    try:
        float(text.replace(",", "."))
    except ValueError:
        return False
    return True


def _values(
    lines: list[tuple[int, str]], separator: str, columns: list[_Column], wanted: dict[Quantity, int]
) -> dict[Quantity, Real]:
    comma = separator != ","
    plain = _plain_block([line for _, line in lines], separator, len(columns), list(wanted.values()))
    if plain is not None:
        return dict(zip(wanted, plain, strict=True))
    rows = []
    for at, line in lines:
        cells = _cells(line, separator, at)
        while len(cells) > len(columns) and not cells[-1]:
            cells.pop()
        if len(cells) != len(columns):
            raise UnreadableError(
                f"{len(cells)} cells where the heading has {len(columns)}"
                + ("; with decimal commas use semicolons between cells" if separator == "," else ""),
                line=at,
            )
        words = [cells[i].replace(",", ".") if comma else cells[i] for i in wanted.values()]
        rows.append(numbers_of(words, at))
    return dict(zip(wanted, np.array(rows).T, strict=True))


def _plain_block(lines: list[str], separator: str, width: int, wanted: list[int]) -> list[Real] | None:
    """Columns of rows without quotes, read at once; None where a row wants a closer look."""
    text = separator.join(lines)
    if '"' in text or "_" in text or {line.count(separator) for line in lines} != {width - 1}:
        return None
    cells = (text if separator == "," else text.replace(",", ".")).split(separator)
    try:
        found = [np.array(list(map(float, cells[i::width]))) for i in wanted]
    except ValueError:
        return None
    return found if all(np.isfinite(column).all() for column in found) else None


def _check_frequency(frequency: Real, lines: list[int]) -> None:
    bad = np.flatnonzero(frequency <= 0)
    if bad.size:
        raise UnreadableError(
            f"the frequency is {frequency[bad[0]]:g} Hz; it must be above zero", line=lines[bad[0]]
        )
    steps = np.flatnonzero(np.diff(frequency) <= 0)
    if steps.size:
        at = int(steps[0]) + 1
        what = "repeats" if frequency[at] == frequency[at - 1] else "lies below"
        raise UnreadableError(
            f"{frequency[at] / 1e6:.6g} MHz {what} the frequency before it; frequencies must rise: "
            "sort the table, or delete the row",
            line=lines[at],
        )


def _turned(values: Real, column: _Column) -> Complex:
    angle = values if column.unit == "rad" else np.deg2rad(values)
    return np.asarray(np.exp(1j * angle), dtype=complex)


def _impedance(values: dict[Quantity, Real], columns: list[_Column], wanted: dict[Quantity, int]) -> Complex | None:
    """From the first pair that is there: R and X, |Z| and angle, Γ in parts, |Γ| and angle."""
    if "r" in values and "x" in values:
        return np.asarray(values["r"] + 1j * values["x"], dtype=complex)
    if "z" in values and "z_angle" in values:
        return np.asarray(values["z"] * _turned(values["z_angle"], columns[wanted["z_angle"]]), dtype=complex)
    if "re" in values and "im" in values:
        return impedance_of(values["re"] + 1j * values["im"])
    size = values.get("gamma")
    if size is None and "gamma_db" in values:
        size = 10 ** (values["gamma_db"] / 20)
    # A plain “angle” beside |Γ| is Γ's.
    angle: Quantity = "gamma_angle" if "gamma_angle" in values else "z_angle"
    if size is not None and angle in values:
        return impedance_of(size * _turned(values[angle], columns[wanted[angle]]))
    return None


def _check_reflection(impedance: Complex, lines: list[int]) -> None:
    open_at = np.flatnonzero(~np.isfinite(impedance))
    if open_at.size:
        raise UnreadableError(
            "the point is an exact open, which has no finite impedance; delete the row", line=lines[open_at[0]]
        )
    gamma = np.abs(reflection_of(impedance))
    bad = np.flatnonzero(~(gamma <= HIGHEST_REFLECTION))
    if bad.size:
        raise UnreadableError(
            f"|Γ| is {gamma[bad[0]]:.3f}: more comes back than was sent, above the {HIGHEST_REFLECTION} that an "
            "analyser's error explains; calibrate and sweep again",
            line=lines[bad[0]],
        )


def _swr(values: dict[Quantity, Real]) -> Real | None:
    if "swr" in values:
        return values["swr"]
    size = None
    if "return_loss" in values:
        size = 10 ** (-np.abs(values["return_loss"]) / 20)
    elif "gamma_db" in values:
        size = 10 ** (values["gamma_db"] / 20)
    elif "gamma" in values:
        size = values["gamma"]
    if size is None:
        return None
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.where(size < 1, (1 + size) / (1 - size), np.inf))


def _disagreement(values: dict[Quantity, Real], sweep: Sweep) -> tuple[str, ...]:
    """SWR printed beside an impedance must be its own against 50 Ω; else the table is of another reference."""
    told = _swr({k: v for k, v in values.items() if k in ("swr", "return_loss")})
    if told is None:
        return ()
    apart = np.abs(magnitude_at_swr(np.clip(told, 1, 1e6)) - np.abs(sweep.reflection()))
    if float(np.median(apart)) < 0.02:
        return ()
    return ("the SWR column is not that of the impedance against 50 Ω; the impedance is used",)
