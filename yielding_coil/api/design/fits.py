"""A finished design or a modelled antenna by a sweep of it: what it is, what cannot be told. Nothing is kept."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, ConfigDict, Field

from yielding_coil.api.http import Figure, InTransaction, Numbers, numbers, router_of
from yielding_coil.api.sweep import Antennas, antenna_of, require_corrected, trusted
from yielding_coil.core.antenna import WireFitState, fit_wire
from yielding_coil.core.arrays import Complex
from yielding_coil.core.bench import KEPT_NOISE
from yielding_coil.core.design import SlipKind, as_built
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import residual_of
from yielding_coil.core.reflection import impedance_of, swr_of, swr_of_impedance
from yielding_coil.core.wire import KINDS
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Setup

router = router_of("design")


class AsBuiltIn(BaseModel):
    """A design, and a sweep of it: below its match, or at the radio's end of its coax."""

    content: DesignContent
    sweep_id: UUID
    plane: Literal["box", "radio"] = "box"


class _Built(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class BuiltValueOut(_Built):
    """A value as it was meant and as it was built, between `low` and `high` nine times in ten.

    `known` is its doubt over the doubt before the sweep; "sd" counts standard deviations of what was expected.
    """

    element: str
    field: str
    unit: Literal["H", "F", "share", "sd"]
    planned: float
    found: float
    low: float
    high: float
    known: float


class BuildSlipOut(_Built):
    """A part made otherwise: so many turns or metres more than planned."""

    key: str
    what: SlipKind
    by: float


class SlipOddsOut(_Built):
    """How likely a slip is; null: that there was none."""

    slip: BuildSlipOut | None
    odds: float


class ChangeOut(_Built):
    """What to change, and what that buys: worst SWR over the bands, share of what it may be that holds."""

    key: str
    value_from: float
    value_to: float
    worst_now: Figure
    worst_then: Figure
    holds_now: float
    holds_then: float


class AlikeOut(BaseModel):
    """A part of which the curve says little, and what changes the curve alike."""

    one: str
    other: str


class AsBuiltOut(BaseModel):
    """What was built; curves as SWR where it was swept."""

    state: Literal["as_planned", "nothing_shows", "slipped", "cannot_tell", "no_match"]
    values: list[BuiltValueOut]
    # Those worth a word, the likeliest first; and all that were considered.
    odds: list[SlipOddsOut]
    slips: list[BuildSlipOut]
    alike: list[AlikeOut]
    untold: list[str]
    measure: str | None
    change: ChangeOut | None
    chance: float
    other_plane: bool
    holds: bool | None
    frequency_hz: Annotated[list[float], Field(max_length=60)]
    read: Numbers
    planned: Numbers
    fitted: Numbers
    low: Numbers
    high: Numbers
    # The design as it was built: what the next prediction begins from.
    content: DesignContent


@router.post("/fits")
def fit_design(request: Request, session: InTransaction, asked: AsBuiltIn) -> AsBuiltOut:
    """What a sweep of a finished design says of its parts."""
    require_corrected(session, asked.sweep_id)
    antennas: Antennas = request.app.state.antennas
    sweep = antennas.sweep(request.app, asked.sweep_id)
    design = asked.content.to_core(antenna_of(request, asked.content))
    residual = residual_of(trusted(session, asked.sweep_id)) * 3**0.5
    found = as_built(design, sweep, asked.plane, residual=residual, noise=KEPT_NOISE)
    curves = {name: abs(getattr(found, name)) for name in ("read", "planned", "fitted", "low", "high")}
    return AsBuiltOut(
        state=found.state,
        values=[BuiltValueOut.model_validate(v) for v in found.values],
        odds=[SlipOddsOut.model_validate(o) for o in found.likely],
        slips=[BuildSlipOut.model_validate(o.slip) for o in found.odds if o.slip is not None],
        alike=[AlikeOut(one=one, other=other) for one, other in found.alike],
        untold=list(found.untold),
        measure=found.measure,
        change=None if found.change is None else ChangeOut.model_validate(found.change),
        chance=found.chance,
        other_plane=found.other_plane,
        holds=found.holds,
        frequency_hz=found.frequency_hz.tolist(),
        content=asked.content.as_made(found.revised),
        **{name: numbers(swr_of(size)) for name, size in curves.items()},
    )


class WireFitIn(BaseModel):
    """A planned antenna, and a sweep of it at its feedpoint."""

    antenna: WireAntenna
    sweep_id: UUID


class MovedValueOut(_Built):
    """What strays, as planned and as found, between `low` and `high` nine times in ten.

    `sigmas` is how far it moved, in standard deviations of what was expected; `known` its doubt over that before.
    """

    name: str
    field: str
    planned: float
    found: float
    low: float
    high: float
    sigmas: float
    known: float


class WireFitOut(BaseModel):
    """What a sweep says of a planned antenna; curves as SWR against what its feed expects."""

    state: WireFitState
    values: list[MovedValueOut]
    untold: list[str]
    together: list[AlikeOut]
    wider: bool
    measure: str | None
    chance: float
    frequency_hz: Annotated[list[float], Field(max_length=60)]
    read: Numbers
    modelled: Numbers
    fitted: Numbers
    # As it hangs, for the desk to take.
    antenna: WireAntenna


@router.post("/wire-fits")
def fit_planned_wire(request: Request, session: InTransaction, asked: WireFitIn) -> WireFitOut:
    """Fit a modelled antenna to a kept sweep. Takes a second or a few."""
    require_corrected(session, asked.sweep_id)
    row = one_sweep(session, asked.sweep_id)
    setup = None if row.setup_id is None else session.get(Setup, row.setup_id)
    if setup is not None and setup.plane not in ("feedpoint", "bench"):
        raise OutOfDomainError("sweep", f"taken at the {setup.plane.replace('_', ' ')}", "one at the feedpoint")
    kind = KINDS[asked.antenna.antenna]
    if kind.by_unun:
        raise OutOfDomainError(
            "antenna", f"{kind.name}, swept behind its unun", "one that is swept at its feedpoint"
        )
    antennas: Antennas = request.app.state.antennas
    sweep = antennas.sweep(request.app, asked.sweep_id)
    found = fit_wire(
        asked.antenna.hung(), sweep, residual_of(trusted(session, asked.sweep_id)) * 3**0.5, KEPT_NOISE
    )

    def swr(gamma: Complex) -> Numbers:
        return numbers(swr_of_impedance(impedance_of(gamma), kind.feed_ohm))

    return WireFitOut(
        state=found.state,
        values=[MovedValueOut.model_validate(v) for v in found.values],
        untold=list(found.untold),
        together=[AlikeOut(one=one, other=other) for one, other in found.together],
        wider=found.wider,
        measure=found.measure,
        chance=found.chance,
        frequency_hz=found.frequency_hz.tolist(),
        read=swr(found.read),
        modelled=swr(found.modelled),
        fitted=swr(found.fitted),
        antenna=asked.antenna.as_found(found.hung),
    )
