"""Who may know whom: the floors of the house, each importing only what stands below it."""

import ast
import functools
import importlib
import re
import subprocess
import sys
from pathlib import Path
from typing import get_args

import pytest

import yielding_coil.core as core
from yielding_coil.core import finding

TOP = Path(__file__).parents[1]
HOUSE = TOP / "yielding_coil"

# From the ground up; rooms of one floor do not know each other.
FLOORS = (
    ("core",),
    ("formats", "data"),
    ("analyser", "documents", "searchers", "reach"),
    ("store",),
    ("demo",),
    ("api",),
    ("archive", "pair", "work", "answering", "several"),
    ("part",),
    ("running",),
    ("serve",),
)
CORE_FLOORS = (
    ("constants", "errors", "finding"),
    ("arrays", "quantity"),
    ("reflection", "parts", "conductor", "quasi_random", "bode_fano", "fitting"),
    ("ring", "solenoid", "target"),
    ("sweep",),
    ("calibration", "line"),
    ("transformer", "trap", "tuner"),
    ("wire",),
    ("trim",),
    ("system",),
    ("tolerance",),
    ("element", "modelled_antenna"),
    ("winding", "antenna"),
    ("design", "bench"),
    ("matching", "choice", "sheet", "diagnosis"),
    ("search",),
)
API_FLOORS = (
    ("http",),
    ("tables", "quantities"),
    ("sweep", "wire", "drawer"),
    ("line", "analyser", "design", "bench", "build"),
    ("winding", "matching", "choice", "trim", "log"),
    ("sheet", "diagnosis", "reach"),
    ("jobs",),
    ("app",),
    ("openapi",),
)
WEB_FLOORS = (
    ("lib",),
    ("sweep", "bands"),
    ("analyser", "wire"),
    ("line", "drawer", "trim"),
    ("design",),
    ("matching", "winding", "predict", "tuner", "choose", "log", "fault"),
    ("build", "find", "reach"),
    ("App",),
    ("main", "apiDocs"),
)
# What each room may take from outside the standard library.
OUTSIDE = {
    "core": {"numpy", "scipy"},
    "data": {"numpy"},
    "formats": {"numpy", "PIL"},
    "documents": {"numpy", "pydantic"},
    "searchers": set(),
    "analyser": {"numpy", "pyvisa", "pyvisa_py", "serial"},
    "reach": {"cryptography", "psutil"},
    "store": {"numpy", "pydantic", "sqlalchemy", "alembic", "psycopg", "procrastinate"},
    "demo": {"numpy", "sqlalchemy"},
}


@functools.cache
def nodes_of(file):
    """Everything that a file holds, read once."""
    return tuple(ast.walk(ast.parse(file.read_text("utf-8"))))


@functools.cache
def modules_of(file):
    """Every module that a file imports, by its full name; a name taken from a package counts as one."""
    found = []
    for node in nodes_of(file):
        if isinstance(node, ast.ImportFrom) and node.module:
            found += [f"{node.module}.{alias.name}" for alias in node.names]
        elif isinstance(node, ast.Import):
            found += [alias.name for alias in node.names]
    return found


def imported(room):
    """Modules that the files of a room import, with the file."""
    place = HOUSE / room
    files = place.rglob("*.py") if place.is_dir() else [place.with_suffix(".py")]
    for file in files:
        yield from ((str(file.relative_to(TOP)), module) for module in modules_of(file))


def height_of(floors, room):
    return next(k for k, rooms in enumerate(floors) if room in rooms)


def rooms_in(*path):
    """Names of the files and folders of a package."""
    place = HOUSE.joinpath(*path)
    found = {p.stem for p in place.iterdir() if p.suffix == ".py" or (p / "__init__.py").exists()}
    return found - {"__init__"}


# A package, its floors, and how deep in a module's name its rooms stand.
PACKAGES = {"yielding_coil": ((), FLOORS), "core": (("core",), CORE_FLOORS), "api": (("api",), API_FLOORS)}
ROOMS = [(package, room) for package, (_, floors) in PACKAGES.items() for floor in floors for room in floor]


@pytest.mark.parametrize("package", PACKAGES)
def test_every_room_stands_on_a_floor(package):
    path, floors = PACKAGES[package]

    assert {room for floor in floors for room in floor} == rooms_in(*path)


@pytest.mark.parametrize(("package", "room"), ROOMS)
def test_a_room_knows_only_what_stands_below_it(package, room):
    path, floors = PACKAGES[package]
    inside = ["yielding_coil", *path]
    above = []
    for file, module in imported("/".join((*path, room))):
        parts = module.split(".")
        # The version number stands at the top of the package.
        if parts[: len(inside)] != inside or len(parts) <= len(inside) or parts[len(inside)] in (room, "VERSION"):
            continue
        if height_of(floors, parts[len(inside)]) >= height_of(floors, room):
            above.append((file, module))
    assert above == []


@pytest.mark.parametrize("room", OUTSIDE)
def test_a_room_takes_from_outside_what_it_may(room):
    known = {"yielding_coil", *OUTSIDE[room], *sys.stdlib_module_names}
    assert [found for found in imported(room) if found[1].split(".")[0] not in known] == []


@pytest.mark.parametrize("room", ["core", "api", "store", "formats", "data", "documents", "demo"])
def test_only_the_start_knows_the_simulated_analyser(room):
    forbidden = ("analyser.simulator", "analyser.bench", "analyser.child")
    assert [found for found in imported(room) if any(f in found[1] for f in forbidden)] == []


@pytest.mark.parametrize("package", ["core", "api"])
def test_what_lies_in_a_folder_is_reached_through_its_face(package):
    """Files of one folder know each other; from outside a file of a folder is taken only as a name space."""
    folders = {p.name for p in (HOUSE / package).iterdir() if (p / "__init__.py").exists()}
    around = []
    for file in HOUSE.rglob("*.py"):
        for node in nodes_of(file):
            parts = node.module.split(".") if isinstance(node, ast.ImportFrom) and node.module else []
            own = file.is_relative_to(HOUSE / package / parts[2]) if len(parts) > 3 else True
            if parts[:2] == ["yielding_coil", package] and len(parts) > 3 and parts[2] in folders and not own:
                around.append((str(file.relative_to(TOP)), node.module))
    assert around == []


@pytest.mark.skipif(not (TOP / ".git").exists(), reason="only a checkout knows what it ignores")
def test_no_source_is_ignored_by_a_pattern_meant_for_something_else():
    places = [str(p) for p in (HOUSE, TOP / "tests", TOP / "web" / "src", TOP / "tools", TOP / "docs")]
    asked = ["git", "-c", f"safe.directory={TOP}", "ls-files", "--others", "--ignored", "--exclude-standard"]
    ignored = subprocess.run([*asked, *places], cwd=TOP, capture_output=True, text=True, check=True).stdout

    assert [f for f in ignored.splitlines() if not f.endswith((".pyc", "api/schema.d.ts"))] == []


def test_what_scripts_take_from_the_packages_is_there():
    """Tools and the scripts of the docs are not type-checked: a name that moved away is told here."""
    gone = []
    for file in (*(TOP / "tools").glob("*.py"), *(TOP / "docs").glob("*.py")):
        for node in nodes_of(file):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("yielding_coil"):
                module = importlib.import_module(node.module)
                gone += [(file.name, alias.name) for alias in node.names if not hasattr(module, alias.name)]
    assert gone == []


WEB = TOP / "web" / "src"
# What a front-end file takes from another one of ours, by a static or a late import.
TAKEN = re.compile(r"""(?:from|import|import\()\s*['"](\.{1,2}/[^'"]+)['"]""")


def taken_by(file):
    """Rooms that a front-end file takes something from, by their names."""
    for spec in TAKEN.findall(file.read_text("utf-8")):
        found = (file.parent / spec).resolve().relative_to(WEB)
        yield found.parts[0].split(".")[0]


def test_every_folder_of_the_front_end_stands_on_a_floor():
    rooms = {p.stem for p in WEB.iterdir() if p.is_dir() or p.suffix in (".ts", ".svelte")} - {
        "tokens.test",
        "swagger-ui-dist.d",
    }

    assert {room for floor in WEB_FLOORS for room in floor} == rooms


@pytest.mark.parametrize("room", [room for floor in WEB_FLOORS for room in floor])
def test_a_folder_of_the_front_end_knows_only_what_stands_below_it(room):
    files = [f for f in WEB.rglob("*") if f.suffix in (".ts", ".svelte")]
    own = [f for f in files if f.relative_to(WEB).parts[0].split(".")[0] == room]
    above = [
        (str(file.relative_to(WEB)), other)
        for file in own
        for other in taken_by(file)
        if other not in (room, "tokens") and height_of(WEB_FLOORS, other) >= height_of(WEB_FLOORS, room)
    ]

    assert own
    assert above == []


def findings_made_in(file):
    """Every place where a file makes a finding."""
    for node in nodes_of(file):
        if isinstance(node, ast.Call):
            called = node.func.value if isinstance(node.func, ast.Subscript) else node.func
            if (called.id if isinstance(called, ast.Name) else getattr(called, "attr", None)) == "Finding":
                yield node


def test_a_finding_is_made_in_the_core_alone():
    made = {str(file.relative_to(HOUSE)): len([*findings_made_in(file)]) for file in HOUSE.rglob("*.py")}

    assert [file for file, times in made.items() if times and not file.startswith("core/")] == []
    assert sum(made.values()) > 40


def test_every_code_of_a_finding_is_a_literal_of_its_subject():
    """What the core says is what its type promises: every code that is written stands in a Literal."""
    known = {code for name, of in vars(finding).items() if name.endswith("Code") for code in get_args(of)}
    written = set()
    for file in (HOUSE / "core").rglob("*.py"):
        for node in findings_made_in(file):
            first = node.args[0]
            options = [first.body, first.orelse] if isinstance(first, ast.IfExp) else [first]
            written |= {o.value for o in options if isinstance(o, ast.Constant)}
    # By a variable come a slip with the standards, a coil's own resonance, and what a suspect is called.
    by_variable = {
        *get_args(finding.CalibrationCode),
        *get_args(finding.ResonanceCode),
        *get_args(finding.FaultCode),
    }

    assert written <= known
    assert known - written <= by_variable
    assert known >= finding.GRAVE


QUIET = """
import sys
import yielding_coil.core
heavy = [m for m in sys.modules if m.startswith(("scipy", "yielding_coil.data"))]
assert heavy == [], heavy
from yielding_coil.core import System
assert "yielding_coil.data" not in sys.modules
"""


def test_no_public_name_is_that_of_a_module():
    """Whichever is loaded first would be what one gets."""
    modules = {file.stem for file in (HOUSE / "core").iterdir()}
    assert modules & set(core.__all__) == set()


def test_the_front_door_loads_nothing_before_it_is_needed():
    subprocess.run([sys.executable, "-c", QUIET], check=True, cwd=TOP)


def test_the_front_door_lists_what_it_hands_on_once_for_people_and_once_for_type_checkers():
    tree = ast.parse((HOUSE / "core" / "__init__.py").read_text("utf-8"))
    block = next(node for node in tree.body if isinstance(node, ast.If))
    typed = {
        (node.module.removeprefix("yielding_coil.core."), alias.name)
        for node in block.body
        if isinstance(node, ast.ImportFrom)
        for alias in node.names
    }

    assert typed == {(home, name) for home, names in core._HOMES.items() for name in names.split()}
    assert all(getattr(core, name) is not None for name in core.__all__)
    with pytest.raises(AttributeError, match="no attribute 'nothing'"):
        core.nothing  # noqa: B018
