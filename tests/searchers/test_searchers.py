"""The search in a process of its own: told as it goes, stopped at once, lost when somebody kills it."""

import os
import signal
import time

import pytest
from made_matches import FIFTEEN, a_shelf

from yielding_coil import data
from yielding_coil.core.choice import SCHOOLS, Place, SchoolsTask, compare_schools
from yielding_coil.core.design import Design
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.search import SearchTask
from yielding_coil.core.system import Element
from yielding_coil.searchers import Searchers, SearchLostError

# Each begins a process or two.
pytestmark = pytest.mark.deep

SHELF = a_shelf(capacitors=[(pf, 1000.0, 2) for pf in (3.9, 10, 22, 47, 100)])


def task(load=85 - 411j, **more):
    return SearchTask(Design(antenna=FixedLoad(load), targets=(FIFTEEN,), elements=()), SHELF, **more)


@pytest.fixture
def searchers():
    some = Searchers()
    yield some
    some.stop()


def always():
    return True


def test_a_search_is_told_of_to_its_end(searchers):
    states = list(searchers.searched(task(), always))

    assert states[-1].stage == "done"
    assert states[-1].front
    assert not searchers.pids


def test_what_the_search_refuses_is_refused_here(searchers):
    with pytest.raises(OutOfDomainError, match="a resistance above zero"):
        list(searchers.searched(task(-3 + 2j), always))


def test_one_that_nobody_wants_any_more_ends_at_once(searchers):
    asked = [True]
    states = searchers.searched(task(), lambda: asked[0])
    next(states)
    (pid,) = searchers.pids

    asked[0] = False
    begun = time.perf_counter()
    assert list(states) == []

    assert time.perf_counter() - begun < 0.2
    assert not searchers.pids
    with pytest.raises(ProcessLookupError):
        os.kill(pid, 0)


def test_a_killed_process_is_told_and_the_next_search_works(searchers):
    states = searchers.searched(task(), always)
    next(states)
    (pid,) = searchers.pids
    os.kill(pid, signal.SIGKILL)

    with pytest.raises(SearchLostError, match="start it again"):
        list(states)

    assert list(searchers.searched(task(), always))[-1].stage == "done"


def test_two_search_beside_each_other(searchers):
    one, other = searchers.searched(task(), always), searchers.searched(task(30 - 200j), always)
    firsts = next(one), next(other)

    assert len(searchers.pids) == 2
    assert firsts[0].ideals != firsts[1].ideals
    assert [list(s)[-1].stage for s in (one, other)] == ["done", "done"]


def test_a_comparison_in_two_is_the_one_in_one(searchers):
    schools = ("dipole", "inverted-v", "vertical", "sloping-dipole")
    line = (Element("line", "through", Line(data.cables()["foam-10"].cable, 10.0)),)
    asked = SchoolsTask(
        Place(7.0, 20.0), (FIFTEEN,), {SCHOOLS[key].kind_key: (line,) for key in schools}, schools=schools
    )
    busy = []

    def watched():
        busy.append(len(searchers.pids))
        return True

    states = list(searchers.compared(asked, watched))

    # Written down for comparing: an antenna hung is not equal to another one just like it.
    assert repr(states[-1]) == repr(list(compare_schools(asked))[-1])
    assert max(busy) == 2
    assert not searchers.pids


def test_one_stands_ready_and_goes_with_the_application(searchers):
    searchers.get_ready()
    searchers.get_ready()
    (spare,) = searchers._spares

    searchers.stop()

    assert spare.poll() is not None
