"""What a section of line makes of an antenna: a quarter wave of 75 Ω under a loop, for instance."""

from typing import NamedTuple

from yielding_coil.core.line.line import Line
from yielding_coil.core.reflection import swr_of_impedance


class ThroughSection(NamedTuple):
    """At the near end of a section: the impedance there, its SWR against 50 Ω, and the SWR without the section."""

    impedance_ohm: complex
    swr: float
    without_swr: float


def through_section(section: Line, frequency_hz: float, load_ohm: complex) -> ThroughSection:
    """An antenna of `load_ohm` seen through a section of line, its loss included; frequency in hertz.

    Source:
        A quarter wave makes Z0²/Z (Pozar, Microwave Engineering, 4th ed., §2.5); see `Line.input_impedance`.

    >>> from yielding_coil.core.line.line import Cable
    >>> seen = through_section(Line(Cable("75 ohm", 75.0, 0.66, 0.0, 0.0), 1.735), 28.51e6, 100.0)
    >>> abs(seen.impedance_ohm - 75**2 / 100) < 0.1, round(seen.without_swr, 2)
    (True, 2.0)
    """
    there = complex(section.input_impedance(frequency_hz, load_ohm))
    return ThroughSection(there, float(swr_of_impedance(there)), float(swr_of_impedance(load_ohm)))
