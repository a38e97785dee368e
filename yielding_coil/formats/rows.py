"""Numbers in rows, as text that reads back to the bit: a heading, then a line a row (RFC 4180)."""

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.errors import UnreadableError


def write_rows(heading: tuple[str, ...], rows: Real) -> bytes:
    """Every digit that a float has.

    Args:
        rows: shape (n, columns).

    >>> write_rows(("a", "b"), np.array([[0.1, 2.0]]))
    b'a,b\\r\\n0.1,2.0\\r\\n'
    """
    lines = [",".join(heading), *(",".join(repr(float(v)) for v in row) for row in rows)]
    return "".join(f"{line}\r\n" for line in lines).encode()


def read_rows(data: bytes, columns: int) -> Real:
    """The rows, shape (n, columns).

    Raises:
        UnreadableError: no text, a row of another width, something that is no finite number.
    """
    try:
        lines = data.decode().split("\n")[1:]
        found = np.array([[float(v) for v in line.split(",")] for line in lines if line.strip()], dtype=float)
    except ValueError as why:
        raise UnreadableError(f"this is no table of {columns} columns of numbers ({why})") from None
    if found.ndim != 2 or found.shape[1] != columns or not np.isfinite(found).all():
        raise UnreadableError(f"this is no table of {columns} columns of finite numbers")
    return found
