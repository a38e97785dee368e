"""The examples of how it is served: taken by the tools that read them, and by the application's own options."""

import json
import re
import shlex
import shutil
import subprocess
from pathlib import Path

import httpx
import pytest
from patience import PATIENCE_S

from yielding_coil.serve import _arguments

TOP = Path(__file__).parents[2]
UNIT = TOP / "deploy" / "yielding-coil.service"
CONTAINER = TOP / "deploy" / "Containerfile"


def instructions():
    """The lines of the container file, continued ones joined."""
    plain = re.sub(r"\\\n", " ", "\n".join(x for x in CONTAINER.read_text().splitlines() if not x.startswith("#")))
    return [line.split(None, 1) for line in plain.splitlines() if line.strip()]


def options_of(command):
    return command[command.index("yielding_coil.serve") + 1 :]


def test_what_both_begin_with_is_understood():
    unit = shlex.split(re.search(r"^ExecStart=(.*)$", UNIT.read_text(), re.MULTILINE)[1])
    (container,) = (json.loads(rest) for word, rest in instructions() if word == "CMD")
    asked = [_arguments(options_of(command)) for command in (unit, container)]

    assert [a.https for a in asked] == [True, True]
    assert [str(a.data) for a in asked] == ["/var/lib/yielding-coil", "/data"]
    assert asked[0].workers == 2


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="systemd's own check is not here")
def test_systemd_takes_the_unit_and_finds_little_exposed(tmp_path):
    """`verify` reads it as the service manager does; `security` adds up what such a service could reach."""
    copy = tmp_path / "yielding-coil.service"
    copy.write_text(UNIT.read_text().replace("/opt/yielding-coil", str(TOP)))
    verified = subprocess.run(["systemd-analyze", "verify", str(copy)], capture_output=True, text=True)
    exposed = subprocess.run(
        ["systemd-analyze", "security", "--offline=true", "--threshold=35", str(copy)],
        capture_output=True,
        text=True,
    )

    assert "yielding-coil.service:" not in verified.stderr, verified.stderr
    assert exposed.returncode == 0, exposed.stdout[-600:]


def test_what_the_container_copies_is_there_and_what_it_runs_is_ours():
    for word, rest in instructions():
        if word == "COPY":
            for source in rest.split()[:-1]:
                assert (TOP / source).exists(), source
    words = [word for word, _ in instructions()]
    assert words.index("USER") < words.index("CMD")
    run = " ".join(rest for word, rest in instructions() if word == "RUN")
    assert "tools/prepare.py app" in run
    # The same packages as ./start asks for.
    assert "postgresql python3 python3-venv" in run


@pytest.mark.deep
def test_a_code_for_a_computer_without_a_screen(folder, start):
    _, address = start("--no-demo", "--lan")
    asked = [str(TOP / ".venv" / "bin" / "python"), "-m", "yielding_coil.pair", "--owner", "--data", str(folder)]
    said = subprocess.run(asked, cwd=TOP, capture_output=True, text=True, timeout=PATIENCE_S)
    nothing = subprocess.run([*asked[:-1], "/nowhere"], cwd=TOP, capture_output=True, text=True, timeout=PATIENCE_S)

    assert re.match(r"[2-9A-HJKMNP-Z]{4}-[2-9A-HJKMNP-Z]{4}   pairs one device", said.stdout)
    assert httpx.get(f"{address}api/devices", timeout=PATIENCE_S).json()["devices"] == []
    assert "Nothing runs on the data in /nowhere" in nothing.stderr
