"""Touchstone one-port files, versions 1 and 2.

Touchstone File Format Specification, version 2.0, IBIS Open Forum, 2009.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep
from yielding_coil.formats.text import lines_of, number_of, numbers_of, short, text_of

_UNITS = {"HZ": 1.0, "KHZ": 1e3, "MHZ": 1e6, "GHZ": 1e9}
_PARAMETERS = ("S", "Z", "Y", "G", "H")
_IGNORED = ("two-port data order", "matrix format", "mixed-mode order", "number of noise frequencies")
_FORMATS = ("RI", "MA", "DB")
_WHAT_IS_READ = "a Touchstone one-port file (.s1p) with S, Z or Y data"


class ManyPortsError(UnreadableError):
    """The file holds more than one port; what could be taken from it is offered."""

    code = "many_ports"


@dataclass(frozen=True, slots=True)
class TouchstoneFile:
    """What a file held: the sweep, the impedance it was referred to, and its comments."""

    sweep: Sweep
    reference_ohm: float
    comments: tuple[str, ...]


@dataclass(slots=True)
class _Options:
    unit: float = 1e9
    parameter: str = "S"
    format: str = "MA"
    reference_ohm: float = 50.0
    line: int | None = None
    # What is taken of two-port data; nothing, and they are refused.
    take: Literal["S11"] | None = None
    version: int = 1
    ports: int | None = None
    count: int | None = None


def read(data: bytes) -> Sweep:
    """The sweep in a Touchstone one-port file; see `read_file`."""
    return read_file(data).sweep


def read_file(
    data: bytes, take: Literal["S11"] | None = None, highest_reflection: float = HIGHEST_REFLECTION
) -> TouchstoneFile:
    """Read a Touchstone one-port file.

    Args:
        data: the file to the byte.
        take: S11 of a two-port file, as its first port sees it with the second one terminated.
        highest_reflection: |Γ| above which a point is refused; what was kept once is read without a bound.

    Raises:
        UnreadableError: not such a file; the message says what came in, on which line, and what to do.
        ManyPortsError: two-port data; `more["offers"]` says what can be taken.
    """
    text = text_of(data, _WHAT_IS_READ)
    options = _Options(take=take)
    comments: list[str] = []
    numbers: list[float] = []
    lines: list[int] = []
    starts: list[int] = []  # index into `numbers` where each line's run begins
    in_data = True
    waiting_for_reference = False
    raw_lines = lines_of(text)
    for at, raw in enumerate(raw_lines, start=1):
        body, mark, comment = raw.partition("!")
        if mark and comment.strip():
            comments.append(comment.strip())
        body = body.strip()
        if not body:
            continue
        if body.startswith("#"):
            if options.line is None:  # a second option line is ignored, as the specification has it
                _read_options(body, at, options)
            continue
        if body.startswith("["):
            in_data, waiting_for_reference = _read_keyword(body, at, options, in_data)
            continue
        if waiting_for_reference:
            options.reference_ohm = _reference(body, at)
            waiting_for_reference = False
            continue
        if not in_data:
            continue
        if options.line is None:
            raise UnreadableError(
                f"“{short(body)}” comes before the option line; "
                "a line like “# MHz S RI R 50” must say what the numbers are",
                line=at,
                accepted=_WHAT_IS_READ,
            )
        plain = None if numbers else _plain_block(raw_lines[at - 1 :])
        if plain is not None:
            width, numbers = plain
            lines = [k for k, line in enumerate(raw_lines[at - 1 :], start=at) if line.strip()]
            starts = list(range(0, len(numbers), width))
            break
        starts.append(len(numbers))
        lines.append(at)
        numbers.extend(numbers_of(body.split(), at))
    if options.line is None:
        raise UnreadableError(f"no option line (# …) in the file; choose {_WHAT_IS_READ}", accepted=_WHAT_IS_READ)
    if not numbers:
        raise UnreadableError("the file holds no data below its option line", accepted=_WHAT_IS_READ)
    rows, row_lines = _rows(numbers, lines, starts, options)
    frequency, impedance = _impedances(rows, row_lines, options, highest_reflection)
    return TouchstoneFile(Sweep(frequency, impedance), options.reference_ohm, tuple(comments))


def write(sweep: Sweep, comment: str = "") -> bytes:
    """A version 1 file: hertz, S, real and imaginary, 50 Ω, 12 significant digits."""
    gamma = sweep.reflection()
    head = "".join(f"! {line}\n" for line in comment.splitlines())
    body = "".join(
        f"{f:.12g} {g.real:.12g} {g.imag:.12g}\n" for f, g in zip(sweep.frequency_hz, gamma, strict=True)
    )
    return f"{head}# Hz S RI R 50\n{body}".encode()


def write_exact(sweep: Sweep) -> bytes:
    """A version 2 file that reads back to the bit: hertz, Z in ohms, every digit that a float has."""
    rows = "".join(
        f"{float(f)!r} {float(z.real)!r} {float(z.imag)!r}\n"
        for f, z in zip(sweep.frequency_hz, sweep.impedance_ohm, strict=True)
    )
    head = (
        f"[Version] 2.0\n# HZ Z RI R 50\n[Number of Ports] 1\n[Number of Frequencies] {sweep.frequency_hz.size}\n"
    )
    return f"{head}[Network Data]\n{rows}[End]\n".encode()


def _plain_block(lines: list[str]) -> tuple[int, list[float]] | None:
    """Rows of one width with nothing but finite numbers, read at once; None where a line wants a closer look."""
    text = "\n".join(lines)
    if any(mark in text for mark in "![#_"):
        return None
    widths = {len(line.split()) for line in lines} - {0}
    try:
        numbers = list(map(float, text.split()))
    except ValueError:
        return None
    if len(widths) != 1 or not np.isfinite(numbers).all():
        return None
    return widths.pop(), numbers


def _reference(word: str, at: int) -> float:
    value = number_of(word.split()[0], at)
    if value <= 0:
        raise UnreadableError(f"the reference is {value:g} Ω; it must be above zero, as in “R 50”", line=at)
    return value


def _read_options(body: str, at: int, options: _Options) -> None:
    options.line = at
    words = body[1:].split()
    while words:
        word = words.pop(0)
        upper = word.upper()
        if upper in _UNITS:
            options.unit = _UNITS[upper]
        elif upper in _FORMATS:
            options.format = upper
        elif upper in _PARAMETERS:
            options.parameter = upper
        elif upper == "R":
            if not words:
                raise UnreadableError("R without a value; write it like “R 50”", line=at)
            options.reference_ohm = _reference(words.pop(0), at)
        elif re.fullmatch(r"R\d.*", upper):  # written together: R50
            options.reference_ohm = _reference(word[1:], at)
        else:
            raise UnreadableError(
                f"“{short(word)}” is no option; known are Hz, kHz, MHz, GHz; S, Z, Y; RI, MA, DB; R and a number",
                line=at,
            )
    if options.parameter in ("G", "H"):
        raise UnreadableError(
            f"{options.parameter} parameters describe two ports; one-port data are S, Z or Y", line=at
        )


def _read_keyword(body: str, at: int, options: _Options, in_data: bool) -> tuple[bool, bool]:
    """What a line in brackets says: (whether data lines follow, whether a reference does)."""
    keyword, closed, value = body[1:].partition("]")
    if not closed:
        raise UnreadableError(f"“{short(body)}” lacks its closing bracket", line=at)
    name, value = " ".join(keyword.lower().split()), value.strip()
    if name == "version":
        if not re.fullmatch(r"[12]\.\d", value):
            raise UnreadableError(f"version “{short(value)}” is not read; 1 and 2 are", line=at)
        options.version = int(value[0])
    elif name == "number of ports":
        options.ports = int(number_of(value or "nothing", at))
        if options.ports != 1 and not (options.ports == 2 and options.take):
            raise _many_ports(f"the file has {options.ports} ports", at, options.ports)
    elif name == "number of frequencies":
        options.count = int(number_of(value or "nothing", at))
    elif name == "reference":
        if not value:
            return in_data, True
        options.reference_ohm = _reference(value, at)
    elif name in ("network data",):
        return True, False
    elif name in ("noise data", "begin information"):
        return False, False
    elif name in ("end information",):
        return True, False
    elif name == "end":
        return False, False
    elif name not in (
        "two-port data order",
        "matrix format",
        "mixed-mode order",
        "number of noise frequencies",
    ):
        raise UnreadableError(f"“[{short(keyword)}]” is no keyword of the format", line=at)
    return in_data, False


def _many_ports(what: str, at: int, ports: int) -> ManyPortsError:
    offers = ["S11"] if ports == 2 else []
    then = "take S11 from it, or save one port" if offers else "save one port"
    return ManyPortsError(
        f"{what}; a sweep of an antenna has one: {then}", line=at, offers=offers, accepted=_WHAT_IS_READ
    )


def _rows(numbers: list[float], lines: list[int], starts: list[int], options: _Options) -> tuple[Real, list[int]]:
    """Three numbers a point and a point a line; with them the line each came from."""
    widths = np.diff([*starts, len(numbers)])
    width = 3
    if (widths == 9).all():
        if options.take is None:
            raise _many_ports("nine numbers on a line are two-port data", lines[0], 2)
        if options.parameter != "S":
            raise UnreadableError(
                f"S11 can be taken from S data; these are {options.parameter}: export S parameters",
                line=options.line,
            )
        width = 9
    if not (widths == width).all():
        wrong = int(np.argmax(widths != width))
        raise UnreadableError(
            f"{widths[wrong]} numbers where a point has three: frequency and two of {options.parameter}",
            line=lines[wrong],
        )
    if options.version == 2 and options.count is not None and options.count != len(lines):
        raise UnreadableError(
            f"{options.count} frequencies are announced, {len(lines)} are there; the file may be cut short",
            line=lines[-1],
        )
    return np.array(numbers).reshape(-1, width)[:, :3], lines


def _impedances(rows: Real, lines: list[int], options: _Options, highest: float) -> tuple[Real, Complex]:
    frequency = rows[:, 0] * options.unit
    _refuse(frequency <= 0, frequency, lines, lambda v: f"the frequency is {v:g} Hz; it must be above zero")
    steps = np.diff(frequency, prepend=0.0)
    if (steps <= 0).any():
        at = int(np.argmax(steps <= 0))
        what = "repeats" if steps[at] == 0 else "lies below"
        raise UnreadableError(
            f"{frequency[at] / 1e6:.6g} MHz {what} the frequency before it; frequencies must rise: "
            "sort the file, or delete the point",
            line=lines[at],
        )
    first, second = rows[:, 1], rows[:, 2]
    if options.format == "RI":
        value = np.asarray(first + 1j * second, dtype=complex)
    else:
        magnitude = first if options.format == "MA" else 10 ** (first / 20)
        value = np.asarray(magnitude * np.exp(1j * np.deg2rad(second)), dtype=complex)
    if options.parameter == "S":
        gamma = value
        impedance = impedance_of(gamma, options.reference_ohm)
    else:
        # Version 1 normalises Z and Y to the reference, version 2 gives them in ohm and siemens.
        scale = options.reference_ohm if options.version == 1 else 1.0
        with np.errstate(divide="ignore", invalid="ignore"):
            seen = value * scale if options.parameter == "Z" else scale / value
            impedance = np.asarray(seen, dtype=complex)
            gamma = reflection_of(impedance, options.reference_ohm)
    _refuse(
        ~np.isfinite(impedance),
        rows[:, 0],
        lines,
        lambda v: f"the point at {v:g} is an exact open, which has no finite impedance; delete it",
    )
    _refuse(
        ~(np.abs(gamma) <= highest),
        np.abs(gamma),
        lines,
        lambda v: (
            f"|Γ| is {v:.3f}: more comes back than was sent, above the {highest} that an "
            "analyser's error explains; calibrate and sweep again"
        ),
    )
    return frequency, impedance


def _refuse(bad: np.ndarray, values: np.ndarray, lines: list[int], say: Callable[[float], str]) -> None:
    if bad.any():
        at = int(np.argmax(bad))
        raise UnreadableError(say(float(values[at])), line=lines[at])
