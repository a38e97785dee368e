"""Backup and restore from a script: `python -m yielding_coil.archive backup FILE`, `... restore FILE`.

Both work on a data folder while the application is stopped; what was there stays as it was until the last moment.
"""

import argparse
import fcntl
import os
import shutil
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from yielding_coil.core.errors import RefusedError
from yielding_coil.formats.archive import ArchiveReader
from yielding_coil.store.archive_in import contents_of, sizes, take_in
from yielding_coil.store.archive_out import collect, number_of_builds, written
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import ServerError, default_folder, owner, prepare
from yielding_coil.store.migrate import shape_of
from yielding_coil.store.server import PrivateServer
from yielding_coil.store.update import update

# How a dump of PostgreSQL begins.
DUMP = b"PGDMP"


def _arguments(argv: list[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(
        prog="python -m yielding_coil.archive (./backup, ./restore)", description=__doc__
    )
    ways = parser.add_subparsers(dest="way", required=True)
    for way, what in (("backup", "write everything into FILE"), ("restore", "take everything of FILE in")):
        one = ways.add_parser(way, help=what)
        one.add_argument("file", type=Path)
        one.add_argument("--data", type=Path, default=default_folder(), help="folder that holds your data")
        if way == "restore":
            one.add_argument("--add", action="store_true", help="beside the builds that are there already")
        else:
            one.add_argument("--without-positions", action="store_true", help="photographs do not say where")
    return parser.parse_args(argv)


@contextmanager
def _opened(folder: Path, dump: Path | None = None) -> Iterator[Engine]:
    """The data in a folder, for as long as the block lasts; refused while the application runs on it.

    With a `dump` its database is made of that first.
    """
    prepare(folder)
    with (folder / "lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise ServerError(
                f"Yielding Coil runs on the data in {folder}. Stop it first, or use Backup and Restore on its page."
            ) from None
        server = PrivateServer(folder)
        try:
            engine = connect(server.start())
            try:
                if dump is not None:
                    _take_dump(server, engine, dump)
                update(server, engine)
                yield engine
            finally:
                engine.dispose()
        finally:
            server.stop()


def _progress(done: int, of: int) -> None:
    if sys.stderr.isatty():
        print(f"\r{done / 1e6:8.1f} of about {of / 1e6:.1f} MB", end="", file=sys.stderr, flush=True)


def backup(folder: Path, file: Path, *, positions: bool) -> None:
    """Everything into a file; an older one of that name is there until the new one is whole."""
    part = file.with_name(f"{file.name}.part")
    with _opened(folder) as engine:
        with Session(engine) as session:
            found = collect(session, None, positions=positions)
        with part.open("wb") as out:
            for piece in written(engine, found, _progress):
                out.write(piece)
            out.flush()
            os.fsync(out.fileno())
        part.replace(file)
    told = ", ".join(f"{count} {what}" for what, count in sizes(found.contents).items())
    print(f"{file}: {file.stat().st_size / 1e6:.1f} MB, {told}")


def _take_dump(server: PrivateServer, engine: Engine, dump: Path) -> None:
    if shape_of(engine) is not None:
        raise ServerError(
            f"{server.folder} is in use already, and a backup of an update stands for a whole folder. Restore it "
            "into a new one with --data."
        )
    # The database's user has to read it, wherever it lies.
    with tempfile.NamedTemporaryFile(dir=server.folder, prefix="pg.dump.") as copy:
        shutil.copyfile(dump, copy.name)
        mine = owner()
        if mine is not None:
            os.chown(copy.name, mine.pw_uid, mine.pw_gid)
        server.take_dump(Path(copy.name))


def restore(folder: Path, file: Path, *, add: bool) -> None:
    """Everything of a file into a folder, in one transaction: all of it, or nothing."""
    with file.open("rb") as held:
        # A backup that an update made is the database as its own tools wrote it.
        dumped = held.read(len(DUMP)) == DUMP
    if dumped:
        with _opened(folder, file):
            print(f"Taken in: all of {file}, as it was before that update")
        return
    with (
        file.open("rb") as held,
        ArchiveReader(held) as reader,
        _opened(folder) as engine,
        Session(engine) as session,
        session.begin(),
    ):
        there = number_of_builds(session)
        if there and not add:
            raise ServerError(
                f"{folder} holds builds of yours already, {there}. Restore into an empty folder with --data, or "
                "beside them with --add."
            )
        contents = contents_of(reader)
        take_in(session, reader, contents, _progress, settings=not there)
    told = ", ".join(f"{count} {what}" for what, count in sizes(contents).items())
    print(f"Taken in: {told}")


def main(argv: list[str] | None = None) -> None:
    """Say what was done, or in words why not."""
    asked = _arguments(argv)
    folder: Path = asked.data.expanduser().resolve()
    try:
        if asked.way == "backup":
            backup(folder, asked.file, positions=not asked.without_positions)
        else:
            restore(folder, asked.file, add=asked.add)
    except (ServerError, RefusedError) as why:
        sys.exit(str(why))
    except OSError as why:
        sys.exit(f"{asked.file}: {why.strerror or why}")


if __name__ == "__main__":
    os.umask(0o077)
    main()
