"""Too good to be true: how many of 100 W must stay behind by a sweep of a planned antenna, and where."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from yielding_coil.api.http import Figure, InTransaction, Numbers, numbers, router_of
from yielding_coil.api.sweep import Antennas, antenna_of, require_corrected, trusted
from yielding_coil.core.bench import KEPT_NOISE
from yielding_coil.core.design import CauseKey, Known, LossState, Measure, Why, above_plane, loss_verdict
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import residual_of
from yielding_coil.core.line import Line
from yielding_coil.core.reflection import swr_of
from yielding_coil.core.system import Element
from yielding_coil.core.wire import KINDS, Hung
from yielding_coil.documents.design import DesignContent, TargetPayload
from yielding_coil.documents.fields import Hertz
from yielding_coil.documents.setup import LineIn
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.store.pieces import cable_row
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Setup

router = router_of("design")


class WireEndNow(BaseModel):
    """Where the wire of a band ends as it hangs now, from the feed."""

    near_hz: Hertz
    reach_m: Annotated[float, Field(gt=0.05, le=1000)]


class LossVerdictIn(BaseModel):
    """A planned antenna and a sweep of it; without one its fan is made ready and nothing is told.

    `again` is the same swept with a hand on the coax, or with another length of it. `content` is the design, which
    stood between where the sweep was taken on the bench or below a match, or the antenna is fed by an unun; it was
    swept below its match, or at the radio's end of its coax.
    """

    antenna: WireAntenna
    # Of wires that were cut or folded since; the others hang as planned.
    ends: list[WireEndNow] = Field(default=[], max_length=12)
    target: TargetPayload
    sweep_id: UUID | None = None
    again_id: UUID | None = None
    content: DesignContent | None = None
    plane: Literal["box", "radio"] = "box"


class _Told(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class LossOddsOut(_Told):
    """How likely a cause is, of one."""

    key: CauseKey
    odds: float


class LossPlaceOut(_Told):
    """Where watts of 100 stay: likely, and between what nine of ten lie."""

    key: str
    likely_w: Figure
    low_w: Figure
    high_w: Figure


class LossVerdictOut(BaseModel):
    """What a sweep says of loss; curves as SWR on 50 ohm."""

    state: LossState
    why: Why | None
    named: list[CauseKey]
    odds: list[LossOddsOut]
    places: list[LossPlaceOut]
    radiated: LossPlaceOut | None
    stays: LossPlaceOut | None
    settle: Measure | None
    chance: float
    ceiling_swr: Figure | None
    at_hz: float
    frequency_hz: Annotated[list[float], Field(max_length=60)]
    read: Numbers
    fitted: Numbers
    low: Numbers
    high: Numbers


@router.post("/losses")
def judge_loss(request: Request, session: InTransaction, asked: LossVerdictIn) -> LossVerdictOut | None:
    """Where the watts go by a sweep, with their bounds, and what it asks for beyond what is known."""
    kind = KINDS[asked.antenna.antenna]
    hung, target = _hung(asked), asked.target.to_core()
    # Its fan before the session takes a connection: nobody waits for one while wires are solved.
    Known.of(hung, kind.feed_ohm, (), target)
    known = Known.of(hung, kind.feed_ohm, _below(request, session, asked), target)
    if asked.sweep_id is None:
        return None
    require_corrected(session, asked.sweep_id)
    antennas: Antennas = request.app.state.antennas
    again = None
    if asked.again_id is not None:
        require_corrected(session, asked.again_id)
        again = antennas.sweep(request.app, asked.again_id)
    sweep = antennas.sweep(request.app, asked.sweep_id)
    residual = residual_of(trusted(session, asked.sweep_id)) * 3**0.5
    found = loss_verdict(known, sweep, residual, again=again, noise=KEPT_NOISE)
    return LossVerdictOut(
        state=found.state,
        why=found.why,
        named=list(found.named),
        odds=[LossOddsOut.model_validate(o) for o in found.odds],
        places=[LossPlaceOut.model_validate(p) for p in found.places],
        radiated=None if found.radiated is None else LossPlaceOut.model_validate(found.radiated),
        stays=None if found.stays is None else LossPlaceOut.model_validate(found.stays),
        settle=found.settle,
        chance=found.chance,
        ceiling_swr=found.ceiling_swr,
        at_hz=found.at_hz,
        frequency_hz=found.frequency_hz.tolist(),
        **{name: numbers(swr_of(abs(getattr(found, name)))) for name in ("read", "fitted", "low", "high")},
    )


def _hung(asked: LossVerdictIn) -> Hung:
    """As it hangs now."""
    hung = asked.antenna.hung()
    reaches = list(hung.reaches_m)
    for end in asked.ends:
        reaches[hung.band_of(end.near_hz)] = end.reach_m
    return hung.reaching(reaches) if asked.ends else hung


def _below(request: Request, session: Session, asked: LossVerdictIn) -> tuple[Element, ...]:
    """What stood between the antenna and where it was swept: a design, or the cable that the sweep tells of."""
    kind = KINDS[asked.antenna.antenna]
    row = None if asked.sweep_id is None else one_sweep(session, asked.sweep_id)
    setup = None if row is None or row.setup_id is None else session.get(Setup, row.setup_id)
    if asked.content is not None and (kind.by_unun or (setup is not None and setup.plane in ("bench", "matched"))):
        design = asked.content.to_core(antenna_of(request, asked.content))
        return tuple(above_plane(design, asked.plane).system().elements)
    if kind.by_unun:
        raise OutOfDomainError(
            "content", f"{kind.name} alone", "its design too: what is swept is seen through its transformer"
        )
    if setup is None or setup.plane in ("feedpoint", "bench"):
        return ()
    if setup.plane == "line_end" and setup.line is not None:
        told = LineIn.model_validate(setup.line)
        line = Line(cable_row(session, told.cable, deleted=True).cable, told.length_m)
        return (Element("line", "through", line),) if told.length_m > 0 else ()
    raise OutOfDomainError(
        "sweep", "taken below a match", "one at the feedpoint or through a cable, or the design that stood between"
    )
