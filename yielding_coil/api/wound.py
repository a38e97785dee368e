"""One wound thing as it is asked for and told: the same shape for coils, coils on rings, ununs and baluns."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import Numbers
from yielding_coil.api.pictures import Picture
from yielding_coil.api.warmth import HeatOut
from yielding_coil.store.content import DesignContent
from yielding_coil.store.payload import Hertz, NotNegative, Positive


class WindingAsked(BaseModel):
    """One wound element of a design, and over which frequencies to look at it."""

    content: DesignContent
    key: str
    power_w: Annotated[NotNegative, Field(le=1e5)] = 100.0
    low_hz: Hertz = 1.8e6
    high_hz: Hertz = 30e6
    # The resistor in place of the antenna on the bench; the fitting one when null.
    resistor_ohm: Positive | None = None


class TurnsOut(BaseModel):
    """Turns: passes through the hole beside full returns outside; both ratios; where tap and crossing come."""

    passes: float
    returns: int
    primary: int | None
    secondary: int | None
    turns_ratio: float | None
    impedance_ratio: float | None
    in_hand: int
    tap_after: float | None
    crosses_after: int | None


class CutOut(BaseModel):
    """What to cut of one wire, metres; `tails_m` are both together."""

    wire: str
    cut_m: float
    winding_m: float
    turn_m: float
    tails_m: float


class BoxFit(BaseModel):
    """Whether the wound thing goes into a box or a tube."""

    key: str
    name: str
    fits: bool


class FitOut(BaseModel):
    """How it fits: turns that the hole or former takes, what stays free of the hole, and boxes."""

    most_turns: int
    free_deg: float | None
    outer_m: float
    height_m: float
    boxes: list[BoxFit]


class WireEnd(BaseModel):
    """An end of a wire, or its tap."""

    wire: str
    end: str


class JoinOut(BaseModel):
    """Where ends meet; `at` is empty for a joint that goes nowhere else."""

    at: str
    ends: list[WireEnd]


class BenchOut(BaseModel):
    """The sweep to expect on the bench: SWR with a resistor in place of the antenna, or inductance alone.

    Nineteen builds in twenty lie between `low` and `high`.
    """

    what: Literal["swr", "inductance"]
    resistor_ohm: float | None
    frequency_hz: list[float]
    value: Numbers
    low: Numbers
    high: Numbers


class SeenOut(BaseModel):
    """What it is over frequency: impedance of the core's turns or the coil, and its loss in the design."""

    frequency_hz: list[float]
    resistance_ohm: Numbers
    reactance_ohm: Numbers
    inductance_h: Numbers
    q: Numbers
    loss_db: Numbers


class StretchOut(BaseModel):
    """What spreading and squeezing an air coil reaches, by its readings."""

    low_h: float
    high_h: float
    low_pitch_m: float
    high_pitch_m: float


class MadeOf(BaseModel):
    """Core and wire it is made of, as its table or the drawer has them, with the note to read."""

    mix: str | None
    size: str | None
    stack: int | None
    wire: str
    wire_m: float
    covered_m: float
    tolerance: float
    note: str


class WindingOut(BaseModel):
    """Everything about one wound thing."""

    kind: Literal["coil", "ring_coil", "transformer"]
    key: str
    wiring: str | None
    made_of: MadeOf
    turns: TurnsOut
    cuts: list[CutOut]
    fit: FitOut
    joins: list[JoinOut]
    picture: Picture
    seen: SeenOut
    bench: BenchOut
    heat: list[HeatOut]
    stretch: StretchOut | None
    findings: list[Finding]
