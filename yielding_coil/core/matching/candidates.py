"""The L networks for a design, at their best over the targets or exact at one frequency, as one would make them."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

from yielding_coil.core.conductor import WindingWire
from yielding_coil.core.design import CoaxCapacitor, Design, FixedCapacitor, few_hold, share_of
from yielding_coil.core.element import DesignElement
from yielding_coil.core.errors import NotMatchableError, OutOfDomainError, RefusedError
from yielding_coil.core.line import CableRow
from yielding_coil.core.matching.l_network import (
    LNetwork,
    l_networks,
    part_for_reactance,
    part_for_susceptance,
)
from yielding_coil.core.matching.optimum import Kind, Shape, best_parts, candidates, shape_of
from yielding_coil.core.parts import Capacitor, Inductor, inductance_reading_h
from yielding_coil.core.system import worst_over
from yielding_coil.core.target import Target
from yielding_coil.core.winding import AirCoil

# A coax capacitor longer than about half a metre is a bought one.
LARGEST_COAX_F = 50e-12
# Smaller than this nobody makes one: the antenna is matched without that part.
LEAST_VALUE: dict[Kind, float] = {"coil": 1e-10, "capacitor": 1e-14}
CAPACITOR_Q = 1000.0

PartKind = Literal["coil", "coax_capacitor", "capacitor"]


@dataclass(frozen=True, slots=True)
class MatchTemplate:
    """What the parts of a match are made of: a former and its wire, a coax to cut capacitors from.

    A coil that does not come out on the former is wound on the nearest of the other ones on which it does.
    """

    wire: WindingWire
    cable: CableRow
    former_m: float = 0.032
    pitch_m: float | None = None
    other_formers_m: tuple[float, ...] = ()

    def by_former(self) -> list["MatchTemplate"]:
        """This one, then the same on every other former, the nearest first."""
        others = sorted(self.other_formers_m, key=lambda m: abs(math.log(m / self.former_m)))
        return [self, *(replace(self, former_m=m) for m in others if m != self.former_m)]


@dataclass(frozen=True, slots=True)
class MatchPart:
    """One part of a match: henry as an analyser reads it for a coil, farad for a capacitor."""

    key: str
    kind: PartKind
    place: Literal["series", "shunt"]
    value: float

    def element(self, template: MatchTemplate) -> DesignElement:
        """As it would be made."""
        return _ELEMENTS[self.kind](self, template)


def _coil(part: MatchPart, template: MatchTemplate) -> AirCoil:
    return AirCoil(
        key=part.key,
        place=part.place,
        inductance_h=part.value,
        former_m=template.former_m,
        wire=template.wire,
        pitch_m=template.pitch_m,
    )


def _coax(part: MatchPart, template: MatchTemplate) -> CoaxCapacitor:
    return CoaxCapacitor(key=part.key, place=part.place, capacitance_f=part.value, cable=template.cable)


def _bought(part: MatchPart, template: MatchTemplate) -> FixedCapacitor:
    return FixedCapacitor(key=part.key, place=part.place, capacitance_f=part.value)


_ELEMENTS: Mapping[PartKind, Callable[[MatchPart, MatchTemplate], DesignElement]] = {
    "coil": _coil,
    "coax_capacitor": _coax,
    "capacitor": _bought,
}


@dataclass(frozen=True, slots=True)
class MatchCandidate:
    """One L network at its best: its parts from the antenna down, or why it cannot be made.

    `former_m` is what its coil is wound on, None without one; `share` is of builds that hold, `heat_w` what the
    parts lose at the design's centre.
    """

    shape: Shape
    parts: tuple[MatchPart, ...] = ()
    former_m: float | None = None
    worst_swr: float = math.inf
    share: float = 0.0
    heat_w: float = math.nan
    refused: str | None = None

    @property
    def few_hold(self) -> bool:
        """Whether it is not worth making as it stands."""
        return few_hold(self.share)


class Switched(NamedTuple):
    """The network that serves one of several targets best, alone; the others have their own, and a switch."""

    target: Target
    best: MatchCandidate


def propose_switched(design: Design, template: MatchTemplate, *, power_w: float = 100.0) -> list[Switched]:
    """One network for each target, for an antenna whose targets no single network serves; in the targets' order.

    Raises:
        NotMatchableError: no L network matches the antenna on one of them.
    """
    return [
        Switched(target, propose(replace(design, targets=(target,)), template, power_w=power_w)[0])
        for target in design.targets
    ]


def propose(
    design: Design, template: MatchTemplate, *, at_hz: float | None = None, power_w: float = 100.0
) -> list[MatchCandidate]:
    """Every L network at its best, best yield first; those that cannot be made come last, with the reason.

    Args:
        design: of whose elements only the line stays.
        at_hz: matched exactly here, in closed form; at the best over the targets when None.

    Raises:
        NotMatchableError: no L network matches the antenna at all.
    """
    networks: Sequence[LNetwork] = (
        candidates(design.antenna, design.targets)
        if at_hz is None
        else l_networks(complex(design.antenna.impedance_at(at_hz)), at_hz)
    )
    found = [_candidate(design, network, template, at_hz, power_w) for network in networks]
    return sorted(found, key=lambda c: (c.refused is not None, -c.share, c.worst_swr))


def _parts(shape: Shape, series_value: float, shunt_value: float) -> tuple[MatchPart, ...]:
    """Both parts in order from the antenna down.

    Raises:
        NotMatchableError: one of them comes out as nothing.
    """
    alike = shape.series == shape.shunt
    shunt = _part("shunt" if alike else shape.shunt, shape.shunt, "shunt", shunt_value)
    series = _part("series" if alike else shape.series, shape.series, "series", series_value)
    return (shunt, series) if shape.shunt_at == "load" else (series, shunt)


def _part(key: str, kind: Kind, place: Literal["series", "shunt"], value: float) -> MatchPart:
    if value < LEAST_VALUE[kind]:
        where = "in series" if place == "series" else "across"
        raise NotMatchableError(
            f"the {kind} {where} comes out as nothing: here the antenna is matched without it",
            accepted="the antenna as it is, or one part alone",
        )
    if kind == "coil":
        return MatchPart(key, "coil", place, value)
    return MatchPart(key, "coax_capacitor" if value <= LARGEST_COAX_F else "capacitor", place, value)


def _with_match(design: Design, parts: Sequence[MatchPart], template: MatchTemplate) -> Design:
    """The design with this match above its line."""
    below = tuple(e for e in design.elements if not e.by_hand)
    return replace(design, elements=(*(p.element(template) for p in parts), *below))


def _wound_on(parts: Sequence[MatchPart], template: MatchTemplate, center_hz: float) -> MatchTemplate:
    """The template on the first former that carries its coils.

    Raises:
        OutOfDomainError: none does; as the first one has it.
    """
    coils = [p for p in parts if p.kind == "coil"]
    refusals: list[OutOfDomainError] = []
    for made_of in template.by_former():
        try:
            for part in coils:
                _coil(part, made_of).part(center_hz)
        except OutOfDomainError as why:
            refusals.append(why)
        else:
            return made_of
    raise refusals[0]


def _candidate(
    design: Design, network: LNetwork, template: MatchTemplate, at_hz: float | None, power_w: float
) -> MatchCandidate:
    shape, center = shape_of(network), design.center_hz
    try:
        if at_hz is not None:
            parts = _parts(
                shape,
                part_for_reactance(network.series_reactance_ohm, at_hz)[1],
                part_for_susceptance(network.shunt_susceptance_s, at_hz)[1],
            )
            template = _wound_on(parts, template, center)
        else:
            parts, template = _best_parts(design, network, shape, template)
        made = _with_match(design, parts, template)
        system = made.system()
    except RefusedError as why:
        return MatchCandidate(shape, refused=why.message)
    stations = system.stations(center, power_w)
    return MatchCandidate(
        shape,
        parts,
        template.former_m if any(p.kind == "coil" for p in parts) else None,
        max(worst_over(system, design.targets)),
        share_of(made, system),
        sum(float(s.loss_w) for s in stations[1 : system.match_station + 1]),
    )


def _best_parts(
    design: Design, network: LNetwork, shape: Shape, template: MatchTemplate
) -> tuple[tuple[MatchPart, ...], MatchTemplate]:
    """The best values, with the quality of parts made to those values (twice round is enough), and what of."""
    center = design.center_hz
    coil: Inductor | None = None
    capacitor: Capacitor | None = None
    parts: tuple[MatchPart, ...] = ()
    made_of = template
    for _ in range(2):
        best = best_parts(design.antenna, network, design.targets, coil, capacitor)
        own_f = 0.0 if coil is None else float(coil.self_capacitance_f)
        values = [
            inductance_reading_h(value, center, own_f) if kind == "coil" else value
            for kind, value in ((shape.series, best.series_value), (shape.shunt, best.shunt_value))
        ]
        parts = _parts(shape, *values)
        made_of = _wound_on(parts, template, center)
        made = _with_match(design, parts, made_of).elements
        coil = next((e.part(center) for e in made if isinstance(e, AirCoil)), None)
        capacitor = Capacitor(1e-11, q=CAPACITOR_Q)
    return parts, made_of
