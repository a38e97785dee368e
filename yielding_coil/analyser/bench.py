"""What can be screwed on to the simulated analyser: standards, test pieces, and antennas by a stated model.

The antennas are open-ended lossy lines of mean characteristic impedance (S. A. Schelkunoff, Proc. IRE 29, 1941,
from memory): Z = Ka·coth(a + jβh'), Ka = 60(ln(2h/r) − 1) for a wire over ground and twice that for a dipole,
a from the resistance at the first resonance, h' five percent longer than the wire. Good for the shape of a
curve, not for its exact values; wires computed in full take their place later.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.line import OPEN_END_F, Cable, Line
from yielding_coil.core.parts import Capacitor, Inductor

# The line of the demo's allotment.
ALLOTMENT_COAX = Line(Cable("allotment coax", 50.0, 0.84, 1.05, 0.011), 17.6)
LOFT_COAX = Line(Cable("loft coax", 50.0, 0.66, 1.35, 0.025), 11.0)
ENDFED_LENGTHENING = 1.05


@dataclass(frozen=True, slots=True)
class Wire:
    """An antenna of the model above.

    Args:
        height_m: of the wire, or of one leg of a dipole.
        radius_m: of the conductor.
        resistance_ohm: at its first resonance, ground loss included.
        legs: 1 over ground, 2 for a dipole.
    """

    height_m: float
    radius_m: float
    resistance_ohm: float
    legs: int = 1

    def impedance_ohm(self, frequency_hz: Real) -> Complex:
        """At its feedpoint."""
        mean_ohm = 60 * self.legs * (math.log(2 * self.height_m / self.radius_m) - 1)
        turn = 2 * math.pi * frequency_hz / SPEED_OF_LIGHT_M_PER_S * self.height_m * ENDFED_LENGTHENING
        decay = math.atanh(self.resistance_ohm / mean_ohm)
        return np.asarray(mean_ohm / np.tanh(decay + 1j * turn), dtype=complex)


ALLOTMENT = Wire(8.75, 1e-3, 42.0)
ORCHARD = Wire(6.1, 1e-3, 48.0)
LOFT = Wire(2.93, 0.8e-3, 62.0, legs=2)

# The dipole that is still to be trimmed: hung with legs cut by the rule and a little long, for 24.94 MHz.
NEW_LEG_M, NEW_TARGET_HZ = 2.99, 24.94e6


@dataclass(frozen=True, slots=True)
class Site:
    """What a place does to the new dipole, and nobody at the feedpoint knows.

    Args:
        long: how much too low its dip lies at first, relative.
        company: the share of its length that what stands near its ends adds, and no cut takes away.
        fold_moves: what a fold takes away of its length.
        resistance_ohm: at its resonance.
    """

    long: float
    company: float
    fold_moves: float
    resistance_ohm: float

    @classmethod
    def of(cls, seed: int) -> "Site":
        """A site drawn from a seed: 2 to 6 % long; folds between three quarters, less a little, and nine tenths."""
        rng = np.random.default_rng([seed, 2])
        return cls(rng.uniform(0.02, 0.06), rng.uniform(0.0, 0.15), rng.uniform(0.68, 0.92), rng.uniform(45, 72))

    def wire(self, leg_m: float, folded_m: float) -> Wire:
        """The dipole as it hangs there with these legs."""
        quarter_m = SPEED_OF_LIGHT_M_PER_S * (1 + self.long) / (4 * NEW_TARGET_HZ * ENDFED_LENGTHENING)
        share = (leg_m - self.fold_moves * folded_m) / NEW_LEG_M
        return Wire(quarter_m * (self.company + (1 - self.company) * share), 0.8e-3, self.resistance_ohm, legs=2)


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


def _through(line: Line, wire: Wire, f: Real) -> Complex:
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
