"""Who may know whom: imports point at the core, and nothing but the start knows the simulated analyser."""

import ast
from pathlib import Path

import pytest

HOUSE = Path(__file__).parents[1] / "yielding_coil"


def imported(room):
    """Modules that the files of a room import, with the file."""
    for file in (HOUSE / room).rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.ImportFrom) and node.module:
                yield from ((file.name, f"{node.module}.{alias.name}") for alias in node.names)
            elif isinstance(node, ast.Import):
                yield from ((file.name, alias.name) for alias in node.names)


@pytest.mark.parametrize("room", ["core", "api", "store", "formats", "data"])
def test_only_the_start_knows_the_simulated_analyser(room):
    forbidden = ("analyser.simulator", "analyser.bench", "analyser.child")
    assert [found for found in imported(room) if any(f in found[1] for f in forbidden)] == []


@pytest.mark.parametrize("other", ["api", "store", "analyser", "formats", "demo", "data"])
def test_the_core_knows_none_of_the_others(other):
    assert [found for found in imported("core") if found[1].startswith(f"yielding_coil.{other}")] == []
