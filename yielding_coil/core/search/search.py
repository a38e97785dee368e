"""The search for networks that can be made: every topology, from what lies on the shelf, judged on every target."""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import partial

import numpy as np

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.design import Design, drawn_grid, share_of
from yielding_coil.core.element import DesignElement, Part
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.modelled_antenna import ModelledAntenna
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.search.found import Choice, FoundPart, GivenUp, Groups, SearchState, SearchTask
from yielding_coil.core.search.front import front_of, spread_out, steps, undominated
from yielding_coil.core.search.ideal import ACROSS, ALIKE, Ideal, best, networks, shares_for_a_hairpin
from yielding_coil.core.search.kernel import Ints, Table, carry, judge, numbers_of
from yielding_coil.core.search.network import Network, Question
from yielding_coil.core.search.shelf import EVERYTHING, Item, Range, Shelf, items_of, thinned
from yielding_coil.core.search.topology import Family, PartKind
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import System, worst_over
from yielding_coil.core.target import POINTS, Target, require_inside

# So many networks of a topology are looked at whole; of more, so many parts at each place, nearest the ideal ones.
WHOLE = 1_200_000
NEAREST = {1: 4000, 2: 420, 3: 72}
# Parts from so far below the ideal value to so far above it are made at all; degrees of line on both sides.
FACTOR, ASIDE_DEG = 2.6, 40.0
# A topology whose ideal is so far over the limit, and over the best there is, is not made.
HOPELESS = 1.6
# Beyond the limit, what lies within so much of the best is still shown where nothing holds.
NEAR_BEST = 1.3
# Of a front so many are shown as cards.
MOST_CARDS = 12
CHUNK = 4096
# Of a curve on a card.
DRAWN_POINTS, DRAWN_ASIDE = 61, 0.5


@dataclass(slots=True)
class _Search:
    """The work under way."""

    task: SearchTask
    question: Question
    top_hz: float
    drawn_hz: Real
    state: SearchState = field(default_factory=lambda: SearchState("ideal"))
    best_excess: float = math.inf
    questions: dict[float, Question] = field(default_factory=dict)
    items: dict[PartKind, list[Item]] = field(default_factory=dict)
    parts: dict[int, tuple[Item, Part]] = field(default_factory=dict)

    def design_of(self, share: float) -> Design:
        """The design below the wire, cut to a share of its length."""
        antenna = self.task.design.antenna
        return replace(self.task.design, antenna=antenna.shortened(share)) if share < 1 else self.task.design  # type: ignore[attr-defined]

    def question_of(self, share: float) -> Question:
        """What is asked of it then."""
        if share not in self.questions:
            design = self.design_of(share)
            self.questions[share] = Question.of(design.antenna.impedance_at, design.targets, POINTS)
        return self.questions[share]

    def part(self, item: Item) -> Part:
        """What a part computes as; found once."""
        known = self.parts.get(id(item))
        if known is None:
            # The item is kept beside it: of a thing that is gone another one may take the number.
            known = self.parts[id(item)] = (item, item.element.part(self.question.center_hz))
        return known[1]

    def made(self, kind: PartKind, of: Range) -> list[Item]:
        """Parts of a kind that are no line, in a range of values."""
        if kind not in self.items:
            self.items[kind] = items_of(kind, self.task.shelf, self.question.center_hz, self.top_hz)
        return [item for item in self.items[kind] if of.holds(item.value)]

    @property
    def cut(self) -> float:
        """Up to where a network is kept."""
        return 1.0 if self.best_excess <= 1 else NEAR_BEST * self.best_excess


def search_matches(task: SearchTask) -> Iterator[SearchState]:
    """Searches, and tells how far it is after every stretch of work; the last state is the whole answer.

    Raises:
        OutOfDomainError: no target or no power, a target outside what the antenna is known for, or an antenna that
            takes no power there.
    """
    design = task.design
    require_positive("power_w", task.power_w)
    if isinstance(design.antenna, Sweep | ModelledAntenna):
        require_inside(design.targets, design.antenna)
    question = Question.of(design.antenna.impedance_at, design.targets, POINTS)
    for frequency_hz, load in question.loads():
        if not load.real > 0:
            raise OutOfDomainError(
                "antenna",
                f"R {load.real:.3g} Ω at {frequency_hz / 1e6:.3f} MHz",
                "a resistance above zero: check the calibration and sweep again",
            )
    at = _Search(task, question, max(t.high_hz for t in design.targets), _drawn_hz(design))
    ideals: list[Ideal] = []
    todo = _networks(task)
    for network in todo:
        found = best(network, question, task.seed)
        if found is not None:
            ideals.append(found)
            at.state = replace(at.state, ideals=tuple(sorted(ideals, key=lambda i: i.excess)))
        at.state = replace(at.state, done=at.state.done + 1, of=2 * len(todo))
        yield at.state
    for ideal in _shortened(at, todo):
        ideals.append(ideal)
        at.state = replace(at.state, ideals=tuple(sorted(ideals, key=lambda i: i.excess)))
        yield at.state
    if not ideals:
        raise OutOfDomainError("targets", "no network at all", "an antenna that some network brings nearer to 50 Ω")
    # The fewest parts first: what comes later has to be better.
    least = min(i.excess for i in ideals)
    worth_making = [i for i in ideals if i.excess <= HOPELESS * max(1.0, least)]
    every: list[Choice] = []
    at.state = replace(at.state, of=len(todo) + len(worth_making))
    for ideal in worth_making:
        for found_now in _made(at, ideal):
            if found_now:
                every += found_now
                at.state = _with(at, every)
            yield at.state
        at.state = replace(at.state, stage="making", done=at.state.done + 1)
    yield from _counted(at)
    if not at.state.holds and len(design.targets) > 1:
        yield from _apart(at)
    at.state = replace(at.state, stage="done")
    yield at.state


def _drawn_hz(design: Design) -> Real:
    """Where curves are drawn: the targets with half as much at each side, as far as the antenna is known."""
    low, high = min(t.low_hz for t in design.targets), max(t.high_hz for t in design.targets)
    aside = DRAWN_ASIDE * (high - low)
    return drawn_grid(design.antenna, max(low - aside, low / 2), high + aside, DRAWN_POINTS)


def _networks(task: SearchTask) -> list[Network]:
    """Those that the shelf can make at all, few parts first."""
    shelf = task.shelf
    can = {
        "coil": bool(shelf.wires and (shelf.formers or shelf.rings)),
        "capacitor": bool(shelf.capacitors or any(c.thing.coax for c in shelf.cables)),
        "transformer": bool(shelf.wires and any(r.thing.ring.material.kind == "ferrite" for r in shelf.rings)),
    }
    topologies = [
        t
        for t in task.topologies
        if len(t.slots) <= task.most_parts and all(can.get(s.kind, True) for s in t.slots)
    ]
    return networks(topologies, [c.thing for c in shelf.cables])


def _shortened(at: _Search, todo: Sequence[Network]) -> Iterator[Ideal]:
    """A coil or a hairpin across the feedpoint of a wire that is cut shorter for it, where one was swept."""
    antenna = at.task.design.antenna
    if not isinstance(antenna, Sweep):
        return
    shares = shares_for_a_hairpin(antenna.impedance_at, antenna.low_hz, at.question.center_hz)
    known = [share for share in shares if _covered(antenna.shortened(share), at.task.design.targets)]
    for network in todo:
        if network.topology.key in ACROSS:
            found = (best(network, at.question_of(share), at.task.seed) for share in known)
            some = [replace(f, shortened=s) for f, s in zip(found, known, strict=True) if f is not None]
            if some:
                yield min(some, key=lambda i: i.excess)


def _covered(antenna: Sweep, targets: Sequence[Target]) -> bool:
    """Whether it has samples on every target."""
    try:
        require_inside(targets, antenna)
    except OutOfDomainError:
        return False
    return True


def _with(at: _Search, every: Sequence[Choice]) -> SearchState:
    """The front and the best of other families, of all that was found."""
    front = front_of([c for c in every if c.excess <= at.cut])
    there = {c.family for c in front}
    others: dict[Family, Choice] = {}
    for one in every:
        same = others.get(one.family)
        if one.family not in there and (same is None or one.worth < same.worth):
            others[one.family] = one
    return replace(at.state, stage="making", front=tuple(front), others=tuple(others.values()))


def _made(at: _Search, ideal: Ideal) -> Iterator[list[Choice]]:
    """What of a topology can be made, in stretches of work."""
    slots = ideal.network.topology.slots
    catalogue = [_catalogue(at, ideal, k) for k in range(len(slots))]
    if any(not items for items in catalogue):
        yield []
        return
    if math.prod(len(items) for items in catalogue) > WHOLE:
        most = NEAREST.get(len(slots), NEAREST[3])
        catalogue = [thinned(items, value, most) for items, value in zip(catalogue, ideal.values, strict=True)]
    question = at.question_of(ideal.shortened)
    frequency = question.frequency_hz
    tables = [
        Table.of(slot.place, [at.part(item) for item in items], frequency)
        for slot, items in zip(slots, catalogue, strict=True)
    ]
    total = math.prod(len(items) for items in catalogue)
    kept_index: list[Ints] = []
    kept_excess: list[Real] = []
    before = at.state.looked
    told = 0
    for first, badness in judge(question.antenna, tables, question.targets):
        excess = question.excess(badness)
        least = float(excess.min(initial=math.inf))
        at.best_excess = min(at.best_excess, least)
        good = np.flatnonzero(excess <= at.cut)
        if good.size:
            kept_index.append(first + good)
            kept_excess.append(excess[good])
        told += len(excess)
        if told > TELL_EVERY:
            told = 0
            at.state = replace(at.state, looked=before + first + len(excess))
            yield []
    at.state = replace(at.state, looked=before + total)
    if not kept_index:
        yield []
        return
    index, excess = np.concatenate(kept_index), np.concatenate(kept_excess)
    near = excess <= at.cut
    yield from _fronts(at, ideal, catalogue, tables, index[near], excess[near])


# A stretch of work between two words of how far it is.
TELL_EVERY = 60_000


def _fronts(
    at: _Search,
    ideal: Ideal,
    catalogue: Sequence[Sequence[Item]],
    tables: Sequence[Table],
    index: Ints,
    excess: Real,
) -> Iterator[list[Choice]]:
    """The undominated ones of a topology, for every count of parts, within what their parts bear."""
    rows = numbers_of(index, tables)
    antenna = at.question_of(ideal.shortened).antenna
    loss = np.zeros(len(index))
    for k in range(0, len(index), CHUNK):
        part = slice(k, k + CHUNK)
        loss[part] = carry(antenna, tables, index[part]).loss_db
        if k and k % (8 * CHUNK) == 0:
            yield []
    light = loss <= at.task.most_loss_db
    at.state = replace(at.state, too_lossy=at.state.too_lossy + int((~light).sum()))
    index, excess, loss, rows = index[light], excess[light], loss[light], [row[light] for row in rows]
    worse, lost = steps(excess, loss)

    def summed(name: str) -> Real:
        columns = [np.array([float(getattr(i, name)) for i in items]) for items in catalogue]
        return np.asarray(sum((c[r] for c, r in zip(columns, rows, strict=True)), np.zeros(len(index))))

    counts, ties = summed("count").astype(np.int64), summed("buys") * 1e3 + summed("volume_m3")
    failed: set[int] = set()

    def holds(places: Ints) -> np.ndarray:
        fine = _borne(at, antenna, catalogue, tables, index[places])
        failed.update(int(p) for p in places[~fine])
        return fine

    found: list[Choice] = []
    for count in np.unique(counts).tolist():
        some = np.flatnonzero(counts == count)
        best_of = undominated(worse[some], lost[some], ties[some], partial(_among, holds, some))
        for place in some[best_of].tolist():
            parts = tuple(catalogue[k][int(r[place])] for k, r in enumerate(rows))
            found.append(_choice(at, ideal, parts, float(excess[place]), float(loss[place])))
    at.state = replace(at.state, over_rating=at.state.over_rating + len(failed))
    yield found


def _among(holds: Callable[[Ints], np.ndarray], some: Ints, places: Ints) -> np.ndarray:
    """Whether places among some hold."""
    return holds(some[places])


def _borne(
    at: _Search, antenna: Complex, catalogue: Sequence[Sequence[Item]], tables: Sequence[Table], index: Ints
) -> np.ndarray:
    """Which networks stay within what their parts bear, at full power."""
    if not catalogue:
        return np.ones(len(index), dtype=bool)
    rows = numbers_of(index, tables)

    def most(name: str) -> Real:
        columns = [np.array([float(getattr(i, name)) for i in items]) for items in catalogue]
        return np.array([column[row] for column, row in zip(columns, rows, strict=True)])

    most_v, most_w = most("most_v"), most("most_w")
    fine = np.ones(len(index), dtype=bool)
    for k in range(0, len(index), CHUNK):
        part = slice(k, k + CHUNK)
        carried = carry(antenna, tables, index[part])
        volts = carried.peak_v * math.sqrt(at.task.power_w)
        heat = carried.lost_w * at.task.power_w * at.task.duty
        fine[part] = ((volts <= most_v[:, part]) & (heat <= most_w[:, part])).all(axis=0)
    return fine


def _catalogue(at: _Search, ideal: Ideal, k: int) -> list[Item]:
    """Parts for one place: round the ideal value; all of them where a drawer holds few."""
    slot, line, value = ideal.network.topology.slots[k], ideal.network.lines[k], ideal.values[k]
    shelf, center = at.task.shelf, at.question.center_hz
    if line is not None:
        alike = tuple(
            c
            for c in shelf.cables
            if abs(float(np.asarray(c.thing.cable.impedance_ohm)) / line.pieces / line.impedance_ohm - 1) < ALIKE
        )
        of = Range(value - ASIDE_DEG, value + ASIDE_DEG)
        items = items_of(slot.kind, replace(shelf, cables=alike), center, at.top_hz, of)
        if line.end is not None:
            items = [i for i in items if getattr(i.element, "end", None) == line.end]
        return items
    of = EVERYTHING if _small(shelf) else Range(value / FACTOR, value * FACTOR)
    return at.made(slot.kind, of)


# A drawer of so few things is searched whole.
FEW_THINGS = 40


def _small(shelf: Shelf) -> bool:
    return len(shelf.formers) * max(len(shelf.wires), 1) <= 6 and len(shelf.capacitors) <= FEW_THINGS


def _choice(at: _Search, ideal: Ideal, items: tuple[Item, ...], excess: float, loss_db: float) -> Choice:
    parts: list[FoundPart] = []
    taken: dict[str, int] = {}
    for slot, item in zip(ideal.network.topology.slots, items, strict=True):
        name = item.element.key
        taken[name] = taken.get(name, 0) + 1
        key = name if taken[name] == 1 else f"{name} {taken[name]}"
        changes = {"key": key} if slot.place == "through" else {"key": key, "place": slot.place}
        parts.append(FoundPart(slot, item, replace(item.element, **changes)))  # type: ignore[type-var]
    system = made_design(at.design_of(ideal.shortened), [p.element for p in parts]).system()
    drawn = drawn_swr(system, at.drawn_hz)
    return Choice(
        ideal.network,
        tuple(parts),
        worst_over(system, at.task.design.targets),
        excess,
        loss_db,
        ideal,
        at.drawn_hz,
        drawn,
    )


def drawn_swr(system: System, frequency_hz: Real) -> Real:
    """SWR at the box."""
    return swr_of_impedance(system.impedance(frequency_hz, system.match_station))


def made_design(design: Design, elements: Sequence[DesignElement]) -> Design:
    """A design with these parts above its line."""
    below = tuple(e for e in design.elements if not e.by_hand)
    return replace(design, elements=(*elements, *below))


def _counted(at: _Search) -> Iterator[SearchState]:
    """The cards of the front, with the share of builds that hold."""
    cards = spread_out(at.state.front, MOST_CARDS)
    counted: list[Choice] = []
    for one in cards:
        made = made_design(at.design_of(one.ideal.shortened), [p.element for p in one.parts])
        counted.append(replace(one, share=share_of(made, made.system())))
        at.state = replace(at.state, stage="yield", front=(*counted, *cards[len(counted) :]))
        yield at.state


# Families that are tried for a part of the targets: those that are made most easily.
SIMPLE: tuple[Family, ...] = ("none", "one", "l", "transformer_and")


def _apart(at: _Search) -> Iterator[SearchState]:
    """Where no network serves all targets: which one to give up, and what two networks and a switch would do."""
    targets = tuple(sorted(at.task.design.targets, key=lambda t: t.low_hz))
    simple = [n for n in _networks(at.task) if n.topology.family in SIMPLE]

    def serve(some: Sequence[Target]) -> Iterator[Ideal | None]:
        question = Question.of(at.task.design.antenna.impedance_at, some, POINTS)
        found: Ideal | None = None
        for network in simple:
            ideal = best(network, question, at.task.seed)
            if ideal is not None and (found is None or ideal.excess < found.excess):
                found = ideal
            yield None
        yield found

    for k, target in enumerate(targets):
        found = yield from _last(serve([*targets[:k], *targets[k + 1 :]]), at)
        if found is not None and (at.state.give_up is None or found.excess < at.state.give_up.ideal.excess):
            at.state = replace(at.state, give_up=GivenUp(target, found))
    for k in range(1, len(targets)):
        low = yield from _last(serve(targets[:k]), at)
        high = yield from _last(serve(targets[k:]), at)
        if low is None or high is None:
            continue
        both = Groups(targets[:k], low, targets[k:], high)
        if at.state.switched is None or both.excess < at.state.switched.excess:
            at.state = replace(at.state, switched=both)


def _last(work: Iterator[Ideal | None], at: _Search):  # type: ignore[no-untyped-def]
    """Runs some work to its end, telling how far the search is meanwhile; gives its last word."""
    last: Ideal | None = None
    for found in work:
        last = found
        yield at.state
    return last
