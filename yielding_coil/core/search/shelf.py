"""What a match may be made from: wires, formers, capacitors, cables and rings, one's own or those that are sold."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Generic, NamedTuple, TypeVar

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.conductor import WindingWire
from yielding_coil.core.constants import MU_0_H_PER_M
from yielding_coil.core.design import CoaxCapacitor, FixedCapacitor, MatchSection, MatchStub
from yielding_coil.core.element import WARNED, DesignElement
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import CableRow
from yielding_coil.core.matching import Combination, Stock, alone, parallel, series
from yielding_coil.core.search.topology import PartKind
from yielding_coil.core.winding import AirCoil, CoilOnRing, RingCore, WoundTransformer, coil_body

Thing = TypeVar("Thing", covariant=True)

# A coil or a coax capacitor that is wound or cut beyond these nobody makes (common practice).
MOST_TURNS, LONGEST_FORMER_M = 80, 0.3
LONGEST_COAX_CAPACITOR_M, COAX_STEP_M = 0.6, 0.005
# Two capacitors that make one differ by no more than this: beyond it the second does next to nothing.
WIDEST_PAIR = 12.0
# A length of line is cut by the centimetre, from here up to half a wave.
SHORTEST_LINE_M, LINE_STEP_M = 0.05, 0.01
# Windings of an unun: primary turns, and the ratio of impedances between which one is wound.
PRIMARIES, LEAST_RATIO, MOST_RATIO, MOST_SECONDARY = range(1, 6), 1.3, 80.0, 24
RING_TURNS = range(2, 41)


class Held(NamedTuple, Generic[Thing]):
    """One thing to make parts of.

    Args:
        ref: by which whoever asked knows it again.
        thing: as the core has it.
        price: of one, of a metre of wire or cable; in one's own currency, None where it is not known.
        mine: whether it lies in the drawer; else it is to be bought.
    """

    ref: int
    thing: Thing
    price: float | None = None
    mine: bool = True


class Tube(NamedTuple):
    """A former, by its outer diameter and length."""

    outer_m: float
    length_m: float


@dataclass(frozen=True, slots=True)
class Shelf:
    """Everything a match may be made from."""

    formers: tuple[Held[Tube], ...] = ()
    wires: tuple[Held[WindingWire], ...] = ()
    capacitors: tuple[Held[Stock], ...] = ()
    cables: tuple[Held[CableRow], ...] = ()
    rings: tuple[Held[RingCore], ...] = ()


@dataclass(frozen=True, slots=True)
class Item:
    """A part as it would be made.

    Args:
        element: as a design has it; its key and place are those of where it goes.
        value: what it is told apart by: henry, farad, degrees of line, ratio of impedances.
        make: what one counts or measures off: turns, metres; None for what is bought.
        refs: of what it is made from.
        count: of parts: two where a pair makes one.
        volume_m3: that it takes, roughly.
        price: of what it is made from; None where that is not known.
        buys: how many of the things it is made from are not in the drawer.
        most_v, most_a, most_w: what it bears: peaks, and mean watts lost; endless where nobody says.
        pair: the two capacitors that it is.
    """

    element: DesignElement
    value: float
    refs: tuple[int, ...]
    count: int = 1
    volume_m3: float = 0.0
    price: float | None = None
    buys: int = 0
    most_v: float = np.inf
    most_w: float = np.inf
    pair: Combination | None = None
    make: float | None = None


class Range(NamedTuple):
    """Values of a part that are looked at."""

    low: float
    high: float

    def holds(self, value: float) -> bool:
        """Whether a value lies inside."""
        return self.low <= value <= self.high


EVERYTHING = Range(0.0, np.inf)


def _price(*held: tuple[Held[object], float]) -> float | None:
    """Of so much of each; None where one is not known."""
    prices = [h.price for h, _ in held]
    if any(p is None for p in prices):
        return None
    return float(sum((h.price or 0.0) * much for h, much in held))


def _buys(*held: Held[object]) -> int:
    return sum(not h.mine for h in held)


def coils(shelf: Shelf, center_hz: float, top_hz: float, of: Range = EVERYTHING) -> Iterator[Item]:
    """Coils in half turns, touching or a wire apart, on every former with every wire; and turns on powder rings.

    Those near their own resonance are left out, and those longer than their former.
    """
    for former in shelf.formers:
        for wire in shelf.wires:
            for pitch in (None, 2 * wire.thing.covered_m):
                yield from _air_coils(former, wire, pitch, center_hz, top_hz, of)
    for ring in shelf.rings:
        if ring.thing.ring.material.kind == "powder" and shelf.wires:
            yield from _ring_coils(ring, shelf.wires[0], center_hz, of)


def _air_coils(
    former: Held[Tube], wire: Held[WindingWire], pitch_m: float | None, center_hz: float, top_hz: float, of: Range
) -> Iterator[Item]:
    first = AirCoil(
        key="coil",
        place="series",
        inductance_h=1e-6,
        former_m=former.thing.outer_m,
        wire=wire.thing,
        pitch_m=pitch_m,
    )
    if wire.thing.covered_m > 0.25 * former.thing.outer_m:
        return
    length = min(former.thing.length_m, LONGEST_FORMER_M)
    most = min(MOST_TURNS, length / first.wound_pitch_m)
    turns = np.arange(1.0, most + 0.01, 0.5)
    # Wheeler's rule is near enough to leave out what is far from what is looked at.
    rough = _wheeler_h(turns, first.diameter_m, first.wound_pitch_m)
    near = turns[(rough > 0.4 * of.low) & (rough < 2.0 * of.high)].tolist()
    for n in near:
        wound = first.solenoid(n)
        if top_hz > WARNED * wound.self_resonance_hz:
            break
        reads = wound.reading_h(center_hz)
        if reads <= 0 or not of.holds(reads):
            continue
        coil = replace(first, inductance_h=reads)
        metres = wound.wire_length_m
        yield Item(
            coil,
            reads,
            (former.ref, wire.ref),
            volume_m3=np.pi / 4 * (former.thing.outer_m + 2 * wire.thing.covered_m) ** 2 * wound.length_m,
            price=_price((former, 1.0), (wire, metres)),
            buys=_buys(former, wire),
            most_w=coil_body(wound).bears_w,
            make=n,
        )


def _wheeler_h(turns: Real, diameter_m: float, pitch_m: float) -> Real:
    """Wheeler's long coil, in SI: μ0·N²·A/(l + 0.45·D)."""
    area = np.pi / 4 * diameter_m**2
    return np.asarray(MU_0_H_PER_M * turns**2 * area / (turns * pitch_m + 0.45 * diameter_m))


def _ring_coils(ring: Held[RingCore], wire: Held[WindingWire], center_hz: float, of: Range) -> Iterator[Item]:
    for turns in RING_TURNS:
        coil = CoilOnRing(key="coil", place="series", core=ring.thing, wire=wire.thing, turns=turns)
        part = coil.part(center_hz)
        reads = part.reading_h(center_hz)
        if reads <= 0 or reads > of.high:
            return
        if not of.holds(reads) or turns > _most_turns(ring, wire):
            continue
        yield Item(
            coil,
            reads,
            (ring.ref, wire.ref),
            volume_m3=_ring_m3(ring.thing),
            price=_price((ring, 1.0), (wire, float(coil.copper(turns).length_m))),
            buys=_buys(ring, wire),
            most_w=coil.body(center_hz).bears_w,
            make=turns,
        )


def _most_turns(ring: Held[RingCore], wire: Held[WindingWire]) -> int:
    """One layer of it, all round."""
    return ring.thing.ring.turns_that_fit(wire.thing.covered_m, 0.0)


def _ring_m3(core: RingCore) -> float:
    size = core.ring.size
    return float(np.pi / 4 * size.outer_m**2 * size.height_m * core.ring.stack)


def capacitors(shelf: Shelf, center_hz: float, of: Range = EVERYTHING) -> Iterator[Item]:
    """Every capacitor, every two of them that make one value, and open coax by the half centimetre."""
    stock = shelf.capacitors
    for held in stock:
        if held.thing.count is None or held.thing.count >= 1:
            yield from _capacitor(alone(held.thing), (held,), of)
    for i, one in enumerate(stock):
        for other in stock[i:]:
            ratio = other.thing.capacitance_f / one.thing.capacitance_f
            if not 1 / WIDEST_PAIR <= ratio <= WIDEST_PAIR:
                continue
            mine = one.mine and other.mine
            if not mine and one.thing.voltage_v != other.thing.voltage_v:
                continue
            needed = 2 if one is other else 1
            if any(h.thing.count is not None and h.thing.count < needed for h in (one, other)):
                continue
            yield from _capacitor(parallel(one.thing, other.thing), (one, other), of)
            # Of what is sold one puts two in series for the volts alone: two of a kind.
            if mine or one is other:
                yield from _capacitor(series(one.thing, other.thing), (one, other), of)
    for cable in shelf.cables:
        if cable.thing.coax:
            yield from _coax_capacitors(cable, center_hz, of)


def _capacitor(made: Combination, held: tuple[Held[Stock], ...], of: Range) -> Iterator[Item]:
    if not of.holds(made.capacitance_f):
        return
    element = FixedCapacitor(
        key="capacitor",
        place="shunt",
        capacitance_f=made.capacitance_f,
        q=made.q,
        spread=made.tolerance,
        stands_v=made.voltage_v,
    )
    yield Item(
        element,
        made.capacitance_f,
        tuple(h.ref for h in held),
        count=len(held),
        volume_m3=1e-6 * len(held),
        price=_price(*((h, 1.0) for h in held)),
        buys=_buys(*held),
        most_v=made.voltage_v,
        pair=made if len(held) > 1 else None,
    )


def _coax_capacitors(cable: Held[CableRow], center_hz: float, of: Range) -> Iterator[Item]:
    metres = np.arange(1, round(LONGEST_COAX_CAPACITOR_M / COAX_STEP_M) + 1) * COAX_STEP_M
    first = CoaxCapacitor(key="capacitor", place="shunt", capacitance_f=1e-12, cable=cable.thing)
    for m in metres.tolist():
        try:
            farad = first.mark(center_hz, m).value
        except OutOfDomainError:
            return
        if farad > of.high:
            return
        if of.holds(farad):
            yield Item(
                replace(first, capacitance_f=farad),
                farad,
                (cable.ref,),
                volume_m3=_line_m3(cable.thing, m),
                price=_price((cable, m)),
                buys=_buys(cable),
                make=m,
            )


def _line_m3(cable: CableRow, length_m: float) -> float:
    return float(np.pi / 4 * (cable.outer_m or 0.006) ** 2 * length_m)


def sections(shelf: Shelf, center_hz: float, pieces: int, of: Range = EVERYTHING) -> Iterator[Item]:
    """Lengths of every coax by the centimetre, up to half a wave; one piece, or two side by side."""
    for cable in shelf.cables:
        if not cable.thing.coax:
            continue
        first = MatchSection(key="section", cable=cable.thing, length_m=1.0, pieces=2 if pieces == 2 else 1)
        for m, degrees in _lengths(first, center_hz, of):
            yield Item(
                replace(first, length_m=m),
                degrees,
                (cable.ref,),
                count=pieces,
                volume_m3=_line_m3(cable.thing, m) * pieces,
                price=_price((cable, m * pieces)),
                buys=_buys(cable),
                make=m,
            )


def stubs(shelf: Shelf, center_hz: float, coax: bool, of: Range = EVERYTHING) -> Iterator[Item]:
    """Stubs by the centimetre, open and shorted; of two wires they are hairpins, and shorted."""
    for cable in shelf.cables:
        if cable.thing.coax is not coax:
            continue
        for end in ("open", "shorted") if coax else ("shorted",):
            first = MatchStub(key="stub", cable=cable.thing, length_m=1.0, end=end)
            for m, degrees in _lengths(first, center_hz, of):
                yield Item(
                    replace(first, length_m=m),
                    degrees,
                    (cable.ref,),
                    volume_m3=_line_m3(cable.thing, m),
                    price=_price((cable, m)),
                    buys=_buys(cable),
                    make=m,
                )


def _lengths(first: MatchSection | MatchStub, center_hz: float, of: Range) -> list[tuple[float, float]]:
    """Lengths by the centimetre below half a wave, with their degrees at the centre."""
    per_metre = first.degrees(center_hz, 1.0)
    steps = np.arange(round(SHORTEST_LINE_M / LINE_STEP_M), int(180 / per_metre / LINE_STEP_M) + 1)
    metres = steps * LINE_STEP_M
    degrees = metres * per_metre
    inside = (degrees >= of.low) & (degrees <= of.high)
    return list(zip(metres[inside].tolist(), degrees[inside].tolist(), strict=True))


def transformers(shelf: Shelf, center_hz: float, of: Range = EVERYTHING) -> Iterator[Item]:
    """Tapped windings on every ferrite ring, by whole turns."""
    if not shelf.wires:
        return
    wire = min(shelf.wires, key=lambda w: abs(w.thing.diameter_m - 1e-3))
    pairs = [
        (p, s)
        for p in PRIMARIES
        for s in range(p + 1, MOST_SECONDARY + 1)
        if LEAST_RATIO <= (s / p) ** 2 <= MOST_RATIO and of.holds((s / p) ** 2)
    ]
    for ring in shelf.rings:
        if ring.thing.ring.material.kind != "ferrite":
            continue
        for primary, secondary in pairs:
            wound = WoundTransformer(
                key="unun",
                core=ring.thing,
                wire=wire.thing,
                wiring="tapped",
                primary_turns=primary,
                secondary_turns=secondary,
            )
            if secondary > _most_turns(ring, wire) // 2:
                continue
            yield Item(
                wound,
                (secondary / primary) ** 2,
                (ring.ref, wire.ref),
                count=1,
                volume_m3=_ring_m3(ring.thing),
                price=_price((ring, 1.0), (wire, float(wound.copper(primary + secondary).length_m))),
                buys=_buys(ring, wire),
                most_w=wound.body(center_hz).bears_w,
                make=secondary,
            )


def items_of(kind: PartKind, shelf: Shelf, center_hz: float, top_hz: float, of: Range = EVERYTHING) -> list[Item]:
    """Every part of a kind that the shelf makes, in a range of values.

    Args:
        center_hz: where values are meant.
        top_hz: the highest frequency that it works at.
    """
    made: Mapping[PartKind, Iterator[Item]] = {
        "coil": coils(shelf, center_hz, top_hz, of),
        "capacitor": capacitors(shelf, center_hz, of),
        "section": sections(shelf, center_hz, 1, of),
        "pair": sections(shelf, center_hz, 2, of),
        "stub": stubs(shelf, center_hz, True, of),
        "hairpin": stubs(shelf, center_hz, False, of),
        "transformer": transformers(shelf, center_hz, of),
    }
    return list(made[kind])


def thinned(items: Sequence[Item], near: float, most: int) -> list[Item]:
    """At most so many of them, those nearest in value; of what reads alike the better one is kept by the search."""
    if len(items) <= most:
        return list(items)
    away = np.abs(np.log([max(i.value, 1e-18) for i in items]) - np.log(max(near, 1e-18)))
    return [items[k] for k in np.argsort(away, kind="stable")[:most].tolist()]
