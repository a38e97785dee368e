"""What one can do to find a fault: a row each, with where one stands and what is read."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from yielding_coil.core.diagnosis.faults import FaultCode
from yielding_coil.core.diagnosis.installation import EFFORT, JOINTS, Installation, Where
from yielding_coil.core.diagnosis.ports import Port
from yielding_coil.core.diagnosis.suspects import View

Reads = Literal["sweep", "ohm", "look"]
ActCode = Literal[
    "as_it_is",
    "line_straight",
    "radio_load",
    "ohm_shack",
    "line_load",
    "line_open",
    "line_short",
    "ohm_line_open",
    "ohm_line_short",
    "at_feed",
    "above_match",
    "match_load",
    "ohm_feed",
    "ohm_antenna",
    "look_shack",
    "look_feed",
    "look_line",
    "look_up",
    "look_radials",
    "ohm_across",
    "look_at",
    "twins",
]
School = Literal["least_effort", "line_first", "antenna_first"]


@dataclass(frozen=True, slots=True)
class Act:
    """One test that can be offered.

    Args:
        key: its own; `code` is what kind it is, `of` of which element, where it is of one.
        reads: what comes of it.
        view: what is swept or measured through; None of what is looked at.
        answers: of what is looked at.
    """

    key: str
    code: ActCode
    where: Where
    reads: Reads
    view: View | None = None
    of: str = ""
    other: str = ""
    answers: tuple[str, ...] = ()

    @property
    def effort(self) -> int:
        """What it costs beside one in the shack."""
        return EFFORT[self.where]


AS_IT_IS = "as_it_is"
SEEN, TWINS = ("yes", "no"), ("first", "second", "alike")


def acts_of(one: Installation) -> tuple[Act, ...]:
    """Everything that can be done to an installation, from the shack outwards."""
    return tuple(_all(one))


def _all(one: Installation) -> Iterator[Act]:
    end, last = one.line_end, len(one.slots)
    yield Act(AS_IT_IS, "as_it_is", "shack", "sweep", View(0, last))
    if any(slot.kind == "tuner" for slot in one.slots):
        yield Act("line_straight", "line_straight", "shack", "sweep", View(0, end))
        yield Act("radio_load", "radio_load", "shack", "sweep", View(end, last, "load"))
    yield Act("ohm_shack", "ohm_shack", "shack", "ohm", View(0, end))
    yield Act("look_shack", "look_shack", "shack", "look", answers=SEEN)
    feed, box = one.feed_at, one.box_end
    if one.line is not None:
        for closed in ("load", "open", "short"):
            yield Act(f"line_{closed}", f"line_{closed}", feed, "sweep", View(box, end, closed))  # type: ignore[arg-type]
        yield Act("ohm_line_open", "ohm_line_open", feed, "ohm", View(box, end, "open"))
        yield Act("ohm_line_short", "ohm_line_short", feed, "ohm", View(box, end, "short"))
        yield Act("look_line", "look_line", "garden", "look", answers=SEEN)
    yield Act("at_feed", "at_feed", feed, "sweep", View(0, box))
    yield Act("ohm_feed", "ohm_feed", feed, "ohm", View(0, box))
    yield Act("look_feed", "look_feed", feed, "look", answers=SEEN)
    match = [slot for slot in one.slots[:box] if slot.element is not None]
    if match:
        yield Act("above_match", "above_match", feed, "sweep", View(0, 0))
        yield Act("match_load", "match_load", feed, "sweep", View(0, box, "load", _fitting_ohm(one)))
        yield Act("ohm_antenna", "ohm_antenna", feed, "ohm", View(0, 0))
    if one.earths:
        yield Act("look_radials", "look_radials", "garden", "look", answers=SEEN)
    else:
        yield Act("look_up", "look_up", "garden", "look", answers=SEEN)
    yield from _aloft(one)


def _fitting_ohm(one: Installation) -> float:
    """The resistor that makes the match show fifty ohms, by its ratio; fifty without a transformer."""
    for slot in one.slots[: one.box_end]:
        part = None if slot.element is None else slot.element.part
        ratio = getattr(part, "impedance_ratio", None)
        if ratio is not None:
            return float(50 * ratio)
    return 50.0


def _aloft(one: Installation) -> Iterator[Act]:
    for port in (p for p in one.wires.ports if p.part is not None):
        yield Act(
            f"ohm_across:{port.key}",
            "ohm_across",
            one.aloft_at,
            "look",
            of=port.key,
            answers=("path", "none", "some"),
        )
    keys: list[str] = []
    for port in one.wires.ports:
        key = f"{port.role}{port.number}"
        if port.kind == "gap" and key not in keys:
            keys.append(key)
            yield Act(f"look_at:{key}", "look_at", one.aloft_at, "look", of=key, answers=SEEN)
    for first, second in twins(one):
        yield Act(
            f"twins:{first.key}", "twins", one.aloft_at, "look", of=first.key, other=second.key, answers=TWINS
        )


def twins(one: Installation) -> list[tuple[Port, Port]]:
    """Traps or coils that stand alike on either side of the feed."""
    found = []
    ports = [p for p in one.wires.ports if p.part is not None]
    for k, first in enumerate(ports):
        for second in ports[k + 1 :]:
            alike = (first.kind, first.role, first.part) == (second.kind, second.role, second.part)
            if alike and first.number != second.number and abs(first.from_feed - second.from_feed) < 1e-6:
                found.append((first, second))
    return found


# How often a look shows it (common practice, rough; what is looked for is seen more often than not). Otherwise,
# and of what is not there, it is not seen, or something else is taken for it.
FALSE_SIGHT = 0.04
SIGHT: dict[str, dict[FaultCode, float]] = {
    "look_shack": {"open": 0.4, "shorted": 0.4, "resistance": 0.5, "damp": 0.6, "left_in": 0.97},
    "look_feed": {
        "open": 0.75,
        "shorted": 0.6,
        "resistance": 0.6,
        "damp": 0.8,
        "core_broken": 0.8,
        "turn_shorted": 0.6,
        "turns_shorted": 0.7,
        "capacitor_gone": 0.75,
        "value_off": 0.4,
        "end_gone": 0.7,
        "wet": 0.5,
    },
    "look_line": {"open": 0.35, "shorted": 0.35, "wet": 0.3, "aged": 0.3},
    "look_up": {"broken": 0.75, "fallen": 0.98, "end_down": 0.95, "touching": 0.85},
    "look_radials": {"radials_gone": 0.85},
    "look_at": {"broken": 0.85, "end_down": 0.95, "touching": 0.9},
}


def sees(one: Installation, act: Act, key: str, code: FaultCode) -> dict[str, float]:
    """How often each answer of a look is given, by what is wrong."""
    if act.code == "ohm_across":
        return _across(act, key, code)
    if act.code == "twins":
        first = 0.92 if key == act.of else 0.03 if key == act.other else 0.04
        second = 0.92 if key == act.other else 0.03 if key == act.of else 0.04
        return {"first": first, "second": second, "alike": 1 - first - second}
    chance = SIGHT[act.code].get(code, FALSE_SIGHT) if looks_at(one, act, key) else FALSE_SIGHT
    return {"yes": chance, "no": 1 - chance}


def _across(act: Act, key: str, code: FaultCode) -> dict[str, float]:
    """An ohmmeter across a trap or a coil: its turns are a path; a bad joint is some ohms."""
    if key != act.of:
        return {"path": 0.95, "none": 0.02, "some": 0.03}
    if code == "open":
        return {"path": 0.1, "none": 0.85, "some": 0.05}
    if code == "resistance":
        return {"path": 0.08, "none": 0.02, "some": 0.9}
    return {"path": 0.93, "none": 0.02, "some": 0.05}


def looks_at(one: Installation, act: Act, key: str) -> bool:
    """Whether a look says anything of an element."""
    if act.code in ("ohm_across", "twins"):
        return key in (act.of, act.other)
    if act.code == "look_at":
        return key == act.of
    if act.code == "look_up":
        return key == "wires" or any(key == f"{p.role}{p.number}" for p in one.wires.ports)
    if act.code == "look_radials":
        return key == "radials"
    if act.code == "look_shack":
        return key in {JOINTS[1], "lead", "tuner"}
    if act.code == "look_line":
        return one.line is not None and key == one.line.key
    upper = {slot.key for slot in one.slots[: one.box_end]} | {"feed", JOINTS[0]}
    return key in upper
