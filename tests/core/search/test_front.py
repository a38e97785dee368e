"""Dominance: what is beaten, what is equal, what its parts do not bear."""

from dataclasses import dataclass

import numpy as np
import pytest

from yielding_coil.core.search.front import Worth, front_of, spread_out, undominated


@dataclass(frozen=True)
class Made:
    worth: Worth
    ties: tuple
    kind: str = "l"


def made(excess, loss, parts, *ties):
    return Made(Worth(excess, loss, parts), ties)


def everything(places):
    return np.ones(len(places), dtype=bool)


def test_only_what_nothing_beats_is_left_and_of_equals_the_smaller():
    best, lean, single = made(100, 30, 2, 1.0), made(120, 5, 2, 1.0), made(150, 30, 1, 1.0)
    beaten, larger = made(121, 6, 2, 1.0), made(100, 30, 2, 2.0)

    assert front_of([beaten, larger, single, lean, best]) == [best, lean, single]


@pytest.mark.parametrize("seed", range(5))
def test_a_sorted_sweep_finds_what_comparing_all_pairs_finds(seed):
    rng = np.random.default_rng(seed)
    excess, loss = rng.integers(0, 40, 400), rng.integers(0, 40, 400)
    bears = rng.random(400) < 0.5

    found = undominated(excess, loss, rng.random(400), lambda p: bears[p])

    pairs = {(int(a), int(b)) for a, b in zip(excess[bears], loss[bears], strict=True)}
    wanted = {p for p in pairs if not any(o != p and o[0] <= p[0] and o[1] <= p[1] for o in pairs)}
    assert {(int(excess[k]), int(loss[k])) for k in found} == wanted
    assert bears[found].all()


def test_nothing_that_holds_leaves_nothing():
    none = undominated(np.arange(9), np.arange(9)[::-1], np.zeros(9), lambda p: np.zeros(len(p), dtype=bool))

    assert none.size == 0


def test_cards_that_show_nothing_new_are_left_and_another_network_is_new():
    alike = [made(100 + k, 30 - k // 4, 2, 0.0) for k in range(12)]
    other = Made(Worth(105, 29, 2), (0.0,), "pi")
    far = made(400, 0, 2, 0.0)

    cards = spread_out([*alike, other, far], 12)

    assert {other, far} <= set(cards)
    assert len(cards) < 8
    assert spread_out([], 12) == []


def test_cards_keep_the_ends_of_a_long_front():
    front = [made(100 + k, 60 - k, 2, 0.0) for k in range(60)]

    cards = spread_out(front, 8)

    assert len(cards) == 8
    assert cards[0] == front[0]
    assert cards[-1] == front[-1]
    assert undominated(np.array([1]), np.array([1]), np.zeros(1), everything).tolist() == [0]
