"""Voltage along wires: the potential of the charges on them, against what lies far away."""

from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.constants import EPSILON_0_F_PER_M, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.wire.geometry import Ground, Ints
from yielding_coil.core.wire.ground import permittivity
from yielding_coil.core.wire.moments import Pieces


@dataclass(frozen=True, slots=True)
class Voltages:
    """At the middle of each segment: its wire, the share along it, where it lies (P, 3), peak volts."""

    wire: Ints
    at: Real
    position_m: Real
    volts: Real


def potential_v(p: Pieces, ends_a: Complex, wave_number: float, ground: Ground | str) -> Real:
    """Peak potential in the middle of each segment, shape (P,).

    Args:
        ends_a: peak current at each segment's start and end, shape (P, 2).

    Source:
        φ = 1/4πε0 ∫ q'·e^{−jkR}/R ds with q' = j/ω·dI/ds (Harrington, Field Computation by Moment Methods, 1968,
        ch. 4); the ground's charges as those of an image, over real ground by (ε − 1)/(ε + 1), its limit near by.
    """
    omega = wave_number * SPEED_OF_LIGHT_M_PER_S
    charge = 1j / omega * (ends_a[:, 1] - ends_a[:, 0]) / p.length_m
    seen = _of_charges(p, p, charge, wave_number)
    if ground != "none":
        epsilon = complex(permittivity(ground, wave_number)) if isinstance(ground, Ground) else np.inf
        image = (epsilon - 1) / (epsilon + 1) if np.isfinite(epsilon) else 1.0
        seen = seen - image * _of_charges(p, p.mirrored, charge, wave_number)
    return np.abs(seen) / (4 * np.pi * EPSILON_0_F_PER_M)


def _of_charges(at: Pieces, of: Pieces, charge: Complex, wave_number: float) -> Complex:
    """∫ q'·e^{−jkR}/R over every segment, in the middle of each: 1/R in closed form, the phase of the middle."""
    apart = at.middle_m[:, None, :] - of.start_m[None, :, :]
    along = np.einsum("abx,bx->ab", apart, of.direction)
    square = np.einsum("abx,abx->ab", apart, apart) - along**2
    aside = np.sqrt(np.maximum(square, 0.0) + (at.radius_m[:, None] ** 2 + of.radius_m**2) / 2)
    inverse = np.arcsinh(along / aside) - np.arcsinh((along - of.length_m) / aside)
    middle = np.sqrt((along - of.length_m / 2) ** 2 + aside**2)
    return np.asarray((inverse * np.exp(-1j * wave_number * middle)) @ charge)
