"""What is not ours is not touched: each start that cannot be ends in words, and the next one needs no hand."""

import contextlib
import os
import subprocess
import sys
import time
from pathlib import Path

import pytest
from patience import PATIENCE_S
from sqlalchemy import create_engine, text

from yielding_coil.store import server as servers
from yielding_coil.store.folder import ServerError, prepare
from yielding_coil.store.server import PrivateServer

TOP = Path(__file__).parents[2]
as_root = pytest.mark.skipif(os.geteuid() != 0, reason="only root meets this")
NOBODY = 65534


def seen(path):
    """What of a folder may not change: owner, mode, and what lies in it."""
    found = path.stat()
    return (
        found.st_uid,
        found.st_gid,
        found.st_mode,
        sorted(os.listdir(path)) if path.is_dir() else path.read_bytes(),
    )


def refused(path, why):
    before = seen(path)
    with pytest.raises(ServerError, match=why):
        prepare(path)
    assert seen(path) == before


def test_a_folder_with_other_things_in_it_is_left_alone(top):
    (top / "letters.txt").write_text("dear")
    refused(top, r"holds other things \(letters\.txt\)")


def holding_data(path):
    """A folder as a start leaves it, as far as it is known again by."""
    prepare(path)
    (path / "pg").mkdir()
    (path / "pg" / "PG_VERSION").write_text("15\n")
    (path / "password").write_text("secret")


def test_a_note_beside_ones_data_shuts_nobody_out(top):
    holding_data(top / "data")
    (top / "data" / "letters.txt").write_text("dear")
    prepare(top / "data")
    assert (top / "data" / "letters.txt").read_text() == "dear"


@pytest.mark.parametrize("inside", ["more", "pg/more", "more/and/more", "../data/more"])
def test_no_data_begin_inside_anothers_folder(top, inside):
    holding_data(top / "data")
    with pytest.raises(ServerError, match="holds the data of another Yielding Coil. Choose a folder beside it"):
        prepare(top / "data" / inside)
    assert sorted(os.listdir(top / "data")) == ["password", "pg"]
    prepare(top / "data2")


def test_a_file_is_no_folder(top):
    (top / "data").write_text("words")
    refused(top / "data", "is a file")
    with pytest.raises(ServerError, match="something above it is a file"):
        prepare(top / "data" / "inside")


@as_root
def test_somebody_elses_folder_is_left_alone(top):
    (top / "data").mkdir()
    os.chown(top / "data", NOBODY, NOBODY)
    refused(top / "data", "belongs to the user “nobody”. Start the application as that user")


def test_a_folder_open_to_all_is_not_taken(top):
    (top / "data").mkdir()
    (top / "data").chmod(0o1777)
    refused(top / "data", "open to be written by others")


@as_root
@pytest.mark.deep
def test_new_folders_in_new_folders_can_be_entered_by_the_database(top):
    before = os.umask(0o077)
    try:
        server = PrivateServer(top / "a" / "b" / "c", fsync=False)
        server.start()
        server.stop()
    finally:
        os.umask(before)
    assert (top / "a").stat().st_mode & 0o777 == 0o755
    assert (top / "a" / "b" / "c").stat().st_mode & 0o777 == 0o700


@as_root
def test_a_folder_above_that_is_closed_is_said(top):
    (top / "closed").mkdir(mode=0o700)
    with pytest.raises(ServerError, match="cannot be written by the user “postgres”"):
        prepare(top / "closed" / "data")


@contextlib.contextmanager
def mounted(top, size):
    disk = top / "small"
    disk.mkdir()
    if subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={size}", "tmpfs", str(disk)]).returncode:
        pytest.skip("nothing may be mounted here")
    disk.chmod(0o755)
    try:
        yield disk
    finally:
        # The server gives up its number a moment before its last process leaves the folder.
        for _ in range(100):
            if subprocess.run(["umount", str(disk)], capture_output=True).returncode == 0:
                break
            time.sleep(0.1)
        else:
            subprocess.run(["umount", str(disk)], check=True)


@as_root
@pytest.mark.deep
def test_a_full_disk_at_the_first_start_is_said_and_the_next_start_needs_no_hand(top):
    with mounted(top, "24m") as disk:
        for _ in range(2):
            with pytest.raises(ServerError, match="is full. Make room on it"):
                PrivateServer(disk / "data", fsync=False).start()
        subprocess.run(["mount", "-o", "remount,size=200m", str(disk)], check=True)
        server = PrivateServer(disk / "data", fsync=False)
        server.start()
        server.stop()


@as_root
@pytest.mark.deep
def test_a_disk_that_fills_while_saving_is_said_and_what_was_kept_stays(top):
    with mounted(top, "120m") as disk, contextlib.ExitStack() as after:
        server = PrivateServer(disk / "data")
        after.callback(server.stop)
        engine = create_engine(server.start())
        with engine.begin() as connection:
            connection.execute(text("CREATE TABLE kept (n int, words text)"))
            connection.execute(text("INSERT INTO kept VALUES (1, 'before')"))
        free = os.statvfs(disk).f_bavail * os.statvfs(disk).f_frsize
        (disk / "filler").write_bytes(b"\0" * (free - 4096))
        assert server.is_disk_full()
        (disk / "filler").unlink()
        assert not server.is_disk_full()
        server.revive()
        engine.dispose()
        with engine.connect() as connection:
            assert connection.execute(text("SELECT words FROM kept")).scalars().all() == ["before"]
        engine.dispose()


@pytest.mark.deep
def test_of_two_versions_the_one_that_made_the_data_is_taken(top, monkeypatch):
    real = servers.versions()
    name, programs = list(real.items())[-1]
    fake = top / "programs"
    for other in ("99", "99beta", "98.6"):
        (fake / other / "bin").mkdir(parents=True)
        (fake / other / "bin" / "pg_ctl").write_text("#!/bin/sh\nexit 1\n")
    (fake / name).symlink_to(programs.parent)
    server = PrivateServer(top / "data", fsync=False)
    server.start()
    server.stop()
    monkeypatch.setattr(servers, "PROGRAMS", fake)

    assert list(servers.versions()) == [name, "98.6", "99"]
    server.start()
    server.stop()
    (server.cluster / "PG_VERSION").write_text("7\n")
    with pytest.raises(
        ServerError, match="made by PostgreSQL 7; run: apt-get install postgresql-7. .*restore FILE --data"
    ):
        server.start()


@pytest.mark.deep
def test_a_password_that_was_cut_short_is_made_anew_only_where_nothing_hangs_on_it(top):
    (top / "data").mkdir()
    (top / "data" / "password").touch()
    server = PrivateServer(top / "data", fsync=False)
    server.start()
    server.stop()
    assert (top / "data" / "password").read_text()
    (top / "data" / "password").write_text("")
    with pytest.raises(ServerError, match="put it back from your backup"):
        server.start()


@pytest.mark.deep
def test_folders_whose_names_begin_alike_do_not_stop_each_other(top):
    """One's process number left behind in the other: as after a copied folder, or a number that came round."""
    first, second = (PrivateServer(top / name, fsync=False) for name in ("data", "data2"))
    try:
        first.start()
        second.start()
        number = (second.cluster / "postmaster.pid").read_text()
        first.stop()
        (first.cluster / "postmaster.pid").write_text(number)
        assert first._running() is None
        first.stop()
        assert second._running() is not None
    finally:
        first.stop()
        second.stop()


@pytest.mark.parametrize(
    ("options", "why"),
    [
        (["--port", "70000"], "70000 is no port"),
        (["--port", "-1"], "-1 is no port"),
        (["--port", "x"], "x is no port"),
        (["--data", "{top}/file"], "is a file. Choose a folder"),
        (["--data", "{top}"], "holds other things"),
        (["--data", "/proc/nowhere"], "Choose another folder"),
    ],
)
def test_a_start_that_cannot_be_ends_in_words(top, options, why):
    (top / "file").write_text("words")
    done = subprocess.run(
        [sys.executable, "-m", "yielding_coil.serve", "--port", "0", *(o.format(top=top) for o in options)],
        cwd=TOP,
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
    )
    assert done.returncode
    assert why in done.stderr
    assert "Traceback" not in done.stderr
