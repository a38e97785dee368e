"""Calibrations: begun, checked, named, chosen, put in the bin."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

import numpy as np
from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import CalibrationFinding, InTransaction, number, router_of
from yielding_coil.api.sweep import Antennas
from yielding_coil.core import calibration as core
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of
from yielding_coil.documents.fields import Counted, Hertz, NotNegative, Payload, SpreadOf, Words
from yielding_coil.store import calibrations as queries
from yielding_coil.store.revised import edit
from yielding_coil.store.tables import Calibration

router = router_of("analyser", "/api/calibrations")

Name = Annotated[Words, Field(min_length=1, max_length=120)]
MOST_POINTS = 2001
Small = Annotated[float, Field(ge=-1e-9, le=1e-6, allow_inf_nan=False)]
Offset = Annotated[float, Field(ge=-0.5, le=0.5, allow_inf_nan=False)]


class KitIn(Payload):
    """What short, open and load are; ideal when left out. Spreads are two standard deviations."""

    load_ohm: Annotated[float, Field(ge=1, le=1000)] = 50.0
    open_f: Small = 0.0
    short_h: Small = 0.0
    open_offset_m: Offset = 0.0
    short_offset_m: Offset = 0.0
    load_spread: SpreadOf = 0.01
    open_spread_f: Annotated[NotNegative, Field(le=1e-9)] = 0.1e-12
    short_spread_h: Annotated[NotNegative, Field(le=1e-6)] = 0.2e-9


class CalibrationIn(BaseModel):
    """A new calibration: over which range, at which plane, with which standards."""

    name: Name
    plane: Annotated[Words, Field(max_length=120)] = "end of the test lead"
    low_hz: Hertz
    high_hz: Hertz
    points: int = Field(default=401, ge=11, le=MOST_POINTS)
    kit: KitIn = KitIn()


class CalibrationPatch(BaseModel):
    """Another name, or other standards, on a revision."""

    revision: Counted
    name: Name | None = None
    kit: KitIn | None = None


class StandardOut(BaseModel):
    """A standard that was swept."""

    at: datetime
    passes: int
    noise_rms: float


class CalibrationOut(BaseModel):
    """A calibration, what is still to do, what looks wrong, and what was left at the check."""

    id: UUID
    revision: Counted
    name: str
    plane: str
    instrument: str
    made_at: datetime
    age_h: float
    low_hz: float
    high_hz: float
    points: int
    kit: KitIn
    standards: dict[Literal["short", "open", "load"], StandardOut]
    complete: bool
    slips: list[CalibrationFinding]
    residual_db: float | None
    residual_kind: Literal["as_good", "fair", "moved", "no_load"] | None


class Meaning(BaseModel):
    """What a residual and the standards make of one antenna: how far its readings may be off."""

    frequency_hz: float
    resistance_ohm: float
    reactance_ohm: float
    swr: float | None
    residual_db: float
    impedance_share: float
    low_swr: float | None
    high_swr: float | None


def calibration_out(row: Calibration) -> CalibrationOut:
    """As it travels."""
    raw = queries.raw_of(row)
    found = core.slips(raw, queries.grid_of(row))
    return CalibrationOut(
        id=row.id,
        revision=row.revision,
        name=row.name,
        plane=row.plane,
        instrument=row.instrument,
        made_at=row.made_at,
        age_h=queries.age_h(row),
        low_hz=row.low_hz,
        high_hz=row.high_hz,
        points=row.points,
        kit=KitIn.model_validate(row.kit),
        standards={name: StandardOut.model_validate(taken) for name, taken in row.taken.items()},  # type: ignore[misc]
        complete=len(raw) == len(core.STANDARDS) and not found,
        slips=[CalibrationFinding.model_validate(s.finding, from_attributes=True) for s in found],
        residual_db=None if row.checked is None else row.checked["residual_db"],
        residual_kind=None if row.checked is None else core.residual_kind(float(row.checked["residual_db"])),
    )


def meaning_of(left: core.Residual) -> dict[str, Any]:
    """As it is kept with the calibration."""
    return {"residual_db": left.db, "rms": left.rms}


@router.get("")
def calibrations(session: InTransaction) -> list[CalibrationOut]:
    """Those not in the bin, newest first."""
    return [calibration_out(row) for row in queries.all_calibrations(session)]


@router.post("", status_code=201)
def new_calibration(session: InTransaction, made: CalibrationIn) -> CalibrationOut:
    """Begin a calibration; its standards are swept one by one."""
    if not made.low_hz < made.high_hz:
        raise OutOfDomainError("high_hz", f"{made.high_hz:g} Hz", f"above low_hz, {made.low_hz:g} Hz")
    row = Calibration(**made.model_dump())
    session.add(row)
    session.flush()
    session.refresh(row)
    return calibration_out(row)


@router.get("/{calibration_id}")
def calibration(session: InTransaction, calibration_id: UUID) -> CalibrationOut:
    """One calibration."""
    return calibration_out(queries.one_calibration(session, calibration_id))


@router.patch("/{calibration_id}")
def change_calibration(session: InTransaction, calibration_id: UUID, patch: CalibrationPatch) -> CalibrationOut:
    """Another name, or what the standards are; sweeps corrected before stay as they are."""
    row = queries.one_calibration(session, calibration_id)
    changes = patch.model_dump(exclude_none=True, exclude={"revision"})
    edit(session, row, patch.revision, changes, lambda: calibration_out(row))
    return calibration_out(row)


@router.delete("/{calibration_id}", status_code=204)
def bin_calibration(session: InTransaction, calibration_id: UUID, revision: Counted) -> None:
    """Put a calibration in the bin; sweeps corrected with it stay as they are."""
    row = queries.one_calibration(session, calibration_id)
    edit(session, row, revision, {}, lambda: calibration_out(row))
    queries.bin_calibration(row)


@router.post("/{calibration_id}/restore")
def restore_calibration(session: InTransaction, calibration_id: UUID) -> CalibrationOut:
    """Take a calibration out of the bin."""
    row = queries.one_calibration(session, calibration_id, deleted=True)
    row.deleted_at = None
    return calibration_out(row)


@router.get("/{calibration_id}/meaning")
def meaning(
    request: Request, session: InTransaction, calibration_id: UUID, sweep_id: UUID, frequency_hz: Hertz
) -> Meaning:
    """What the residual of its check means for an antenna at a frequency."""
    row = queries.one_calibration(session, calibration_id)
    if row.checked is None:
        raise OutOfDomainError("calibration_id", "one that was not checked", "checked with its load first")
    antennas: Antennas = request.app.state.antennas
    z = complex(antennas.sweep(request.app, sweep_id).impedance_at(np.asarray(frequency_hz)))
    left = core.Residual(row.checked["rms"])
    gamma = complex(reflection_of(z))
    low, high = left.swr_between(gamma)
    return Meaning(
        frequency_hz=frequency_hz,
        resistance_ohm=z.real,
        reactance_ohm=z.imag,
        swr=number((1 + abs(gamma)) / max(1 - abs(gamma), 1e-12)),
        residual_db=left.db,
        impedance_share=left.impedance_share(gamma),
        low_swr=number(low),
        high_swr=number(high),
    )
