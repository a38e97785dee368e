"""How warm a wound thing gets, how soon, and at which power it stays touchable. Still air throughout."""

import math

from yielding_coil.core.arrays import require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError

# Rise over the air: from here warned, from there not called safe; and where the law leaves its data.
WARM_C = 40.0
HOT_C = 70.0
EXTRAPOLATED_C = 100.0
_EXPONENT = 0.833


def warming_c(loss_w: float, surface_m2: float) -> float:
    """Final rise of temperature over the air.

    Args:
        loss_w: zero or more, averaged over minutes.
        surface_m2: that gives it off.

    Source:
        ΔT = (mW over cm²)^0.833, common practice for wound rings in still air; extrapolated above 100 °C.

    >>> round(warming_c(10.0, 100e-4), 1)
    46.3
    """
    require_not_negative("loss_w", loss_w)
    require_positive("surface_m2", surface_m2)
    return float((loss_w * 1e3 / (surface_m2 * 1e4)) ** _EXPONENT)


def loss_w(rise_c: float, surface_m2: float) -> float:
    """The averaged loss that ends in such a rise: `warming_c` the other way round.

    >>> round(loss_w(warming_c(3.0, 80e-4), 80e-4), 6)
    3.0
    """
    require_not_negative("rise_c", rise_c)
    require_positive("surface_m2", surface_m2)
    return float(rise_c ** (1 / _EXPONENT) * surface_m2 * 1e4 / 1e3)


def settling_s(loss_w: float, surface_m2: float, heat_j_per_k: float) -> float | None:
    """Time to get two thirds of the way there, τ = C·ΔT/P; None when nothing warms."""
    if loss_w == 0:
        return None
    return heat_j_per_k * warming_c(loss_w, surface_m2) / loss_w


def highest_power_w(power_w: float, rise_c: float, allowed_c: float = WARM_C) -> float | None:
    """Power at which the rise is the allowed one, rounded down to two figures; None when nothing warms.

    So rounded, a tenth more of it always exceeds the allowed rise.

    Args:
        power_w: at which the rise is `rise_c`; losses grow with it in proportion.
        rise_c: zero or more.
        allowed_c: above zero.
    """
    require_positive("power_w", power_w)
    require_positive("allowed_c", allowed_c)
    if rise_c < 0:
        raise OutOfDomainError("rise_c", rise_c, "zero or more")
    if rise_c == 0:
        return None
    exact = power_w * (allowed_c / rise_c) ** (1 / _EXPONENT)
    step = 10.0 ** (math.floor(math.log10(exact)) - 1)
    return math.floor(exact / step) * step
