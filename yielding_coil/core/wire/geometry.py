"""Straight wires in space, what stands in them, and how they are cut into segments."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal, NamedTuple

import numpy as np
import numpy.typing as npt
from scipy.sparse import csr_matrix

from yielding_coil.core.arrays import Real, require_finite, require_positive
from yielding_coil.core.conductor import METALS, Metal
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import OnePort

Point = tuple[float, float, float]
Ints = npt.NDArray[np.int64]
# A reduced kernel does not hold for segments shorter than about this many radii (Harrington, ch. 4).
SHORTEST_IN_RADII = 2.5
MOST_SEGMENTS = 400


@dataclass(frozen=True, slots=True)
class Insulation:
    """A covering of a wire.

    Args:
        outer_radius_m: over it.
        relative_permittivity: 1 or more; about 2.3 for polyethylene, 3 to 4 for PVC (from memory).
    """

    outer_radius_m: float
    relative_permittivity: float

    def __post_init__(self) -> None:
        require_positive("outer_radius_m", self.outer_radius_m)
        if not 1 <= self.relative_permittivity < math.inf:
            raise OutOfDomainError("relative_permittivity", self.relative_permittivity, "1 or more")


@dataclass(frozen=True, slots=True)
class Wire:
    """A straight round wire from one point to another.

    Args:
        start_m: x, y and z in metres; z up, the ground at z = 0.
        end_m: the other end. Currents count from start to end.
        radius_m: of the metal.
        conductor: a metal of `METALS`, or "perfect".
        insulation: its covering; bare when left out.

    Raises:
        OutOfDomainError: a wire without length, thicker than long, of no known metal, or covered by less than its
            own radius.
    """

    start_m: Point
    end_m: Point
    radius_m: float
    conductor: str = "copper"
    insulation: Insulation | None = None

    def __post_init__(self) -> None:
        for name in ("start_m", "end_m"):
            point = getattr(self, name)
            if len(point) != 3:
                raise OutOfDomainError(name, point, "x, y and z")
            require_finite(name, np.asarray(point, dtype=float))
            object.__setattr__(self, name, tuple(float(x) for x in point))
        require_positive("radius_m", self.radius_m)
        if self.length_m <= SHORTEST_IN_RADII * self.radius_m:
            raise OutOfDomainError(
                "end_m",
                f"{self.length_m:.4g} m from start_m",
                f"further than {SHORTEST_IN_RADII} radii of the wire ({SHORTEST_IN_RADII * self.radius_m:.4g} m)",
            )
        if self.conductor != "perfect" and self.conductor not in METALS:
            raise OutOfDomainError("conductor", self.conductor, f"one of perfect, {', '.join(METALS)}")
        if self.insulation is not None and self.insulation.outer_radius_m <= self.radius_m:
            raise OutOfDomainError(
                "insulation",
                f"{self.insulation.outer_radius_m:.4g} m",
                f"more than the wire's {self.radius_m:.4g} m",
            )

    @property
    def length_m(self) -> float:
        """From end to end."""
        return math.dist(self.start_m, self.end_m)

    def at(self, share: float) -> Real:
        """The point so far along it."""
        start, end = np.asarray(self.start_m), np.asarray(self.end_m)
        return start + share * (end - start)


@dataclass(frozen=True, slots=True)
class Source:
    """Where the antenna is fed: a series gap.

    Args:
        wire: index of the wire.
        at: 0 to 1 along it; 0 or 1 is a gap between that end and its node, at z = 0 over perfect ground the base.
    """

    wire: int
    at: float


@dataclass(frozen=True, slots=True)
class Load:
    """A part in series with a wire.

    Args:
        wire: index of the wire.
        at: 0 to 1 along it, as of a source. Loads at one place add in series.
        part: any one-port: coil, capacitor, trap, resistor.
    """

    wire: int
    at: float
    part: OnePort


@dataclass(frozen=True, slots=True)
class Ground:
    """Real ground.

    Args:
        conductivity_s_per_m: 0.001 (poor) to 0.03 (good), sea 5 (from memory, as the next).
        relative_permittivity: 5 to 20, sea 80.
    """

    conductivity_s_per_m: float
    relative_permittivity: float

    def __post_init__(self) -> None:
        require_positive("conductivity_s_per_m", self.conductivity_s_per_m)
        if not 1 <= self.relative_permittivity < math.inf:
            raise OutOfDomainError("relative_permittivity", self.relative_permittivity, "1 or more")


GroundKind = Literal["none", "perfect"] | Ground


class Mesh(NamedTuple):
    """Wires cut into P segments that carry N unknown currents.

    Every current is linear along a segment. `ends` (2·P, N) gives the currents at a segment's start (row 2·p) and
    end (row 2·p + 1) from the unknowns; each unknown stands at a node and flows in the segments that meet there.
    """

    start_m: Real
    """Shape (P, 3)."""
    end_m: Real
    """Shape (P, 3)."""
    wire: Ints
    """Which wire each segment belongs to, shape (P,)."""
    ends: csr_matrix
    nodes_m: Real
    """Where each unknown stands, shape (N, 3)."""

    @property
    def length_m(self) -> Real:
        """Of each segment, shape (P,)."""
        return np.asarray(np.linalg.norm(self.end_m - self.start_m, axis=1))

    @property
    def direction(self) -> Real:
        """From start to end, shape (P, 3), length one."""
        return (self.end_m - self.start_m) / self.length_m[:, None]

    def gap(self, wires: Sequence[Wire], wire: int, at: float) -> Real:
        """What of each unknown flows through a place, shape (N,); from start to end counts positive."""
        own = np.flatnonzero(self.wire == wire)
        edges = np.linalg.norm(self.start_m[own] - np.asarray(wires[wire].start_m), axis=1) / wires[wire].length_m
        if at >= 1:
            return np.asarray(self.ends[2 * own[-1] + 1].toarray()[0])
        return np.asarray(self.ends[2 * own[np.argmin(np.abs(edges - at))]].toarray()[0])


def node_distance_m(a: Wire, b: Wire) -> float:
    """How far two ends may lie apart and still meet: a tenth of the thinner wire."""
    return 0.1 * min(a.radius_m, b.radius_m)


def require_sound(wires: Sequence[Wire], ground: GroundKind) -> None:
    """Refuse wires that touch without a node, and such as lie on or under the ground.

    Raises:
        OutOfDomainError: which wires, and where.
    """
    if not wires:
        raise OutOfDomainError("wires", "none", "at least one")
    if ground != "none":
        for i, wire in enumerate(wires):
            _require_above(i, wire, ground)
    for i, a in enumerate(wires):
        for j in range(i):
            _require_apart(j, wires[j], i, a)


def _require_above(index: int, wire: Wire, ground: GroundKind) -> None:
    low, high = sorted((wire.start_m[2], wire.end_m[2]))
    if low < 0:
        raise OutOfDomainError(f"wires[{index}]", f"{-low:.4g} m under the ground", "above z = 0")
    if low == 0 and isinstance(ground, Ground):
        raise OutOfDomainError(
            f"wires[{index}]",
            "joined to real ground",
            "above it; for a wire that is earthed take perfect ground and a resistor at its base (radials on the "
            "ground: 4 to 64 of them 29 to 2 Ω)",
        )
    if high <= wire.radius_m or 0 < low <= wire.radius_m:
        raise OutOfDomainError(f"wires[{index}]", f"{low:.4g} m high", "further above the ground than its radius")


def _require_apart(i: int, a: Wire, j: int, b: Wire) -> None:
    near = node_distance_m(a, b)
    joined = [
        (p, q)
        for p in ("start_m", "end_m")
        for q in ("start_m", "end_m")
        if math.dist(getattr(a, p), getattr(b, q)) <= near
    ]
    clear = a.radius_m + b.radius_m
    if not joined:
        distance = _segment_distance(a, b)
    elif len(joined) > 1:
        distance = 0.0
    else:
        # They meet at one end; then each other end must be clear of the other wire.
        (p, q) = joined[0]
        far_a = a.end_m if p == "start_m" else a.start_m
        far_b = b.end_m if q == "start_m" else b.start_m
        distance = min(_point_distance(far_a, b), _point_distance(far_b, a))
    if distance <= clear:
        raise OutOfDomainError(
            f"wires[{j}]",
            f"{distance:.4g} m from wires[{i}] without a node there",
            f"more than {clear:.4g} m from it, or meeting it end to end (cut the other wire in two there)",
        )


def _point_distance(point: Point, wire: Wire) -> float:
    r, s = np.asarray(point), np.asarray(wire.start_m)
    d = np.asarray(wire.end_m) - s
    t = float(np.clip((r - s) @ d / (d @ d), 0, 1))
    return float(np.linalg.norm(r - s - t * d))


def _segment_distance(a: Wire, b: Wire) -> float:
    """Shortest distance of two straight pieces (Ericson, Real-Time Collision Detection, 5.1.9)."""
    p, q = np.asarray(a.start_m), np.asarray(b.start_m)
    u, v = np.asarray(a.end_m) - p, np.asarray(b.end_m) - q
    w = p - q
    uu, uv, vv, uw, vw = u @ u, u @ v, v @ v, u @ w, v @ w
    det = uu * vv - uv * uv
    s = float(np.clip((uv * vw - vv * uw) / det, 0, 1)) if det > 1e-12 * uu * vv else 0.0
    crossing = float(np.linalg.norm(w + s * u - float(np.clip((uv * s + vw) / vv, 0, 1)) * v))
    ends = (
        _point_distance(a.start_m, b),
        _point_distance(a.end_m, b),
        _point_distance(b.start_m, a),
        _point_distance(b.end_m, a),
    )
    return min(crossing, *ends)


def cut_into_segments(
    wires: Sequence[Wire], places: Sequence[tuple[int, float]], ground: GroundKind, top_hz: float, per_wave: float
) -> Mesh:
    """The wires in segments, with an edge at every place where something stands.

    Args:
        places: wire and share along it of every source and load.
        top_hz: the highest frequency that the segments are for.
        per_wave: segments a wave at that frequency.

    Raises:
        OutOfDomainError: more than `MOST_SEGMENTS`; two places nearer than a segment can be.
    """
    wave = SPEED_OF_LIGHT_M_PER_S / top_hz
    edges = [_edges(i, wire, places, wave / per_wave) for i, wire in enumerate(wires)]
    segments = sum(len(shares) - 1 for shares in edges)
    if segments > MOST_SEGMENTS:
        raise OutOfDomainError(
            "wires",
            f"{segments} segments at {top_hz / 1e6:.4g} MHz ({(segments / MOST_SEGMENTS) ** 3:.1f} times the time "
            f"and {(segments / MOST_SEGMENTS) ** 2:.1f} times the room of the most)",
            f"at most {MOST_SEGMENTS} segments: ask for lower frequencies, or fewer segments a wave",
        )
    start = np.concatenate([[w.at(s) for s in e[:-1]] for w, e in zip(wires, edges, strict=True)])
    end = np.concatenate([[w.at(s) for s in e[1:]] for w, e in zip(wires, edges, strict=True)])
    own = np.repeat(np.arange(len(wires)), [len(e) - 1 for e in edges])
    rows, columns, signs, nodes = _joined(wires, edges, ground)
    ends = csr_matrix((signs, (rows, columns)), shape=(2 * segments, len(nodes)))
    return Mesh(start, end, own, ends, np.asarray(nodes, dtype=float).reshape(-1, 3))


def _edges(index: int, wire: Wire, places: Sequence[tuple[int, float]], most_m: float) -> list[float]:
    stops = sorted({0.0, 1.0, *(at for on, at in places if on == index)})
    shares = [0.0]
    shortest = SHORTEST_IN_RADII * wire.radius_m
    for a, b in pairwise(stops):
        span = (b - a) * wire.length_m
        if span < shortest:
            raise OutOfDomainError(
                "at", f"{span:.3g} m from the next thing on wires[{index}]", f"{shortest:.3g} m from it or more"
            )
        n = max(1, min(math.ceil(span / most_m - 1e-9), int(span / shortest)))
        shares += [a + (b - a) * k / n for k in range(1, n + 1)]
    if len(shares) == 2 and wire.length_m >= 2 * shortest:
        shares.insert(1, 0.5)
    return shares


def _joined(
    wires: Sequence[Wire], edges: Sequence[Sequence[float]], ground: GroundKind
) -> tuple[list[int], list[int], list[float], list[Real]]:
    """Which current flows where: one unknown at each edge within a wire, one fewer than wires at a node."""
    rows: list[int] = []
    columns: list[int] = []
    signs: list[float] = []
    nodes: list[Real] = []

    def flows(at: Real, *into: tuple[int, float]) -> None:
        for row, sign in into:
            rows.append(row)
            columns.append(len(nodes))
            signs.append(sign)
        nodes.append(at)

    # Each end of a wire: where it is, the row of its current, and what sign a current away from the node has.
    meeting: list[tuple[Wire, Real, int, float]] = []
    first = 0
    for wire, shares in zip(wires, edges, strict=True):
        last = first + len(shares) - 2
        for k in range(1, len(shares) - 1):
            flows(wire.at(shares[k]), (2 * (first + k) - 1, 1.0), (2 * (first + k), 1.0))
        meeting += [(wire, wire.at(0), 2 * first, 1.0), (wire, wire.at(1), 2 * last + 1, -1.0)]
        first = last + 1
    while meeting:
        wire, at, row, sign = meeting.pop(0)
        here = [m for m in meeting if np.linalg.norm(m[1] - at) <= node_distance_m(m[0], wire)]
        meeting = [m for m in meeting if not any(m is h for h in here)]
        earthed = at[2] == 0 and ground == "perfect"
        if earthed:
            flows(at, (row, sign))
        for _, _, other_row, other_sign in here:
            flows(at, (other_row, other_sign), *(() if earthed else ((row, -sign),)))
    return rows, columns, signs, nodes


def is_free(wires: Sequence[Wire], index: int, at: float, ground: GroundKind) -> bool:
    """Whether a place is an end of a wire at which nothing else ends, nor the ground."""
    if 0 < at < 1:
        return False
    end = wires[index].at(at)
    if ground == "perfect" and end[2] == 0:
        return False
    return not any(
        float(np.linalg.norm(np.asarray(point) - end)) <= node_distance_m(wires[index], other)
        for k, other in enumerate(wires)
        for which, point in enumerate((other.start_m, other.end_m))
        if (k, which) != (index, int(at))
    )


def metal_of(wire: Wire) -> Metal | None:
    """Its metal; None where it has no loss."""
    return METALS.get(wire.conductor)
