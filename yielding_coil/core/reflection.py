"""Reflection, SWR and return loss, one from the other (Pozar, Microwave Engineering, 4th ed., §2.3)."""

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals, require_positive

DEFAULT_REFERENCE_OHM = 50.0


def reflection_of(impedance_ohm: Complexes, reference_ohm: Reals = DEFAULT_REFERENCE_OHM) -> Complex:
    """Γ of an impedance against a real reference; same shape as the impedance.

    Raises:
        OutOfDomainError: the reference is not above zero.
    """
    require_positive("reference_ohm", reference_ohm)
    z = np.asarray(impedance_ohm, dtype=complex)
    gamma: Complex = np.asarray((z - reference_ohm) / (z + reference_ohm))
    return gamma


def impedance_of(reflection: Complexes, reference_ohm: Reals = DEFAULT_REFERENCE_OHM) -> Complex:
    """Impedance that shows this Γ; infinite where Γ is 1."""
    gamma = np.asarray(reflection, dtype=complex)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(2 * reference_ohm / (1 - gamma) - reference_ohm, dtype=complex)


def swr_of(reflection: Complexes | Real) -> Real:
    """Standing-wave ratio, 1 or more; infinite where everything, or more than came, returns."""
    magnitude = np.abs(reflection)
    with np.errstate(divide="ignore"):
        # Above one the difference is held at zero, so that the quotient is endless there too.
        return np.asarray((1 + magnitude) / np.maximum(1 - magnitude, 0.0))


def swr_of_impedance(impedance_ohm: Complexes, reference_ohm: Reals = DEFAULT_REFERENCE_OHM) -> Real:
    """SWR of an impedance against a real reference; endless where its resistance is not above zero."""
    z = np.asarray(impedance_ohm, dtype=complex)
    there, back = np.abs(z + reference_ohm), np.abs(z - reference_ohm)
    with np.errstate(divide="ignore"):
        return (there + back) / np.maximum(there - back, 0.0)


def magnitude_at_swr(swr: Reals) -> Real:
    """|Γ| that shows this SWR."""
    ratio = np.asarray(swr, dtype=float)
    return (ratio - 1) / (ratio + 1)


def return_loss_db(reflection: Complexes) -> Real:
    """Return loss in dB, positive where less comes back than went in."""
    with np.errstate(divide="ignore"):
        return -20 * np.log10(np.abs(np.asarray(reflection, dtype=complex)))
