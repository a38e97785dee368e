"""What is taken out as a file, under its name."""

from urllib.parse import quote

from fastapi import Response


def disposition(name: str) -> str:
    """Under its name: in letters that all know, and as it is (RFC 6266)."""
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "._- ") else "_" for c in name)
    named = f'attachment; filename="{plain}"'
    return named if plain == name else f"{named}; filename*=UTF-8''{quote(name, safe='')}"


def download(content: bytes, name: str) -> Response:
    """Bytes as a file."""
    return Response(
        content, media_type="application/octet-stream", headers={"Content-Disposition": disposition(name)}
    )
