"""What an end-fed wire is fed against, school beside school: its dip, what flows on the coax, what a hand changes.

The coax is drawn with its outside as a wire: down from the feed, then away over the ground; a choke is a resistor.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.modelled_antenna import dip_near
from yielding_coil.core.parts import Capacitor, Resistor
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.wire import (
    KEPT_OHM,
    SHIELD_RADIUS_M,
    WINDOW_M,
    EndFed,
    Load,
    Source,
    Structure,
    Wire,
    reflection_over,
    wave_m,
)

ReturnSchool = Literal["twentieth", "quarter", "beside", "shield", "nothing"]

# The coax goes down to here and away over the ground so far, to a radio that is not earthed (from memory).
COAX_LOW_M, COAX_AWAY_M = 0.3, 8.0
# A choke is so many ohms, nearly all resistance (practice: several hundred at least, thousands in awkward places).
CHOKE_OHM = 2500.0
# Counterpoises by school, and how far down the shield the choke is tried, in waves (common practice).
TWENTIETH, QUARTER = 0.05, 0.238
CHOKE_AT = (0.03, 0.05, 0.08, 0.12, 0.16, 0.2, 0.25)
AT_FEED_M = 0.15
# A hand near the coax is so much wire on it (some 5 pF, from memory).
HAND_M, NO_HAND_F = 0.5, 1e-16
SEGMENTS, SIDE, STEP = 16.0, 0.14, 2e-4


@dataclass(frozen=True, slots=True)
class ReturnPath:
    """A school, on the model.

    Args:
        counterpoise_m: None without one; choke_m: how far down the coax the choke sits, None without one.
        dip_hz: on the resistance that its unun makes; None where there is none near by.
        resistance_ohm: at the wanted frequency's crest.
        feed_a, coax_a: peaks at the feed, and the most on the coax beyond the choke.
        hand_moves_hz: what a hand near the coax moves the dip by.
        hand_changes: of |Γ| at the dip, how much.
    """

    school: ReturnSchool
    counterpoise_m: float | None
    choke_m: float | None
    dip_hz: float | None
    resistance_ohm: float | None
    feed_a: float
    coax_a: float
    hand_moves_hz: float | None
    hand_changes: float | None


def drawn_with_coax(
    hung: EndFed, counterpoise_m: float | None, choke_m: float | None, beside: bool = False, hand: bool = False
) -> Structure:
    """An end-fed wire with the outside of its coax as a wire.

    Args:
        counterpoise_m: away from the wire, or beside it; None without one.
        choke_m: from the feed along the coax.
        hand: a hand near the foot of the coax.

    Raises:
        OutOfDomainError: a choke further down than the coax is long; a feed lower than its coax may lie.
    """
    if not hung.feed_m > COAX_LOW_M + AT_FEED_M:
        raise OutOfDomainError(
            "feedpoint height", f"{hung.feed_m:.4g} m", f"more than {COAX_LOW_M + AT_FEED_M:g} m"
        )
    feed, foot = (0.0, 0.0, hung.feed_m), (0.0, 0.0, COAX_LOW_M)
    radiator = EndFed.structure(hung).wires[0]
    # Where something stands beside the wire the coax leaves towards the other side, out of its way.
    away = (0.0, -COAX_AWAY_M, COAX_LOW_M)
    wires = [radiator, Wire(feed, foot, SHIELD_RADIUS_M), Wire(foot, away, SHIELD_RADIUS_M)]
    if counterpoise_m is not None and not beside:
        wires.append(hung.stock.wire(feed, (-counterpoise_m, 0.0, hung.feed_m)))
    if counterpoise_m is not None and beside:
        end = radiator.at(counterpoise_m / radiator.length_m)
        first = (0.0, WINDOW_M, hung.feed_m)
        wires += [hung.stock.wire(feed, first), hung.stock.wire(first, (float(end[0]), WINDOW_M, float(end[2])))]
    # The hand is always drawn; where there is none hardly anything leads to it.
    wires.append(Wire(foot, (-HAND_M, 0.0, COAX_LOW_M), SHIELD_RADIUS_M))
    loads = [Load(len(wires) - 1, 0.0, Resistor(0.0) if hand else Capacitor(NO_HAND_F))]
    if choke_m is not None:
        drop = hung.feed_m - COAX_LOW_M
        if not choke_m < drop + COAX_AWAY_M:
            raise OutOfDomainError(
                "choke", f"{choke_m:.4g} m down the coax", f"less than {drop + COAX_AWAY_M:.4g} m"
            )
        on, at = (1, choke_m / drop) if choke_m < drop * 0.98 else (2, max(0.02, (choke_m - drop) / COAX_AWAY_M))
        loads.append(Load(on, at, Resistor(CHOKE_OHM)))
    return Structure(wires, Source(0, 0.0), loads, hung.ground, SEGMENTS)


def _curve(structure: Structure, near_hz: float) -> tuple[Real, Complex]:
    f = np.geomspace(near_hz * (1 - SIDE), near_hz * (1 + SIDE), math.ceil(2 * SIDE / STEP))
    z = impedance_of(reflection_over(structure, float(f[0]), float(f[-1]))(np.log(f)), KEPT_OHM)
    return f, z


def _coax_a(
    structure: Structure, frequency_hz: float, power_w: float, choke_m: float | None
) -> tuple[float, float]:
    """Peak current at the feed, and the most on the coax beyond the choke."""
    solved = structure.solve(frequency_hz, power_w)
    drop = structure.wires[1].length_m
    along = np.where(
        solved.wire == 1, solved.at * drop, np.where(solved.wire == 2, drop + solved.at * COAX_AWAY_M, -1.0)
    )
    beyond = along >= (0.0 if choke_m is None else choke_m) - 1e-9
    feed = np.abs(solved.current_a[(solved.wire == 0)][0])
    return float(feed), float(np.abs(solved.current_a[beyond]).max())


def return_paths(hung: EndFed, wanted_hz: float, power_w: float, feed_ohm: float) -> tuple[ReturnPath, ...]:
    """Every school at one wire: a twentieth, a quarter-wave, one beside the wire, the shield, nothing at all.

    With a counterpoise the choke sits at the feed; on the shield it sits where least flows beyond it.

    Raises:
        OutOfDomainError: a wire that cannot hang so.
    """
    wave = wave_m(wanted_hz)
    shield = min(choke_places(hung, wanted_hz, power_w), key=lambda place: place[1])[0]
    schools: Sequence[tuple[ReturnSchool, float | None, float | None]] = (
        ("twentieth", TWENTIETH * wave, AT_FEED_M),
        ("quarter", QUARTER * wave, AT_FEED_M),
        ("beside", TWENTIETH * wave, AT_FEED_M),
        ("shield", None, shield),
        ("nothing", None, None),
    )
    return tuple(_path(hung, *school, wanted_hz, power_w, feed_ohm) for school in schools)


def _path(
    hung: EndFed,
    school: ReturnSchool,
    counterpoise_m: float | None,
    choke_m: float | None,
    wanted_hz: float,
    power_w: float,
    feed_ohm: float,
) -> ReturnPath:
    beside = school == "beside"
    structure = drawn_with_coax(hung, counterpoise_m, choke_m, beside)
    f, z = _curve(structure, wanted_hz)
    size = np.abs(reflection_of(z, feed_ohm))
    dip = dip_near(f, size, wanted_hz)
    feed_a, coax_a = _coax_a(structure, wanted_hz, power_w, choke_m)
    if not math.isfinite(dip):
        return ReturnPath(school, counterpoise_m, choke_m, None, None, feed_a, coax_a, None, None)
    touched = drawn_with_coax(hung, counterpoise_m, choke_m, beside, hand=True)
    _, other = _curve(touched, wanted_hz)
    there = np.abs(reflection_of(other, feed_ohm))
    moved = dip_near(f, there, dip)
    at = int(np.argmin(np.abs(f - dip)))
    return ReturnPath(
        school,
        counterpoise_m,
        choke_m,
        dip,
        float(z[at].real),
        feed_a,
        coax_a,
        moved - dip if math.isfinite(moved) else None,
        float(abs(there[at] - size[at])),
    )


def choke_places(hung: EndFed, wanted_hz: float, power_w: float) -> tuple[tuple[float, float], ...]:
    """Where the choke sits on the shield without a counterpoise, and the most that flows beyond it, in A.

    Places further down than the coax is long are left out.

    Raises:
        OutOfDomainError: a wire that cannot hang so.
    """
    most = hung.feed_m - COAX_LOW_M + COAX_AWAY_M
    places = [share * wave_m(wanted_hz) for share in CHOKE_AT]
    return tuple(
        (at, _coax_a(drawn_with_coax(hung, None, at), wanted_hz, power_w, at)[1])
        for at in places
        if at < 0.95 * most
    )
