"""The body of a request as it is, counted while it comes in."""

from collections.abc import Awaitable, Callable
from typing import Any

from fastapi import Request

from yielding_coil.core.errors import TooLargeError

# How a route says of its body that it is a file as it is.
BYTES_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


def body_up_to(most_bytes: int, refusal: str) -> Callable[[Request], Awaitable[bytes]]:
    """A dependency that reads the body and refuses with these words once it grows larger."""

    async def body(request: Request) -> bytes:
        pieces: list[bytes] = []
        size = 0
        async for piece in request.stream():
            size += len(piece)
            if size > most_bytes:
                raise TooLargeError(refusal, field="file")
            pieces.append(piece)
        return b"".join(pieces)

    return body
