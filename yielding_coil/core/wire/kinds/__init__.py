"""Kinds of antenna drawn from a few plain numbers: a class a form, and one registry.

Who adds a kind writes its file and its entry; everything else asks `KINDS`.
"""

from collections.abc import Mapping

from yielding_coil.core.wire.kinds.dipole import (
    DIPOLE,
    FIVE_EIGHTHS_DIPOLE,
    INVERTED_V,
    LINKED_DIPOLE,
    SLOPING_DIPOLE,
    Dipole,
    InvertedV,
    LinkedDipole,
    SlopingDipole,
)
from yielding_coil.core.wire.kinds.end_fed import (
    ANY_LENGTH,
    END_FED,
    END_FED_BESIDE,
    END_FED_ON_SHIELD,
    SHIELD_RADIUS_M,
    WINDOW_M,
    EndFed,
    EndFedBeside,
    EndFedOnShield,
)
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    NUMBERS,
    SOILS,
    AntennaKind,
    Handle,
    Hung,
    Number,
    NumberUnit,
    OnRadials,
    Stock,
    Stray,
    WirePiece,
    radials_ohm,
    wave_m,
)
from yielding_coil.core.wire.kinds.loaded_dipole import LOADED_DIPOLE, LoadedDipole
from yielding_coil.core.wire.kinds.loading import line_estimate_h
from yielding_coil.core.wire.kinds.loop import SQUARE, TRIANGLE, Loop
from yielding_coil.core.wire.kinds.parallel import (
    DIPOLE_BESIDE,
    FAN_DIPOLE,
    NESTED_LOOPS,
    DipoleBeside,
    FanDipole,
    NestedLoops,
)
from yielding_coil.core.wire.kinds.trapped import TRAP_DIPOLE, TRAP_VERTICAL, TrapDipole, Trapped, TrapVertical
from yielding_coil.core.wire.kinds.upright import HAT_VERTICAL, SLEEVE_DIPOLE, HatVertical, SleeveDipole
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
        TRAP_DIPOLE,
        FAN_DIPOLE,
        FIVE_EIGHTHS_DIPOLE,
        DIPOLE_BESIDE,
        VERTICAL,
        RAISED_VERTICAL,
        FIVE_EIGHTHS,
        LOADED_VERTICAL,
        COIL_ISOLATED_VERTICAL,
        HAT_VERTICAL,
        TRAP_VERTICAL,
        SLEEVE_DIPOLE,
        END_FED,
        END_FED_ON_SHIELD,
        END_FED_BESIDE,
        ANY_LENGTH,
        TRIANGLE,
        SQUARE,
        NESTED_LOOPS,
    )
}

__all__ = [
    "AVERAGE_GROUND",
    "KINDS",
    "NUMBERS",
    "SHIELD_RADIUS_M",
    "SOILS",
    "WINDOW_M",
    "AntennaKind",
    "CoilIsolatedVertical",
    "Dipole",
    "DipoleBeside",
    "EndFed",
    "EndFedBeside",
    "EndFedOnShield",
    "FanDipole",
    "Handle",
    "HatVertical",
    "Hung",
    "InvertedV",
    "LinkedDipole",
    "LoadedDipole",
    "LoadedVertical",
    "Loop",
    "NestedLoops",
    "Number",
    "NumberUnit",
    "OnRadials",
    "RaisedVertical",
    "SleeveDipole",
    "SlopingDipole",
    "Stock",
    "Stray",
    "TrapDipole",
    "TrapVertical",
    "Trapped",
    "Vertical",
    "WirePiece",
    "line_estimate_h",
    "radials_ohm",
    "wave_m",
]
