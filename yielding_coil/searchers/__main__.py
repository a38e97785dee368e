"""A process that searches or compares: it waits for one task, does it, and tells."""

import os
import sys
import time
from collections.abc import Iterator

from yielding_coil.core.choice import Compared, SchoolsTask, compare_schools
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.search import SearchState, SearchTask, search_matches
from yielding_coil.searchers.pipe import received, send

NICE = 10
# So often it tells how far it is.
TELL_EVERY_S = 0.1


def main() -> None:
    """Wait for a task, do it, and tell."""
    os.nice(NICE)
    task = received(sys.stdin.buffer)
    states: Iterator[SearchState | Compared]
    if isinstance(task, SearchTask):
        states = search_matches(task)
    elif isinstance(task, SchoolsTask):
        states = compare_schools(task)
    else:
        return
    told = 0.0
    try:
        for state in states:
            now = time.monotonic()
            if state.stage == "done" or now - told >= TELL_EVERY_S:
                told = now
                send(sys.stdout.buffer, state)
    except RefusedError as why:
        send(sys.stdout.buffer, why)
    except BrokenPipeError:
        # Nobody listens any more: the application has ended.
        os._exit(0)


if __name__ == "__main__":
    main()
