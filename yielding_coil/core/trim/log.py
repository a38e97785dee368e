"""The log of a wire as the core takes it: readings in order, and the stretches between two acts."""

import re
from dataclasses import dataclass, field
from typing import Literal, TypeAlias

from yielding_coil.core.quantity import LengthUnit
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.target import Target
from yielding_coil.core.trim.evidence import Evidence, Weighed, dips_of
from yielding_coil.core.trim.meter_readings import ContradictionError, Dip
from yielding_coil.core.trim.moves import FOLD_MOVES
from yielding_coil.core.trim.swept_dip import dip_in
from yielding_coil.core.wire import FORMS, Arrangement, HungWire, WireForm

Swept: TypeAlias = Sweep | SwrSweep

# Two dips of one stretch this near are the same dip (dips repeat to 0.1 to 0.2 %).
AGAIN = 0.006


_LIES = re.compile(r"\b(on|at|along) the (ground|grass|lawn|floor|earth)\b|^(ground|0|0 ?(m|cm|ft|in))$", re.I)


def lies_on_ground(height: str) -> bool:
    """Whether words for a height say that the wire lies on the ground.

    >>> lies_on_ground("on the grass"), lies_on_ground("0.5 m"), lies_on_ground("0 m")
    (True, False, True)
    """
    return bool(_LIES.search(height.strip()))


@dataclass(frozen=True, slots=True)
class LogReading:
    """Something that was read on a band.

    Args:
        link: the band, counted from the highest.
        hanging: how the wire hung.
        conditions: anything that names how it was taken; readings with other words are kept apart.
        instrument: that it was read with; it does not move a dip.
        evidence: by meter; or
        sweep: a kept one. Neither where the sweep was thrown away.
        on_ground: it lay on the ground, where no sum holds.
    """

    link: int
    hanging: HungWire
    conditions: str = ""
    instrument: str = ""
    evidence: Evidence | None = None
    sweep: Swept | None = None
    on_ground: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class TrimLog:
    """The log of a wire since it went up, and how it is to be trimmed.

    Args:
        targets: the bands, highest first.
        hanging: how it hangs now; None before it went up.
        readings: oldest first.
        form, arrangement: what it is.
        aim: where in a band its dip is wanted.
        stop: when to stop: the band holds its SWR, or the dip lies where it is wanted.
        unit: of the tape.
        transformer: whether one is told to stand in the line; network whether the chosen design puts one there.
        checks: whether what stands in the line passed on its resistor, oldest first.
        bands_changed: the bands of the build are not those that it was hung for.
        practice_metre_hz: of the practised rule, the whole wire's length times its frequency; None without one.
        used_so: bands that a person said to use as they are, since they were last touched.
        moves: of each band, or one for all: what wire off its end moves a dip over what the ratio of lengths says,
            by its model.
        known_bands: among which a dip that landed elsewhere may be of use.
    """

    targets: tuple[Target, ...]
    hanging: HungWire | None
    readings: tuple[LogReading, ...] = ()
    form: WireForm = "dipole"
    arrangement: Arrangement = "linked"
    aim: Literal["middle", "low"] = "middle"
    stop: Literal["swr", "dip"] = "swr"
    unit: LengthUnit = "m"
    transformer: bool = False
    network: bool = False
    checks: tuple[bool, ...] = ()
    bands_changed: bool = False
    practice_metre_hz: float | None = None
    used_so: frozenset[int] = frozenset()
    known_bands: tuple[Target, ...] = ()
    moves: tuple[float, ...] = (1.0,)

    def moves_on(self, link: int) -> float:
        """Of a band."""
        return self.moves[link] if link < len(self.moves) else self.moves[0]

    def wanted_hz(self, link: int) -> float:
        """Where in a band its dip is wanted."""
        target = self.targets[link]
        return target.center_hz if self.aim == "middle" else target.low_hz

    def expected_hz(self, link: int, hanging: HungWire) -> float | None:
        """Where a dip lies by the length alone; None for a wire that has no resonance by its length."""
        if self.practice_metre_hz is None or not FORMS[self.form].resonant:
            return None
        leg, folded = hanging.leg(link)
        return self.practice_metre_hz / ((leg - FOLD_MOVES * folded) * FORMS[self.form].legs)

    def phases(self, link: int) -> list["TrimPhase"]:
        """The log of a band, cut where something was done to it or conditions changed."""
        out: list[TrimPhase] = []
        for reading in self.readings:
            if reading.link != link:
                continue
            reach = reading.hanging.leg(link)
            last = out[-1] if out else None
            if last is None or last.hanging.leg(link) != reach or last.conditions != reading.conditions:
                out.append(TrimPhase(reading.hanging, reading.conditions))
            out[-1].take(reading)
        for phase in out:
            phase.look(self.wanted_hz(link))
        return out


@dataclass(slots=True)
class TrimPhase:
    """The log between two acts, under one set of conditions."""

    hanging: HungWire
    conditions: str
    reads: list[Evidence] = field(default_factory=list)
    sweeps: list[Swept] = field(default_factory=list)
    instruments: list[str] = field(default_factory=list)
    # The last dip found directly, in a sweep or by hand, and the one that points add up to.
    dips: list[Dip] = field(default_factory=list)
    problem: ContradictionError | None = None
    weighed: Weighed | None = None
    on_ground: bool = False

    def take(self, reading: LogReading) -> None:
        """One reading more."""
        self.instruments.append(reading.instrument)
        self.on_ground = reading.on_ground
        if reading.sweep is not None:
            self.sweeps.append(reading.sweep)
        elif reading.evidence is not None:
            self.reads.append(reading.evidence)

    def look(self, near_hz: float) -> None:
        """What its readings say."""
        try:
            self.dips = [dip_in(sweep, near_hz) for sweep in self.sweeps]
            if self.reads:
                self.weighed, found = dips_of(self.reads)
                self.dips += found
        except ContradictionError as problem:
            self.problem = problem

    @property
    def found(self) -> list[Dip]:
        """The dips that were found."""
        return [dip for dip in self.dips if dip.side == "found"]

    @property
    def again(self) -> bool:
        """Whether another dip of the same stretch agrees with the newest: measured again, and it is so."""
        dips = [d.frequency_hz for d in self.found if d.frequency_hz is not None]
        return any(abs(d / dips[-1] - 1) <= AGAIN for d in dips[:-1])
