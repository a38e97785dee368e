"""How the parts of a design are made, as it travels."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from yielding_coil.api.http import Figure


class CoilMade(BaseModel):
    """How to wind a coil. Lengths in metres; the reading is at the design's centre frequency.

    `cut_m` is the wire to cut: a turn more than planned, both tails, some slack.
    """

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
    cut_m: float
    bare_h: float
    inductance_h: float
    reads_at_hz: float
    q: float
    self_resonance_hz: float
    peak_voltage_v: Figure
    peak_current_a: Figure


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
    peak_voltage_v: Figure
    peak_current_a: Figure


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
    loss_db: Figure
    peak_voltage_v: Figure
    peak_current_a: Figure


class LineMade(BaseModel):
    """The feedline: its loss with this load, and matched."""

    kind: Literal["line"] = "line"
    key: str
    cable_name: str
    length_m: float
    loss_db: Figure
    matched_loss_db: float


class SectionMade(BaseModel):
    """A length of line to cut; `pieces` of it lie side by side."""

    kind: Literal["section"] = "section"
    key: str
    cable_name: str
    impedance_ohm: float
    velocity_factor: float
    length_m: float
    pieces: int
    degrees: float
    loss_db: Figure
    peak_voltage_v: Figure
    peak_current_a: Figure


class StubMade(BaseModel):
    """A stub to cut longer, and to trim."""

    kind: Literal["stub"] = "stub"
    key: str
    cable_name: str
    impedance_ohm: float
    velocity_factor: float
    length_m: float
    cut_m: float
    end: Literal["open", "shorted"]
    degrees: float
    peak_voltage_v: Figure
    peak_current_a: Figure
    coax: bool


class TunerSettingOut(BaseModel):
    """Where a tuner's controls stand; null what it does not have. Without a side it is switched out."""

    side: Literal["tee", "antenna", "radio"] | None
    output_f: Figure
    coil_h: Figure
    input_f: Figure


class TunerMade(BaseModel):
    """A tuner at the radio: how it is set on every target, and whether each matches."""

    kind: Literal["tuner"] = "tuner"
    key: str
    settings: list[TunerSettingOut]
    reached: list[bool]
    peak_voltage_v: Figure
    peak_current_a: Figure
    stands_v: float | None


PartToMake = Annotated[
    CoilMade | CapacitorMade | WoundMade | SectionMade | StubMade | LineMade | TunerMade,
    Field(discriminator="kind"),
]
