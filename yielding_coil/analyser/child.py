"""The simulated analyser as a child process: started, found, started again."""

import subprocess
import sys
from pathlib import Path
from threading import Lock

TOP = Path(__file__).parents[2]


class SimulatorChild:
    """Keeps one simulated analyser running; it ends with this process."""

    def __init__(self) -> None:
        self._process: subprocess.Popen[str] | None = None
        self._address = ""
        self._lock = Lock()

    @property
    def running(self) -> bool:
        """Whether it runs."""
        return self._process is not None and self._process.poll() is None

    @property
    def pid(self) -> int | None:
        """Its process, while it runs."""
        return self._process.pid if self._process is not None and self.running else None

    @property
    def address(self) -> str:
        """host:port where it was last found."""
        return self._address

    def start(self) -> str:
        """Start it unless it runs; gives its address."""
        with self._lock:
            if not self.running:
                self._let_go()
                self._process = subprocess.Popen(
                    [sys.executable, "-m", "yielding_coil.analyser.simulator"],
                    cwd=TOP,
                    stdin=subprocess.PIPE,
                    stdout=subprocess.PIPE,
                    text=True,
                    start_new_session=True,  # Ctrl-C in the terminal is for the application alone
                )
                assert self._process.stdout is not None
                self._address = self._process.stdout.readline().strip()
            return self._address

    def stop(self) -> None:
        """End it."""
        with self._lock:
            self._let_go()

    def _let_go(self) -> None:
        if self._process is None:
            return
        self._process.kill()
        self._process.wait()
        for pipe in (self._process.stdin, self._process.stdout):
            if pipe is not None:
                pipe.close()
        self._process = None
