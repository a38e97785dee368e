"""The verdict of the bench: sweeps of a wound thing against what was planned and what goes wrong."""

import math
from collections.abc import Mapping, Sequence
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.http import BenchFinding, InTransaction, Numbers, numbers, router_of
from yielding_coil.api.sweep import Antennas, antenna_of, trusted
from yielding_coil.core.bench import KEPT_NOISE, BenchSweep, Hypothesis, setup_of, useful
from yielding_coil.core.bench import bench_verdict as judged
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.sweep import evenly
from yielding_coil.documents.design import DesignContent, wound_of
from yielding_coil.documents.fields import Positive

router = router_of("bench")

# Of a sweep that is laid over a chart.
DRAWN_POINTS = 401


class SweptIn(BaseModel):
    """A sweep taken in a set-up; its resistor as it was measured, where that was done."""

    setup: Annotated[str, Field(max_length=20)]
    sweep_id: UUID
    resistor_ohm: Positive | None = None


class VerdictIn(BaseModel):
    """Sweeps of one wound element of a design."""

    content: DesignContent
    key: str
    swept: list[SweptIn] = Field(min_length=1, max_length=4)


class StatedOut(BaseModel):
    """One thing that it may be: a code, what tells it from others, its share of the weight.

    `counts` are the turns that it may have, where how many is the question.
    """

    code: FaultCode
    values: dict[str, float | str]
    share: float
    counts: list[float]


class MeasuredOut(BaseModel):
    """A sweep as it is laid over what was expected."""

    setup: str
    frequency_hz: list[float]
    swr: Numbers
    resistance_ohm: Numbers
    inductance_h: Numbers


class VerdictOut(BaseModel):
    """What the sweeps say: one thing, those that cannot be told apart, or that nothing fits.

    `passed` is null where it cannot be told. `hidden` are faults that such sweeps never show, because they lie
    within the tolerances of what was planned; `next_setup` is the one more sweep that would tell.
    """

    says: Literal["named", "apart", "strange"]
    passed: bool | None
    stated: list[StatedOut]
    hidden: list[StatedOut]
    next_setup: str | None
    measured: list[MeasuredOut]
    residual_db: float
    findings: list[BenchFinding]


@router.post("/bench-verdicts")
def bench_verdict(request: Request, session: InTransaction, asked: VerdictIn) -> VerdictOut:
    """Right, or what is wrong with it; nothing is kept."""
    element = wound_of(asked.content, asked.key).to_core()
    carried = asked.content.to_core(antenna_of(request, asked.content)).carried_ohm(asked.key)
    antennas: Antennas = request.app.state.antennas
    taken = [
        BenchSweep(
            setup_of(element, told.setup, told.resistor_ohm or _on(told.setup, carried)),
            useful(antennas.sweep(request.app, told.sweep_id)),
            trusted(session, told.sweep_id),
            KEPT_NOISE,
        )
        for told in asked.swept
    ]
    materials = list(data.ring_materials().values())
    found = judged(element, taken, asked.content.center_hz, materials)
    said = found.verdict
    return VerdictOut(
        says=said.says,
        passed=found.passed,
        stated=[_stated(w.suspect, w.share, w.found, w.counts) for w in said.likely],
        hidden=[_stated(s, 0.0) for s in said.hidden],
        next_setup=None if said.next_setup is None else said.next_setup.key,
        measured=[_measured(t) for t in taken],
        residual_db=min(t.residual_db for t in taken),
        findings=[BenchFinding.model_validate(f, from_attributes=True) for f in found.findings],
    )


def _on(setup: str, carried_ohm: float | None) -> float | None:
    """The resistor that a set-up has on it, by what the design carries."""
    return carried_ohm if carried_ohm is None or setup != "half" else carried_ohm / 2


def _stated(
    suspect: Hypothesis, share: float, found: Mapping[str, float] | None = None, counts: Sequence[float] = ()
) -> StatedOut:
    values = {**(found or {}), **suspect.values}
    return StatedOut(code=suspect.code, values=values, share=share, counts=list(counts))


def _measured(taken: BenchSweep) -> MeasuredOut:
    sweep = taken.sweep
    at = evenly(sweep.frequency_hz.size, DRAWN_POINTS)
    f, z = sweep.frequency_hz[at], sweep.impedance_ohm[at]
    return MeasuredOut(
        setup=taken.setup.key,
        frequency_hz=f.tolist(),
        swr=numbers(swr_of_impedance(z)),
        resistance_ohm=numbers(z.real),
        inductance_h=numbers(z.imag / (2 * math.pi * f)),
    )
