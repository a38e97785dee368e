"""What was read in one test, and how well each suspect agrees with it."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple, TypeAlias

import numpy as np
from scipy.linalg import solve_triangular

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis.acts import Act, sees
from yielding_coil.core.diagnosis.as_built import reading_on
from yielding_coil.core.diagnosis.suspects import FAIRLY, NUISANCES, WELL, Knowledge, Model, Suspect, View
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import both_parts, residual_columns
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.wire import Ints

BandAnswer = Literal["fine", "moved_down", "moved_up", "gone"]
# Residual of a calibration, noise of a point, what models leave of Γ: of what is known well, fairly, roughly.
RESIDUAL, NOISE, MODEL = 0.02, 0.006, (0.012, 0.03, 0.05)
# A sweep has no more independent numbers than so many, whatever its points; how well the scale of errors is known.
MOST_NUMBERS, KNOWN_SCALE = 24, 8.0
# What fits better than this share of what errors allow is none the likelier, likewise.
NO_BETTER = (0.25, 0.4, 0.5)
# |Γ| that a meter of SWR leaves open (common practice); an ohmmeter on wet copper, in decades.
DIAL_SPREAD, OHM_DECADES = 0.07, 0.25
LEAST_OHM, MOST_OHM = 0.3, 2e4
# A band is as before where |Γ| rose less; its dip moved where one as deep lies so far off.
ROSE, DIP, MOVED = 0.12, 0.6, 0.004
# How often people say what a meter shows.
SAID_RIGHT = 0.85
# A suspect that lies so many times further off than errors allow is less likely than something nobody expects.
ANYTHING = 14.0
SOMETHING_ELSE = ("", "something_else")
# A reading less likely than so much by any suspect is read wrongly or of something else: at worst, in nats.
FLOOR = -30.0


@dataclass(frozen=True)
class SweepRead:
    """A sweep, at the plane of its act."""

    sweep: Sweep


@dataclass(frozen=True, slots=True)
class DialRead:
    """SWR by a meter, at some frequencies."""

    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class OhmRead:
    """An ohmmeter's reading; endless where there is no path."""

    ohm: float


@dataclass(frozen=True, slots=True)
class LookRead:
    """What was seen: one of the act's answers."""

    answer: str


@dataclass(frozen=True, slots=True)
class BandsRead:
    """What became of each band, by its label, as somebody tells."""

    bands: Mapping[str, BandAnswer]


AnyReading: TypeAlias = SweepRead | DialRead | OhmRead | LookRead | BandsRead


class Rows(NamedTuple):
    """What a view shows of every row of a suspect: Γ at 50 Ω (rows, n), and its changes (rows, numbers, n)."""

    gamma: Complex
    change: Complex


class Predictions:
    """What every view shows of every suspect, computed as it is asked for."""

    def __init__(self, model: Model) -> None:
        self.model = model
        self._rows: dict[tuple[View, int], Rows] = {}

    def rows(self, suspect: Suspect, view: View) -> Rows:
        """Of one suspect; of one that a view cannot show, what is sound."""
        model = self.model
        shown = suspect if model.in_view(suspect, view) else model.healthy
        key = view, id(shown)
        if key not in self._rows:
            self._rows[key] = around(model, shown, shown.thetas, np.zeros((len(shown.thetas), NUISANCES)), view)
        return self._rows[key]


def around(model: Model, suspect: Suspect, theta: Real, u: Real, view: View) -> Rows:
    """Γ at rows of numbers, and by how much a standard deviation of each number changes it."""
    own = len(suspect.steps)
    rows, k = len(theta), NUISANCES + own
    every_theta = np.repeat(theta[np.newaxis], k + 1, axis=0)
    every_u = np.repeat(u[np.newaxis], k + 1, axis=0)
    small = 0.2
    for i in range(NUISANCES):
        every_u[1 + i, :, i] += small
    for i in range(own):
        every_theta[NUISANCES + 1 + i, :, i] += small * suspect.steps[i]
    flat = model.impedance(suspect, every_theta.reshape((k + 1) * rows, -1), every_u.reshape(-1, NUISANCES), view)
    gamma = reflection_of(flat).reshape(k + 1, rows, -1)
    return Rows(gamma[0], np.moveaxis((gamma[1:] - gamma[0]) / small, 0, 1))


class _Whitened(NamedTuple):
    """A factor that makes errors of a reading independent, scaled to as many numbers as there are."""

    factor: Real
    numbers: float
    no_better: float = NO_BETTER[0]


def _whitener(f: Real, gamma: Complex, model_error: float, no_better: float) -> _Whitened:
    columns = residual_columns(f, gamma, math.hypot(RESIDUAL, model_error))
    covariance = columns @ columns.T + (NOISE**2 + (model_error / 3) ** 2) * np.eye(2 * f.size)
    factor = np.linalg.cholesky(covariance)
    numbers = min(MOST_NUMBERS, 2.0 * f.size)
    return _Whitened(np.asarray(factor / math.sqrt(numbers / (2 * f.size))), numbers, no_better)


def _white(white: _Whitened, values: Complex) -> Real:
    """Values (…, n) as independent numbers (…, 2n)."""
    flat = both_parts(values)
    shape = flat.shape
    return np.asarray(solve_triangular(white.factor, flat.reshape(-1, shape[-1]).T, lower=True).T.reshape(shape))


class Weighed(NamedTuple):
    """How a suspect's rows agree with a reading.

    Args:
        log: natural log of the likelihood of each row, shape (rows,).
        squares: the weighted squares of each, where it was a sweep; their mean is `numbers`.
        moved: what of its own numbers lies between rows, (rows, numbers), where it was a sweep.
    """

    log: Real
    squares: Real | None = None
    moved: Real | None = None
    covariance: Real | None = None


def _tail(squares: Real, white: _Whitened) -> Real:
    """Log likelihood of weighted squares where the scale of errors is known a little only.

    Source:
        A multivariate t: normal errors whose common scale is drawn (Gelman et al., Bayesian Data Analysis, §17.2).
    """
    fits = np.maximum(squares, white.no_better * white.numbers)
    return np.asarray(-0.5 * (KNOWN_SCALE + white.numbers) * np.log1p(fits / KNOWN_SCALE))


def weigh_sweep(
    predictions: Predictions, suspects: tuple[Suspect, ...], view: View, sweep: Sweep
) -> dict[tuple[str, str], Weighed]:
    """Every suspect against a sweep.

    Raises:
        OutOfDomainError: a sweep that reaches none of the frequencies.
    """
    model = predictions.model
    f = model.f
    on, read = reading_on(f, sweep)
    if on.size < 4:
        raise OutOfDomainError(
            "sweep",
            f"{sweep.low_hz / 1e6:.4g} to {sweep.high_hz / 1e6:.4g} MHz",
            f"one that reaches a band, between {f[0] / 1e6:.4g} and {f[-1] / 1e6:.4g} MHz",
        )
    errors = [*MODEL]
    if model.built.measured is None:
        errors[WELL] = MODEL[FAIRLY]
    whites = [_whitener(f[on], read, error, least) for error, least in zip(errors, NO_BETTER, strict=True)]
    reads = [_white(white, read) for white in whites]
    found: dict[tuple[str, str], Weighed] = {}
    shared: dict[int, Weighed] = {}
    for suspect in suspects:
        rows = predictions.rows(suspect, view)
        key = id(rows.gamma)
        if key not in shared:
            known = suspect.known if model.in_view(suspect, view) else WELL
            shared[key] = _weighed(rows, on, whites[known], reads[known])
        weighed = shared[key]
        if len(weighed.log) != len(suspect.thetas):
            squares = weighed.squares
            assert squares is not None
            one = np.full(len(suspect.thetas), weighed.log[0])
            weighed = Weighed(one, np.full(len(one), squares[0]))
        found[suspect.name] = weighed
    found[SOMETHING_ELSE] = _anything(whites[0])
    # What is tuned by so many knobs is looked for around its best rows.
    best = max(float(w.log.max()) for w in found.values())
    for suspect in suspects:
        if suspect.slot is not None and len(suspect.steps) and model.in_view(suspect, view):
            found[suspect.name] = _refined(model, suspect, view, found[suspect.name], on, whites[0], reads[0], best)
    return found


def _anything(white: _Whitened) -> Weighed:
    """What nothing expects: it reads as if one of the suspects lay so many times further off than errors allow."""
    squares = np.array([ANYTHING * white.numbers])
    return Weighed(_tail(squares, white), squares)


def _weighed(rows: Rows, on: Ints, white: _Whitened, read: Real) -> Weighed:
    left = read - _white(white, rows.gamma[:, on])
    slope = _white(white, rows.change[:, :, on])
    squares, moved, covariance, volume = _marginal(left, slope)
    return Weighed(
        _tail(squares, white) - 0.5 * volume, squares, moved[:, NUISANCES:], covariance[:, NUISANCES:, NUISANCES:]
    )


def _marginal(left: Real, slope: Real) -> tuple[Real, Real, Real, Real]:
    """Weighted squares with standard normal numbers taken out, where those lie, and the volume they leave."""
    k = slope.shape[1]
    curve = slope @ np.swapaxes(slope, 1, 2) + np.eye(k)
    pull = np.einsum("rkn,rn->rk", slope, left)
    at = np.linalg.solve(curve, pull[..., np.newaxis])[..., 0]
    squares = np.einsum("rn,rn->r", left, left) - np.einsum("rk,rk->r", pull, at)
    _sign, volume = np.linalg.slogdet(curve)
    return np.maximum(squares, 0.0), at, np.asarray(np.linalg.inv(curve)), np.asarray(volume)


# So many of its best rows are brought to rest, in so many steps; of what has several knobs more.
REFINED, STEPS, WITHIN = 3, 4, 40.0
MANY_REFINED, MANY_STEPS = 12, 10


def _refined(
    model: Model,
    suspect: Suspect,
    view: View,
    weighed: Weighed,
    on: Ints,
    white: _Whitened,
    read: Real,
    best: float,
) -> Weighed:
    """The best rows once more, each brought to rest between its neighbours."""
    own = len(suspect.steps)
    many = suspect.code == "left_in"
    rows = np.argsort(weighed.log)[::-1][: MANY_REFINED if many else REFINED]
    rows = rows[weighed.log[rows] > best - (10 if many else 1) * WITHIN]
    if not rows.size:
        return weighed
    z = np.zeros((rows.size, NUISANCES + own))
    log, moved, covariance = weighed.log.copy(), weighed.moved, weighed.covariance
    squares = weighed.squares
    assert moved is not None
    assert covariance is not None
    assert squares is not None
    moved, covariance, squares = moved.copy(), covariance.copy(), squares.copy()
    for _ in range(MANY_STEPS if many else STEPS):
        theta = suspect.thetas[rows] + z[:, NUISANCES:] * suspect.steps
        at = around(model, suspect, theta, z[:, :NUISANCES], view)
        left = read - _white(white, at.gamma[:, on])
        slope = _white(white, at.change[:, :, on])
        cost = np.einsum("rn,rn->r", left, left) + (z**2).sum(axis=1)
        curve = slope @ np.swapaxes(slope, 1, 2) + np.eye(NUISANCES + own)
        volume = np.linalg.slogdet(curve)[1]
        now = _tail(cost, white) - 0.5 * volume
        better = now > log[rows]
        log[rows] = np.where(better, now, log[rows])
        squares[rows] = np.where(better, cost, squares[rows])
        moved[rows] = np.where(better[:, np.newaxis], z[:, NUISANCES:], moved[rows])
        covariance[rows] = np.linalg.inv(curve)[:, NUISANCES:, NUISANCES:]
        pull = np.einsum("rkn,rn->rk", slope, left) - z
        z = z + np.clip(np.linalg.solve(curve, pull[..., np.newaxis])[..., 0], -2, 2)
    return Weighed(log, squares, moved, covariance)


def weigh_ohm(
    model: Model, suspects: tuple[Suspect, ...], view: View, ohm: float
) -> dict[tuple[str, str], Weighed]:
    """Every suspect against an ohmmeter."""

    def decades(value: Real | float) -> Real:
        return np.log10(np.clip(value, LEAST_OHM, MOST_OHM))

    found: dict[tuple[str, str], Weighed] = {}
    for suspect in suspects:
        off = (decades(ohm) - decades(model.direct_ohm(suspect, view))) / OHM_DECADES
        found[suspect.name] = Weighed(np.maximum(-0.5 * off**2, -7.0))
    # Anywhere within five decades.
    found[SOMETHING_ELSE] = Weighed(np.array([math.log(OHM_DECADES * math.sqrt(2 * math.pi) / 5)]))
    return found


def weigh_look(
    model: Model, suspects: tuple[Suspect, ...], act: Act, answer: str
) -> dict[tuple[str, str], Weighed]:
    """Every suspect against what was seen.

    Raises:
        OutOfDomainError: an answer that the act has not.
    """
    if answer not in act.answers:
        raise OutOfDomainError("answer", answer, f"one of {', '.join(act.answers)}")
    found: dict[tuple[str, str], Weighed] = {
        s.name: Weighed(np.full(len(s.thetas), math.log(sees(model.one, act, s.key, s.code)[answer])))
        for s in suspects
    }
    found[SOMETHING_ELSE] = Weighed(np.array([-math.log(len(act.answers))]))
    return found


def weigh_dial(
    predictions: Predictions, suspects: tuple[Suspect, ...], view: View, points: tuple[tuple[float, float], ...]
) -> dict[tuple[str, str], Weighed]:
    """Every suspect against SWR at some frequencies.

    Raises:
        OutOfDomainError: an SWR below 1, or a frequency outside what is computed.
    """
    f = predictions.model.f
    at, size = [], []
    for hz, swr in points:
        if not 1 <= swr < math.inf:
            raise OutOfDomainError("swr", swr, "1 or more")
        if not f[0] <= hz <= f[-1]:
            raise OutOfDomainError(
                "frequency_hz", f"{hz / 1e6:.4g} MHz", f"{f[0] / 1e6:.4g} to {f[-1] / 1e6:.4g} MHz"
            )
        at.append(int(np.argmin(np.abs(f - hz))))
        size.append((swr - 1) / (swr + 1))
    read = np.array(size)
    found: dict[tuple[str, str], Weighed] = {}
    for suspect in suspects:
        rows = predictions.rows(suspect, view)
        gamma = rows.gamma[:, at]
        turned = np.conj(gamma) / np.maximum(np.abs(gamma), 1e-9)
        slope = (rows.change[:, :, at] * turned[:, np.newaxis]).real / DIAL_SPREAD
        left = (read - np.abs(gamma)) / DIAL_SPREAD
        squares, _, _, volume = _marginal(left, slope)
        log = np.maximum(-0.5 * squares - 0.5 * volume, FLOOR)
        found[suspect.name] = Weighed(np.broadcast_to(log, (len(suspect.thetas),)))
    found[SOMETHING_ELSE] = Weighed(np.array([len(points) * math.log(DIAL_SPREAD * math.sqrt(2 * math.pi))]))
    return found


def band_answers(predictions: Predictions, suspect: Suspect, view: View) -> list[dict[str, Real]]:
    """How likely each answer is on each band, by row of a suspect."""
    model = predictions.model
    f = model.f
    sound = np.abs(predictions.rows(model.healthy, view).gamma[0])
    seen = np.abs(predictions.rows(suspect, view).gamma)
    found = []
    for band in model.one.bands:
        middle = int(np.argmin(np.abs(f - band.center_hz)))
        near = np.flatnonzero(np.abs(f / band.center_hz - 1) < 0.075)
        dip = near[np.argmin(seen[:, near], axis=1)]
        depth = seen[np.arange(len(seen)), dip]
        before = near[np.argmin(sound[near])]
        shift = (f[dip] - f[before]) / f[before]
        inside = (dip > near[0]) & (dip < near[-1])
        fine = seen[:, middle] < sound[middle] + ROSE
        down = ~fine & inside & (depth < DIP) & (shift < -MOVED)
        up = ~fine & inside & (depth < DIP) & (shift > MOVED)
        gone = ~(fine | down | up)
        wrong = (1 - SAID_RIGHT) / 3
        hits = {"fine": fine, "moved_down": down, "moved_up": up, "gone": gone}
        found.append({name: np.where(hit, SAID_RIGHT, wrong) for name, hit in hits.items()})
    return found


def weigh_bands(
    predictions: Predictions, suspects: tuple[Suspect, ...], view: View, said: Mapping[str, BandAnswer]
) -> dict[tuple[str, str], Weighed]:
    """Every suspect against what people tell of bands.

    Raises:
        OutOfDomainError: a band that it is not used on.
    """
    labels = [band.label for band in predictions.model.one.bands]
    unknown = [label for label in said if label not in labels]
    if unknown:
        raise OutOfDomainError("bands", unknown[0], f"one of {', '.join(labels)}")
    found: dict[tuple[str, str], Weighed] = {}
    for suspect in suspects:
        answers = band_answers(predictions, suspect, view)
        log = sum((np.log(answers[labels.index(label)][answer]) for label, answer in said.items()), np.zeros(1))
        found[suspect.name] = Weighed(np.broadcast_to(np.asarray(log), (len(suspect.thetas),)))
    found[SOMETHING_ELSE] = Weighed(np.array([-len(said) * math.log(4)]))
    return found


def whitened_features(f: Real, gamma: Complex, change: Complex, known: Knowledge) -> Real:
    """Γ of many rows as numbers whose differences count in standard deviations, nuisances among the errors.

    Args:
        gamma: shape (rows, n).
        change: by a standard deviation of each nuisance, (numbers, n).
        known: with the errors of what is known so well.
    """
    error = MODEL[known]
    typical = gamma.mean(axis=0)
    columns = residual_columns(f, typical, math.hypot(RESIDUAL, error))
    nuisances = both_parts(change).T
    covariance = columns @ columns.T + (NOISE**2 + (error / 3) ** 2) * np.eye(2 * f.size) + nuisances @ nuisances.T
    factor = np.linalg.cholesky(covariance) / math.sqrt(MOST_NUMBERS / (2 * f.size))
    return np.asarray(solve_triangular(factor, both_parts(gamma).T, lower=True).T)


# Errors of a fit that no curve shows, in steps between rows.
FIT_FLOOR = 0.15


def agreed(own: Sequence[Weighed]) -> tuple[Real | float, Real | None, Real | None]:
    """What sweeps of one thing say together of the numbers between rows, where each alone was free to choose.

    Returns:
        What is added to the sum of their logs, shape (rows,); where the numbers lie, (rows, numbers), and their
        covariance; None where no sweep tells.

    Source:
        Products of normal densities (MacKay, Information Theory, ch. 24), the prior counted once.
    """
    told = [(each.moved, each.covariance) for each in own if each.moved is not None and each.moved.shape[1]]
    if not told:
        return 0.0, None, None
    numbers = told[0][0].shape[1]
    unit = np.eye(numbers)
    log = np.zeros(len(told[0][0]))
    total, pull = np.zeros((len(log), numbers, numbers)) + unit, np.zeros((len(log), numbers))
    for moved, covariance in told:
        assert covariance is not None
        precision = np.linalg.inv(covariance + FIT_FLOOR**2 * unit)
        toward = np.einsum("rij,rj->ri", precision, moved)
        log += 0.5 * np.linalg.slogdet(precision)[1] - 0.5 * np.einsum("ri,ri->r", toward, moved)
        total += np.maximum(precision - unit, 0.0) if numbers == 1 else precision - unit
        pull += toward
    found = np.linalg.inv(total)
    middle = np.einsum("rij,rj->ri", found, pull)
    log += -0.5 * np.linalg.slogdet(total)[1] + 0.5 * np.einsum("ri,ri->r", pull, middle)
    # Agreement is no evidence by itself: only what they disagree on counts.
    log = np.minimum(log, 0.0) if len(told) > 1 else np.zeros(len(log))
    return np.asarray(log), np.asarray(middle), np.asarray(found)
