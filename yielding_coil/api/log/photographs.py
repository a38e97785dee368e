"""Photographs of the log: kept to the byte, seen smaller, their position taken out for good."""

from datetime import UTC, datetime, timedelta, timezone
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Depends, Query, Response
from pydantic import BaseModel

from yielding_coil.api.http import BYTES_BODY, InTransaction, body_up_to, download, router_of
from yielding_coil.documents.fields import Counted, plain
from yielding_coil.documents.log import NoteData, PositionRemovedData
from yielding_coil.formats.photograph import MOST_BYTES, read_photograph
from yielding_coil.store import builds as build_queries
from yielding_coil.store import photographs as queries
from yielding_coil.store.entries import keep_entry, one_entry
from yielding_coil.store.revised import edit, touch
from yielding_coil.store.tables import Photograph

router = router_of("log")

_body = body_up_to(MOST_BYTES, "the picture is larger than 16 MiB; at most 16 MiB are kept: send it smaller")


class PhotographOut(BaseModel):
    """A photograph in the log; pixels as it is seen upright."""

    id: UUID
    entry_id: UUID
    revision: Counted
    name: str
    kind: Literal["jpeg", "png"]
    size: int
    width: int
    height: int
    # Whether the original says where it was taken; where is never told.
    located: bool
    taken_at: datetime | None


def photograph_out(row: Photograph) -> PhotographOut:
    """As it travels."""
    return PhotographOut.model_validate(row, from_attributes=True)


@router.post(
    "/builds/{build_id}/photographs",
    status_code=201,
    openapi_extra=BYTES_BODY,
)
def keep_photograph(
    session: InTransaction,
    build_id: UUID,
    content: Annotated[bytes, Depends(_body)],
    name: Annotated[str, Query(max_length=255)] = "photograph",
    entry_id: UUID | None = None,
    utc_offset_min: Annotated[int, Query(ge=-900, le=900)] = 0,
) -> PhotographOut:
    """Keep a photograph at an entry; without one at a note of its own, when it was taken if it says so."""
    build_queries.one_build(session, build_id)
    if entry_id is None:
        taken = read_photograph(content).taken_at
        here = timezone(timedelta(minutes=utc_offset_min))
        at = taken if taken is None or taken.tzinfo is not None else taken.replace(tzinfo=here)
        if at is not None and at > datetime.now(UTC):
            at = None  # a camera's clock that runs ahead
        entry = keep_entry(session, build_id, NoteData(), utc_offset_min=utc_offset_min, happened_at=at)
    else:
        entry = one_entry(session, entry_id)
    return photograph_out(queries.keep_photograph(session, entry.id, plain(name) or "photograph", content))


@router.get("/photographs/{photograph_id}/view", response_class=Response)
def photograph_view(session: InTransaction, photograph_id: UUID) -> Response:
    """A smaller view of it, upright, made when it is first asked for; JPEG."""
    row = queries.one_photograph(session, photograph_id)
    cached = {"Cache-Control": "private, max-age=31536000, immutable"}
    return Response(queries.view(row), media_type="image/jpeg", headers=cached)


@router.get("/photographs/{photograph_id}/original", response_class=Response)
def photograph_original(session: InTransaction, photograph_id: UUID) -> Response:
    """The file as it came in, to the byte."""
    row = queries.one_photograph(session, photograph_id)
    return download(row.original, row.name)


@router.post("/photographs/{photograph_id}/position-removed")
def remove_position(session: InTransaction, photograph_id: UUID, revision: Counted) -> PhotographOut:
    """Take out of the original where it was taken, for good; the log says that it was done."""
    row = queries.one_photograph(session, photograph_id)
    edit(session, row, revision, {}, lambda: photograph_out(row))
    queries.remove_position(row)
    entry = one_entry(session, row.entry_id)
    keep_entry(session, entry.build_id, PositionRemovedData(photograph=row.name))
    session.flush()
    return photograph_out(row)


@router.delete("/photographs/{photograph_id}", status_code=204)
def bin_photograph(session: InTransaction, photograph_id: UUID, revision: Counted) -> None:
    """Put a photograph in the bin; nothing of it is lost."""
    row = queries.one_photograph(session, photograph_id)
    edit(session, row, revision, {}, lambda: photograph_out(row))
    queries.bin_photograph(row)


@router.post("/photographs/{photograph_id}/restore")
def restore_photograph(session: InTransaction, photograph_id: UUID) -> PhotographOut:
    """Take a photograph out of the bin."""
    row = queries.one_photograph(session, photograph_id, deleted=True)
    row.deleted_at = None
    touch(session, row)
    return photograph_out(row)
