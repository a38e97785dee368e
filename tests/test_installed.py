"""The package as a notebook has it: `pip install .` in an environment of its own, away from the checkout."""

import shutil
import subprocess
import sys
from pathlib import Path

import pytest

TOP = Path(__file__).parents[1]

pytestmark = pytest.mark.deep

# What is used here comes with numpy, scipy and pydantic alone; the application's own libraries are not there.
SCRIPT = """
import importlib.util
import yielding_coil
from pathlib import Path
from yielding_coil import data
from yielding_coil.core import Ring, evaluate, parts_list
from yielding_coil.documents.design import read_content
from yielding_coil.formats import touchstone

assert TOP not in Path(yielding_coil.__file__).parents, yielding_coil.__file__
assert importlib.util.find_spec("fastapi") is None
assert importlib.util.find_spec("sqlalchemy") is None
print(round(Ring(data.ring_material("2"), data.ring_size("T68")).inductance_h(20) * 1e6, 2))
content = read_content({
    "antenna": {"kind": "resistor", "resistance_ohm": 94, "reactance_ohm": -463},
    "targets": [{"label": "17 m", "low_hz": 18.068e6, "high_hz": 18.168e6, "swr_limit": 2}],
    "elements": [{"kind": "coil", "key": "coil", "place": "series", "inductance_h": 3e-6, "former_m": 0.04,
                  "wire": "cu-1.6"}],
})
print([part.kind for part in parts_list(evaluate(content.to_core(content.core_antenna())))])
print(touchstone.read(b"# MHz S MA R 50\\n7.0 0.5 0\\n7.1 0.4 10\\n").frequency_hz[0])
"""


@pytest.fixture(scope="module")
def installed(tmp_path_factory):
    """A Python that has the package and what it asks for, and nothing else."""
    folder = tmp_path_factory.mktemp("installed")
    checkout = folder / "checkout"
    checkout.mkdir()
    # Building leaves files behind: not in the tree that is tested.
    for name in ("pyproject.toml", "README.md", "LICENSE"):
        shutil.copy(TOP / name, checkout)
    shutil.copytree(TOP / "yielding_coil", checkout / "yielding_coil", ignore=shutil.ignore_patterns("__pycache__"))
    subprocess.run([sys.executable, "-m", "venv", str(folder / "venv")], check=True)
    python = folder / "venv" / "bin" / "python"
    subprocess.run(
        [str(python), "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "."],
        check=True,
        cwd=checkout,
    )
    return python, folder


def test_what_a_script_needs_works_outside_the_checkout_without_the_application(installed):
    python, folder = installed
    script = SCRIPT.replace("TOP", f"Path({str(TOP)!r})")

    said = subprocess.run([str(python), "-c", script], cwd=folder, capture_output=True, text=True, check=False)

    assert said.stderr == ""
    # 20 turns on a 0.68 in ring of mix 2: 2.28 µH by the trade's 5.7 nH a turn squared (from memory).
    assert said.stdout.split("\n")[:3] == ["2.28", "['coil']", "7000000.0"]


def test_the_design_script_of_the_documents_runs_on_it(installed):
    python, folder = installed
    script = folder / "design_a_match.py"
    text = (TOP / "docs" / "design_a_match.py").read_text("utf-8")
    script.write_text(text)

    said = subprocess.run([str(python), str(script)], cwd=folder, capture_output=True, text=True, check=False)

    assert said.stderr == ""
    assert "of 100 hold 15 m" in said.stdout
