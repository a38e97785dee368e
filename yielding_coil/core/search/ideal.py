"""The best that a network could do if its parts came in every value: the least worst SWR, with real losses."""

import cmath
import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import NamedTuple

import numpy as np
from scipy.optimize import minimize

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.line import CableRow, End, Line, Stub
from yielding_coil.core.matching import (
    Ladder,
    l_networks,
    part_for_reactance,
    part_for_susceptance,
    pi_networks,
    series_sections,
    shunt_stubs,
    tee_networks,
)
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.search.kernel import REFERENCE_OHM, Table, judge_rows, reflection_squared
from yielding_coil.core.search.topology import PartKind, Slot, Topology
from yielding_coil.core.target import Target, judged_at

# Of parts as they are usually made (common practice); a coil's grows as √f from the centre.
COIL_Q, CAPACITOR_Q = 250.0, 1500.0
# Networks tried at random before the best of them are improved; how many are; steps, and tries at each.
RANDOM, KEPT, STEPS, TRIES = 1500, 5, 70, 24
# Reactances of a part are looked for between these shares of 50 Ω; ratios of impedances; degrees of line.
LEAST_REACTANCE, MOST_REACTANCE = 0.02, 60.0
LEAST_RATIO, MOST_RATIO = 1.05, 90.0
SHORTEST_DEG, LONGEST_DEG = 2.0, 178.0
# Virtual resistances at which pi and T are begun, over the one where they become an L.
DEPTHS = (0.95, 0.7, 0.4, 0.2, 0.08)


class OfLine(NamedTuple):
    """What a section or a stub is cut from: one or more pieces side by side, its end where it is a stub."""

    row: CableRow
    pieces: int = 1
    end: End | None = None

    @property
    def impedance_ohm(self) -> float:
        """Of all pieces together."""
        return float(np.asarray(self.row.cable.impedance_ohm)) / self.pieces

    def line(self, length_m: Real) -> Line:
        """So much of it, passed through."""
        cable = replace(self.row.cable, impedance_ohm=self.impedance_ohm)
        return Line(cable, length_m)


# A length of line is called a quarter wave within so many degrees of one (common practice).
QUARTER_WITHIN_DEG = 12.0


def is_quarter_wave(slot: Slot, value: float) -> bool:
    """Whether a part is a section of line about a quarter of a wave long."""
    return slot.kind in ("section", "pair") and abs(value - 90.0) <= QUARTER_WITHIN_DEG


@dataclass(frozen=True, slots=True)
class Network:
    """A topology with what its lines are cut from: one entry a part, None where it is no line."""

    topology: Topology
    lines: tuple[OfLine | None, ...]

    @property
    def key(self) -> str:
        """Its name: parts, and impedances of lines."""
        of = [
            "" if line is None else f"@{line.impedance_ohm:.0f}{'' if line.end is None else line.end[0]}"
            for line in self.lines
        ]
        return " ".join(f"{s.place}-{s.kind}{o}" for s, o in zip(self.topology.slots, of, strict=True)) or "none"


@dataclass(frozen=True, slots=True)
class Ideal:
    """A network at its best: henry, farad, degrees or a ratio for each part; the worst SWR over each limit.

    `shortened` is the share of its length to which the wire is cut for it.
    """

    network: Network
    values: tuple[float, ...]
    excess: float
    shortened: float = 1.0

    @property
    def holds(self) -> bool:
        """Whether it keeps every limit."""
        return self.excess <= 1


@dataclass(frozen=True, slots=True)
class Question:
    """An antenna on its targets, read once.

    Args:
        frequency_hz: shape (targets · points,).
        antenna: over 50 Ω, there.
        limits: SWR, one for each target.
    """

    frequency_hz: Real
    antenna: Complex
    limits: Real
    center_hz: float

    @classmethod
    def of(cls, impedance_at: Callable[[Real], Complex], targets: Sequence[Target], points: int) -> "Question":
        """From an antenna that is known over all targets."""
        frequency, _ = judged_at(targets, points)
        return cls(
            frequency,
            np.asarray(impedance_at(frequency)) / REFERENCE_OHM,
            np.array([t.swr_limit for t in targets]),
            targets[0].center_hz,
        )

    @property
    def targets(self) -> int:
        """How many there are."""
        return len(self.limits)

    def loads(self) -> Iterator[tuple[float, complex]]:
        """Frequency and impedance in the middle of each target, Ω."""
        points = self.frequency_hz.size // self.targets
        for k in range(self.targets):
            at = k * points + points // 2
            yield float(self.frequency_hz[at]), complex(self.antenna[at]) * REFERENCE_OHM

    def excess(self, badness: Real) -> Real:
        """The worst SWR over its limit, of what the kernel judged; shape (networks,)."""
        gamma = np.sqrt(reflection_squared(badness))
        with np.errstate(divide="ignore"):
            swr = (1 + gamma) / np.maximum(1 - gamma, 0.0)
        return np.asarray((swr / self.limits).max(axis=-1))


def best(network: Network, question: Question, seed: int = 1) -> Ideal | None:
    """A network's best values; None where nothing comes near.

    From every closed form, at every target, and the best of many drawn at random: steps of chance that shrink where
    nothing is gained, then Nelder and Mead's simplex.
    """
    slots = network.topology.slots
    if not slots:
        return Ideal(network, (), float(question.excess(judge_rows(question.antenna, [], question.targets))[0]))
    makers = [_maker(slot, line, question) for slot, line in zip(slots, network.lines, strict=True)]

    def judged(at: Real) -> Real:
        tables = [make.table(make.value(at[:, k])) for k, make in enumerate(makers)]
        return question.excess(judge_rows(question.antenna, tables, question.targets))

    low = np.array([m.low for m in makers])
    high = np.array([m.high for m in makers])
    rng = np.random.default_rng(seed)
    drawn = rng.uniform(low, high, (RANDOM, len(slots)))
    drawn = drawn[np.argsort(judged(drawn), kind="stable")[:KEPT]]
    closed = [
        [make.at(value) for make, value in zip(makers, values, strict=True)]
        for values in closed_forms(network, question)
    ]
    starts = np.array([*closed, *drawn]) if closed else drawn
    # What a closed form has beyond the range stays where it is.
    low, high = np.minimum(low, starts.min(axis=0)), np.maximum(high, starts.max(axis=0))
    at, found = _improved(starts, judged, low, high, rng)
    polished = minimize(  # type: ignore[call-overload]  # the stubs want a shape that they cannot check
        lambda x: float(judged(np.clip(x, low, high)[np.newaxis])[0]),
        at,
        method="Nelder-Mead",
        options={"xatol": 1e-6, "fatol": 1e-8, "maxiter": 400},
    )
    if polished.fun < found:
        at, found = np.clip(polished.x, low, high), float(polished.fun)
    if not math.isfinite(found):
        return None
    return Ideal(network, tuple(float(m.value(at[k])) for k, m in enumerate(makers)), found)


def _improved(
    starts: Real, judged: Callable[[Real], Real], low: Real, high: Real, rng: np.random.Generator
) -> tuple[Real, float]:
    """The best that is found round some starts by steps of chance."""
    at, worth = starts.copy(), judged(starts)
    size = np.full(len(at), 0.15)
    for _ in range(STEPS):
        steps = rng.standard_normal((len(at), TRIES, at.shape[1])) * size[:, np.newaxis, np.newaxis]
        # Each try moves some of the parts, the others stay.
        steps *= rng.random(steps.shape) < 0.7
        tried = np.clip(at[:, np.newaxis] + steps, low, high)
        found = judged(tried.reshape(-1, at.shape[1])).reshape(len(at), TRIES)
        k = found.argmin(axis=1)
        least = found[np.arange(len(at)), k]
        better = least < worth
        at[better] = tried[better, k[better]]
        worth = np.where(better, least, worth)
        size = np.where(better, np.minimum(size * 1.4, 0.5), size * 0.75)
    first = int(np.argmin(worth))
    return at[first], float(worth[first])


@dataclass(frozen=True, slots=True)
class _Maker:
    """One place of a network: from a coordinate to a value, and from values to what they do."""

    low: float
    high: float
    value: Callable[[Real], Real]
    at: Callable[[float], float]
    table: Callable[[Real], Table]


def _maker(slot: Slot, line: OfLine | None, question: Question) -> _Maker:
    f, center, place = question.frequency_hz, question.center_hz, slot.place
    omega = 2 * math.pi * center

    def column(values: Real) -> Real:
        return np.asarray(values).reshape(-1, 1)

    if slot.kind in ("coil", "capacitor"):
        # Of a coil, X = ωL; of a capacitor, 1/ωC.
        ends = sorted(
            math.log(x * REFERENCE_OHM / omega if slot.kind == "coil" else 1 / (omega * x * REFERENCE_OHM))
            for x in (LEAST_REACTANCE, MOST_REACTANCE)
        )

        def reactance(values: Real) -> Table:
            part = (
                Inductor(column(values), COIL_Q, center)
                if slot.kind == "coil"
                else Capacitor(column(values), CAPACITOR_Q)
            )
            if place == "series":
                return Table(place, part.impedance_ohm(f) / REFERENCE_OHM)
            return Table(place, part.admittance_s(f) * REFERENCE_OHM)

        return _Maker(ends[0], ends[1], np.exp, lambda v: math.log(max(v, 1e-18)), reactance)
    if slot.kind == "transformer":

        def ratio(values: Real) -> Table:
            n = np.sqrt(np.asarray(values)).reshape(-1, 1)
            nothing = np.zeros((n.size, 1))
            chain = np.array([1 / n, nothing, nothing, n], dtype=complex)
            return Table("through", np.broadcast_to(chain, (4, n.size, f.size)))

        return _Maker(math.log(LEAST_RATIO), math.log(MOST_RATIO), np.exp, lambda v: math.log(max(v, 1e-6)), ratio)
    assert line is not None
    per_metre = math.degrees(float(line.row.cable.propagation(center)[0].imag))

    def length(values: Real) -> Real:
        return np.maximum(column(values) / per_metre, 1e-4)

    def cut(values: Real) -> Table:
        if slot.place == "through":
            a, b, c, d = line.line(length(values)).chain(f)
            return Table("through", np.array([a, b / REFERENCE_OHM, c * REFERENCE_OHM, d]))
        assert line.end is not None
        return Table("shunt", Stub(line.row.cable, length(values), line.end).admittance_s(f) * REFERENCE_OHM)

    # In half radians, so that a step of chance is as long as for a logarithm of a value.
    return _Maker(SHORTEST_DEG / 60, LONGEST_DEG / 60, lambda u: np.asarray(u) * 60, lambda v: v / 60, cut)


# The closed forms.


def closed_forms(network: Network, question: Question) -> list[tuple[float, ...]]:
    """Values of every closed form of a network, in the middle of each target; none where it has none."""
    found: list[tuple[float, ...]] = []
    for frequency_hz, load in question.loads():
        try:
            found += [
                values
                for values in _FORMS[network.topology.family](network, frequency_hz, load)
                if all(math.isfinite(v) and v > 0 for v in values)
            ]
        except RefusedError:
            continue
    return found


Values = Iterator[tuple[float, ...]]


def _none(network: Network, frequency_hz: float, load: complex) -> Values:
    return iter(())


def _value(slot: Slot, amount: float, frequency_hz: float) -> float | None:
    """Henry or farad of a reactance in series or a susceptance across; None where it wants the other kind."""
    find = part_for_reactance if slot.place == "series" else part_for_susceptance
    kind, value = find(amount, frequency_hz)
    return value if kind == slot.kind and math.isfinite(value) else None


def _arms(network: Network, ladder: Ladder, frequency_hz: float) -> Values:
    values = [_value(s, arm.value, frequency_hz) for s, arm in zip(network.topology.slots, ladder, strict=True)]
    if all(v is not None for v in values):
        yield tuple(v for v in values if v is not None)


def _one(network: Network, frequency_hz: float, load: complex) -> Values:
    (slot,) = network.topology.slots
    amount = -load.imag if slot.place == "series" else -(1 / load).imag
    value = _value(slot, amount, frequency_hz)
    if value is not None:
        yield (value,)


def _l(network: Network, frequency_hz: float, load: complex) -> Values:
    slots = network.topology.slots
    for found in l_networks(load, frequency_hz):
        if (slots[0].place == "shunt") != (found.shunt_at == "load"):
            continue
        amounts = {"series": found.series_reactance_ohm, "shunt": found.shunt_susceptance_s}
        values = [_value(s, amounts[s.place], frequency_hz) for s in slots]
        if all(v is not None for v in values):
            yield tuple(v for v in values if v is not None)


def _pi(network: Network, frequency_hz: float, load: complex) -> Values:
    most = min(1 / (1 / load).real, REFERENCE_OHM)
    for depth in DEPTHS:
        for ladder in pi_networks(load, depth * most):
            yield from _arms(network, ladder, frequency_hz)


def _tee(network: Network, frequency_hz: float, load: complex) -> Values:
    least = max(load.real, REFERENCE_OHM)
    for depth in DEPTHS:
        for ladder in tee_networks(load, least / depth):
            yield from _arms(network, ladder, frequency_hz)


def _section(network: Network, frequency_hz: float, load: complex) -> Values:
    yield (90.0,)


def _series_section(network: Network, frequency_hz: float, load: complex) -> Values:
    first, second = network.lines
    assert first is not None
    assert second is not None
    for found in series_sections(load, second.impedance_ohm, first.impedance_ohm):
        yield math.degrees(found.main_rad), math.degrees(found.section_rad)


def _stub(network: Network, frequency_hz: float, load: complex) -> Values:
    line = network.lines[-1]
    assert line is not None
    if len(network.lines) == 1:
        wanted = -(1 / load).imag * line.impedance_ohm
        angle = cmath.atan(wanted).real if line.end == "open" else math.atan2(-1, wanted)
        yield (math.degrees(angle % math.pi),)
        return
    for found in shunt_stubs(load):
        angle = found.open_rad if line.end == "open" else found.shorted_rad
        yield math.degrees(found.distance_rad), math.degrees(angle)


def _transformer(network: Network, frequency_hz: float, load: complex) -> Values:
    yield (max(load.real, 1e-3) / REFERENCE_OHM,)


def _transformer_and(network: Network, frequency_hz: float, load: complex) -> Values:
    slots = network.topology.slots
    at = next(k for k, s in enumerate(slots) if s.kind != "transformer")
    slot = slots[at]
    seen = 1 / (1 / load).real if slot.place == "shunt" else load.real
    ratio = seen / REFERENCE_OHM
    amount = -(1 / load).imag if slot.place == "shunt" else -load.imag
    # Below the transformer it is carried down with everything else.
    value = _value(slot, amount if at == 0 else amount / ratio, frequency_hz)
    if value is not None:
        yield (value, ratio) if at == 0 else (ratio, value)


_FORMS: Mapping[str, Callable[[Network, float, complex], Values]] = {
    "none": _none,
    "one": _one,
    "l": _l,
    "pi": _pi,
    "tee": _tee,
    "section": _section,
    "series_section": _series_section,
    "stub": _stub,
    "hairpin": _stub,
    "transformer": _transformer,
    "transformer_and": _transformer_and,
}

# A wire is shortened for a hairpin by no more than this, in steps of so much (common practice: a few percent).
SHORTEST, SHARE_STEP = 0.85, 0.0025
# What may lie across the feedpoint of a shortened wire.
ACROSS: frozenset[str] = frozenset({"shunt-coil", "shunt-hairpin"})


def shares_for_a_hairpin(impedance_at: Callable[[Real], Complex], low_hz: float, center_hz: float) -> list[float]:
    """Shares of its length at which a wire is as capacitive in the middle of a band as a hairpin wants it.

    Args:
        impedance_at: of the wire as it is.
        low_hz: how far down that is known.

    Returns:
        The best share and its neighbours; none where the wire does not come there, or is known too little.
    """
    shares = np.arange(1.0 - SHARE_STEP, SHORTEST - SHARE_STEP / 2, -SHARE_STEP)
    shares = shares[shares * center_hz * 0.98 >= low_hz]
    if shares.size == 0:
        return []
    z = impedance_at(shares * center_hz)
    rest = REFERENCE_OHM - z.real
    wanted = np.where(rest > 0, -np.sqrt(np.maximum(z.real * rest, 0.0)), np.nan)
    off = np.abs(z.imag - wanted) / REFERENCE_OHM
    if not np.isfinite(off).any() or np.nanmin(off) > 0.2:
        return []
    at = int(np.nanargmin(off))
    return [float(share) for share in shares[max(at - 2, 0) : at + 3 : 2]]


_LINES: frozenset[PartKind] = frozenset({"section", "pair", "stub", "hairpin"})
# Lines whose impedances differ by less are one to the search.
ALIKE = 0.05


def networks(topologies: Sequence[Topology], cables: Sequence[CableRow]) -> list[Network]:
    """Every topology with every impedance of line that some cables offer; sections above a stub are of 50 Ω.

    A series section's own line is of 50 Ω too, and the other section of something else.
    """
    found = []
    for topology in topologies:
        choices = [_lines_for(slot, cables) for slot in topology.slots]
        for lines in product(*choices):
            if _sensible(topology, lines):
                found.append(Network(topology, tuple(lines)))
    return found


def _lines_for(slot: Slot, cables: Sequence[CableRow]) -> list[OfLine | None]:
    if slot.kind not in _LINES:
        return [None]
    ends: tuple[End | None, ...] = (None,)
    if slot.kind == "stub":
        ends = ("open", "shorted")
    elif slot.kind == "hairpin":
        ends = ("shorted",)
    pieces = 2 if slot.kind == "pair" else 1
    rows: list[CableRow] = []
    # The least lossy of each impedance stands for all of it.
    for row in sorted(cables, key=lambda r: float(r.cable.loss_sqrt)):
        own = float(np.asarray(row.cable.impedance_ohm))
        if row.coax is (slot.kind != "hairpin") and not any(
            abs(own / float(np.asarray(r.cable.impedance_ohm)) - 1) < ALIKE for r in rows
        ):
            rows.append(row)
    return [OfLine(row, pieces, end) for row in rows for end in ends]


def _sensible(topology: Topology, lines: Sequence[OfLine | None]) -> bool:
    """Whether it is worth looking at: what hangs above a stub or a series section is the main line."""
    if topology.family in ("stub", "series_section") and len(lines) == 2:
        main, other = lines
        assert main is not None
        assert other is not None
        if abs(main.impedance_ohm / REFERENCE_OHM - 1) > ALIKE:
            return False
        return topology.family == "stub" or abs(other.impedance_ohm / REFERENCE_OHM - 1) > ALIKE
    return True
