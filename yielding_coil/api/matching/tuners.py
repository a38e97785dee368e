"""A tuner at the radio: its settings for a load, and which knob to turn by what an analyser shows."""

from typing import Annotated, Literal

import numpy as np
from fastapi import Request
from pydantic import BaseModel, Field, model_validator

from yielding_coil.api.design import TunerSettingOut
from yielding_coil.api.http import Figure, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.system import System
from yielding_coil.core.tuner import LOSSY_SHARE, Seen, advise_turn, choices_of, shortest_way
from yielding_coil.documents.design import DesignContent, RadioTuner
from yielding_coil.documents.dials import DialsIn
from yielding_coil.documents.fields import Hertz, Positive

router = router_of("matching")

# Frequencies of a band at which settings are judged; odd, for the middle is one.
BAND_POINTS = 9


class TunerChoicesIn(BaseModel):
    """A design, and which of its targets; its tuner, or a usual one where it has none."""

    content: DesignContent
    target: int = Field(ge=0, le=11)
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0


class TunerChoiceOut(BaseModel):
    """One setting at full power: its loss, its volts, the SWR that it leaves in the middle and over the band."""

    setting: TunerSettingOut
    loss_w: Figure
    peak_voltage_v: Figure
    middle_swr: Figure
    worst_swr: Figure
    merits: list[Literal["least loss", "least volts", "most capacitance", "best over the band", "nearest"]]


class TunerChoicesOut(BaseModel):
    """Settings to choose from, least loss first; else the nearest that the tuner can."""

    choices: list[TunerChoiceOut]
    reached: bool
    # Whether the one with most capacitance loses least here; null where there is but one.
    capacitance_rule: bool | None
    # How many of them lose more than a share worth a word, and that many watts.
    lossy: int
    lossy_w: Figure
    load_resistance_ohm: Figure
    load_reactance_ohm: Figure
    assumed: bool


@router.post("/tuners/choices")
def tuner_choices(request: Request, asked: TunerChoicesIn) -> TunerChoicesOut:
    """Every setting of a tuner for one band of a design, ranked by loss."""
    content = asked.content
    if asked.target >= len(content.targets):
        raise NotFoundError(
            f"this design has no target number {asked.target}",
            field="target",
            came_in=str(asked.target),
            accepted=f"0 to {len(content.targets) - 1}",
        )
    tuner = next((e for e in content.elements if isinstance(e, RadioTuner)), None)
    design = content.to_core(antenna_of(request, content))
    target = design.targets[asked.target]
    system = design.system()
    above = System(system.antenna, system.elements[: -1 if tuner else None])
    f = np.linspace(target.low_hz, target.high_hz, BAND_POINTS)
    load = above.impedance(f)
    found = choices_of((tuner or RadioTuner(key="tuner")).tuner(), f, load, asked.power_w)
    middle = complex(load[BAND_POINTS // 2])
    return TunerChoicesOut(
        choices=[TunerChoiceOut.model_validate(c, from_attributes=True) for c in found.choices],
        reached=found.reached,
        capacitance_rule=found.capacitance_rule,
        lossy=found.lossy(asked.power_w),
        lossy_w=LOSSY_SHARE * asked.power_w,
        load_resistance_ohm=middle.real,
        load_reactance_ohm=middle.imag,
        assumed=tuner is None,
    )


class SeenIn(BaseModel):
    """A sweep at the tuner's input, and where the dials stood."""

    dials: DialsIn
    frequency_hz: list[Hertz] = Field(min_length=1, max_length=801)
    gamma_real: list[Annotated[float, Field(ge=-2, le=2)]] = Field(min_length=1, max_length=801)
    gamma_imag: list[Annotated[float, Field(ge=-2, le=2)]] = Field(min_length=1, max_length=801)

    @model_validator(mode="after")
    def _alike(self) -> "SeenIn":
        if not len(self.frequency_hz) == len(self.gamma_real) == len(self.gamma_imag):
            raise ValueError("frequency_hz, gamma_real and gamma_imag: one value each for every frequency")
        if any(b <= a for a, b in zip(self.frequency_hz, self.frequency_hz[1:], strict=False)):
            raise ValueError("frequency_hz: ascending")
        return self

    def to_core(self) -> Seen:
        """For the core."""
        gamma = np.array(self.gamma_real) + 1j * np.array(self.gamma_imag)
        return Seen(self.dials.to_core(), np.array(self.frequency_hz), gamma)


class AdviceIn(BaseModel):
    """A tuner by its dials, and what was seen so far, the newest last."""

    tuner: RadioTuner
    seen: list[SeenIn] = Field(min_length=1, max_length=64)
    aim: Literal["middle", "band"] = "middle"


class DialOut(BaseModel):
    """What the sweeps tell of a dial: how much more there is than it says, relative, and one standard deviation."""

    control: Literal["output", "coil", "input", "switch"]
    error: float
    doubt: float
    # Off for sure, and known well enough to be told.
    known: bool


class AdviceOut(BaseModel):
    """Which control, where to, and what it should then read."""

    kind: Literal["turn", "there", "compromise", "nothing_moved", "cannot"]
    swr: Figure
    worst_swr: Figure
    control: Literal["output", "coil", "input", "switch"] | None
    # Farad or henry of the dial; null for the switch, whose side is `side`.
    to: Figure
    side: Literal["tee", "antenna", "radio"] | None
    more: bool | None
    # Not exceeded after the turn, nine times in ten.
    expected_swr: Figure
    best_swr: Figure
    moves: int
    dials: list[DialOut]


class WayIn(BaseModel):
    """A tuner by its dials, and all that was seen on the way, in order."""

    tuner: RadioTuner
    seen: list[SeenIn] = Field(min_length=1, max_length=64)


class StepOut(BaseModel):
    """One turn: which control, where all dials stand after it, Γ in the middle then."""

    control: Literal["output", "coil", "input", "switch"]
    setting: TunerSettingOut
    gamma_real: Figure
    gamma_imag: Figure


@router.post("/tuners/ways")
def shortest_tuner_way(asked: WayIn) -> list[StepOut]:
    """The fewest turns that would have led from the first sweep to a match, by all that the sweeps tell."""
    return [
        StepOut(
            control=step.control,
            setting=TunerSettingOut.model_validate(step.setting, from_attributes=True),
            gamma_real=step.reflection.real,
            gamma_imag=step.reflection.imag,
        )
        for step in shortest_way(asked.tuner.tuner(), [one.to_core() for one in asked.seen])
    ]


@router.post("/tuners/advice")
def tuner_advice(asked: AdviceIn) -> AdviceOut:
    """The next turn of a tuner's knobs, by what an analyser at its input shows."""
    found = advise_turn(asked.tuner.tuner(), [one.to_core() for one in asked.seen], asked.aim)
    return AdviceOut(
        kind=found.kind,
        swr=found.swr,
        worst_swr=found.worst_swr,
        control=found.control,
        to=found.to if isinstance(found.to, float) else None,
        side=found.to if isinstance(found.to, str) else None,
        more=found.more,
        expected_swr=found.expected_swr,
        best_swr=found.best_swr,
        moves=found.moves,
        dials=[DialOut.model_validate(d, from_attributes=True) for d in found.dials],
    )
