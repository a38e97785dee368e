"""What can be screwed on to the simulated analyser: standards, test pieces, and wires in the air.

The antennas are solved by moment methods over real ground, each over the octaves that are swept. What a place does
to them, height, soil, wet and company, is drawn from the seed and known to nobody at the desk.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, lru_cache, partial

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.line import OPEN_END_F, Cable, Line
from yielding_coil.core.parts import Capacitor, Inductor, Resistor
from yielding_coil.core.reflection import impedance_of
from yielding_coil.core.wire import (
    KEPT_OHM,
    KINDS,
    Curve,
    Ground,
    Insulation,
    Load,
    Source,
    Stock,
    Structure,
    Wire,
    reflection_curve,
)

# The line of the demo's allotment.
ALLOTMENT_COAX = Line(Cable("allotment coax", 50.0, 0.84, 1.05, 0.011), 17.6)
LOFT_COAX = Line(Cable("loft coax", 50.0, 0.66, 1.35, 0.025), 11.0)
# Wires are solved between these; beyond, the sweep is of an instrument, not of an antenna.
LOWEST_HZ, HIGHEST_HZ = 1e6, 64e6
# No wire over real ground is solved lower than this, in waves.
LOWEST_WAVES = 0.0052


@dataclass(frozen=True)
class Aloft:
    """A structure that hangs: solved octave by octave as it is swept, and kept."""

    structure: Structure

    @cached_property
    def lowest_hz(self) -> float:
        """Below it, it is what it was there."""
        low = math.inf
        if isinstance(self.structure.ground, Ground):
            low = min(min(w.start_m[2], w.end_m[2]) for w in self.structure.wires)
        return max(LOWEST_HZ, LOWEST_WAVES * SPEED_OF_LIGHT_M_PER_S / low)

    def impedance_ohm(self, frequency_hz: Real) -> Complex:
        """At its feedpoint, shape of the frequencies."""
        f = np.clip(np.asarray(frequency_hz, dtype=float), self.lowest_hz, HIGHEST_HZ)
        gamma = np.empty(f.shape, dtype=complex)
        octave = np.floor(np.log2(f / LOWEST_HZ)).astype(int)
        for each in np.unique(octave):
            on = octave == each
            low, high = LOWEST_HZ * 2.0 ** float(each), LOWEST_HZ * 2.0 ** float(each + 1)
            gamma[on] = _octave(self.structure, max(low, self.lowest_hz), high)(np.log(f[on]))
        # Rounding must not make more come back than went in.
        return impedance_of(gamma * np.minimum(1.0, 0.99999 / np.maximum(np.abs(gamma), 1e-9)), KEPT_OHM)


@lru_cache(maxsize=64)
def _octave(structure: Structure, low_hz: float, high_hz: float) -> Curve:
    return reflection_curve(structure, low_hz, high_hz)


COVERED = Stock(0.0008, insulation=Insulation(0.0013, 2.6))


def _on_radials(wire: Wire, ohm: float) -> Aloft:
    return Aloft(Structure([wire], Source(0, 0.0), [Load(0, 0.0, Resistor(ohm))], "perfect"))


ALLOTMENT = _on_radials(Wire((0, 0, 0), (0, 0, 8.75), 1e-3), 7.0)
ORCHARD = _on_radials(Wire((0, 0, 0), (4.2, 0, 4.42), 1e-3), 18.0)
LOFT = Aloft(KINDS["dipole"].made({"leg_m": 2.93, "height_m": 6.8}, COVERED, Ground(0.004, 11)).structure())

# The dipole that is still to be trimmed: hung with legs cut by the rule and a little long, for 24.94 MHz.
NEW_LEG_M, NEW_TARGET_HZ = 2.99, 24.94e6


@dataclass(frozen=True, slots=True)
class Site:
    """What a place does to a wire, and nobody at the feedpoint knows.

    Args:
        height: its heights over those planned, and `lower_m` less, since it sags and ladders are short.
        stretch: its length over what a tape said.
        company: the share of its length that what stands near its ends adds, and no cut takes away.
        fold_moves: what a fold takes away of its length.
        covering: of it, over the one planned.
        wetter: conductivity of the soil over the one planned; its permittivity goes by the cube root of it.
        loft_m: height of the new dipole.
        traps: where they resonate, over where they were said to.
    """

    height: float
    lower_m: float
    stretch: float
    company: float
    fold_moves: float
    covering: float
    wetter: float
    loft_m: float
    traps: float

    @classmethod
    def of(cls, seed: int) -> "Site":
        """A site drawn from a seed; folds move between three quarters, less a little, and nine tenths."""
        rng = np.random.default_rng([seed, 2])
        return cls(
            height=rng.uniform(0.95, 1.05),
            lower_m=rng.uniform(-0.1, 0.2),
            # As far astray as tapes and knots are said to be, but with more slips far out than a normal spread has.
            stretch=1 + float(np.clip(rng.laplace(0.0, 0.003 / math.sqrt(2)), -0.02, 0.02)),
            company=rng.uniform(0.0, 0.15),
            fold_moves=rng.uniform(0.68, 0.92),
            covering=rng.uniform(0.75, 1.25),
            wetter=3.0 ** rng.uniform(-0.87, 0.87),
            loft_m=rng.uniform(3.5, 7.0),
            # As it is wound, closed and measured: a percent.
            traps=1 + float(np.clip(rng.laplace(0.0, 0.005 / math.sqrt(2)), -0.03, 0.03)),
        )

    def soil(self, planned: Ground) -> Ground:
        """What is under it."""
        return Ground(
            planned.conductivity_s_per_m * self.wetter,
            max(1.0, planned.relative_permittivity * self.wetter ** (1 / 3)),
        )

    def stock(self, planned: Stock) -> Stock:
        """Its wire, with the covering that it has."""
        return planned.covered(self.covering)

    def wire(self, leg_m: float, folded_m: float) -> Aloft:
        """The new dipole as it hangs there with these legs."""
        share = (leg_m - self.fold_moves * folded_m) / NEW_LEG_M
        leg = NEW_LEG_M * self.stretch * (self.company + (1 - self.company) * share)
        return _dipole(leg, self.loft_m, self.stock(COVERED), self.soil(Ground(0.005, 13)))


@lru_cache(maxsize=32)
def _dipole(leg_m: float, height_m: float, stock: Stock, soil: Ground) -> Aloft:
    return Aloft(KINDS["dipole"].made({"leg_m": leg_m, "height_m": height_m}, stock, soil).structure())


Seen = Callable[[Real], Complex]


@dataclass(frozen=True, slots=True)
class Thing:
    """Something to screw on: its impedance, and how far wind moves it, over what wind moves at most elsewhere.

    `hung` is for the one that people cut and fold: its legs are the simulator's.
    """

    key: str
    label: str
    seen: Seen
    sways: float = 0.0
    hung: bool = False
    # So many turns on a ring of a mix and size, whose permeability is the simulator's.
    turns: tuple[int, str, str] | None = None


def _resistor(ohm: float, f: Real) -> Complex:
    return np.asarray(ohm + 2j * math.pi * f * 1.5e-9, dtype=complex)


def _trap(f: Real) -> Complex:
    arms: Complex = Inductor(1.543e-6, 250.0, 18e6).admittance_s(f) + Capacitor(50e-12, 2000.0).admittance_s(f)
    return np.asarray(1 / arms, dtype=complex)


def _nothing(f: Real) -> Complex:
    """In the place of what the simulator draws itself."""
    return np.zeros(f.shape, dtype=complex)


def _through(line: Line, wire: Aloft, f: Real) -> Complex:
    return line.input_impedance(f, wire.impedance_ohm(f))


def _opened(line: Line, f: Real) -> Complex:
    return line.input_impedance(f, Capacitor(OPEN_END_F).impedance_ohm(f))


def _shorted(line: Line, f: Real) -> Complex:
    return line.input_impedance(f, np.zeros(f.shape, dtype=complex))


# The three standards stand in the simulator itself: what they really are is one of its secrets.
THINGS: dict[str, Thing] = {
    thing.key: thing
    for thing in (
        Thing("r25", "test resistor 25 Ω", partial(_resistor, 25.0)),
        Thing("r100", "test resistor 100 Ω", partial(_resistor, 100.0)),
        Thing("r200", "test resistor 200 Ω", partial(_resistor, 200.0)),
        Thing("coil", "coil 2.2 µH", Inductor(2.2e-6, 200.0, 14e6, 1.5e-12).impedance_ohm),
        Thing("trap", "trap 50 pF, 1.54 µH", _trap),
        Thing("cable-open", "17.6 m of coax, far end open", partial(_opened, ALLOTMENT_COAX)),
        Thing("cable-short", "17.6 m of coax, far end shorted", partial(_shorted, ALLOTMENT_COAX)),
        Thing("loft", "loft dipole for 12 m", LOFT.impedance_ohm, 1.0),
        # 2.45 times the wind: its dip repeats to 0.1 %, root mean square.
        Thing("loft-new", "loft dipole for 12 m, just hung: yours to trim", LOFT.impedance_ohm, 2.45, hung=True),
        Thing("loft-shack", "loft dipole through 11 m of coax", partial(_through, LOFT_COAX, LOFT), 1.0),
        Thing("allotment", "allotment vertical, 8.75 m", ALLOTMENT.impedance_ohm, 1.0),
        Thing(
            "allotment-shack",
            "allotment vertical through 17.6 m of coax",
            partial(_through, ALLOTMENT_COAX, ALLOTMENT),
            1.0,
        ),
        Thing("orchard", "orchard sloping wire, 6.1 m", ORCHARD.impedance_ohm, 1.0),
        Thing("ring-11", "11 turns on the orchard's FT240", _nothing, turns=(11, "43", "FT240")),
        Thing("ring-3", "3 turns on the orchard's FT240", _nothing, turns=(3, "43", "FT240")),
        Thing("found-10", "10 turns on a found ring, FT140 size", _nothing, turns=(10, "61", "FT140")),
        Thing("found-4", "4 turns on the found ring", _nothing, turns=(4, "61", "FT140")),
    )
}
STANDARD_LABELS = {"short": "short", "open": "open", "load": "load, 50 Ω"}
