"""Which of several things a bench sweep shows: each suspect fitted with its tolerances, then weighed."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal, NamedTuple

import numpy as np
from scipy.linalg import block_diag, cho_factor, cho_solve, solve_triangular

from yielding_coil.core.arrays import Complex, Complexes, Real, Reals
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.fitting import FURTHEST_PULL, Fit, both_parts, fit, residual_columns, residual_of
from yielding_coil.core.line import Line
from yielding_coil.core.parts import OnePort
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.ring import Core, RingCoil
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element, System
from yielding_coil.core.tolerance import Spread, sampled
from yielding_coil.core.transformer import Transformer

# Points of a sweep that are looked at: neighbours tell little more.
FITTED_POINTS = 49
FEWEST_POINTS = 11
# What a calibration leaves, and the noise of a pass, root mean square of |δΓ|: unless the sweep says better.
RESIDUAL_DB = 50.0
NOISE = 1e-3
# Permeability strays from its table in shape too: so much, one standard deviation, in each stretch of a decade;
# and where the table ends, so much more.
SHAPE, STRETCH_DECADES, BEYOND = 0.03, 0.5, 0.4
# So much of the weight is stated: one suspect that has it is named, else the likeliest that have it together.
NAMED = 0.95
OPEN_OHM, SHORT_OHM = 1e9, 1e-3
# Across a few turns of one's own (from memory).
LINK_F = 1e-12
# Wire between the plane and what lies on the bench, nanohenries up to thirty: a half-normal (common practice).
LEAD_H = 15e-9
# Resistors, two standard deviations: of the trade's five per cent.
RESISTOR_TOLERANCE = 0.05
# Deviates before those of the part: the resistor's, and the lead's.
NUISANCES = 2
# Weighted squares above the best by which a suspect is out of the question.
HOPELESS = 1000.0
# A fault and a value that far off at once are two, and more than is told from one sweep.
FURTHEST_OF_FAULT = 4.0
STEP = 1e-4
# A value that may be so far off, two standard deviations, is looked for from half a deviate to both sides too.
WIDE, HALF = 0.5, 0.5


@dataclass(frozen=True, slots=True)
class Fixture:
    """How a winding is swept on the bench.

    Args:
        key: its name.
        load_ohm: what is put on the other side; infinite when nothing is; not looked at for a thing alone.
        tolerance: of that resistor, two standard deviations over the value.
        link_turns: of a wire of one's own put on the same core beside what is wound, and swept in its place.
        common: all wires joined at each end, swept as one: what the core chokes.
    """

    key: str
    load_ohm: float = math.inf
    tolerance: float = RESISTOR_TOLERANCE
    link_turns: int | None = None
    common: bool = False


@dataclass(frozen=True, slots=True)
class Hypothesis:
    """One thing that may lie on the bench.

    Args:
        code: what it is called: "right", or a fault; suspects that share a code are weighed as one.
        part: the thing as it then is.
        spreads: of its values, by the key "part".
        values: what tells it from others of its code.
        weight: how often it happens, against the others.
        load_factor: of the resistor as it then counts; infinite where nothing of it is seen.
        load_doubt: two standard deviations of the resistor; as the set-up has it when None.
        shaped: whether a core's curve, known by its table only, plays a part.
    """

    code: FaultCode
    part: OnePort | Transformer | Line
    spreads: tuple[Spread, ...] = ()
    values: Mapping[str, float | str] = field(default_factory=dict)
    weight: float = 1.0
    load_factor: float = 1.0
    shaped: bool = True
    load_doubt: float | None = None


class Ranked(NamedTuple):
    """A suspect after the fit: its share of the weight, how often a true one fits so badly, and its furthest value.

    `pull` is how far one of its values lies from what it was planned to be, in standard deviations; `found` holds
    its values as they came out, by field; `counts` the turns that it may have, where turns are what is wrong.
    """

    suspect: Hypothesis
    share: float
    chance: float
    pull: float
    found: Mapping[str, float]
    counts: tuple[float, ...] = ()


class Verdict(NamedTuple):
    """What the sweeps say.

    `says` is one suspect ("named"), those that cannot be told apart ("apart"), or that nothing fits ("strange").
    `likely` holds one suspect for each thing stated, the likeliest first: how many turns it has is one thing,
    whichever they may be. Of what is strange it holds the nearest, which is not stated. `hidden` holds the faults
    that such sweeps cannot tell from what is planned, whatever they show, because they lie within its tolerances;
    `next_setup` the one more sweep that would tell, None when none would or none is needed.
    """

    says: Literal["named", "apart", "strange"]
    likely: tuple[Ranked, ...]
    shares: dict[FaultCode, float]
    hidden: tuple[Hypothesis, ...]
    next_setup: Fixture | None

    @property
    def codes(self) -> tuple[FaultCode, ...]:
        """What is stated: nothing where nothing fits."""
        return () if self.says == "strange" else tuple(w.suspect.code for w in self.likely)


@dataclass(frozen=True, slots=True)
class _Load:
    """A resistor as builds have it."""

    ohm: Complexes

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        f = np.asarray(frequency_hz, dtype=float)
        return np.asarray(np.asarray(self.ohm, dtype=complex) * np.ones(f.shape), dtype=complex)


def _place(part: object) -> Literal["series", "through"]:
    return "through" if isinstance(part, Transformer | Line) else "series"


def _core_of(part: object) -> Core:
    ring = getattr(part, "ring", None)
    if ring is None:
        raise OutOfDomainError("link_turns", "on something without a core", "turns on a ring")
    core: Core = ring
    return core


def _magnetising(part: object) -> float:
    """Turns by which wires joined at both ends magnetise."""
    if not isinstance(part, Transformer):
        raise OutOfDomainError("common", "on something with one wire", "wires in hand")
    return float(part.primary_turns if part.core_turns is None else part.core_turns)


def seen_of(suspect: Hypothesis, setup: Fixture, frequency_hz: Real, deviates: Real) -> Complex:
    """Γ against 50 Ω of builds of a suspect in a set-up.

    Args:
        frequency_hz: shape (n,).
        deviates: standard normal, shape (builds, k): the resistor's, the lead's, then one a spread.

    Returns:
        Shape (builds, n).
    """
    part, spreads = suspect.part, suspect.spreads
    columns = [deviates[:, k : k + 1].astype(complex) for k in range(NUISANCES, deviates.shape[1])]
    if setup.link_turns is not None or setup.common:
        turns = _magnetising(part) if setup.link_turns is None else setup.link_turns
        part = RingCoil(_core_of(part), turns, LINK_F)
        kept = [k for k, s in enumerate(spreads) if s.field == "permeability_factor"]
        spreads, columns = tuple(spreads[k] for k in kept), [columns[k] for k in kept]
    place = _place(part)
    ohm: Complexes = 0.0
    if place == "through":
        ohm = OPEN_OHM
        if math.isfinite(setup.load_ohm) and math.isfinite(suspect.load_factor):
            resistor = max(setup.load_ohm, SHORT_OHM) * suspect.load_factor
            doubt = setup.tolerance if suspect.load_doubt is None else suspect.load_doubt
            ohm = np.asarray(resistor * np.maximum(1 + deviates[:, :1] * (doubt / 2), 0.1), dtype=complex)
    system = System(_Load(ohm), [Element("part", place, part)])
    lead = 2j * math.pi * LEAD_H * np.abs(deviates[:, 1:2]) * frequency_hz
    z = sampled(system, spreads, columns).impedance(frequency_hz) + lead
    return np.asarray(np.broadcast_to(reflection_of(z), (deviates.shape[0], frequency_hz.size)), dtype=complex)


def _over(lower: Real, values: Real) -> Real:
    """Values along the last axis over a covariance whose lower Cholesky factor is given."""
    return np.asarray(solve_triangular(lower, values.T, lower=True)).T


@dataclass(frozen=True, slots=True)
class BenchSweep:
    """A sweep taken in a set-up, thinned, with how far it is trusted.

    Args:
        residual_db: what calibration leaves, below full reflection.
        noise: root mean square of |δΓ| from point to point.
    """

    setup: Fixture
    sweep: Sweep
    residual_db: float = RESIDUAL_DB
    noise: float = NOISE

    def thinned(self) -> tuple[Real, Complex]:
        """Frequencies and Γ, evenly in log f, at most `FITTED_POINTS`.

        Raises:
            OutOfDomainError: fewer than eleven points.
        """
        f = self.sweep.frequency_hz
        if f.size < FEWEST_POINTS:
            raise OutOfDomainError("sweep", f"of {f.size} points", f"{FEWEST_POINTS} points or more")
        wanted = np.geomspace(f[0], f[-1], FITTED_POINTS)
        at = np.unique(np.abs(f[np.newaxis, :] - wanted[:, np.newaxis]).argmin(axis=1))
        return f[at], self.sweep.reflection()[at]


class _Read(NamedTuple):
    """A thinned sweep; `lower` is the Cholesky factor of the covariance of its two parts."""

    setup: Fixture
    frequency_hz: Real
    gamma: Complex
    lower: Real


def _still(suspect: Hypothesis) -> Real:
    """It as it is meant, shape (1, k)."""
    return np.zeros((1, NUISANCES + len(suspect.spreads)))


def _shape_columns(suspect: Hypothesis, setup: Fixture, f: Real, start: Real) -> Real:
    """What a core whose curve strays from its table by a little in every stretch would change."""
    if not suspect.shaped:
        return np.zeros((2 * f.size, 0))
    factor = [k for k, s in enumerate(suspect.spreads) if s.field == "permeability_factor"]
    if not factor:
        return np.zeros((2 * f.size, 0))
    spread = suspect.spreads[factor[0]]
    step = np.array(start)
    step[0, NUISANCES + factor[0]] += 1.0
    slope = (seen_of(suspect, setup, f, step) - seen_of(suspect, setup, f, start))[0] / max(
        spread.relative / 2, 1e-9
    )
    log = np.log10(f)
    centres = np.arange(log[0], log[-1] + STRETCH_DECADES, STRETCH_DECADES)
    bumps = np.exp(-0.5 * ((log - centres[:, np.newaxis]) / (STRETCH_DECADES / 2)) ** 2)
    wide = SHAPE + BEYOND * _beyond(suspect.part, f)
    return np.stack([both_parts(turn * wide * slope * b) for b in bumps for turn in (1, 1j)], axis=1)


def _beyond(part: object, f: Real) -> Real:
    """Octaves beyond the end of a core's data, at most two; shape (n,)."""
    material = getattr(getattr(part, "ring", None), "material", None)
    highest = None if material is None else material.highest_hz
    return np.zeros(f.shape) if highest is None else np.clip(np.log2(f / highest), 0.0, 2.0)


def _fit(suspect: Hypothesis, taken: Sequence[BenchSweep], bar: float = math.inf) -> Fit:
    """A suspect brought to rest on the sweeps, with what they and its core's table leave open."""
    start = _still(suspect)
    reads: list[_Read] = []
    volume = 0.0
    for t in taken:
        f, gamma = t.thinned()
        left_by = residual_columns(f, gamma, residual_of(t.residual_db))
        columns = np.concatenate([left_by, _shape_columns(suspect, t.setup, f, start)], axis=1)
        lower = np.linalg.cholesky(columns @ columns.T + np.eye(2 * f.size) * (t.noise**2 / 2))
        volume += 2 * float(np.log(np.diag(lower)).sum())
        reads.append(_Read(t.setup, f, gamma, lower))

    def left(deviates: Real) -> Real:
        return np.concatenate(
            [
                _over(r.lower, both_parts(r.gamma - seen_of(suspect, r.setup, r.frequency_hz, deviates)))
                for r in reads
            ],
            axis=-1,
        )

    # The lead is a half-normal: away from its kink.
    first = start[0].copy()
    first[1] = 0.3
    starts = [first]
    for k, spread in enumerate(suspect.spreads):
        # Far from where it is, a resonance that is sharp shows no way to go.
        if spread.relative > WIDE and spread.field == "inductance_h":
            starts += [first + away * np.eye(first.size)[NUISANCES + k] for away in (-HALF, HALF)]
    return fit(left, starts, log_volume=volume, bar=bar)


def _ranked(suspect: Hypothesis, share: float, found: Fit) -> Ranked:
    """A suspect with what came out of its values."""
    values = {}
    for spread, deviate in zip(suspect.spreads, found.deviates[NUISANCES:], strict=True):
        meant = getattr(suspect.part, spread.field, None)
        if isinstance(meant, float | int):
            values[spread.field] = meant * (1 + deviate * spread.relative / 2) + deviate * spread.absolute / 2
    return Ranked(suspect, share, found.chance, _pull(suspect, found), values)


def _pull(suspect: Hypothesis, found: Fit) -> float:
    """How far its furthest value lies from what it was planned to be, in standard deviations.

    What is planned holds in all its values; of a fault those count that are known by more than their range.
    """
    own = [
        NUISANCES + k
        for k, s in enumerate(suspect.spreads)
        if suspect.code == RIGHT or s.field not in ("leakage_h", "winding_capacitance_f", "self_capacitance_f", "q")
    ]
    return found.pull([0, *own])


def classify(
    taken: Sequence[BenchSweep], suspects: Sequence[Hypothesis], setups: Sequence[Fixture] = ()
) -> Verdict:
    """Weigh suspects against bench sweeps of one thing.

    Nothing is called anything before it fits: where the likeliest leaves more than chance would, or holds only with
    a value beyond three standard deviations, the sweep is strange.

    Args:
        taken: at least one sweep.
        suspects: at least one; what is planned is called "right".
        setups: that could be swept too; the one that would tell two apart is looked for among them.

    Raises:
        OutOfDomainError: no sweep, no suspect, or a sweep of fewer than eleven points.
    """
    if not taken or not suspects:
        raise OutOfDomainError("taken", "none", "at least one sweep, and one suspect")
    fits: list[Fit] = []
    bar = math.inf
    for suspect in suspects:
        fits.append(_fit(suspect, taken, bar))
        bar = min(bar, fits[-1].cost + HOPELESS)
    # What fits like nothing expected has no say; where nothing fits, all have, and the sweep is strange.
    able = np.array([not f.strange for f in fits])
    logs = np.array([f.evidence + math.log(s.weight) for f, s in zip(fits, suspects, strict=True)])
    able = _without_far_right(able, logs, suspects, fits)
    if able.any():
        logs = np.where(able, logs, -np.inf)
    shares = np.exp(logs - logs.max())
    shares /= shares.sum()
    by_code: dict[FaultCode, float] = {}
    weights: dict[str, float] = {}
    best: dict[str, int] = {}
    for k, suspect in enumerate(suspects):
        name = name_of(suspect.code)
        by_code[suspect.code] = by_code.get(suspect.code, 0.0) + float(shares[k])
        weights[name] = weights.get(name, 0.0) + float(shares[k])
        if name not in best or logs[k] > logs[best[name]]:
            best[name] = k
    order = sorted(weights, key=lambda name: -weights[name])
    stated = order[:1]
    while sum(weights[n] for n in stated) < NAMED and len(stated) < len(order):
        stated.append(order[len(stated)])

    def ranked(name: str) -> Ranked:
        mine = _of_name(name, suspects, shares, best[name])
        counts = tuple(sorted(float(s.values["turns"]) for s in mine)) if name == TURNS else ()
        return _ranked(suspects[best[name]], weights[name], fits[best[name]])._replace(counts=counts)

    shown = {c: by_code[c] for c in sorted(by_code, key=lambda code: -by_code[code])}
    first = ranked(order[0])
    furthest = FURTHEST_PULL if first.suspect.code == RIGHT else FURTHEST_OF_FAULT
    if not able.any() or (first.pull > furthest and first.suspect.code not in GRADUAL):
        return Verdict("strange", (first,), shown, (), None)
    # Where right is out of the question, only what is stated may still be too near to it.
    near = suspects if RIGHT in stated else [s for n in stated for s in _of_name(n, suspects, shares, best[n])]
    hidden = _hidden(taken, suspects, near)
    if hidden and RIGHT not in stated and able[best[RIGHT]] and weights[RIGHT] > NEGLIGIBLE:
        stated.append(RIGHT)
        hidden = _hidden(taken, suspects, suspects)
    if stated[0] == RIGHT and {*stated[1:]} <= {name_of(h.code) for h in hidden}:
        # What such sweeps never tell from what is planned is no second opinion.
        stated = stated[:1]
    likely = tuple(ranked(n) for n in stated)
    if len(stated) == 1 and (stated[0] != RIGHT or not hidden):
        return Verdict("named", likely, shown, (), None)
    rival = suspects[best[stated[1]]] if len(stated) > 1 else hidden[0] if hidden else suspects[best[order[1]]]
    telling = _telling(suspects[best[stated[0]]], rival, taken, setups)
    return Verdict("named" if len(stated) == 1 else "apart", likely, shown, hidden, telling)


def _without_far_right(able: Real, logs: Real, suspects: Sequence[Hypothesis], fits: Sequence[Fit]) -> Real:
    """Which may be stated, once what is planned leads with a value beyond its tolerance.

    Then a fault of any size that says just that, and is the likeliest of the others, is heard in its place.
    """
    leads = int(np.argmax(np.where(able, logs, -np.inf)))
    if suspects[leads].code != RIGHT or _pull(suspects[leads], fits[leads]) <= FURTHEST_PULL:
        return able
    others = able & (np.arange(len(suspects)) != leads)
    next_one = suspects[int(np.argmax(np.where(others, logs, -np.inf)))]
    return others if others.any() and next_one.code in GRADUAL else able


RIGHT: FaultCode = "right"
# How many turns are on it: one question, whichever the answer.
TURNS = "turns"
COUNTED: frozenset[FaultCode] = frozenset({"turn_more", "turn_less", "other_turns"})
# Faults of any size, down to none: whether they hide is no question.
GRADUAL: tuple[FaultCode, ...] = ("capacitor_wrong", "value_off", "resistor_off", "cracked_core")
# Less of the weight than this is none.
NEGLIGIBLE = 1e-4
# Squares of the weighted distance from which on two are told apart: about three standard deviations. One sweep more
# is worth it from where it splits them by a factor of ten.
TELLS, SPLITS = 9.0, 2 * math.log(10)


def name_of(code: FaultCode) -> str:
    """What suspects are weighed as: those of one name together."""
    return TURNS if code in COUNTED else code


def _of_name(name: str, suspects: Sequence[Hypothesis], shares: Real, best: int) -> list[Hypothesis]:
    """Those that a stated name stands for: the counts of turns that have its weight together, or the likeliest."""
    if name != TURNS:
        return [suspects[best]]
    mine = sorted((k for k, s in enumerate(suspects) if name_of(s.code) == name), key=lambda k: -shares[k])
    weights = np.cumsum([shares[k] for k in mine])
    return [suspects[k] for k in mine[: int(np.searchsorted(weights, NAMED * weights[-1])) + 1]]


def _hidden(
    taken: Sequence[BenchSweep], suspects: Sequence[Hypothesis], among: Sequence[Hypothesis]
) -> tuple[Hypothesis, ...]:
    """Faults that these sweeps could not tell from what is planned: their curves lie within its tolerances."""
    planned = next((s for s in suspects if s.code == RIGHT), None)
    if planned is None:
        return ()
    others = [s for s in among if s is not planned and s.code not in GRADUAL]
    around = _Around.of(planned, taken)
    return tuple(s for s in others if around.distance(s, taken) < TELLS)


class _Around(NamedTuple):
    """What a suspect shows in some sweeps; the factored covariance of its tolerances and of the sweeps' doubt."""

    seen: Real
    factor: tuple[Real, bool]

    @classmethod
    def of(cls, suspect: Hypothesis, taken: Sequence[BenchSweep]) -> "_Around":
        still = _still(suspect)
        builds = np.concatenate([still, still + STEP * np.eye(still.size)])
        seen, slopes, blocks = [], [], []
        for t in taken:
            f, _ = t.thinned()
            gamma = seen_of(suspect, t.setup, f, builds)
            seen.append(both_parts(gamma[0]))
            slopes.append(both_parts(gamma[1:] - gamma[0]) / STEP)
            left_by = residual_columns(f, gamma[0], residual_of(t.residual_db))
            columns = np.concatenate([left_by, _shape_columns(suspect, t.setup, f, still)], axis=1)
            blocks.append(columns @ columns.T + np.eye(2 * f.size) * (t.noise**2 / 2))
        slope = np.concatenate(slopes, axis=1)
        return cls(np.concatenate(seen), cho_factor(block_diag(*blocks) + slope.T @ slope))

    def distance(self, other: Hypothesis, taken: Sequence[BenchSweep]) -> float:
        """Squares of the distance to another suspect as it is meant."""
        still = _still(other)
        there = [both_parts(seen_of(other, t.setup, t.thinned()[0], still)[0]) for t in taken]
        apart = self.seen - np.concatenate(there)
        return float(apart @ cho_solve(self.factor, apart))


def _telling(
    one: Hypothesis, other: Hypothesis, taken: Sequence[BenchSweep], setups: Sequence[Fixture]
) -> Fixture | None:
    """The set-up that, swept as well, would tell two suspects apart best beyond their tolerances."""
    have = {t.setup.key for t in taken}
    best, most = None, SPLITS
    for setup in setups:
        if setup.key in have:
            continue
        more = [*taken, replace(taken[0], setup=setup)]
        squares = _Around.of(one, more).distance(other, more)
        if squares > most:
            best, most = setup, squares
    return best


def widened(spreads: Sequence[Spread], name: str, times: float) -> tuple[Spread, ...]:
    """Spreads with one field's many times as wide."""
    return tuple(
        replace(s, relative=s.relative * times, absolute=s.absolute * times) if s.field == name else s
        for s in spreads
    )
