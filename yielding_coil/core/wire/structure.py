"""Wires in the air as an antenna: impedance, currents, watts and gain by the moment method."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real, Reals, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire.far_field import intensity, radiated_w
from yielding_coil.core.wire.geometry import (
    Ground,
    GroundKind,
    Ints,
    Load,
    Mesh,
    Source,
    Wire,
    is_free,
    require_sound,
)
from yielding_coil.core.wire.potential import Voltages, potential_v
from yielding_coil.core.wire.solution import (
    Frame,
    Solution,
    admittances_by_length,
    port_admittances,
    solutions,
)

SEGMENTS_PER_WAVE = 40.0
# Heights over real ground in waves: below the first what lies in the ground decides as much as its constants; below
# the second the near field is lost in the topmost centimetres; below the third the sum of waves does not end.
ESTIMATED_BELOW = 0.1
NO_WATTS_BELOW = 0.02
LOWEST = 0.005


@dataclass(frozen=True, slots=True)
class Solved:
    """Currents and watts of a structure. Arrays have a first axis of frequencies, if several were asked for.

    Args:
        impedance_ohm: at the source.
        wire: index of the wire at each position.
        at: share along it.
        position_m: shape (positions, 3).
        current_a: peak, positive from a wire's start to its end, shape (frequencies, positions).
        radiated_w: over ground, into the upper hemisphere.
        wire_w: lost in the metal.
        load_w: lost in each load, shape (frequencies, loads).
        ground_w: lost in real ground: what is neither radiated nor lost elsewhere; NaN, as `radiated_w`, where a
            wire lies lower than a fiftieth of a wave over it.
        difference_ohm: from what half as many segments give: how far to trust the impedance.
        estimated: where a wire lies so low over real ground that layers, roots and wet decide: an estimate.
    """

    impedance_ohm: Complex
    wire: Ints
    at: Real
    position_m: Real
    current_a: Complex
    radiated_w: Real
    wire_w: Real
    load_w: Real
    ground_w: Real
    difference_ohm: Real
    estimated: npt.NDArray[np.bool_]

    def first(self) -> "Solved":
        """The first frequency alone."""
        alone = {name: getattr(self, name)[0] for name in _OVER_FREQUENCY}
        return Solved(wire=self.wire, at=self.at, position_m=self.position_m, **alone)


_OVER_FREQUENCY = (
    "impedance_ohm",
    "current_a",
    "radiated_w",
    "wire_w",
    "load_w",
    "ground_w",
    "difference_ohm",
    "estimated",
)


@dataclass(frozen=True, slots=True)
class Structure:
    """Wires, their feed, what stands in them, and the ground below.

    Args:
        wires: joined where their ends meet.
        source: where it is fed.
        loads: in series with the wires.
        ground: "none" (free space), "perfect", or `Ground(...)`.
        segments_per_wave: at the highest frequency of a call, rounded up to an octave above 1 MHz.

    Raises:
        OutOfDomainError: wires that touch without a node, that lie on or under the ground, a place that is none,
            a feed or a load on a free end.

    >>> arm = 5.15
    >>> dipole = Structure([Wire((-arm, 0, 0), (arm, 0, 0), 0.001)], Source(0, 0.5))
    >>> bool(65 < dipole.impedance_at(14.15e6).real < 75)
    True
    """

    wires: Sequence[Wire]
    source: Source
    loads: Sequence[Load] = ()
    ground: GroundKind = "none"
    segments_per_wave: float = SEGMENTS_PER_WAVE

    def __post_init__(self) -> None:
        object.__setattr__(self, "wires", tuple(self.wires))
        object.__setattr__(self, "loads", tuple(self.loads))
        if self.ground not in ("none", "perfect") and not isinstance(self.ground, Ground):
            raise OutOfDomainError("ground", self.ground, "none, perfect or Ground(...)")
        if not 8 <= self.segments_per_wave <= 400:
            raise OutOfDomainError("segments_per_wave", self.segments_per_wave, "8 to 400")
        require_sound(self.wires, self.ground)
        self._require_place("source", self.source)
        for i, load in enumerate(self.loads):
            self._require_place(f"loads[{i}]", load)

    def _require_place(self, name: str, place: Source | Load) -> None:
        if not 0 <= place.wire < len(self.wires):
            raise OutOfDomainError(name, f"wire {place.wire}", f"a wire, 0 to {len(self.wires) - 1}")
        if not 0 <= place.at <= 1:
            raise OutOfDomainError(name, f"at {place.at}", "0 to 1 along its wire")
        if is_free(self.wires, place.wire, place.at, self.ground):
            raise OutOfDomainError(
                name,
                f"at {place.at} of wire {place.wire}, a free end",
                "where current flows: within a wire, or at a node",
            )

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Impedance at the source in ohm, shape of the frequencies."""
        return self._impedance(frequency_hz, self.segments_per_wave)

    def difference_ohm(self, frequency_hz: Reals) -> Real:
        """How far the impedance lies from what half as many segments give, shape of the frequencies."""
        rough = self._impedance(frequency_hz, self.segments_per_wave / 2)
        return np.abs(self.impedance_at(frequency_hz) - rough)

    def is_estimated(self, frequency_hz: Reals) -> npt.NDArray[np.bool_]:
        """Whether a wire lies lower than a tenth of a wave over real ground, shape of the frequencies."""
        return np.asarray(self._low_in_waves(frequency_hz) < ESTIMATED_BELOW)

    def solve(self, frequency_hz: Reals, power_w: float = 100.0) -> Solved:
        """Currents and watts when the source takes `power_w`.

        Args:
            frequency_hz: one, or shape (n,), above zero.
            power_w: above zero.

        Raises:
            OutOfDomainError: a frequency at which the antenna takes no power.
        """
        require_positive("power_w", power_w)
        f = np.atleast_1d(np.asarray(frequency_hz, dtype=float))
        fed = [one.at_power(power_w) for one in self._in_order(f, self.segments_per_wave)]
        sent, lost = np.array([self._sent_w(one, power_w) for one in fed]).T
        wire, share = _places(fed[0].mesh, self.wires)
        found = Solved(
            impedance_ohm=np.array([1 / one.admittance_s for one in fed]),
            wire=wire,
            at=share,
            position_m=np.array([self.wires[w].at(s) for w, s in zip(wire, share, strict=True)]),
            current_a=np.array([_at_places(one.mesh, one.ends_a) for one in fed]),
            radiated_w=sent,
            wire_w=np.array([one.wire_w for one in fed]),
            load_w=np.array([one.load_w for one in fed]),
            ground_w=lost,
            difference_ohm=self.difference_ohm(f),
            estimated=self.is_estimated(f),
        )
        return found if np.ndim(frequency_hz) else found.first()

    def voltage_at(self, frequency_hz: float, power_w: float = 100.0) -> Voltages:
        """Peak voltage along the wires against what lies far away, when so much goes in.

        Raises:
            OutOfDomainError: where the antenna takes no power.
        """
        (one,) = self._in_order(np.array([float(frequency_hz)]), self.segments_per_wave)
        fed = one.at_power(power_w)
        pieces = self._frame.pieces(fed.mesh)
        volts = potential_v(pieces, fed.ends_a, fed.wave_number, self.ground)
        end = np.cumsum(fed.mesh.length_m)
        first = np.searchsorted(fed.mesh.wire, np.arange(len(self.wires)))
        start = np.concatenate([[0.0], end])[first][fed.mesh.wire]
        whole = np.array([w.length_m for w in self.wires])[fed.mesh.wire]
        return Voltages(fed.mesh.wire, (end - fed.mesh.length_m / 2 - start) / whole, pieces.middle_m, volts)

    def sent_w(self, frequency_hz: float, power_w: float, far_ground: Ground) -> float:
        """Watts into the upper hemisphere of so much that goes in, where soil far away reflects, not its ground."""
        (one,) = self._in_order(np.array([float(frequency_hz)]), self.segments_per_wave)
        fed = one.at_power(power_w)
        return radiated_w(self._frame.pieces(one.mesh), fed.ends_a, one.wave_number, far_ground)

    def gain_dbi(
        self,
        frequency_hz: Reals,
        elevation_deg: Reals,
        azimuth_deg: Reals,
        far_ground: Ground | None = None,
    ) -> Real:
        """4π times the watts per steradian over those that go in, both polarisations, in dB.

        Args:
            frequency_hz: one, or shape (n,).
            elevation_deg: from the horizon; −90 to 90 in free space, 0 to 90 over ground.
            azimuth_deg: from +x towards +y; broadcasts with the elevation.
            far_ground: soil that reflects far away, where near by it is perfect (radials).

        Returns:
            Shape of the frequencies and then of the angles; NaN where a wire lies too low over real ground.

        Raises:
            OutOfDomainError: below the horizon over ground.
        """
        elevation, azimuth = np.broadcast_arrays(
            np.asarray(elevation_deg, dtype=float), np.asarray(azimuth_deg, dtype=float)
        )
        lowest = -90.0 if self.ground == "none" else 0.0
        outside = elevation[~((elevation >= lowest) & (elevation <= 90))]
        if outside.size:
            raise OutOfDomainError("elevation_deg", float(outside[0]), f"{lowest:.0f} to 90")
        f = np.asarray(frequency_hz, dtype=float)
        angles = np.radians(elevation).ravel(), np.radians(azimuth).ravel()
        sent = np.array(
            [
                intensity(
                    self._frame.pieces(one.mesh),
                    one.at_power(1.0).ends_a,
                    one.wave_number,
                    *angles,
                    far_ground or self.ground,
                )
                for one in self._in_order(f.ravel(), self.segments_per_wave)
            ]
        )
        sent[self._low_in_waves(f.ravel()) < NO_WATTS_BELOW] = math.nan
        with np.errstate(divide="ignore"):
            return np.asarray(10 * np.log10(4 * math.pi * sent)).reshape(f.shape + elevation.shape)

    @property
    def _frame(self) -> Frame:
        places: list[Source | Load] = [self.source, *self.loads]
        return Frame(tuple(self.wires), tuple((p.wire, p.at) for p in places), self.ground)

    def _impedance(self, frequency_hz: Reals, per_wave: float) -> Complex:
        f = np.asarray(frequency_hz, dtype=float)
        found = [1 / one.admittance_s for one in self._in_order(f.ravel(), per_wave)]
        return np.array(found, dtype=complex).reshape(f.shape)

    def _in_order(self, f: Real, per_wave: float) -> Iterator[Solution]:
        """Currents for one volt at each frequency."""
        require_positive("frequency_hz", f)
        if (self._low_in_waves(f) < LOWEST).any():
            raise OutOfDomainError(
                "wires",
                f"{float(self._low_in_waves(f.min())):.2g} of a wave over real ground at {f.min() / 1e6:.4g} MHz",
                f"{LOWEST} of a wave or higher; for a wire on the ground take perfect ground and a resistor",
            )
        found = dict(solutions(self._frame, self.source, self.loads, f, per_wave)) if f.size else {}
        return (found[at] for at in range(f.size))

    def _low_in_waves(self, frequency_hz: Reals) -> Real:
        """Height of the lowest point over real ground in waves; endless over any other."""
        low = math.inf
        if isinstance(self.ground, Ground):
            low = min(min(w.start_m[2], w.end_m[2]) for w in self.wires)
        return np.asarray(low * np.asarray(frequency_hz) / SPEED_OF_LIGHT_M_PER_S)

    def _sent_w(self, one: Solution, power_w: float) -> tuple[float, float]:
        """Radiated, and lost in the ground, by what the metal and the loads leave."""
        left = power_w - one.wire_w - float(one.load_w.sum())
        if not isinstance(self.ground, Ground):
            return left, 0.0
        if self._low_in_waves(one.frequency_hz) < NO_WATTS_BELOW:
            return math.nan, math.nan
        pieces = self._frame.pieces(one.mesh)
        sent = min(left, radiated_w(pieces, one.ends_a, one.wave_number, self.ground))
        return sent, left - sent


def at_ports(
    structure: Structure, places: Sequence[tuple[int, float]], frequency_hz: Real, per_wave: float
) -> Complex:
    """Short-circuit admittances of a structure's bare wires at its feed and at other places.

    What stands in them is put in afterwards, as a network: one solution serves every part, break and joint.

    Args:
        places: wire and share along it, beside the feed, which comes first in what is returned.
        frequency_hz: shape (n,); per_wave: segments a wave.

    Returns:
        Siemens, shape (n, 1 + places, 1 + places); currents count along the wires.
    """
    every = ((structure.source.wire, structure.source.at), *places)
    return port_admittances(Frame(tuple(structure.wires), every, structure.ground), every, frequency_hz, per_wave)


def lengthwise(structure: Structure, frequency_hz: Real, per_wave: float) -> tuple[Real, Complex]:
    """What a wire fed at its end shows with its far end cut at one edge of its segments after another.

    Args:
        structure: fed where its first wire begins; nothing stands in its wires.
        frequency_hz: shape (n,); per_wave: segments a wave.

    Returns:
        Lengths of the first wire in metres, rising, shape (k,), and impedances in ohm, (n, k).

    Raises:
        OutOfDomainError: another feed; loads.
    """
    if structure.loads or (structure.source.wire, structure.source.at) != (0, 0.0):
        raise OutOfDomainError("structure", "another feed, or loads", "fed where its first wire begins, no loads")
    lengths, admittance = admittances_by_length(structure._frame, structure.source, frequency_hz, per_wave)
    return lengths, np.asarray(1 / admittance)


def _places(mesh: Mesh, wires: Sequence[Wire]) -> tuple[Ints, Real]:
    """Wire and share of every edge of a segment: the start of each wire, then the end of each of its segments."""
    wire: list[int] = []
    share: list[float] = []
    for index, one in enumerate(wires):
        passed = np.cumsum(mesh.length_m[mesh.wire == index]) / one.length_m
        wire += [index] * (len(passed) + 1)
        share += [0.0, *np.minimum(passed, 1.0)]
    return np.array(wire), np.array(share)


def _at_places(mesh: Mesh, ends_a: Complex) -> Complex:
    found: list[complex] = []
    for index in range(int(mesh.wire.max()) + 1):
        own = np.flatnonzero(mesh.wire == index)
        found += [ends_a[own[0], 0], *ends_a[own, 1]]
    return np.array(found)
