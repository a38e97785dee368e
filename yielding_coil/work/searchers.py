"""The search in a process of its own: whoever drags meanwhile does not wait, and it is stopped at once.

One process stands ready, everything loaded, so that a search begins without delay; each serves one search.
"""

import os
import select
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from threading import Lock
from typing import Any, overload

from yielding_coil.core.choice import Compared, SchoolsTask
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.search import SearchState, SearchTask
from yielding_coil.work.pipe import received, send

Task = SearchTask | SchoolsTask
TOP = Path(__file__).parents[2]
# So often it is looked whether somebody wants it stopped.
LOOK_S = 0.05


class SearchLostError(RefusedError):
    """The process that searched has ended before it was through."""

    code = "search_lost"
    status = 503


class Searchers:
    """Processes that search: one stands ready."""

    def __init__(self) -> None:
        self._spare: subprocess.Popen[bytes] | None = None
        self._busy: set[int] = set()
        self._lock = Lock()

    @property
    def pids(self) -> frozenset[int]:
        """Processes that search just now."""
        with self._lock:
            return frozenset(self._busy)

    def get_ready(self) -> None:
        """Have one stand ready, unless one does."""
        with self._lock:
            if self._spare is None or self._spare.poll() is not None:
                self._spare = self._begun()

    @staticmethod
    def _begun() -> "subprocess.Popen[bytes]":
        return subprocess.Popen(
            [sys.executable, "-m", "yielding_coil.work"],
            cwd=TOP,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={**os.environ, "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"},
            start_new_session=True,  # Ctrl-C in the terminal is for the application alone
        )

    @overload
    def states(self, task: SearchTask, should_continue: Callable[[], bool]) -> Iterator[SearchState]: ...

    @overload
    def states(self, task: SchoolsTask, should_continue: Callable[[], bool]) -> Iterator[Compared]: ...

    def states(self, task: Task, should_continue: Callable[[], bool]) -> Iterator[Any]:
        """How far the search or the comparison is, as it goes; ends early where nobody wants it any more.

        Raises:
            RefusedError: as the search refuses.
            SearchLostError: its process ended before it was through.
        """
        self.get_ready()
        with self._lock:
            process, self._spare = self._spare or self._begun(), None
            self._busy.add(process.pid)
        self.get_ready()
        try:
            yield from self._heard(process, task, should_continue)
        finally:
            with self._lock:
                self._busy.discard(process.pid)
            _end(process)

    @staticmethod
    def _heard(
        process: "subprocess.Popen[bytes]", task: Task, should_continue: Callable[[], bool]
    ) -> Iterator[SearchState | Compared]:
        assert process.stdin is not None
        assert process.stdout is not None
        try:
            send(process.stdin, task)
        except BrokenPipeError:
            raise _lost() from None
        while should_continue():
            if not select.select([process.stdout], [], [], LOOK_S)[0]:
                continue
            found = received(process.stdout)
            if found is None:
                raise _lost()
            if isinstance(found, RefusedError):
                raise found
            assert isinstance(found, SearchState | Compared)
            yield found
            if found.stage == "done":
                return

    def stop(self) -> None:
        """Let the one that stands ready go."""
        with self._lock:
            spare, self._spare = self._spare, None
        if spare is not None:
            _end(spare)


def _end(process: "subprocess.Popen[bytes]") -> None:
    process.kill()
    process.wait()
    for pipe in (process.stdin, process.stdout):
        if pipe is not None:
            pipe.close()


def _lost() -> SearchLostError:
    return SearchLostError("the search was ended from outside: start it again", field="job_id")
