"""Touchstone one-port files, versions 1 and 2.

Touchstone File Format Specification, version 2.0, IBIS Open Forum, 2009.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep

MOST_BYTES = 32 * 1024 * 1024

_UNITS = {"HZ": 1.0, "KHZ": 1e3, "MHZ": 1e6, "GHZ": 1e9}
_PARAMETERS = ("S", "Z", "Y", "G", "H")
_IGNORED = ("two-port data order", "matrix format", "mixed-mode order", "number of noise frequencies")
_FORMATS = ("RI", "MA", "DB")
# What begins a file that is no text: pictures, documents, archives.
_SIGNATURES = {
    b"\x89PNG": "a PNG picture",
    b"\xff\xd8\xff": "a JPEG picture",
    b"GIF8": "a GIF picture",
    b"%PDF": "a PDF document",
    b"PK\x03\x04": "a ZIP archive or an office document",
    b"\x1f\x8b": "a gzip archive",
}
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
    version: int = 1
    ports: int | None = None
    count: int | None = None


def read(data: bytes) -> Sweep:
    """The sweep in a Touchstone one-port file; see `read_file`."""
    return read_file(data).sweep


def read_file(data: bytes) -> TouchstoneFile:
    """Read a Touchstone one-port file.

    Args:
        data: the file to the byte.

    Raises:
        UnreadableError: not such a file; the message says what came in, on which line, and what to do.
        ManyPortsError: two-port data; `more["offers"]` says what can be taken.
    """
    text = _text(data)
    options = _Options()
    comments: list[str] = []
    numbers: list[float] = []
    lines: list[int] = []
    starts: list[int] = []  # index into `numbers` where each line's run begins
    in_data = True
    waiting_for_reference = False
    for at, raw in enumerate(re.split(r"\r\n|\n|\r", text), start=1):
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
                f"“{_short(body)}” comes before the option line; "
                "a line like “# MHz S RI R 50” must say what the numbers are",
                line=at,
                accepted=_WHAT_IS_READ,
            )
        starts.append(len(numbers))
        lines.append(at)
        numbers.extend(_numbers(body, at))
    if options.line is None:
        raise UnreadableError(f"no option line (# …) in the file; choose {_WHAT_IS_READ}", accepted=_WHAT_IS_READ)
    if not numbers:
        raise UnreadableError("the file holds no data below its option line", accepted=_WHAT_IS_READ)
    rows, row_lines = _rows(numbers, lines, starts, options)
    frequency, impedance = _impedances(rows, row_lines, options)
    return TouchstoneFile(Sweep(frequency, impedance), options.reference_ohm, tuple(comments))


def write(sweep: Sweep, comment: str = "") -> bytes:
    """A version 1 file: hertz, S, real and imaginary, 50 Ω, 12 significant digits."""
    gamma = sweep.reflection()
    head = "".join(f"! {line}\n" for line in comment.splitlines())
    body = "".join(
        f"{f:.12g} {g.real:.12g} {g.imag:.12g}\n" for f, g in zip(sweep.frequency_hz, gamma, strict=True)
    )
    return f"{head}# Hz S RI R 50\n{body}".encode()


def _text(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        raise UnreadableError(f"the file is {len(data) / 2**20:.1f} MiB; at most 32 MiB are read")
    if not data.strip():
        raise UnreadableError(f"the file is empty; choose {_WHAT_IS_READ}", accepted=_WHAT_IS_READ)
    for signature, what in _SIGNATURES.items():
        if data.startswith(signature):
            raise UnreadableError(f"this is {what}; choose {_WHAT_IS_READ}", accepted=_WHAT_IS_READ)
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError:
            pass
    if b"\0" in data:
        raise UnreadableError(f"this is no text file; choose {_WHAT_IS_READ}", accepted=_WHAT_IS_READ)
    # Numbers are ASCII; a comment may be in any old encoding.
    return data.removeprefix(b"\xef\xbb\xbf").decode("utf-8", errors="replace")


def _short(text: str) -> str:
    clean = "".join(c if c.isprintable() else "·" for c in text)
    return clean if len(clean) <= 40 else clean[:39] + "…"


def _number(word: str, at: int) -> float:
    try:
        value = float(word)
    except ValueError:
        raise UnreadableError(
            f"“{_short(word)}” is not a number; numbers are written like 14.2 or 1.42E+7", line=at
        ) from None
    if not np.isfinite(value) or "_" in word:
        raise UnreadableError(f"“{_short(word)}” is not a finite number; delete that point or sweep again", line=at)
    return value


def _numbers(body: str, at: int) -> list[float]:
    words = body.split()
    try:
        values = [float(word) for word in words]
    except ValueError:
        return [_number(word, at) for word in words]
    if not np.isfinite(values).all() or "_" in body:
        return [_number(word, at) for word in words]
    return values


def _reference(word: str, at: int) -> float:
    value = _number(word.split()[0], at)
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
                f"“{_short(word)}” is no option; known are Hz, kHz, MHz, GHz; S, Z, Y; RI, MA, DB; R and a number",
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
        raise UnreadableError(f"“{_short(body)}” lacks its closing bracket", line=at)
    name, value = " ".join(keyword.lower().split()), value.strip()
    if name == "version":
        if not re.fullmatch(r"[12]\.\d", value):
            raise UnreadableError(f"version “{_short(value)}” is not read; 1 and 2 are", line=at)
        options.version = int(value[0])
    elif name == "number of ports":
        options.ports = int(_number(value or "nothing", at))
        if options.ports != 1:
            raise _many_ports(f"the file has {options.ports} ports", at, options.ports)
    elif name == "number of frequencies":
        options.count = int(_number(value or "nothing", at))
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
        raise UnreadableError(f"“[{_short(keyword)}]” is no keyword of the format", line=at)
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
    if (widths == 9).all():
        raise _many_ports("nine numbers on a line are two-port data", lines[0], 2)
    if not (widths == 3).all():
        wrong = int(np.argmax(widths != 3))
        raise UnreadableError(
            f"{widths[wrong]} numbers where a point has three: frequency and two of {options.parameter}",
            line=lines[wrong],
        )
    if options.version == 2 and options.count is not None and options.count != len(lines):
        raise UnreadableError(
            f"{options.count} frequencies are announced, {len(lines)} are there; the file may be cut short",
            line=lines[-1],
        )
    return np.array(numbers).reshape(-1, 3), lines


def _impedances(rows: Real, lines: list[int], options: _Options) -> tuple[Real, Complex]:
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
        ~(np.abs(gamma) <= HIGHEST_REFLECTION),
        np.abs(gamma),
        lines,
        lambda v: (
            f"|Γ| is {v:.3f}: more comes back than was sent, above the {HIGHEST_REFLECTION} that an "
            "analyser's error explains; calibrate and sweep again"
        ),
    )
    return frequency, impedance


def _refuse(bad: np.ndarray, values: np.ndarray, lines: list[int], say: Callable[[float], str]) -> None:
    if bad.any():
        at = int(np.argmax(bad))
        raise UnreadableError(say(float(values[at])), line=lines[at])
