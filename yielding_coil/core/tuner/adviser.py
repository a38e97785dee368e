"""Which knob, which way, about how far: from sweeps at a tuner's input and its dials as they were read.

Each dial is off by a relative error of its own that stays the same. Given the three errors one sweep tells the
load, and the load tells what the other sweeps should have shown: so every turn of a knob tells of its dial. What
the errors then may still be is carried through every move that is weighed.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal, NamedTuple

import numpy as np
from scipy.optimize import least_squares

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.quasi_random import sobol_normal
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.tuner.nearest import compromise, nearest
from yielding_coil.core.tuner.settings import inside, matches_of
from yielding_coil.core.tuner.tuner import Side, Tuner, TunerSetting, tee_of

Control = Literal["output", "coil", "input", "switch"]
Aim = Literal["middle", "band"]
AdviceKind = Literal["turn", "there", "compromise", "nothing_moved", "cannot"]
CONTROLS: tuple[Control, ...] = ("output", "coil", "input")
# One standard deviation of a dial's relative error, before anything is known of it.
DIAL_ERROR = 0.12
# Scatter of a sweep's Γ while turning, and what a turn must move it by to have been one: wind moves it by less.
SCATTER, MOVED = 0.004, 0.02
# Below this the middle is matched; of the band's compromise what is as good.
GOAL_SWR, AS_GOOD = 1.2, 1.03
# Errors that are tried for every move, and frequencies of a sweep that are looked at.
SAMPLES_EXPONENT, LOOKED_AT = 6, 7
# One standard deviation, relative: of what slack and strays leave of a control that is turned, and of the coil's Q.
TURN_ERROR, Q_ERROR = 0.012, 0.2
# Over the band: a turn is worth it where it ends better this often, by all that may be.
WORTH_IT = 0.75
# Turns that a miss costs on average, and places of a control that are tried.
MISS_COSTS, TRIED = 3.0, 121
# More of the history tells nothing more.
MOST_SEEN = 16
# From here on scatter is all that a reflection tells of a resistance; and as near to 1 as is counted.
BLIND, ALL_BACK = 0.98, 0.9999
# A match is aimed at: what is read after a turn is told by what it does not exceed.
NINE_OF_TEN = 0.9
# A dial's error is told from this doubt down.
TOLD = 0.03
# A sweep this far from what the others make of it contradicts them.
CONTRADICTED = 0.1
# After so many sweeps it is the load that sends all back.
BLIND_TURNS = 5


@dataclass(frozen=True, slots=True)
class Seen:
    """A sweep at the tuner's input with its dials as read.

    Args:
        setting: by the dials.
        frequency_hz, reflection: shape (n,), ascending, over the band.
    """

    setting: TunerSetting
    frequency_hz: Real
    reflection: Complex


class Dial(NamedTuple):
    """What is known of one dial: how much more there is than it says, and one standard deviation of that."""

    control: Control
    error: float
    doubt: float

    @property
    def known(self) -> bool:
        """Whether it is off for sure, and known well enough to be told."""
        return self.doubt < TOLD and abs(self.error) > 2 * self.doubt


@dataclass(frozen=True, slots=True)
class Advice:
    """What to do next.

    Args:
        kind: turn a control; it is there; it is the best that the band allows; the last turn moved nothing; no
            setting matches.
        control, to: which, and where its dial should stand; a side where it is the switch. None without a turn.
        more: which way: towards more capacitance or inductance.
        swr, worst_swr: now, in the middle and at worst over the band.
        expected_swr: that is not exceeded after the turn, nine times in ten; over the band with that aim.
        best_swr: what can be reached at all, in the middle or over the band.
        moves: turns that it should take yet, this one among them.
        setting: where all dials should stand in the end.
        dials: what the sweeps told of them.
    """

    kind: AdviceKind
    swr: float
    worst_swr: float
    control: Control | None = None
    to: float | Side | None = None
    more: bool | None = None
    expected_swr: float | None = None
    best_swr: float | None = None
    moves: int = 0
    setting: TunerSetting | None = None
    dials: tuple[Dial, ...] = ()


def advise_turn(tuner: Tuner, seen: Sequence[Seen], aim: Aim = "middle", goal_swr: float = GOAL_SWR) -> Advice:
    """The next turn.

    Args:
        tuner: by its dials: their stops, and the Q of its parts.
        seen: the sweeps so far, the newest last, over the same frequencies. One setting may be swept again and
            again: its newest sweep counts, and a match reached there is left only by as much as a turn moves.
        aim: a match in the middle, or the least of the worst SWR over the band.
        goal_swr: that is good enough in the middle, above 1.

    Raises:
        OutOfDomainError: nothing was swept, it returns more than it gets, or a dial stands beyond its stops.
    """
    if not seen:
        raise OutOfDomainError("seen", "no sweep", "one sweep or more at the tuner's input")
    for one in seen:
        if one.setting.side is not None and not bool(inside(tuner, one.setting)):
            raise OutOfDomainError("dials", "a dial beyond its stops", "each control between its stops")
    settings = _by_setting(seen)
    looked = [sweeps[-1] for sweeps in settings][-MOST_SEEN:]
    newest = looked[-1]
    size = np.abs(newest.reflection)
    if not np.isfinite(size).all() or size.max() > 1.05:
        raise OutOfDomainError(
            "reflection", float(size.max()), "at most 1: what is swept returns more than it gets"
        )
    middle = newest.frequency_hz.size // 2
    now, worst = _swr(float(size[middle])), _swr(float(size.max()))
    goal = (goal_swr - 1) / (goal_swr + 1)
    reached = any(abs(one.reflection[one.reflection.size // 2]) <= goal for one in settings[-1])
    if aim == "middle" and size[middle] <= goal + (MOVED if reached else 0.0):
        return Advice("there", now, worst, setting=newest.setting)
    if _nothing_moved(tuner, looked):
        return Advice("nothing_moved", now, worst)
    return _Mind(tuner, looked, aim, goal_swr).advice(now, worst)


class Step(NamedTuple):
    """One turn of a way: the control, the setting after it by the dials, and Γ in the middle then."""

    control: Control
    setting: TunerSetting
    reflection: complex


def shortest_way(tuner: Tuner, seen: Sequence[Seen], goal_swr: float = GOAL_SWR) -> tuple[Step, ...]:
    """The fewest turns that would have led from the first of some sweeps to a match, by all that they tell.

    Returns:
        One a turn; empty where the first was a match already, or where nothing matches.

    Raises:
        OutOfDomainError: nothing was swept.
    """
    if not seen:
        raise OutOfDomainError("seen", "no sweep", "one sweep or more at the tuner's input")
    looked = [sweeps[-1] for sweeps in _by_setting(seen)]
    first = looked[0]
    mind = _Mind(tuner, [*looked[1:], first], "middle", goal_swr)
    return mind.way()


def _by_setting(seen: Sequence[Seen]) -> list[list[Seen]]:
    """The sweeps, thinned, each setting that stood for a while with its own."""

    def stood(one: Seen) -> tuple[Side | None, bytes]:
        return one.setting.side, _values(one.setting).tobytes()

    return [[_thinned(one) for one in sweeps] for _, sweeps in groupby(seen, stood)]


def _thinned(one: Seen) -> Seen:
    """At fewer frequencies, the middle one among them."""
    n = one.frequency_hz.size
    if n <= LOOKED_AT:
        return one if n % 2 else replace(one, frequency_hz=one.frequency_hz[:-1], reflection=one.reflection[:-1])
    at = np.linspace(0, n - 1, LOOKED_AT).round().astype(int)
    return replace(one, frequency_hz=one.frequency_hz[at], reflection=one.reflection[at])


def _swr(size: float) -> float:
    return (1 + size) / (1 - size) if size < 1 else math.inf


def _values(setting: TunerSetting) -> Real:
    return np.array(setting.values)


def _nothing_moved(tuner: Tuner, looked: Sequence[Seen]) -> bool:
    """Whether the last turn should have moved Γ, whatever the dials err, and did not."""
    if len(looked) < 2:
        return False
    before, after = looked[-2:]
    if before.reflection.shape != after.reflection.shape:
        return False
    if float(np.abs(after.reflection - before.reflection).max()) > MOVED:
        return False
    mind = _Mind(tuner, [before], "middle", GOAL_SWR)
    moved = np.abs(mind.reflections(after.setting) - before.reflection).max(axis=1)
    return bool(moved.min() > 2 * MOVED)


class _Option(NamedTuple):
    """A setting to end at, by its dials, and the controls to turn for it."""

    setting: TunerSetting
    controls: tuple[Control, ...]


class _Mind:
    """What the sweeps tell of the dials, and what each move would then do."""

    def __init__(self, tuner: Tuner, looked: Sequence[Seen], aim: Aim, goal_swr: float) -> None:
        self.tuner, self.looked, self.aim, self.goal = tuner, looked, aim, goal_swr
        self.newest = looked[-1]
        # A compromise is flat: a turn as small as the slack of a shaft is none.
        self.least = TURN_ERROR if aim == "band" else 1e-3
        self.f = self.newest.frequency_hz
        self.middle = self.f.size // 2
        # The load is told by the sweep that returned least: noise of one that returned all would be its load.
        alike = [one for one in looked if one.reflection.shape == self.newest.reflection.shape]
        self.telling = min(reversed(alike), key=lambda one: float(np.abs(one.reflection).mean()))
        # Where all comes back no load is known yet, nor that nothing matches it.
        self.blind = len(looked) < BLIND_TURNS and float(np.abs(self.telling.reflection).mean()) > BLIND
        self.others = [one for one in alike if one is not self.telling]
        self.errors, self.covariance = self._fit()
        if self._contradicted():
            # No errors of the dials explain all sweeps: something else moved. The newest is the truth.
            self.telling, self.others = self.newest, []
            self.blind = float(np.abs(self.newest.reflection).mean()) > BLIND
            self.errors, self.covariance = self._fit()
        steps = sobol_normal(11, SAMPLES_EXPONENT, ((20261129, (0,)),))
        root = np.linalg.cholesky(self.covariance + 1e-12 * np.eye(3))
        # One row an error that may be, with a scatter that may be; the first is the likeliest.
        self.samples = np.concatenate([[self.errors], self.errors + steps[:, :3] @ root.T]).clip(-0.6, 1.5)
        nothing = np.zeros((1, 1))
        scatter, later = ((steps[:, k : k + 1] + 1j * steps[:, k + 1 : k + 2]) * (SCATTER / 2) for k in (3, 5))
        self.later = np.concatenate([nothing, later])
        self.turned = np.concatenate([np.zeros((1, 3)), steps[:, 7:10] * TURN_ERROR])
        self.q = tuner.coil_q * np.exp(Q_ERROR * np.concatenate([nothing, steps[:, 10:11]]))
        self.loads = self._load(self.samples, np.concatenate([nothing, scatter]), self.q)

    def _true(self, setting: TunerSetting, errors: Real) -> TunerSetting:
        """What the parts are with such errors of the dials; errors (k, 3) give values (k, 1)."""
        over = 1 + np.atleast_2d(errors)[:, :, np.newaxis]
        values = [np.asarray(v) * over[:, i] for i, v in enumerate(setting.values)]
        return TunerSetting(setting.side, *values)

    def _load(self, errors: Real, scatter: Complex | float = 0.0, coil_q: Real | None = None) -> Complex:
        """What then hangs on the tuner, shape (k, n)."""
        tee = tee_of(self.tuner, self._true(self.telling.setting, errors), self.f, coil_q)
        gamma = self.telling.reflection + scatter
        load = tee.far_ohm(impedance_of(gamma * np.minimum(1.0, ALL_BACK / np.maximum(np.abs(gamma), 1e-9))))
        # A load that gives power is an error that cannot be, or scatter.
        return np.asarray(np.maximum(load.real, 0.1) + 1j * load.imag)

    def reflections(self, setting: TunerSetting) -> Complex:
        """Γ as it would be read with other dials, one row an error that may be."""
        there = np.array([a != b for a, b in zip(self.telling.setting.values, setting.values, strict=True)])
        errors = self.samples + self.turned * there
        tee = tee_of(self.tuner, self._true(setting, errors), self.f, self.q)
        return np.asarray(reflection_of(tee.near_ohm(self.loads)) + self.later)

    def _after(self, setting: TunerSetting) -> Real:
        """|Γ| with other dials, one row an error that may be: in the middle, or at worst."""
        size = np.abs(self.reflections(setting))
        return np.asarray(size.max(axis=1) if self.aim == "band" else size[:, self.middle])

    def _fit(self) -> tuple[Real, Real]:
        """The likeliest errors of the dials, and their covariance."""
        if not self.others:
            return np.zeros(3), np.eye(3) * DIAL_ERROR**2

        def off(errors: Real) -> Real:
            load = self._load(errors)
            rows = [np.asarray(errors) / DIAL_ERROR]
            for one in self.others:
                there = reflection_of(tee_of(self.tuner, self._true(one.setting, errors), self.f).near_ohm(load))
                # What calibration, strays and the model leave is common to all frequencies: they count as few.
                rest = (there[0] - one.reflection) / (SCATTER * math.sqrt(self.f.size / 2))
                rows += [rest.real, rest.imag]
            return np.concatenate(rows)

        found = least_squares(off, np.zeros(3), bounds=(-0.55, 1.0), loss="soft_l1", f_scale=3.0, max_nfev=25)
        jacobian = np.asarray(found.jac)
        information = jacobian.T @ jacobian
        return np.asarray(found.x), np.asarray(np.linalg.inv(information))

    def _contradicted(self) -> bool:
        """Whether the newest sweep is far from what the others make of it, with the errors that fit them best."""
        if self.newest is self.telling or not self.others:
            return bool(self.others) and self._off(self.others[-1]) > CONTRADICTED
        return self._off(self.newest) > CONTRADICTED

    def _off(self, one: Seen) -> float:
        """How far a sweep is from what the fit makes of it, root mean square of Γ."""
        tee = tee_of(self.tuner, self._true(one.setting, self.errors), self.f)
        there = reflection_of(tee.near_ohm(self._load(self.errors)))[0]
        return float(np.sqrt(np.mean(np.abs(there - one.reflection) ** 2)))

    # Where one could go.

    def _dialled(self, true: TunerSetting) -> TunerSetting:
        """Where the dials stand for what the parts should be, within their stops."""
        stops = self.tuner.stops
        values = [float(np.clip(v / (1 + e), *s)) for v, e, s in zip(true.values, self.errors, stops, strict=True)]
        return TunerSetting(true.side, *values)

    def _as_it_is(self) -> Tuner:
        """The tuner with its stops where they really are, as far as that is known."""
        (ol, oh), (ll, lh), (il, ih) = self.tuner.stops * (1 + self.errors[:, np.newaxis])
        return replace(
            self.tuner,
            output_low_f=ol,
            output_high_f=oh,
            coil_low_h=ll,
            coil_high_h=lh,
            input_low_f=il,
            input_high_f=ih,
        )

    def _turned(self, setting: TunerSetting) -> tuple[Control, ...]:
        """The controls that differ from where they stand; the one that goes farthest first."""
        here, there = self.newest.setting, setting
        moved: list[tuple[float, Control]] = []
        for control, a, b in zip(CONTROLS, here.values, there.values, strict=True):
            if math.isfinite(a) and math.isfinite(b) and abs(math.log(b / a)) > self.least:
                moved.append((-abs(math.log(b / a)), control))
        switch: tuple[Control, ...] = ("switch",) if here.side != there.side else ()
        return (*switch, *(control for _, control in sorted(moved)))

    def _by_one(self) -> list[_Option]:
        """Each control alone, at its best."""
        found = []
        here = self.newest.setting
        for k, control in enumerate(CONTROLS):
            if not math.isfinite(here.values[k]):
                continue
            low, high = self.tuner.stops[k]
            tried = np.geomspace(low, high, TRIED)
            at = [np.full((TRIED, 1), v * (1 + e)) for v, e in zip(here.values, self.errors, strict=True)]
            at[k] = tried[:, np.newaxis] * (1 + self.errors[k])
            size = np.abs(
                reflection_of(tee_of(self.tuner, TunerSetting(here.side, *at), self.f).near_ohm(self.loads[0]))
            )
            worth = size.max(axis=1) if self.aim == "band" else size[:, self.middle]
            best = int(worth.argmin())
            values = list(here.values)
            values[k] = _refined(tried, worth, best)
            found.append(_Option(TunerSetting(here.side, *values), (control,)))
        return found

    def _exact(self) -> list[TunerSetting]:
        """Settings that match, by what the parts are: where one control may stay, and where least is lost."""
        found = matches_of(self._as_it_is(), float(self.f[self.middle]), complex(self.loads[0][self.middle]))
        if not found.settings:
            return []
        here = self.newest.setting.values
        chosen = [found.settings[int(found.efficiency.argmax())]]
        if found.settings[0].side != "tee":
            return list(found.settings)
        true = np.array(here) * (1 + self.errors)
        table = np.log(np.array([s.values for s in found.settings]))
        for k in range(3):
            # Between two points of a branch that lie to either side of where the control stands.
            apart = table[:, k] - math.log(true[k])
            for i in np.flatnonzero((apart[:-1] * apart[1:] <= 0) & (np.diff(found.branch) == 0)):
                share = apart[i] / (apart[i] - apart[i + 1]) if apart[i] != apart[i + 1] else 0.0
                values = np.exp(table[i] + share * (table[i + 1] - table[i]))
                values[k] = true[k]
                chosen.append(TunerSetting("tee", *(float(v) for v in values)))
        nearest_here = int(np.abs(table - np.log(true)).sum(axis=1).argmin())
        chosen.append(found.settings[nearest_here])
        return chosen

    def way(self) -> tuple[Step, ...]:
        """From where the dials stand, with the fewest turns, as if nothing were unknown."""
        goal = (self.goal - 1) / (self.goal + 1)
        if abs(self.newest.reflection[self.middle]) <= goal:
            return ()
        options = [_Option(s, self._turned(s)) for s in map(self._dialled, self._exact())] + self._by_one()
        hits = [o for o in options if o.controls and self._after(o.setting)[0] <= goal]
        if not hits:
            return ()
        best = min(hits, key=lambda o: (len(o.controls), float(self._after(o.setting)[0])))
        steps: list[Step] = []
        setting = self.newest.setting
        for control in best.controls:
            setting = self._partly(best.setting, control, setting)
            steps.append(Step(control, setting, complex(self.reflections(setting)[0, self.middle])))
        return tuple(steps)

    def advice(self, now: float, worst: float) -> Advice:
        """The move with the fewest turns to come."""
        exact = self._exact()
        dials = tuple(
            Dial(c, float(e), float(math.sqrt(v)))
            for c, e, v in zip(CONTROLS, self.errors, np.diag(self.covariance), strict=True)
        )
        goal = (self.goal - 1) / (self.goal + 1)
        settled: AdviceKind = "compromise" if self.aim == "band" else "cannot"
        options = [_Option(self._dialled(s), ()) for s in exact]
        best_swr = 1.0 if exact else math.inf
        if self.aim == "band" or not exact:
            as_it_is = self._as_it_is()
            if self.aim == "band":
                setting, best_swr = compromise(as_it_is, self.f, self.loads[0], exact)
            else:
                setting, best_swr = nearest(as_it_is, self.f[self.middle], self.loads[0][self.middle])
            goal = (best_swr * AS_GOOD - 1) / (best_swr * AS_GOOD + 1)
            present = worst if self.aim == "band" else now
            if present <= best_swr * AS_GOOD:
                return Advice(settled, now, worst, best_swr=best_swr, setting=self.newest.setting, dials=dials)
            options.append(_Option(self._dialled(setting) if setting.side else setting, ()))
        options = [_Option(o.setting, self._turned(o.setting)) for o in options] + self._by_one()
        options = [o for o in options if self._turned(o.setting)]
        if not options:
            return Advice(settled, now, worst, best_swr=best_swr, setting=self.newest.setting, dials=dials)
        ends = [self._after(o.setting) for o in options]
        if self.aim == "band" and not self.blind:
            here = (worst - 1) / (worst + 1) if math.isfinite(worst) else 1.0
            surer = [k for k, end in enumerate(ends) if (end < here).mean() >= WORTH_IT]
            if not surer:
                return Advice(settled, now, worst, best_swr=best_swr, setting=self.newest.setting, dials=dials)
            options, ends = [options[k] for k in surer], [ends[k] for k in surer]
        # One that misses even if nothing errs leads nowhere, as long as another would hit.
        likely = [k for k, end in enumerate(ends) if end[0] <= goal] or list(range(len(ends)))

        def to_come(k: int) -> float:
            missed = float((ends[k] > goal).mean())
            return len(options[k].controls) + MISS_COSTS * missed + float(ends[k].mean())

        option = options[min(likely, key=to_come)]
        control = option.controls[0]
        first = self._partly(option.setting, control)
        after = self._after(first)
        high = _swr(float(np.quantile(after, NINE_OF_TEN)))
        if control == "switch":
            to: float | Side | None = option.setting.side
            more = None
        else:
            k = CONTROLS.index(control)
            to = option.setting.values[k]
            more = option.setting.values[k] > self.newest.setting.values[k]
        return Advice(
            "turn" if exact or self.aim == "band" or self.blind else "cannot",
            now,
            worst,
            control,
            to,
            more,
            high,
            best_swr,
            len(option.controls),
            option.setting,
            dials,
        )

    def _partly(self, setting: TunerSetting, control: Control, here: TunerSetting | None = None) -> TunerSetting:
        """The present setting, or another one, with one control turned as in a third."""
        here = here or self.newest.setting
        if control == "switch":
            return replace(here, side=setting.side)
        k = CONTROLS.index(control)
        values = list(here.values)
        values[k] = setting.values[k]
        return TunerSetting(here.side, *values)


def _refined(tried: Real, worth: Real, best: int) -> float:
    """Between the neighbours of the least, by a parabola of its square."""
    if best in (0, tried.size - 1):
        return float(tried[best])
    left, here, right = worth[best - 1 : best + 2] ** 2
    bend = left - 2 * here + right
    share = 0.5 * (left - right) / bend if bend > 0 else 0.0
    step = math.log(tried[best + 1] / tried[best])
    return float(tried[best] * math.exp(step * max(-0.5, min(0.5, share))))
