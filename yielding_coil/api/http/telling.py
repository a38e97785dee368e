"""A line of JSON for each request: what was asked, what came of it, how long it took; never what was said in it."""

import json
import logging
import os
import sys
import time
from datetime import UTC, datetime

from starlette.types import ASGIApp, Message, Receive, Scope, Send


class Lines(logging.Formatter):
    """A record as one line of JSON."""

    def format(self, record: logging.LogRecord) -> str:
        """As it is written."""
        at = datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds")
        line = {"at": at, "level": record.levelname.lower(), "pid": os.getpid(), "from": record.name}
        line |= getattr(record, "told", None) or {"said": record.getMessage()}
        if record.exc_info:
            line["trace"] = self.formatException(record.exc_info)
        return json.dumps(line, ensure_ascii=False)


def tell_in_lines() -> None:
    """From now on everything that is logged is a line of JSON on standard error."""
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(Lines())
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)
    # Its own handlers would write the same once more, as text.
    for name in ("uvicorn", "uvicorn.error", "uvicorn.access", "procrastinate", "httpx", "alembic"):
        logging.getLogger(name).handlers.clear()
        logging.getLogger(name).propagate = True
        logging.getLogger(name).setLevel(logging.WARNING)


class Telling:
    """Writes down each request when it is through; the query is left out, since it may hold a code."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._log = logging.getLogger("yielding_coil.requests")

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun, status = time.perf_counter(), 0

        async def noted(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        try:
            await self.app(scope, receive, noted)
        finally:
            caller = scope.get("caller")
            device = None if caller is None or caller.device is None else str(caller.device.id)
            told = {
                "method": scope["method"],
                "path": scope["path"],
                "status": status,
                "ms": round(1e3 * (time.perf_counter() - begun), 1),
                "who": device or ("here" if caller is not None and caller.local else "unpaired"),
            }
            self._log.info("request", extra={"told": told})
