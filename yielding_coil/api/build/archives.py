"""Archives: a build, or everything, out as a file and in again; how far that is can be asked."""

import tempfile
from collections import OrderedDict
from collections.abc import AsyncIterator, Callable
from datetime import UTC, datetime
from pathlib import PurePath
from threading import Lock
from typing import IO, Annotated
from uuid import UUID

from fastapi import Depends, Query, Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel
from sqlalchemy.orm import Session

from yielding_coil.api.build.builds import BuildOut, build_out
from yielding_coil.api.http import BYTES_BODY, InTransaction, disposition, router_of
from yielding_coil.core.errors import NotFoundError, TooLargeError
from yielding_coil.formats.archive import MOST_BYTES, ArchiveReader
from yielding_coil.store import builds as build_queries
from yielding_coil.store.archive_in import contents_of, sizes, take_in
from yielding_coil.store.archive_out import collect, written

router = router_of("build", "/api/archives")

Token = Annotated[str, Query(pattern=r"^[A-Za-z0-9-]{1,64}$")]
# So many are remembered; whoever asks for an older one has long had its end.
MOST_KNOWN = 64


class Transfers:
    """How far archives on their way are, by the names that their pages gave them."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[int, int]] = OrderedDict()
        self._lock = Lock()

    def teller(self, token: str | None) -> Callable[[int, int], None]:
        """Called with how many bytes are done, and of about how many."""

        def told(done: int, of: int) -> None:
            if token is None:
                return
            with self._lock:
                self._known[token] = (done, of)
                while len(self._known) > MOST_KNOWN:
                    self._known.popitem(last=False)

        return told

    def of(self, token: str) -> tuple[int, int]:
        """How far one is.

        Raises:
            NotFoundError: nothing was begun under this name.
        """
        with self._lock:
            if token not in self._known:
                raise NotFoundError("no archive is on its way under this name", field="token", came_in=token)
            return self._known[token]


class TransferOut(BaseModel):
    """How many bytes are done, and of about how many."""

    done: int
    of: int


class TakenInOut(BaseModel):
    """What came in: the new builds, and how much of everything."""

    builds: list[BuildOut]
    sweeps: int
    designs: int
    entries: int
    photographs: int
    pieces: int
    calibrations: int


def _transfers(request: Request) -> Transfers:
    found: Transfers = request.app.state.transfers
    return found


@router.get("", response_class=StreamingResponse)
def take_out(
    request: Request, build_id: UUID | None = None, positions: bool = False, token: Token | None = None
) -> StreamingResponse:
    """A build, or without one everything, as one open file; photographs tell their place only on request."""
    # The session ends before the file begins: a slow taker holds no transaction.
    with Session(request.app.state.engine) as session:
        found = collect(session, None if build_id is None else [build_id], positions=positions)
        name = "everything" if build_id is None else build_queries.one_build(session, build_id).name
    told = _transfers(request).teller(token)
    told(0, max(found.about_bytes, 1))
    called = f"{PurePath(name.replace('/', '-')).name[:80]}, {datetime.now(UTC):%Y-%m-%d}.zip"
    return StreamingResponse(
        written(request.app.state.engine, found, told),
        media_type="application/zip",
        headers={"Content-Disposition": disposition(called)},
    )


async def _spooled(request: Request, token: Token | None = None) -> AsyncIterator[IO[bytes]]:
    """The body on the disk, counted while it comes in: an archive is larger than what fits into memory."""
    told, whole = _transfers(request).teller(token), int(request.headers.get("content-length") or 0)
    with tempfile.TemporaryFile() as file:
        size = 0
        async for piece in request.stream():
            size += len(piece)
            if size > MOST_BYTES:
                raise TooLargeError(
                    "the archive is larger than 2 GiB; take the builds out one by one", field="file"
                )
            file.write(piece)
            # Half of the way: the other half is looking at it and keeping it.
            told(size, 2 * max(whole, size))
        file.seek(0)
        yield file


@router.post(
    "",
    status_code=201,
    openapi_extra=BYTES_BODY,
)
def take_archive_in(
    request: Request,
    session: InTransaction,
    file: Annotated[IO[bytes], Depends(_spooled)],
    token: Token | None = None,
) -> TakenInOut:
    """Keep everything of an archive as something new, or, where anything of it cannot be, nothing."""
    told = _transfers(request).teller(token)
    file.seek(0)
    with ArchiveReader(file) as reader:
        contents = contents_of(reader)
        made = take_in(session, reader, contents, lambda done, of: told(of + done, 2 * of))
    found = {name: count for name, count in sizes(contents).items() if name != "builds"}
    return TakenInOut(builds=[build_out(session, row) for row in made if row.deleted_at is None], **found)


@router.get("/transfers/{token}")
async def transfer(request: Request, token: str) -> TransferOut:
    """How far an archive on its way is; it waits for no thread and no database."""
    done, of = _transfers(request).of(token)
    return TransferOut(done=done, of=of)
