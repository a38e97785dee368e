"""The script beside the analyser's documentation does what it says."""

import re
import subprocess
import sys
from pathlib import Path

import pytest

TOP = Path(__file__).parents[2]


@pytest.mark.deep
def test_the_script_goes_from_the_socket_to_a_baseline(bench, address, client, tmp_path):
    said = subprocess.run(
        [sys.executable, str(TOP / "docs" / "sweep_an_antenna.py"), bench.address, address],
        # From any folder, as its first line says it.
        cwd=tmp_path,
        capture_output=True,
        text=True,
        check=False,
        env={"PATH": "/usr/bin:/bin", "PYTHONIOENCODING": "utf-8"},
    )
    assert said.stderr == ""
    assert int(re.search(r"Left of the load: (-\d+) dB", said.stdout)[1]) < -50
    assert "Lowest SWR 1.2" in said.stdout
    build = client.get("/api/builds").json()[0]
    assert build["name"] == "Loft dipole"
    assert build["baseline_sweep_id"] == build["sweeps"][0]["id"]


def test_the_document_names_every_column_of_a_profile():
    from yielding_coil.analyser.profiles import Profile

    text = (TOP / "docs" / "analyser.md").read_text("utf-8")
    assert [name for name in Profile.__slots__ if f"`{name}`" not in text] == []
