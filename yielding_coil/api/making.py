"""How to make the parts of a design, and what to know about them: codes and SI values, no sentences."""

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.numbers import number
from yielding_coil.core.arrays import Real
from yielding_coil.core.line import Line, OpenCoax
from yielding_coil.core.parts import Inductor
from yielding_coil.core.system import Station, System
from yielding_coil.core.target import POINTS, judged_at
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import DesignContent, Feedline
from yielding_coil.documents.ring_wound import CoilOnRing, WoundTransformer

# Coax capacitors are cut longer and trimmed; coil ends need something to solder.
TRIM_M = 0.006
TAIL_M = 0.10


class CoilMade(BaseModel):
    """How to wind a coil. Lengths in metres; the reading is at the design's centre frequency."""

    kind: Literal["coil"] = "coil"
    key: str
    turns: float
    turns_exact: float
    former_m: float
    wire_name: str
    touching: bool
    pitch_m: float
    winding_m: float
    wire_m: float
    tail_m: float
    bare_h: float
    inductance_h: float
    reads_at_hz: float
    q: float
    self_resonance_hz: float
    peak_voltage_v: float | None
    peak_current_a: float | None


class CapacitorMade(BaseModel):
    """How to make a capacitor of coax, or which one to buy."""

    kind: Literal["coax_capacitor", "capacitor"]
    key: str
    capacitance_f: float
    # What the one in hand stands; null where none is taken from the drawer.
    stands_v: float | None
    coax_m: float | None
    cut_m: float | None
    cable_name: str | None
    peak_voltage_v: float | None
    peak_current_a: float | None


class WoundMade(BaseModel):
    """Something wound on a ring: its turns, its core, and the most that it loses on a target."""

    kind: Literal["ring_coil", "transformer"]
    key: str
    primary_turns: int
    secondary_turns: int
    wiring: str | None
    mix: str
    size: str
    stack: int
    loss_db: float | None
    peak_voltage_v: float | None
    peak_current_a: float | None


class LineMade(BaseModel):
    """The feedline: its loss with this load, and matched."""

    kind: Literal["line"] = "line"
    key: str
    cable_name: str
    length_m: float
    loss_db: float | None
    matched_loss_db: float


Made = Annotated[CoilMade | CapacitorMade | WoundMade | LineMade, Field(discriminator="kind")]


class Finding(BaseModel):
    """Something to know, as a code and its SI values; the page has the words."""

    code: str
    values: dict[str, float | str | None]


@dataclass(frozen=True, slots=True)
class Over:
    """A design over its targets at full power."""

    frequency_hz: Real
    stations: tuple[Station, ...]
    system: System
    power_w: float

    @property
    def box(self) -> int:
        """The station at which the match is judged."""
        return self.system.box

    @property
    def worst_swr(self) -> Real:
        """The worst SWR at the box, one for each target."""
        return np.asarray(self.stations[self.box].swr.reshape(-1, POINTS).max(axis=1))


def looked_at(
    content: DesignContent, system: System, power_w: float, drawn_hz: Real
) -> tuple[tuple[Station, ...], Over]:
    """The stations at the frequencies drawn, and over the targets: in one pass, which takes hardly longer."""
    frequency, _ = judged_at(content.core_targets())
    stations = system.stations(np.concatenate([drawn_hz, frequency]), power_w)
    drawn, judged = slice(0, drawn_hz.size), slice(drawn_hz.size, None)
    return (
        tuple(s.at(drawn) for s in stations),
        Over(frequency, tuple(s.at(judged) for s in stations), system, power_w),
    )


def made_of(content: DesignContent, over: Over) -> list[Made]:
    """How to make each element; peaks are the worst over the targets."""
    center = content.center_hz
    made: list[Made] = []
    parts = [e.part for e in over.system.elements]
    for element, part, station in zip(content.elements, parts, over.stations[1:], strict=True):
        volts = number(np.nanmax(station.peak_voltage_v, initial=0.0))
        amps = number(np.nanmax(station.peak_current_a, initial=0.0))
        if isinstance(element, Coil):
            turns, exact = element.turns(center), element.exact_turns(center)
            assert isinstance(part, Inductor)
            wound = element.solenoid(turns)
            made.append(
                CoilMade(
                    key=element.key,
                    turns=turns,
                    turns_exact=exact,
                    former_m=element.former_m,
                    wire_name=element.wire_row.name,
                    touching=element.pitch_m is None,
                    pitch_m=wound.pitch_m,
                    winding_m=wound.length_m,
                    wire_m=wound.wire_length_m,
                    tail_m=TAIL_M,
                    bare_h=float(part.inductance_h),
                    inductance_h=element.inductance_h,
                    reads_at_hz=center,
                    q=float(part.q),
                    self_resonance_hz=wound.self_resonance_hz,
                    peak_voltage_v=volts,
                    peak_current_a=amps,
                )
            )
        elif isinstance(element, Feedline):
            assert isinstance(part, Line)
            line = part
            above = over.stations[content.elements.index(element)]
            middle = POINTS // 2
            load = complex(above.impedance_ohm[middle])
            made.append(
                LineMade(
                    key=element.key,
                    cable_name=line.cable.name,
                    length_m=element.length_m,
                    loss_db=number(line.loss_db(over.frequency_hz[middle], load)) if load.real > 0 else None,
                    matched_loss_db=float(line.matched_loss_db(center)),
                )
            )
        elif isinstance(element, CoilOnRing | WoundTransformer):
            above = over.stations[content.elements.index(element)]
            with np.errstate(divide="ignore", invalid="ignore"):
                loss = 10 * np.log10((above.power_w + station.loss_w) / above.power_w)
            made.append(
                WoundMade(
                    kind=element.kind,
                    key=element.key,
                    primary_turns=element.primary_turns if element.kind == "transformer" else element.turns,
                    secondary_turns=element.secondary if element.kind == "transformer" else element.turns,
                    wiring=element.wiring if element.kind == "transformer" else None,
                    mix=element.core.mix,
                    size=element.core.size,
                    stack=element.core.stack,
                    loss_db=number(np.nanmax(loss, initial=0.0)),
                    peak_voltage_v=volts,
                    peak_current_a=amps,
                )
            )
        else:
            coax = part if isinstance(part, OpenCoax) else None
            made.append(
                CapacitorMade(
                    kind=element.kind,
                    key=element.key,
                    capacitance_f=element.capacitance_f,
                    stands_v=element.piece.values.get("voltage_v") if element.piece else None,
                    coax_m=coax.length_m if coax else None,
                    cut_m=coax.length_m + TRIM_M if coax else None,
                    cable_name=coax.cable.name if coax else None,
                    peak_voltage_v=volts,
                    peak_current_a=amps,
                )
            )
    return made


def findings_of(content: DesignContent, over: Over, made: list[Made]) -> list[Finding]:
    """What else to know, the voltage that occurs at full power first."""
    volts = [float(np.nanmax(s.voltage_v, initial=0.0)) for s in over.stations[: over.box + 1]]
    where = int(np.argmax(volts))
    found = [
        Finding(
            code="rf_voltage",
            values={"voltage_v": number(volts[where]), "power_w": over.power_w, "at": over.stations[where].key},
        )
    ]
    for item in made:
        if isinstance(item, CoilMade):
            ratio = item.reads_at_hz / item.self_resonance_hz
            if ratio > 0.3:
                found.append(
                    Finding(
                        code="near_self_resonance" if ratio > 0.5 else "own_capacitance",
                        values={"key": item.key, "ratio": ratio, "self_resonance_hz": item.self_resonance_hz},
                    )
                )
        if isinstance(item, CapacitorMade) and item.stands_v and (item.peak_voltage_v or 0) > item.stands_v:
            found.append(
                Finding(
                    code="capacitor_too_low",
                    values={"key": item.key, "voltage_v": item.peak_voltage_v, "stands_v": item.stands_v},
                )
            )
    for element in content.elements:
        row = element.row if isinstance(element, Feedline) else data.cables().get(getattr(element, "cable", ""))
        if row and row.lowest_hz and content.center_hz < row.lowest_hz:
            found.append(Finding(code="cable_off_its_law", values={"key": element.key, "below_hz": row.lowest_hz}))
    return found
