"""A dropped or pasted file of any kind that is read here."""

import re
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.formats import table, touchstone
from yielding_coil.formats.text import text_of

# A line that can only be Touchstone's: “# MHz S RI R 50”, or “[Version] 2.0”.
_TOUCHSTONE = re.compile(
    r"^[ \t]*(#([ \t]+([kmg]?hz|[szygh]|ri|ma|db|r[ \t]*[0-9.e+-]+))+[ \t]*(!.*)?$|\[version\])", re.I | re.M
)
WHAT_IS_READ = "a Touchstone file (.s1p) with S, Z or Y data, or a table with a heading row (.csv)"


@dataclass(frozen=True, slots=True)
class SweepFile:
    """What a file held, and what should be said of it."""

    found: Sweep | SwrSweep
    reference_ohm: float
    remarks: tuple[str, ...]


def read(data: bytes, name: str = "", take: Literal["S11"] | None = None) -> SweepFile:
    """Read a file by what is in it; the name only decides what a refusal talks about.

    Raises:
        UnreadableError: nothing that is read here; the message says what came in and what to do.
    """
    text = text_of(data, WHAT_IS_READ)
    if _TOUCHSTONE.search(text) or re.search(r"\.s\d+p$", name, re.I):
        read = touchstone.read_file(data, take)
        if read.sweep.frequency_hz.size < 2:
            raise UnreadableError("the file holds one frequency; a sweep has two at least: sweep over a band")
        return SweepFile(read.sweep, read.reference_ohm, ())
    rows = table.read(data)
    return SweepFile(rows.found, 50.0, rows.remarks)
