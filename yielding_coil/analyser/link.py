"""The one analyser that is connected: by whom it is used, and what became of it."""

import contextlib
from collections.abc import Iterator, Mapping
from threading import Lock
from typing import Literal, Protocol

from yielding_coil.analyser.driver import AnalyserError, AnalyserGoneError, AnalyserRefusedError
from yielding_coil.analyser.profiles import Profile, profile, profiles
from yielding_coil.analyser.scpi import TIMEOUT_S, ScpiAnalyser
from yielding_coil.core.errors import RefusedError

Kind = Literal["none", "simulated", "address"]


class AnalyserBusyError(RefusedError):
    """It is at another sweep."""

    code = "analyser_busy"
    status = 409


class NoAnalyserError(RefusedError):
    """None is connected."""

    code = "analyser_none"
    status = 409


class Simulated(Protocol):
    """A simulated analyser that can be started, wherever it runs."""

    @property
    def running(self) -> bool: ...

    def start(self) -> str: ...


# Longer than any question but a sweep takes.
LOOK_S = 5.0
# The simulated one shares this computer's cores with everything else: it may be slow, and where it died it is gone.
SIMULATED_S = 60.0


class Link:
    """What the application is connected to. A connection that broke is made anew when it is next used."""

    def __init__(self, simulated: Simulated | None = None, known: Mapping[str, Profile] | None = None) -> None:
        self.profiles = profiles() if known is None else known
        self.kind: Kind = "none"
        self.address = ""
        self.profile_key = "plain"
        self.problem: AnalyserError | None = None
        self.simulated = simulated
        self._analyser: ScpiAnalyser | None = None
        self._lock = Lock()
        self._sweeping = False

    @property
    def busy(self) -> bool:
        """Whether a sweep is under way; somebody who only looks is none."""
        return self._sweeping

    @property
    def connected(self) -> ScpiAnalyser | None:
        """The instrument, while all is well."""
        return self._analyser

    def connect(self, kind: Kind, address: str = "", profile_key: str = "plain") -> None:
        """Connect to another one, or to the same anew.

        Raises:
            AnalyserBusyError, AnalyserError, NotFoundError, OutOfDomainError, NoAnalyserError.
        """
        with self._held():
            self._drop()
            self.kind = "none"
            if kind == "none":
                return
            chosen = profile(profile_key, self.profiles)
            if kind == "simulated":
                if self.simulated is None:
                    raise NoAnalyserError("there is no simulated analyser here: begin the application with ./start")
                address = self.simulated.start()
            self._analyser = self._reached(kind, address, chosen)
            self.kind, self.address, self.profile_key = kind, self._analyser.address, profile_key

    @contextlib.contextmanager
    def using(self, *, sweeping: bool = True) -> Iterator[ScpiAnalyser]:
        """The instrument for oneself; for a moment only where nothing is swept.

        Raises:
            AnalyserBusyError: another sweep is under way.
            NoAnalyserError: none is connected.
            AnalyserError: it cannot be reached any more.
        """
        with self._held(sweeping=sweeping):
            if self.kind == "none":
                raise NoAnalyserError("no analyser is connected; connect one, or the simulated one, first")
            try:
                if self._analyser is None:
                    chosen = profile(self.profile_key, self.profiles)
                    self._analyser = self._reached(self.kind, self.address, chosen)
                    self.problem = None
                yield self._analyser
            except AnalyserError as error:
                self.note(error)
                raise

    def note(self, error: AnalyserError) -> None:
        """What went wrong; after all but the instrument's own refusals the connection is made anew."""
        if not isinstance(error, AnalyserRefusedError):
            self._drop()
            self.problem = error

    def look(self) -> None:
        """Ask who it is, unless it is busy, so that what is said of it is true."""
        if self.kind == "none" or self.busy:
            return
        if self.kind == "simulated" and self.simulated is not None and not self.simulated.running:
            self._drop()
            self.problem = AnalyserGoneError(
                "the simulated analyser has stopped; start it again, what was swept before is kept"
            )

    @contextlib.contextmanager
    def _held(self, *, sweeping: bool = False) -> Iterator[None]:
        # Who only looks is waited for; a sweep takes as long as it takes.
        if not self._lock.acquire(timeout=0 if self._sweeping else LOOK_S):
            raise AnalyserBusyError("the analyser is at another sweep; stop that one first")
        self._sweeping = sweeping
        try:
            yield
        finally:
            self._sweeping = False
            self._lock.release()

    def _reached(self, kind: Kind, address: str, chosen: Profile) -> ScpiAnalyser:
        return ScpiAnalyser(address, chosen, SIMULATED_S if kind == "simulated" else TIMEOUT_S)

    def _drop(self) -> None:
        if self._analyser is not None:
            self._analyser.close()
        self._analyser = None
        self.problem = None
