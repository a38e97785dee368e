"""How long to cut: schools side by side, each with its doubt; linked wires, what fits, and scaling.

The rules themselves are rows of a table; what is here turns a row and a frequency into lengths.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire.forms import WireForm

# Antennas, and what goes with them.
Form = WireForm | Literal["section", "radial", "counterpoise"]
Arrangement = Literal["linked", "nested"]

# Velocity on a wire in the air: bare, and 2 to 4 % less under a plastic covering
# (J. H. Richmond & E. H. Newman, Radio Science 11, 1976; bare 0.95, common practice).
BARE_VELOCITY, COVERED_VELOCITY = 0.95, 0.92
# What to cut more than the rule says, for folding back and fixing, as a share of a leg (common practice: 3 to 6 %).
USUAL_ADDED = 0.045
# Wires side by side shift each other: so much more doubt either way (common practice).
NEIGHBOUR_DOUBT = 0.02
# Rope and insulators between the wire and its supports, each end; a pole is shorter than its name.
ROPE_M, POLE_LOSS_M = 0.3, 0.2


@dataclass(frozen=True, slots=True)
class Rule:
    """One school: metre_hz over the frequency is the whole piece, which may stray by low down and high up."""

    key: str
    form: Form
    school: str
    metre_hz: float
    velocity: Literal["wire", "cable"] | None
    low: float
    high: float
    source: str
    corners: int | None = None

    def length(self, frequency_hz: float, velocity_factor: float = 1.0, velocity_spread: float = 0.0) -> "Length":
        """The whole piece at a frequency.

        Args:
            frequency_hz: above zero.
            velocity_factor: of the wire or the cable; counts where the rule takes one.
            velocity_spread: how far that may stray, relative.

        Raises:
            OutOfDomainError: a frequency or a velocity factor not above zero.

        >>> section = Rule("s", "section", "", 74948114.5, "cable", 0.0, 0.0, "")
        >>> round(section.length(28.51e6, 0.66).length_m, 3)
        1.735
        """
        require_positive("frequency_hz", frequency_hz)
        require_positive("velocity_factor", velocity_factor)
        if velocity_factor > 1:
            raise OutOfDomainError("velocity_factor", velocity_factor, "at most 1")
        counts = self.velocity is not None
        whole = self.metre_hz / frequency_hz * (velocity_factor if counts else 1.0)
        spread = velocity_spread if counts else 0.0
        return Length(whole, whole * (1 - self.low - spread), whole * (1 + self.high + spread))


@dataclass(frozen=True, slots=True)
class Length:
    """A length and how far it may stray, in metres."""

    length_m: float
    low_m: float
    high_m: float

    def over(self, parts: int) -> "Length":
        """One of so many equal parts."""
        return Length(self.length_m / parts, self.low_m / parts, self.high_m / parts)

    def doubted(self, more: float) -> "Length":
        """The same with more doubt either way, relative."""
        return Length(self.length_m, self.low_m - more * self.length_m, self.high_m + more * self.length_m)


def segments(reach_m: Sequence[float], arrangement: Arrangement) -> list[float]:
    """Each wire's own piece, highest band first.

    Args:
        reach_m: from the feedpoint to where each band ends, rising.
        arrangement: linked, one wire end to end with a link between bands; or nested, a wire of its own each.

    Raises:
        OutOfDomainError: not rising, or not above zero.

    >>> [round(s, 2) for s in segments([2.86, 3.36], "linked")]
    [2.86, 0.5]
    """
    previous = 0.0
    out = []
    for reach in reach_m:
        require_positive("reach_m", reach)
        if reach <= previous:
            raise OutOfDomainError("reach_m", f"{reach:.3f} m after {previous:.3f} m", "longer from band to band")
        out.append(reach - previous if arrangement == "linked" else reach)
        previous = reach
    return out


def scaled(length_m: float, proven_hz: float, wanted_hz: float) -> float:
    """A length of a proven design at another frequency: every length goes with the wave.

    Raises:
        OutOfDomainError: a length or a frequency not above zero.

    >>> round(scaled(7.32, 9.82e6, 10.12e6), 3)
    7.103
    """
    require_positive("length_m", length_m)
    require_positive("proven_hz", proven_hz)
    require_positive("wanted_hz", wanted_hz)
    return length_m * proven_hz / wanted_hz


@dataclass(frozen=True, slots=True)
class Shape:
    """A way to hang a wire: what it needs, as a share of the whole length its rule gives."""

    key: str
    label: str
    form: Form
    needs: Literal["span", "pole"]
    share: float


SHAPES: tuple[Shape, ...] = (
    Shape("flat", "half-wave dipole, straight", "dipole", "span", 1.0),
    # Legs at 45° below the level reach cos 45° of their length to either side.
    Shape("inverted-v", "half-wave dipole, legs drooping 45°", "dipole", "span", 0.707),
    Shape("square", "full-wave loop, square", "loop", "span", 0.25),
    Shape("triangle", "full-wave loop, triangle with its base level", "loop", "span", 1 / 3),
    Shape("vertical", "quarter-wave vertical", "vertical", "pole", 1.0),
    Shape("five-eighths", "five-eighths vertical", "five-eighths", "pole", 1.0),
)


def room(needs: Literal["span", "pole"], available_m: float) -> float:
    """How much wire a span between supports or a pole holds, in metres; zero where nothing fits."""
    require_positive("available_m", available_m)
    taken = 2 * ROPE_M if needs == "span" else POLE_LOSS_M
    return max(0.0, available_m - taken)


@dataclass(frozen=True, slots=True)
class Fitting:
    """A band in a shape: what it needs, and what is left of the room (below zero: what is missing)."""

    label: str
    needs_m: float
    left_m: float


@dataclass(frozen=True, slots=True)
class ShapeFit:
    """A shape of antenna: the lowest band that fits, and the next one that does not."""

    shape: Shape
    room_m: float
    lowest: Fitting | None
    next: Fitting | None


def what_fits(
    bands: Sequence[tuple[str, float]], rules: Sequence[Rule], span_m: float | None, pole_m: float | None
) -> list[ShapeFit]:
    """The lowest band of each shape for a span, a pole, or both.

    Args:
        bands: label and the frequency in its middle, lowest first.
        rules: the table of schools, of which each shape takes its form's first.
        span_m, pole_m: what there is to hang it on; None where there is none.

    Raises:
        OutOfDomainError: neither of them, or one not above zero.
    """
    if span_m is None and pole_m is None:
        raise OutOfDomainError("span_m", "neither a span nor a pole", "one of them")
    out = []
    for shape in SHAPES:
        available = span_m if shape.needs == "span" else pole_m
        if available is None:
            continue
        rule = next(r for r in rules if r.form == shape.form)
        there = room(shape.needs, available)
        fitting = []
        for label, middle_hz in bands:
            needs = shape.share * rule.length(middle_hz).length_m
            fitting.append(Fitting(label, needs, there - needs))
        fits = [f for f in fitting if f.left_m >= 0]
        tight = [f for f in fitting if f.left_m < 0]
        out.append(ShapeFit(shape, there, fits[0] if fits else None, tight[-1] if tight else None))
    return out
