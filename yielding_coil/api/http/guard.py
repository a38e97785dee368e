"""Who may speak to the application: this computer's own pages, under the names that it has here."""

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from yielding_coil.api.http.problems import Problem

# Another page, opened in the same browser under a name that leads here, has none of these.
HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})

_HEADERS = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; object-src 'none'; "
    "base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


class Guard:
    """Turns away foreign hosts and origins before anything is read, and says what pages may load."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request; websockets and anything else that is no plain request get nothing."""
        if scope["type"] == "lifespan":
            await self.app(scope, receive, send)
            return
        if scope["type"] != "http":
            await send({"type": "websocket.close", "code": 1008})
            return
        why = _foreign(Headers(scope=scope), scope["method"])
        if why is not None:
            problem = Problem(title="Not from here", status=403, code="foreign", detail=why)
            body = problem.model_dump(mode="json", exclude_none=True)
            await JSONResponse(body, 403, media_type="application/problem+json")(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        await self.app(scope, receive, with_headers)


def _name(address: str) -> str | None:
    try:
        return urlsplit(f"//{address}").hostname
    except ValueError:
        return None


def _foreign(headers: Headers, method: str) -> str | None:
    """Why a request is not from here; None where it is."""
    host = headers.get("host", "")
    if _name(host) not in HOSTS:
        return "this application answers to 127.0.0.1 and localhost only; open the address that ./start printed"
    origin = headers.get("origin")
    if origin is not None and origin.lower() not in (f"http://{host.lower()}", f"https://{host.lower()}"):
        return "another page asked; only this application's own pages may"
    # A link that is followed is no question of that page's; browsers say which it is (Fetch Metadata, W3C).
    followed = headers.get("sec-fetch-mode") == "navigate" and method == "GET"
    if headers.get("sec-fetch-site", "none") not in ("none", "same-origin") and not followed:
        return "another page asked; only this application's own pages may"
    return None
