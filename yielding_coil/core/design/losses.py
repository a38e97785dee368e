"""Too good to be true: how many of 100 W must stay behind, where, and whether a sweep asks for more than is known.

The antenna as it may hang and what lies below it are fitted alone, then with one thing more that takes power; each
is weighed by its evidence. A thing is accused only where hardly anything honest is left and what it takes has a
sure bound.

Source:
    As `core.fitting`; mixtures of models as in MacKay, Information Theory, 2003, ch. 28.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.design.loss_cause import (
    OFF,
    Cause,
    CauseKey,
    Known,
    causes_of,
    dimensions_of,
    places_of,
    reflections,
)
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import CHANCE, Fit, both_parts, fit, residual_columns, turning
from yielding_coil.core.line import Line, hides_antenna
from yielding_coil.core.modelled_antenna import watts_astray
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep, fitted_at
from yielding_coil.core.wire import Hung

LossState = Literal["nothing_wrong", "known_loss", "loss", "shield", "cannot_tell", "no_match"]
Why = Literal["hidden_by_line", "alike"]
Measure = Literal[
    "at_the_feed", "line_open", "resistor_in_place", "hand_on_coax", "joint_by_ohmmeter", "more_radials"
]

# Before a sweep: seven of ten installations are what they are said to be (from memory); the others share the rest.
HONEST = 0.7
# Nothing looks wrong from these odds on; a thing is accused where nothing wrong is less likely than this.
SURE, ACCUSED = 0.85, 0.01
# Those within so many times the likeliest are named together, three at most.
WITHIN, MOST_NAMED = 30.0, 3
# Watts of 100 that are worth a word; from so many on what is known already is too good to be true.
WORTH_W, MUCH_W = 5.0, 33.0
# What takes less of 100 W is no place to look at; so many places are told.
LEAST_W, MOST_PLACES = 0.5, 5
# No watts of 100 are told finer: what segments, thin wires and tables of copper leave (of ours: half of that).
FLOOR_W, NOTHING_W = 1.0, 0.05
# Of a kept sweep: noise from point to point, and what the model errs by in Γ and along the frequencies.
NOISE, MODEL, STRETCH, BENT = 1.5e-3, 0.004, 1.5e-3, 0.7
# Two sweeps of the same: what wind and leads leave between them, root mean square of |δΓ|.
REPEATED = 0.006
POINTS = 41
DRAWS, SEED, NEGLIGIBLE = 128, 20261129, 1e-4
OUTSIDE = (0.05, 0.95)
HOPELESS, AWAY = 10.0, 1.5
# A measurement is worth it where so much of the odds hangs on it, as share times rest.
WORTH_SETTLING = 0.02

# What each measurement tells apart: it settles whether it is one of these.
SETTLES: Mapping[Measure, tuple[CauseKey, ...]] = {
    "line_open": ("line",),
    "resistor_in_place": ("line", "transformer", "tuner"),
    "joint_by_ohmmeter": ("joint", "resistor"),
    "more_radials": ("radials",),
    "at_the_feed": ("line", "tuner", "transformer", "resistor"),
    "hand_on_coax": (),
}


@dataclass(frozen=True, slots=True)
class LossOdds:
    """How likely a cause is, of one, and how well it fits."""

    key: CauseKey
    odds: float


@dataclass(frozen=True, slots=True)
class LossPlace:
    """Where watts stay: of 100 that go in, likely, and between what nine of ten lie."""

    key: str
    likely_w: float
    low_w: float
    high_w: float


@dataclass(frozen=True, slots=True)
class LossVerdict:
    """What a sweep says of loss.

    Args:
        state: nothing looks wrong; nothing but what is known, which is much; loss by one of `named`; current on the
            shield, by two sweeps; cannot tell, because of `why`; or like nothing expected.
        named: causes that may be meant, the likeliest first; three at most.
        odds: of all that were tried; empty where nothing fits.
        places: where watts stay that are worth a look, the most first; empty where nothing fits.
        radiated: of 100 W that go in where it is swept.
        stays: in parts, lines, wires and radials; soil that reflects poorly is not among it.
        settle: the measurement that would tell most; None where nothing is open.
        ceiling_swr: the highest SWR that its line lets be read; None without a line.
        read, fitted: Γ as swept and by the likeliest.
        low, high: of |Γ| of such installations with nothing wrong, nine in ten.
    """

    state: LossState
    why: Why | None
    named: tuple[CauseKey, ...]
    odds: tuple[LossOdds, ...]
    places: tuple[LossPlace, ...]
    radiated: LossPlace | None
    stays: LossPlace | None
    settle: Measure | None
    chance: float
    ceiling_swr: float | None
    at_hz: float
    frequency_hz: Real
    read: Complex
    fitted: Complex
    low: Real
    high: Real


def loss_verdict(
    known: Known, sweep: Sweep, residual: float, *, again: Sweep | None = None, noise: float = NOISE
) -> LossVerdict:
    """Whether a sweep asks for loss beyond what is known, and how many watts stay behind.

    Args:
        sweep: taken below all of `known.below`.
        residual: root mean square of |δΓ| that the calibration leaves.
        again: the same with a hand on the coax, or with another length of it.
        noise: root mean square of |δΓ| from point to point.

    Raises:
        OutOfDomainError: too few points where the antenna is modelled; R below zero.
    """
    f, gamma = _thinned(known, sweep)
    fixed = _columns(known, f, gamma, residual)
    lower = np.linalg.cholesky(fixed @ fixed.T + np.eye(2 * f.size) * (noise**2 / 2))
    whitening, volume = np.linalg.inv(lower).T, 2 * float(np.log(np.diag(lower)).sum())
    causes, k = causes_of(known), dimensions_of(known)

    def fitted(cause: Cause, starting: Sequence[Real]) -> Fit:
        def left(z: Real) -> Real:
            return both_parts(gamma - reflections(known, cause, z, f)) @ whitening

        owns = ((0.0,) * cause.dimensions, *cause.starts)
        starts = [np.concatenate([at, own]) for at in starting for own in owns]
        return fit(left, starts, log_volume=volume, bar=HOPELESS * 2 * f.size)

    honest = fitted(causes[0], _away(known, k))
    others = [fitted(cause, [honest.deviates]) for cause in causes[1:]]
    # Nothing is blamed because the way to what is honest was missed.
    closest = min(others, key=lambda found: found.cost)
    fits = [min((honest, fitted(causes[0], [closest.deviates[:k]])), key=lambda found: found.cost), *others]
    shared = sum(c.prior for c in causes if c.key != "none")
    priors = [HONEST if c.key == "none" else (1 - HONEST) * c.prior / shared for c in causes]
    logs = np.array([found.evidence + math.log(p) for found, p in zip(fits, priors, strict=True)])
    weights = np.exp(logs - logs.max())
    weights = weights / weights.sum()
    best = int(weights.argmax())
    odds = _odds(causes, weights)
    moved = again is not None and _moved(known, sweep, again, noise)
    ceiling = [float(line.highest_swr(np.array([known.at_hz]), 50.0)[0]) for line in _lines(known)]
    fan = np.abs(reflections(known, causes[0], _drawn(np.zeros(k), np.eye(k)), f))
    strange = fits[best].chance < CHANCE
    places = {} if strange else _places(known, causes, fits, weights)
    state, why, named = _judged(known, odds, places, strange=strange, moved=moved)
    radiated, stays = places.pop("radiated", None), places.pop("stays", None)
    return LossVerdict(
        state=state,
        why=why,
        named=named,
        odds=() if strange else odds,
        places=_worth_a_look(places.values()),
        radiated=radiated,
        stays=stays,
        settle=_settle(known, odds, state),
        chance=fits[best].chance,
        ceiling_swr=min(ceiling, default=None),
        at_hz=known.at_hz,
        frequency_hz=f,
        read=gamma,
        fitted=reflections(known, causes[best], fits[best].deviates[None], f)[0],
        low=np.quantile(fan, OUTSIDE[0], axis=0),
        high=np.quantile(fan, OUTSIDE[1], axis=0),
    )


def _thinned(known: Known, sweep: Sweep) -> tuple[Real, Complex]:
    inside = (sweep.frequency_hz >= known.antenna.low_hz) & (sweep.frequency_hz <= known.antenna.high_hz)
    f, gamma = sweep.frequency_hz[inside], sweep.reflection()[inside]
    return fitted_at(f, gamma, POINTS, " where the antenna is modelled")


def _away(known: Known, k: int) -> list[Real]:
    """As it is planned, and with its dip to either side: a narrow dip beside a sweep's shows no way to go."""
    stretches = [abs(effect.stretch) for effect in known.antenna.effects]
    most = int(np.argmax(stretches)) if stretches else 0
    return [sign * AWAY * np.eye(k)[most] if k else np.zeros(0) for sign in (0.0, -1.0, 1.0)]


def _columns(known: Known, f: Real, gamma: Complex, residual: float) -> Real:
    """What is off besides, as it shows: by the calibration; by the model, in Γ and along the frequencies."""
    nothing = Cause("none", 1.0, 0, lambda below, z: list(below))
    z = np.zeros((1, dimensions_of(known)))
    still = reflections(known, nothing, z, f)[0]
    gain = (reflections(known, nothing, z, f, OFF)[0] - still) / OFF
    at_antenna = reflection_of(np.asarray(known.antenna.impedance_at(f)))
    along = np.gradient(at_antenna, np.log(f)) * gain * STRETCH
    # Where one standard deviation bends it, what strays is known by a sum only roughly.
    bent = np.stack([BENT * effect.bend(np.log(f)) * gain for effect in known.antenna.effects])
    half = f.size
    model = residual_columns(f, at_antenna, MODEL / math.sqrt(3), turning)
    model_c = gain[:, None] * (model[:half] + 1j * model[half:])
    rows = [residual_columns(f, gamma, residual / math.sqrt(3), turning)]
    rows += [both_parts(np.concatenate([model_c.T, along[None], bent])).T]
    return np.concatenate(rows, axis=1)


def _odds(causes: Sequence[Cause], weights: Real) -> tuple[LossOdds, ...]:
    """Of each key, the likeliest first."""
    by_key: dict[CauseKey, float] = {}
    for cause, weight in zip(causes, weights, strict=True):
        by_key[cause.key] = by_key.get(cause.key, 0.0) + float(weight)
    return tuple(sorted((LossOdds(key, odds) for key, odds in by_key.items()), key=lambda o: -o.odds))


def _drawn(mean: Real, root: Real) -> Real:
    rng = np.random.default_rng(SEED)
    return np.asarray(mean + rng.standard_normal((DRAWS, mean.size)) @ root.T)


def _places(known: Known, causes: Sequence[Cause], fits: Sequence[Fit], weights: Real) -> dict[str, LossPlace]:
    """By all causes together, each weighing what it is likely."""
    watts, effects, unseen = _watts(known.antenna.hung, known.at_hz, tuple(e.name for e in known.antenna.effects))
    # What lies far away moves watts and no sweep.
    rng = np.random.default_rng([SEED, 1])
    away = np.concatenate([np.zeros((1, 4)), rng.standard_normal((DRAWS, len(unseen))) @ unseen])
    drawn: list[tuple[float, dict[str, Real]]] = []
    for cause, found, weight in zip(causes, fits, weights, strict=True):
        if weight > NEGLIGIBLE:
            root = np.asarray(np.linalg.cholesky(found.covariance + 1e-12 * np.eye(found.deviates.size)))
            z = np.concatenate([found.deviates[None], _drawn(found.deviates, root)])
            each = places_of(known, cause, z, watts + away, effects)
            each["stays"] = 100 - each["radiated"] - each["soil"]
            drawn.append((float(weight), each))
    share = np.concatenate([np.full(DRAWS, weight / DRAWS) for weight, _ in drawn])
    _, likeliest = max(drawn, key=lambda each: each[0])
    found_places = {}
    for key in {key for _, each in drawn for key in each}:
        values = np.concatenate([each.get(key, np.zeros(DRAWS + 1))[1:] for _, each in drawn])
        low, high = _quantiles(values, share)
        likely = float(likeliest[key][0]) if key in likeliest else 0.0
        floor = FLOOR_W if max(high, likely) > NOTHING_W else 0.0
        low, high = max(min(low, likely) - floor, 0.0), min(max(high, likely) + floor, 100.0)
        found_places[key] = LossPlace(key, likely, low, high)
    return found_places


@lru_cache(maxsize=32)
def _watts(hung: Hung, frequency_hz: float, names: tuple[str, ...]) -> tuple[Real, Real, Real]:
    """Shares as planned; what a deviate of each name does to them, and of what no sweep shows; (n, 4) each."""
    astray = dict(watts_astray(hung, frequency_hz))
    effects = np.array([astray.get(name, np.zeros(4)) for name in names]).reshape(-1, 4)
    unseen = np.array([effect for name, effect in astray.items() if name not in names]).reshape(-1, 4)
    return hung.watts_at(frequency_hz, 1.0), effects, unseen


def _worth_a_look(places: Iterable[LossPlace]) -> tuple[LossPlace, ...]:
    """The most first, as many as a picture holds."""
    found = (p for p in places if p.likely_w >= LEAST_W or p.high_w >= WORTH_W)
    return tuple(sorted(found, key=lambda p: -p.likely_w)[:MOST_PLACES])


def _quantiles(values: Real, share: Real) -> tuple[float, float]:
    order = values.argsort()
    reached = share[order].cumsum() / share.sum()
    low, high = (float(values[order][min(int(np.searchsorted(reached, q)), values.size - 1)]) for q in OUTSIDE)
    return low, high


def _moved(known: Known, sweep: Sweep, again: Sweep, noise: float) -> bool:
    """Whether two sweeps of the same differ by more than noise and wind: a wire that should not matter does."""
    f, gamma = _thinned(known, sweep)
    if not (again.frequency_hz[0] <= f[0] * (1 + 1e-9) and again.frequency_hz[-1] >= f[-1] * (1 - 1e-9)):
        raise OutOfDomainError("again", "a sweep of other frequencies", "one over those of the first")
    own = again.reflection()
    other = np.interp(f, again.frequency_hz, own.real) + 1j * np.interp(f, again.frequency_hz, own.imag)
    off = math.sqrt(float(np.mean(np.abs(other - gamma) ** 2)))
    return off > 3 * math.hypot(REPEATED, noise)


def _judged(
    known: Known, odds: Sequence[LossOdds], places: Mapping[str, LossPlace], *, strange: bool, moved: bool
) -> tuple[LossState, Why | None, tuple[CauseKey, ...]]:
    """The state, why it cannot be told, and what is named."""
    if moved:
        return "shield", None, ()
    if strange:
        return "no_match", None, ()
    of = {o.key: o.odds for o in odds}
    named = tuple(o.key for o in odds if o.odds * WITHIN >= odds[0].odds)[:MOST_NAMED]
    guilty = tuple(key for key in named if key != "none")
    least = places["stays"].low_w
    if of["none"] < ACCUSED and least >= WORTH_W:
        return "loss", None, guilty
    if odds[0].key == "none" and least >= MUCH_W:
        return "known_loss", None, ()
    # What takes next to nothing at the most is nothing wrong.
    most = sum(places[key].high_w for key in guilty if key in places)
    if odds[0].key == "none" and (of["none"] >= SURE or most < WORTH_W):
        return "nothing_wrong", None, ()
    hidden = any(hides_antenna(float(line.matched_loss_db(known.at_hz))) for line in _lines(known))
    return "cannot_tell", "hidden_by_line" if hidden else "alike", named


def _lines(known: Known) -> list[Line]:
    return [e.part for e in known.lines if isinstance(e.part, Line)]


def _settle(known: Known, odds: Sequence[LossOdds], state: LossState) -> Measure | None:
    """The measurement that splits what is open most evenly."""
    if state in ("nothing_wrong", "known_loss", "shield"):
        return None
    if state == "no_match":
        return "hand_on_coax"
    can: list[Measure] = ["joint_by_ohmmeter", "more_radials"]
    if known.lines:
        can += ["line_open"]
    if known.below:
        can += ["resistor_in_place", "at_the_feed"]
    keys = {o.key for o in odds}

    def told(measure: Measure) -> float:
        share = sum(o.odds for o in odds if o.key in SETTLES[measure])
        return share * (1 - share)

    can = [m for m in can if keys & set(SETTLES[m])]
    best = max(can, key=told, default=None)
    return best if best is not None and told(best) > WORTH_SETTLING else None
