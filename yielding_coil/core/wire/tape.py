"""Lengths as a tape shows them: whole millimetres, or sixteenths of an inch."""

import math
from collections.abc import Callable
from typing import Literal

from yielding_coil.core.arrays import require_not_negative
from yielding_coil.core.quantity import INCH_M, LengthUnit

STEP_M: dict[LengthUnit, float] = {"m": 1e-3, "ft": INCH_M / 16}

Towards = Literal["nearest", "down", "up"]
_ROUND: dict[Towards, Callable[[float], int]] = {"nearest": round, "down": math.floor, "up": math.ceil}


def on_tape(length_m: float, unit: LengthUnit, towards: Towards = "nearest") -> float:
    """The mark of a tape that a length is measured to.

    Args:
        length_m: zero or more.
        unit: the tape's: metric to 1 mm, or feet and inches to 1/16 in.
        towards: which mark, where the length lies between two.

    Raises:
        OutOfDomainError: the length is below zero.

    >>> on_tape(0.08783, "m")
    0.088
    """
    require_not_negative("length_m", length_m)
    step = STEP_M[unit]
    # A length that was on a mark stays there, whatever its last bits are.
    return float(f"{_ROUND[towards](round(length_m / step, 6)) * step:.12g}")
