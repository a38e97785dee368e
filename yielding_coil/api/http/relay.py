"""What one process of several does for all: the analyser, and what hangs on it, asked for where it is.

The analyser has one owner, the hub; the processes that answer pages hand on what is the hub's and what it answers,
as it comes. It is asked over a Unix socket in a folder that is closed to others, so it believes who they say asks.
"""

import json
import re
from collections.abc import AsyncIterator, Callable
from dataclasses import asdict
from uuid import UUID

import anyio
import httpx
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from yielding_coil.api.http.asked import MOST_JSON_BYTES
from yielding_coil.api.http.caller import Caller
from yielding_coil.api.http.problems import Problem
from yielding_coil.store.devices import KnownDevice

CALLER = "x-caller"
# Of the hub: the analyser, practice at its bench, archives on their way (how far they are is asked beside them).
_HUBS = re.compile(r"/api/(analyser(/.*)?|archives(/.*)?|builds/[^/]+/fault/(practice|practised|told))")
_A_JOB = re.compile(r"/api/jobs/([0-9a-fA-F]{8}(?:-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12})(/events)?")
# Of one connection, not of what is said over it (RFC 9110, 7.6.1).
_OF_THE_HOP = frozenset(
    [
        "connection",
        "keep-alive",
        "proxy-connection",
        "te",
        "trailer",
        "transfer-encoding",
        "upgrade",
        "host",
        "content-length",
    ]
)
_GONE = Problem(
    title="Not ready",
    status=503,
    code="busy",
    detail="the process that holds the analyser is being started again; nothing was done, try again in a moment",
)


class Inside:
    """The hub's guard: whoever reaches its socket is a process of ours, and says who asks."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request."""
        if scope["type"] == "http":
            told = json.loads(Headers(scope=scope)[CALLER])
            device = told.pop("device")
            known = None if device is None else KnownDevice(UUID(device["id"]), device["name"], device["owner"])
            scope["caller"] = Caller(**told, device=known)
        await self.app(scope, receive, send)


class Relay:
    """Hands on what is the hub's.

    Args:
        socket: where the hub listens.
        is_shared: whether a job is one of those that all processes know.
        hub_kinds: kinds of jobs that the hub does.
    """

    def __init__(
        self, app: ASGIApp, socket: str, is_shared: Callable[[UUID], bool], hub_kinds: frozenset[str]
    ) -> None:
        self.app = app
        self._is_shared, self._kinds = is_shared, hub_kinds
        transport = httpx.AsyncHTTPTransport(uds=socket, limits=httpx.Limits(max_connections=200))
        self._client = httpx.AsyncClient(transport=transport, base_url="http://hub", timeout=None)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request: the hub's, or not."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        path: str = scope["path"]
        job = _A_JOB.fullmatch(path)
        if path == "/api/jobs" and scope["method"] == "POST":
            body = await _whole(receive)
            hubs = _kind_of(body) in self._kinds
            receive = _again(body, receive)
        elif job:
            hubs = not await run_in_threadpool(self._is_shared, UUID(job[1]))
        else:
            hubs = _HUBS.fullmatch(path) is not None
        await (self._hand_on if hubs else self.app)(scope, receive, send)

    async def _hand_on(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = [(k, v) for k, v in Headers(scope=scope).items() if k not in _OF_THE_HOP and k != CALLER]
        headers.append((CALLER, json.dumps(asdict(scope["caller"]), default=str)))
        query = scope["query_string"].decode("latin-1")
        target = scope["raw_path"].decode("latin-1") + (f"?{query}" if query else "")
        has_body = scope["method"] not in ("GET", "HEAD", "DELETE", "OPTIONS")
        if has_body and (length := Headers(scope=scope).get("content-length")):
            headers.append(("content-length", length))
        content = _body(receive) if has_body else None
        request = self._client.build_request(scope["method"], target, headers=headers, content=content)
        try:
            answer = await self._client.send(request, stream=True)
        except httpx.TransportError:
            body = _GONE.model_dump(mode="json", exclude_none=True)
            await JSONResponse(body, 503, media_type="application/problem+json")(scope, receive, send)
            return
        async with anyio.create_task_group() as both:
            # Who leaves a stream is let go of there, too.
            both.start_soon(_until_left, receive, both.cancel_scope.cancel)
            try:
                await send(
                    {
                        "type": "http.response.start",
                        "status": answer.status_code,
                        "headers": [(k, v) for k, v in answer.headers.raw if k.lower() != b"transfer-encoding"],
                    }
                )
                try:
                    async for piece in answer.aiter_raw():
                        await send({"type": "http.response.body", "body": piece, "more_body": True})
                except httpx.TransportError as why:
                    raise OSError("the hub ended amid its answer") from why
                await send({"type": "http.response.body", "body": b"", "more_body": False})
            finally:
                with anyio.CancelScope(shield=True):
                    await answer.aclose()
            both.cancel_scope.cancel()


async def _body(receive: Receive) -> AsyncIterator[bytes]:
    while True:
        message = await receive()
        if message["type"] != "http.request":
            return
        yield message.get("body", b"")
        if not message.get("more_body"):
            return


async def _until_left(receive: Receive, left: Callable[[], None]) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass
    left()


async def _whole(receive: Receive) -> bytes:
    """A body up to what JSON may have; whoever reads it next refuses what is longer."""
    body = b""
    async for piece in _body(receive):
        body += piece
        if len(body) > MOST_JSON_BYTES:
            break
    return body


def _again(body: bytes, rest: Receive) -> Receive:
    """The same body once more."""
    waiting: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

    async def receive() -> Message:
        return waiting.pop() if waiting else await rest()

    return receive


def _kind_of(body: bytes) -> str | None:
    try:
        asked = json.loads(body)
    except (ValueError, RecursionError):
        return None
    kind = asked.get("kind") if isinstance(asked, dict) else None
    return kind if isinstance(kind, str) else None
