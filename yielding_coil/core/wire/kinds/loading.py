"""A loading coil by the transmission-line estimate: a first value, and a cross-check of the model."""

import math

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import bare_inductance_h


def line_estimate_h(
    frequency_hz: float, below_m: float, above_m: float, radius_m: float, own_f: float = 0.0
) -> float:
    """Inductance that brings a wire over ground to resonance, its coil so far up and so much wire above.

    Args:
        below_m: zero or more; `above_m` above zero; together shorter than a quarter-wave.
        own_f: capacitance across the coil.

    Raises:
        OutOfDomainError: a wire that needs no coil.

    Source:
        X = K_a·cot βh_above − K_b·tan βh_below, K = 60·(ln(2h/a) − 1) with each section's
        own length (common practice).
    """
    for name, value in (("frequency_hz", frequency_hz), ("above_m", above_m), ("radius_m", radius_m)):
        require_positive(name, value)
    beta = 2 * math.pi * frequency_hz / SPEED_OF_LIGHT_M_PER_S

    def wave_ohm(length_m: float) -> float:
        return 60 * (math.log(2 * length_m / radius_m) - 1)

    lower = wave_ohm(below_m) * math.tan(beta * below_m) if below_m > 0 else 0.0
    ohm = wave_ohm(above_m) / math.tan(beta * above_m) - lower
    if not (ohm > 0 and beta * (below_m + above_m) < math.pi / 2):
        raise OutOfDomainError("above_m", f"{above_m:.4g} m", "less than what makes a quarter-wave without a coil")
    return bare_inductance_h(ohm / (2 * math.pi * frequency_hz), frequency_hz, own_f)
