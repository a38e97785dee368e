"""Trade tables, with source and tolerance."""

from fastapi import APIRouter
from pydantic import BaseModel

from yielding_coil import data

router = APIRouter(prefix="/api/tables", tags=["tables"])


class CableOut(BaseModel):
    """A class of cable; loss in dB/100 m = k1·√MHz + k2·MHz + k0."""

    key: str
    name: str
    impedance_ohm: float
    velocity_factor: float
    coax: bool
    loss_tolerance: float
    velocity_tolerance: float
    source: str
    note: str


class WireOut(BaseModel):
    """A winding wire."""

    key: str
    name: str
    diameter_m: float
    covered_m: float
    source: str


@router.get("/cables")
def cables() -> list[CableOut]:
    """Nominal cables."""
    return [
        CableOut(
            key=row.key,
            name=row.cable.name,
            impedance_ohm=float(row.cable.impedance_ohm),
            velocity_factor=float(row.cable.velocity_factor),
            coax=row.coax,
            loss_tolerance=row.loss_tolerance,
            velocity_tolerance=row.velocity_tolerance,
            source=row.source,
            note=row.note,
        )
        for row in data.cables().values()
    ]


@router.get("/wires")
def wires() -> list[WireOut]:
    """Winding wires."""
    return [WireOut.model_validate(row, from_attributes=True) for row in data.wires().values()]
