"""How often one may ask."""

from yielding_coil.api.http.limits import MOST_CALLERS, Limit


def test_so_much_at_once_and_so_much_a_second_after_that():
    now = [0.0]
    limit = Limit(5, 0.5, lambda: now[0])
    first = [limit.wait_s("a") for _ in range(6)]
    other = limit.wait_s("b")
    now[0] = 2.0

    assert first == [0, 0, 0, 0, 0, 2.0]
    assert other == 0
    assert [limit.wait_s("a") for _ in range(2)] == [0, 2.0]


def test_it_never_holds_more_than_so_many_callers_and_a_long_rest_fills_it_once():
    now = [0.0]
    limit = Limit(2, 1, lambda: now[0])
    for number in range(MOST_CALLERS + 100):
        limit.wait_s(str(number))
    now[0] = 1e6

    assert len(limit._left) == MOST_CALLERS
    assert [limit.wait_s("a") for _ in range(3)] == [0, 0, 1.0]
