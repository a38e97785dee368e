"""Currents on wires, frequency by frequency: the matrix interpolated, the parts put in, the system solved."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from scipy.linalg import lapack

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.conductor import rim_ohm
from yielding_coil.core.constants import MU_0_H_PER_M, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire.geometry import (
    Ground,
    GroundKind,
    Ints,
    Load,
    Mesh,
    Source,
    Wire,
    cut_into_segments,
    metal_of,
)
from yielding_coil.core.wire.ground import image_matrix
from yielding_coil.core.wire.moments import NODES, Pieces, Spanned, matrix, pieces_of


class Frame(NamedTuple):
    """What of a structure decides its matrix: what its parts are worth does not."""

    wires: tuple[Wire, ...]
    places: tuple[tuple[int, float], ...]
    ground: GroundKind

    def mesh(self, frequency_hz: Real, per_wave: float) -> Mesh:
        """Its segments, for the highest of the frequencies rounded up to an octave above 1 MHz."""
        return _mesh(self, octave_above(float(frequency_hz.max())), per_wave)

    def pieces(self, mesh: Mesh) -> Pieces:
        """Its segments with their radii."""
        return pieces_of(mesh, np.array([self.wires[w].radius_m for w in mesh.wire]))


@dataclass(frozen=True, slots=True)
class Solution:
    """Currents for one volt at the source.

    Args:
        frequency_hz: of it.
        unknown_a: the unknown currents, shape (N,).
        admittance_s: at the source.
        mesh: what the unknowns flow on.
        lumped_ohm: of each load.
        through: what of each unknown flows through each load, shape (loads, N).
        lossy: resistance a metre of each kind of wire with ∫ f·f' over all of it, (N, N).
    """

    frequency_hz: float
    unknown_a: Complex
    admittance_s: complex
    mesh: Mesh
    lumped_ohm: Complex
    through: Real
    lossy: tuple[tuple[complex, Real], ...]

    @property
    def wave_number(self) -> float:
        """In rad/m."""
        return 2 * math.pi * self.frequency_hz / SPEED_OF_LIGHT_M_PER_S

    @property
    def ends_a(self) -> Complex:
        """At each segment's start and end, shape (P, 2)."""
        return np.asarray(self.mesh.ends @ self.unknown_a, dtype=complex).reshape(-1, 2)

    @property
    def wire_w(self) -> float:
        """Lost in the metal."""
        x = self.unknown_a
        return float(sum(ohm.real / 2 * (x.conj() @ mass @ x).real for ohm, mass in self.lossy))

    @property
    def load_w(self) -> Real:
        """Lost in each load, shape (loads,)."""
        return np.asarray(self.lumped_ohm.real / 2 * np.abs(self.through @ self.unknown_a) ** 2)

    def at_power(self, power_w: float) -> "Solution":
        """The same currents when the source takes so much.

        Raises:
            OutOfDomainError: where the antenna takes no power.
        """
        real = self.admittance_s.real
        if not real > 0:
            raise OutOfDomainError(
                "frequency_hz", self.frequency_hz, "where the antenna's resistance is above zero; it is not there"
            )
        return Solution(
            self.frequency_hz,
            self.unknown_a * math.sqrt(2 * power_w / real),
            self.admittance_s,
            self.mesh,
            self.lumped_ohm,
            self.through,
            self.lossy,
        )


def solutions(
    frame: Frame, source: Source, loads: Sequence[Load], frequency_hz: Real, per_wave: float
) -> Iterator[tuple[int, Solution]]:
    """Each frequency's currents for one volt, with where it stands in `frequency_hz`, shape (n,)."""
    f = frequency_hz
    mesh = frame.mesh(f, per_wave)
    gap = mesh.gap(frame.wires, source.wire, source.at)
    through = np.array([mesh.gap(frame.wires, one.wire, one.at) for one in loads]).reshape(len(loads), len(gap))
    lumped = np.array([one.part.impedance_ohm(f) for one in loads], dtype=complex).reshape(len(loads), f.size)
    for at, z, lossy in _matrices(frame, mesh, f, per_wave):
        for ohm, row in zip(lumped[:, at], through, strict=True):
            on = np.flatnonzero(row)
            z[np.ix_(on, on)] += ohm * np.outer(row[on], row[on])
        # The matrix is symmetric: transposed it has the order that LAPACK wants.
        *_, current, trouble = lapack.zgesv(z.T, gap, overwrite_a=True)
        if trouble:
            raise OutOfDomainError("wires", "a structure without a solution", "one in which currents can flow")
        yield at, Solution(float(f[at]), current, complex(gap @ current), mesh, lumped[:, at], through, lossy)


def _matrices(
    frame: Frame, mesh: Mesh, f: Real, per_wave: float
) -> Iterator[tuple[int, Complex, tuple[tuple[complex, Real], ...]]]:
    """The matrix at each frequency with the loss of its metals, before anything is put in; one's own to change."""
    kinds = _kinds(frame.wires, mesh)
    along = [_per_metre(frame.wires[first], f) for first, _ in kinds]
    for members, spans in _octaves(frame, f, per_wave):
        turning = _Turning(spans)
        for at in members:
            k = 2 * math.pi * f[at] / SPEED_OF_LIGHT_M_PER_S
            z = turning.to(k) / k
            lossy = tuple((complex(ohm[at]), mass) for ohm, (_, mass) in zip(along, kinds, strict=True))
            for ohm, mass in lossy:
                z += ohm * mass
            yield int(at), z, lossy


def port_admittances(
    frame: Frame, places: Sequence[tuple[int, float]], frequency_hz: Real, per_wave: float
) -> Complex:
    """What wires with nothing in them show at several places at once.

    Args:
        frame: its places hold those asked for.
        places: wire and share along it, each a series gap.
        frequency_hz: shape (n,).

    Returns:
        Short-circuit admittances in siemens, shape (n, places, places).

    Source:
        The moment method's matrix reduced to its ports, Y = G·Z⁻¹·Gᵀ (Harrington, Field Computation by Moment
        Methods, ch. 6).
    """
    mesh = frame.mesh(frequency_hz, per_wave)
    gaps = np.array([mesh.gap(frame.wires, *place) for place in places])
    found = np.empty((frequency_hz.size, len(places), len(places)), dtype=complex)
    for at, z, _ in _matrices(frame, mesh, frequency_hz, per_wave):
        *_, currents, trouble = lapack.zgesv(z.T, gaps.T, overwrite_a=True)
        if trouble:
            raise OutOfDomainError("wires", "a structure without a solution", "one in which currents can flow")
        found[at] = gaps @ currents
    return found


def admittances_by_length(
    frame: Frame, source: Source, frequency_hz: Real, per_wave: float
) -> tuple[Real, Complex]:
    """What a structure shows with its first wire cut shorter and shorter, all lengths from one elimination.

    A wire cut at an edge of its segments has the leading part of the matrix when its unknowns come last, from the
    feed outwards. One elimination without exchange, Z = L·D·Lᵀ, then gives the admittance of every leading part:
    the sum of y²/d so far, with L·y the gap.

    Args:
        frame: its first wire begins at the feed, and has no part in it.
        frequency_hz: shape (n,), in one octave for the fewest segments.

    Returns:
        Lengths of the first wire, shape (k,), rising, and admittances, (n, k).

    Source:
        G. H. Golub & C. F. Van Loan, Matrix Computations, 4th ed., §4.1 (LDLᵀ of leading submatrices).
    """
    mesh = frame.mesh(frequency_hz, per_wave)
    gap = mesh.gap(frame.wires, source.wire, source.at)
    start = np.asarray(frame.wires[0].start_m)
    rows = np.flatnonzero(mesh.wire == 0)
    # The unknowns within the first wire stand at the starts of its segments but the first one's.
    inner = mesh.ends[2 * rows[1:]].indices
    order = np.concatenate([np.setdiff1d(np.arange(len(gap)), inner), inner])
    lengths = np.linalg.norm(mesh.end_m[rows] - start, axis=1)
    found = np.empty((len(frequency_hz), len(rows)), dtype=complex)
    for at, z, _ in _matrices(frame, mesh, frequency_hz, per_wave):
        found[at] = _leading(z[np.ix_(order, order)], gap[order])[-len(rows) :]
    return lengths, found


def _leading(z: Complex, gap: Real) -> Complex:
    """gapᵀ·Z⁻¹·gap of every leading part, shape (N,)."""
    y, found = gap.astype(complex), np.empty(len(gap), dtype=complex)
    so_far = 0j
    for i in range(len(gap)):
        so_far += y[i] ** 2 / z[i, i]
        found[i] = so_far
        factor = z[i + 1 :, i] / z[i, i]
        y[i + 1 :] -= factor * y[i]
        z[i + 1 :, i + 1 :] -= np.outer(factor, z[i, i + 1 :])
    return found


def octave_above(frequency_hz: float) -> float:
    """The next of 1 MHz, 2, 4, 8, …, and below 1 MHz alike, so that near frequencies have the same segments."""
    return float(1e6 * 2.0 ** math.ceil(math.log2(frequency_hz / 1e6) - 1e-12))


def _octaves(frame: Frame, f: Real, per_wave: float) -> Iterator[tuple[Ints, list[Spanned]]]:
    """Frequencies octave by octave in rising order, each with what is interpolated over it.

    A few frequencies are computed themselves; more go between Chebyshev's points of their octave.
    """
    top = octave_above(float(f.max()))
    octave = np.array([octave_above(float(each)) for each in f])
    for high in np.unique(octave):
        members = np.flatnonzero(octave == high)
        members = members[np.argsort(f[members], kind="stable")]
        own = np.unique(f[members])
        if len(own) > NODES:
            own = high * (0.75 - 0.25 * np.cos(np.pi * (2 * np.arange(NODES) + 1) / (2 * NODES)))
        yield members, _filled(frame, top, per_wave, tuple(own))


class _Turning:
    """k·Z in rising order of wave numbers: in even steps the phase is turned on, not computed anew."""

    def __init__(self, spans: list[Spanned]) -> None:
        self.spans = spans
        self.k = self.step = math.nan
        self.phases: list[Complex] = []
        self.turns: list[Complex] = []

    def to(self, k: float) -> Complex:
        step = k - self.k
        if abs(step - self.step) < 1e-12 * k:
            for phase, turn in zip(self.phases, self.turns, strict=True):
                phase *= turn
        else:
            self.phases = [np.exp(-1j * k * s.distance_m) for s in self.spans]
            self.turns = [np.exp(-1j * step * s.distance_m) for s in self.spans] if step == step else []
        self.k, self.step = k, step
        found = self.spans[0].at(k, self.phases[0])
        for span, phase in zip(self.spans[1:], self.phases[1:], strict=True):
            found += span.at(k, phase)
        return found


@lru_cache(maxsize=64)
def _mesh(frame: Frame, top_hz: float, per_wave: float) -> Mesh:
    mesh = cut_into_segments(frame.wires, frame.places, frame.ground, top_hz, per_wave)
    if not len(mesh.nodes_m):
        raise OutOfDomainError("wires", "no place where a current could flow", "a longer wire, or wires that meet")
    return mesh


@lru_cache(maxsize=12)
def _filled(frame: Frame, top_hz: float, per_wave: float, frequencies: tuple[float, ...]) -> list[Spanned]:
    """The matrix at some frequencies: of one geometry computed once, whatever its parts are worth."""
    mesh = _mesh(frame, top_hz, per_wave)
    pieces = frame.pieces(mesh)
    k = 2 * math.pi * np.asarray(frequencies) / SPEED_OF_LIGHT_M_PER_S
    spans = [matrix(mesh, pieces, k)]
    if frame.ground != "none":
        spans.append(image_matrix(mesh, pieces, k, frame.ground if isinstance(frame.ground, Ground) else None))
    return spans


def forget() -> None:
    """Let go of every matrix and mesh that is kept for the next question."""
    _filled.cache_clear()
    _mesh.cache_clear()


def _kinds(wires: Sequence[Wire], mesh: Mesh) -> list[tuple[int, Real]]:
    """One wire of each metal, radius and covering, and ∫ f·f' over all the segments of that kind, (N, N)."""
    groups: dict[object, list[int]] = {}
    for index, wire in enumerate(wires):
        if metal_of(wire) or wire.insulation:
            groups.setdefault((wire.radius_m, wire.conductor, wire.insulation), []).append(index)
    start, end = mesh.ends[0::2], mesh.ends[1::2]
    found = []
    for members in groups.values():
        third = np.where(np.isin(mesh.wire, members), mesh.length_m, 0.0)[:, None] / 3
        mass = start.T @ start.multiply(third) + end.T @ end.multiply(third)
        mixed = start.T @ end.multiply(third / 2)
        found.append((members[0], np.asarray((mass + mixed + mixed.T).todense())))
    return found


def _per_metre(wire: Wire, f: Real) -> Complex:
    """What its metal and its covering add in series, ohm a metre, shape of the frequencies.

    Source:
        The skin effect's reactance equals its resistance (Wheeler, Proc. IRE 30, 1942); a covering of outer radius
        b on a wire of radius a adds μ0/2π·(1 − 1/εr)·ln(b/a) (Richmond & Newman, Radio Science 11, 1976).
    """
    ohm = np.zeros(f.shape, dtype=complex)
    metal = metal_of(wire)
    if metal is not None:
        ohm += (1 + 1j) * rim_ohm(1.0, 2 * wire.radius_m, f, metal.resistivity_ohm_m, metal.permeability)
    if wire.insulation is not None:
        cover = wire.insulation
        henry = MU_0_H_PER_M / (2 * math.pi) * (1 - 1 / cover.relative_permittivity)
        ohm += 2j * math.pi * f * henry * math.log(cover.outer_radius_m / wire.radius_m)
    return ohm
