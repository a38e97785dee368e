import importlib.util
import subprocess
from pathlib import Path

import pytest

TOP = Path(__file__).parents[2]


@pytest.fixture
def prepare(tmp_path, monkeypatch):
    """The preparing script, on a checkout of its own."""
    spec = importlib.util.spec_from_file_location("prepare", TOP / "tools" / "prepare.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    monkeypatch.setattr(module, "TOP", tmp_path)
    return module


def test_a_stamp_follows_names_and_contents(prepare, tmp_path):
    one, two = tmp_path / "one", tmp_path / "two"
    one.write_text("a")
    two.write_text("b")
    first = prepare.stamp_of([one, two])

    assert prepare.stamp_of([two, one]) == first
    one.write_text("c")
    assert prepare.stamp_of([one, two]) != first
    one.write_text("a")
    two.rename(tmp_path / "three")
    assert prepare.stamp_of([one, tmp_path / "three"]) != first


def test_a_step_is_fresh_only_with_the_same_inputs(prepare, tmp_path):
    stamp = tmp_path / "stamp"
    assert not prepare.fresh(stamp, "x")
    stamp.write_text("x")
    assert prepare.fresh(stamp, "x")
    assert not prepare.fresh(stamp, "y")


def test_without_rights_the_exact_command_is_printed(prepare, monkeypatch):
    monkeypatch.setattr(prepare.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(prepare.Path, "exists", lambda self: False)
    monkeypatch.setattr(prepare.Path, "glob", lambda self, pattern: iter(()))

    with pytest.raises(
        SystemExit, match="sudo apt-get install -y --no-install-recommends postgresql chromium"
    ) as said:
        prepare.debian_packages(for_tests=True)
    assert "postgresql for the private database server" in str(said.value)


def test_nothing_missing_is_nothing_done(prepare, monkeypatch):
    monkeypatch.setattr(prepare, "run", lambda *command, **more: pytest.fail(f"ran {command}"))

    prepare.debian_packages(for_tests=True)


def test_a_python_is_found_and_new_enough():
    found = subprocess.run(
        [TOP / "tools" / "find-python"], capture_output=True, text=True, check=True
    ).stdout.strip()
    version = subprocess.run(
        [found, "-c", "import sys; print(sys.version_info >= (3, 11))"], capture_output=True, text=True, check=True
    )

    assert version.stdout.strip() == "True"


def test_unknown_words_are_refused_with_the_usage():
    said = subprocess.run([TOP / "test", "--fast"], capture_output=True, text=True, check=False)

    assert said.returncode == 2
    assert "usage: ./test [--quick | --deep | --trials]" in said.stderr
