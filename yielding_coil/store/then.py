"""What was so with a build at a moment: its newest sweep, design and lengths of then."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.documents.log import replay
from yielding_coil.store.entries import data_of, entries_of
from yielding_coil.store.tables import Build, Design, DesignRevision, SweepRow


@dataclass(frozen=True, slots=True)
class Then:
    """A build at a moment; None and empty what was not there yet.

    Args:
        state: of the design that it was built by, else of the chosen one, else of the one worked on last.
        legs: of each band from the feedpoint to its end and how much is folded back, metres, the highest first.
        last: when the last thing before that moment was told.
    """

    at: datetime
    sweep: SweepRow | None
    state: DesignRevision | None
    legs: tuple[tuple[float, float], ...]
    last: datetime | None


def then_of(session: Session, build: Build, at: datetime) -> Then:
    """How a build was at a moment, that moment included."""
    swept = select(SweepRow).where(
        SweepRow.build_id == build.id, SweepRow.deleted_at.is_(None), SweepRow.swept_at <= at
    )
    sweep = session.scalars(swept.order_by(SweepRow.swept_at.desc(), SweepRow.id).limit(1)).one_or_none()
    every = entries_of(session, build.id)
    before = [k for k, e in enumerate(every, start=1) if e.happened_at <= at]
    # As they were told: a clock that was set back does not tear the wire's acts apart.
    entries = every[: before[-1]] if before else ()
    hung = replay([data_of(e) for e in entries])
    wire = hung[-1] if hung else None
    legs = () if wire is None else tuple(wire.leg(k) for k in range(len(wire.pieces_m)))
    built = next((e for e in reversed(entries) if e.kind == "built"), None)
    state = _state(session, build, at, None if built is None else built.data)
    return Then(at, sweep, state, legs, max((e.happened_at for e in entries), default=None))


def _state(session: Session, build: Build, at: datetime, built: dict[str, object] | None) -> DesignRevision | None:
    if built is not None:
        query = select(DesignRevision).where(
            DesignRevision.design_id == UUID(str(built["design_id"])), DesignRevision.number == built["number"]
        )
        return session.scalars(query).one_or_none()
    newest = (
        select(DesignRevision)
        .join(Design, Design.id == DesignRevision.design_id)
        .where(Design.build_id == build.id, Design.deleted_at.is_(None), DesignRevision.made_at <= at)
        .order_by(
            (Design.id == build.chosen_design_id).desc().nulls_last(),
            DesignRevision.made_at.desc(),
            DesignRevision.number.desc(),
        )
        .limit(1)
    )
    return session.scalars(newest).one_or_none()
