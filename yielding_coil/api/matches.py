"""The L networks for an antenna, each at its best over the targets or exact at one frequency."""

import math
from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.holding import share_of
from yielding_coil.api.numbers import number
from yielding_coil.api.problems import RESPONSES
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.matching import (
    LNetwork,
    Shape,
    best_parts,
    candidates,
    l_networks,
    part_for_reactance,
    part_for_susceptance,
    shape_of,
    worst_over,
)
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.system import Antenna
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import AnyElement, CoaxCapacitor, DesignContent, Feedline, FixedCapacitor
from yielding_coil.documents.fields import Hertz, PartLength, Positive

router = APIRouter(prefix="/api", tags=["matches"], responses=RESPONSES)

# A coax capacitor longer than about half a metre is a bought one.
LARGEST_COAX_F = 50e-12


class Template(BaseModel):
    """What the parts of a candidate are made of."""

    former_m: PartLength = 0.032
    wire: str = "cu-1.6"
    pitch_m: PartLength | None = None
    cable: str = "pe-5"


class MatchAsked(BaseModel):
    """An antenna and targets; the elements are what stays below the match."""

    content: DesignContent
    template: Template = Template()
    # Matched exactly here, in closed form; at the best over the targets when left out.
    at_hz: Hertz | None = None
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0


class Candidate(BaseModel):
    """One L network at its best over the targets."""

    series: Literal["coil", "capacitor"]
    shunt: Literal["coil", "capacitor"]
    shunt_at: Literal["load", "source"]
    content: DesignContent | None
    worst_swr: float | None
    share: float | None
    heat_w: float | None
    refused: str | None


@router.post("/matches")
def matches(request: Request, asked: MatchAsked) -> list[Candidate]:
    """Every L network at its best over the targets, best yield first."""
    return propose(antenna_of(request, asked.content), asked)


def propose(antenna: Antenna, asked: MatchAsked) -> list[Candidate]:
    """Every L network at its best, best yield first; those that cannot be made come last, with the reason."""
    networks = (
        candidates(antenna, asked.content.core_targets())
        if asked.at_hz is None
        else l_networks(complex(antenna.impedance_at(asked.at_hz)), asked.at_hz)
    )
    found = [_candidate(antenna, network, asked) for network in networks]
    return sorted(found, key=lambda c: (c.content is None, -(c.share or 0), c.worst_swr or math.inf))


def _element_for(
    key: str, kind: str, place: Literal["series", "shunt"], value: float, template: Template
) -> AnyElement:
    if kind == "coil":
        return Coil(
            key=key,
            place=place,
            inductance_h=value,
            former_m=template.former_m,
            wire=template.wire,
            pitch_m=template.pitch_m,
        )
    if value <= LARGEST_COAX_F:
        return CoaxCapacitor(key=key, place=place, capacitance_f=value, cable=template.cable)
    return FixedCapacitor(key=key, place=place, capacitance_f=value)


def _with_match(asked: MatchAsked, shape: Shape, series_value: float, shunt_value: float) -> DesignContent:
    """The content asked for with this L above its feedline."""
    template = asked.template
    shunt_key = "shunt" if shape.series == shape.shunt else shape.shunt
    series_key = "series" if shape.series == shape.shunt else shape.series
    parts = [
        _element_for(shunt_key, shape.shunt, "shunt", shunt_value, template),
        _element_for(series_key, shape.series, "series", series_value, template),
    ]
    if shape.shunt_at == "source":
        parts.reverse()
    below = [e for e in asked.content.elements if isinstance(e, Feedline)]
    return asked.content.model_copy(update={"elements": [*parts, *below]})


def _reading_h(bare_h: float, coil: Inductor | None, frequency_hz: float) -> float:
    """What an analyser reads of a coil with this much inductance and its own capacitance."""
    own_f = 0.0 if coil is None else float(coil.self_capacitance_f)
    reads = 1 / (1 / bare_h - (2 * math.pi * frequency_hz) ** 2 * own_f)
    if reads < 0:
        raise OutOfDomainError("inductance_h", f"{bare_h * 1e6:.3g} µH", "below its self-resonance")
    return reads


def _qualities(content: DesignContent) -> tuple[Inductor | None, Capacitor | None]:
    """Loss and own capacitance of the parts as they would be made."""
    center = content.center_hz
    coil = next((e.to_core(center) for e in content.elements if isinstance(e, Coil)), None)
    return coil, Capacitor(1e-11, q=1000.0)


def _candidate(antenna: Antenna, network: LNetwork, asked: MatchAsked) -> Candidate:
    """The best values, with the quality of parts made to those values: twice round is enough."""
    shape = shape_of(network)
    targets = asked.content.core_targets()
    out = Candidate(
        series=shape.series,
        shunt=shape.shunt,
        shunt_at=shape.shunt_at,
        content=None,
        worst_swr=None,
        share=None,
        heat_w=None,
        refused=None,
    )
    coil: Inductor | None = None
    capacitor: Capacitor | None = None
    try:
        if asked.at_hz is not None:
            exact = (
                part_for_reactance(network.series_reactance_ohm, asked.at_hz)[1],
                part_for_susceptance(network.shunt_susceptance_s, asked.at_hz)[1],
            )
            content = _with_match(asked, shape, *exact)
        for _ in range(2 if asked.at_hz is None else 0):
            best = best_parts(antenna, network, targets, coil, capacitor)
            values = [
                _reading_h(value, coil, asked.content.center_hz) if kind == "coil" else value
                for kind, value in ((shape.series, best.series_value), (shape.shunt, best.shunt_value))
            ]
            content = _with_match(asked, shape, *values)
            coil, capacitor = _qualities(content)
        system = content.system(antenna)
    except RefusedError as why:
        return out.model_copy(update={"refused": why.message})
    stations = system.stations(content.center_hz, asked.power_w)
    heat = sum(float(s.loss_w) for s in stations[1 : system.box + 1])
    return out.model_copy(
        update={
            "content": content,
            "worst_swr": number(max(worst_over(system, targets))),
            "share": share_of(content, system),
            "heat_w": number(heat),
        }
    )
