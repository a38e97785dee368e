"""Work that several processes share: kept going by whoever follows it or asks after it, through any of them."""

import pytest
from sqlalchemy import func, update
from sqlalchemy.orm import Session

from yielding_coil.api.http import QueuedJobs
from yielding_coil.api.http.jobs import JobGoneError
from yielding_coil.store import jobs as queries
from yielding_coil.store.tables import JobRow


@pytest.fixture
def silent(engine):
    """Work of which nobody has heard for longer than anybody waits."""
    with Session(engine) as session, session.begin():
        found = queries.line_up(session, "search", {}, {}).id
        session.execute(update(JobRow).values(heard_at=func.now() - 2 * queries.ABANDONED))
    return found


def taken(engine, job_id):
    with Session(engine) as session, session.begin():
        return queries.take(session, job_id) is not None


def test_who_asks_after_it_keeps_it(engine, silent):
    shared = QueuedJobs(engine, queue=None)
    assert shared.heard(silent)["state"] == "queued"
    assert taken(engine, silent)


def test_what_is_only_looked_at_here_gives_its_place_up(engine, silent):
    shared = QueuedJobs(engine, queue=None)
    assert shared.one(silent)["state"] == "queued"
    assert not taken(engine, silent)
    assert shared.heard(silent)["state"] == "stopped"


def test_nobody_hears_of_what_was_never_lined_up(engine, silent):
    with Session(engine) as session, session.begin():
        session.delete(session.get(JobRow, silent))
    with pytest.raises(JobGoneError):
        QueuedJobs(engine, queue=None).heard(silent)
