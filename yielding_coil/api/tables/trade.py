"""Trade tables, with source and tolerance."""

import numpy as np
from pydantic import BaseModel

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.core.line import CableRow
from yielding_coil.documents.design import CableSnapshot, CableValues
from yielding_coil.store.pieces import cable_key, own_cables

router = router_of("tables", "/api/tables")


class CableOut(BaseModel):
    """A class of cable; loss in dB/100 m = k1·√MHz + k2·MHz + k0."""

    key: str
    name: str
    impedance_ohm: float
    velocity_factor: float
    coax: bool
    # Over the jacket; null where it is not known.
    outer_m: float | None
    loss_tolerance: float
    velocity_tolerance: float
    source: str
    note: str
    # What a design takes along of one's own cable; null for those of the table.
    piece: CableSnapshot | None = None


class WireOut(BaseModel):
    """A winding wire."""

    key: str
    name: str
    diameter_m: float
    covered_m: float
    metal: str
    source: str


@router.get("/cables")
def cables(session: InTransaction) -> list[CableOut]:
    """Cables of one's own, then nominal ones."""
    own = [
        cable_out(
            CableValues.model_validate(piece.values).row(cable_key(piece)),
            CableSnapshot(id=piece.id, revision=piece.revision, values=CableValues.model_validate(piece.values)),
        )
        for piece in own_cables(session)
    ]
    return [*own, *(cable_out(row) for row in data.cables().values())]


def cable_out(row: CableRow, piece: CableSnapshot | None = None) -> CableOut:
    """As it travels."""
    return CableOut(
        key=row.key,
        name=row.cable.name,
        impedance_ohm=float(np.asarray(row.cable.impedance_ohm)),
        velocity_factor=float(np.asarray(row.cable.velocity_factor)),
        coax=row.coax,
        outer_m=row.outer_m,
        loss_tolerance=row.loss_tolerance,
        velocity_tolerance=row.velocity_tolerance,
        source=row.source,
        note=row.note,
        piece=piece,
    )


@router.get("/wires")
def wires() -> list[WireOut]:
    """Winding wires."""
    return [WireOut.model_validate(row, from_attributes=True) for row in data.wires().values()]
