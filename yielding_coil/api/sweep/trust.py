"""How far a kept sweep is trusted, by its calibration."""

from uuid import UUID

from sqlalchemy.orm import Session

from yielding_coil.core.bench import trusted_db
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Calibration

BY_ANALYSER = ("analyser", "simulated")


def require_corrected(session: Session, sweep_id: UUID) -> None:
    """Raise OutOfDomainError for a sweep that an analyser gave raw: it is of the test lead as well."""
    row = one_sweep(session, sweep_id)
    if row.calibration_id is None and row.source in BY_ANALYSER:
        raise OutOfDomainError("sweep", "not calibrated", "one corrected by a calibration where it was taken")


def trusted(session: Session, sweep_id: UUID) -> float:
    """How far below full reflection the errors of a kept sweep are taken to lie."""
    row = one_sweep(session, sweep_id)
    known = session.get(Calibration, row.calibration_id) if row.calibration_id is not None else None
    checked = known.checked if known is not None else None
    return trusted_db(
        calibrated=row.calibration_id is not None,
        checked_db=None if checked is None else float(checked["residual_db"]),
        by_analyser=row.source in BY_ANALYSER,
    )
