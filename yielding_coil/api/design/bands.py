"""Where the watts of a design go on every band, beside other lines and tuners. Nothing is kept."""

from typing import Annotated, Literal

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.design.parts_list import TunerSettingOut
from yielding_coil.api.http import Figure, Numbers, numbers, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.design import BandFlow, BandsPrediction, predict_bands
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.fields import Positive

router = router_of("design")


class BandsPredictionIn(BaseModel):
    """A design, at which power, and the mode in which warmth is told."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    mode: Literal["speech", "telegraphy", "digital"] = "speech"


class LossOut(BaseModel):
    """What stays in one thing; of a line also what it would lose matched."""

    key: str
    kind: Literal["tuner", "line", "section", "transformer", "coil", "capacitor", "stub", "wire", "loads", "ground"]
    watts: Figure
    matched_w: Figure


class WaysOut(BaseModel):
    """What is seen from a station up and down, and the watts that pass it."""

    key: str
    up_resistance_ohm: Figure
    up_reactance_ohm: Figure
    down_resistance_ohm: Figure
    down_reactance_ohm: Figure
    power_w: Figure


class WarmestOut(BaseModel):
    """What warms most, by how much over the air, and when it is two thirds of the way there."""

    key: str
    mode: str
    rise_c: Figure
    settles_s: Figure


class BandFlowOut(BaseModel):
    """One band in its middle; losses from the radio to the sky, which sum with `up_w` to the power put in."""

    label: str
    at_hz: float
    losses: list[LossOut]
    up_w: Figure
    up_low_w: Figure
    up_high_w: Figure
    # Else what goes into the wire.
    radiated: bool
    swr_antenna: Figure
    swr_box: Figure
    swr_line: Figure
    # At the radio's end of the line, above a tuner; and what the radio sees.
    swr_meter: Figure
    swr_radio: Figure
    peak_voltage_v: Figure
    voltage_at: str
    peak_current_a: Figure
    current_at: str
    # On a meter at the radio's end of the line.
    forward_w: Figure
    reflected_w: Figure
    setting: TunerSettingOut | None
    stations: list[WaysOut]
    warmest: WarmestOut | None


class AllowedOut(BaseModel):
    """The most that may be sent in a mode; null where nothing known limits it."""

    mode: str
    power_w: Figure
    by: Literal["heat", "voltage"] | None
    key: str | None
    label: str | None


class CableOnBandsOut(BaseModel):
    """One coax in place of the feedline, without a tuner; rows are lengths, their columns bands."""

    cable: str
    name: str
    here: bool
    line_w: Numbers
    up_w: list[Numbers]
    meter_swr: list[Numbers]


class TunerPlace(BaseModel):
    """A tuner nowhere, at the radio or at the antenna, by band; null where it cannot match."""

    at: Literal["nowhere", "radio", "antenna"]
    here: bool
    radio_swr: Numbers
    line_swr: Numbers
    up_w: Numbers


class BetterOut(BaseModel):
    """A change, and the least that then goes up on any band; the key of a cable, or of what gets one ring more."""

    by: Literal["cable", "tuner_nowhere", "tuner_radio", "tuner_antenna", "stack"]
    key: str
    least_w: Figure


class BandsPredictionOut(BaseModel):
    """A design band by band, what the mode allows, and other lines and tuners beside it."""

    bands: list[BandFlowOut]
    # Index of the band on which least goes up.
    least: int
    allowed: list[AllowedOut]
    lengths_m: list[float]
    cables: list[CableOnBandsOut]
    tuners: list[TunerPlace]
    # Tuners are compared by a usual one, for the design has none.
    tuner_assumed: bool
    better: list[BetterOut]
    # A choke stands beside; what it takes is not known.
    choke: bool


@router.post("/predictions/bands")
def predict_each_band(request: Request, asked: BandsPredictionIn) -> BandsPredictionOut:
    """Watts from the radio to the sky on every band of a design, and what other lines and tuners would change."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    found = predict_bands(design, asked.power_w, data.MODE_DUTY, data.cables().values(), asked.mode)
    return _out(found)


def _out(found: BandsPrediction) -> BandsPredictionOut:
    return BandsPredictionOut(
        bands=[_band(band) for band in found.bands],
        least=found.bands.index(found.least),
        allowed=[AllowedOut.model_validate(a, from_attributes=True) for a in found.allowed],
        lengths_m=list(found.lengths_m),
        cables=[
            CableOnBandsOut(
                cable=c.cable,
                name=c.name,
                here=c.here,
                line_w=numbers(c.line_w),
                up_w=[numbers(row) for row in c.up_w],
                meter_swr=[numbers(row) for row in c.meter_swr],
            )
            for c in found.cables
        ],
        tuners=[TunerPlace.model_validate(t, from_attributes=True) for t in found.tuners],
        tuner_assumed=found.tuner_assumed,
        better=[BetterOut.model_validate(b, from_attributes=True) for b in found.better],
        choke=found.choke,
    )


def _band(band: BandFlow) -> BandFlowOut:
    told = {
        name: getattr(band, name)
        for name in BandFlowOut.model_fields
        if name not in ("losses", "setting", "stations", "warmest")
    }
    return BandFlowOut(
        **told,
        losses=[LossOut.model_validate(loss, from_attributes=True) for loss in band.losses],
        setting=None
        if band.setting is None
        else TunerSettingOut.model_validate(band.setting, from_attributes=True),
        stations=[
            WaysOut(
                key=s.key,
                up_resistance_ohm=s.up_ohm.real,
                up_reactance_ohm=s.up_ohm.imag,
                down_resistance_ohm=s.down_ohm.real,
                down_reactance_ohm=s.down_ohm.imag,
                power_w=s.power_w,
            )
            for s in band.stations
        ],
        warmest=None if band.warmest is None else WarmestOut.model_validate(band.warmest, from_attributes=True),
    )
