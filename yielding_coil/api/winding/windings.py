"""What is wound for a design: the same shape of answer for coils, coils on rings, ununs, baluns, chokes, traps."""

from typing import Annotated

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.api.winding.schema import BenchSetupOut, WindingIn, WindingOut
from yielding_coil.core.bench import setups_of, shown_resistor_ohm
from yielding_coil.core.winding import AnyWinding, WindingReport, reading_like, turns_like
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import Hertz
from yielding_coil.documents.piece import BoxPiece
from yielding_coil.documents.ring_wound import CoilOnRing, RingCore
from yielding_coil.store.pieces import piece_of, pieces

router = router_of("winding")


class OtherWayIn(BaseModel):
    """A coil on air or on a ring, and where its inductance counts; which ring, when it goes onto one."""

    element: Annotated[Coil | CoilOnRing, Field(discriminator="kind")]
    center_hz: Hertz
    mix: str = "2"
    size: str = "T68"


class OtherWay(BaseModel):
    """The same coil wound the other way."""

    element: Annotated[Coil | CoilOnRing, Field(discriminator="kind")]


@router.post("/windings/other-way")
def wind_other_way(asked: OtherWayIn) -> OtherWay:
    """A coil on air as one on a ring, in whole turns, or the other way round, of the same inductance."""
    coil, at = asked.element, asked.center_hz
    if isinstance(coil, Coil):
        ring = RingCore(mix=asked.mix, size=asked.size)
        wound = CoilOnRing(key=coil.key, place=coil.place, turns=1, core=ring, wire="cu-0.5")
        turns = turns_like(coil.to_core(), wound.to_core(), at)
        return OtherWay(element=wound.model_copy(update={"turns": turns}))
    reads = reading_like(coil.to_core(), at)
    return OtherWay(element=Coil(key=coil.key, place=coil.place, inductance_h=reads, former_m=0.032, wire="cu-1.6"))


@router.post("/windings")
def winding(request: Request, session: InTransaction, asked: WindingIn) -> WindingOut:
    """Everything about one wound element of a design; nothing is stored."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    element = design.wound(asked.key)
    resistor_ohm = asked.resistor_ohm or design.carried_ohm(asked.key)
    task = design.winding_task(
        asked.power_w,
        data.MODE_DUTY,
        key=asked.key,
        low_hz=asked.low_hz,
        high_hz=asked.high_hz,
        resistor_ohm=resistor_ohm,
        boxes=boxes_for(session),
    )
    return winding_out(element, element.report(task), resistor_ohm)


def winding_out(element: AnyWinding, report: WindingReport, resistor_ohm: float | None) -> WindingOut:
    """As it travels, with the ways to sweep it on the bench."""
    setups = [
        BenchSetupOut(key=s.key, resistor_ohm=shown_resistor_ohm(s), link_turns=s.link_turns)
        for s in setups_of(element, resistor_ohm)
    ]
    return WindingOut.of(report, setups)


def boxes_for(session: Session) -> list[data.BoxRow]:
    """One's own boxes, the latest first, and the trade's."""
    own = [(row, piece_of(row)) for row in pieces(session, "box")]
    mine = [
        data.BoxRow(str(row.id), piece.name, **piece.values.model_dump(), source="drawer")
        for row, piece in reversed(own)
        if isinstance(piece, BoxPiece)
    ]
    return [*mine, *data.boxes().values()]
