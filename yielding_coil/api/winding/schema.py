"""One wound thing as it is asked for and told: the same shape for coils, coils on rings, ununs and baluns."""

import math
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, Field

from yielding_coil.api.http import Figure, Frequencies, Numbers, WindingFinding
from yielding_coil.core.winding import CoilView, RingView, Stroke, WindingReport
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.fields import Hertz, NotNegative, Positive

# Of the ring's radius, what is drawn of a tail.
TAIL_DRAWN = 0.2


class PlaceOut(BaseModel):
    """A place on the picture, metres from the ring's middle, x to the right, y up."""

    x_m: float
    y_m: float


class StrokeOut(BaseModel):
    """A line of the picture."""

    wire: str
    kind: Literal["turn", "cross", "tail"]
    number: int
    points: list[PlaceOut]


class TurnOut(BaseModel):
    """A turn as it is counted: where it goes through the hole, and with which wires."""

    number: int
    angle_deg: float
    half: int
    wires: list[str]


class RingPicture(BaseModel):
    """The wound ring from the front, to scale."""

    kind: Literal["ring"] = "ring"
    outer_m: float
    inner_m: float
    height_m: float
    wire_m: float
    twisted: bool
    rings: int
    turns: list[TurnOut]
    strokes: list[StrokeOut]


class CoilPicture(BaseModel):
    """The coil on its former from the side, to scale."""

    kind: Literal["coil"] = "coil"
    former_m: float
    length_m: float
    pitch_m: float
    wire_m: float
    turns: float
    tap_turns: float | None


Picture = Annotated[RingPicture | CoilPicture, Field(discriminator="kind")]


def picture_of(view: RingView) -> RingPicture:
    """A wound ring, every line to scale."""
    layout, rings = view.layout, view.rings
    size = layout.ring.size
    return RingPicture(
        outer_m=size.outer_m,
        inner_m=size.inner_m,
        height_m=layout.ring.height_m,
        wire_m=layout.covered_m,
        twisted=layout.twisted,
        rings=rings,
        turns=[
            TurnOut(number=p.number, angle_deg=math.degrees(p.angle_rad), half=p.half, wires=list(p.wires))
            for p in layout.passes()
        ],
        strokes=[_stroke(s) for s in layout.strokes(TAIL_DRAWN * size.outer_m / 2)],
    )


def _picture(view: Any) -> Any:
    if isinstance(view, RingView):
        return picture_of(view)
    return CoilPicture.model_validate(view, from_attributes=True) if isinstance(view, CoilView) else view


def _stroke(stroke: Stroke) -> StrokeOut:
    return StrokeOut(
        wire=stroke.wire,
        kind=stroke.kind,
        number=stroke.number,
        points=[PlaceOut(x_m=x, y_m=y) for x, y in stroke.points],
    )


class TemperatureRise(BaseModel):
    """How warm it gets in one mode at the power set, how soon, and the power that keeps it within 40 °C."""

    mode: str
    duty: float
    rise_c: float
    settles_s: float | None
    highest_power_w: float | None
    verdict: Literal["cool", "warm", "hot"]


class HeatOut(BaseModel):
    """On one target, at its worst place and full power: what goes where, flux, voltage, and heat by mode."""

    label: str
    at_hz: float
    core_w: float
    copper_w: float
    loss_db: float
    flux_t: Figure
    flux_guide_t: Figure
    # The worst SWR below it on this target, and its limit there.
    swr: Figure
    swr_limit: float
    voltage_v: Figure
    current_a: Figure
    rises: list[TemperatureRise]


class WindingIn(BaseModel):
    """One wound element of a design, and over which frequencies to look at it."""

    content: DesignContent
    key: str
    power_w: Annotated[NotNegative, Field(le=1e5)] = 100.0
    low_hz: Hertz = 1.8e6
    high_hz: Hertz = 30e6
    # The resistor in place of the antenna on the bench; what the design carries, or what fits, when null.
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
    """What to cut of one wire, metres; `tails_m` are both together, `spare_turns` are taken off again."""

    wire: str
    cut_m: float
    winding_m: float
    turn_m: float
    tails_m: float
    spare_turns: int = 0


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


def _ends(ends: Any) -> Any:
    return [WireEnd(wire=end[0], end=end[1]) if isinstance(end, tuple) else end for end in ends]


class WireEnd(BaseModel):
    """An end of a wire, or its tap."""

    wire: str
    end: str


class JoinOut(BaseModel):
    """Where ends meet; `at` is empty for a joint that goes nowhere else."""

    at: str
    ends: Annotated[list[WireEnd], BeforeValidator(_ends)]


class AcrossOut(BaseModel):
    """A capacitor between two terminals; variable where its lowest and highest differ."""

    between: list[str]
    low_f: float
    high_f: float


class BenchOut(BaseModel):
    """The sweep to expect on the bench: SWR on a resistor in place of the antenna; alone, inductance or resistance.

    Nineteen builds in twenty lie between `low` and `high`.
    """

    what: Literal["swr", "inductance", "resistance"]
    resistor_ohm: float | None
    frequency_hz: Frequencies
    value: Numbers
    low: Numbers
    high: Numbers


class SeenOut(BaseModel):
    """What it is over frequency: impedance of the core's turns or the coil, and its loss in the design."""

    frequency_hz: Frequencies
    resistance_ohm: Numbers
    reactance_ohm: Numbers
    inductance_h: Numbers
    q: Numbers
    loss_db: Numbers


class CoilAdjustmentRange(BaseModel):
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
    # Whether its core, or the coil itself, is known by a sweep of one's own.
    measured: bool = False


class RatedOut(BaseModel):
    """A choke on one band, at its worst place: series R and X there, and what that is good for."""

    label: str
    at_hz: float
    resistance_ohm: float
    reactance_ohm: float
    rating: Literal["too little", "reactive", "enough", "good", "awkward places"]
    # With the current that is known on the outside, effective: mean watts at full power, peak volts.
    loss_w: float | None
    voltage_v: float | None
    # The current that keeps it within 40 °C in speech.
    highest_a: float | None


class ChokeOut(BaseModel):
    """A choke: its bands, the line it takes, and how tightly that is bent.

    A pair of wires bends as it likes; as a line it has an impedance of its own, which coax has by its table.
    """

    bands: list[RatedOut]
    length_m: float
    bend_m: float | None
    pair_ohm: float | None


class BorneOut(BaseModel):
    """One trap on one band at full power: what it acts as, its loss, peaks of voltage and current."""

    label: str
    at_hz: float
    acts_as_h: float
    reactance_ohm: float
    resistance_ohm: float
    loss_w: float
    lost_share: float
    voltage_v: float
    current_a: float


class SchoolOut(BaseModel):
    """The same trap tuned elsewhere: what the wire gets, and what the trap bears at worst."""

    name: Literal["in the band", "just below it"]
    tuned_hz: float
    inner_m: float | None
    outer_m: float | None
    loss_w: float | None
    voltage_v: float | None
    # The lower band's share lost in all traps.
    lower_share: float | None


class CurveOut(BaseModel):
    """A curve over frequency."""

    frequency_hz: Frequencies
    value: Numbers


class TrapOut(BaseModel):
    """A trap: its values, its leg by the line estimate, what it bears, the two schools, how to check it."""

    inductance_h: float
    capacitance_f: float
    q: float
    resonance_hz: float
    housed_hz: float
    inner_m: float
    outer_m: float
    coax_m: float | None
    bands: list[BorneOut]
    schools: list[SchoolOut]
    # Through a link turn: return loss in dB, with its dip; across the port: R and X.
    link: CurveOut
    resistance_ohm: CurveOut
    reactance_ohm: CurveOut
    # SWR across the port never falls below this.
    port_swr: Figure


class SettingOut(BaseModel):
    """The variable capacitor on one band, and what the radio sees there."""

    label: str
    at_hz: float
    capacitance_f: float
    within: bool
    swr: Figure
    edge_swr: Figure
    resistance_ohm: float
    reactance_ohm: float
    squeezed_reactance_ohm: float
    apart_reactance_ohm: float
    voltage_v: Figure


class CouplerOut(BaseModel):
    """A tuned coupler: where its capacitor tunes it, and its setting on every band."""

    low_hz: float
    high_hz: float
    settings: list[SettingOut]


class BenchSetupOut(BaseModel):
    """A way to sweep it on the bench; the resistor is null where none is put on."""

    key: str
    resistor_ohm: float | None
    link_turns: int | None


class WindingOut(BaseModel):
    """Everything about one wound thing."""

    kind: Literal["coil", "ring_coil", "transformer", "choke", "trap"]
    key: str
    wiring: str | None
    made_of: MadeOf
    turns: TurnsOut
    cuts: list[CutOut]
    fit: FitOut
    joins: list[JoinOut]
    across: list[AcrossOut]
    picture: Annotated[Picture, BeforeValidator(_picture)]
    seen: SeenOut
    bench: BenchOut
    heat: list[HeatOut]
    stretch: CoilAdjustmentRange | None
    findings: list[WindingFinding]
    choke: ChokeOut | None = None
    trap: TrapOut | None = None
    coupler: CouplerOut | None = None
    setups: list[BenchSetupOut] = []

    @classmethod
    def of(cls, report: WindingReport, setups: list[BenchSetupOut]) -> "WindingOut":
        """From what the core tells."""
        return cls.model_validate(report, from_attributes=True).model_copy(update={"setups": setups})
