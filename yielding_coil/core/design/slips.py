"""Slips that hands make: a turn too many or too few, a piece cut short."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal

from yielding_coil.core.design.design import CoaxCapacitor
from yielding_coil.core.element import DesignElement
from yielding_coil.core.winding import AirCoil, CoilOnRing, WoundTransformer

SlipKind = Literal["turns", "primary_turns", "secondary_turns", "length"]
# Cut beside the mark by as much as a knife slips (common practice).
CUT_M = 0.005


@dataclass(frozen=True, slots=True)
class Slip:
    """One part made otherwise than planned.

    Args:
        key: of the part; what: that slipped.
        by: how much more than planned, in turns or metres.
        element: the part as it then is.
    """

    key: str
    what: SlipKind
    by: float
    element: DesignElement


def slips_of(element: DesignElement, center_hz: float) -> tuple[Slip, ...]:
    """What may have slipped in making a part; nothing for one that is bought."""
    return tuple(Slip(element.key, what, by, other) for what, by, other in _one_off(element, center_hz))


def _one_off(element: DesignElement, center_hz: float) -> Iterator[tuple[SlipKind, float, DesignElement]]:
    make = next((way for kind, way in _WAYS.items() if isinstance(element, kind)), None)
    if make is not None:
        yield from make(element, center_hz)


def _coil(coil: AirCoil, center_hz: float) -> Iterator[tuple[SlipKind, float, DesignElement]]:
    turns = coil.exact_turns(center_hz)
    for by in (-1.0, 1.0):
        if turns + by >= 1:
            yield "turns", by, replace(coil, inductance_h=coil.mark(center_hz, turns + by).value)


def _coax(piece: CoaxCapacitor, center_hz: float) -> Iterator[tuple[SlipKind, float, DesignElement]]:
    metres = piece.part(center_hz).length_m
    for by in (-CUT_M, CUT_M):
        if metres + by > CUT_M:
            yield "length", by, replace(piece, capacitance_f=piece.mark(center_hz, metres + by).value)


def _on_ring(coil: CoilOnRing, center_hz: float) -> Iterator[tuple[SlipKind, float, DesignElement]]:
    for by in (-1, 1):
        if coil.turns + by >= 1:
            yield "turns", by, replace(coil, turns=coil.turns + by)


def _wound(unun: WoundTransformer, center_hz: float) -> Iterator[tuple[SlipKind, float, DesignElement]]:
    for by in (-1, 1):
        if unun.way.in_hand > 1:
            # Wires in hand are wound together: a turn of one is a turn of all.
            if unun.primary_turns + by >= 1:
                yield "primary_turns", by, replace(unun, primary_turns=unun.primary_turns + by)
            continue
        if 1 <= unun.primary_turns + by <= unun.secondary:
            yield "primary_turns", by, replace(unun, primary_turns=unun.primary_turns + by)
        if unun.secondary_turns + by >= unun.primary_turns:
            yield "secondary_turns", by, replace(unun, secondary_turns=unun.secondary_turns + by)


_WAYS: Mapping[type, Callable[[Any, float], Iterator[tuple[SlipKind, float, DesignElement]]]] = {
    AirCoil: _coil,
    CoaxCapacitor: _coax,
    CoilOnRing: _on_ring,
    WoundTransformer: _wound,
}
