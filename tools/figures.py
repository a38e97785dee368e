"""Figures of speed: shown, or held against a ratio of one run."""

import time
from collections.abc import Callable

import numpy as np

failed: list[str] = []


def show(name: str, text: str) -> None:
    """Print a figure that hangs on the machine: seconds fail nothing."""
    print(f"      {name}: {text}", flush=True)


def gate(name: str, text: str, holds: bool) -> None:
    """Print a figure beside its bound; note when it is missed."""
    print(f"{'ok  ' if holds else 'MISS'}  {name}: {text}", flush=True)
    if not holds:
        failed.append(name)


def seconds(act: Callable[[], object], least: float = 1.0) -> float:
    """The median of repeated runs, over a second or five runs, after one to warm up."""
    act()
    times: list[float] = []
    while sum(times) < least or len(times) < 5:
        start = time.perf_counter()
        act()
        times.append(time.perf_counter() - start)
    return float(np.median(times))


def seconds_beside(first: Callable[[], object], second: Callable[[], object]) -> tuple[float, float]:
    """Both medians, timed in turns a tenth of a second each, so that a machine that slows down slows both."""
    times = [(seconds(first, 0.1), seconds(second, 0.1)) for _ in range(15)]
    return float(np.median([a for a, _ in times])), float(np.median([b for _, b in times]))
