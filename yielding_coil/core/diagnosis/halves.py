"""The same search without a model: every test says good or bad of what it reaches, and halves what is left."""

from typing import NamedTuple

from yielding_coil.core.diagnosis.acts import AS_IT_IS, Act, acts_of, looks_at
from yielding_coil.core.diagnosis.installation import Installation
from yielding_coil.core.diagnosis.suspects import elements_of


class Halving(NamedTuple):
    """How long a search took.

    Args:
        tests: done until nothing more could be told apart.
        walks: of those in the garden or up the ladder.
        effort: of all of them.
        left: elements that are still possible.
    """

    tests: int
    walks: int
    effort: int
    left: tuple[str, ...]


def reaches(one: Installation, act: Act, key: str) -> bool:
    """Whether a test says anything of an element."""
    if act.view is None:
        return looks_at(one, act, key)
    slots = {slot.key for slot in one.slots[act.view.top : act.view.bottom]}
    known = {slot.key for slot in one.slots}
    return key in slots or (key not in known and act.view.closed == "antenna")


def by_halves(one: Installation, key: str) -> Halving:
    """A search that always halves what is left, whose tests never err, until it knows the element or can no more.

    Args:
        key: of the element that is really broken.

    Source:
        Bisection along the way of the power (common practice: "by halves").
    """
    left = set(elements_of(one))
    acts = [act for act in acts_of(one) if act.key != AS_IT_IS]
    done: list[Act] = []
    while len(left) > 1:
        best, even = None, 0.0
        for act in acts:
            share = sum(reaches(one, act, each) for each in left) / len(left)
            # The most even split first; of those alike, the one with the least effort.
            score = min(share, 1 - share) - 0.001 * act.effort
            if 0 < share < 1 and (best is None or score > even):
                best, even = act, score
        if best is None:
            break
        done.append(best)
        acts.remove(best)
        hit = reaches(one, best, key)
        left = {each for each in left if reaches(one, best, each) == hit}
    walks = sum(act.where != "shack" for act in done)
    return Halving(len(done), walks, sum(act.effort for act in done), tuple(sorted(left)))
