"""How many builds out of a hundred hold the bands, and what costs the rest."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Any, Protocol, TypeVar, runtime_checkable

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, Stub
from yielding_coil.core.parts import Inductor, OnePort
from yielding_coil.core.quasi_random import Seed, sobol_normal
from yielding_coil.core.reflection import impedance_of, magnitude_at_swr, reflection_of, swr_of_impedance
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.sweep import ReadSweep
from yielding_coil.core.system import Antenna, System
from yielding_coil.core.target import POINTS, Target, judged_at
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.tuner import TunerNetwork

SETS = 8
ANTENNA = "antenna"
REFLECTION = "reflection"


@dataclass(frozen=True, slots=True)
class Spread:
    """How far one value of one element strays from build to build.

    Args:
        name: of the contributor; spreads that share it count as one.
        element: key of the element, or "antenna".
        field: of the element's part (or of a line's cable); "reflection" for the antenna: one circular
            complex error of Γ, relative, common to all frequencies; for one that is modelled, what of it strays,
            in standard deviations.
        relative: two standard deviations over the value.
        absolute: two standard deviations in the value's unit.
    """

    name: str
    element: str
    field: str
    relative: float = 0.0
    absolute: float = 0.0

    @property
    def dimensions(self) -> int:
        """Random numbers it takes."""
        return 2 if self.element == ANTENNA and self.field == REFLECTION else 1


@dataclass(frozen=True, slots=True)
class YieldLoss:
    """What one contributor costs: the share gained when its spread alone is zero."""

    name: str
    share: float


@dataclass(frozen=True, slots=True)
class Yield:
    """Share of builds that hold every target, with its standard error.

    `impossible` counts samples whose antenna returned more than it got; they do not hold.
    """

    share: float
    standard_error: float
    costs: tuple[YieldLoss, ...]
    impossible: int


@runtime_checkable
class Straying(Protocol):
    """An antenna that knows what its own numbers leave open."""

    def strayed(self, deviates: Mapping[str, Reals]) -> Antenna:
        """The same with things so many standard deviations off, by name; (builds, 1) each."""


@dataclass(frozen=True, slots=True)
class MisreadAntenna:
    """An antenna as an analyser with a common relative error of Γ may have read it."""

    antenna: Antenna
    error: Complex

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Shape (builds, n)."""
        return impedance_of(reflection_of(self.antenna.impedance_at(frequency_hz)) * (1 + self.error))


@dataclass(frozen=True, slots=True)
class ReadOnce:
    """An antenna at the frequencies that matter, and at no others."""

    load_ohm: Complex

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """What was read."""
        return self.load_ohm


def sample(spreads: Sequence[Spread], rng: np.random.Generator, builds: int) -> list[Complex]:
    """Standard normal deviates for every spread, shape (builds, 1) each.

    Eight independently scrambled Sobol sets, one after the other. The antenna's is complex and circular,
    with E|z|² = 1.
    """
    if builds < SETS or builds & (builds - 1):
        raise OutOfDomainError("builds", builds, f"a power of two, {SETS} or more")
    dimensions = sum(s.dimensions for s in spreads)
    if dimensions == 0:
        return []
    seeds = tuple(_seed_of(child) for child in rng.spawn(SETS))
    normal = sobol_normal(dimensions, int(math.log2(builds // SETS)), seeds)
    found: list[Complex] = []
    column = 0
    for spread in spreads:
        deviate = normal[:, column : column + 1].astype(complex)
        if spread.dimensions == 2:
            deviate = (deviate + 1j * normal[:, column + 1 : column + 2]) / math.sqrt(2)
        found.append(deviate)
        column += spread.dimensions
    return found


def _seed_of(rng: np.random.Generator) -> Seed:
    """What a spawned generator starts from."""
    sequence: Any = rng.bit_generator.seed_seq
    return sequence.entropy, tuple(sequence.spawn_key)


def sampled(system: System, spreads: Sequence[Spread], deviates: Sequence[Complex]) -> System:
    """The system with every spread value replaced by its samples, shape (builds, 1)."""
    antenna = system.antenna
    misread: Complex | None = None
    strays: dict[str, Reals] = {}
    changes: dict[str, dict[str, Reals]] = {}
    parts = {e.key: e.part for e in system.elements}
    for spread, deviate in zip(spreads, deviates, strict=True):
        if spread.element == ANTENNA and spread.field == REFLECTION:
            misread = deviate * (spread.relative / 2)
            continue
        if spread.element == ANTENNA:
            if not isinstance(system.antenna, Straying):
                raise OutOfDomainError("spreads", spread.field, "reflection: this antenna is not modelled")
            strays[spread.field] = deviate.real * (spread.absolute / 2)
            continue
        if spread.element not in parts:
            raise OutOfDomainError("spreads", spread.element, f"one of {', '.join(parts) or 'no elements'}")
        part = parts[spread.element]
        holder: object = part.cable if isinstance(part, Line | Stub) and hasattr(part.cable, spread.field) else part
        value = getattr(holder, spread.field)
        z = deviate.real
        strayed = value * (1 + z * (spread.relative / 2)) + z * (spread.absolute / 2)
        # A value that is known by its range only would turn negative in one build of a thousand.
        held = isinstance(part, Transformer | RingCoil | Inductor | Trap)
        changes.setdefault(spread.element, {})[spread.field] = np.maximum(strayed, value / 20) if held else strayed
    if strays and isinstance(antenna, Straying):
        antenna = antenna.strayed(strays)
    if misread is not None:
        antenna = MisreadAntenna(antenna, misread)
    elements = [
        replace(e, part=_changed(e.part, changes[e.key])) if e.key in changes else e for e in system.elements
    ]
    return System(antenna, elements)


Some = TypeVar("Some")
# What of an element, of a line and of a misread antenna is itself made of values.
_NESTED = ("part", "cable", "antenna")


def _cut(thing: Some, some: slice, builds: int) -> Some:
    """A part, an antenna or an element of many builds as some of them have it; nothing is checked anew."""
    found: dict[str, object] = {}
    kind: Any = type(thing)
    for name in _names(kind):
        value = getattr(thing, name)
        if isinstance(value, np.ndarray):
            found[name] = value[some] if value.shape == (builds, 1) else value
        elif isinstance(value, Mapping):
            found[name] = {key: _rows(row, some, builds) for key, row in value.items()}
        else:
            found[name] = _cut(value, some, builds) if name in _NESTED else value
    other: Some = object.__new__(kind)
    for name, value in found.items():
        object.__setattr__(other, name, value)
    return other


def _rows(value: object, some: slice, builds: int) -> object:
    return value[some] if isinstance(value, np.ndarray) and value.shape == (builds, 1) else value


@lru_cache(maxsize=128)
def _names(kind: type) -> tuple[str, ...]:
    return tuple(field.name for field in fields(kind))


def _changed(
    part: OnePort | Line | Transformer | TunerNetwork, fields: Mapping[str, Reals]
) -> OnePort | Line | Transformer | TunerNetwork:
    if isinstance(part, Line | Stub):
        own = {k: v for k, v in fields.items() if not hasattr(part.cable, k)}
        cable: Cable = replace(part.cable, **{k: v for k, v in fields.items() if k not in own})  # type: ignore[arg-type]
        return replace(part, cable=cable, **own)  # type: ignore[arg-type]
    return replace(part, **fields)  # type: ignore[type-var]


# Numbers of one array of builds by frequencies that a processor's own memory holds.
BLOCK = 1 << 14


def _built(
    system: System,
    spreads: Sequence[Spread],
    deviates: Sequence[Complex],
    station: int,
    frequency_hz: Real,
    allowed: Real,
) -> tuple[np.ndarray, np.ndarray]:
    """Which builds hold, and which are impossible; as many at once as the processor's own memory holds."""
    if not deviates:
        return _holding(system, station, frequency_hz, allowed)
    builds, some = len(deviates[0]), max(1, BLOCK // frequency_hz.size)
    if not any(s.element == ANTENNA and s.field != REFLECTION for s in spreads):
        system = replace(system, antenna=ReadOnce(system.antenna.impedance_at(frequency_hz)))
    whole = sampled(system, spreads, deviates)
    strayed = {spread.element for spread in spreads}
    parts = []
    for k in range(0, builds, some):
        rows = slice(k, k + some)
        antenna = _cut(whole.antenna, rows, builds) if ANTENNA in strayed else whole.antenna
        elements = [_cut(e, rows, builds) if e.key in strayed else e for e in whole.elements]
        parts.append(_holding(System(antenna, elements), station, frequency_hz, allowed))
    # A spread that moves nothing leaves one answer for all of a part.
    sizes = [min(some, builds - k) for k in range(0, builds, some)]
    holds, impossible = (
        np.concatenate([np.broadcast_to(part[which], (size,)) for part, size in zip(parts, sizes, strict=True)])
        for which in (0, 1)
    )
    return holds, impossible


def _holding(system: System, station: int, frequency_hz: Real, allowed: Real) -> tuple[np.ndarray, np.ndarray]:
    """Which builds hold, and which are impossible; shape (builds,) or ()."""
    z = system.impedance(frequency_hz, station)
    # |Γ| ≤ allowed, without a division: |z|² + 50² ≤ 100·r·(1 + a²)/(1 − a²).
    size = np.abs(z)
    size *= size
    size += 2500
    inside = size <= (100 * (1 + allowed**2) / (1 - allowed**2)) * z.real
    holds = np.asarray(inside.all(axis=-1))
    impossible = np.zeros(holds.shape, dtype=bool)
    if isinstance(system.antenna, MisreadAntenna | ReadSweep):
        impossible = np.asarray((system.antenna.impedance_at(frequency_hz).real <= 0).any(axis=-1))
    return holds & ~impossible, impossible


def yield_of(
    system: System,
    targets: Sequence[Target],
    spreads: Sequence[Spread],
    rng: np.random.Generator,
    builds: int = 2048,
    *,
    station: int | None = None,
    points: int = POINTS,
    costs: bool = True,
) -> Yield:
    """Share of builds whose SWR stays within every target's limit.

    Args:
        system: the design at its nominal values.
        targets: at least one; all must hold at once.
        spreads: contributors; none gives 0 or 1.
        rng: the same seed gives the same samples, so that a drag compares like with like.
        builds: a power of two, 8 or more.
        station: where the SWR is judged; below the last part made by hand when left out.
        points: frequencies on each target.
        costs: also find what each contributor costs, one more evaluation each.

    Raises:
        OutOfDomainError: no target, a spread of an unknown element, or builds not a power of two.

    Source:
        Scrambled Sobol sequences: Owen, J. Complexity 14, 1998. The standard error is the spread over the
        sets divided by √sets; the binomial one would be several times too large.
    """
    frequency, allowed = judged_at(targets, points)
    at = system.match_station if station is None else station
    deviates = sample(spreads, rng, builds)
    holds, impossible = _built(system, spreads, deviates, at, frequency, allowed)
    share_of_set = np.broadcast_to(holds, (builds,)).reshape(SETS, -1).mean(axis=1)
    share = float(share_of_set.mean())
    found: list[YieldLoss] = []
    for name in dict.fromkeys(s.name for s in spreads) if costs else ():
        quiet = [d * 0 if s.name == name else d for s, d in zip(spreads, deviates, strict=True)]
        without, _ = _built(system, spreads, quiet, at, frequency, allowed)
        found.append(YieldLoss(name, float(without.mean()) - share))
    found.sort(key=lambda c: -c.share)
    return Yield(share, float(share_of_set.std(ddof=1) / math.sqrt(SETS)), tuple(found), int(impossible.sum()))


def which_hold(
    system: System, targets: Sequence[Target], spreads: Sequence[Spread], deviates: Sequence[Complex]
) -> np.ndarray:
    """Which builds hold every target's limit, for deviates of one's own.

    Args:
        deviates: standard normal, one array a spread, shape (builds, 1) each, as `sample` draws them.

    Returns:
        Booleans, shape (builds,); one alone where nothing strays.
    """
    frequency, allowed = judged_at(targets)
    holds, _ = _built(system, spreads, deviates, system.match_station, frequency, allowed)
    return np.broadcast_to(holds, (len(deviates[0]) if deviates else 1,))


def shares_at(
    system: System,
    targets: Sequence[Target],
    spreads: Sequence[Spread],
    rng: np.random.Generator,
    limits: Sequence[float],
    builds: int = 2048,
) -> tuple[float, ...]:
    """Share of builds that stay within each SWR limit on all targets, whatever the targets' own limits."""
    frequency, _ = judged_at(targets)
    built = sampled(system, spreads, sample(spreads, rng, builds))
    worst = np.abs(reflection_of(built.impedance(frequency, system.match_station))).max(axis=-1)
    return tuple(float((worst <= magnitude_at_swr(limit)).mean()) for limit in limits)


# A part trimmed in place is tried at so many values, as far as so many times its spread.
TRIES = 49
TRIM_REACH = 4.0


def share_trimmed(
    system: System,
    targets: Sequence[Target],
    spreads: Sequence[Spread],
    rng: np.random.Generator,
    trimmed: str | Sequence[str],
    builds: int = 512,
) -> float:
    """Share of builds that can be brought to hold by trimming parts in place, watching the SWR.

    One part is tried at every value within reach. Of several, each in turn is set to where the worst SWR over the
    limits is least, and all of them once more. A part is free within four times the largest relative spread;
    everything else strays as it does.

    Args:
        trimmed: name of the spread of the part that is trimmed, or of several, in the order in which they are.

    Raises:
        OutOfDomainError: no spread of that name.
    """
    names = [trimmed] if isinstance(trimmed, str) else list(trimmed)
    known = [s.name for s in spreads]
    for name in names:
        if name not in known:
            raise OutOfDomainError("trimmed", name, f"one of {', '.join(known)}")
    frequency, allowed = judged_at(targets)
    deviates = sample(spreads, rng, builds)
    reach = TRIM_REACH * max(s.relative for s in spreads)
    # From the middle outwards: of two that do alike the smaller change.
    steps = sorted(np.linspace(-reach, reach, TRIES), key=abs)
    held = np.zeros(builds, dtype=bool)
    for name in names * (1 if len(names) == 1 else ROUNDS):
        k = known.index(name)
        least, best = np.full(builds, np.inf), deviates[k].copy()
        for step in steps:
            left = np.flatnonzero(~held)
            if left.size == 0:
                break
            moved = [d[left] for d in deviates]
            moved[k] = np.full((left.size, 1), 2 * step / spreads[k].relative, dtype=complex)
            worst = np.broadcast_to(_excess(sampled(system, spreads, moved), frequency, allowed), left.shape)
            better = worst < least[left]
            least[left[better]], best[left[better]] = worst[better], moved[k][better]
            held[left] = worst <= 1
        deviates[k] = best
    return float(held.mean())


# Several parts are trimmed so many times round.
ROUNDS = 2


def _excess(system: System, frequency_hz: Real, allowed: Real) -> Real:
    """The worst |Γ| over what is allowed, one for each build; endless for what is impossible."""
    z = system.impedance(frequency_hz, system.match_station)
    worst = np.asarray((np.abs((z - 50) / (z + 50)) / allowed).max(axis=-1))
    if isinstance(system.antenna, MisreadAntenna | ReadSweep):
        worst[(system.antenna.impedance_at(frequency_hz).real <= 0).any(axis=-1)] = np.inf
    return worst


def fan(
    system: System,
    frequency_hz: Real,
    spreads: Sequence[Spread],
    rng: np.random.Generator,
    value_of: Callable[[Complex], Real],
    builds: int = 512,
    *,
    station: int | None = None,
    inside: float = 0.95,
) -> tuple[Real, Real]:
    """Values below and above which the outer builds lie, at each frequency: `inside` of them are between.

    Args:
        value_of: what is read of an impedance, shape for shape.
    """
    at = system.match_station if station is None else station
    z = sampled(system, spreads, sample(spreads, rng, builds)).impedance(frequency_hz, at)
    ordered = np.sort(np.atleast_2d(value_of(z)), axis=0)
    tail = math.floor((1 - inside) / 2 * (ordered.shape[0] - 1))
    return ordered[tail], ordered[ordered.shape[0] - 1 - tail]


def swr_fan(
    system: System,
    frequency_hz: Real,
    spreads: Sequence[Spread],
    rng: np.random.Generator,
    builds: int = 512,
    *,
    station: int | None = None,
    inside: float = 0.95,
) -> tuple[Real, Real]:
    """SWR below and above which the outer builds lie, at each frequency: `inside` of them are between."""
    return fan(system, frequency_hz, spreads, rng, swr_of_impedance, builds, station=station, inside=inside)
