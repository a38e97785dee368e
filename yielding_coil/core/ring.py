"""Rings of ferrite and powder: their permeability, what turns on them make, and how warm they get."""

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple, Protocol

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals, is_zero, require_not_negative, require_positive
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.constants import MU_0_H_PER_M
from yielding_coil.core.errors import OutOfDomainError

# Peak flux density that small-signal data and moderate warming still go with, mT at MHz (guide, from memory).
_FLUX_HZ = [1e6, 7e6, 14e6, 28e6]
_FLUX_T = [15e-3, 5.7e-3, 4.2e-3, 3.0e-3]

# Heat a gram of ring takes for a degree, and its density (from memory).
HEAT_J_PER_KG_K = 750.0
DENSITY_KG_PER_M3 = 4800.0
# What a permeability is in doubt more by for every octave past its material's data, two standard deviations.
PAST_ITS_DATA = 0.3
# Wire that does not lie tight, beyond the sharp-edged path round the section.
SLACK = 1.02
# From one turn to the next no more than this, though there were room: few turns stay together.
WIDEST_RAD = math.radians(40)
# Of the ring, what a winding spreads over, the rest keeping its ends apart.
SPREAD_RAD = math.radians(330)


class Effective(NamedTuple):
    """Effective area and path of a magnetic circuit, SI."""

    area_m2: float
    path_m: float


def effective(outer_m: float, inner_m: float, height_m: float) -> Effective:
    """Effective area and path of a ring of rectangular section.

    Source:
        IEC 60205, ring cores: C1 = 2π/(h·ln(ro/ri)), C2 = 2π(1/ri − 1/ro)/(h²·ln³(ro/ri)),
        area C1/C2, path C1²/C2.
    """
    ri, ro = inner_m / 2, outer_m / 2
    log = math.log(ro / ri)
    c1 = 2 * math.pi / (height_m * log)
    c2 = 2 * math.pi * (1 / ri - 1 / ro) / (height_m**2 * log**3)
    return Effective(c1 / c2, c1**2 / c2)


@dataclass(frozen=True, slots=True)
class Size:
    """Dimensions of a bare ring, with its effective area and path."""

    name: str
    outer_m: float
    inner_m: float
    height_m: float
    area_m2: float
    path_m: float
    # Inductance factor of the trade by mix, henry a turn squared; and whether its trade name is in doubt.
    trade_al_h: tuple[tuple[str, float], ...] = ()
    doubtful: bool = False

    def __post_init__(self) -> None:
        for name in ("outer_m", "inner_m", "height_m", "area_m2", "path_m"):
            require_positive(name, getattr(self, name))
        if not self.inner_m < self.outer_m:
            raise OutOfDomainError(
                "inner_m", f"{self.inner_m * 1e3:g} mm", f"less than {self.outer_m * 1e3:g} mm, the outer one"
            )


@lru_cache(maxsize=64)
def _columns(points: tuple[tuple[float, float, float], ...]) -> tuple[Real, Real, Real]:
    """Log of the frequency, μ' and μ'' of a curve."""
    at, real, imaginary = np.array(points).T
    return np.log(at), real, imaginary


@dataclass(frozen=True, slots=True)
class Material:
    """What a ring is made of.

    Args:
        mix: its trade designation.
        points: frequency, μ' and μ'' of a ferrite, frequencies ascending; none for powder.
        q_points: frequency and material Q of a powder; none where nothing is known.
        tolerance: of the permeability, two standard deviations over the value.
        valid_to_hz: above it the curve is the sample's, not the material's; None when it is good to its end.
    """

    mix: str
    kind: Literal["ferrite", "powder"]
    family: str
    initial_permeability: float
    tolerance: float
    points: tuple[tuple[float, float, float], ...] = ()
    q_points: tuple[tuple[float, float], ...] = ()
    valid_to_hz: float | None = None
    curie_c: float | None = None
    note: str = ""
    # Below it the note counts; everywhere when None.
    note_below_hz: float | None = None

    @property
    def lowest_hz(self) -> float | None:
        """Where its curve begins; None for powder."""
        return self.points[0][0] if self.points else None

    @property
    def highest_hz(self) -> float | None:
        """Where its curve stops being the material's; None for powder."""
        if not self.points:
            return None
        return self.valid_to_hz if self.valid_to_hz is not None else self.points[-1][0]

    @property
    def loss_known(self) -> bool:
        """Whether anything is known of its loss: a curve, or the Q of a powder."""
        return bool(self.points or self.q_points)

    def permeability(self, frequency_hz: Reals) -> Complex:
        """μ' − jμ'' at each frequency; below its first point the value there.

        Beyond `highest_hz` the points are the measured sample's, not the material's: what follows from them is a
        hint, whose doubt grows (`doubt`), and not to be ranked by. Beyond the last point nothing is known.

        Raises:
            OutOfDomainError: a frequency not above zero, or beyond the last point.

        Source:
            Linear in log f between the points of `data/ring_materials.json`; a powder's μ'' from its Q, which
            runs on as it began beyond its estimates.
        """
        f = np.asarray(frequency_hz, dtype=float)
        require_positive("frequency_hz", f)
        if self.points:
            last = self.points[-1][0]
            if f.size and f.max() > last * (1 + 1e-6):
                raise OutOfDomainError(
                    "frequency_hz",
                    f"{f.max() / 1e6:.4g} MHz",
                    f"at most {last / 1e6:.4g} MHz, where what is known of mix {self.mix} ends",
                )
            at, real, imaginary = _columns(self.points)
            log = np.log(f)
            return np.asarray(np.interp(log, at, real) - 1j * np.interp(log, at, imaginary))
        loss = np.zeros(f.shape)
        if self.q_points:
            at, q = (np.log(np.array(column)) for column in zip(*self.q_points, strict=True))
            slope = (q[-1] - q[0]) / (at[-1] - at[0])
            beyond = slope * (np.maximum(np.log(f) - at[-1], 0) + np.minimum(np.log(f) - at[0], 0))
            loss = np.exp(-(np.interp(np.log(f), at, q) + beyond))
        return np.asarray(self.initial_permeability * (1 - 1j * loss))

    def doubt(self, frequency_hz: Reals) -> Real:
        """Two standard deviations of the permeability, relative: its tolerance, more an octave past its data."""
        f = np.asarray(frequency_hz, dtype=float)
        past = np.zeros(f.shape)
        if self.highest_hz is not None:
            past = np.log2(np.maximum(f / self.highest_hz, 1.0))
        return np.asarray(np.minimum(self.tolerance + PAST_ITS_DATA * past, 1.0))

    def known_at(self, frequency_hz: Reals) -> bool:
        """Whether its data reach that far: all of these frequencies."""
        return self.highest_hz is None or bool(np.max(frequency_hz) <= self.highest_hz * (1 + 1e-9))


class Core(Protocol):
    """Anything that turns can be wound on."""

    def core_ohm(self, frequency_hz: Reals, turns: Reals) -> Complex: ...

    def flux_t(self, frequency_hz: Reals, turns: float, peak_v: Reals) -> Real: ...


@dataclass(frozen=True, slots=True)
class Ring:
    """Rings of one size and material, one or several stacked.

    Args:
        material: what it is made of.
        size: of one bare ring.
        stack: rings on top of each other.
        al_h: inductance factor of one ring as measured well below a megahertz, henry a turn squared; the
            trade's (powder) or the computed one when left out.
        permeability_factor: of this ring against its data; may be an array of builds.

    Raises:
        OutOfDomainError: fewer than one ring, or a factor not above zero.

    >>> from yielding_coil import data
    >>> ring = Ring(data.ring_material("2"), data.ring_size("T68"))
    >>> round(ring.inductance_h(20) * 1e6, 2)
    2.28
    """

    material: Material
    size: Size
    stack: int = 1
    al_h: float | None = None
    permeability_factor: Reals = 1.0

    def __post_init__(self) -> None:
        if self.stack != int(self.stack) or not 1 <= self.stack <= 12:
            raise OutOfDomainError("stack", self.stack, "1 to 12 rings")
        if self.al_h is not None:
            require_positive("al_h", self.al_h)
        require_positive("permeability_factor", self.permeability_factor)

    @property
    def height_m(self) -> float:
        """Of the whole stack."""
        return self.size.height_m * self.stack

    @property
    def computed_al_h(self) -> float:
        """Inductance factor of one ring from its dimensions and initial permeability."""
        mu = self.material.points[0][1] if self.material.points else self.material.initial_permeability
        return MU_0_H_PER_M * mu * self.size.area_m2 / self.size.path_m

    @property
    def one_al_h(self) -> float:
        """Inductance factor of one ring: measured, else the trade's for powder, else computed."""
        if self.al_h is not None:
            return self.al_h
        trade = dict(self.size.trade_al_h).get(self.material.mix)
        # A curve, of ferrite or as measured, says more than a factor.
        return trade if trade is not None and not self.material.points else self.computed_al_h

    def inductance_h(self, turns: float) -> float:
        """Inductance of so many turns far below where the permeability falls."""
        require_positive("turns", turns)
        return float(np.asarray(self.permeability_factor).mean()) * self.one_al_h * self.stack * turns**2

    def core_ohm(self, frequency_hz: Reals, turns: Reals) -> Complex:
        """jω·μ0·(μ' − jμ'')·N²·area/path of the stack, without winding capacitance; shape broadcast."""
        f = np.asarray(frequency_hz, dtype=float)
        mu = self.material.permeability(f) * (self.one_al_h / self.computed_al_h)
        per_mu = 2j * math.pi * MU_0_H_PER_M * self.stack * self.size.area_m2 / self.size.path_m
        return np.asarray(per_mu * f * mu * self.permeability_factor * np.square(turns))

    def impedance_ohm(self, frequency_hz: Reals, turns: float, winding_capacitance_f: Reals = 0.0) -> Complex:
        """Impedance of so many turns, the winding's own capacitance across them.

        Args:
            frequency_hz: shape (n,) or one, above zero.
            turns: passes through the hole, above zero.
            winding_capacitance_f: across the whole winding.

        Raises:
            OutOfDomainError: a value is not above zero, or the capacitance below it.

        Source:
            Z = jω·μ0·(μ' − jμ'')·N²·Ae/le (IEC 60205 for Ae and le); leakage is left out.
        """
        require_positive("frequency_hz", frequency_hz)
        require_positive("turns", turns)
        require_not_negative("winding_capacitance_f", winding_capacitance_f)
        core = self.core_ohm(frequency_hz, turns)
        if is_zero(winding_capacitance_f):
            return core
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        return core / (1 + 1j * omega * winding_capacitance_f * core)

    def width_rad(self, bundle_m: float, tape_m: float = 0.0) -> float:
        """What one pass of a bundle takes of the hole's round, in radians.

        Raises:
            OutOfDomainError: the bundle does not go through the hole.
        """
        radius = self.size.inner_m / 2 - tape_m - bundle_m / 2
        if radius < bundle_m / 2:
            raise OutOfDomainError(
                "wire",
                f"{bundle_m * 1e3:.3g} mm thick",
                f"thin enough for the hole of {self.size.inner_m * 1e3:.3g} mm: "
                "take a thinner wire or a larger ring",
            )
        return 2 * math.asin(min(1.0, bundle_m / 2 / radius))

    def turns_that_fit(self, wire_diameter_m: float, tape_m: float = 0.0) -> int:
        """Turns that the hole takes in one layer, wire beside wire.

        Args:
            wire_diameter_m: over its covering, above zero.
            tape_m: thickness of tape on the ring.
        """
        require_positive("wire_diameter_m", wire_diameter_m)
        if wire_diameter_m / 2 > self.size.inner_m / 2 - tape_m - wire_diameter_m / 2:
            return 0
        return math.floor(2 * math.pi / self.width_rad(wire_diameter_m, tape_m) + 1e-9)

    def turn_m(self, wire_diameter_m: float, advance_rad: float, tape_m: float = 0.0) -> float:
        """Wire of one turn round the section, sharp at the edges, when the next lies so far round the ring.

        It goes straight through the hole and up outside; on both faces it slants by half the advance.
        """
        off = tape_m + wire_diameter_m / 2
        inner, outer = self.size.inner_m / 2 - off, self.size.outer_m / 2 + off
        slant = math.sqrt(inner**2 + outer**2 - 2 * inner * outer * math.cos(advance_rad / 2))
        return 2 * (self.height_m + 2 * off) + 2 * slant

    def wire_length_m(self, turns: float, wire_diameter_m: float, tape_m: float = 0.0) -> float:
        """Wire in the winding itself, without tails, its turns spread evenly round the ring.

        Args:
            turns: passes through the hole.
            wire_diameter_m: over its covering.
            tape_m: thickness of tape on the ring.
        """
        require_positive("turns", turns)
        require_positive("wire_diameter_m", wire_diameter_m)
        advance = min(SPREAD_RAD / turns, WIDEST_RAD)
        return SLACK * turns * self.turn_m(wire_diameter_m, advance, tape_m)

    @property
    def surface_m2(self) -> float:
        """Outer surface of the bare stack, hole included."""
        ro, ri = self.size.outer_m / 2, self.size.inner_m / 2
        return 2 * math.pi * (ro**2 - ri**2) + 2 * math.pi * (ro + ri) * self.height_m

    @property
    def heat_j_per_k(self) -> float:
        """Heat that the stack takes for a degree."""
        ro, ri = self.size.outer_m / 2, self.size.inner_m / 2
        return math.pi * (ro**2 - ri**2) * self.height_m * DENSITY_KG_PER_M3 * HEAT_J_PER_KG_K

    def flux_t(self, frequency_hz: Reals, turns: float, peak_v: Reals) -> Real:
        """Peak flux density of a voltage (peak of the sine) across so many turns."""
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        return np.asarray(peak_v / (omega * turns * self.size.area_m2 * self.stack))


def flux_guide_t(frequency_hz: Reals) -> Real:
    """Peak flux density that is usually not exceeded: 15 mT at 1 MHz down to 3 at 28 (guide, from memory)."""
    log = np.interp(np.log(np.asarray(frequency_hz, dtype=float)), np.log(_FLUX_HZ), np.log(_FLUX_T))
    return np.asarray(np.exp(log))


@dataclass(frozen=True, slots=True)
class RingCoil:
    """A coil on a ring: one winding with its copper and its own capacitance.

    Args:
        ring: what it is wound on.
        turns: passes through the hole.
        winding_capacitance_f: across the winding (a range from memory until a sweep tells).
        copper: of the wire; none leaves it out.
        permeability_factor: of this core against its ring; may be an array of builds.
    """

    ring: Core
    turns: float
    winding_capacitance_f: Reals = 0.0
    copper: Conductor | None = None
    permeability_factor: Reals = 1.0

    def __post_init__(self) -> None:
        require_positive("turns", self.turns)
        require_not_negative("winding_capacitance_f", self.winding_capacitance_f)
        require_positive("permeability_factor", self.permeability_factor)

    def arm_ohm(self, frequency_hz: Reals) -> tuple[Complex, Real]:
        """Impedance of the turns on the core, and resistance of the copper in series with it."""
        core = self.ring.core_ohm(frequency_hz, self.turns) * self.permeability_factor
        copper = (
            np.zeros(np.shape(frequency_hz)) if self.copper is None else self.copper.resistance_ohm(frequency_hz)
        )
        return core, copper

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm, broadcast over values and frequencies."""
        core, copper = self.arm_ohm(frequency_hz)
        arm = core + copper
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        return np.asarray(arm / (1 + 1j * omega * self.winding_capacitance_f * arm))

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens, broadcast over values and frequencies."""
        return np.asarray(1 / self.impedance_ohm(frequency_hz))

    def reading_h(self, frequency_hz: float) -> float:
        """What an analyser reads at a frequency, X/ω; negative above self-resonance."""
        return float(self.impedance_ohm(frequency_hz).imag / (2 * math.pi * frequency_hz))
