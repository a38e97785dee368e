"""One reader for what people type: `3.6`, `3600k`, `8ft 3in`, `8' 3 1/2"`, `33u`, `1n5`, `2,5 m`."""

import math
import re
import sys
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.errors import OutOfDomainError, UnreadableTextError

Kind = Literal[
    "frequency",
    "inductance",
    "capacitance",
    "power",
    "resistance",
    "reactance",
    "length",
    "wire",
    "turns",
    "ratio",
    "velocity",
    "stray capacitance",
    "stray inductance",
    "inductance factor",
    "voltage",
    "current",
    "share",
    "angle",
    "pull",
    "quality",
    "loss",
]
LengthUnit = Literal["m", "ft"]

FOOT_M = 0.3048
INCH_M = 0.0254

_PREFIX = {"f": 1e-15, "p": 1e-12, "n": 1e-9, "u": 1e-6, "m": 1e-3, "": 1.0, "k": 1e3, "M": 1e6, "G": 1e9}


@dataclass(frozen=True, slots=True)
class PlainForm:
    """How a number with one unit is read of a kind, in tables that anybody can follow.

    Args:
        units: what one of each is in SI, by how it is written; "" for a bare number, where it means one thing.
        least, most: the values that may be, in SI.
        example: one as it is written.
    """

    units: Mapping[str, float]
    least: float
    most: float
    example: str


@dataclass(frozen=True, slots=True)
class _Reading:
    """How a kind of quantity is read: its unit, what a bare number means, what else it may be followed by."""

    name: str
    unit: str
    bare: float
    examples: str
    zero: bool = False
    signed: bool = False


_READINGS: dict[Kind, _Reading] = {
    "frequency": _Reading("a frequency", "Hz", 1e6, "21.2, 21.2 MHz, 21200k"),
    "inductance": _Reading("an inductance", "H", 1e-6, "2.28, 2.28 µH, 2u28, 330n"),
    "capacitance": _Reading("a capacitance", "F", 1e-12, "6.5, 6.5 pF, 1n5, 120p"),
    "power": _Reading("a power", "W", 1.0, "100, 100 W, 5 W"),
    "resistance": _Reading("a resistance", "Ω", 1.0, "50, 3.2k, 3k2", zero=True),
    "reactance": _Reading("a reactance", "Ω", 1.0, "-463, −j463, 12 Ω, 1.2k", zero=True, signed=True),
    "length": _Reading("a length", "m", 1.0, "8.75 m, 64 mm, 8ft 3in, 8' 3 1/2\"", zero=True),
    "wire": _Reading("a wire or a former", "m", 1e-3, "1.6, 1.6 mm, 14 AWG, 1/2 in"),
    "turns": _Reading("turns", "", 1.0, "7, 7.5, 7 1/2"),
    "ratio": _Reading("an SWR", "", 1.0, "2, 1.5, 1.5 : 1"),
    "velocity": _Reading("a velocity factor", "", 1.0, "0.66, 0.82"),
    "stray capacitance": _Reading("a stray capacitance", "F", 1e-12, "0, 0.06, 0.06 pF, 60 fF", zero=True),
    "stray inductance": _Reading("a stray inductance", "H", 1e-9, "0, 0.2, 0.2 nH, 200p", zero=True),
    "inductance factor": _Reading("an inductance per turn squared", "H", 1e-9, "1075, 1075 nH, 1.1 µH"),
    "voltage": _Reading("a voltage", "V", 1.0, "500, 500 V, 3 kV, 1k5"),
    "current": _Reading("a current", "A", 1.0, "0.2, 200 mA, 1.5 A", zero=True),
    "angle": _Reading("an angle", "°", 1.0, "45, 45°, 120 deg", zero=True),
    "pull": _Reading("a pull", "N", 1.0, "50, 50 N"),
    "quality": _Reading("a Q", "", 1.0, "200, 350"),
    "loss": _Reading("a loss", "dB", 1.0, "1, 1 dB, 0.35", zero=True),
    "share": _Reading("a share", "%", 1e-2, "5, 5 %, 2.5 %", zero=True),
}

# What stands beside a number on a dial or a tape.
_ON_DIALS: dict[Kind, tuple[str, ...]] = {
    "frequency": ("MHz", "mhz", "Mhz", "kHz", "khz", "Hz", "M", "k"),
    "length": ("m", "cm", "mm"),
    "ratio": (),
    "resistance": ("Ω", "ohm", "kΩ", "k"),
    "power": ("W", "mW", "kW"),
}

# Frequencies of antennas; a bare number beyond them was meant in another unit.
LOWEST_HZ, HIGHEST_HZ = 10e3, 1e9

_NUMBER = r"\d+(?:\.\d+)?|\.\d+"
_PLAIN = re.compile(rf"([+-]?)({_NUMBER})(?:[eE]([+-]?\d+))?\s*([^\d\s].*)?")
_INFIX = re.compile(r"(\d+)([pnumkMG])(\d+)\s*(.*)")
_FRACTION = re.compile(r"(?:(\d+)\s+)?(\d+)/(\d+)\s*(.*)")
_FEET_MARK = r"(?:ft|foot|feet|')"
_INCH_MARK = r"(?:in|inch|inches|\"|'')"
_INCHES = rf"(?:({_NUMBER})|(?:(\d+)\s+)?(\d+)/(\d+))\s*{_INCH_MARK}?"
_FEET_INCHES = re.compile(rf"({_NUMBER})\s*{_FEET_MARK}\s*(?:[-,]?\s*{_INCHES})?")
_ONLY_INCHES = re.compile(rf"(?:({_NUMBER})|(?:(\d+)\s+)?(\d+)/(\d+))\s*{_INCH_MARK}")
_AWG = re.compile(r"(?:#|awg\s*)(\d{1,2})|(\d{1,2})\s*awg", re.I)
_THOUSANDS = re.compile(r"\d{1,3},\d{3}(?!\d)")


def parse(text: str, kind: Kind, length_unit: LengthUnit = "m") -> float:
    """Read what a person typed, in SI.

    Args:
        text: as typed; bare numbers take the field's unit (MHz, µH, pF, W; mm for wire).
        kind: what the field holds.
        length_unit: what a bare length means.

    Raises:
        UnreadableTextError: not understood, ambiguous, or another unit.
        OutOfDomainError: understood, but not above zero where it must be.

    >>> parse("8' 3 1/2\\"", "length")
    2.5273
    >>> parse("1n5", "capacitance")
    1.5e-09
    """
    reading = _READINGS[kind]
    typed = _tidy(text)
    if reading.signed:
        typed = re.sub(r"^([+-]?) ?j ?", r"\1", typed)
    if not typed:
        raise _not_understood("", reading, "the field is empty")
    if typed.count(",") == 1 and _THOUSANDS.search(typed) and "." not in typed:
        as_point, as_none = typed.replace(",", "."), typed.replace(",", "")
        if kind == "frequency" and _same_either_way(as_none):
            typed = as_point
    if typed.count(",") == 1 and _THOUSANDS.search(typed) and "." not in typed:
        raise _not_understood(
            text, reading, f"one comma and three digits may mean {as_point} or {as_none}: write one of these"
        )
    if "," in typed:
        if typed.count(",") > 1 or "." in typed:
            raise _not_understood(text, reading, "use one decimal point, and no commas for thousands")
        if re.search(r"\d,\d", typed):
            typed = typed.replace(",", ".")
    value = _length(typed, text, reading, kind, length_unit) if reading.unit == "m" else None
    if value is None:
        value = _plain(typed, text, reading, kind, length_unit)
    value = float(f"{value:.15g}")  # 36e-9 rather than 36.000000000000004e-9
    if not math.isfinite(value) or (value < 0 and not reading.signed) or (value == 0 and not reading.zero):
        raise OutOfDomainError(kind, text.strip(), "zero or more" if reading.zero else "above zero")
    if kind == "frequency" and not LOWEST_HZ <= value <= HIGHEST_HZ:
        raise _meant_otherwise(typed, text, reading, value)
    return value


def plain_forms() -> dict[Kind, PlainForm]:
    """How what a dial or a tape shows is read where this reader cannot be asked; of all else it says nothing."""
    found: dict[Kind, PlainForm] = {}
    for kind, spellings in _ON_DIALS.items():
        reading = _READINGS[kind]
        units = {each: factor for each in spellings if (factor := _unit_factor(each, reading)) is not None}
        if kind == "length":
            # A bare length means what its reader has chosen.
            units |= dict.fromkeys(("ft", "'"), FOOT_M) | dict.fromkeys(("in", '"'), INCH_M)
        else:
            units[""] = reading.bare
        if kind == "ratio":
            units |= {": 1": 1.0, ":1": 1.0}
        # “Above zero” is the smallest number there is above it.
        least, most = (0.0 if reading.zero else math.ulp(0.0)), sys.float_info.max
        if kind == "frequency":
            least, most = LOWEST_HZ, HIGHEST_HZ
        found[kind] = PlainForm(units, least, most, reading.examples.split(", ")[1 if kind == "frequency" else 0])
    return found


def _same_either_way(without_comma: str) -> bool:
    """Whether 14,200 is one frequency, as 14.2 MHz and as 14200 kHz: no antenna is for 14200 MHz."""
    return bool(re.fullmatch(r"\d+", without_comma)) and float(without_comma) * 1e6 > HIGHEST_HZ


def _meant_otherwise(typed: str, text: str, reading: _Reading, value: float) -> UnreadableTextError:
    """A frequency that no antenna is for, and the one that was meant: kilohertz as megahertz, or hertz for mega."""
    number = re.match(_NUMBER, typed)
    digits = float(number[0]) if number else 0.0
    meant = [digits * unit for unit in (1e6, 1e3, 1.0) if 0.1e6 <= digits * unit <= 100e6]
    why = f"that would be {value / 1e6:g} MHz"
    refused = _not_understood(text, reading, why + (f"; {meant[0] / 1e6:g} MHz?" if meant else ""))
    if meant:
        refused.more["suggested"] = f"{meant[0] / 1e6:.10g} MHz"
    return refused


def decimal_feet(text: str, length_unit: LengthUnit = "m") -> float | None:
    """What a length in decimals of a foot becomes where its decimals are taken for inches, in metres.

    Returns:
        None where the text has no decimals of a foot, or more of them than inches have.

    >>> round(decimal_feet("5.7 ft") / FOOT_M, 3)
    5.583
    """
    found = re.fullmatch(r"(\d+)[.,](\d{1,2})\s*(ft|foot|feet|')?", _tidy(text))
    if not found or not (found[3] or length_unit == "ft") or not 0 < int(found[2]) < 12:
        return None
    return int(found[1]) * FOOT_M + int(found[2]) * INCH_M


def _tidy(text: str) -> str:
    swaps = {"µ": "u", "μ": "u", "−": "-", "’": "'", "′": "'", "”": '"', "″": '"', "“": '"', "\u00a0": " "}
    for old, new in swaps.items():
        text = text.replace(old, new)
    for sign, spelt in (("½", "1/2"), ("¼", "1/4"), ("¾", "3/4")):
        text = text.replace(sign, f" {spelt}")
    return " ".join(text.split())


def _not_understood(text: str, reading: _Reading, why: str) -> UnreadableTextError:
    came = f"“{text.strip()}” is not understood as {reading.name}: " if text.strip() else ""
    return UnreadableTextError(
        f"{came}{why}. Write it like {reading.examples}", came_in=text, accepted=reading.examples
    )


def _fraction(whole: str | None, over: str, under: str, text: str, reading: _Reading) -> float:
    if int(under) == 0:
        raise _not_understood(text, reading, "a fraction cannot have nothing below its line")
    return int(whole or 0) + int(over) / int(under)


def _length(typed: str, text: str, reading: _Reading, kind: Kind, length_unit: LengthUnit) -> float | None:
    if kind == "wire" and (gauge := _AWG.fullmatch(typed)):
        # ASTM B258: 36 gauge is 0.005 in, each gauge up is smaller by the 39th root of 92.
        return float(127e-6 * 92 ** ((36 - int(gauge[1] or gauge[2])) / 39))
    if re.fullmatch(rf"({_NUMBER})(feet|foot)", typed):
        number = re.sub(r"\D+$", "", typed)
        raise _not_understood(text, reading, f"did you mean {number} ft? Write {number} ft or {number}'")
    if found := _FEET_INCHES.fullmatch(typed):
        feet, inches, whole, over, under = found.groups()
        if "." in feet and (inches or over):
            raise _not_understood(text, reading, "decimals of a foot and inches together")
        more = float(inches) if inches else _fraction(whole, over, under, text, reading) if over else 0.0
        if more >= 12:
            raise _not_understood(text, reading, f"{more:g} inches are more than a foot")
        return float(feet) * FOOT_M + more * INCH_M
    if found := _ONLY_INCHES.fullmatch(typed):
        inches, whole, over, under = found.groups()
        return (float(inches) if inches else _fraction(whole, over, under, text, reading)) * INCH_M
    return None


def _plain(typed: str, text: str, reading: _Reading, kind: Kind, length_unit: LengthUnit) -> float:
    bare = FOOT_M if kind == "length" and length_unit == "ft" else reading.bare
    if found := _INFIX.fullmatch(typed):
        whole, prefix, rest, unit = found.groups()
        if unit not in ("", reading.unit, _ascii(reading.unit)) or not reading.unit:
            raise _not_understood(text, reading, f"“{unit or prefix}” is no unit of it")
        return float(f"{whole}.{rest}") * _PREFIX[prefix]
    if kind == "turns" and (found := _FRACTION.fullmatch(typed)) and not found[4]:
        return _fraction(found[1], found[2], found[3], text, reading)
    found = _PLAIN.fullmatch(typed)
    if not found:
        raise _not_understood(text, reading, "it does not begin with one number")
    sign, digits, exponent, unit = found.groups()
    number = float(f"{sign}{digits}e{exponent or 0}")
    unit = (unit or "").strip()
    if not unit:
        return number * bare
    if kind == "ratio" and unit.replace(" ", "") == ":1":
        return number
    if kind == "turns" and unit in ("t", "turn", "turns"):
        return number
    factor = _unit_factor(unit, reading)
    if factor is None:
        raise _not_understood(text, reading, f"“{unit}” is no unit of it")
    return number * factor


def _ascii(unit: str) -> str:
    return {"Ω": "ohm", "°": "deg"}.get(unit, unit)


def _unit_factor(unit: str, reading: _Reading) -> float | None:
    """What one of `unit` is in SI; None where it is none of this kind."""
    if not reading.unit:
        return None
    if reading.unit == "%":
        return 1e-2 if unit == "%" else None
    if reading.unit == "m":
        return {"mm": 1e-3, "cm": 1e-2, "dm": 0.1, "m": 1.0, "km": 1e3, "um": 1e-6}.get(unit)
    for name in (reading.unit, _ascii(reading.unit), reading.unit.lower()):
        if unit.endswith(name) and unit[: -len(name)] in _PREFIX:
            prefix = unit[: -len(name)]
            # mhz is megahertz to everybody, a millihertz to nobody.
            return 1e6 if reading.unit == "Hz" and prefix == "m" else _PREFIX[prefix]
    if unit in _PREFIX:
        return 1e6 if reading.unit == "Hz" and unit == "m" else _PREFIX[unit]
    return _PREFIX["k"] if unit == "K" else None
