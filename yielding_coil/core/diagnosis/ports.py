"""Wires with a port wherever something can break: solved once, then every fault is a network put into them."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np
from scipy.interpolate import CubicSpline

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.parts import Inductor, OnePort
from yielding_coil.core.trap import Trap
from yielding_coil.core.wire import KEPT_OHM, Hung, Structure, Wire, at_ports

PortKind = Literal["gap", "trap", "coil", "earth"]
Role = Literal["leg", "wire", "side", "counterpoise", "radial", "spoke"]
# Segments a wave, and steps of log f that bare wires are solved at: they have no high Q.
SEGMENTS, STEP = 20.0, 0.012
# So many stretches are kept at hand.
MOST_KEPT = 24
# The same of wires that hang anyhow: nobody knows how exactly.
ROUGHLY, ROUGH_STEP = 12.0, 0.025
# At how many places a stretch of wire may have parted, by how many stretches there are at most.
BREAKS = {2: 13, 4: 8, 6: 5, 99: 1}
# A wire that is down hangs so low; an end of it on the ground; what it touches is so long.
FALLEN, LOWEST_M, TOUCHED_M = (0.28, 0.5), 0.4, (1.5, 4.0)
# Across a break, beside what its two ends have between them as the wires are solved.
BREAK_F = 0.02e-12
ROLES: dict[str, tuple[Role, ...]] = {
    "dipole": ("leg",),
    "loaded-dipole": ("leg",),
    "long-dipole": ("leg",),
    "trap-dipole": ("leg",),
    "loop": ("side",),
    "end-fed": ("wire", "counterpoise"),
    "any-length": ("wire", "counterpoise"),
    "vertical": ("wire", "radial"),
    "five-eighths": ("wire", "radial"),
    "loaded-vertical": ("wire", "spoke"),
    "trap-vertical": ("wire", "radial"),
}


@dataclass(frozen=True, slots=True)
class Port:
    """A place in the wires where something stands or may part.

    Args:
        key: its own.
        kind: a gap is sound wire.
        role, number: of the wire that it lies in, counted among those of its role from one.
        from_feed: along the wire, as a share of it outward.
        part: what stands there; None in sound wire.
        wire, at: as `Load` has them.
    """

    key: str
    kind: PortKind
    role: Role
    number: int
    from_feed: float
    part: OnePort | None
    wire: int
    at: float


@dataclass(frozen=True, eq=False)
class PortedWires:
    """Bare wires by their admittances at the feed and at every port.

    Args:
        ports: in the order of the admittances' axes after the feed.
        curve: their scattering parameters against 200 Ω over log f, which have no poles, (…, ports + 1, ports + 1).
    """

    structure: Structure
    ports: tuple[Port, ...]
    curve: "CubicSpline[np.complex128]"

    def impedance(self, frequency_hz: Real, port_ohm: Complex, stretch: Real | float = 0.0) -> Complex:
        """At the feed.

        Args:
            frequency_hz: shape (n,).
            port_ohm: what stands at each port, shape (states, ports, n) or (ports, n).
            stretch: by how much longer all of it is, relative; a number.

        Returns:
            Ohm, (states, n) or (n,).
        """
        y = _admittance(self, frequency_hz.tobytes(), float(stretch))
        # Currents through the ports follow from V = −Z·I at each.
        ohm = np.moveaxis(port_ohm, -2, -1)
        inner = np.eye(len(self.ports)) + y[..., 1:, 1:] * ohm[..., np.newaxis, :]
        driven = np.linalg.solve(inner, np.broadcast_to(y[..., 1:, :1], (*inner.shape[:-1], 1)))[..., 0]
        admittance = y[..., 0, 0] - (y[..., 0, 1:] * ohm * driven).sum(axis=-1)
        return np.asarray(1 / admittance)

    def as_planned(self, frequency_hz: Real, trap_factor: float = 1.0) -> Complex:
        """What stands at its ports when nothing is wrong, shape (ports, n)."""
        found = np.zeros((len(self.ports), frequency_hz.size), dtype=complex)
        for row, port in zip(found, self.ports, strict=True):
            if port.part is not None:
                at = frequency_hz / trap_factor if port.kind == "trap" else frequency_hz
                row[:] = port.part.impedance_ohm(at)
        return found


@lru_cache(maxsize=MOST_KEPT)
def _admittance(wires: PortedWires, frequencies: bytes, stretch: float) -> Complex:
    """Of bare wires, (n, ports + 1, ports + 1); the same few stretches are asked for again and again."""
    s = np.asarray(wires.curve(np.log(np.frombuffer(frequencies) * (1 + stretch))), dtype=complex)
    unit = np.eye(s.shape[-1])
    return np.asarray(np.linalg.solve(unit + s, unit - s) / KEPT_OHM, dtype=complex)


def _ports_of(structure: Structure, roles: Sequence[Role], earths: int, breaks: bool) -> tuple[Port, ...]:
    """Its loads, and the places where its wires may part."""
    found: list[Port] = []
    counts: dict[Role, int] = {}
    source = structure.source
    stretches = len(structure.wires) + (0 < source.at < 1) + len(structure.loads) - earths
    places = next(count for most, count in BREAKS.items() if stretches <= most)
    # Near its ends a break is hardest to tell from what stands there.
    shares = np.clip((np.arange(places) + 0.5) / places, 0.05, 0.95).tolist()
    for index, wire in enumerate(structure.wires):
        split = index == source.wire and 0 < source.at < 1
        parts = ((source.at, 1.0), (source.at, 0.0)) if split else (_outward(structure, index),)
        for near, far in parts:
            role = roles[min(index, len(roles) - 1)]
            counts[role] = number = counts.get(role, 0) + 1
            own = sorted(
                (abs(load.at - near), load.at, load.part)
                for load in structure.loads[earths:]
                if load.wire == index and min(near, far) <= load.at <= max(near, far)
            )
            edges = [0.0, *(d for d, *_ in own), abs(far - near)]
            # A trap of each leg has a place in its order from the feed.
            for order, (distance, at, part) in enumerate(own):
                kind: PortKind = "trap" if isinstance(part, Trap) else "coil"
                share = distance / abs(far - near)
                found.append(Port(f"{kind}{order + 1}-{role}{number}", kind, role, number, share, part, index, at))
            if not breaks:
                continue
            for low, high in itertools.pairwise(edges):
                for share in shares:
                    out = low + share * (high - low)
                    at = near + (out if far > near else -out)
                    if wire.length_m * (high - low) > 0.3:
                        out /= abs(far - near)
                        found.append(
                            Port(f"gap{out:.2f}-{role}{number}", "gap", role, number, out, None, index, at)
                        )
    for k, load in enumerate(structure.loads[:earths]):
        found.append(Port(f"earth{k + 1}", "earth", "radial", 1, 0.0, load.part, load.wire, load.at))
    return tuple(found)


def _outward(structure: Structure, index: int) -> tuple[float, float]:
    """From which end of a wire to which it leads away from the feed."""
    source = structure.source
    feed = structure.wires[source.wire].at(source.at)
    wire = structure.wires[index]
    near_start = np.linalg.norm(wire.at(0.0) - feed) <= np.linalg.norm(wire.at(1.0) - feed)
    return (0.0, 1.0) if near_start else (1.0, 0.0)


@lru_cache(maxsize=64)
def ported(
    structure: Structure, roles: tuple[Role, ...], earths: int, low_hz: float, high_hz: float, breaks: bool = True
) -> PortedWires:
    """Solve a structure at its ports over a range.

    Args:
        roles: of its wires in their order, the last for all that follow.
        earths: how many of its loads, the first, are what lies in the ground.
        breaks: with places where its wires may part; else its loads alone.
    """
    ports = _ports_of(structure, roles, earths, breaks)
    # The earth stands where the feed does: it is put in series there.
    inner = tuple(port for port in ports if port.kind != "earth")
    # Half a step of slack for what is longer than planned.
    low, high = math.log(low_hz) - 0.1, math.log(high_hz) + 0.1
    segments, step = (SEGMENTS, STEP) if breaks else (ROUGHLY, ROUGH_STEP)
    grid = np.linspace(low, high, max(16, math.ceil((high - low) / step)))
    y = at_ports(structure, [(p.wire, p.at) for p in inner], np.exp(grid), segments)
    unit = np.eye(y.shape[-1])
    scattered = np.linalg.solve(unit + KEPT_OHM * y, unit - KEPT_OHM * y)
    curve: CubicSpline[np.complex128] = CubicSpline(grid, scattered)
    return PortedWires(structure, inner, curve)


def roles_of(form: str) -> tuple[Role, ...]:
    """What the wires of a form are called, in their order."""
    return ROLES.get(form, ("wire",))


def earth_of(hung: Hung, structure: Structure) -> float:
    """What lies in the ground in series with the feed, ohm."""
    return sum(float(load.part.impedance_ohm(np.array([1e7]))[0].real) for load in structure.loads[: hung.earths])


def fallen(structure: Structure, end: tuple[int, float] | None, share: float = FALLEN[0]) -> Structure | None:
    """The same wires low over the ground: all of them, or one end of a wire; None where none hangs free.

    Args:
        end: of which wire which end lies on the ground, the rest as high as it was.
        share: of its height that is left to all of it, where it is no end.
    """
    if structure.ground == "perfect":
        return None
    low = []
    for index, wire in enumerate(structure.wires):
        start, stop = (
            (x, y, max(LOWEST_M, z * share)) if end is None else (x, y, z) for x, y, z in (wire.start_m, wire.end_m)
        )
        if end is not None and end[0] == index:
            start, stop = ((*start[:2], LOWEST_M), stop) if end[1] == 0 else (start, (*stop[:2], LOWEST_M))
        low.append(replace(wire, start_m=start, end_m=stop))
    return replace(structure, wires=tuple(low))


def touching(structure: Structure, index: int, at: float, length_m: float) -> Structure:
    """The same with something of metal at an end of a wire: a gutter, a fence, so long."""
    wire = structure.wires[index]
    end = wire.at(at)
    along = (wire.at(at) - wire.at(0.5)) / (wire.length_m / 2)
    # Aside, not on: away from the wire's own line, level.
    aside = np.array([-along[1], along[0], 0.0]) if abs(along[2]) < 0.9 else np.array([1.0, 0.0, 0.0])
    aside /= np.linalg.norm(aside)
    metal = Wire(tuple(end.tolist()), tuple((end + length_m * aside).tolist()), max(wire.radius_m, 0.001))
    return replace(structure, wires=(*structure.wires, metal))


def without_q(part: OnePort, q: float) -> OnePort:
    """A coil or trap with water in it: another Q."""
    if isinstance(part, Inductor | Trap):
        return replace(part, q=q)
    return part
