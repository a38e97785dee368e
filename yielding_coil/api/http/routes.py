"""One request, one transaction: begun, committed and undone in the thread that answers it.

A transaction that waited for another thread to be ended could hold a lock that all threads wait for. Who computes
for seconds commits what was read so far before it: a transaction left open that long is ended by the database.
"""

import functools
import inspect
from collections.abc import Callable, Coroutine
from typing import Annotated, Any

from fastapi import APIRouter, Request, Response
from fastapi.routing import APIRoute
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from yielding_coil.api.http.asked import read_json
from yielding_coil.api.http.problems import RESPONSES

# What a route asks for that reads or writes: committed before its answer is made into text.
InTransaction = Annotated[Session, "in one transaction"]
# Two that wait for each other: one of them is undone by the database, and tries again.
TRIES = 4
DEADLOCK = "40P01"


def in_one_transaction(endpoint: Callable[..., Any]) -> Callable[..., Any]:
    """A route without its session, which it gets for as long as it runs; any other route as it is."""
    signature = inspect.signature(endpoint)
    named = [p.name for p in signature.parameters.values() if p.annotation == InTransaction]
    if not named:
        return endpoint
    (session_name,) = named
    asked = [p for p in signature.parameters.values() if p.name != session_name]
    own = next((p.name for p in asked if p.annotation is Request), None)
    request_name = own or "request_of_the_session"

    @functools.wraps(endpoint)
    def run(**given: Any) -> Any:
        request: Request = given[request_name] if own else given.pop(request_name)
        for tried in range(1, TRIES + 1):
            try:
                with Session(request.app.state.engine, expire_on_commit=False) as session:
                    answer = endpoint(**given, **{session_name: session})
                    session.commit()
                    return answer
            except OperationalError as error:
                if tried == TRIES or getattr(error.orig, "sqlstate", None) != DEADLOCK:
                    raise
        raise AssertionError("unreachable")

    if own is None:
        asked.append(inspect.Parameter(request_name, inspect.Parameter.KEYWORD_ONLY, annotation=Request))
    keyword_only = [p.replace(kind=inspect.Parameter.KEYWORD_ONLY) for p in asked]
    run.__signature__ = signature.replace(parameters=keyword_only)  # type: ignore[attr-defined]
    return run


class _Route(APIRoute):
    """A route whose session, where it asks for one, is its own, and whose JSON is bounded."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **more: Any) -> None:
        super().__init__(path, in_one_transaction(endpoint), **more)

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """As ever, once the body is read."""
        handler = super().get_route_handler()
        if self.body_field is None:
            return handler

        async def handle(request: Request) -> Response:
            await read_json(request)
            return await handler(request)

        return handle


def router_of(tag: str, prefix: str = "/api") -> APIRouter:
    """The routes of a subject."""
    return APIRouter(prefix=prefix, tags=[tag], responses=RESPONSES, route_class=_Route)
