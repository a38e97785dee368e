"""A place of an antenna taken by hand: its numbers follow."""

from typing import TypeVar

import numpy as np

from yielding_coil.core.arrays import Real, require_finite
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.wire import NUMBERS, Handle, Hung, Structure

HungOf = TypeVar("HungOf", bound=Hung)

# Newton's steps; a number is nudged by this share of itself to see what follows.
ROUNDS, NUDGE = 12, 1e-4
NEAR_M = 1e-4


def place_of(structure: Structure, handle: Handle) -> Real:
    """Where a handle lies, (x, z) in metres, seen from the side."""
    wire, at = handle.wire, handle.at
    if handle.load is not None:
        load = structure.loads[handle.load]
        wire, at = load.wire, load.at
    return np.asarray(structure.wires[wire].at(at)[[0, 2]])


def dragged(hung: HungOf, key: str, x_m: float, z_m: float, step_m: float = 0.0) -> HungOf:
    """The antenna with one of its places as near to a point as its numbers let it come.

    Args:
        step_m: what lengths and heights are rounded to, and angles and shares likewise; 0 rounds nothing.

    Raises:
        NotFoundError: it has no such place.
        OutOfDomainError: it cannot hang so at all.
    """
    require_finite("x_m", np.array([x_m, z_m]))
    handle = next((h for h in hung.handles if h.key == key), None)
    if handle is None:
        raise NotFoundError(
            f"this antenna has no place “{key}” to take hold of",
            field="handle",
            came_in=key,
            accepted=", ".join(h.key for h in hung.handles),
        )
    wanted = np.array([x_m, z_m])
    for _ in range(ROUNDS):
        here = place_of(hung.structure(), handle)
        if np.abs(wanted - here).max() < NEAR_M:
            break
        slope = np.array([(_nudged(hung, handle, name) - here) for name in handle.numbers]).T
        step, *_ = np.linalg.lstsq(slope, wanted - here, rcond=1e-9)
        if np.abs(slope @ step).max() < NEAR_M:
            break
        hung = _moved(hung, handle, step)
    return _rounded(hung, handle, step_m) if step_m > 0 else hung


def _rounded(hung: HungOf, handle: Handle, step_m: float) -> HungOf:
    """On round marks, where it can hang so too."""
    steps = {"m": step_m, "deg": 1.0, "share": 0.01}
    changes = {}
    for name in handle.numbers:
        step = steps[NUMBERS[name].unit]
        changes[name] = float(f"{round(getattr(hung, name) / step) * step:.9g}")
    try:
        found = hung.told(**changes)
        found.structure()
    except OutOfDomainError:
        return hung
    return found


def _size(hung: Hung, name: str) -> float:
    return NUDGE * max(abs(getattr(hung, name)), 0.1)


def _nudged(hung: Hung, handle: Handle, name: str) -> Real:
    """Where the handle lies with a number nudged, as if by its whole nudge."""
    by = _size(hung, name)
    for sign in (1, -1):
        try:
            moved = hung.told(**{name: getattr(hung, name) + sign * by}).structure()
        except OutOfDomainError:
            if sign < 0:
                raise
            continue
        here = place_of(hung.structure(), handle)
        return np.asarray(here + sign * (place_of(moved, handle) - here))
    raise AssertionError("one of the two returns or raises")


def _moved(hung: HungOf, handle: Handle, step: Real) -> HungOf:
    """So many nudges of each number, halved until the antenna can hang so."""
    for share in (1.0, 0.5, 0.25, 0.1, 0.03):
        changes = {}
        for name, nudges in zip(handle.numbers, step, strict=True):
            known = NUMBERS[name]
            value = getattr(hung, name) + share * float(nudges) * _size(hung, name)
            changes[name] = min(max(value, known.least), known.most)
        try:
            found = hung.told(**changes)
            found.structure()
        except OutOfDomainError:
            continue
        return found
    return hung
