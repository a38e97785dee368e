"""The best that a network could do if its parts came in every value: the least worst SWR, with real losses."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
from scipy.optimize import minimize

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.line import CableRow, End, Stub
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.search.closed import closed_forms
from yielding_coil.core.search.kernel import REFERENCE_OHM, Table, judge_rows
from yielding_coil.core.search.network import Network, OfLine, Question
from yielding_coil.core.search.topology import PartKind, Slot, Topology

# Of parts as they are usually made (common practice); a coil's grows as √f from the centre.
COIL_Q, CAPACITOR_Q = 250.0, 1500.0
# Networks tried at random before the best of them are improved; how many are; steps, and tries at each.
RANDOM, KEPT, STEPS, TRIES = 1500, 5, 70, 24
# Reactances of a part are looked for between these shares of 50 Ω; ratios of impedances; degrees of line.
LEAST_REACTANCE, MOST_REACTANCE = 0.02, 60.0
LEAST_RATIO, MOST_RATIO = 1.05, 90.0
SHORTEST_DEG, LONGEST_DEG = 2.0, 178.0


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
