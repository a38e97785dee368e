"""Matches of line in closed form: quarter waves, series sections, stubs, the hairpin. Angles are βl, in radian."""

import math
from typing import NamedTuple

from yielding_coil.core.arrays import require_finite, require_positive
from yielding_coil.core.errors import NotMatchableError
from yielding_coil.core.matching.load import matchable


class SeriesSection(NamedTuple):
    """A length of the main line next to the load, then one of another line."""

    main_rad: float
    section_rad: float


class SingleStub(NamedTuple):
    """So far from the load a stub of this length, with its end open or shorted: one of each does."""

    distance_rad: float
    open_rad: float
    shorted_rad: float


class DoubleStub(NamedTuple):
    """Two open stubs, the first at the load."""

    first_rad: float
    second_rad: float


class Hairpin(NamedTuple):
    """What lies across the feedpoint, and the reactance that the antenna has to be cut to."""

    across_ohm: float
    antenna_ohm: float


def quarter_wave_ohm(load_ohm: float, source_ohm: float = 50.0) -> float:
    """The line whose quarter wave carries a resistance to another: √(R·R').

    Source:
        Pozar, Microwave Engineering, 4th ed., eq. (5.25).

    >>> round(quarter_wave_ohm(10, 50), 2)
    22.36
    """
    require_positive("load_ohm", load_ohm)
    require_positive("source_ohm", source_ohm)
    return math.sqrt(load_ohm * source_ohm)


def series_sections(load_ohm: complex, section_ohm: float, main_ohm: float = 50.0) -> tuple[SeriesSection, ...]:
    """A section of another line put into the main line: both solutions, the shorter one first.

    Args:
        load_ohm: finite, resistance above zero.
        section_ohm: of the section put in; other than the main line's.
        main_ohm: of the line itself.

    Raises:
        NotMatchableError: this section cannot reach the main line from this load.

    Source:
        Regier, "Series-section transmission-line impedance matching", QST, July 1978 (from memory).

    >>> [round(math.degrees(a), 3) for a in series_sections(100, 75)[0]]
    [14.963, 58.052]
    """
    require_finite("load_ohm", load_ohm)
    require_positive("section_ohm", section_ohm)
    require_positive("main_ohm", main_ohm)
    n, r, x = section_ohm / main_ohm, load_ohm.real / main_ohm, load_ohm.imag / main_ohm
    away = (r - 1) ** 2 + x * x
    room = r * (n - 1 / n) ** 2 - away
    if r <= 0 or room <= 0:
        raise NotMatchableError(
            f"a section of {section_ohm:.3g} Ω cannot bring {load_ohm.real:.3g} + j{load_ohm.imag:.3g} Ω"
            f" to {main_ohm:.3g} Ω",
            field="section_ohm",
            came_in=f"{section_ohm:.3g} Ω",
            accepted="a line farther from the main line's own impedance",
        )
    found = []
    for sign in (1, -1):
        t = sign * math.sqrt(away / room)
        main = math.atan2((n - r / n) * t + x, r + x * n * t - 1) % math.pi
        found.append(SeriesSection(main, math.atan(t) % math.pi))
    return tuple(sorted(found, key=sum))


def twelfth_wave_rad(first_ohm: float, second_ohm: float) -> float:
    """Length of each of two sections that join two lines: the second's own line first, then the first's.

    Source:
        Bramham, "A convenient transformer for matching coaxial lines", 1961 (from memory):
        tan² = B/(B² + B + 1), B = Z2/Z1.

    >>> round(math.degrees(twelfth_wave_rad(50, 75)), 3)
    29.334
    """
    require_positive("first_ohm", first_ohm)
    require_positive("second_ohm", second_ohm)
    ratio = second_ohm / first_ohm
    return math.atan(math.sqrt(ratio / (ratio * ratio + ratio + 1)))


def shunt_stubs(load_ohm: complex, line_ohm: float = 50.0) -> tuple[SingleStub, ...]:
    """A stub across the line at a distance from the load: both solutions.

    Raises:
        NotMatchableError: the load has no resistance to match.

    Source:
        Pozar, Microwave Engineering, 4th ed., §5.2, eqs. (5.9) to (5.11).
    """
    load = matchable(load_ohm)
    r, x = load.real, load.imag
    z0 = line_ohm
    if math.isclose(r, z0, rel_tol=1e-12):
        roots = [-x / (2 * z0)]
    else:
        root = math.sqrt(r * ((z0 - r) ** 2 + x * x) / z0)
        roots = [(x + sign * root) / (r - z0) for sign in (1, -1)]
    found = []
    for t in roots:
        b = (r * r * t - (z0 - x * t) * (x + z0 * t)) / (z0 * (r * r + (x + z0 * t) ** 2))
        found.append(_stub(t, -b * z0))
    return tuple(sorted(found))


def series_stubs(load_ohm: complex, line_ohm: float = 50.0) -> tuple[SingleStub, ...]:
    """A stub in series with the line at a distance from the load: both solutions.

    Raises:
        NotMatchableError: the load has no resistance to match.

    Source:
        Pozar, Microwave Engineering, 4th ed., §5.2, eqs. (5.14) to (5.16).
    """
    y = 1 / matchable(load_ohm)
    g, b, y0 = y.real, y.imag, 1 / line_ohm
    if math.isclose(g, y0, rel_tol=1e-12):
        roots = [-b / (2 * y0)]
    else:
        root = math.sqrt(g * ((y0 - g) ** 2 + b * b) / y0)
        roots = [(b + sign * root) / (g - y0) for sign in (1, -1)]
    found = []
    for t in roots:
        x = (g * g * t - (y0 - t * b) * (b + t * y0)) / (y0 * (g * g + (b + y0 * t) ** 2))
        wanted = -x / line_ohm
        # In series an open stub shows −j·cot, a shorted one j·tan.
        found.append(
            SingleStub(
                math.atan(t) % math.pi,
                math.atan2(1, -wanted) % math.pi,
                math.atan(wanted) % math.pi,
            )
        )
    return tuple(sorted(found))


def double_stubs(load_ohm: complex, apart_rad: float, line_ohm: float = 50.0) -> tuple[DoubleStub, ...]:
    """Two open stubs across the line, the first at the load, so far apart: both solutions.

    Raises:
        NotMatchableError: the load's conductance is beyond what stubs so far apart reach.

    Source:
        Pozar, Microwave Engineering, 4th ed., §5.3, eqs. (5.22) and (5.23).
    """
    y, y0, t = 1 / matchable(load_ohm), 1 / line_ohm, math.tan(apart_rad)
    g, b = y.real, y.imag
    square = (1 + t * t) * g * y0 - g * g * t * t
    if square < 0:
        raise NotMatchableError(
            "stubs so far apart cannot match this load",
            field="apart_rad",
            came_in=f"{apart_rad:.3g} rad",
            accepted="another distance between them",
        )
    found = []
    for sign in (1, -1):
        root = sign * math.sqrt(square)
        first = -b + (y0 + root) / t
        second = (y0 * root + g * y0) / (g * t)
        found.append(DoubleStub(math.atan(first / y0) % math.pi, math.atan(second / y0) % math.pi))
    return tuple(sorted(found))


def hairpin(resistance_ohm: float, source_ohm: float = 50.0) -> Hairpin:
    """The coil or hairpin across a feedpoint that brings a low resistance up, the antenna cut capacitive for it.

    Raises:
        NotMatchableError: the resistance is not below the source's.

    Source:
        The L network whose series arm is the antenna itself (Pozar, 4th ed., eq. (5.6)).

    >>> [round(ohm, 2) for ohm in hairpin(25)]
    [50.0, -25.0]
    """
    require_positive("resistance_ohm", resistance_ohm)
    if resistance_ohm >= source_ohm:
        raise NotMatchableError(
            f"a hairpin brings a resistance up, and {resistance_ohm:.3g} Ω is not below {source_ohm:.3g} Ω",
            field="resistance_ohm",
            came_in=f"{resistance_ohm:.3g} Ω",
            accepted=f"below {source_ohm:.3g} Ω",
        )
    rest = source_ohm - resistance_ohm
    return Hairpin(source_ohm * math.sqrt(resistance_ohm / rest), -math.sqrt(resistance_ohm * rest))


def _stub(t: float, wanted: float) -> SingleStub:
    """A stub across at tan(βd) = t that makes a susceptance, over the line's: open tan, shorted −cot."""
    return SingleStub(
        math.atan(t) % math.pi,
        math.atan(wanted) % math.pi,
        math.atan2(-1, wanted) % math.pi,
    )
