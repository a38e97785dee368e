"""The moment matrix of thin wires: Galerkin's method with linear currents and the reduced kernel.

With e^{jωt}, currents f_m along the wires and charges by continuity, the matrix is

    Z_mn = jη/(4π·k) · ∫∫ [k²·(t·t')·f_m·f_n − f_m'·f_n'] · e^{−jkR}/R ds ds',   R² = |r − r'|² + a²,

tested along the axes with sources on the surface (Harrington, Field Computation by Moment Methods, 1968, ch. 4;
a² is the mean of both radii's squares, so that the matrix is symmetric). f is linear on each segment, so four
integrals a pair of segments, of a rising or falling half against another, give both terms: the halves sum to one.

k·Z times e^{+jkr}, r from node to node, is smooth over frequency: it is computed at a few frequencies and
interpolated, and the phase put back.
"""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from scipy.sparse import csr_matrix

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.constants import MU_0_H_PER_M, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.wire.geometry import Ints, Mesh

ETA_OHM = MU_0_H_PER_M * SPEED_OF_LIGHT_M_PER_S
# Frequencies an octave at which the matrix is computed; between them it errs by less than a millionth.
NODES = 5
# Pairs nearer than so many lengths of the longer segment are integrated with the static part taken out.
NEAR = 2.5
_POINTS, _WEIGHTS = (x / 2 for x in np.polynomial.legendre.leggauss(3))
_POINTS = _POINTS + 0.5
_NEAR_POINTS, _NEAR_WEIGHTS = (x / 2 for x in np.polynomial.legendre.leggauss(4))
_NEAR_POINTS = _NEAR_POINTS + 0.5


def _graded(n: int) -> tuple[Real, Real]:
    """Points and weights on 0 to 1, crowded at both ends, where a logarithm of the wire's radius stands."""
    x, w = np.polynomial.legendre.leggauss(n)
    x, w = (x + 1) / 2, w / 2
    return x**3 * (10 - 15 * x + 6 * x**2), w * 30 * x**2 * (1 - x) ** 2


_OUTER, _OUTER_WEIGHTS = _graded(14)


class Pieces(NamedTuple):
    """P straight pieces: where they start, their unit vectors, lengths and radii."""

    start_m: Real
    direction: Real
    length_m: Real
    radius_m: Real

    def at(self, share: Real) -> Real:
        """Points along them; shares (n,) give (P, n, 3), shares (P, n) too."""
        return self.start_m[:, None, :] + (share * self.length_m[:, None])[..., None] * self.direction[:, None, :]

    @property
    def middle_m(self) -> Real:
        """Their middles, (P, 3)."""
        return self.start_m + self.direction * self.length_m[:, None] / 2

    def take(self, which: Ints) -> "Pieces":
        """Some of them."""
        return Pieces._make(x[which] for x in self)

    @property
    def mirrored(self) -> "Pieces":
        """Their images under the plane z = 0."""
        flip = np.array([1.0, 1.0, -1.0])
        return Pieces(self.start_m * flip, self.direction * flip, self.length_m, self.radius_m)


def _halves(share: Real) -> Real:
    """The falling and the rising half of a current at these shares of a segment, shape (..., 2)."""
    return np.stack([1 - share, share], axis=-1)


def pair_integrals(p: Pieces, q: Pieces, wave_numbers: Real) -> Iterator[Complex]:
    """∫∫ halves · halves · e^{−jkR}/R over M pairs of pieces, (M, 2, 2) for each wave number in turn, in metres.

    Pairs that are near have 1/R integrated with its inner integral in closed form, once for all wave numbers.
    """
    middle = np.linalg.norm(
        p.start_m + p.direction * p.length_m[:, None] / 2 - q.start_m - q.direction * q.length_m[:, None] / 2,
        axis=1,
    )
    near = np.flatnonzero(middle < NEAR * np.maximum(p.length_m, q.length_m))
    far = np.flatnonzero(middle >= NEAR * np.maximum(p.length_m, q.length_m))
    near_p, near_q = p.take(near), q.take(near)
    static = _static(near_p, near_q)
    near_m, near_weights = _sampled(near_p, near_q, _NEAR_POINTS, _NEAR_WEIGHTS)
    far_m, far_weights = _sampled(p.take(far), q.take(far), _POINTS, _WEIGHTS)
    for k in wave_numbers:
        found = np.empty((len(p.length_m), 2, 2), dtype=complex)
        found[far] = ((np.exp(-1j * k * far_m) / far_m) @ far_weights).reshape(-1, 2, 2)
        found[near] = (np.expm1(-1j * k * near_m) / near_m @ near_weights).reshape(-1, 2, 2)
        area = p.length_m * q.length_m
        found *= area[:, None, None]
        found[near] += static
        yield found


def _sampled(p: Pieces, q: Pieces, points: Real, weights: Real) -> tuple[Real, Real]:
    """Distances at the points of a product rule, (M, n²), and its weights for the four pairs of halves, (n², 4)."""
    apart = p.at(points)[:, :, None, :] - q.at(points)[:, None, :, :]
    square = np.einsum("mabx,mabx->mab", apart, apart) + ((p.radius_m**2 + q.radius_m**2) / 2)[:, None, None]
    halves = _halves(points) * weights[:, None]
    return np.sqrt(square).reshape(len(square), len(points) ** 2), np.einsum("ai,bj->abij", halves, halves).reshape(
        -1, 4
    )


def _static(p: Pieces, q: Pieces) -> Real:
    """∫∫ halves · halves / R, (M, 2, 2) in metres.

    The inner integrals are ∫ ds/R = asinh and ∫ s·ds/R = √; the outer one goes over the pieces between the ends of
    `p` and the feet of `q`'s ends on it, with points crowded at each.
    """
    m = len(p.length_m)
    if not m:
        return np.zeros((0, 2, 2))
    feet = [
        np.clip(np.einsum("mx,mx->m", end - p.start_m, p.direction) / p.length_m, 0, 1)
        for end in (q.start_m, q.start_m + q.direction * q.length_m[:, None])
    ]
    stops = np.sort(np.stack([np.zeros(m), *feet, np.ones(m)], axis=1), axis=1)
    span = np.diff(stops, axis=1)
    share = (stops[:, :-1, None] + span[:, :, None] * _OUTER).reshape(m, -1)
    weight = (span[:, :, None] * _OUTER_WEIGHTS).reshape(m, -1)
    apart = p.at(share) - q.start_m[:, None, :]
    along = np.einsum("max,mx->ma", apart, q.direction)
    a2 = ((p.radius_m**2 + q.radius_m**2) / 2)[:, None]
    d = np.sqrt(np.maximum(np.einsum("max,max->ma", apart, apart) - along**2, 0) + a2)
    length = q.length_m[:, None]
    whole = np.arcsinh((length - along) / d) + np.arcsinh(along / d)
    rising = (np.hypot(length - along, d) - np.hypot(along, d) + along * whole) / length
    inner = np.stack([whole - rising, rising], axis=-1)
    return np.einsum("ma,mai,maj->mij", weight, _halves(share), inner) * p.length_m[:, None, None]


class Spanned(NamedTuple):
    """k·Z with its phase taken out, at a few wave numbers, and the distances that carry the phase."""

    wave_numbers: Real
    """Shape (K,)."""
    smooth: Complex
    """Shape (K, N²)."""
    distance_m: Real
    """Shape (N, N)."""

    barycentric: Real
    """Weights of the wave numbers, shape (K,) (Berrut & Trefethen, SIAM Review 46, 2004)."""

    def at(self, k: float, phase: Complex) -> Complex:
        """k·Z at a wave number whose phases e^{−jk·distance} are given."""
        away = k - self.wave_numbers
        if np.any(away == 0):
            weights = (away == 0).astype(float)
        else:
            # Lagrange's polynomials; the same factor of all is taken out by the sum being one.
            weights = self.barycentric / away
            weights /= weights.sum()
        smooth = (weights @ self.smooth.view(float)).view(complex)
        return smooth.reshape(phase.shape) * phase


def spanned(wave_numbers: Real, smooth: Sequence[Complex], distance_m: Real) -> Spanned:
    """To be interpolated between these wave numbers, from one (N, N) for each."""
    between = wave_numbers[:, None] - wave_numbers[None, :]
    np.fill_diagonal(between, 1.0)
    weights = (
        1 / (between / max(float(np.ptp(wave_numbers)), 1e-300)).prod(axis=1) if len(wave_numbers) > 1 else None
    )
    return Spanned(
        wave_numbers,
        np.reshape(smooth, (len(wave_numbers), -1)),
        distance_m,
        np.ones(1) if weights is None else weights,
    )


class Halves(NamedTuple):
    """What flows between all ends of P segments and those of P pieces, with the dot product left out."""

    whole: Complex
    """∫∫ halves · halves · e^{−jkR}/R, shape (P, 2, P, 2), in metres."""
    by_length: Real
    """1/(length · length'), shape (P, P)."""

    def vector(self, dots: Real) -> Complex:
        """∫∫ (t·t')·f·f'·e^{−jkR}/R, shape (2·P, 2·P); `dots` is t·t', shape (P, P)."""
        return self._flat(self.whole * dots[:, None, :, None])

    @property
    def scalar(self) -> Complex:
        """∫∫ f'·f''·e^{−jkR}/R, shape (2·P, 2·P)."""
        sums = self.whole.sum(axis=(1, 3)) * self.by_length
        return self._flat(sums[:, None, :, None] * np.array([[1.0, -1.0], [-1.0, 1.0]])[None, :, None, :])

    @staticmethod
    def _flat(found: Complex) -> Complex:
        n = found.shape[0]
        return found.reshape(2 * n, 2 * n)


def halves_of(p: Pieces, q: Pieces, wave_numbers: Real) -> Iterator[Halves]:
    """Between every piece and every other, for each wave number in turn.

    `q` is `p` itself or its image: half of all pairs are integrated, the rest follows by symmetry.
    """
    n = len(p.length_m)
    first, second = np.triu_indices(n)
    by_length = 1 / (p.length_m[:, None] * q.length_m[None, :])
    for found in pair_integrals(p.take(first), q.take(second), wave_numbers):
        whole = np.empty((n, 2, n, 2), dtype=complex)
        whole[second, :, first, :] = found.transpose(0, 2, 1)
        whole[first, :, second, :] = found
        yield Halves(whole, by_length)


def of_unknowns(ends: csr_matrix, found: Complex) -> Complex:
    """A symmetric (2·P, 2·P) from ends of segments to unknowns, (N, N), times jη/4π."""
    return np.asarray((1j * ETA_OHM / (4 * np.pi)) * (ends.T @ (ends.T @ found).T))


def pieces_of(mesh: Mesh, radius_m: Real) -> Pieces:
    """The segments of a mesh; `radius_m` of each, shape (P,)."""
    return Pieces(mesh.start_m, mesh.direction, mesh.length_m, radius_m)


def matrix(mesh: Mesh, p: Pieces, wave_numbers: Real) -> Spanned:
    """k·Z of the wires alone in free space, in ohm per metre.

    Args:
        p: the segments of the mesh.
        wave_numbers: where to compute it, rad/m, shape (K,).
    """
    dots = p.direction @ p.direction.T
    distance = np.linalg.norm(mesh.nodes_m[:, None, :] - mesh.nodes_m[None, :, :], axis=2)
    smooth = [
        of_unknowns(mesh.ends, k**2 * halves.vector(dots) - halves.scalar) * np.exp(1j * k * distance)
        for k, halves in zip(wave_numbers, halves_of(p, p, wave_numbers), strict=True)
    ]
    return spanned(wave_numbers, smooth, distance)
