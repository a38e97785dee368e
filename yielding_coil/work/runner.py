"""One piece of shared work, from the line to its end."""

import logging
import threading
from typing import Any
from uuid import UUID

import procrastinate
from fastapi import FastAPI
from pydantic import TypeAdapter
from sqlalchemy import URL, Engine
from sqlalchemy.orm import Session

from yielding_coil.api.http import Problem, TableSink, problem_of
from yielding_coil.api.jobs import PLANS, JobIn
from yielding_coil.core.errors import RefusedError
from yielding_coil.store import jobs as queries
from yielding_coil.store.queue import QUEUE, TASK, taker

# So many at once on a machine; each computes in processes of its own.
AT_ONCE = 2
# So often who works at something says so, and hears whether to go on.
BEAT_S = 0.25
_ASKED: TypeAdapter[Any] = TypeAdapter(JobIn)
_log = logging.getLogger("yielding_coil.work")


def do(app: FastAPI, job_id: UUID) -> None:
    """Do one that waits; it is left alone where it was stopped meanwhile."""
    engine: Engine = app.state.engine
    with Session(engine, expire_on_commit=False) as session, session.begin():
        row = queries.take(session, job_id)
    if row is None:
        return
    sink = TableSink(engine, job_id)
    through = threading.Event()
    beating = threading.Thread(target=_beat, args=(sink, through), daemon=True)
    beating.start()
    state, problem = "failed", None
    try:
        asked = _ASKED.validate_python(row.asked)
        PLANS[row.kind](app, asked).work(sink)
        state = "done" if sink.should_continue() else "stopped"
    except RefusedError as why:
        problem = problem_of(why)
    except Exception:
        _log.exception("job %s failed", job_id)
        detail = "something went wrong here; start again"
        problem = Problem(title="Failed", status=500, code="failed", detail=detail)
    finally:
        through.set()
        beating.join()
        told = None if problem is None else problem.model_dump(mode="json", exclude_none=True)
        with Session(engine) as session, session.begin():
            queries.end(session, job_id, state, told)


def _beat(sink: TableSink, through: threading.Event) -> None:
    while not through.wait(BEAT_S):
        try:
            sink.beat()
        except Exception:
            # The database is away for a moment: whoever listens loses it after ten seconds, not before.
            _log.warning("the database did not answer", exc_info=True)


async def run(app: FastAPI, url: URL, *, at_once: int = AT_ONCE, name: str = "worker") -> None:
    """Take work until cancelled."""
    line = taker(url)
    _give_task(line, app)
    # The first search begins without delay.
    app.state.searchers.get_ready()
    async with line.open_async():
        await line.run_worker_async(
            queues=[QUEUE],
            name=name,
            concurrency=at_once,
            install_signal_handlers=False,
            delete_jobs="always",
            shutdown_graceful_timeout=1.0,
        )


def _give_task(line: procrastinate.App, app: FastAPI) -> None:
    @line.task(name=TASK, queue=QUEUE)
    def compute(job_id: str) -> None:
        do(app, UUID(job_id))
