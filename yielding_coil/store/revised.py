"""Rows that carry a revision: whoever changes one says which he saw, and only one of several at once has it so."""

from collections.abc import Callable, Mapping
from typing import Any

from pydantic import BaseModel
from sqlalchemy import CursorResult, update
from sqlalchemy.orm import Session

from yielding_coil.core.errors import StaleEditError
from yielding_coil.store.tables import Build, Calibration, Design, Entry, Photograph, Piece, Settings, SweepRow

Revised = Build | Settings | SweepRow | Design | Calibration | Piece | Entry | Photograph


def edit(
    session: Session, row: Revised, revision: int, changes: Mapping[str, Any], newest: Callable[[], BaseModel]
) -> None:
    """Change fields of a row that has not changed since it was read; compared and written in one statement.

    Args:
        changes: by column.
        newest: the row as it travels, asked for when it was changed elsewhere.

    Raises:
        StaleEditError: somebody else changed it; carries the newest.
    """
    kind: Any = type(row)
    stated = update(kind).where(kind.id == row.id, kind.revision == revision)
    done = session.execute(
        stated.values({**changes, "revision": kind.revision + 1}), execution_options={"synchronize_session": False}
    )
    assert isinstance(done, CursorResult)
    session.refresh(row)
    if done.rowcount != 1:
        raise StaleEditError(
            f"this was changed elsewhere since you opened it (you had revision {revision}, "
            f"the newest is {row.revision}); look at the newest, then change it again",
            newest=newest().model_dump(mode="json"),
        )


def touch(session: Session, row: Revised) -> None:
    """Count a change that nobody made by hand; the row is read again."""
    kind: Any = type(row)
    row.revision = kind.revision + 1
    session.flush()
    session.refresh(row)
