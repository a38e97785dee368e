"""A refusal goes from one process to another with everything that it says."""

import pickle

import pytest

from yielding_coil.core.errors import NotMatchableError, OutOfDomainError, RefusedError, UnreadableError


@pytest.mark.parametrize(
    "error",
    [
        OutOfDomainError("turns", 0, "1 or more"),
        UnreadableError("no number", line=7, accepted="numbers"),
        NotMatchableError("no resistance", field="load_ohm", came_in="R 0", accepted="R above zero"),
        RefusedError("no", field="it", newest=3),
    ],
)
def test_it_comes_out_as_it_went_in(error):
    again = pickle.loads(pickle.dumps(error))

    assert type(again) is type(error)
    assert str(again) == str(error)
    assert vars(again) == vars(error)
