"""A design as it was built: what a sweep of it says of its parts, and what it cannot tell.

Every part may stray as its spread says and the antenna as its reading or its model leaves open; besides, one part
may have slipped in the making. Each of these is brought to rest on the sweep and weighed by its evidence; values
are told from all of them together.

Source:
    As `core.fitting`; mixtures of models as in MacKay, Information Theory, 2003, ch. 28.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np
from scipy.optimize import brentq
from scipy.stats import norm

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.design.build_guess import BuildGuess, Plane, ValueUnit, guesses_of, value_name
from yielding_coil.core.design.design import Design
from yielding_coil.core.design.slips import Slip, slips_of
from yielding_coil.core.element import DesignElement
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import Fit, both_parts, fit, residual_columns, turning
from yielding_coil.core.modelled_antenna import ModelledAntenna
from yielding_coil.core.sweep import Sweep, fitted_at
from yielding_coil.core.target import judged_at
from yielding_coil.core.tolerance import ANTENNA

State = Literal["as_planned", "nothing_shows", "slipped", "cannot_tell", "no_match"]

# One build in five has a slip somewhere (from memory); of the sweep's points so many are looked at.
SLIPPED, FITTED_POINTS = 0.2, 49
# From such odds a thing is taken as said; two values go together from such a correlation on, where the first is not
# known much better than before; and a value is untold that is known hardly better.
SURE, TOGETHER, OPEN, UNTOLD, WORTH_A_WORD = 0.9, 0.9, 0.6, 0.85, 0.02
# Nine of ten lie between; noise of a pass, root mean square of |δΓ|, where the sweep does not say.
NINE, NOISE = 0.9, 1.5e-3
# A part measured alone is known to this, one standard deviation, relative (common practice: 1 %, two of them).
ALONE = 0.005
# How far a part is changed in search of a better SWR, in how many steps, then finer; a gain of |Γ| over its limit
# that is worth a word.
REACH, TRIES, FINER, WORTH = 0.4, 25, 9, 0.1
DRAWS, SEED = 256, 20261129
# A slip no more than so many times likelier than before is not what the sweep speaks for.
UNMOVED = 1.5
# What is so unlikely is left out; a step of a deviate; nine of ten of a normal, in standard deviations; a reading
# worth its trouble, in natural units of information.
NEGLIGIBLE, STEP, NINE_SIGMA, WORTH_MEASURING = 1e-4, 1e-3, 1.645, 0.3


@dataclass(frozen=True, slots=True)
class BuiltValue:
    """One value of a part, or of what strays in the antenna.

    Args:
        element: key of the part, or "antenna"; field: of it, or "value": what an analyser reads of a coil or a
            capacitor in the middle of the first band.
        unit: of the figures; "sd" counts standard deviations of what was expected.
        planned, found: as meant, and as it is likeliest; low, high: between them nine times in ten.
        known: its doubt over the doubt before the sweep.
    """

    element: str
    field: str
    unit: ValueUnit
    planned: float
    found: float
    low: float
    high: float
    known: float


@dataclass(frozen=True, slots=True)
class SlipOdds:
    """How likely a slip is, of one; slip None: that there was none."""

    slip: Slip | None
    odds: float


@dataclass(frozen=True, slots=True)
class Change:
    """What to change: a part's value to another one.

    Args:
        worst_now, worst_then: SWR over the bands, as it likely is and with the change.
        holds_now, holds_then: share of what it may be that holds every band.
    """

    key: str
    value_from: float
    value_to: float
    worst_now: float
    worst_then: float
    holds_now: float
    holds_then: float


@dataclass(frozen=True, slots=True)
class AsBuilt:
    """What a sweep of a finished design says.

    Args:
        state: as planned; nothing shows, though some of `odds` would not show; slipped, by the first of `odds`;
            cannot tell which of `odds`; or like nothing expected.
        values: of the parts, then of the antenna.
        odds: of slips, the likeliest first.
        alike: a part that the curve says little of, with what changes it alike.
        measure: key of what to measure alone, which would tell most; None where nothing would.
        change: what buys most; None where nothing does, or nothing is known.
        chance: how often a build as expected fits so badly.
        other_plane: whether it looks as if taken at the other plane.
        holds: whether it reads within every band's limit; None where it was not swept over all of them.
        read, planned, fitted: Γ as swept, as designed, and as built; shape (n,).
        low, high: of |Γ| of builds as expected, nine in ten.
        revised: the design as it was built, likeliest.
    """

    state: State
    values: tuple[BuiltValue, ...]
    odds: tuple[SlipOdds, ...]
    alike: tuple[tuple[str, str], ...]
    measure: str | None
    change: Change | None
    chance: float
    other_plane: bool
    holds: bool | None
    frequency_hz: Real
    read: Complex
    planned: Complex
    fitted: Complex
    low: Real
    high: Real
    revised: Design

    @property
    def likely(self) -> tuple[SlipOdds, ...]:
        """Those of the odds that are worth a word."""
        return tuple(o for o in self.odds if o.odds > WORTH_A_WORD)

    @property
    def untold(self) -> tuple[str, ...]:
        """Parts of which the sweep says next to nothing: known hardly better than before it."""
        by_part: dict[str, float] = {}
        for v in self.values:
            if v.element != ANTENNA:
                by_part[v.element] = min(by_part.get(v.element, math.inf), v.known)
        return tuple(key for key, known in by_part.items() if known > UNTOLD)

    def odds_of(self, key: str, what: str, by: float) -> float:
        """How likely a slip is that somebody claims; zero for one that was not considered."""
        return sum(o.odds for o in self.odds if o.slip and (o.slip.key, o.slip.what, o.slip.by) == (key, what, by))


def as_built(
    design: Design, sweep: Sweep, plane: Plane = "box", *, residual: float | None = None, noise: float = NOISE
) -> AsBuilt:
    """What a sweep of a finished design says.

    Args:
        sweep: taken below its match, or at the radio's end of its line.
        residual: root mean square of |δΓ| that the calibration leaves; as the design's reading when None.
        noise: root mean square of |δΓ| from point to point, of it and of the antenna's own sweep.

    Raises:
        OutOfDomainError: too few points, R below zero, nothing made by hand, or no frequency that the antenna is
            known at.
    """
    f, gamma = _thinned(design, sweep)
    left_by = design.reading_spread / 2 if residual is None else residual
    slips = [slip for e in design.elements if e.by_hand for slip in slips_of(e, design.center_hz)]
    guesses = guesses_of(design, plane, f, slips, SLIPPED)
    held = _Held(guesses, plane, gamma, left_by, noise)
    strange = held.best_fit.strange
    elsewhere = False
    if strange and design.feedline is not None:
        other: Plane = "radio" if plane == "box" else "box"
        there = guesses_of(design, other, f, (), SLIPPED)[0]
        elsewhere = not _fitted(there, other, gamma, left_by, noise).strange
    values, holds = held.values(), _holds(design, sweep)
    odds = sorted(
        (SlipOdds(g.slip, float(w)) for g, w in zip(guesses, held.weights, strict=True)), key=lambda o: -o.odds
    )
    state: State = "no_match" if strange else _state_of(odds, len(slips))
    nothing = np.zeros((1, guesses[0].dimensions))
    fan = np.abs(_expected(guesses[0], plane, left_by))
    return AsBuilt(
        state=state,
        values=() if strange else tuple(values),
        odds=() if strange else tuple(odds),
        alike=() if strange else held.alike(),
        measure=None if strange else held.measure(odds[0].odds),
        # Beyond what was swept nothing is known to change by.
        change=None if strange or holds is None else held.change(),
        chance=held.best_fit.chance,
        other_plane=elsewhere,
        holds=holds,
        frequency_hz=f,
        read=gamma,
        planned=guesses[0].seen(plane, nothing)[0],
        fitted=held.best.seen(plane, held.best_fit.deviates[None])[0],
        low=np.quantile(fan, (1 - NINE) / 2, axis=0),
        high=np.quantile(fan, (1 + NINE) / 2, axis=0),
        revised=_revised(design, held.best, values),
    )


def _thinned(design: Design, sweep: Sweep) -> tuple[Real, Complex]:
    """The points that are looked at, where the antenna is known.

    Raises:
        OutOfDomainError: as `as_built`.
    """
    if not any(e.by_hand for e in design.elements) and not isinstance(design.antenna, ModelledAntenna):
        raise OutOfDomainError("design", "without a part made by hand", "one with a coil, a capacitor or a winding")
    f, gamma = sweep.frequency_hz, sweep.reflection()
    if not _known(design, f):
        inside = np.array([_known(design, f[i : i + 1]) for i in range(f.size)])
        f, gamma = f[inside], gamma[inside]
    return fitted_at(f, gamma, FITTED_POINTS, " where the antenna is known")


def _state_of(odds: Sequence[SlipOdds], slips: int) -> State:
    """By the odds, the likeliest first: sure from nine in ten; nothing shows where no slip has become likelier."""
    first = odds[0]
    if first.odds >= SURE:
        return "as_planned" if first.slip is None else "slipped"
    before = SLIPPED / max(slips, 1)
    unmoved = all(o.slip is None or o.odds <= UNMOVED * before for o in odds)
    return "nothing_shows" if first.slip is None and unmoved else "cannot_tell"


def _holds(design: Design, sweep: Sweep) -> bool | None:
    """As it was swept, by the limits of its bands."""
    f, size = sweep.frequency_hz, np.abs(sweep.reflection())
    if any(t.low_hz < f[0] or t.high_hz > f[-1] for t in design.targets):
        return None
    wanted, allowed = judged_at(design.targets)
    return bool((np.interp(wanted, f, size) <= allowed).all())


def _known(design: Design, frequency_hz: Real) -> bool:
    try:
        return bool(np.isfinite(design.antenna.impedance_at(frequency_hz)).all())
    except OutOfDomainError:
        return False


def _fitted(guess: BuildGuess, plane: Plane, gamma: Complex, residual: float, noise: float) -> Fit:
    columns = residual_columns(guess.frequency_hz, gamma, residual / math.sqrt(3), turning)
    # Both sweeps have noise; the antenna's comes through the match.
    each = noise**2 * (1 + guess.noise_gain(plane) ** 2) / 2
    lower = np.linalg.cholesky(columns @ columns.T + np.diag(np.concatenate([each, each])))
    whitening = np.linalg.inv(lower).T
    volume = 2 * float(np.log(np.diag(lower)).sum())

    def left(z: Real) -> Real:
        return both_parts(gamma - guess.seen(plane, z)) @ whitening

    return fit(left, [np.zeros(guess.dimensions)], log_volume=volume)


def _expected(guess: BuildGuess, plane: Plane, residual: float) -> Complex:
    """Builds as they are expected, as an analyser would read them."""
    rng = guess.design.rng()
    seen = guess.seen(plane, rng.standard_normal((DRAWS, guess.dimensions)))
    return seen + residual / math.sqrt(2) * rng.standard_normal((DRAWS, 2)).view(complex)


class _Straight(NamedTuple):
    """Told figures as straight functions of the deviates: their means, slopes (told, k) and covariance."""

    mean: Real
    slope: Real
    covariance: Real

    @classmethod
    def of(cls, guess: BuildGuess, found: Fit) -> "_Straight":
        unit = np.eye(found.deviates.size)
        at = guess.figures(np.concatenate([found.deviates[None], found.deviates + STEP * unit]))
        slope = (at[1:] - at[0]).T / STEP
        return cls(at[0], slope, slope @ found.covariance @ slope.T)

    @property
    def sigma(self) -> Real:
        return np.sqrt(np.maximum(np.diag(self.covariance), 0.0))

    @property
    def before(self) -> Real:
        """One standard deviation before the sweep."""
        return np.asarray(np.linalg.norm(self.slope, axis=1))


class _Held:
    """All guesses brought to rest on a sweep, and weighed."""

    def __init__(
        self, guesses: Sequence[BuildGuess], plane: Plane, gamma: Complex, residual: float, noise: float
    ) -> None:
        self._guesses = guesses
        self._fits = [_fitted(guess, plane, gamma, residual, noise) for guess in guesses]
        logs = np.array([f.evidence + math.log(g.prior) for f, g in zip(self._fits, guesses, strict=True)])
        self.weights: Real = np.exp(logs - logs.max()) / np.exp(logs - logs.max()).sum()
        at = int(logs.argmax())
        self.best, self.best_fit = guesses[at], self._fits[at]

    def values(self) -> list[BuiltValue]:
        """By all of them together, each weighing what it is likely."""
        kept = [i for i in range(len(self.weights)) if self.weights[i] > NEGLIGIBLE]
        lines = [_Straight.of(self._guesses[i], self._fits[i]) for i in kept]
        share = self.weights[kept] / self.weights[kept].sum()
        planned = self._guesses[0].meant
        found = []
        for k, told in enumerate(self._guesses[0].told):
            means, sigmas = np.array([line.mean[k] for line in lines]), np.array([line.sigma[k] for line in lines])
            low, high = (_quantile(share, means, sigmas, q) for q in ((1 - NINE) / 2, (1 + NINE) / 2))
            before = float(lines[0].before[k])
            known = (high - low) / (2 * NINE_SIGMA * before) if before > 0 else 1.0
            likeliest = float(means[share.argmax()])
            value = BuiltValue(*told, float(planned[k]), likeliest, low, high, known)
            found.append(value)
        return found

    def alike(self) -> tuple[tuple[str, str], ...]:
        """Pairs that the curve tells only together: the first would be known if the second were."""
        line, told = _Straight.of(self.best, self.best_fit), self.best.told
        found = []
        for i, one in enumerate(told):
            if one.element == ANTENNA or not line.sigma[i] > OPEN * line.before[i]:
                continue
            for name in dict.fromkeys(t.element for t in told if t.element != one.element):
                at = [k for k, t in enumerate(told) if t.element == name]
                across = line.covariance[i, at]
                inner = line.covariance[np.ix_(at, at)] + np.diag(1e-12 * line.before[at] ** 2)
                left = line.covariance[i, i] - across @ np.linalg.solve(inner, across)
                if left < (1 - TOGETHER**2) * line.covariance[i, i]:
                    found.append((one.element, name))
        return tuple(found)

    def measure(self, surest: float) -> str | None:
        """What, measured alone, would leave the parts best known; None where they are known already."""
        line, told = _Straight.of(self.best, self.best_fit), self.best.told
        parts = [i for i, t in enumerate(told) if t.element != ANTENNA and t.unit != "share"]
        parts = parts or [i for i, t in enumerate(told) if t.element != ANTENNA] or list(range(len(told)))
        of_parts = np.array([t.element != ANTENNA for t in told])
        scale = np.where(of_parts, np.maximum(np.abs(line.mean), 1e-30), 1.0)
        covariance = line.covariance / np.outer(scale, scale)
        if surest >= SURE and np.sqrt(np.diag(covariance)[parts]).max() < 2 * ALONE:
            return None
        # A hundredth of a percent stands for what nothing measures better.
        floor = 1e-8 * np.eye(len(parts))

        def volume(of: Real) -> float:
            return float(np.linalg.slogdet(of[np.ix_(parts, parts)] + floor)[1])

        candidates: Mapping[str, list[int]] = {
            t.element: [j for j, other in enumerate(told) if other.element == t.element] for t in told
        }
        best, most = None, WORTH_MEASURING
        for name, seen in candidates.items():
            # A second reading of the antenna is as good as the first; a part alone is read to half a percent.
            alone = line.before[seen] ** 2 if name == ANTENNA else np.full(len(seen), ALONE**2)
            inner = covariance[np.ix_(seen, seen)] + np.diag(alone + 1e-15)
            left = covariance - covariance[:, seen] @ np.linalg.solve(inner, covariance[seen])
            gained = (volume(covariance) - volume(left)) / 2
            if gained > most:
                best, most = name, gained
        return best

    def change(self) -> Change | None:
        """The part whose other value likely gives the least worst SWR, where that is worth it."""
        rng = np.random.default_rng(SEED)
        frequency, allowed = judged_at(self.best.design.targets)
        which = rng.choice(len(self.weights), size=DRAWS, p=self.weights)
        drawn = []
        for i in np.unique(which):
            at, some = self._fits[i], int((which == i).sum())
            root = np.linalg.cholesky(at.covariance + 1e-12 * np.eye(at.deviates.size))
            drawn.append((self._guesses[i], at.deviates + rng.standard_normal((some, at.deviates.size)) @ root.T))
        rest = self.best_fit.deviates[None]

        def likely(key: str | None, times: float) -> float:
            return float(_excess(self.best.times(key, times), rest, frequency, allowed)[0])

        def holding(key: str | None, times: float) -> float:
            found = [_excess(guess.times(key, times), z, frequency, allowed) for guess, z in drawn]
            return float((np.concatenate(found) <= 1).mean())

        now = likely(None, 1.0)
        tried = [
            (e.key, *self._turned(e.key, likely))
            for e in self.best.design.elements
            if e.by_hand and e.trimmed_in_place and value_name(e)
        ]
        least = min((then for _, _, then in tried), default=math.inf)
        if not least < now - WORTH:
            return None
        figures = {t.element: float(v) for t, v in zip(self.best.told, self.best.figures(rest)[0], strict=True)}
        planned = {t.element: float(v) for t, v in zip(self._guesses[0].told, self._guesses[0].meant, strict=True)}
        # Of two that do alike the one that came out otherwise.
        alike = [each for each in tried if each[2] < least + WORTH]
        key, times, then = max(alike, key=lambda each: abs(math.log(figures[each[0]] / planned[each[0]])))
        limit = self.best.design.targets[0].swr_limit
        swr = _as_swr(now, limit), _as_swr(then, limit)
        return Change(key, figures[key], figures[key] * times, *swr, holding(None, 1.0), holding(key, times))

    @staticmethod
    def _turned(key: str, likely: Callable[[str, float], float]) -> tuple[float, float]:
        """How many times its value a part should have, and what that gives."""
        tries = np.geomspace(1 / (1 + REACH), 1 + REACH, TRIES)
        near = int(np.argmin([likely(key, float(t)) for t in tries]))
        tries = np.geomspace(tries[max(near - 1, 0)], tries[min(near + 1, TRIES - 1)], FINER)
        worst = [likely(key, float(t)) for t in tries]
        return float(tries[int(np.argmin(worst))]), min(worst)


def _quantile(share: Real, means: Real, sigmas: Real, q: float) -> float:
    """Of a mixture of normals."""
    wide = np.maximum(sigmas, 1e-12 * np.maximum(np.abs(means), 1e-30))
    low, high = float((means - 8 * wide).min()), float((means + 8 * wide).max())
    return float(brentq(lambda x: float(share @ norm.cdf((x - means) / wide)) - q, low, high, xtol=1e-18))


def _excess(guess: BuildGuess, z: Real, frequency_hz: Real, allowed: Real) -> Real:
    """The worst |Γ| over what is allowed, shape (builds,)."""
    gamma = np.abs(guess.seen("box", z, frequency_hz))
    return np.asarray((gamma / allowed).max(axis=1))


def _as_swr(excess: float, limit: float) -> float:
    size = min(excess * (limit - 1) / (limit + 1), 0.9999)
    return (1 + size) / (1 - size)


def _revised(design: Design, guess: BuildGuess, values: Sequence[BuiltValue]) -> Design:
    """The design with its values as they were built, and as well known as they now are."""
    known = {v.element: v for v in values if v.field == "value"}
    slipped = {e.key: e for e in guess.design.elements}

    def found(planned: DesignElement) -> DesignElement:
        element = slipped.get(planned.key, planned)
        value, name = known.get(element.key), value_name(element)
        if value is None or name is None:
            return element
        spread = 2 * (value.high - value.low) / (2 * NINE_SIGMA) / value.found
        changes = {name: value.found, "spread": spread}
        if hasattr(element, "end_spread_f"):
            changes["end_spread_f"] = 0.0
        return replace(element, **changes)  # type: ignore[type-var]

    return replace(design, elements=tuple(found(e) for e in design.elements))
