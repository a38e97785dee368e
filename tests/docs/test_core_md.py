"""The documentation of the core runs as it stands."""

import doctest
import subprocess
import sys
from pathlib import Path

TOP = Path(__file__).parents[2]


def test_every_example_of_the_front_door_runs():
    done = doctest.testfile(str(TOP / "docs" / "core.md"), module_relative=False, optionflags=doctest.ELLIPSIS)

    assert done.attempted > 40
    assert done.failed == 0


def test_the_front_door_names_what_the_house_promises():
    text = (TOP / "docs" / "core.md").read_text()
    for name in ("Sweep(", "Cable", "Line", "l_networks(", "System(", "Solenoid(", "yield_of(", "touchstone.read("):
        assert name in text


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
