"""Round wire at radio frequency: the skin effect in a metal, and wire to wind with."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Real, Reals, require_not_negative, require_positive
from yielding_coil.core.constants import COPPER_RESISTIVITY_OHM_M, MU_0_H_PER_M


@dataclass(frozen=True, slots=True)
class Metal:
    """A metal at 20 °C, as the skin effect takes it; permeability against free space."""

    key: str
    resistivity_ohm_m: float
    permeability: float
    source: str


METALS: Mapping[str, Metal] = {
    metal.key: metal
    for metal in (
        Metal("copper", COPPER_RESISTIVITY_OHM_M, 1.0, "IEC 60028"),
        Metal("aluminium", 2.8264e-8, 1.0, "hard-drawn, IEC 60889 (from memory)"),
        Metal(
            "steel",
            1.7e-7,
            100.0,
            "from memory; carbon steel at small signal, permeability anywhere from 50 to 200",
        ),
    )
}


def rim_ohm(
    length_m: Reals, diameter_m: float, frequency_hz: Reals, resistivity_ohm_m: float, permeability: float = 1.0
) -> Real:
    """Resistance of a straight round wire whose current keeps to one skin depth of its rim.

    Source:
        Skin depth √(ρ/(π·f·μ)) (Pozar, 4th ed., eq. 1.60). Holds from about five skin depths in the wire up.
    """
    f = np.asarray(frequency_hz, dtype=float)
    depth = np.sqrt(resistivity_ohm_m / (math.pi * f * MU_0_H_PER_M * permeability))
    rim = np.minimum(depth, diameter_m / 2)
    return resistivity_ohm_m * length_m / (math.pi * rim * (diameter_m - rim))


@dataclass(frozen=True, slots=True)
class Conductor:
    """A length of round wire as it heats.

    Args:
        length_m: of the wire.
        diameter_m: of the metal.
        resistivity_ohm_m: of the metal; copper when left out.
        permeability: of the metal against free space.
        share: of the winding's current that it carries; a tapped winding's lower part carries less.
    """

    length_m: Reals
    diameter_m: float
    resistivity_ohm_m: float = COPPER_RESISTIVITY_OHM_M
    permeability: float = 1.0
    share: float = 1.0

    def __post_init__(self) -> None:
        require_not_negative("length_m", self.length_m)
        for name in ("diameter_m", "resistivity_ohm_m", "permeability"):
            require_positive(name, getattr(self, name))

    def resistance_ohm(self, frequency_hz: Reals) -> Real:
        """What it adds to its winding, in ohm, shape of the frequency."""
        straight = rim_ohm(self.length_m, self.diameter_m, frequency_hz, self.resistivity_ohm_m, self.permeability)
        return straight * self.share**2


@dataclass(frozen=True, slots=True)
class WindingWire:
    """A wire to wind with.

    Args:
        name: in words.
        diameter_m: of the metal.
        covered_m: over its covering.
        resistivity_ohm_m: of the metal; copper when left out.
        permeability: of the metal against free space.
    """

    name: str
    diameter_m: float
    covered_m: float
    resistivity_ohm_m: float = COPPER_RESISTIVITY_OHM_M
    permeability: float = 1.0

    def __post_init__(self) -> None:
        for name in ("diameter_m", "covered_m", "resistivity_ohm_m", "permeability"):
            require_positive(name, getattr(self, name))

    def conductor(self, length_m: float, share: float = 1.0) -> Conductor:
        """So much of it, as it heats."""
        return Conductor(length_m, self.diameter_m, self.resistivity_ohm_m, self.permeability, share)
