"""The private PostgreSQL server: made once, started with the application, on loopback only."""

import contextlib
import os
import re
import secrets
import shutil
import signal
import socket
import subprocess
import threading
import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from itertools import pairwise
from pathlib import Path

from sqlalchemy import URL

from yielding_coil.store.folder import ServerError, as_owner, disk_full, is_full, owner, prepare

USER = "yielding_coil"
DATABASE = "yielding_coil"


# Where Debian puts them.
PROGRAMS = Path("/usr/lib/postgresql")
_VERSION = re.compile(r"\d+(\.\d+)?")


def versions() -> dict[str, Path]:
    """Folders of the PostgreSQL server programs by version, the newest last; Debian keeps them off the path."""
    found = [p.parent for p in PROGRAMS.glob("*/bin/pg_ctl")]
    numbered = [p for p in found if _VERSION.fullmatch(p.parent.name)]
    return {p.parent.name: p for p in sorted(numbered, key=lambda p: float(p.parent.name))}


@dataclass(slots=True)
class PrivateServer:
    """One cluster in one folder; `start` gives the address, `stop` takes it down.

    Args:
        folder: holds `pg/`, the password and the log; made when it is not there.
        fsync: off only for tests, whose data nobody wants back.
    """

    folder: Path
    fsync: bool = True
    port: int = 0
    max_connections: int = 100
    _reviving: threading.Lock = field(default_factory=threading.Lock, repr=False)

    @property
    def cluster(self) -> Path:
        """The data folder of the server."""
        return self.folder / "pg"

    def start(self) -> URL:
        """Make the cluster if need be, stop what an earlier end left running, start, and make the database.

        Raises:
            ServerError: no server programs, a version that does not fit, or it does not come up.
        """
        prepare(self.folder)
        if not (self.cluster / "PG_VERSION").exists():
            self._make_cluster()
        self._programs()
        self._password()
        self._stop_orphan()
        for _ in range(8):  # another program may take the port between looking and starting
            self.port = _free_port()
            if self._launch():
                break
            time.sleep(0.25)
        else:
            raise self._why(f"PostgreSQL does not start; its log is {self.folder / 'postgresql.log'}")
        self._make_database()
        return self.url()

    def url(self, database: str = DATABASE) -> URL:
        """The address of a database of this server."""
        return URL.create(
            "postgresql+psycopg",
            username=USER,
            password=self._password(),
            host="127.0.0.1",
            port=self.port,
            database=database,
        )

    def revive(self) -> None:
        """Start the server again on its port, where it has stopped by itself; one at a time."""
        if not self._reviving.acquire(blocking=False):
            return
        try:
            for _ in range(20):
                if self._running() is not None:
                    return
                self._end_left_behind()
                self._forget_number()
                if self._launch():
                    return
                time.sleep(0.25)
        finally:
            self._reviving.release()

    def dump(self, file: Path) -> None:
        """The whole database into a file, as PostgreSQL's own tools write it; whole or not at all.

        Raises:
            ServerError: it could not be written.
        """
        part = file.with_name(f"{file.name}.part")
        self._with_tools(
            f"the backup {file} could not be written", "pg_dump", "--format=custom", f"--file={part}", DATABASE
        )
        part.replace(file)

    def take_dump(self, file: Path) -> None:
        """A dump into the empty database of this server: all of it, or nothing.

        Raises:
            ServerError: it is none, or does not fit.
        """
        self._with_tools(
            f"{file} could not be taken in",
            *("pg_restore", "--single-transaction", "--no-owner", f"--dbname={DATABASE}", str(file)),
        )

    def _with_tools(self, otherwise: str, program: str, *arguments: str) -> None:
        connection = {
            "PGHOST": "127.0.0.1",
            "PGPORT": str(self.port),
            "PGUSER": USER,
            "PGPASSWORD": self._password(),
        }
        done = self._run(program, *arguments, timeout=3600, more=connection)
        if done.returncode:
            raise self._why(f"{otherwise}; see {self.folder / 'commands.log'}")

    def look(self) -> None:
        """Start it again where it has stopped by itself."""
        if self._running() is None:
            self.revive()

    def stop(self) -> None:
        """Stop the server; quick, and harmless when it has gone."""
        self._stop_orphan()

    def _programs(self) -> Path:
        """Of the version that made the data, or of the newest where there are none yet."""
        known = versions()
        made_by = self.cluster / "PG_VERSION"
        if made_by.exists() and known:
            version = made_by.read_text().strip()
            if version not in known:
                raise ServerError(
                    f"the data in {self.cluster} were made by PostgreSQL {version}; "
                    f"run: apt-get install postgresql-{version}. Where that is no longer to be had, do it on a "
                    "computer that has it: ./backup FILE there, and here ./restore FILE --data A_NEW_FOLDER, which "
                    f"takes the newest PostgreSQL there is ({list(known)[-1]})."
                )
            return known[version]
        on_path = shutil.which("pg_ctl")
        if known or on_path:
            return list(known.values())[-1] if known else Path(str(on_path)).parent
        raise ServerError("PostgreSQL is not installed; run: apt-get install postgresql")

    def _run(
        self, program: str, *arguments: str, timeout: float = 120, more: Mapping[str, str] | None = None
    ) -> subprocess.CompletedProcess[bytes]:
        where = self._programs()
        output = self.folder / "commands.log"
        with output.open("ab") as log:  # a pipe would stay open in the server and never end
            return subprocess.run(
                [str(where / program), *arguments],
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                cwd="/",
                timeout=timeout,
                check=False,
                env={"PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8", **(more or {})},
                **as_owner(),
            )

    def _password(self) -> str:
        path = self.folder / "password"
        known = path.read_text().strip() if path.exists() else ""
        if known:
            return known
        if self.cluster.exists():
            raise ServerError(
                f"{path} is empty or gone, and the data in {self.cluster} cannot be opened without it: "
                "put it back from your backup"
            )
        # Whole or not at all: an empty one would be kept for ever.
        new = self.folder / "password.new"
        new.touch(mode=0o600)
        new.write_text(secrets.token_urlsafe(24))
        mine = owner()
        if mine is not None:
            os.chown(new, mine.pw_uid, mine.pw_gid)
        new.rename(path)
        return path.read_text().strip()

    def _make_cluster(self) -> None:
        new = self.folder / "pg.new"
        if new.exists():  # an earlier attempt was cut short
            shutil.rmtree(new)
        self._password()
        done = self._run(
            "initdb",
            "-D",
            str(new),
            "-U",
            USER,
            "--auth=scram-sha-256",
            f"--pwfile={self.folder / 'password'}",
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            "--data-checksums",
        )
        if done.returncode:
            shutil.rmtree(new, ignore_errors=True)
            raise self._why(f"the database could not be made; see {self.folder / 'commands.log'}")
        new.rename(self.cluster)

    def _why(self, otherwise: str) -> ServerError:
        """What to say when the database does not come up."""
        log = self.folder / "commands.log"
        last = log.read_text(errors="replace")[-2000:] if log.exists() else ""
        return disk_full(self.folder) if is_full(self.folder) or "No space left" in last else ServerError(otherwise)

    def is_disk_full(self) -> bool:
        """Whether there is no room left for the data."""
        return is_full(self.folder)

    def _launch(self) -> bool:
        settings = [
            f"-c port={self.port}",
            "-c listen_addresses=127.0.0.1",
            "-c unix_socket_directories=''",
            f"-c max_connections={self.max_connections}",
        ]
        if not self.fsync:
            settings += ["-c fsync=off", "-c synchronous_commit=off", "-c full_page_writes=off"]
        log = str(self.folder / "postgresql.log")
        done = self._run(
            "pg_ctl", "-D", str(self.cluster), "-l", log, "-w", "-t", "60", "-o", " ".join(settings), "start"
        )
        return done.returncode == 0

    def _running(self) -> int | None:
        """The server's process, read from its own file and held against what runs under that number."""
        try:
            pid = int((self.cluster / "postmaster.pid").read_text().split("\n")[0])
            command = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        except (OSError, ValueError):
            return None
        # The whole name: another instance's folder may begin with ours.
        ours = any(os.fsencode(self.cluster) == value for name, value in pairwise(command) if name == b"-D")
        return pid if ours and b"postgres" in command[0] else None

    def _stop_orphan(self) -> None:
        for how, seconds in ((signal.SIGINT, 5.0), (signal.SIGQUIT, 5.0), (signal.SIGKILL, 5.0)):
            pid = self._running()
            if pid is None:
                break
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, how)
            end = time.monotonic() + seconds
            while self._running() is not None and time.monotonic() < end:
                time.sleep(0.02)
        self._forget_number()

    def _end_left_behind(self) -> None:
        """End what a server that died has left: some of its processes go by themselves, one may hang for ever.

        They are told by where they work, the cluster's own folder; what they were at is undone by the next start.
        """
        for place in Path("/proc").iterdir():
            if place.name.isdigit():
                with contextlib.suppress(OSError):
                    if os.readlink(place / "cwd") == str(self.cluster):
                        os.kill(int(place.name), signal.SIGKILL)

    def _forget_number(self) -> None:
        """Drop a process number that something else has by now.

        A number that nobody has is left: PostgreSQL itself then looks whether a backend of the last server still
        holds its memory, and waits with us until it has gone.
        """
        path = self.cluster / "postmaster.pid"
        with contextlib.suppress(OSError, ValueError):
            if Path(f"/proc/{int(path.read_text().split(chr(10))[0])}").exists():
                path.unlink(missing_ok=True)

    def _make_database(self) -> None:
        import psycopg

        with psycopg.connect(
            host="127.0.0.1",
            port=self.port,
            user=USER,
            password=self._password(),
            dbname="postgres",
            autocommit=True,
        ) as connection:
            known = connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", [DATABASE]).fetchone()
            if known is None:
                connection.execute(f"CREATE DATABASE {DATABASE}")


@contextlib.contextmanager
def running(folder: Path, *, fsync: bool = True) -> Iterator[PrivateServer]:
    """A private server for as long as the block lasts."""
    server = PrivateServer(folder, fsync=fsync)
    server.start()
    try:
        yield server
    finally:
        server.stop()


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
