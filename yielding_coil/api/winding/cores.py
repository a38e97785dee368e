"""Which core for a transformer of a design, and which capacitor across its input."""

from dataclasses import replace
from typing import Annotated
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.http import Figure, InTransaction, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.design import Design
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.ring import Ring
from yielding_coil.core.winding import (
    STACKS,
    RatedCore,
    WoundTransformer,
    choose_core,
    choose_input_capacitor,
    is_present,
)
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.piece import CorePiece
from yielding_coil.store import pieces as piece_queries

router = router_of("winding")


class UnunIn(BaseModel):
    """The transformer of a design."""

    content: DesignContent
    key: str


class CoresIn(UnunIn):
    """The transformer for which cores are judged, at what power and mode; the drawer's own alone if asked."""

    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    mode: str = "speech"
    own_only: bool = False


class CoreOut(BaseModel):
    """One core with one pair of turns, at its best capacitor across the input of those tried."""

    mix: str
    size: str
    stack: int
    al_h: float | None
    piece_id: UUID | None
    piece_name: str | None
    primary_turns: int
    secondary_turns: int
    input_capacitance_f: float
    worst_swr: Figure
    holds: bool
    worst_loss_db: float
    rise_c: float
    highest_power_w: float | None
    fits: bool
    # It fits, holds every target, and stays cool.
    good: bool
    # Its wire is no longer short beside a wave.
    long: bool = False
    here: bool


class CoresOut(BaseModel):
    """Every core with its best pair of turns, the most useful first; how many pairs were judged, and how many
    mixes were left out for want of loss data.
    """

    judged: int
    without_loss_data: int
    # Mixes whose data end below the highest target: nobody can rank them there.
    ends_too_low: list[str] = []
    cores: list[CoreOut]


class CapacitorOut(BaseModel):
    """The capacitor across the input that holds the targets best, and the worst SWR without and with it."""

    capacitance_f: float
    worst_without: Figure
    worst_with: Figure


Owned = dict[Ring, tuple[UUID, str] | None]


def _transformer(design: Design, key: str) -> WoundTransformer:
    some = [e for e in design.elements if isinstance(e, WoundTransformer)]
    found = next((e for e in some if e.key == key), None)
    if found is None:
        raise NotFoundError(
            f"there is no unun or balun “{key}” in this design",
            field="key",
            came_in=key,
            accepted=", ".join(e.key for e in some),
        )
    return found


def _rings(session: Session, own_only: bool) -> Owned:
    """Rings of the drawer, as many on top of each other as lie there; then those of the trade."""
    rings: Owned = {}
    for piece in piece_queries.pieces(session, "core"):
        held = piece_queries.piece_of(piece)
        if isinstance(held, CorePiece):
            for stack in STACKS[: held.count]:
                rings[replace(held.values.to_core().ring, stack=stack)] = (piece.id, piece.name)
    if not own_only:
        for ring in data.trade_rings(STACKS[:2]):
            rings.setdefault(ring, None)
    return rings


@router.post("/cores")
def which_core(request: Request, session: InTransaction, asked: CoresIn) -> CoresOut:
    """Every ring, mix and pair of turns judged for the transformer of a design."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    element = _transformer(design, asked.key)
    rings = _rings(session, asked.own_only)
    duty = data.MODE_DUTY.get(asked.mode, 1.0)
    found = choose_core(element, design.system(), design.targets, rings, asked.power_w, duty)
    return CoresOut(
        judged=found.judged,
        without_loss_data=sum(not m.loss_known for m in data.ring_materials().values()),
        ends_too_low=sorted({ring.material.mix for ring in found.unknown}),
        cores=[_core_out(j, rings[j.ring], is_present(element, j)) for j in found.rows],
    )


def _core_out(judged: RatedCore, own: tuple[UUID, str] | None, here: bool) -> CoreOut:
    ring = judged.ring
    return CoreOut(
        mix=ring.material.mix,
        size=ring.size.name,
        stack=ring.stack,
        al_h=ring.al_h,
        piece_id=own[0] if own else None,
        piece_name=own[1] if own else None,
        primary_turns=judged.primary_turns,
        secondary_turns=judged.secondary_turns,
        input_capacitance_f=judged.input_capacitance_f,
        worst_swr=judged.worst_swr,
        holds=judged.holds,
        worst_loss_db=judged.worst_loss_db,
        rise_c=judged.rise_c,
        highest_power_w=judged.highest_power_w,
        fits=judged.fits,
        long=judged.long,
        good=judged.good,
        here=here,
    )


@router.post("/cores/capacitor")
def which_capacitor(request: Request, asked: UnunIn) -> CapacitorOut:
    """The capacitor across the input by optimisation over the targets."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    found = choose_input_capacitor(_transformer(design, asked.key), design.system(), design.targets)
    return CapacitorOut.model_validate(found, from_attributes=True)
