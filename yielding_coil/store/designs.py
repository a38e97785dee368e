"""Queries on designs and their revisions: every settled edit is one, undo and redo append too."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any, Literal
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError, RefusedError, StaleEditError
from yielding_coil.store.tables import Design, DesignRevision


class NothingToWalkError(RefusedError):
    """There is no earlier or later state to go to."""

    code = "nothing_to_walk"
    status = 409


def make_design(
    session: Session, build_id: UUID, name: str, content: dict[str, Any], summary: dict[str, Any]
) -> Design:
    """A new design with its first revision."""
    design = Design(build_id=build_id, name=name)
    session.add(design)
    session.flush()
    session.add(DesignRevision(design_id=design.id, number=1, content=content, summary=summary))
    session.flush()
    return design


def one_design(session: Session, design_id: UUID, *, deleted: bool = False) -> Design:
    """One design.

    Raises:
        NotFoundError: no such design, or it is in the bin and `deleted` is not set.
    """
    design = session.get(Design, design_id)
    if design is None or (design.deleted_at is not None and not deleted):
        what = "is in the bin; take it back there" if design is not None else "is not kept here; choose another"
        raise NotFoundError(f"the design {what}", field="design_id", in_bin=design is not None)
    return design


def designs_that_use(session: Session) -> dict[UUID, int]:
    """How many designs hold each piece in their newest state, by the piece's id; those in the bin left out."""
    newest_number = (
        select(DesignRevision.design_id, func.max(DesignRevision.number).label("number"))
        .group_by(DesignRevision.design_id)
        .subquery()
    )
    query = (
        select(DesignRevision.content)
        .join(
            newest_number,
            (DesignRevision.design_id == newest_number.c.design_id)
            & (DesignRevision.number == newest_number.c.number),
        )
        .join(Design, Design.id == DesignRevision.design_id)
        .where(Design.deleted_at.is_(None))
    )
    used: dict[UUID, int] = {}
    for content in session.scalars(query):
        parts = [*content.get("elements", []), *content.get("beside", [])]
        taken = [part.get(field) for part in parts for field in ("piece", "wire_piece")]
        taken += [(part.get("core") or {}).get("material") for part in parts]
        held = {snapshot["id"] for snapshot in taken if snapshot}
        for piece_id in held:
            used[UUID(piece_id)] = used.get(UUID(piece_id), 0) + 1
    return used


def bin_design(design: Design) -> None:
    """Put a design in the bin; all its revisions stay."""
    design.deleted_at = datetime.now(UTC)


def newest(session: Session, design_id: UUID) -> DesignRevision:
    """The state a design is in."""
    query = select(DesignRevision).where(DesignRevision.design_id == design_id)
    row = session.scalars(query.order_by(DesignRevision.number.desc()).limit(1)).one_or_none()
    if row is None:
        raise NotFoundError("the design holds nothing", field="design_id")
    return row


def revision(session: Session, design_id: UUID, number: int) -> DesignRevision:
    """One revision by its number.

    Raises:
        NotFoundError: no such number.
    """
    row = session.scalars(
        select(DesignRevision).where(DesignRevision.design_id == design_id, DesignRevision.number == number)
    ).one_or_none()
    if row is None:
        raise NotFoundError(f"the design has no revision {number}", field="number")
    return row


def revisions(session: Session, design_id: UUID) -> Sequence[DesignRevision]:
    """All states of a design, newest first."""
    query = select(DesignRevision).where(DesignRevision.design_id == design_id)
    return session.scalars(query.order_by(DesignRevision.number.desc())).all()


def append(
    session: Session, design_id: UUID, edited: int, content: dict[str, Any], summary: dict[str, Any]
) -> DesignRevision:
    """A settled edit of the newest revision. Sent twice, as when its answer was lost, it is kept once.

    Raises:
        StaleEditError: `edited` is not the newest any more.
    """
    # Numbers only grow: who comes too late is told so before waiting for those who write.
    for look in (newest, _locked_newest):
        last = look(session, design_id)
        if last.number == edited + 1 and last.undo_number == edited and last.content == content:
            return last
        _require_newest(last, edited)
    return _add(session, last, content, summary, undo=last.number, redo=None)


def walk(session: Session, design_id: UUID, edited: int, way: Literal["undo", "redo"]) -> DesignRevision:
    """One step back or forward, as a new revision, so that it survives a reload.

    Raises:
        StaleEditError: `edited` is not the newest any more.
        NothingToWalkError: there is no such step.
    """
    head = _locked_newest(session, design_id)
    _require_newest(head, edited)
    to = head.undo_number if way == "undo" else head.redo_number
    if to is None:
        raise NothingToWalkError(f"there is nothing to {way}")
    there = revision(session, design_id, to)
    redo = head.number if way == "undo" else there.redo_number
    return _add(session, head, there.content, there.summary, undo=there.undo_number, redo=redo)


def _locked_newest(session: Session, design_id: UUID) -> DesignRevision:
    session.execute(select(Design.id).where(Design.id == design_id).with_for_update(key_share=True))
    return newest(session, design_id)


def _require_newest(head: DesignRevision, edited: int) -> None:
    if head.number != edited:
        raise StaleEditError(
            f"this design was changed elsewhere (you edited revision {edited}, the newest is {head.number}); "
            "keep yours as a new design, or take the newest",
            field="edited",
            newest_number=head.number,
        )


def _add(
    session: Session,
    head: DesignRevision,
    content: dict[str, Any],
    summary: dict[str, Any],
    *,
    undo: int | None,
    redo: int | None,
) -> DesignRevision:
    row = DesignRevision(
        design_id=head.design_id,
        number=head.number + 1,
        content=content,
        summary=summary,
        undo_number=undo,
        redo_number=redo,
    )
    session.add(row)
    session.flush()
    session.refresh(row)
    return row
