"""The queue of work that any process of any machine may take: a library's, in a schema of its own.

Its tables are named by its version and made anew by an update: what waits in a queue is not worth carrying over.
"""

from typing import Any

import procrastinate
from procrastinate.schema import SchemaManager
from sqlalchemy import URL, Engine, text

QUEUE = "compute"
TASK = "compute"
SCHEMA = "queue_" + procrastinate.__version__.replace(".", "_")
# Whoever comes first makes it; any number, the same for all of ours.
_ONE_AT_A_TIME = 0x79636A71


def prepare_queue(engine: Engine) -> None:
    """Make its tables where there are none; those of other versions go."""
    with engine.begin() as connection:
        connection.execute(text(f"SELECT pg_advisory_xact_lock({_ONE_AT_A_TIME})"))
        found = connection.execute(text("SELECT nspname FROM pg_namespace WHERE nspname LIKE 'queue\\_%'"))
        known = set(found.scalars())
        for other in sorted(known - {SCHEMA}):
            connection.execute(text(f'DROP SCHEMA "{other}" CASCADE'))
        if SCHEMA in known:
            return
        connection.execute(text(f"CREATE SCHEMA {SCHEMA}"))
        connection.execute(text(f"SET LOCAL search_path = {SCHEMA}"))
        raw = connection.connection.cursor()
        raw.execute(SchemaManager.get_schema())
        raw.close()


def _connection(url: URL) -> dict[str, Any]:
    """How the library's own pool connects."""
    plain = url.set(drivername="postgresql").render_as_string(hide_password=False)
    return {"conninfo": plain, "min_size": 1, "max_size": 4, "kwargs": {"options": f"-c search_path={SCHEMA}"}}


class Queue:
    """Lines work up."""

    def __init__(self, url: URL) -> None:
        self._app = procrastinate.App(connector=procrastinate.SyncPsycopgConnector(**_connection(url)))
        self._app.open()

    def put(self, job_id: str) -> None:
        """At the end of the line."""
        self._app.configure_task(TASK, queue=QUEUE, allow_unknown=True).defer(job_id=job_id)

    def close(self) -> None:
        """Let go of the database."""
        self._app.close()


def taker(url: URL) -> procrastinate.App:
    """What takes work from the line; its task is to be given under the name `TASK`."""
    return procrastinate.App(connector=procrastinate.PsycopgConnector(**_connection(url)))
