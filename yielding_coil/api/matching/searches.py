"""The search for a match that can be made, as a job."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import FastAPI, Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.http import Figure, JobOut, Numbers, Plan, ProgressSink, number, numbers, router_of
from yielding_coil.api.sweep import antenna_known_to
from yielding_coil.core.design import few_hold
from yielding_coil.core.search import Choice, Family, Ideal, PartKind, SearchState, SearchTask, is_quarter_wave
from yielding_coil.documents.design import DesignContent, ResistorAntenna, SweptAntenna
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.shelf import OnShelf, Stocked, ThingKind, element_of, stocked
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.searchers import Searchers
from yielding_coil.store.pieces import piece_of, pieces

router = router_of("matching")


class SearchIn(BaseModel):
    """An antenna and targets to match; of the elements the feedline stays."""

    kind: Literal["search"] = "search"
    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    mode: Literal["speech", "telegraphy", "digital"] = "speech"
    # Only what lies in the drawer, or what is sold besides.
    parts: Literal["drawer", "sold"] = "sold"
    most_parts: int = Field(default=4, ge=0, le=4)


class SearchProgress(BaseModel):
    """How far a search is: topologies that are through, of all; and networks looked at."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)

    stage: Literal["ideal", "making", "yield", "done"] = "ideal"
    done: int = 0
    of: int = 0
    looked: int = 0


class WayPart(BaseModel):
    """One part of a network, in small: where it goes, and its value in SI (henry, farad, degrees, a ratio).

    `make` is what one counts or measures off: turns, metres; null for what is bought, and for an ideal.
    """

    key: str
    place: Literal["series", "shunt", "through"]
    kind: PartKind
    value: float
    make: float | None
    # A section about a quarter of a wave long.
    quarter_wave: bool


class Thing(BaseModel):
    """A thing that a network is made from, and whether it lies in the drawer; the price as it was paid."""

    kind: ThingKind
    name: str
    mine: bool
    price: str
    piece_id: UUID | None


class Way(BaseModel):
    """A network that can be made.

    `excess` is the worst SWR over its limit; `ideal_excess` the same with the best values there could be.
    `shortened` is the share of its length to which the wire is cut for it.
    """

    key: str
    family: Family
    parts: list[WayPart]
    content: DesignContent
    worst_swr: list[Figure]
    excess: Figure
    ideal_excess: Figure
    loss_db: Figure
    shortened: float
    count: int
    share: Figure
    few_hold: bool
    # Of what it is made from; null where one price is not known.
    price: float | None
    volume_m3: float
    things: list[Thing]
    curve_hz: list[float]
    curve_swr: Numbers


class IdealWay(BaseModel):
    """A topology with the best values there could be, and whether it then keeps every limit."""

    family: Family
    parts: list[WayPart]
    excess: Figure
    holds: bool


class GiveUpOut(BaseModel):
    """One network for all targets but one."""

    label: str
    ideal: IdealWay


class TwoNetworks(BaseModel):
    """Two networks and a switch."""

    first: list[str]
    first_ideal: IdealWay
    second: list[str]
    second_ideal: IdealWay


class SearchFound(BaseModel):
    """The best compromises so far.

    `nothing_mine` says that the drawer held nothing to match with, and that what is sold was taken instead.
    """

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)

    front: list[Way] = []
    others: list[Way] = []
    ideals: list[IdealWay] = []
    holds: bool = False
    over_rating: int = 0
    too_lossy: int = 0
    nothing_mine: bool = False
    give_up: GiveUpOut | None = None
    switched: TwoNetworks | None = None


class SearchJob(JobOut[Literal["search"], SearchProgress, SearchFound]):
    """How far a search has come, and what it has found."""


SearchSink = ProgressSink[SearchProgress, SearchFound]
# A page shows so many topologies at their best.
MOST_IDEALS = 12


def plan_search(app: FastAPI, asked: SearchIn) -> Plan[SearchProgress, SearchFound]:
    """A search over what lies on the shelf.

    Raises:
        RefusedError: as the content or the antenna have it.
    """
    design = asked.content.to_core(antenna_known_to(app, asked.content))
    with Session(app.state.engine) as session:
        drawer = [(row.id, row.revision, piece_of(row)) for row in pieces(session)]
    shelf, useful = stocked(drawer, sold=asked.parts == "sold")
    task = SearchTask(
        design, shelf.shelf(), asked.power_w, data.MODE_DUTY[asked.mode], asked.most_parts, seed=asked.content.seed
    )
    searchers: Searchers = app.state.searchers

    def work(sink: SearchSink) -> None:
        for state in searchers.searched(task, sink.should_continue):
            if state.stage == "done" or sink.is_due():
                progress = SearchProgress(stage=state.stage, done=state.done, of=state.of, looked=state.looked)
                found = _found(state, asked.content, shelf, nothing_mine=asked.parts == "drawer" and not useful)
                sink.report(progress, found)

    return Plan(asked.kind, work, SearchJob, SearchProgress())


@router.post("/searches/ready", status_code=204)
def get_ready(request: Request) -> None:
    """Say that a search may be wanted soon: its process is loaded meanwhile."""
    searchers: Searchers = request.app.state.searchers
    searchers.get_ready()


def _found(state: SearchState, content: DesignContent, shelf: Stocked, *, nothing_mine: bool) -> SearchFound:
    give_up, switched = state.give_up, state.switched
    return SearchFound(
        front=[_way(c, content, shelf.things) for c in state.front],
        others=[_way(c, content, shelf.things) for c in state.others],
        ideals=[_ideal(i) for i in state.ideals[:MOST_IDEALS]],
        holds=state.holds,
        over_rating=state.over_rating,
        too_lossy=state.too_lossy,
        nothing_mine=nothing_mine,
        give_up=give_up and GiveUpOut(label=give_up.target.label, ideal=_ideal(give_up.ideal)),
        switched=switched
        and TwoNetworks(
            first=[t.label for t in switched.first],
            first_ideal=_ideal(switched.first_ideal),
            second=[t.label for t in switched.second],
            second_ideal=_ideal(switched.second_ideal),
        ),
    )


def _ideal(found: Ideal) -> IdealWay:
    parts = [
        WayPart(
            key=slot.kind,
            place=slot.place,
            kind=slot.kind,
            value=value,
            make=None,
            quarter_wave=is_quarter_wave(slot, value),
        )
        for slot, value in zip(found.network.topology.slots, found.values, strict=True)
    ]
    return IdealWay(
        family=found.network.topology.family, parts=parts, excess=number(found.excess), holds=found.holds
    )


def _antenna(found: Choice, content: DesignContent) -> SweptAntenna | WireAntenna | ResistorAntenna:
    """The antenna as it hangs for a way: of one that was swept, cut shorter where the way wants it."""
    antenna, share = content.antenna, found.ideal.shortened
    if not isinstance(antenna, SweptAntenna) or share == 1:
        return antenna
    return antenna.model_copy(update={"shortened": antenna.shortened * share})


def _way(found: Choice, content: DesignContent, things: list[OnShelf]) -> Way:
    below = [e for e in content.elements if e.kind == "line"]
    made = [element_of(part, things) for part in found.parts]
    refs = [ref for part in found.parts for ref in part.item.refs]
    names = [f"{ref}:{part.item.value:.4g}" for part in found.parts for ref in part.item.refs]
    return Way(
        key=" ".join([found.network.key, f"{found.ideal.shortened:g}", *names]),
        family=found.family,
        parts=[
            WayPart(
                key=p.element.key,
                place=p.slot.place,
                kind=p.slot.kind,
                value=p.item.value,
                make=p.item.make,
                quarter_wave=is_quarter_wave(p.slot, p.item.value),
            )
            for p in found.parts
        ],
        content=content.model_copy(update={"antenna": _antenna(found, content), "elements": [*made, *below]}),
        worst_swr=[number(w) for w in found.worst_swr],
        excess=number(found.excess),
        ideal_excess=number(found.ideal.excess),
        loss_db=number(found.loss_db),
        shortened=found.ideal.shortened,
        count=found.count,
        share=None if found.share is None else number(found.share),
        few_hold=found.share is not None and few_hold(found.share),
        price=found.price,
        volume_m3=found.volume_m3,
        things=[
            Thing(
                kind=thing.kind,
                name=thing.name,
                mine=thing.mine,
                price=thing.price,
                piece_id=thing.piece.id if thing.piece else None,
            )
            for thing in (things[ref] for ref in dict.fromkeys(refs))
        ],
        curve_hz=found.curve_hz.tolist(),
        curve_swr=numbers(found.curve_swr),
    )
