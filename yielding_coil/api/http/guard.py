"""Who may speak to the application: this computer's own pages under its names, and devices that were paired."""

import hashlib
import time
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import replace
from threading import Lock
from urllib.parse import urlsplit

from fastapi import FastAPI
from sqlalchemy.exc import DBAPIError
from sqlalchemy.exc import TimeoutError as NoneFreeError
from sqlalchemy.orm import Session
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from yielding_coil.api.http import pair_page
from yielding_coil.api.http.caller import BehindProxyError, Caller, Reach, origin_of, token_of
from yielding_coil.api.http.limits import Limits
from yielding_coil.api.http.problems import Problem, database_answer
from yielding_coil.reach import LOCAL_NAMES
from yielding_coil.store.devices import KnownDevice, device_of

_HEADERS = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; object-src 'none'; "
    "base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
}
# All that is open to whoever is not paired.
_OPEN = frozenset(
    (method, path) for method in ("GET", "HEAD") for path in (pair_page.PATH, pair_page.AUTHORITY_PATH)
) | {("POST", pair_page.PATH)}
_LOOKED_AT = frozenset({"/api/health", "/api/ready"})
# A device that is sent away is out within this time.
KNOWN_FOR_S = 0.5
MOST_KNOWN = 1024


class KnownDevices:
    """Whose tokens are, looked up again after half a second."""

    def __init__(self) -> None:
        self._known: OrderedDict[bytes, tuple[float, KnownDevice | None]] = OrderedDict()
        self._lock = Lock()

    async def of(self, app: FastAPI, token: str) -> KnownDevice | None:
        """The device of a token; None where it is nobody's."""
        key = hashlib.sha256(token.encode()).digest()
        now = time.monotonic()
        with self._lock:
            found = self._known.get(key)
        if found is not None and now - found[0] < KNOWN_FOR_S:
            return found[1]
        device = await run_in_threadpool(self._asked, app, token)
        with self._lock:
            self._known[key] = (now, device)
            self._known.move_to_end(key)
            while len(self._known) > MOST_KNOWN:
                self._known.popitem(last=False)
        return device

    @staticmethod
    def _asked(app: FastAPI, token: str) -> KnownDevice | None:
        with Session(app.state.engine) as session, session.begin():
            return device_of(session, token)


class Guard:
    """Turns away foreign hosts, origins and devices before anything is read, and says what pages may load."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._devices = KnownDevices()
        self._limits = Limits()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request; websockets and anything else that is no plain request get nothing."""
        if scope["type"] == "lifespan":
            await self.app(scope, receive, send)
            return
        if scope["type"] != "http":
            await send({"type": "websocket.close", "code": 1008})
            return
        token, refusal = await self._looked(scope)

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in _HEADERS.items():
                    headers.setdefault(name, value)
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            elif token is not None and message.get("more_body") and not await self._is_in(scope["app"], token):
                gone.append(token)
                raise OSError("sent away while it was answered")
            await send(message)

        gone: list[str] = []
        try:
            await (refusal or self.app)(scope, receive, with_headers)
        except Exception:
            # Whoever answered is told by an error that nobody listens any more; that is no failure.
            if not gone:
                raise

    async def _is_in(self, app: FastAPI, token: str) -> bool:
        return await self._devices.of(app, token) is not None

    async def _looked(self, scope: Scope) -> tuple[str | None, Response | None]:
        """The token of a device that is let in, and the answer to whoever is not."""
        headers = Headers(scope=scope)
        reach: Reach = scope["app"].state.reach
        try:
            address, local, secure = origin_of(scope, headers, reach.proxies)
        except BehindProxyError as silent:
            if scope["path"] in _LOOKED_AT:
                # The proxy itself asks whether it is well.
                scope["caller"] = Caller("", local=False, secure=False)
                return None, None
            return None, _refusal(silent.status, "Not from here", silent.code, silent.message)
        own = {*LOCAL_NAMES} if local else {*LOCAL_NAMES, *reach.names()}
        if local and reach.lan:
            own |= reach.names()
        host = _name(headers)
        why = _foreign(headers, host if host in own else None, scope["method"], reach.lan)
        if why is not None:
            return None, _refusal(403, "Not from here", "foreign", why)
        caller = Caller(address, local and host in LOCAL_NAMES, secure)
        scope["caller"] = caller
        if caller.local:
            return None, None
        return await self._outside(scope, headers, caller)

    async def _outside(self, scope: Scope, headers: Headers, caller: Caller) -> tuple[str | None, Response | None]:
        token = token_of(headers, caller.secure)
        try:
            device = None if token is None else await self._devices.of(scope["app"], token)
        except (DBAPIError, NoneFreeError) as error:
            return None, database_answer(scope["app"], error)
        limits = self._limits
        held = limits.unpaired if device is None else limits.paired
        wait_s = held.wait_s(caller.address if device is None else str(device.id))
        guess = device is None and (scope["method"], scope["path"]) == ("POST", pair_page.PATH)
        if not wait_s and guess:
            wait_s = limits.guesses.wait_s(caller.address)
        if wait_s:
            return None, _too_often(wait_s, guess)
        if device is not None:
            scope["caller"] = replace(caller, device=device)
            return token, None
        if (scope["method"], scope["path"]) in _OPEN:
            return None, None
        trust = caller.secure and scope["app"].state.reach.authority is not None
        return None, _unpaired(scope, headers, trust)


def _refusal(status: int, title: str, code: str, detail: str, headers: Mapping[str, str] | None = None) -> Response:
    problem = Problem(title=title, status=status, code=code, detail=detail)
    body = problem.model_dump(mode="json", exclude_none=True)
    return JSONResponse(body, status, dict(headers or {}), media_type="application/problem+json")


def _too_often(wait_s: float, guess: bool) -> Response:
    after = str(max(1, round(wait_s + 0.5)))
    detail = f"too many requests came from this device; try again in {after} s"
    if guess:
        return pair_page.pair_page(
            429,
            why=f"Too many codes were tried. Wait {after} s, then type it again.",
            headers={"Retry-After": after},
        )
    return _refusal(429, "Too often", "too_often", detail, {"Retry-After": after})


def _unpaired(scope: Scope, headers: Headers, trust: bool) -> Response:
    """A page for who would see one; in words for everything else."""
    if scope["method"] in ("GET", "HEAD") and "text/html" in headers.get("accept", ""):
        to = pair_page.local_path(scope["path"])
        name = pair_page.guessed_name(headers.get("user-agent", ""))
        return pair_page.pair_page(401, to=to, name=name, trust=trust)
    detail = "this device is not paired: open this application’s address in its browser and pair it"
    return _refusal(401, "Not paired", "not_paired", detail)


def _name(headers: Headers) -> str | None:
    """The host that is asked for; None where there is none, or more than one."""
    asked = headers.getlist("host")
    try:
        parts = urlsplit(f"//{asked[0]}") if len(asked) == 1 else None
        if parts is None or parts.username is not None or parts.path or parts.query or parts.fragment:
            return None
        _ = parts.port
        return parts.hostname
    except ValueError:
        return None


def _foreign(headers: Headers, host: str | None, method: str, lan: bool) -> str | None:
    """Why a request is not from here; None where it is."""
    if host is None:
        where = "the addresses that ./start printed" if lan else "127.0.0.1 and localhost only"
        return f"this application answers to {where}; open the address that ./start printed"
    name = headers.get("host", "").lower()
    origins = headers.getlist("origin")
    if any(origin.lower() not in (f"http://{name}", f"https://{name}") for origin in origins):
        return "another page asked; only this application's own pages may"
    # A link that is followed is no question of that page's; browsers say which it is (Fetch Metadata, W3C).
    followed = headers.get("sec-fetch-mode") == "navigate" and method == "GET"
    if headers.get("sec-fetch-site", "none") not in ("none", "same-origin") and not followed:
        return "another page asked; only this application's own pages may"
    return None
