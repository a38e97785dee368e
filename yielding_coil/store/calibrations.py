"""Queries on calibrations, and how a kept one becomes a correction."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.calibration import STANDARDS, Correction, Kit, Noise, Standard, one_port
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.store.tables import Calibration


def all_calibrations(session: Session) -> Sequence[Calibration]:
    """Those not in the bin, newest first."""
    query = select(Calibration).where(Calibration.deleted_at.is_(None))
    return session.scalars(query.order_by(Calibration.made_at.desc(), Calibration.id)).all()


def one_calibration(session: Session, calibration_id: UUID, *, deleted: bool = False) -> Calibration:
    """One calibration.

    Raises:
        NotFoundError: no such one, or it is in the bin and `deleted` is not set.
    """
    row = session.get(Calibration, calibration_id)
    if row is None or (row.deleted_at is not None and not deleted):
        what = "is in the bin" if row is not None else "is not kept here; calibrate anew"
        raise NotFoundError(f"the calibration {what}", field="calibration_id", in_bin=row is not None)
    return row


def bin_calibration(row: Calibration) -> None:
    """Put a calibration in the bin; sweeps corrected with it stay."""
    row.deleted_at = datetime.now(UTC)


def grid_of(row: Calibration) -> Real:
    """Its frequencies."""
    return np.linspace(row.low_hz, row.high_hz, row.points)


def raw_of(row: Calibration) -> dict[Standard, Complex]:
    """Raw reflections of the standards that were swept."""
    kept = {name: getattr(row, name) for name in STANDARDS}
    return {name: np.frombuffer(raw, dtype="<c16").copy() for name, raw in kept.items() if raw is not None}


def keep_standard(
    row: Calibration, standard: Standard, raw: Complex, passes: int, noise_rms: float, instrument: str
) -> None:
    """Keep the sweep of a standard; an earlier one of it gives way, and so does the check."""
    setattr(row, standard, raw.astype("<c16").tobytes())
    taken: dict[str, Any] = {"at": datetime.now(UTC).isoformat(), "passes": passes, "noise_rms": noise_rms}
    row.taken = {**row.taken, standard: taken}
    row.checked = None
    row.made_at = datetime.now(UTC)
    row.instrument = instrument[:120]


def correction_of(row: Calibration) -> Correction:
    """The correction that a whole calibration gives.

    Raises:
        OutOfDomainError: a standard is missing, or they cannot be told apart.
    """
    raw = raw_of(row)
    missing = [name for name in STANDARDS if name not in raw]
    if missing:
        raise OutOfDomainError(
            "calibration_id", f"a calibration without its {' and '.join(missing)}", "swept with all three standards"
        )
    return one_port(raw["short"], raw["open"], raw["load"], grid_of(row), Kit(**row.kit))


def noise_of(row: Calibration, rms: float, passes: int) -> Noise:
    """The noise of a sweep beside that of the standards."""
    taken = [row.taken[name] for name in STANDARDS if name in row.taken]
    rms_of_standards = float(np.sqrt(np.mean([t["noise_rms"] ** 2 for t in taken]))) if taken else 0.0
    return Noise(rms, passes, rms_of_standards, min((int(t["passes"]) for t in taken), default=1))


def age_h(row: Calibration, now: datetime | None = None) -> float:
    """Hours since its last standard was swept."""
    return max(0.0, ((now or datetime.now(UTC)) - row.made_at).total_seconds() / 3600)
