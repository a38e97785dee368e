"""Wound things as they are drawn: every line to scale, from where the turns lie."""

import math
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from yielding_coil.core.winding import Stroke, Winding

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


def picture_of(laid: Winding, rings: int) -> RingPicture:
    size = laid.ring.size
    return RingPicture(
        outer_m=size.outer_m,
        inner_m=size.inner_m,
        height_m=laid.ring.height_m,
        wire_m=laid.covered_m,
        twisted=laid.twisted,
        rings=rings,
        turns=[
            TurnOut(number=p.number, angle_deg=math.degrees(p.angle_rad), half=p.half, wires=list(p.wires))
            for p in laid.passes()
        ],
        strokes=[_stroke(s) for s in laid.strokes(TAIL_DRAWN * size.outer_m / 2)],
    )


def _stroke(stroke: Stroke) -> StrokeOut:
    return StrokeOut(
        wire=stroke.wire,
        kind=stroke.kind,
        number=stroke.number,
        points=[PlaceOut(x_m=x, y_m=y) for x, y in stroke.points],
    )
