"""A search in a process of its own, a comparison in two: whoever drags does not wait, and it is stopped at once.

Processes stand ready, everything loaded, so that it begins without delay; each serves once.
"""

import os
import select
import subprocess
import sys
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from threading import Lock
from typing import Any

from yielding_coil.core.choice import Compared, SchoolsTask, shared, together
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.search import SearchState, SearchTask
from yielding_coil.searchers.pipe import received, send

Task = SearchTask | SchoolsTask
TOP = Path(__file__).parents[2]
# A comparison is shared among so many: what the speed of a screen is promised on has two cores.
SHARES = 2
# So often it is looked whether somebody wants it stopped.
LOOK_S = 0.05


class SearchLostError(RefusedError):
    """The process that searched has ended before it was through."""

    code = "search_lost"
    status = 503


class Searchers:
    """Processes that search: as many stand ready as were last asked for."""

    def __init__(self) -> None:
        self._spares: list[subprocess.Popen[bytes]] = []
        self._busy: set[int] = set()
        self._stopped = False
        self._lock = Lock()

    @property
    def pids(self) -> frozenset[int]:
        """Processes that search just now."""
        with self._lock:
            return frozenset(self._busy)

    def get_ready(self, many: int = 1) -> None:
        """Have so many stand ready, those that do among them."""
        with self._lock:
            if self._stopped:
                return
            self._spares = [spare for spare in self._spares if spare.poll() is None]
            while len(self._spares) < many:
                self._spares.append(self._begun())

    @staticmethod
    def _begun() -> "subprocess.Popen[bytes]":
        return subprocess.Popen(
            [sys.executable, "-m", "yielding_coil.searchers"],
            cwd=TOP,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={**os.environ, "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"},
            start_new_session=True,  # Ctrl-C in the terminal is for the application alone
        )

    def searched(self, task: SearchTask, should_continue: Callable[[], bool]) -> Iterator[SearchState]:
        """How far a search is, as it goes; ends early where nobody wants it any more.

        Raises:
            RefusedError: as the search refuses.
            SearchLostError: its process ended before it was through.
        """
        for _, state in self._states([task], should_continue):
            yield state

    def compared(self, task: SchoolsTask, should_continue: Callable[[], bool]) -> Iterator[Compared]:
        """The same of a comparison, shared among processes."""
        shares = shared(task, SHARES)
        states: dict[int, Compared] = {}
        for i, state in self._states(shares, should_continue):
            states[i] = state
            yield together(task, [states.get(k) for k in range(len(shares))])

    def _states(self, tasks: Sequence[Task], should_continue: Callable[[], bool]) -> Iterator[tuple[int, Any]]:
        """How far each is, by its place, until all are through."""
        with self._lock:
            alive = [spare for spare in self._spares if spare.poll() is None]
            processes, self._spares = alive[: len(tasks)], alive[len(tasks) :]
            processes += [self._begun() for _ in tasks[len(processes) :]]
            self._busy.update(process.pid for process in processes)
        if len(tasks) < SHARES:
            # A core is free for the next one to load on; beside a comparison none is.
            self.get_ready()
        try:
            yield from self._heard(processes, tasks, should_continue)
        finally:
            with self._lock:
                self._busy.difference_update(process.pid for process in processes)
            for process in processes:
                _end(process)
            self.get_ready(len(tasks))

    @staticmethod
    def _heard(
        processes: "Sequence[subprocess.Popen[bytes]]", tasks: Sequence[Task], should_continue: Callable[[], bool]
    ) -> Iterator[tuple[int, SearchState | Compared]]:
        listening = {}
        for i, (process, task) in enumerate(zip(processes, tasks, strict=True)):
            assert process.stdin is not None
            assert process.stdout is not None
            listening[process.stdout] = i
            try:
                send(process.stdin, task)
            except BrokenPipeError:
                raise _lost() from None
        while listening and should_continue():
            for pipe in select.select(list(listening), [], [], LOOK_S)[0]:
                found = received(pipe)
                if found is None:
                    raise _lost()
                if isinstance(found, RefusedError):
                    raise found
                assert isinstance(found, SearchState | Compared)
                i = listening[pipe]
                if found.stage == "done":
                    del listening[pipe]
                yield i, found

    def stop(self) -> None:
        """Let those that stand ready go; no others come."""
        with self._lock:
            self._stopped = True
            spares, self._spares = self._spares, []
        for spare in spares:
            _end(spare)


def _end(process: "subprocess.Popen[bytes]") -> None:
    process.kill()
    process.wait()
    for pipe in (process.stdin, process.stdout):
        if pipe is not None:
            pipe.close()


def _lost() -> SearchLostError:
    return SearchLostError("the search was ended from outside: start it again", field="job_id")
