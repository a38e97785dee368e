"""The analyser: what is connected, how, and what is screwed on where the bench is a simulated one."""

import contextlib
from typing import Annotated, Literal

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.analyser.building import build_text
from yielding_coil.analyser.link import AnalyserBusyError, Link
from yielding_coil.analyser.practice import TUNER_ROUNDS, WireEnd, antenna_text, tuner_text, winding_text
from yielding_coil.analyser.transport import plain_address, serial_ports
from yielding_coil.api.http import Asking, Problem, problem_of, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.tuner import inside
from yielding_coil.documents.design import DesignContent, RadioTuner, wound_of
from yielding_coil.documents.dials import DialsIn
from yielding_coil.documents.ring_wound import WoundTransformer
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.store.builds import settings

router = router_of("analyser", "/api/analyser")


class LinkIn(BaseModel):
    """What to connect to: nothing, the simulated analyser, or one at host:port or a serial port, by a profile."""

    kind: Literal["none", "simulated", "address"]
    address: str = Field(default="", max_length=120)
    profile: str = Field(default="plain", max_length=40)


class BenchIn(BaseModel):
    """What to screw on; only where the bench is a simulated one."""

    thing: str = Field(max_length=40, pattern="^[a-z0-9-]+$")
    # Of the dipole to be trimmed: what hands made of each leg.
    leg_m: float | None = Field(default=None, ge=0.1, le=100)
    folded_m: float = Field(default=0.0, ge=0, le=100)


class PracticeIn(BaseModel):
    """A wound element of a design for the simulated bench: in which set-up, right or with which fault, or any."""

    content: DesignContent
    key: str
    setup: str = Field(max_length=20)
    fault: str = Field(default="none", max_length=40, pattern="^[a-z_]+$")


class BuildThereIn(BaseModel):
    """A design for the simulated bench: as meant within its tolerances, or with a slip that is not told."""

    content: DesignContent
    plane: Literal["box", "radio"] = "box"
    fault: Literal["none", "any"] = "none"


class Named(BaseModel):
    """Something to choose."""

    key: str
    label: str


class AnalyserOut(BaseModel):
    """The analyser and its link."""

    kind: Literal["none", "simulated", "address"]
    address: str
    profile: str
    connected: bool
    busy: bool
    identity: str | None
    low_hz: float | None
    high_hz: float | None
    problem: Problem | None
    simulated: Literal["absent", "stopped", "running"]
    profiles: list[Named]
    # Serial ports of the computer that runs the application.
    serial_ports: list[str]
    # Of a simulated bench: what can be screwed on, and what is.
    bench: list[Named]
    thing: str | None


def link_of(request: Request) -> Link:
    """The application's one link."""
    link: Link = request.app.state.link
    return link


def _out(link: Link) -> AnalyserOut:
    instrument = link.connected
    bench: list[Named] = []
    thing = None
    if instrument is not None and link.kind == "simulated" and not link.busy:
        # A sweep may begin between the two looks: then its bench is said the next time.
        with contextlib.suppress(AnalyserBusyError), link.using(sweeping=False) as simulated:
            thing = simulated.thing()
            for said in simulated.things():
                key, _, label = said.partition("=")
                bench.append(Named(key=key, label=label))
    return AnalyserOut(
        kind=link.kind,
        address=link.address,
        profile=link.profile_key,
        connected=link.connected is not None,
        busy=link.busy,
        identity=instrument.identity if instrument else None,
        low_hz=instrument.low_hz if instrument else None,
        high_hz=instrument.high_hz if instrument else None,
        problem=None if link.problem is None else problem_of(link.problem),
        simulated="absent" if link.simulated is None else "running" if link.simulated.running else "stopped",
        profiles=[Named(key=row.key, label=row.name) for row in link.profiles.values()],
        serial_ports=serial_ports(),
        bench=bench,
        thing=thing,
    )


@router.get("")
def analyser(request: Request) -> AnalyserOut:
    """What is connected, and what became of it."""
    link = link_of(request)
    link.look()
    return _out(link)


class NotAllowedError(RefusedError):
    """The owner has not said that a device may connect there."""

    code = "not_allowed"
    status = 403


@router.put("/link")
def connect(request: Request, caller: Asking, asked: LinkIn) -> AnalyserOut:
    """Connect to another analyser; the simulated one is started when it does not run.

    From a paired device only to what the owner allows: other services of this computer and its network are none of
    its business.
    """
    link = link_of(request)
    if asked.kind == "address" and not caller.is_owner:
        plain = plain_address(asked.address)
        with Session(request.app.state.engine) as session, session.begin():
            allowed = settings(session).analysers
        if plain not in allowed:
            raise NotAllowedError(
                f"a paired device may not connect to {plain}; on the computer that runs the application, add it "
                "on the page “Devices”",
                field="address",
                came_in=plain,
            )
    link.connect(asked.kind, asked.address, asked.profile)
    return _out(link)


@router.put("/bench")
def screw_on(request: Request, asked: BenchIn) -> AnalyserOut:
    """Screw something on to the simulated analyser."""
    link = link_of(request)
    with link.using(sweeping=False) as instrument:
        instrument.screw_on(asked.thing)
        if asked.leg_m is not None:
            instrument.hang(asked.leg_m, asked.folded_m)
    return _out(link)


class WireEndIn(BaseModel):
    """The wire of a band as hands have cut and folded it, from the feed to its end."""

    near_hz: Annotated[float, Field(ge=1e4, le=1e9)]
    leg_m: Annotated[float, Field(gt=0.05, le=1000)]
    folded_m: Annotated[float, Field(ge=0, le=1000)] = 0.0


class HangIn(BaseModel):
    """A planned antenna for the simulated site, as hands have cut and folded it; behind its unun, if any."""

    antenna: WireAntenna
    # Of each band that it is trimmed on, the highest first; as planned when left out.
    hands: list[WireEndIn] = Field(default=[], max_length=12)
    unun: WoundTransformer | None = None


@router.put("/bench/hung")
def hang_there(request: Request, asked: HangIn) -> AnalyserOut:
    """Hang a planned antenna on the simulated site, for practice: height, soil, wet and company are its own."""
    unun = None if asked.unun is None else asked.unun.to_core()
    hands = [WireEnd(each.near_hz, each.leg_m, each.folded_m) for each in asked.hands]
    text = antenna_text(asked.antenna.hung(), asked.antenna.antenna, hands, unun)
    link = link_of(request)
    with link.using(sweeping=False) as instrument:
        instrument.hang_up(text)
    return _out(link)


class TunerRoundOut(BaseModel):
    """An antenna to practise at with a tuner, and the band on which."""

    number: int
    label: str
    band: str
    low_hz: float
    high_hz: float


@router.get("/bench/tuner/rounds")
def tuner_rounds() -> list[TunerRoundOut]:
    """What there is to practise at with a tuner, from easy to hard."""
    return [TunerRoundOut(number=i, **r._asdict()) for i, r in enumerate(TUNER_ROUNDS)]


class TuneIn(BaseModel):
    """The dials of a tuner on the simulated bench, before the antenna of a round."""

    round: int = Field(default=0, ge=0, le=10_000)
    # How far its dials are off: 5 or 20 % at most.
    level: Literal["easy", "hard"] = "easy"
    tuner: RadioTuner
    dials: DialsIn
    # False: the power passes by the tuner.
    in_line: bool = True


@router.put("/bench/tuner")
def tune_there(request: Request, asked: TuneIn) -> AnalyserOut:
    """Turn the dials of a tuner on the simulated bench, for practice, and screw its input on."""
    tuner, dials = asked.tuner.tuner(), asked.dials.to_core()
    if dials.side is not None and not (dials.side in tuner.sides and bool(inside(tuner, dials))):
        raise OutOfDomainError("dials", "a dial beyond its stops", "each control between its stops")
    text = tuner_text(asked.round, asked.level, tuner, dials, asked.in_line)
    link = link_of(request)
    with link.using(sweeping=False) as instrument:
        instrument.tune(text)
    return _out(link)


@router.put("/bench/wound")
def wind_there(request: Request, asked: PracticeIn) -> AnalyserOut:
    """Wind an element of a design on the simulated bench, for practice, and screw it on."""
    element = wound_of(asked.content, asked.key).to_core()
    text = winding_text(element, asked.content.center_hz, asked.setup, asked.fault)
    link = link_of(request)
    with link.using(sweeping=False) as instrument:
        instrument.wind(text)
    return _out(link)


@router.put("/bench/built")
def build_there(request: Request, asked: BuildThereIn) -> AnalyserOut:
    """Build a whole match on the simulated bench, for practice, and screw its lower end on."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    text = build_text(design, asked.fault, at_radio=asked.plane == "radio")
    link = link_of(request)
    with link.using(sweeping=False) as instrument:
        instrument.build(text)
    return _out(link)
