"""Queries on the ticks of a build sheet."""

from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from uuid import UUID

from pydantic import BaseModel
from sqlalchemy import CursorResult, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yielding_coil.core.errors import StaleEditError
from yielding_coil.store.tables import Tick


def ticks_of(session: Session, design_id: UUID, number: int) -> Sequence[Tick]:
    """Everything ticked or noted on the sheet of one state of a design."""
    return session.scalars(select(Tick).where(Tick.design_id == design_id, Tick.number == number)).all()


def begun(session: Session, design_id: UUID) -> int | None:
    """The newest state of a design that somebody began to build: with a tick; None where there is none."""
    query = select(Tick.number).where(Tick.design_id == design_id, Tick.done).order_by(Tick.number.desc()).limit(1)
    return session.scalars(query).one_or_none()


def keep_tick(
    session: Session,
    design_id: UUID,
    number: int,
    step: str,
    *,
    revision: int,
    done: bool,
    note: str,
    newest: Callable[[Tick], BaseModel],
) -> Tick:
    """Tick a step, or note something at it; sent twice, as when its answer was lost, it is kept once.

    Args:
        revision: that was seen; 0 where nothing was kept of this step.
        newest: the row as it travels, asked for when it was changed elsewhere.

    Raises:
        StaleEditError: somebody else changed it; carries the newest.
    """
    session.execute(
        insert(Tick)
        .values(design_id=design_id, number=number, step=step, revision=0, done=False, note="")
        .on_conflict_do_nothing()
    )
    mine = (Tick.design_id == design_id, Tick.number == number, Tick.step == step)
    row = session.scalars(
        select(Tick).where(*mine).with_for_update().execution_options(populate_existing=True)
    ).one()
    if row.done == done and row.note == note and row.revision > 0:
        return row
    ticked_at = row.ticked_at if row.done and done else datetime.now(UTC) if done else None
    changed = update(Tick).where(*mine, Tick.revision == revision)
    found = session.execute(
        changed.values(revision=revision + 1, done=done, note=note, ticked_at=ticked_at),
        execution_options={"synchronize_session": False},
    )
    assert isinstance(found, CursorResult)
    session.refresh(row)
    if found.rowcount != 1:
        raise StaleEditError(
            "this step was ticked or noted elsewhere since you looked; look at the newest, then tick it again",
            newest=newest(row).model_dump(mode="json"),
        )
    return row
