"""What segments with currents radiate, and how much of it in all."""

import math

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.wire.geometry import Ground
from yielding_coil.core.wire.ground import fresnel, permittivity
from yielding_coil.core.wire.moments import ETA_OHM, Pieces

_POINTS, _WEIGHTS = np.polynomial.legendre.leggauss(3)
_POINTS, _WEIGHTS = (_POINTS + 1) / 2, _WEIGHTS / 2


def intensity(
    p: Pieces, ends_a: Complex, wave_number: float, elevation_rad: Real, azimuth_rad: Real, ground: Ground | str
) -> Real:
    """Watts per steradian into each direction, both polarisations, shape (D,).

    Args:
        ends_a: peak current at each segment's start and end, shape (P, 2).
        elevation_rad: above the horizon, shape (D,).
        azimuth_rad: from +x towards +y, shape (D,).
        ground: "none", "perfect" or real; over ground nothing below the horizon is asked.

    Source:
        U = η·k²/(32π²)·|∫ I·e^{jk·r̂·r'} dr' across r̂|² (Balanis, Antenna Theory, sec. 3.6); from the ground comes
        what the image sends, weighted by the reflection coefficients (sec. 4.8).
    """
    rise, level = np.sin(elevation_rad), np.cos(elevation_rad)
    east, north = np.cos(azimuth_rad), np.sin(azimuth_rad)
    towards = np.stack([level * east, level * north, rise], axis=1)
    down = np.stack([rise * east, rise * north, -level], axis=1)  # θ̂
    across = np.stack([-north, east, np.zeros_like(east)], axis=1)  # φ̂
    at = p.at(_POINTS).reshape(-1, 3)
    current = ends_a[:, :1] * (1 - _POINTS) + ends_a[:, 1:] * _POINTS
    moment = (current * _WEIGHTS * p.length_m[:, None])[..., None] * p.direction[:, None, :]
    moment = moment.reshape(-1, 3)
    sent = np.exp(1j * wave_number * (towards @ at.T)) @ moment
    upright, flat = np.einsum("dx,dx->d", sent, down), np.einsum("dx,dx->d", sent, across)
    if ground != "none":
        flip = np.array([1.0, 1.0, -1.0])
        image = np.exp(1j * wave_number * (towards @ (at * flip).T)) @ (-moment * flip)
        in_plane, crosswise = (
            fresnel(permittivity(ground, wave_number), rise) if isinstance(ground, Ground) else (1.0, 1.0)
        )
        upright = upright + in_plane * np.einsum("dx,dx->d", image, down)
        flat = flat + crosswise * np.einsum("dx,dx->d", image, across)
    size = np.abs(upright) ** 2 + np.abs(flat) ** 2
    return np.asarray(ETA_OHM * wave_number**2 / (32 * math.pi**2) * size)


def radiated_w(p: Pieces, ends_a: Complex, wave_number: float, ground: Ground | str) -> float:
    """Watts into all directions, over ground into those above the horizon.

    Gauss's rule over the sine of elevation, even steps of azimuth, as many of both as the size in waves asks for.
    """
    corners = np.concatenate([p.start_m, p.start_m + p.length_m[:, None] * p.direction])
    reach = np.ptp(corners, axis=0)
    if ground != "none":
        reach[2] = 2 * corners[:, 2].max()
    steps = 12 + math.ceil(wave_number * float(np.linalg.norm(reach)))
    turns = 8 + 2 * math.ceil(wave_number * float(np.hypot(reach[0], reach[1])))
    sine, weight = np.polynomial.legendre.leggauss(steps)
    if ground != "none":
        sine, weight = (sine + 1) / 2, weight / 2
    azimuth = 2 * math.pi * np.arange(turns) / turns
    elevation, around = (x.ravel() for x in np.meshgrid(np.arcsin(sine), azimuth, indexing="ij"))
    sent = intensity(p, ends_a, wave_number, elevation, around, ground).reshape(steps, turns)
    return float(weight @ sent.sum(axis=1) * 2 * math.pi / turns)
