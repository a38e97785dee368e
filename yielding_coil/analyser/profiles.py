"""How kinds of analysers are spoken to: a row each, of ours and of the owner's own."""

import json
import re
from collections.abc import Mapping
from dataclasses import MISSING, dataclass, fields
from functools import cache
from importlib.resources import files
from pathlib import Path
from string import Formatter
from typing import Any

from yielding_coil.core.errors import NotFoundError, UnreadableError

_KEY = re.compile(r"[a-z0-9-]{1,40}")
_ORDERS = ("re im", "magnitude degrees")
MOST_ROWS = 40


@dataclass(frozen=True, slots=True)
class Profile:
    """How one kind of analyser is spoken to; a row of profiles.json."""

    key: str
    name: str
    identify: str
    prepare: tuple[str, ...]
    range: tuple[str, ...]
    start: str
    wait: str
    trace: str
    order: str
    error: str
    lowest: str
    highest: str
    most_points: int
    block: str = ""
    baud: int = 115_200
    bench: str = ""
    bench_now: str = ""
    bench_all: str = ""
    bench_leg: str = ""
    bench_wound: str = ""
    bench_hung: str = ""
    bench_tuner: str = ""
    bench_built: str = ""
    bench_fault: str = ""


@cache
def profiles() -> Mapping[str, Profile]:
    """The profiles that ship, by key."""
    return _profiles(json.loads((files(__package__) / "profiles.json").read_text("utf-8")), "profiles.json")


def with_own(path: Path) -> Mapping[str, Profile]:
    """The profiles that ship and those that the owner wrote; his go before ours where keys are the same.

    Raises:
        UnreadableError: the file is no such table; which row and column is said.
    """
    if not path.exists():
        return profiles()
    try:
        table = json.loads(path.read_text("utf-8"))
    except json.JSONDecodeError as why:
        raise UnreadableError(f"{path.name} is no JSON: {why.msg}", line=why.lineno) from why
    except (OSError, UnicodeDecodeError) as why:
        raise UnreadableError(f"{path} cannot be read as text: {why}") from why
    return {**profiles(), **_profiles(table, path.name)}


def profile(key: str, known: Mapping[str, Profile] | None = None) -> Profile:
    """A profile.

    Raises:
        NotFoundError: no such key.
    """
    known = profiles() if known is None else known
    found = known.get(key)
    if found is None:
        raise NotFoundError(f"there is no profile “{key}”", field="profile", came_in=key, accepted=", ".join(known))
    return found


def _profiles(table: Any, where: str) -> dict[str, Profile]:
    rows = table.get("rows") if isinstance(table, dict) else None
    if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows) or len(rows) > MOST_ROWS:
        raise UnreadableError(f'{where} is to be {{"rows": [{{…}}, …]}}, a row for each kind of analyser')
    found = [_profile(row, f"{where}, row {number}") for number, row in enumerate(rows, start=1)]
    return {each.key: each for each in found}


def _profile(row: dict[str, Any], where: str) -> Profile:
    columns = {f.name: f for f in fields(Profile)}
    unknown = sorted(set(row) - set(columns))
    if unknown:
        raise UnreadableError(f"{where}: there is no column “{unknown[0][:40]}”; docs/analyser.md lists them")
    for name, column in columns.items():
        if name not in row and column.default is MISSING:
            raise UnreadableError(f"{where}: the column “{name}” is missing")
        if name in row and not _fits(row[name], column.type):
            raise UnreadableError(
                f"{where}: “{name}” is {json.dumps(row[name])[:60]}; {_kinds(column.type)} is needed"
            )
    if not _KEY.fullmatch(row["key"]):
        raise UnreadableError(f"{where}: “key” takes small letters, digits and hyphens, 40 at most")
    if row["order"] not in _ORDERS:
        raise UnreadableError(f"{where}: “order” is “{row['order'][:40]}”; it must be one of {', '.join(_ORDERS)}")
    if not 1 <= row["most_points"] <= 100_001:
        raise UnreadableError(f"{where}: “most_points” is {row['most_points']}; it must be 1 to 100001")
    if not 300 <= row.get("baud", 9600) <= 4_000_000:
        raise UnreadableError(f"{where}: “baud” is {row['baud']}; it must be 300 to 4000000")
    try:
        for command in row["range"]:
            _require_plain(command)
            command.format(low_hz=1.0, high_hz=2.0, points=3)
    except (KeyError, IndexError, ValueError) as why:
        raise UnreadableError(
            f"{where}: “range” may hold {{low_hz}}, {{high_hz}} and {{points}}, each with its format: {why!r}"
        ) from why
    several = {name: tuple(row[name]) for name in ("prepare", "range")}
    return Profile(**{**row, **several})


def _require_plain(command: str) -> None:
    """Names alone are filled in, nothing of what they have."""
    for _, name, _, _ in Formatter().parse(command):
        if name is not None and not name.isidentifier():
            raise ValueError(name)


def _fits(value: Any, kind: Any) -> bool:
    if kind is int:
        return isinstance(value, int) and not isinstance(value, bool)
    if kind is str:
        return isinstance(value, str) and len(value) <= 400 and "\n" not in value
    return isinstance(value, list) and len(value) <= 40 and all(_fits(each, str) for each in value)


def _kinds(kind: Any) -> str:
    return {int: "a whole number", str: "a line of text"}.get(kind, "a list of lines of text")
