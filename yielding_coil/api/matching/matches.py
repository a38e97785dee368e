"""The L networks for an antenna, each at its best over the targets or exact at one frequency."""

from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import RESPONSES, Figure
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.matching import propose
from yielding_coil.documents.design import DesignContent, Template, with_match
from yielding_coil.documents.fields import Hertz, Positive

router = APIRouter(prefix="/api", tags=["matching"], responses=RESPONSES)


class MatchIn(BaseModel):
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
    worst_swr: Figure
    share: Figure
    heat_w: Figure
    refused: str | None


@router.post("/matches")
def matches(request: Request, asked: MatchIn) -> list[Candidate]:
    """Every L network at its best over the targets, best yield first."""
    content, template = asked.content, asked.template
    design = content.to_core(antenna_of(request, content))
    found = propose(design, template.to_core(), at_hz=asked.at_hz, power_w=asked.power_w)
    return [
        Candidate(
            series=c.shape.series,
            shunt=c.shape.shunt,
            shunt_at=c.shape.shunt_at,
            content=None if c.refused else with_match(content, c.parts, template),
            worst_swr=None if c.refused else c.worst_swr,
            share=None if c.refused else c.share,
            heat_w=None if c.refused else c.heat_w,
            refused=c.refused,
        )
        for c in found
    ]
