"""How often one may ask: so much at once, and so much a second after that."""

import time
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

# As many callers are remembered; the one that was quiet longest is forgotten first.
MOST_CALLERS = 4096


class Limit:
    """A bucket a caller that holds `burst` and fills by `per_s`."""

    def __init__(self, burst: float, per_s: float, clock: Callable[[], float] = time.monotonic) -> None:
        self._burst, self._per_s, self._clock = burst, per_s, clock
        self._left: OrderedDict[str, tuple[float, float]] = OrderedDict()
        self._lock = Lock()

    def wait_s(self, caller: str) -> float:
        """Take one out: 0 where there was one, else in how many seconds there will be."""
        now = self._clock()
        with self._lock:
            left, since = self._left.pop(caller, (self._burst, now))
            left = min(self._burst, left + (now - since) * self._per_s)
            taken = left >= 1
            self._left[caller] = (left - 1 if taken else left, now)
            while len(self._left) > MOST_CALLERS:
                self._left.popitem(last=False)
        return 0.0 if taken else (1 - left) / self._per_s


class Limits:
    """What callers from outside this computer are held to, a process each."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        # Dragging asks some thirty times a second; a page that opens, for some dozens of things at once.
        self.paired = Limit(400, 100, clock)
        # The form that pairs is all they get.
        self.unpaired = Limit(60, 5, clock)
        # Five slips of a finger, then one guess in ten seconds.
        self.guesses = Limit(5, 0.1, clock)
