"""Text of a file as it came in, and the numbers in it."""

import re

import numpy as np

from yielding_coil.core.errors import UnreadableError

MOST_BYTES = 32 * 1024 * 1024
LONGEST_LINE = 4096

# What begins a file that is no text: pictures, documents, archives.
_SIGNATURES = {
    b"\x89PNG": "a PNG picture",
    b"\xff\xd8\xff": "a JPEG picture",
    b"GIF8": "a GIF picture",
    b"%PDF": "a PDF document",
    b"PK\x03\x04": "a ZIP archive or an office document",
    b"\x1f\x8b": "a gzip archive",
}


def text_of(data: bytes, what_is_read: str) -> str:
    """The text of a dropped file.

    Raises:
        UnreadableError: empty, too large, or no text at all.
    """
    if len(data) > MOST_BYTES:
        raise UnreadableError(f"the file is {len(data) / 2**20:.1f} MiB; at most 32 MiB are read")
    if not data.strip():
        raise UnreadableError(f"the file is empty; choose {what_is_read}", accepted=what_is_read)
    for signature, what in _SIGNATURES.items():
        if data.startswith(signature):
            raise UnreadableError(f"this is {what}; choose {what_is_read}", accepted=what_is_read)
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError:
            pass
    if b"\0" in data:
        raise UnreadableError(f"this is no text file; choose {what_is_read}", accepted=what_is_read)
    # Numbers are ASCII; a comment may be in any old encoding.
    return data.removeprefix(b"\xef\xbb\xbf").decode("utf-8", errors="replace")


def lines_of(text: str) -> list[str]:
    """Lines by any of the three line endings, and by nothing else.

    Raises:
        UnreadableError: one is longer than any row of a table.
    """
    lines = re.split(r"\r\n|\n|\r", text)
    longest = max(map(len, lines))
    if longest > LONGEST_LINE:
        at = next(k for k, line in enumerate(lines, start=1) if len(line) > LONGEST_LINE)
        raise UnreadableError(
            f"the line is {len(lines[at - 1])} characters long, and a row of a sweep has at most {LONGEST_LINE}: "
            "is this a file of numbers?",
            line=at,
        )
    return lines


def short(text: str) -> str:
    """What came in, short enough for a sentence."""
    clean = "".join(c if c.isprintable() else "·" for c in text)
    return clean if len(clean) <= 40 else clean[:39] + "…"


def number_of(word: str, at: int) -> float:
    """A finite number; the refusal names its line."""
    try:
        value = float(word)
    except ValueError:
        raise UnreadableError(
            f"“{short(word)}” is not a number; numbers are written like 14.2 or 1.42E+7", line=at
        ) from None
    if not np.isfinite(value) or "_" in word:
        raise UnreadableError(f"“{short(word)}” is not a finite number; delete that point or sweep again", line=at)
    return value


def numbers_of(words: list[str], at: int) -> list[float]:
    """Finite numbers; the refusal names their line."""
    try:
        values = [float(word) for word in words]
    except ValueError:
        return [number_of(word, at) for word in words]
    if not np.isfinite(values).all() or "_" in "".join(words):
        return [number_of(word, at) for word in words]
    return values
