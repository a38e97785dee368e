"""The years after: a folder of version 0.1.0 opens, an update leaves a backup, a newer folder is refused."""

import io
import os
import re
import subprocess
import sys
import tarfile
import time
import zipfile
from pathlib import Path

import httpx
import pytest
from client_helpers import DEMO_BUILDS, TWELVE
from patience import PATIENCE_S
from sqlalchemy import create_engine, text

from yielding_coil.archive import main
from yielding_coil.store.folder import ServerError, owner
from yielding_coil.store.migrate import migrate, newest_shape
from yielding_coil.store.server import running, versions

TOP = Path(__file__).parents[1]
EARLIER = TOP / "tests" / "earlier" / "data-folder-0.1.0.tar.xz"
UUID = re.compile("[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")

pytestmark = pytest.mark.deep


@pytest.fixture
def old(folder):
    """The data folder as version 0.1.0 left it: the demo, a build, a design in two states, a note."""
    assert "15" in versions(), "the folder kept for this was made by PostgreSQL 15: apt-get install postgresql-15"
    with tarfile.open(EARLIER) as kept:
        kept.extractall(folder.parent, filter="data")
    mine = owner()
    for path in (folder, *folder.rglob("*")):
        path.chmod(0o700 if path.is_dir() else 0o600)
        if mine is not None:
            os.chown(path, mine.pw_uid, mine.pw_gid)
    return folder


def members(archive):
    """What an archive holds, to the byte, by name, but for the hour it was written at.

    What is restored gets ids of its own, so that it may stand beside what is there: they are numbered as they come.
    """
    with zipfile.ZipFile(archive) as opened:
        table = opened.read("archive.json").decode()
        seen = {}
        numbered = UUID.sub(lambda found: seen.setdefault(found[0], f"<{len(seen)}>"), table)
        kept = {UUID.sub(lambda found: seen[found[0]], name): opened.read(name) for name in opened.namelist()}
    return kept | {"archive.json": re.sub(r'"made_at": *"[^"]*"', "", numbered, count=1)}


def test_the_folder_of_0_1_0_opens_and_an_update_leaves_a_backup(old, start):
    process, address = start("--no-demo")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        builds = client.get("/api/builds").json()
        mine = next(b for b in builds if b["name"] == "Allotment")
        entries = client.get(f"/api/builds/{mine['id']}/entries").json()
        (head,) = client.get(f"/api/builds/{mine['id']}/designs").json()
        design = client.get(f"/api/designs/{head['id']}").json()
        swept = client.get(f"/api/sweeps/{mine['baseline_sweep_id']}/original").content
        archive = client.get("/api/archives").content
    process.terminate()
    process.wait(PATIENCE_S)
    (dump,) = (old / "backups").glob("before-*.dump")

    assert sorted(b["name"] for b in builds) == sorted([*DEMO_BUILDS, "Allotment"])
    assert [e["text"] for e in entries] == ["Kept by 0.1.0, before phones could pair"]
    assert design["revision"]["number"] == 2
    # To the byte: the file that was dropped then is the file that ships.
    assert swept == (TOP / "yielding_coil" / "demo" / "allotment-feedpoint.s1p").read_bytes()
    assert len(members(io.BytesIO(archive))) > 5
    assert f"before-{newest_shape()}-of-0007" in dump.name
    assert dump.stat().st_mode & 0o077 == 0

    # And nothing is backed up again where nothing is new.
    main(["backup", str(old.parent / "all.zip"), "--data", str(old)])
    assert list((old / "backups").glob("before-*.dump")) == [dump]


def test_a_backup_restored_is_the_same_to_the_byte(old, start, tmp_path):
    there = old.parent / "there"
    main(["backup", str(tmp_path / "all.zip"), "--data", str(old)])
    main(["restore", str(tmp_path / "all.zip"), "--data", str(there)])
    main(["backup", str(tmp_path / "again.zip"), "--data", str(there)])

    first, second = members(tmp_path / "all.zip"), members(tmp_path / "again.zip")
    assert first == second
    assert sum(name.startswith("originals/") for name in first) == 5
    assert any(name.endswith(".jpg") for name in first)
    assert "before phones could pair" in first["archive.json"]


def test_the_dump_of_an_update_is_the_way_back(old, tmp_path, capsys):
    main(["backup", str(tmp_path / "all.zip"), "--data", str(old)])  # updates the folder
    (dump,) = (old / "backups").glob("before-*.dump")
    there = old.parent / "there"
    capsys.readouterr()
    main(["restore", str(dump), "--data", str(there)])
    said = capsys.readouterr().out
    main(["backup", str(tmp_path / "again.zip"), "--data", str(there)])

    assert members(tmp_path / "all.zip") == members(tmp_path / "again.zip")
    assert "as it was before that update" in said
    with pytest.raises(SystemExit, match="is in use already"):
        main(["restore", str(dump), "--data", str(there)])


def test_a_folder_of_a_newer_version_is_refused_and_left_as_it_is(folder):
    with running(folder, fsync=False) as server:
        engine = create_engine(server.url())
        migrate(engine)
        with engine.begin() as connection:
            connection.execute(text("UPDATE alembic_version SET version_num = '9001'"))
            connection.execute(text("CREATE TABLE of_the_future (n int)"))
        with pytest.raises(ServerError, match="a newer version"):
            migrate(engine)
        engine.dispose()
    asked = [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder)]
    refused = subprocess.run(asked, cwd=TOP, capture_output=True, text=True, timeout=PATIENCE_S)
    with pytest.raises(SystemExit, match="a newer version"):
        main(["backup", str(folder.parent / "all.zip"), "--data", str(folder)])

    assert refused.returncode == 1
    assert "last used by a newer version of Yielding Coil (tables 9001" in refused.stderr
    assert "Nothing was touched" in refused.stderr
    with running(folder, fsync=False) as server:
        engine = create_engine(server.url())
        with engine.connect() as connection:
            assert connection.execute(text("SELECT count(*) FROM of_the_future")).scalar() == 0
        engine.dispose()


def test_many_that_come_at_once_migrate_once(folder):
    """As many processes as a machine of a club starts together."""
    script = (
        "import sys; from yielding_coil.store.engine import connect\n"
        "from yielding_coil.store.migrate import migrate\n"
        "engine = connect(sys.argv[1]); migrate(engine); engine.dispose()"
    )
    with running(folder, fsync=False) as server:
        url = server.url().render_as_string(hide_password=False)
        several = [subprocess.Popen([sys.executable, "-c", script, url], cwd=TOP) for _ in range(4)]
        assert [one.wait(60) for one in several] == [0, 0, 0, 0]
        engine = create_engine(server.url())
        with engine.connect() as connection:
            shapes = connection.execute(text("SELECT version_num FROM alembic_version")).scalars().all()
        engine.dispose()
    assert shapes == [newest_shape()]


@pytest.mark.skipif(os.geteuid() != 0, reason="mounting takes the rights of root")
def test_a_disk_that_fills_while_saving_is_said_and_the_same_save_works_when_there_is_room(folder, start):
    folder.parent.mkdir(exist_ok=True)
    disk = folder
    disk.mkdir()
    if subprocess.run(["mount", "-t", "tmpfs", "-o", "size=150m", "tmpfs", str(disk)]).returncode:
        pytest.skip("nothing may be mounted here")
    disk.chmod(0o755)
    try:
        process, address = start("--no-demo")
        with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
            made = client.post("/api/builds", json={"name": "Loft", "targets": [TWELVE]}).json()
            note = {"data": {"kind": "note"}, "text": "x" * 1000}
            path = f"/api/builds/{made['id']}/entries"
            kept = [client.post(path, json=note).json()["id"] for _ in range(3)]
            free = os.statvfs(disk).f_bavail * os.statvfs(disk).f_frsize
            (disk / "filler").write_bytes(b"\0" * free)
            refused = []
            for _ in range(400):
                answer = client.post(path, json=note)
                if answer.status_code == 201:
                    kept.append(answer.json()["id"])
                else:
                    refused.append(answer)
                if len(refused) > 3:
                    break
            (disk / "filler").unlink()
            after = None
            for _ in range(100):
                after = client.post(path, json=note)
                if after.status_code == 201:
                    break
                time.sleep(0.1)  # the database is being brought back
            assert after.status_code == 201, after.text
            kept.append(after.json()["id"])
            found = [e["id"] for e in client.get(path).json()]
        process.terminate()
        process.wait(PATIENCE_S)
    finally:
        subprocess.run(["umount", "-l", str(disk)], check=True)

    assert refused
    assert {a.json()["code"] for a in refused} <= {"disk_full", "database_gone"}
    assert "disk_full" in {a.json()["code"] for a in refused}
    assert found == kept
