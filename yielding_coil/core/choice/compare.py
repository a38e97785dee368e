"""Schools beside each other at a place: brought to their bands roughly, and what goes up on each band.

Everything is solved with few segments: good enough to choose by. The one chosen is solved in full when planned.
"""

import contextlib
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.choice.fits import SCHOOLS, Fit, fit_of, wishes_to_drop
from yielding_coil.core.choice.place import Obstacle, Place
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.trap import Trap
from yielding_coil.core.tuner import Tuner, least_loss, tee_of
from yielding_coil.core.wire import KINDS, Hung, Structure, WirePiece

Care = Literal["watts", "tunerless", "small", "cheap"]

# Segments a wave, frequencies a band.
SEGMENTS, POINTS = 20.0, 5
# Bringing it to its band: steps, how close, and how far a step may go.
STEPS, CLOSE, FARTHEST = 8, 2e-3, 0.4
ROUNDS = 2
# What moves watts, by so many standard deviations of its own; what only moves the dip does not. What radials lose
# goes with wet and dry as well, which the table does not know (common practice).
MOVING = {"height": 1.0, "ground": 1.0, "trap": 1.0, "radials": 2.0}
# Q of a coil or a trap, what a ring and a line lose: two standard deviations, relative (from memory).
Q_DOUBT, LOSS_DOUBT = 0.3, 0.25
# Without a tuner a radio gives its power up to here (common practice: it turns down from 2 on, its tuner takes 3).
TUNERLESS_SWR = 3.0
# Nine of ten.
NINE = 1.645


@dataclass(frozen=True, slots=True)
class SchoolBand:
    """A school on a band.

    Args:
        up_w: radiated of what the radio gives, between what nine of ten lie; None where it cannot give it.
        wire_w: what of it reaches the wire: the rest stays in tuner, coax and transformer.
        swr: the worst over the band that the radio would see without a tuner.
        holds: whether that is within the band's limit.
        tuner: whether a tuner is reckoned with.
    """

    label: str
    up_w: float | None
    low_w: float | None
    high_w: float | None
    wire_w: float | None
    swr: float
    holds: bool
    tuner: bool


@dataclass(frozen=True, slots=True)
class SchoolCard:
    """A school at a place: as it would hang on its first band, and every band; or what stands in its way.

    Args:
        hung: as drawn; None where it does not fit.
        pieces: of wire to cut; loads: what must be wound, as henries of coils and how many of each.
        least_w: on the band where least goes up.
    """

    key: str
    kind_key: str
    obstacle: Obstacle | None
    hung: Hung | None
    bands: tuple[SchoolBand, ...]
    walks: bool
    height_m: float
    span_m: float
    wire_m: float
    coils: tuple[float, ...]
    traps: int
    radials: int

    @property
    def least_w(self) -> float:
        """On the band on which least goes up; 0 where one is not served."""
        return min((band.up_w or 0.0 for band in self.bands), default=0.0)

    @property
    def needs_tuner(self) -> bool:
        """Whether it takes a tuner on some band."""
        return any(band.tuner for band in self.bands)


class Compared(NamedTuple):
    """How far a comparison is.

    Args:
        cards: in the order of the schools, those that are through; of: all of them.
        drop: bands without any of which something fits, where nothing does.
    """

    stage: Literal["comparing", "done"]
    cards: tuple[SchoolCard, ...]
    of: int
    drop: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SchoolsTask:
    """What to compare: a place, bands, what stands below each kind of antenna on each band, by its key."""

    place: Place
    targets: tuple[Target, ...]
    below: Mapping[str, tuple[tuple[Element, ...], ...]]
    power_w: float = 100.0
    schools: tuple[str, ...] = tuple(SCHOOLS)


def compare_schools(task: SchoolsTask) -> Iterator[Compared]:
    """Every school, the ones that fit first, each told as it is through.

    Raises:
        OutOfDomainError: no band.
    """
    fits = {key: fit_of(key, task.place, task.targets) for key in task.schools}
    cards: dict[str, SchoolCard] = {
        key: _greyed(key, found) for key, found in fits.items() if isinstance(found, Obstacle)
    }

    def told(stage: Literal["comparing", "done"]) -> Compared:
        drop: tuple[str, ...] = ()
        if stage == "done" and all(card.obstacle for card in cards.values()):
            drop = wishes_to_drop(task.place, task.targets)
        return Compared(stage, tuple(cards[k] for k in task.schools if k in cards), len(task.schools), drop)

    for key, found in fits.items():
        if isinstance(found, Fit):
            try:
                cards[key] = _card(found, task)
            except RefusedError:
                cards[key] = _greyed(key, Obstacle("apart", 2, 1))
            yield told("comparing")
    yield told("done")


def shared(task: SchoolsTask, many: int) -> tuple[SchoolsTask, ...]:
    """The same comparison in shares, neighbours apart: they cost much the same."""
    return tuple(replace(task, schools=task.schools[i::many]) for i in range(min(many, len(task.schools))))


def together(task: SchoolsTask, states: Sequence[Compared | None]) -> Compared:
    """How far a shared comparison is, from how far its shares are.

    Args:
        states: one for each share; None of one that has not told yet.
    """
    cards = {card.key: card for state in states if state for card in state.cards}
    done = all(state is not None and state.stage == "done" for state in states)
    # Each share says what it misses only where nothing of it fits; the wishes are the same.
    nothing = done and all(card.obstacle for card in cards.values())
    drop = next((state.drop for state in states if state), ()) if nothing else ()
    return Compared(
        "done" if done else "comparing",
        tuple(cards[k] for k in task.schools if k in cards),
        len(task.schools),
        drop,
    )


def _greyed(key: str, obstacle: Obstacle) -> SchoolCard:
    return SchoolCard(key, SCHOOLS[key].kind_key, obstacle, None, (), False, 0.0, 0.0, 0.0, (), 0, 0)


def _card(fit: Fit, task: SchoolsTask) -> SchoolCard:
    kind = KINDS[fit.kind_key]
    wanted = wanted_by(fit, task.targets)
    hungs = list(fit.hungs)
    if kind.resonant:
        same = all(h is hungs[0] for h in hungs)
        if same:
            hungs = [roughly_tuned(hungs[0], wanted)] * len(hungs)
        else:
            own = zip(hungs, task.targets, strict=True)
            hungs = [roughly_tuned(hung, (target.center_hz,)) for hung, target in own]
    bands = tuple(
        band_of(hung, target, task.below[fit.kind_key][i], task.power_w, task.place.tuner)
        for i, (hung, target) in enumerate(zip(hungs, task.targets, strict=True))
    )
    lowest = hungs[min(range(len(hungs)), key=lambda i: task.targets[i].center_hz)]
    numbers = lowest.numbers
    pieces: Sequence[WirePiece] = lowest.pieces()
    parts = [load.part for load in lowest.structure().loads[lowest.earths :]]
    coils = tuple(float(part.inductance_h) for part in parts if isinstance(part, Inductor))
    return SchoolCard(
        fit.key,
        fit.kind_key,
        None,
        lowest,
        bands,
        fit.walks,
        fit.height_m,
        fit.span_m,
        sum(p.count * p.length_m for p in pieces),
        coils,
        sum(isinstance(part, Trap) for part in parts),
        round(numbers.get("radials", 0)),
    )


def wanted_by(fit: Fit, targets: Sequence[Target]) -> tuple[float, ...]:
    """Where it is brought, in Hz: its lowest band, or the two that it serves at once."""
    low = min(targets, key=lambda t: t.center_hz)
    kind = KINDS[fit.kind_key]
    if kind.bands < 2:
        return (low.center_hz,)
    beside = min(
        (t.center_hz for t in targets if t is not low), key=lambda f: abs(math.log(f / low.center_hz)), default=None
    )
    return (low.center_hz,) if beside is None else (beside, low.center_hz)


def _coarse(hung: Hung) -> Structure:
    return replace(hung.structure(), segments_per_wave=SEGMENTS)


def roughly_tuned(hung: Hung, wanted_hz: Sequence[float]) -> Hung:
    """Brought to its bands by its reactance there, the highest first; as it is where it does not come nearer.

    Args:
        wanted_hz: one for each number that it is tuned by.
    """
    for _ in range(ROUNDS if len(wanted_hz) > 1 else 1):
        for f in sorted(wanted_hz, reverse=True):
            with contextlib.suppress(OutOfDomainError):
                hung = _resonant(hung, f)
    return hung


def _resonant(hung: Hung, f: float) -> Hung:
    """Secant on X/|Z| over the number that brings its dip there."""
    name = hung.tuned_on(f)

    def off(value: float) -> tuple[float, Hung]:
        tried = hung.told(**{name: value})
        z = complex(_coarse(tried).impedance_at(f))
        return z.imag / abs(z), tried

    a = float(getattr(hung, name))
    xa, best = off(a)
    least = abs(xa)
    b = a * (1.01 if xa < 0 else 0.99)
    for _ in range(STEPS):
        xb, tried = off(b)
        if abs(xb) < least:
            least, best = abs(xb), tried
        if least < CLOSE or xb == xa:
            break
        step = -xb * (b - a) / (xb - xa)
        a, xa = b, xb
        b = b + max(-FARTHEST * b, min(FARTHEST * b, step))
    return best


class _Known:
    """An antenna known at the frequencies that are asked for, in their order."""

    def __init__(self, frequency_hz: Real, ohm: Complex) -> None:
        self.frequency_hz, self.ohm = frequency_hz, ohm

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        at = np.searchsorted(self.frequency_hz, np.asarray(frequency_hz) * (1 - 1e-9))
        return self.ohm[np.minimum(at, len(self.ohm) - 1)]


def band_of(hung: Hung, target: Target, below: Sequence[Element], power_w: float, tuner: bool) -> SchoolBand:
    """What such an antenna does on a band, above what usually stands below it.

    Args:
        tuner: whether there is one at the radio, where it is needed.
    """
    f = np.linspace(target.low_hz, target.high_hz, POINTS)
    structure = _coarse(hung)
    z = structure.impedance_at(f)
    system = System(_Known(f, z), tuple(below))
    at_radio = system.impedance(f)
    swr = float(swr_of_impedance(at_radio, 50.0).max())
    holds = swr <= target.swr_limit
    middle = POINTS // 2
    line = float(system.efficiency(f)[middle])
    tuned = 1.0
    needs = swr > TUNERLESS_SWR or (not holds and tuner)
    if needs:
        found = _through_tuner(f[middle], complex(at_radio[middle])) if tuner else None
        if found is None or not math.isfinite(line):
            return SchoolBand(target.label, None, None, None, None, swr, holds, needs)
        tuned = found
    sent, doubt = _sent(hung, structure, float(f[middle]))
    lost = 1 - line * tuned
    share = sent * line * tuned
    # What each strays by, in logarithms of what goes up.
    wide = math.hypot(doubt / max(sent, 1e-6), LOSS_DOUBT / 2 * lost / max(line * tuned, 1e-6)) * NINE
    low, high = share * math.exp(-wide), min(1.0, share * math.exp(wide))
    into = power_w * line * tuned
    return SchoolBand(target.label, power_w * share, power_w * low, power_w * high, into, swr, holds, needs)


def _through_tuner(f: float, load: complex) -> float | None:
    """What a usual tuner at the radio passes; None where it cannot match."""
    tuner = Tuner()
    if not (load.real > 0 and math.isfinite(abs(load))):
        return None
    setting = least_loss(tuner, np.array([f]), np.array([load]))[0]
    if setting is None:
        return None
    return float(np.asarray(tee_of(tuner, setting, np.array([f])).efficiency(np.array([load]))).ravel()[0])


def _sent(hung: Hung, structure: Structure, f: float) -> tuple[float, float]:
    """The share radiated of what goes into it, and one standard deviation of that."""
    sent = structure.sent_w(f, 1.0, hung.soil)
    square = 0.0
    for stray in hung.strays():
        if stray.name in MOVING:
            with contextlib.suppress(OutOfDomainError):
                by = MOVING[stray.name]
                up, down = (
                    _coarse(one).sent_w(f, 1.0, one.soil) for one in (hung.strayed(stray, b) for b in (by, -by))
                )
                square += ((up - down) / 2) ** 2
    own: Any = hung
    if "q" in hung.numbers:
        better = replace(own, q=own.q * (1 + Q_DOUBT / 2))
        square += (_coarse(better).sent_w(f, 1.0, hung.soil) - sent) ** 2
    return sent, math.sqrt(square)


def ranked(cards: Sequence[SchoolCard], care: Care) -> tuple[int, ...]:
    """Places of the cards that fit and serve every band, the best first for what one cares for.

    Those that leave a band out come after all that do not.
    """

    def order(i: int) -> tuple[float, ...]:
        card = cards[i]
        unserved = sum(band.up_w is None for band in card.bands)
        held = sum(band.holds for band in card.bands)
        by: dict[Care, tuple[float, ...]] = {
            "watts": (-card.least_w,),
            "tunerless": (-held, -card.least_w),
            "small": (max(card.height_m, card.span_m), card.wire_m),
            "cheap": (len(card.coils) + 2 * card.traps + (1 if KINDS[card.kind_key].by_unun else 0), card.wire_m),
        }
        return (unserved, *by[care])

    fitting = [i for i, card in enumerate(cards) if card.obstacle is None]
    return tuple(sorted(fitting, key=order))
