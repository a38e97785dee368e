"""What is wound for a design: the same shape of answer for coils, coils on rings, ununs and baluns."""

import math
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.laid import goes_in
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.reports import report_of
from yielding_coil.api.session import InTransaction
from yielding_coil.api.wound import BoxFit, WindingAsked, WindingOut
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import Hertz
from yielding_coil.documents.piece import BoxPiece
from yielding_coil.documents.ring_wound import CoilOnRing, RingCore
from yielding_coil.store.pieces import held, pieces

router = APIRouter(prefix="/api", tags=["windings"], responses=RESPONSES)


class OtherWayAsked(BaseModel):
    """A coil on air or on a ring, and where its inductance counts; which ring, when it goes onto one."""

    element: Annotated[Coil | CoilOnRing, Field(discriminator="kind")]
    center_hz: Hertz
    mix: str = "2"
    size: str = "T68"


class OtherWay(BaseModel):
    """The same coil wound the other way."""

    element: Annotated[Coil | CoilOnRing, Field(discriminator="kind")]


@router.post("/windings/other-way")
def wind_other_way(asked: OtherWayAsked) -> OtherWay:
    """A coil on air as one on a ring, in whole turns, or the other way round, of the same inductance."""
    coil = asked.element
    if isinstance(coil, Coil):
        wound = CoilOnRing(
            key=coil.key,
            place=coil.place,
            turns=1,
            core=RingCore(mix=asked.mix, size=asked.size),
            wire="cu-0.5",
        )
        # A coil in the match is what is read of it; its own capacitance adds to the turns' share.
        bare = 1 / (1 / coil.inductance_h + (2 * math.pi * asked.center_hz) ** 2 * wound.winding_capacitance_f)
        turns = wound.turns_for(bare)
        return OtherWay(element=wound.model_copy(update={"turns": turns}))
    reads = coil.to_core(asked.center_hz).reading_h(asked.center_hz)
    if reads <= 0:
        raise OutOfDomainError("center_hz", f"{asked.center_hz / 1e6:g} MHz", "below the coil's own resonance")
    return OtherWay(element=Coil(key=coil.key, place=coil.place, inductance_h=reads, former_m=0.032, wire="cu-1.6"))


@router.post("/windings")
def winding(request: Request, session: InTransaction, asked: WindingAsked) -> WindingOut:
    """Everything about one wound element of a design; nothing is stored."""
    found = report_of(asked, antenna_of(request, asked.content))
    for row in pieces(session, "box"):
        piece = held(row)
        if isinstance(piece, BoxPiece):
            v = piece.values
            fits = goes_in(found.fit.outer_m, found.fit.height_m, v.width_m, v.height_m, v.depth_m)
            found.fit.boxes.insert(0, BoxFit(key=str(row.id), name=piece.name, fits=fits))
    return found
