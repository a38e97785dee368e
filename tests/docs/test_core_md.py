"""The documentation of the core runs as it stands."""

import doctest
import re
import subprocess
import sys
from pathlib import Path

import pytest

from yielding_coil import core

TOP = Path(__file__).parents[2]


@pytest.mark.deep
def test_every_example_of_the_front_door_runs():
    done = doctest.testfile(str(TOP / "docs" / "core.md"), module_relative=False, optionflags=doctest.ELLIPSIS)

    assert done.attempted > 40
    assert done.failed == 0


def test_the_front_door_is_listed_whole():
    """Every public name of the core stands in the document, in the row of where it lives."""
    text = (TOP / "docs" / "core.md").read_text("utf-8")
    rows = {
        re.search(r"`core\.(\w+)`", line)[1]: set(re.findall(r"`(\w+)`", line))
        for line in text.splitlines()
        if line.startswith("| ") and "`core." in line
    }

    assert rows == {home: set(names.split()) for home, names in core._HOMES.items()}
    assert "touchstone.read(" in text


def test_a_design_takes_a_dozen_lines_without_web_or_database():
    """The example is what a script would be: twelve lines at most, nothing but core and documents."""
    text = (TOP / "docs" / "core.md").read_text("utf-8")
    example = text[text.index("## A whole design") :].split("```")[1]
    lines = [line for line in example.splitlines() if line.startswith(">>> ")]

    assert len(lines) <= 12
    took = {line.split()[2] for line in lines if line.startswith(">>> from")}
    assert took == {"yielding_coil.core", "yielding_coil.documents.design"}


@pytest.mark.deep
def test_the_script_designs_the_demo_match_without_the_web():
    """94 − j463 Ω style wire of the demo: about 2.3 µH and 6.5 pF (an independent optimisation: 2.274, 6.60)."""
    said = subprocess.run(
        [sys.executable, "docs/design_a_match.py"], cwd=TOP, capture_output=True, text=True, check=True
    )

    assert said.stderr == ""
    assert "coil in line, capacitor across at the load: worst SWR 1.5" in said.stdout
    assert "Coil: 2.2" in said.stdout
    assert "Capacitor: 6.5" in said.stdout or "Capacitor: 6.6" in said.stdout
    assert "of 100 hold 15 m" in said.stdout
