"""What can be matched at all: an impedance that takes power."""

from yielding_coil.core.arrays import require_finite
from yielding_coil.core.errors import NotMatchableError


def matchable(load_ohm: complex) -> complex:
    """The load, finite and with a resistance above zero.

    Raises:
        OutOfDomainError: it is not finite.
        NotMatchableError: it has no resistance to match.
    """
    load = complex(load_ohm)
    require_finite("load_ohm", load)
    if load.real <= 0:
        raise NotMatchableError(
            "the load has no resistance to match: check the calibration and sweep again",
            field="load_ohm",
            came_in=f"R {load.real:.3g} Ω",
            accepted="R above zero",
        )
    return load
