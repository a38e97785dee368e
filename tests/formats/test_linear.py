"""Whatever the text, reading it takes time in proportion to its size; the page answers meanwhile."""

import contextlib
import json
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from patience import PATIENCE_S

from yielding_coil.core.errors import RefusedError
from yielding_coil.formats import apart, files, pieces
from yielding_coil.formats.text import LONGEST_LINE

MIB = 1024 * 1024
ROW = "7.000000,40.5,-10.25\n"


def rows(size):
    step = 1e-6
    count = size // 28
    return "MHz,R,X\n" + "".join(f"{7 + k * step:.6f},40.5,-10.25    \n" for k in range(count))


def touchstone(size):
    return "# MHz S RI R 50\n" + "".join(f"{7 + k * 1e-6:.6f} 0.125 -0.25      \n" for k in range(size // 28))


def of_lines(line):
    return lambda size: "MHz,R,X\n" + (line + "\n") * (size // (len(line) + 1))


# What made some reader slow, or might: one long line, many odd ones, things that nearly fit again and again.
TEXTS = {
    "rows": rows,
    "points": touchstone,
    "brackets in a heading": lambda size: "MHz,R(" + " " * size + "x,X\n7,40,1\n8,40,2\n",
    "open brackets": lambda size: "(" * size + ",MHz,R,X\n7,40,1,1\n",
    "many columns": lambda size: "MHz,R,X" + ",a" * (size // 2) + "\n7,40,1\n",
    "one line of JSON": lambda size: json.dumps([1.5] * (size // 5)),
    "option lines that are none": lambda size: "# MHz S RI R 50 x\n" * (size // 18),
    "options without end": lambda size: "# " + "r 50 " * (size // 5) + "\n7 0.1 0.1\n",
    "spaces and a mark": lambda size: (" " * 500 + "# x\n") * (size // 504),
    "exclamation marks": lambda size: "!" * size,
    "comments": lambda size: "! words\n" * (size // 8) + "# MHz S RI R 50\n7 0 0\n8 0 0\n",
    "keywords": lambda size: "# MHz S RI\n" + "[Reference] 50\n" * (size // 15),
    "quotes": of_lines('"7.0","40,5","-10'),
    "quotes without end": lambda size: 'MHz,R,X\n"' + "7,40,1\n" * (size // 7),
    "no numbers": of_lines("seven,forty,one"),
    "empty lines": lambda size: "MHz,R,X\n" + "\r\n" * (size // 2) + "7,40,1\n",
    "carriage returns": lambda size: "MHz,R,X\n" + "\r" * size,
    "digits": lambda size: "MHz,R,X\n" + "7" * size + ",1,1\n",
    "the same frequency": of_lines("7.0,40,1"),
}
DRAWERS = {
    "pieces": lambda size: "kind,name,value\n" + "capacitor,mica,240 pF\n" * (size // 22),
    "a cell without end": lambda size: 'kind,name,value\ncapacitor,"' + "m" * size,
    "many cells": lambda size: "kind,name,value\n" + "," * size + "\n",
    "many headings": lambda size: "kind,name" + ",value" * (size // 6) + "\n",
    "digits and commas": lambda size: "kind,name,count\n" + "capacitor,m," + "1" * (size // 8) + "\n",
}


def seconds(read, data):
    """Of the processor, so that what else runs here counts for nothing."""
    begun = time.process_time()
    with contextlib.suppress(RefusedError):
        read(data)
    return time.process_time() - begun


@pytest.mark.deep
@pytest.mark.parametrize("what", [*TEXTS, *DRAWERS])
def test_twice_the_size_takes_twice_the_time(what):
    """From half to four mebibytes: eight times, and 24 with what a machine adds; a square would be 64."""
    read, text = (files.read, TEXTS[what]) if what in TEXTS else (pieces.read, DRAWERS[what])
    small, large = (text(size).encode() for size in (MIB // 2, 4 * MIB))
    once = min(seconds(read, small) for _ in range(3))
    assert min(seconds(read, large) for _ in range(2)) < 24 * once + 0.05


@pytest.mark.parametrize("what", [*TEXTS, *DRAWERS])
def test_a_kilobyte_is_read_at_once(what):
    read, text = (files.read, TEXTS[what]) if what in TEXTS else (pieces.read, DRAWERS[what])
    assert seconds(read, text(1024).encode()) < 0.1


def test_a_line_that_is_no_row_is_refused_with_its_place():
    with pytest.raises(RefusedError, match=f"at most {LONGEST_LINE}") as refused:
        files.read(b"MHz,R,X\n7,40,1\n" + b"8," * LONGEST_LINE)
    assert refused.value.more["line"] == 3


@pytest.mark.deep
def test_a_large_file_is_read_apart_and_alike():
    data = touchstone(2 * apart.SMALL_BYTES).encode()
    there, here = apart.read_apart(data, "a.s1p"), files.read(data, "a.s1p")

    assert (there.found.frequency_hz == here.found.frequency_hz).all()
    assert (there.found.impedance_ohm == here.found.impedance_ohm).all()
    with pytest.raises(RefusedError, match="is not a number") as refused:
        apart.read_apart(data + b"soup 0 0\n", "a.s1p")
    assert refused.value.more["line"] == data.count(b"\n") + 1


@pytest.mark.deep
@pytest.mark.parametrize("what", ["rows", "brackets in a heading", "one line of JSON", "no numbers", "comments"])
def test_thirty_two_mebibytes_leave_the_page_its_answers(client, address, what):
    body = TEXTS[what](31 * MIB).encode()
    ended = threading.Event()

    def slowest():
        worst = 0.0
        with httpx.Client(base_url=address, timeout=PATIENCE_S) as own:
            while not ended.is_set():
                begun = time.monotonic()
                own.get("/api/settings").raise_for_status()
                worst = max(worst, time.monotonic() - begun)
                time.sleep(0.05)
        return worst

    with ThreadPoolExecutor(1) as beside:
        asked = beside.submit(slowest)
        answer = client.post("/api/sweeps", params={"name": "large.csv"}, content=body)
        ended.set()
    assert answer.status_code in (201, 422), answer.text
    print(f"{what}: {answer.status_code}, slowest answer beside it {asked.result():.2f} s")
    # The test's own client shares this process with the application: alone it is a tenth of that.
    assert asked.result() < 1.5
