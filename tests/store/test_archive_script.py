"""Backup and restore from a script: whole or not at all, whatever becomes of the process."""

import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import pytest
from photographs import photograph
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yielding_coil import demo
from yielding_coil.archive import main
from yielding_coil.documents.log import NoteData
from yielding_coil.formats.archive import ArchiveReader
from yielding_coil.store.archive_in import contents_of, sizes
from yielding_coil.store.engine import connect
from yielding_coil.store.entries import keep_entry
from yielding_coil.store.migrate import migrate
from yielding_coil.store.photographs import keep_photograph
from yielding_coil.store.server import running
from yielding_coil.store.tables import Build, Photograph, Settings

pytestmark = pytest.mark.deep


@pytest.fixture(scope="module")
def places():
    """A folder with builds of one's own and thirty photographs in it, and room for others."""
    top = Path(tempfile.mkdtemp(prefix="yielding-coil-archive-"))
    top.chmod(0o755)
    with running(top / "full", fsync=False) as server:
        engine = connect(server.url())
        migrate(engine)
        with Session(engine) as session, session.begin():
            demo.lay_in(session)
            for row in session.scalars(select(Build)):
                row.demo = False
            build = session.scalars(select(Build)).first()
            session.get_one(Settings, 1).units = "ft"
            for k in range(30):
                entry = keep_entry(session, build.id, NoteData(), text=f"picture {k}")
                keep_photograph(session, entry.id, f"{k}.jpg", photograph(1600, 1200 + k))
        engine.dispose()
    yield top
    shutil.rmtree(top)


def held(folder):
    """How many builds and photographs a folder holds, and its units."""
    with running(folder, fsync=False) as server:
        engine = connect(server.url())
        migrate(engine)
        with Session(engine) as session:
            found = (
                session.scalar(select(func.count()).select_from(Build)),
                session.scalar(select(func.count()).select_from(Photograph)),
                session.scalar(select(Settings.units)),
            )
        engine.dispose()
    return found


def test_out_of_one_folder_and_into_an_empty_one(places, capsys):
    file = places / "all.zip"
    main(["backup", str(file), "--data", str(places / "full")])
    assert "31 photographs" in capsys.readouterr().out
    main(["restore", str(file), "--data", str(places / "empty")])
    assert held(places / "empty") == held(places / "full")
    with pytest.raises(SystemExit, match="holds builds of yours already"):
        main(["restore", str(file), "--data", str(places / "empty")])
    builds, pictures, _ = held(places / "empty")
    main(["restore", str(file), "--data", str(places / "empty"), "--add"])
    assert held(places / "empty")[:2] == (2 * builds, 2 * pictures)


def test_said_in_words(places):
    with pytest.raises(SystemExit, match="No such file"):
        main(["restore", str(places / "none.zip"), "--data", str(places / "new")])
    text = places / "text.zip"
    text.write_text("no archive")
    with pytest.raises(SystemExit, match="no archive"):
        main(["restore", str(text), "--data", str(places / "new")])


def killed(*arguments, after_s):
    """A script that is killed after a while; whether it was still at work."""
    process = subprocess.Popen(
        [sys.executable, "-m", "yielding_coil.archive", *arguments],
        cwd=Path(__file__).parents[2],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    time.sleep(after_s)
    at_work = process.poll() is None
    if at_work:
        os.kill(process.pid, signal.SIGKILL)
    process.wait()
    return at_work


def test_a_kill_leaves_the_old_state(places):
    file = places / "kept.zip"
    main(["backup", str(file), "--data", str(places / "full")])
    with file.open("rb") as whole, ArchiveReader(whole) as reader:
        old = sizes(contents_of(reader))
    before = held(places / "full")
    main(["restore", str(file), "--data", str(places / "target")])
    there = held(places / "target")
    at_work = 0
    for after_s in (1.5, 2.5, 3.5):
        at_work += killed("backup", str(file), "--data", str(places / "full"), after_s=after_s)
        with file.open("rb") as whole, ArchiveReader(whole) as reader:
            assert sizes(contents_of(reader)) == old
        assert held(places / "full") == before
        at_work += killed("restore", str(file), "--data", str(places / "target"), "--add", after_s=after_s)
        now = held(places / "target")
        # Nothing of it, or, where it was done by then, all of it.
        assert (now[0] - there[0], now[1] - there[1]) in ((0, 0), (before[0], before[1]))
        there = now
    assert at_work >= 1
