"""Ground under wires: images in perfect ground, and what real ground does otherwise.

The fields of a current over level ground are a sum of plane waves, of both polarisations, running and evanescent,
each reflected by Fresnel's coefficients (Sommerfeld 1909; W. C. Chew, Waves and Fields in Inhomogeneous Media,
ch. 2). Tested with the currents along the wires that sum is the difference between real ground and perfect ground:

    ΔZ_mn = η·k²/(8π²) ∫ dα ∫ dc [(R_TE + 1)·(ê·F_m⁻)(ê·F_n⁺) + (R_TM + 1)·(m̂⁻·F_m⁻)(m̂⁺·F_n⁺)],

c = k_z/k from 1 to 0 (running) and on to −j∞ (evanescent), F⁻ and F⁺ what the current sends down and would take
from below. Perfect ground, where both R are −1, is the mirror's part.
"""

import math
from functools import lru_cache

import numpy as np

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals
from yielding_coil.core.constants import EPSILON_0_F_PER_M, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire.geometry import Ground, Ints, Mesh
from yielding_coil.core.wire.moments import ETA_OHM, Pieces, Spanned, halves_of, of_unknowns, spanned

_FLIP = np.array([1.0, 1.0, -1.0])
_POINTS, _WEIGHTS = np.polynomial.legendre.leggauss(3)
_POINTS, _WEIGHTS = (_POINTS + 1) / 2, _WEIGHTS / 2
# Evanescent waves weaker than this on their way down and up again are left out.
_FAINT = 16.0
# So many values of a wave are held at once.
_ROOM = 200_000
# Running waves between the vertical and the horizon, at most: as many as wires 150 waves up ask for.
MOST_POINTS = 960


def permittivity(ground: Ground, wave_number: Reals) -> Complex:
    """Complex relative permittivity ε_r − jσ/(ω·ε_0), shape of the wave number in rad/m."""
    omega = np.asarray(wave_number) * SPEED_OF_LIGHT_M_PER_S
    return np.asarray(ground.relative_permittivity - 1j * ground.conductivity_s_per_m / (omega * EPSILON_0_F_PER_M))


def fresnel(relative: Complexes, cosine: Complexes) -> tuple[Complex, Complex]:
    """What the image of a plane wave is weighted by, (R_v, R_h): both 1 over perfect ground.

    Args:
        relative: complex relative permittivity of the ground.
        cosine: k_z/k of the wave: of its angle to the vertical, or −j·v where it is evanescent.

    Source:
        Fresnel's coefficients for both polarisations (Balanis, Antenna Theory, sec. 4.8); R_h with its sign turned.
    """
    root = np.sqrt(relative - 1 + np.square(cosine) + 0j)
    up = relative * cosine
    return np.asarray((up - root) / (up + root)), np.asarray((root - cosine) / (root + cosine))


def image_matrix(mesh: Mesh, p: Pieces, wave_numbers: Real, ground: Ground | None) -> Spanned:
    """k·Z that the ground adds, in ohm per metre; perfect ground where none is given."""
    q = p.mirrored
    distance = np.linalg.norm(mesh.nodes_m[:, None, :] - (mesh.nodes_m * _FLIP)[None, :, :], axis=2)
    dots = p.direction @ q.direction.T
    smooth = []
    for k, halves in zip(wave_numbers, halves_of(p, q, wave_numbers), strict=True):
        found = of_unknowns(mesh.ends, halves.scalar - k**2 * halves.vector(dots))
        if ground is not None:
            found = found + k * _beyond_perfect(mesh, p, k, permittivity(ground, k))
        smooth.append(found * np.exp(1j * k * distance))
    return spanned(wave_numbers, smooth, distance)


def _beyond_perfect(mesh: Mesh, p: Pieces, k: float, relative: Complexes) -> Complex:
    """What real ground adds to the image in perfect ground, (N, N) in ohm."""
    x, y, z = p.at(_POINTS).reshape(-1, 3).T
    t = p.direction
    found = np.zeros((len(mesh.nodes_m),) * 2, dtype=complex)
    in_one_plane = not (np.ptp(y) or t[:, 1].any())
    cosines, weights, waves, azimuths = _directions(k, p, in_one_plane)
    step = max(1, _ROOM // len(x))
    for at in range(0, len(azimuths), step):
        wave, azimuth = waves[at : at + step], azimuths[at : at + step, None]
        cosine = cosines[wave, None]
        in_plane, across = fresnel(relative, cosine)
        east, north, sine = np.cos(azimuth), np.sin(azimuth), np.sqrt(1 - cosine**2)
        level = np.exp(1j * k * sine.real * (east * x + north * y))
        falls = np.exp(-1j * k * cosines[wave[0] : wave[-1] + 1, None] * z)
        fall = falls[wave - wave[0]]
        sent, taken = _of_halves(p, level * fall), _of_halves(p, level.conj() * fall)
        flat = east * t[:, 1] - north * t[:, 0]
        inward, upright = cosine * (east * t[:, 0] + north * t[:, 1]), sine * t[:, 2]
        for coefficient, down, up in (
            (1 - across, flat, flat),
            (1 - in_plane, inward + upright, inward - upright),
        ):
            of_down, of_up = (
                (along[..., None] * halves).reshape(len(azimuth), -1) @ mesh.ends
                for along, halves in ((down, sent), (up, taken))
            )
            found += (weights[wave, None] * coefficient * of_down).T @ of_up
    return np.asarray(ETA_OHM * k**2 / (8 * math.pi**2) * (found + found.T))


def _of_halves(p: Pieces, wave: Complex) -> Complex:
    """∫ halves · wave over each segment, from its values at three points each: (directions, P, 2)."""
    weights = np.stack([_WEIGHTS * (1 - _POINTS), _WEIGHTS * _POINTS], axis=1)
    return np.asarray(wave.reshape(len(wave), -1, 3) @ weights * p.length_m[:, None])


@lru_cache(maxsize=64)
def _gauss(points: int) -> tuple[Real, Real]:
    """Places and weights of Gauss and Legendre between −1 and 1.

    Raises:
        OutOfDomainError: so many that wires lie further from the ground, or apart, than this is good for.
    """
    if points > MOST_POINTS:
        raise OutOfDomainError(
            "height_m", f"wires {points / (2 * math.pi):.0f} waves above the ground or apart", "within 150 waves"
        )
    x, w = np.polynomial.legendre.leggauss(points)
    for row in (x, w):
        row.setflags(write=False)
    return x, w


def _directions(k: float, p: Pieces, in_one_plane: bool) -> tuple[Complex, Complex, Ints, Real]:
    """Waves as c = k_z/k and weight; directions as which wave and its azimuth, over half a turn.

    The other half is the same, turned round; of wires in one upright plane so is the second quarter of the first.

    Points crowd on both sides of the horizon, where the coefficients turn quickest. There are as many as the phases
    between the wires ask for; of a faint wave those of the low wires alone.
    """
    corners = np.concatenate([p.start_m, p.start_m + p.direction * p.length_m[:, None]])

    def reach(below_m: float) -> float:
        low = corners[corners[:, 2] <= below_m, :2]
        return float(np.hypot(*np.ptp(low, axis=0))) if len(low) > 1 else 0.0

    high, low = float(corners[:, 2].max()), float(corners[:, 2].min())
    x, w = _gauss(20 + math.ceil(k * (high + reach(math.inf) / 2)))
    t, w = (x + 1) / 2, w / 2
    waves = list(zip(t**2 + 0j, w * 2 * t + 0j, strict=True))
    most = max(_FAINT / (2 * k * low), 1.0)
    faint = [_FAINT / (2 * k * v) for v in most * np.linspace(0.1, 1, 10)]
    widest = max(k * v * reach(z) for v, z in zip(most * np.linspace(0.1, 1, 10), faint, strict=True))
    x, w = _gauss(28 + math.ceil(widest / 2))
    t, w = (x + 1) / 2, w / 2
    waves += zip(-1j * most * t**3, 1j * most * w * 3 * t**2, strict=True)
    quarters = 1 if in_one_plane else 2
    pairs: Complex = np.array(waves, dtype=complex)
    cosines, weights = pairs.T
    steps = np.empty(len(waves), dtype=np.int64)
    for i, cosine in enumerate(cosines):
        fade = k * abs(cosine.imag)
        fast = k * abs(np.sqrt(1 - cosine**2)) * reach(_FAINT / (2 * fade) if fade > 0 else math.inf)
        steps[i] = math.ceil((6 + math.ceil(fast)) * quarters / 2)
    around = np.concatenate([quarters * np.pi / 2 * (np.arange(n) + 0.5) / n for n in steps])
    return cosines, np.asarray(weights * np.pi / steps), np.repeat(np.arange(len(steps)), steps), around
