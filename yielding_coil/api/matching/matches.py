"""The L networks for an antenna, each at its best over the targets or exact at one frequency."""

from typing import Annotated, Literal

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import Figure, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.matching import MatchCandidate, propose, propose_switched
from yielding_coil.documents.design import DesignContent, Template, with_match
from yielding_coil.documents.fields import Hertz, Positive

router = router_of("matching")


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
    few_hold: bool
    refused: str | None


class SwitchedOut(BaseModel):
    """The best network for one target alone; its content serves that target only."""

    label: str
    network: Candidate


@router.post("/matches")
def matches(request: Request, asked: MatchIn) -> list[Candidate]:
    """Every L network at its best over the targets, best yield first."""
    content, template = asked.content, asked.template
    design = content.to_core(antenna_of(request, content))
    found = propose(design, template.to_core(), at_hz=asked.at_hz, power_w=asked.power_w)
    return [_candidate(content, template, c) for c in found]


@router.post("/matches/switched")
def switched(request: Request, asked: MatchIn) -> list[SwitchedOut]:
    """The best network for each target alone: what a switch chooses between where no single one serves all."""
    content, template = asked.content, asked.template
    design = content.to_core(antenna_of(request, content))
    return [
        SwitchedOut(
            label=target.label,
            network=_candidate(content.model_copy(update={"targets": [served]}), template, best),
        )
        for served, (target, best) in zip(
            content.targets, propose_switched(design, template.to_core(), power_w=asked.power_w), strict=True
        )
    ]


def _candidate(content: DesignContent, template: Template, found: MatchCandidate) -> Candidate:
    return Candidate(
        series=found.shape.series,
        shunt=found.shape.shunt,
        shunt_at=found.shape.shunt_at,
        content=None if found.refused else with_match(content, found, template),
        worst_swr=None if found.refused else found.worst_swr,
        share=None if found.refused else found.share,
        heat_w=None if found.refused else found.heat_w,
        few_hold=found.few_hold,
        refused=found.refused,
    )
