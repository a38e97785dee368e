"""What stands in a wire: where to put a coil, what traps bear by both schools, what a little more of it moves."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from yielding_coil.api.http import Figure, router_of
from yielding_coil.core import antenna as core
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import KINDS, EndFed, Trapped
from yielding_coil.documents.design import TargetPayload
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.wire import WireAntenna

router = router_of("wire", "/api/structures")


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class LoadedIn(BaseModel):
    """An antenna with something in its wires, on a band."""

    antenna: WireAntenna
    target: TargetPayload
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    feed_ohm: Annotated[Positive, Field(le=1e5)] | None = None

    def feed(self) -> float:
        """What its feed expects."""
        return self.feed_ohm or KINDS[self.antenna.antenna].feed_ohm


class CoilPlaceOut(_Out):
    """A coil at one place of the wire, as it brings it to the band."""

    coil_at: float
    inductance_h: float
    above_m: float
    estimate_h: float | None
    resistance_ohm: float
    radiated_w: Figure
    coil_w: Figure
    wire_w: Figure
    ground_w: Figure
    width_hz: float | None
    voltage_v: float


class CoilPlacesOut(BaseModel):
    """Places from the feed outwards; which of them radiates most."""

    places: list[CoilPlaceOut]
    most: int
    width_swr: float = core.WIDTH_SWR


@router.post("/coil-places")
def places_of_a_coil(asked: LoadedIn) -> CoilPlacesOut:
    """Where to put the coil of a short antenna: inductance, watts, width and volts over its place."""
    hung = asked.antenna.hung()
    if not isinstance(hung, core.Loaded):
        raise OutOfDomainError("antenna", asked.antenna.antenna, "loaded-vertical or loaded-dipole")
    found = core.coil_places(hung, asked.target.to_core().center_hz, asked.power_w, asked.feed())
    most = max(range(len(found)), key=lambda i: found[i].radiated_w)
    return CoilPlacesOut(places=[CoilPlaceOut.model_validate(each) for each in found], most=most)


class MovedOut(_Out):
    """What one of its numbers, a little larger, moves the dip by."""

    name: str
    added: float
    moves_hz: float


@router.post("/stretches")
def stretch_antenna(asked: LoadedIn) -> list[MovedOut]:
    """What 10 cm more of each length, or 2 % more of a coil, moves the dip on this band by."""
    found = core.moved_by(asked.antenna.hung(), asked.target.to_core().center_hz, asked.feed())
    return [MovedOut.model_validate(each) for each in found]


class BearingOut(_Out):
    """What one coil or trap bears, peaks of the sine."""

    current_a: Figure
    voltage_v: Figure
    watts: Figure


class TrapOnOut(_Out):
    """A trap on a band, by the model and by the line estimate."""

    label: str
    frequency_hz: float
    # Whether the band ends at it; on the others it is a coil in the way.
    ends: bool
    model: BearingOut
    estimate: BearingOut
    traps_w: Figure
    radiated_w: Figure
    worst_swr: Figure
    acts_as_h: float


class TrapPlanOut(BaseModel):
    """The antenna brought to both bands by a school of where to tune its traps."""

    school: Literal["inside", "below"]
    trap_hz: float
    antenna: WireAntenna
    on: list[TrapOnOut]


class TrapsOut(BaseModel):
    """As it stands, and by both schools; these are empty with one band."""

    on: list[TrapOnOut]
    schools: list[TrapPlanOut]


class TrapsIn(LoadedIn):
    """And the other bands."""

    others: list[TargetPayload] = Field(default=[], max_length=12)


@router.post("/traps")
def traps_of_an_antenna(asked: TrapsIn) -> TrapsOut:
    """What its traps bear on both bands, and what tuning them inside the upper band or just below it changes."""
    hung, target = asked.antenna.hung(), asked.target.to_core()
    if not isinstance(hung, Trapped):
        raise OutOfDomainError("antenna", asked.antenna.antenna, "trap-dipole or trap-vertical")
    others = [other.to_core() for other in asked.others]
    pair = core.pair_of(KINDS[asked.antenna.antenna], target, others)
    if pair is None:
        return TrapsOut(on=_on(core.traps_on(hung, (target,), asked.power_w)), schools=[])
    upper, lower = (next(t for t in (target, *others) if t.center_hz == f) for f in pair)
    schools = core.trap_schools(hung, (upper, lower), asked.power_w, asked.feed())
    return TrapsOut(
        on=_on(core.traps_on(hung, (upper, lower), asked.power_w)),
        schools=[
            TrapPlanOut(
                school=each.school,
                trap_hz=each.trap_hz,
                antenna=asked.antenna.with_numbers_of(each.hung),
                on=_on(each.on),
            )
            for each in schools
        ],
    )


def _on(found: tuple[core.TrapOn, ...]) -> list[TrapOnOut]:
    return [TrapOnOut.model_validate(each) for each in found]


class ReturnPathOut(_Out):
    """A school of what an end-fed wire is fed against, on the model; currents are peaks."""

    school: core.ReturnSchool
    counterpoise_m: float | None
    choke_m: float | None
    dip_hz: float | None
    resistance_ohm: float | None
    feed_a: Figure
    coax_a: Figure
    hand_moves_hz: float | None
    hand_changes: float | None


class ChokePlaceOut(BaseModel):
    """A choke so far down the shield, and the most that flows beyond it."""

    at_m: float
    coax_a: Figure


class ReturnPathsOut(BaseModel):
    """Every school at the same wire; and where a choke helps on the shield alone."""

    paths: list[ReturnPathOut]
    choke: list[ChokePlaceOut]


@router.post("/return-paths")
def compare_return_paths(asked: LoadedIn) -> ReturnPathsOut:
    """What each school does to the dip, to the current on the coax, to a hand near it. Takes some seconds."""
    hung = asked.antenna.hung()
    needed = ("wire_m", "feed_m", "far_m")
    numbers = hung.numbers
    if not set(needed) <= set(numbers):
        raise OutOfDomainError("antenna", asked.antenna.antenna, "one that is fed at its end")
    wire = EndFed(numbers["wire_m"], 1.0, numbers["feed_m"], numbers["far_m"], hung.stock, hung.ground)
    at = asked.target.to_core().center_hz
    return ReturnPathsOut(
        paths=[
            ReturnPathOut.model_validate(each) for each in core.return_paths(wire, at, asked.power_w, asked.feed())
        ],
        choke=[ChokePlaceOut(at_m=m, coax_a=a) for m, a in core.choke_places(wire, at, asked.power_w)],
    )
