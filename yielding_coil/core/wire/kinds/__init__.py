"""Kinds of antenna drawn from a few plain numbers: a class a form, and one registry.

Who adds a kind writes its file and its entry; everything else asks `KINDS`.
"""

from collections.abc import Mapping

from yielding_coil.core.wire.kinds.dipole import (
    DIPOLE,
    INVERTED_V,
    LINKED_DIPOLE,
    SLOPING_DIPOLE,
    Dipole,
    InvertedV,
    LinkedDipole,
    SlopingDipole,
)
from yielding_coil.core.wire.kinds.end_fed import END_FED, END_FED_ON_SHIELD, EndFed, EndFedOnShield
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    NUMBERS,
    SOILS,
    AntennaKind,
    Handle,
    Hung,
    Number,
    OnRadials,
    Stock,
    Stray,
    WirePiece,
    radials_ohm,
    wave_m,
)
from yielding_coil.core.wire.kinds.loaded_dipole import LOADED_DIPOLE, LoadedDipole
from yielding_coil.core.wire.kinds.loop import SQUARE, TRIANGLE, Loop
from yielding_coil.core.wire.kinds.vertical import (
    COIL_ISOLATED_VERTICAL,
    FIVE_EIGHTHS,
    LOADED_VERTICAL,
    RAISED_VERTICAL,
    VERTICAL,
    CoilIsolatedVertical,
    LoadedVertical,
    RaisedVertical,
    Vertical,
)

KINDS: Mapping[str, AntennaKind] = {
    kind.key: kind
    for kind in (
        DIPOLE,
        SLOPING_DIPOLE,
        INVERTED_V,
        LINKED_DIPOLE,
        LOADED_DIPOLE,
        VERTICAL,
        RAISED_VERTICAL,
        FIVE_EIGHTHS,
        LOADED_VERTICAL,
        COIL_ISOLATED_VERTICAL,
        END_FED,
        END_FED_ON_SHIELD,
        TRIANGLE,
        SQUARE,
    )
}

__all__ = [
    "AVERAGE_GROUND",
    "KINDS",
    "NUMBERS",
    "SOILS",
    "AntennaKind",
    "CoilIsolatedVertical",
    "Dipole",
    "EndFed",
    "EndFedOnShield",
    "Handle",
    "Hung",
    "InvertedV",
    "LinkedDipole",
    "LoadedDipole",
    "LoadedVertical",
    "Loop",
    "Number",
    "OnRadials",
    "RaisedVertical",
    "SlopingDipole",
    "Stock",
    "Stray",
    "Vertical",
    "WirePiece",
    "radials_ohm",
    "wave_m",
]
