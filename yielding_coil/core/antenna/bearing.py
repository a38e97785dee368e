"""What coils and traps of an antenna bear, by the model; of traps the line estimate beside it, and both schools."""

from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np

from yielding_coil.core.antenna.tuning import tuned_together
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.target import Target
from yielding_coil.core.trap import TrappedLeg
from yielding_coil.core.wire import Hung, Structure, Trapped

TrapSchool = Literal["inside", "below"]

# The school that tunes a trap just below its band takes so much less than the band's lower edge (common practice).
BELOW = 0.02
# Over a band the worst SWR is looked for at so many frequencies.
POINTS = 9


@dataclass(frozen=True, slots=True)
class Bearing:
    """What one coil or trap bears: peaks of the sine, and watts.

    Args:
        ohm: what it is there, R + jX.
    """

    current_a: float
    voltage_v: float
    watts: float
    ohm: complex


def bearing_of(
    hung: Hung, frequency_hz: float, power_w: float, solved_as: Structure | None = None
) -> tuple[Bearing, ...]:
    """Of each part that stands in its wires, in their order; what is ground is none.

    Args:
        frequency_hz: above zero; power_w: into the antenna.
        solved_as: its structure, where that is known.

    Raises:
        OutOfDomainError: it takes no power there.
    """
    structure = solved_as or hung.structure()
    if len(structure.loads) <= hung.earths:
        return ()
    solved = structure.solve(frequency_hz, power_w)
    found = []
    for k, load in enumerate(structure.loads[hung.earths :], hung.earths):
        own = np.flatnonzero(solved.wire == load.wire)
        current = abs(solved.current_a[own[np.argmin(np.abs(solved.at[own] - load.at))]])
        ohm = complex(load.part.impedance_ohm(np.array([frequency_hz]))[0])
        found.append(Bearing(float(current), float(current) * abs(ohm), float(solved.load_w[k]), ohm))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class TrapOn:
    """One trap on a band: by the model, and by the line estimate that knows neither ground nor coupling.

    Args:
        ends: whether the band ends at the trap; on the others it is a coil in the way.
        worst_swr: over the band, on 50 Ω.
        acts_as_h: the coil it is there; below zero it acts as a capacitor.
    """

    label: str
    frequency_hz: float
    ends: bool
    model: Bearing
    estimate: Bearing
    traps_w: float
    radiated_w: float
    worst_swr: float
    acts_as_h: float


@dataclass(frozen=True, slots=True)
class TrapPlan:
    """A trapped antenna brought to its bands by one school of where to tune the trap."""

    school: TrapSchool
    trap_hz: float
    hung: Hung
    on: tuple[TrapOn, ...]


def traps_on(hung: Hung, targets: tuple[Target, ...], power_w: float) -> tuple[TrapOn, ...]:
    """What a trap bears on each band.

    Args:
        hung: with traps; targets: in any order.

    Raises:
        OutOfDomainError: it takes no power on one of them.
    """
    if not isinstance(hung, Trapped):
        return ()
    structure = hung.structure()
    inner, whole = hung.reaches_m
    legs = len(structure.loads) - hung.earths
    line = TrappedLeg(inner, whole - inner, hung.stock.radius_m, hung.trap, legs)
    found = []
    for target in targets:
        f = target.center_hz
        bears = bearing_of(hung, f, power_w, structure)
        told = line.borne(f, power_w)
        over = np.linspace(target.low_hz, target.high_hz, POINTS)
        found.append(
            TrapOn(
                target.label,
                f,
                hung.band_of(f) == 0,
                bears[0],
                Bearing(float(told.current_a[0]), float(told.voltage_v[0]), float(told.trap_w[0]), bears[0].ohm),
                sum(each.watts for each in bears),
                float(hung.watts_at(f, power_w)[0]),
                float(swr_of_impedance(structure.impedance_at(over), 50.0).max()),
                hung.trap.acts_as_h(f),
            )
        )
    return tuple(found)


def trap_schools(
    hung: Hung, targets: tuple[Target, Target], power_w: float, feed_ohm: float
) -> tuple[TrapPlan, ...]:
    """The same antenna by both schools: traps tuned inside the upper band, and just below it; each on both bands.

    Raises:
        OutOfDomainError: bands that it cannot be brought to.
    """
    upper = max(targets, key=lambda t: t.center_hz)
    own: Any = hung
    at: dict[TrapSchool, float] = {"inside": upper.center_hz, "below": upper.low_hz * (1 - BELOW)}
    found = []
    for school, trap_hz in at.items():
        made = tuned_together(replace(own, trap_hz=trap_hz), [t.center_hz for t in targets], feed_ohm)
        found.append(TrapPlan(school, trap_hz, made, traps_on(made, targets, power_w)))
    return tuple(found)
