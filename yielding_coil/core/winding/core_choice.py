"""Which core for a transformer, and which capacitor across its input: all candidates judged at once."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from scipy.optimize import minimize_scalar

from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Antenna, Element, System, worst_over
from yielding_coil.core.target import Target, judged_at
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding.heat import WARM_C, highest_power_w, warming_c
from yielding_coil.core.winding.wiring import LEAKAGE_POWER
from yielding_coil.core.winding.wound_transformer import WoundTransformer

# Capacitors across the input that are tried first.
TRIED_F = np.linspace(0, 400e-12, 17)
# Frequencies on each target that a core is judged at.
RATED_AT = 5
# A winding longer than this share of a wave is no lumped transformer any more: what is computed of it is a guess.
LONG_WAVES = 0.15


def input_capacitance(transformer: Transformer, antenna: Antenna, targets: Sequence[Target]) -> float:
    """The capacitor across the input that leaves the least worst SWR over the targets against their limits.

    Zero when none helps. Tried from 0 to 400 pF, then refined round the best.

    Raises:
        OutOfDomainError: no target.
    """
    frequency, allowed = judged_at(targets, 21)
    load = antenna.impedance_at(frequency)

    def worst(farad: Reals) -> Real:
        seen = replace(transformer, input_capacitance_f=farad).flow(frequency, load).near_ohm
        return np.asarray((np.abs(reflection_of(seen)) / allowed).max(axis=-1))

    tried = worst(TRIED_F[:, np.newaxis])
    best = int(np.argmin(tried))
    low, high = TRIED_F[max(best - 1, 0)], TRIED_F[min(best + 1, TRIED_F.size - 1)]
    found = minimize_scalar(
        lambda picofarad: float(worst(float(picofarad) * 1e-12)),
        bounds=(low * 1e12, high * 1e12),
        method="bounded",
        options={"xatol": 0.01},
    )
    # A picofarad that gains next to nothing is left out.
    return float(found.x) * 1e-12 if float(found.fun) < 0.999 * float(tried[0]) else 0.0


@dataclass(frozen=True, slots=True)
class CoreTask:
    """What a core is wanted for.

    Args:
        antenna: what hangs on the secondary, inside whose range the targets lie.
        targets: at least one.
        power_w: at the input.
        duty: share of it that heats.
        plan: any transformer of the wanted kind: capacitance, share and copper are taken from it, and leakage,
            which grows with the primary's turns.
        covered_m: of the wire, over its covering.
        together: wires that share the hole all along.
        allowed_c: rise of temperature.
    """

    antenna: Antenna
    targets: Sequence[Target]
    power_w: float
    duty: float
    plan: Transformer
    covered_m: float
    strands: int = 1
    allowed_c: float = 40.0


class RatedCore(NamedTuple):
    """What one core with one pair of turns would do, at its best capacitor of those tried.

    `reach` is the worst |Γ| over the allowed one: every target is held up to 1. SWR, reach and loss are the worst
    over the spread of the core's permeability, not those of its table. `fits` says that the hole takes the wire in
    one layer; `waves` is how long the winding's wire is at the highest frequency.
    """

    ring: Ring
    primary_turns: int
    secondary_turns: int
    input_capacitance_f: float
    worst_swr: float
    reach: float
    worst_loss_db: float
    rise_c: float
    highest_power_w: float | None
    fits: bool
    waves: float = 0.0

    @property
    def long(self) -> bool:
        """Whether its wire is no longer short beside a wave."""
        return self.waves > LONG_WAVES

    @property
    def holds(self) -> bool:
        """Whether it holds every target."""
        return self.reach <= 1

    @property
    def good(self) -> bool:
        """Whether it fits, holds every target and stays cool at the power asked for."""
        return self.fits and self.holds and self.rise_c <= WARM_C and not self.long


@dataclass(frozen=True, slots=True)
class _Rings:
    """Several rings as one core: their impedances stacked, shape (rings, n)."""

    rings: tuple[Ring, ...]

    def core_ohm(self, frequency_hz: Reals, turns: Reals) -> Complex:
        return np.stack([ring.core_ohm(frequency_hz, turns) for ring in self.rings])

    def flux_t(self, frequency_hz: Reals, turns: float, peak_v: Reals) -> Real:
        return np.stack([ring.flux_t(frequency_hz, turns, peak_v) for ring in self.rings])


def turn_pairs(turns_ratio: float, most_primary: int = 5) -> list[tuple[int, int]]:
    """Whole turns that come within a twentieth of a turns ratio, fewest first.

    Raises:
        OutOfDomainError: a ratio below one.

    >>> turn_pairs(7.0, 3)
    [(1, 7), (2, 14), (3, 21)]
    """
    if not turns_ratio >= 1:
        raise OutOfDomainError("turns_ratio", turns_ratio, "1 or more")
    pairs = ((m, round(m * turns_ratio)) for m in range(1, most_primary + 1))
    return [(m, n) for m, n in pairs if abs(n / m / turns_ratio - 1) <= 0.05]


def rate_cores(rings: Sequence[Ring], pairs: Sequence[tuple[int, int]], task: CoreTask) -> list[RatedCore]:
    """Every ring with every pair of turns, the most useful first.

    Those come first that fit, stay cool at the power asked for and hold the targets over the spread of their core;
    among these the least of the worst losses. Of those that hold nothing, the one that comes nearest.

    Raises:
        OutOfDomainError: no ring, no pair of turns, or no target.
    """
    if not rings or not pairs:
        raise OutOfDomainError("rings", "none", "at least one ring and one pair of turns")
    found = [judged for pair in pairs for judged in _judge_pair(tuple(rings), *pair, task)]
    return sorted(
        found,
        key=lambda j: (
            not j.fits,
            j.long,
            j.rise_c > task.allowed_c,
            j.reach > 1,
            max(j.reach, 1.0),
            j.worst_loss_db,
        ),
    )


def _judge_pair(rings: tuple[Ring, ...], primary: int, secondary: int, task: CoreTask) -> list[RatedCore]:
    frequency, allowed = judged_at(task.targets, RATED_AT)
    highest = float(frequency.max())
    load = task.antenna.impedance_at(frequency)
    plan = task.plan
    metres = [[r.wire_length_m(1, task.covered_m)] for r in rings]
    wound = replace(
        plan,
        ring=_Rings(rings),
        primary_turns=primary,
        secondary_turns=secondary,
        core_turns=None,
        leakage_h=plan.leakage_h * (primary / plan.primary_turns) ** (1 if task.strands > 1 else LEAKAGE_POWER),
        input_capacitance_f=TRIED_F[:, np.newaxis, np.newaxis],
        primary=_longer(plan.primary, primary, metres),
        secondary=_longer(plan.secondary, secondary, metres),
    )
    # Shapes: capacitors, rings, frequencies; the capacitor is chosen for the core as its table has it.
    flow = wound.flow(frequency, load)
    best = (np.abs(reflection_of(flow.near_ohm)) / allowed).max(axis=-1).argmin(axis=0)
    spread = np.array([[ring.material.tolerance] for ring in rings])
    chosen = replace(wound, input_capacitance_f=TRIED_F[best][:, np.newaxis])
    builds = [
        replace(chosen, permeability_factor=1 + side * spread).flow(frequency, load) for side in (-1.0, 0.0, 1.0)
    ]
    at_best = np.max([np.abs(reflection_of(each.near_ohm)) for each in builds], axis=0)
    share = np.max([(each.core_w + each.copper_w) / each.input_w for each in builds], axis=0)
    loss_db = np.max([10 * np.log10(each.input_w / each.load_w) for each in builds], axis=0)
    magnitudes = at_best.max(axis=-1)
    reach = (at_best / allowed).max(axis=-1)
    # In units of one wire: all wires in every turn, or the long wire and the twisted first turns.
    places = primary * task.strands if task.strands > 1 else secondary + primary
    wound_turns = primary if task.strands > 1 else secondary
    out = []
    for k, ring in enumerate(rings):
        rise = warming_c(task.power_w * task.duty * float(share[k].max()), ring.surface_m2)
        out.append(
            RatedCore(
                ring=ring,
                primary_turns=primary,
                secondary_turns=secondary,
                input_capacitance_f=float(TRIED_F[best[k]]),
                worst_swr=float((1 + magnitudes[k]) / max(1 - magnitudes[k], 1e-9)),
                reach=float(reach[k]),
                worst_loss_db=float(loss_db[k].max()),
                rise_c=rise,
                highest_power_w=highest_power_w(task.power_w, rise, task.allowed_c),
                fits=places <= ring.turns_that_fit(task.covered_m),
                waves=metres[k][0] * wound_turns * highest / SPEED_OF_LIGHT_M_PER_S,
            )
        )
    return out


def _longer(copper: Conductor | None, turns: int, metres: list[list[float]]) -> Conductor | None:
    return None if copper is None else replace(copper, length_m=np.array(metres) * turns)


# Rings on top of each other that are tried; primaries of wires in hand.
STACKS = (1, 2, 3)
IN_HAND_TURNS = range(2, 13)


class CoreChoice(NamedTuple):
    """Every ring at its best pair of turns, the most useful first; how many pairs were judged.

    What the design has now comes last where it is not among them. `unknown` are rings whose data end below the
    highest target: nobody can rank them there.
    """

    rows: tuple[RatedCore, ...]
    judged: int
    unknown: tuple[Ring, ...] = ()


def choose_core(
    element: WoundTransformer,
    system: System,
    targets: Sequence[Target],
    rings: Iterable[Ring],
    power_w: float,
    duty: float,
) -> CoreChoice:
    """Every ring and pair of turns judged for a transformer of a design.

    Args:
        element: as the design has it.
        system: the design's cascade, the transformer in it.
        rings: of which those without loss data are left out, and those whose data end too low are told apart.
        power_w: at the radio.
        duty: share of it that heats.

    Raises:
        NotFoundError: the system does not hold the transformer.
    """
    every = list(rings)
    highest = max(t.high_hz for t in targets)
    unknown = tuple(r for r in every if r.material.loss_known and not r.material.known_at(highest))
    known = [r for r in every if r.material.loss_known and r.material.known_at(highest)]
    if not known:
        return CoreChoice((), 0, unknown)
    way = element.way
    if way.in_hand > 1:
        pairs = [(m, way.secondary_turns(m, m)) for m in IN_HAND_TURNS]
    else:
        pairs = turn_pairs(element.secondary / element.primary_turns)
    task = CoreTask(
        antenna=system.above(element.key),
        targets=targets,
        power_w=arriving_w(system, element.key, targets, power_w),
        duty=duty,
        plan=element.part(targets[0].center_hz),
        covered_m=element.wire.covered_m,
        strands=way.in_hand,
    )
    found = rate_cores(known, pairs, task)
    best: dict[Ring, RatedCore] = {}
    for judged in found:
        best.setdefault(judged.ring, judged)
    rows = list(best.values())
    if not any(is_present(element, j) for j in rows):
        rows += [j for j in found if is_present(element, j)][:1]
    return CoreChoice(tuple(rows), len(found), unknown)


def is_present(element: WoundTransformer, judged: RatedCore) -> bool:
    """Whether a core with its turns is what the design has now."""
    here, there = element.core.ring, judged.ring
    same = (here.material.mix, here.size.name, here.stack) == (there.material.mix, there.size.name, there.stack)
    return same and (element.primary_turns, element.secondary) == (judged.primary_turns, judged.secondary_turns)


def arriving_w(system: System, key: str, targets: Sequence[Target], power_w: float) -> float:
    """The most that comes up to an element on any target, below it whatever the line keeps."""
    frequency, _ = judged_at(targets, RATED_AT)
    station = system.stations(frequency, power_w)[system.index(key) + 1]
    return float(np.nanmax(station.power_w, initial=0.0)) or power_w


class InputCapacitor(NamedTuple):
    """The capacitor across the input that holds the targets best, and the worst SWR without and with it."""

    capacitance_f: float
    worst_without: float
    worst_with: float


def choose_input_capacitor(element: WoundTransformer, system: System, targets: Sequence[Target]) -> InputCapacitor:
    """The capacitor across the input of a design's transformer, by optimisation over its targets.

    Raises:
        NotFoundError: the system does not hold the transformer.
    """
    bare = replace(element.part(targets[0].center_hz), input_capacitance_f=0.0)
    above = system.above(element.key)
    best = input_capacitance(bare, above, targets)
    worst = [
        max(worst_over(System(above, [Element(element.key, "through", each)]), targets))
        for each in (bare, replace(bare, input_capacitance_f=best))
    ]
    return InputCapacitor(best, *worst)
