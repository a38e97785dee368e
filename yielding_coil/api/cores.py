"""Which core for a transformer of a design, and which capacitor across its input."""

from dataclasses import replace
from typing import Annotated
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.numbers import number
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.matching import worst_over
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.target import judged_at
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import Judged, Task, input_capacitance, judge, turn_pairs
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.piece import CorePiece
from yielding_coil.documents.ring_wound import WoundTransformer
from yielding_coil.store import pieces as piece_queries

router = APIRouter(prefix="/api", tags=["cores"], responses=RESPONSES)

STACKS = (1, 2, 3)


class UnunAsked(BaseModel):
    """The transformer of a design."""

    content: DesignContent
    key: str


class CoresAsked(UnunAsked):
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
    worst_swr: float | None
    holds: bool
    worst_loss_db: float
    rise_c: float
    highest_power_w: float | None
    fits: bool
    here: bool


class CoresOut(BaseModel):
    """Every core with its best pair of turns, the most useful first; how many pairs were judged, and how many
    mixes were left out for want of loss data.
    """

    judged: int
    without_loss_data: int
    cores: list[CoreOut]


class CapacitorOut(BaseModel):
    """The capacitor across the input that holds the targets best, and the worst SWR without and with it."""

    capacitance_f: float
    worst_without: float | None
    worst_with: float | None


def _wound(asked: UnunAsked) -> WoundTransformer:
    found = next((e for e in asked.content.elements if e.key == asked.key), None)
    if not isinstance(found, WoundTransformer):
        raise NotFoundError(
            f"there is no unun or balun “{asked.key}” in this design",
            field="key",
            came_in=asked.key,
            accepted=", ".join(e.key for e in asked.content.elements if isinstance(e, WoundTransformer)),
        )
    return found


def _above(request: Request, asked: UnunAsked, element: WoundTransformer) -> Antenna:
    """What hangs on the transformer: the antenna, and whatever stands between."""
    content = asked.content
    above = content.elements[: content.elements.index(element)]
    system = content.model_copy(update={"elements": above}).system(antenna_of(request, content))
    return system.antenna if not above else _Seen(system)


def _arriving_w(request: Request, asked: CoresAsked, element: WoundTransformer) -> float:
    """The most that comes up to the transformer on any target, below it whatever the line keeps."""
    content = asked.content
    system = content.system(antenna_of(request, content))
    frequency, _ = judged_at(content.core_targets(), 5)
    station = system.stations(frequency, asked.power_w)[content.elements.index(element) + 1]
    return float(np.nanmax(station.power_w, initial=0.0)) or asked.power_w


class _Seen:
    """A cascade as an antenna."""

    def __init__(self, system: System) -> None:
        self._system = system

    def impedance_at(self, frequency_hz: float | np.ndarray) -> np.ndarray:
        return self._system.impedance(frequency_hz)


@router.post("/cores")
def which_core(request: Request, session: InTransaction, asked: CoresAsked) -> CoresOut:
    """Every ring, mix and pair of turns judged for the transformer of a design."""
    element = _wound(asked)
    content = asked.content
    row = element.wire_row
    plan = element.to_core(content.center_hz)
    rings: dict[Ring, tuple[UUID, str] | None] = {}
    for piece in piece_queries.pieces(session, "core"):
        held = piece_queries.held(piece)
        if isinstance(held, CorePiece):
            for stack in STACKS[: held.count]:
                rings[replace(held.values.ring, stack=stack)] = (piece.id, piece.name)
    unknown = 0
    for material in data.ring_materials().values():
        if not material.points and not material.q_points:
            unknown += 1
        elif not asked.own_only:
            for size in data.ring_sizes().values():
                if data.family_of(size) == material.kind:
                    for stack in STACKS[:2]:
                        rings.setdefault(Ring(material, size, stack), None)
    judged_rings = [r for r in rings if r.material.points or r.material.q_points]
    task = Task(
        antenna=_above(request, asked, element),
        targets=content.core_targets(),
        power_w=_arriving_w(request, asked, element),
        duty=data.MODE_DUTY.get(asked.mode, 1.0),
        plan=plan,
        covered_m=row.covered_m,
        together=element.way.in_hand,
    )
    if element.way.in_hand > 1:
        pairs = [(m, element.way.secondary_turns(m, m)) for m in range(2, 13)]
    else:
        pairs = turn_pairs(element.secondary / element.primary_turns)
    found = judge(judged_rings, pairs, task) if judged_rings else []
    here = (element.core.mix, element.core.size, element.core.stack, element.primary_turns, element.secondary)
    # The best pair of turns for each ring, and the one that is in the design.
    best: dict[Ring, Judged] = {}
    for judged in found:
        best.setdefault(judged.ring, judged)
    rows = [_core_out(j, rings[j.ring], here) for j in best.values()]
    if not any(r.here for r in rows):
        present = (_core_out(j, rings[j.ring], here) for j in found)
        rows += [r for r in present if r.here][:1]
    return CoresOut(judged=len(found), without_loss_data=unknown, cores=rows)


def _core_out(judged: Judged, own: tuple[UUID, str] | None, here: tuple[str, str, int, int, int]) -> CoreOut:
    ring = judged.ring
    this = (ring.material.mix, ring.size.name, ring.stack, judged.primary_turns, judged.secondary_turns)
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
        worst_swr=number(judged.worst_swr),
        holds=judged.reach <= 1,
        worst_loss_db=judged.worst_loss_db,
        rise_c=judged.rise_c,
        highest_power_w=judged.highest_power_w,
        fits=judged.fits,
        here=this == here,
    )


@router.post("/cores/capacitor")
def which_capacitor(request: Request, asked: UnunAsked) -> CapacitorOut:
    """The capacitor across the input by optimisation over the targets."""
    element = _wound(asked)
    above = _above(request, asked, element)
    targets = asked.content.core_targets()
    bare = replace(element.to_core(asked.content.center_hz), input_capacitance_f=0.0)
    best = input_capacitance(bare, above, targets)
    return CapacitorOut(
        capacitance_f=best,
        worst_without=_worst(element.key, bare, above, asked.content),
        worst_with=_worst(element.key, replace(bare, input_capacitance_f=best), above, asked.content),
    )


def _worst(key: str, wound: Transformer, above: Antenna, content: DesignContent) -> float | None:
    return number(max(worst_over(System(above, [Element(key, "through", wound)]), content.core_targets())))
