"""What went wrong, as application/problem+json (RFC 9457)."""

from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DataError, DBAPIError, OperationalError, TimeoutError
from starlette.background import BackgroundTask
from starlette.exceptions import HTTPException

from yielding_coil.core.errors import RefusedError


class Problem(BaseModel):
    """A refusal: what came in, what is accepted, what to do."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    code: str
    field: str | None = None
    came_in: str | None = None
    accepted: str | None = None
    # What was most likely meant, as text to put in its place.
    suggested: str | None = None
    line: int | None = None
    offers: list[str] | None = None
    newest: dict[str, Any] | None = None
    newest_number: int | None = None
    in_bin: bool | None = None


RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "content": {"application/problem+json": {}}}
    for status in (401, 403, 404, 409, 413, 422, 429, 503)
}

BUSY = (
    "busy",
    "others are saving the same thing just now; nothing of yours was saved, try again in a moment",
)
TOO_LONG = (
    "busy",
    "this computer has so much else to do that this took too long; nothing was saved, try again in a moment",
)
DISK_FULL = (
    "disk_full",
    "the disk that holds your data is full; nothing was saved: make room on it, then try again",
)
# What the database says where it is there and cannot: by the beginning of its SQLSTATE (PostgreSQL, appendix A).
_DATABASE = {
    "40": BUSY,  # deadlock detected, serialisation failure
    "55P03": BUSY,  # lock not available
    "57014": TOO_LONG,  # statement timeout
    "25P03": TOO_LONG,  # idle in a transaction
    "53300": BUSY,  # too many connections
    "53": DISK_FULL,  # disk full, out of memory
    "58030": DISK_FULL,  # a write that failed
}

_TITLES = {404: "Not here", 409: "Changed elsewhere", 413: "Too large", 422: "Refused", 503: "Not ready"}


def _answer(
    status: int, code: str, detail: str, background: BackgroundTask | None = None, **more: Any
) -> JSONResponse:
    problem = Problem(title=_TITLES.get(status, "Refused"), status=status, detail=detail, code=code, **more)
    return _sent(problem, background)


def _sent(problem: Problem, background: BackgroundTask | None = None) -> JSONResponse:
    # What is empty is left out; of the newest state nothing is.
    body = {name: value for name, value in problem.model_dump(mode="json").items() if value is not None}
    return JSONResponse(body, problem.status, media_type="application/problem+json", background=background)


def problem_of(error: RefusedError) -> Problem:
    """A refusal as it travels."""
    known = {k: v for k, v in error.more.items() if k in Problem.model_fields}
    return Problem(
        title=_TITLES.get(error.status, "Refused"),
        status=error.status,
        detail=error.message,
        code=error.code,
        field=error.field,
        came_in=error.came_in,
        accepted=error.accepted,
        **known,
    )


def _where(location: Sequence[int | str]) -> str:
    return ".".join(str(part) for part in location if part not in ("body", "query", "path"))


def install(app: FastAPI) -> None:
    """Turn refusals into answers; any other exception stays a 500."""

    @app.exception_handler(RefusedError)
    def refused(request: Request, error: RefusedError) -> JSONResponse:
        return _sent(problem_of(error))

    @app.exception_handler(RequestValidationError)
    def invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        came = repr(first.get("input"))[:80]
        field = _where(first["loc"])
        return _answer(
            422,
            "not_valid",
            f"{field or 'the request'}: {first['msg']}; {came} came in",
            field=field,
            came_in=came,
        )

    @app.exception_handler(HTTPException)
    def http(request: Request, error: HTTPException) -> JSONResponse:
        return _answer(error.status_code, "http", str(error.detail))

    @app.exception_handler(TimeoutError)
    def none_free(request: Request, error: TimeoutError) -> JSONResponse:
        return database_answer(request.app, error)

    @app.exception_handler(DBAPIError)
    def database_refused(request: Request, error: DBAPIError) -> JSONResponse:
        return database_answer(request.app, error)


def database_answer(app: FastAPI, error: DBAPIError | TimeoutError) -> JSONResponse:
    """What is answered where the database cannot, or is not there."""
    if isinstance(error, TimeoutError):
        return _answer(503, *BUSY)
    state = getattr(error.orig, "sqlstate", None) or ""
    told = next((words for known, words in _DATABASE.items() if state.startswith(known)), None)
    if told is not None:
        return _answer(503, *told)
    if isinstance(error, DataError):
        # Bounds are checked before; what slips through is refused all the same.
        return _answer(422, "not_valid", "a text or a number is more than can be kept; nothing was saved")
    if not isinstance(error, OperationalError):
        raise error
    if app.state.is_disk_full():
        return _answer(503, *DISK_FULL)
    revive = app.state.revive
    if revive is None:
        return _answer(503, "database_gone", "the database does not answer; nothing was saved")
    # Answered first: whoever asked is told at once, and tries again.
    return _answer(
        503,
        "database_gone",
        "the database stopped and is being started again; nothing was saved yet, try again in a moment",
        background=BackgroundTask(revive),
    )
