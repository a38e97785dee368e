"""Queries on sweeps."""

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID, uuid4

import numpy as np
from sqlalchemy import CursorResult, func, select, update
from sqlalchemy.orm import Session

from yielding_coil.core.errors import InUseError, NotFoundError
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep, SwrSweep
from yielding_coil.store.tables import Design, DesignRevision, SweepRow


def keep_sweep(
    session: Session,
    found: Sweep | SwrSweep,
    *,
    original: bytes,
    original_name: str,
    reference_ohm: float,
    source: str,
    build_id: UUID | None = None,
    setup_id: UUID | None = None,
    remarks: Sequence[str] = (),
    calibration_id: UUID | None = None,
    doubt: ReflectionUncertainty | None = None,
    sweep_id: UUID | None = None,
) -> SweepRow:
    """Keep a sweep, or readings of SWR, beside the bytes they came in; under a new id where none is given."""
    if isinstance(found, Sweep):
        columns = [found.frequency_hz, found.impedance_ohm.real, found.impedance_ohm.imag]
    else:
        columns = [found.frequency_hz, found.swr, np.zeros(found.swr.shape)]
    row = SweepRow(
        id=sweep_id or uuid4(),
        build_id=build_id,
        setup_id=setup_id,
        source=source,
        carries="impedance" if isinstance(found, Sweep) else "swr",
        points=found.frequency_hz.size,
        low_hz=found.low_hz,
        high_hz=found.high_hz,
        reference_ohm=reference_ohm,
        data=np.column_stack(columns).astype("<f8").tobytes(),
        original=original,
        original_name=original_name,
        name=original_name,
        remarks=list(remarks),
        calibration_id=calibration_id,
        doubt=None if doubt is None else doubt.rows.astype("<f8").tobytes(),
    )
    session.add(row)
    session.flush()
    return row


def one_sweep(session: Session, sweep_id: UUID, *, deleted: bool = False) -> SweepRow:
    """One sweep.

    Raises:
        NotFoundError: no such sweep, or it is in the bin and `deleted` is not set.
    """
    row = session.get(SweepRow, sweep_id)
    if row is None or (row.deleted_at is not None and not deleted):
        what = "is in the bin; take it back there" if row is not None else "is not kept here; drop its file again"
        raise NotFoundError(f"the sweep {what}", field="sweep_id", in_bin=row is not None)
    return row


def claim_sweep(session: Session, row: SweepRow, build_id: UUID) -> None:
    """Give a sweep that belongs to no build to one.

    Raises:
        InUseError: it belongs to one already.
    """
    free = update(SweepRow).where(SweepRow.id == row.id, SweepRow.build_id.is_(None))
    done = session.execute(free.values(build_id=build_id), execution_options={"synchronize_session": False})
    assert isinstance(done, CursorResult)
    if done.rowcount != 1:
        raise InUseError(f"“{row.name}” belongs to a build already; drop its file again for another one")
    session.refresh(row)


def is_in_bin(session: Session, sweep_id: UUID) -> bool:
    """Whether a sweep lies in the bin, or is gone."""
    row = session.get(SweepRow, sweep_id)
    return row is None or row.deleted_at is not None


def uses_of(session: Session, row: SweepRow) -> list[str]:
    """The designs that hang on a sweep as they now are, in words."""
    newest_number = (
        select(func.max(DesignRevision.number))
        .where(DesignRevision.design_id == Design.id)
        .correlate(Design)
        .scalar_subquery()
    )
    designs = (
        select(Design.name)
        .join(DesignRevision, DesignRevision.design_id == Design.id)
        .where(
            Design.deleted_at.is_(None),
            DesignRevision.number == newest_number,
            DesignRevision.content["antenna"]["sweep_id"].astext == str(row.id),
        )
    )
    return [f"the design “{name}”" for name in session.scalars(designs.order_by(Design.made_at))]


def bin_sweep(row: SweepRow) -> None:
    """Put a sweep in the bin; nothing of it is lost."""
    row.deleted_at = datetime.now(UTC)


def sweep_of(row: SweepRow) -> Sweep | SwrSweep:
    """What was read, as the core takes it."""
    columns = np.frombuffer(row.data, dtype="<f8").reshape(-1, 3)
    if row.carries == "swr":
        return SwrSweep(columns[:, 0].copy(), columns[:, 1].copy())
    return Sweep(columns[:, 0].copy(), columns[:, 1] + 1j * columns[:, 2], doubt_of(row))


def doubt_of(row: SweepRow) -> ReflectionUncertainty | None:
    """How sure its Γ is, where that is known."""
    return None if row.doubt is None else ReflectionUncertainty.of(np.frombuffer(row.doubt, dtype="<f8"))


def impedance_sweep_of(row: SweepRow) -> Sweep:
    """The sweep as the core takes it.

    Raises:
        SwrOnlyError: it carries SWR alone.
    """
    found = sweep_of(row)
    if not isinstance(found, Sweep):
        raise SwrOnlyError(row.name)
    return found


class SwrOnlyError(NotFoundError):
    """R and X are wanted, and this sweep carries SWR alone."""

    code = "swr_only"
    status = 422

    def __init__(self, name: str) -> None:
        super().__init__(
            f"“{name}” carries SWR alone, and a match needs R and X: sweep the wire with an analyser, "
            "or type R and X at a few frequencies",
            field="sweep_id",
        )
