"""The log of a build: what happened to its wire, and how the wire is to be cut."""

from collections.abc import Sequence
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, TypeAdapter

from yielding_coil import data
from yielding_coil.core import target as core_target
from yielding_coil.core import wire as core
from yielding_coil.core.antenna import cut_pieces, moves_by_length, pair_of
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.wire import USUAL_ADDED, ActOn, Arrangement, HungUp, HungWire, ReadOn, WireAct, WireForm
from yielding_coil.documents.fault import FaultBegunData, FaultMendedData, FaultTestData
from yielding_coil.documents.fields import Counted, LeavesWire, Payload, Words
from yielding_coil.documents.meter_reading import AnyRead
from yielding_coil.documents.wire import WireAntenna

WireLength = Annotated[float, Field(gt=0, le=1e4, allow_inf_nan=False)]


class WirePlan(Payload):
    """How a wire is to be cut and trimmed, version 1."""

    version: Literal[1] = 1
    form: WireForm = "dipole"
    arrangement: Arrangement = "linked"
    # Of the table of lengths; the form's first when it is not one of the form's.
    rule: Annotated[str, Field(max_length=40)] = "dipole-practice"
    covered: bool = False
    corners: Literal[3, 4] = 4
    added: Annotated[float, Field(ge=0, le=0.3)] = USUAL_ADDED
    # Where in the band the dip is wanted.
    aim: Literal["middle", "low"] = "middle"
    # When to stop: the band holds its SWR, or the dip lies where it is wanted.
    stop: Literal["swr", "dip"] = "swr"
    # A transformer or a network in the line is to pass on its resistor first.
    transformer: bool = False
    # Somebody said that this wire is for practice: sweeps of the simulated analyser may enter its log.
    practice: bool = False
    # As it is planned to hang; and the pull on its ends, as usual when left out.
    antenna: WireAntenna | None = None
    # As somebody passed it on; and what the feed expects, as its kind asks for when left out.
    recipe: WireAntenna | None = None
    feed_ohm: Annotated[float, Field(ge=1, le=1e5)] | None = None
    pull_n: Annotated[float, Field(ge=1, le=5000)] | None = None

    def trimmed_on(self, targets: Sequence[core_target.Target]) -> list[int]:
        """Which of a build's bands its wires are trimmed on, by their places.

        Of one wire the first; of one that serves two at once that and the nearest; of a set all.
        """
        if not self.in_sets:
            return [0]
        kind = None if self.antenna is None else core.KINDS[self.antenna.antenna]
        if kind is None or kind.bands == 1:
            return list(range(len(targets)))
        pair = pair_of(kind, targets[0], targets[1:]) or (targets[0].center_hz,)
        return [i for i, target in enumerate(targets) if target.center_hz in pair]

    @property
    def in_sets(self) -> bool:
        """Whether several wires of it serve several bands; else one wire is trimmed on the first band."""
        return self.antenna is None or core.FORMS[self.form].in_sets

    def moves_of(self, targets: Sequence[core_target.Target]) -> tuple[float, ...]:
        """The same of each band that is trimmed, the highest first; of a set by the antenna that is planned."""
        together = self.antenna is not None and core.KINDS[self.antenna.antenna].bands > 1
        own = sorted((t.center_hz for t in targets), reverse=True) if together else [targets[0].center_hz]
        return tuple(self.moves(f) for f in own)

    def moves(self, near_hz: float) -> float:
        """What wire off its end moves its dip over what the ratio of lengths says, by its model if it has one."""
        if self.antenna is None:
            return 1.0
        kind = core.KINDS[self.antenna.antenna]
        if not kind.resonant:
            return 1.0
        return moves_by_length(self.antenna.hung(), near_hz, self.feed_ohm or kind.feed_ohm)

    def pieces(self, targets: Sequence[core_target.Target], unit: LengthUnit = "m") -> tuple[core.Piece, ...]:
        """What to cut of wire: as its antenna is modelled, else by the rule of its form, where there is one.

        Raises:
            OutOfDomainError: an antenna that cannot hang so.
        """
        if self.antenna is not None:
            return cut_pieces(self.antenna.hung(), targets[0].center_hz, self.added, unit)
        rules = list(data.lengths().values())
        if not core.rules_for(self.form, rules, self.corners):
            return ()
        bands = [core.Band(t.label, t.center_hz) for t in targets]
        return core.cut_list(self.to_core(), bands, rules, unit).cuts

    def require_hangs(self) -> None:
        """Raise OutOfDomainError where its antenna, or the recipe that it is held against, cannot hang so."""
        for antenna in (self.antenna, self.recipe):
            if antenna is not None:
                antenna.hung().structure()

    def to_core(self) -> core.CutPlan:
        """How it is to be cut."""
        return core.CutPlan(
            form=self.form,
            arrangement=self.arrangement,
            rule=self.rule,
            covered=self.covered,
            corners=self.corners,
            added=self.added,
        )


class HungData(Payload):
    """It went up: one leg from the feedpoint to where each band ends, highest band first."""

    kind: Literal["hung"] = "hung"
    form: WireForm = "dipole"
    arrangement: Arrangement = "linked"
    reach_m: list[WireLength] = Field(min_length=1, max_length=12)
    # How much of each piece is folded back as it goes up.
    folded_m: list[Annotated[float, Field(ge=0, le=1e4, allow_inf_nan=False)]] = Field(default=[], max_length=12)

    def event(self) -> HungUp:
        """What became of the wire."""
        return HungUp(tuple(self.reach_m), self.arrangement, tuple(self.folded_m))


class CutData(Payload):
    """Something was done to the piece of a band, one amount a leg."""

    kind: Literal["cut"] = "cut"
    link: int = Field(default=0, ge=0, le=11)
    act: WireAct
    per_leg_m: list[WireLength] = Field(default=[], max_length=2)

    def event(self) -> ActOn:
        """What became of the wire."""
        return ActOn(self.link, self.act, tuple(self.per_leg_m))


class ReadingData(Payload):
    """Something was read on a band."""

    kind: Literal["reading"] = "reading"
    link: int = Field(default=0, ge=0, le=11)
    reading: AnyRead

    def event(self) -> ReadOn:
        """On which band."""
        return ReadOn(self.link)


class CheckData(LeavesWire):
    """What is in the line was put on a resistor in place of the antenna."""

    kind: Literal["bench_check"] = "bench_check"
    passed: bool
    # What was swept, of which design, and what its verdict stated, where there was one.
    key: Annotated[Words, Field(max_length=40)] = ""
    design_id: UUID | None = None
    setup: Annotated[Words, Field(max_length=20)] = ""
    stated: list[Annotated[Words, Field(max_length=40)]] = Field(default=[], max_length=12)


class UseSoData(Payload):
    """A band is used as it now is, whatever the rules say: the word of a person."""

    kind: Literal["use_so"] = "use_so"
    link: int = Field(default=0, ge=0, le=11)

    def event(self) -> ReadOn:
        """On which band."""
        return ReadOn(self.link)


class NoteData(LeavesWire):
    """Words alone."""

    kind: Literal["note"] = "note"


class BuiltData(LeavesWire):
    """It was built by this state of a design."""

    kind: Literal["built"] = "built"
    design_id: UUID
    number: Counted


# Comparing two antennas within minutes, a report from a beacon or a listener, a contact made.
Evidence = Literal["comparison", "report", "contact"]


class OnAirData(LeavesWire):
    """Something that the air told: worth keeping, weak as a proof."""

    kind: Literal["on_air"] = "on_air"
    evidence: Evidence
    band: Annotated[Words, Field(max_length=60)] = ""
    # What it was compared with, and how much stronger this one was, decibels.
    against: Annotated[Words, Field(max_length=120)] = ""
    stronger_db: Annotated[float, Field(ge=-60, le=60, allow_inf_nan=False)] | None = None


class CheckedAgainData(LeavesWire):
    """The same winding swept again after something was done to it: glue, ties, the box."""

    kind: Literal["checked_again"] = "checked_again"
    # What was done between the two sweeps, and of which wound thing.
    after: Annotated[Words, Field(max_length=60)]
    key: Annotated[Words, Field(max_length=40)] = ""
    before_sweep_id: UUID


class DoneData(LeavesWire):
    """It is good enough: a person's word."""

    kind: Literal["done"] = "done"


class RemindData(LeavesWire):
    """What to look at again, and when."""

    kind: Literal["remind"] = "remind"
    when: Literal["after_storm", "in_a_year"]


class PositionRemovedData(LeavesWire):
    """Where a photograph was taken was taken out of it."""

    kind: Literal["position_removed"] = "position_removed"
    photograph: Annotated[Words, Field(max_length=255)]


EntryIs = (
    HungData
    | CutData
    | ReadingData
    | CheckData
    | UseSoData
    | NoteData
    | BuiltData
    | OnAirData
    | CheckedAgainData
    | DoneData
    | RemindData
    | PositionRemovedData
    | FaultBegunData
    | FaultTestData
    | FaultMendedData
)
EntryData = Annotated[EntryIs, Field(discriminator="kind")]
_ENTRY: TypeAdapter[EntryIs] = TypeAdapter(EntryData)
EntryText = Annotated[Words, Field(max_length=2000)]


def read_entry(kept: dict[str, Any]) -> EntryIs:
    """What a kept entry says."""
    return _ENTRY.validate_python(kept)


def used_so(said: Sequence[EntryIs]) -> frozenset[int]:
    """Bands that a person said to use as they are, and that nothing was done to since."""
    out: set[int] = set()
    for each in said:
        if isinstance(each, HungData):
            out.clear()
        elif isinstance(each, CutData):
            # A cut nearer the feedpoint moves every longer band as well.
            out = {link for link in out if link < each.link}
        elif isinstance(each, UseSoData):
            out.add(each.link)
    return frozenset(out)


def replay(said: Sequence[EntryIs]) -> list[HungWire | None]:
    """How the wire hung after each entry; None before it went up.

    Raises:
        OutOfDomainError: an act on a wire that does not hang yet, or that it cannot have had.
    """
    return core.replay([each.event() for each in said])
