"""What a request brings as JSON: bounded in size and depth, and made of what can be kept."""

import json
from typing import Any

from fastapi import Request

from yielding_coil.core.errors import OutOfDomainError, TooLargeError

MOST_JSON_BYTES = 1024 * 1024
MOST_DEPTH = 24


async def read_json(request: Request) -> None:
    """Read the body of a request that says it is JSON; what reads it later finds it read.

    Raises:
        TooLargeError: more than 1 MiB.
        OutOfDomainError: nested too deep, or with characters that no text has.
    """
    kind = request.headers.get("content-type", "application/json").partition(";")[0].strip().lower()
    if not kind.endswith(("/json", "+json")):
        return
    pieces: list[bytes] = []
    size = 0
    async for piece in request.stream():
        size += len(piece)
        if size > MOST_JSON_BYTES:
            raise TooLargeError("more than 1 MiB of JSON came in; at most 1 MiB is read", field="body")
        pieces.append(piece)
    body = b"".join(pieces)
    request._body = body
    if not body:
        return
    try:
        value = json.loads(body)
    except json.JSONDecodeError:
        return  # refused with its place by whoever takes it apart
    except RecursionError:
        raise _too_deep() from None
    except ValueError:
        raise OutOfDomainError("body", "bytes that are no text", "JSON in UTF-8") from None
    _require_plain(value, 0)
    request._json = value


def _too_deep() -> OutOfDomainError:
    return OutOfDomainError("body", "nested without end", f"at most {MOST_DEPTH} levels")


def _require_plain(value: Any, depth: int) -> None:
    if depth > MOST_DEPTH:
        raise _too_deep()
    if isinstance(value, str):
        # No database takes these, and half a character is none.
        if "\0" in value or any("\ud800" <= c <= "\udfff" for c in value):
            raise OutOfDomainError("body", "a character that no text has", "text without NUL and half characters")
    elif isinstance(value, dict):
        for name, inner in value.items():
            _require_plain(name, depth)
            _require_plain(inner, depth + 1)
    elif isinstance(value, list):
        for inner in value:
            _require_plain(inner, depth + 1)
    elif isinstance(value, int) and not isinstance(value, bool) and abs(value) > 10**18:
        raise OutOfDomainError("body", "a whole number of more than 18 digits", "numbers that can be")
