"""Queries on sweeps."""

from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.sweep import Sweep
from yielding_coil.store.tables import SweepRow


def keep_sweep(
    session: Session,
    sweep: Sweep,
    *,
    original: bytes,
    original_name: str,
    reference_ohm: float,
    source: str,
    build_id: UUID | None = None,
    setup_id: UUID | None = None,
) -> SweepRow:
    """Keep a sweep beside the bytes it came in."""
    columns = np.column_stack([sweep.frequency_hz, sweep.impedance_ohm.real, sweep.impedance_ohm.imag])
    row = SweepRow(
        build_id=build_id,
        setup_id=setup_id,
        source=source,
        points=sweep.frequency_hz.size,
        low_hz=sweep.low_hz,
        high_hz=sweep.high_hz,
        reference_ohm=reference_ohm,
        data=columns.astype("<f8").tobytes(),
        original=original,
        original_name=original_name,
    )
    session.add(row)
    session.flush()
    return row


def one_sweep(session: Session, sweep_id: UUID) -> SweepRow:
    """One sweep.

    Raises:
        NotFoundError: no such sweep.
    """
    row = session.get(SweepRow, sweep_id)
    if row is None or row.deleted_at is not None:
        raise NotFoundError("the sweep is not kept here; drop its file again", field="sweep_id")
    return row


def core_sweep(row: SweepRow) -> Sweep:
    """The sweep as the core takes it."""
    columns = np.frombuffer(row.data, dtype="<f8").reshape(-1, 3)
    return Sweep(columns[:, 0].copy(), columns[:, 1] + 1j * columns[:, 2])
