"""The form that pairs a device: shown, sent, and answered with a cookie that only this application sees."""

from typing import Annotated
from urllib.parse import parse_qs

from fastapi import APIRouter, Query, Request, Response
from sqlalchemy.orm import Session
from starlette.concurrency import run_in_threadpool
from starlette.responses import RedirectResponse

from yielding_coil.api.http import (
    AUTHORITY_PATH,
    COOKIE,
    SECURE_COOKIE,
    Asking,
    Caller,
    Reach,
    guessed_name,
    local_path,
    pair_page,
)
from yielding_coil.core.errors import NotFoundError
from yielding_coil.store import devices as queries

router = APIRouter(include_in_schema=False)

# Browsers keep no cookie longer (RFC 6265bis, 5.5).
LASTS_S = 400 * 24 * 3600
MOST_FORM_BYTES = 4096
MOST_NAME = 60
_WRONG = "This code does not pair: it was typed otherwise, used before, or is older than five minutes."


@router.get("/pair")
def form(
    request: Request,
    caller: Asking,
    code: Annotated[str, Query(max_length=40)] = "",
    to: Annotated[str, Query(max_length=400)] = "/",
) -> Response:
    """The form, with a code that a camera brought; it pairs when it is sent, not when it is looked at."""
    if caller.is_owner or caller.device is not None:
        return RedirectResponse(local_path(to), 303)
    name = guessed_name(request.headers.get("user-agent", ""))
    return pair_page(code=code, name=name, to=local_path(to), trust=_trust(request, caller))


def _trust(request: Request, caller: Caller) -> bool:
    reach: Reach = request.app.state.reach
    return reach.authority is not None and caller.secure


@router.post("/pair")
async def pair(request: Request, caller: Asking) -> Response:
    """A device with a code that is right gets a cookie of its own, and goes where it wanted to."""
    body = b""
    async for piece in request.stream():
        body += piece
        if len(body) > MOST_FORM_BYTES:
            return pair_page(413, why="More came in than this form holds. Type the code and a name.")
    fields = {k: v[-1] for k, v in parse_qs(body.decode("utf-8", "replace")).items()}
    code = fields.get("code", "").strip()[:40]
    name = " ".join(c for c in fields.get("name", "").split() if c.isprintable())[:MOST_NAME]
    to = local_path(fields.get("to", "/"))
    if not name:
        return pair_page(422, code=code, to=to, why="Give this device a name, so that its owner knows it again.")
    token = await run_in_threadpool(_paired, request, code, name)
    if token is None:
        return pair_page(422, name=name, to=to, why=_WRONG, trust=_trust(request, caller))
    answer = RedirectResponse(to, 303)
    answer.set_cookie(
        SECURE_COOKIE if caller.secure else COOKIE,
        token,
        max_age=LASTS_S,
        path="/",
        secure=caller.secure,
        httponly=True,
        samesite="lax",
    )
    return answer


def _paired(request: Request, code: str, name: str) -> str | None:
    with Session(request.app.state.engine) as session, session.begin():
        return queries.pair(session, code, name)


@router.get(AUTHORITY_PATH)
def authority(request: Request) -> Response:
    """The certificate to be trusted on a phone, where there is one."""
    reach: Reach = request.app.state.reach
    if reach.authority is None:
        raise NotFoundError("there is no certificate here: the application was started without --https")
    return Response(reach.authority(), media_type="application/x-x509-ca-cert")
