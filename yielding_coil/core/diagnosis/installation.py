"""What hangs and what leads to it: the antenna by its wires, and everything from there down to the radio."""

from collections.abc import Sequence
from dataclasses import astuple, dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.design import (
    CoaxCapacitor,
    Design,
    Feedline,
    FixedCapacitor,
    MatchSection,
    MatchStub,
    RadioTuner,
)
from yielding_coil.core.diagnosis.ports import PortedWires, Role, ported, roles_of
from yielding_coil.core.element import DesignElement
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.winding import AirCoil, CoilOnRing, WoundTransformer
from yielding_coil.core.wire import AntennaKind, Hung, Structure

SlotKind = Literal["transformer", "coil", "capacitor", "stub", "section", "choke", "joint", "line", "tuner", "lead"]
Where = Literal["shack", "garden", "ladder"]
# What one walk costs against a test in the shack.
EFFORT: dict[Where, int] = {"shack": 1, "garden": 2, "ladder": 5}
# A feedpoint higher than this wants a ladder, or the antenna let down (common practice).
REACHED_M = 2.5
# Swept so widely for a fault: from half the lowest band, and up to where metres of line are told apart.
LOWEST_HZ, WIDEST_HZ, BROAD, NARROW, AROUND = 1.8e6, 30e6, 56, 13, 0.06
# Without a line anybody spoke of.
JOINTS = ("feed plug", "radio plug")

KINDS_OF: dict[type, SlotKind] = {
    WoundTransformer: "transformer",
    AirCoil: "coil",
    CoilOnRing: "coil",
    CoaxCapacitor: "capacitor",
    FixedCapacitor: "capacitor",
    MatchSection: "section",
    MatchStub: "stub",
    Feedline: "line",
    RadioTuner: "tuner",
}


@dataclass(frozen=True, slots=True)
class Doubts:
    """What nobody knows exactly, one standard deviation each.

    Args:
        stretch: of all frequencies at which the wires do something, relative.
        resistance: of what the antenna shows, relative to its resistance.
        line: of the line's electrical length, relative.
        loss: of its loss, relative.
        core: of a core's permeability, relative.
        parts: of coils, capacitors and lengths of line in the match, relative.
        line_ohm: of the line's impedance, relative.
    """

    stretch: float = 0.015
    resistance: float = 0.15
    line: float = 0.015
    loss: float = 0.2
    core: float = 0.1
    parts: float = 0.02
    line_ohm: float = 0.012

    def as_array(self) -> Real:
        """In this order, shape (7,)."""
        return np.array(astuple(self))


# What a year, rain and another season change where the rest is known by a baseline (common practice: dips wander by
# half a percent and more, resistances by a tenth).
A_YEAR = Doubts(0.007, 0.06, 0.0015, 0.06, 0.03, 0.004, 0.002)
# By word of mouth alone.
BY_WORD = Doubts(0.03, 0.3, 0.06, 0.4, 0.15, 0.05, 0.03)


@dataclass(frozen=True, slots=True)
class Slot:
    """One thing between the antenna and the radio.

    Args:
        key: its own.
        element: how it computes; None where nothing is seen of it as long as it is sound.
        where: where one stands to touch it.
    """

    key: str
    kind: SlotKind
    element: Element | None
    where: Where


@dataclass(frozen=True)
class Installation:
    """Everything that may have broken.

    Args:
        structure: the antenna's wires as planned.
        form: what kind of wires they are.
        earths: how many of its loads lie in the ground.
        slots: from the antenna down to the radio.
        bands: on which it is used.
        feed_at: where one stands to open the feedpoint; `aloft_at` to touch what hangs beyond it.
        doubts: before anything is swept.
    """

    structure: Structure
    form: str
    earths: int
    slots: tuple[Slot, ...]
    bands: tuple[Target, ...]
    feed_at: Where
    aloft_at: Where
    doubts: Doubts = Doubts()
    by_word: bool = False

    @cached_property
    def grid(self) -> Real:
        """Frequencies at which everything is computed: widely for the line, closely about each band."""
        low = max(LOWEST_HZ, 0.55 * min(b.low_hz for b in self.bands))
        high = max(WIDEST_HZ, 1.1 * max(b.high_hz for b in self.bands))
        near = [np.linspace(b.low_hz * (1 - AROUND), b.high_hz * (1 + AROUND), NARROW) for b in self.bands]
        return np.unique(np.concatenate([np.linspace(low, high, BROAD), *near]))

    @cached_property
    def wires(self) -> PortedWires:
        """Its wires, with ports wherever they may part."""
        return self._ported(self.structure, breaks=True)

    def variant(self, structure: Structure) -> PortedWires:
        """Its wires otherwise hung, with what stands in them."""
        return self._ported(structure, breaks=False)

    def _ported(self, structure: Structure, breaks: bool) -> PortedWires:
        return ported(
            structure, roles_of(self.form), self.earths, float(self.grid[0]), float(self.grid[-1]), breaks
        )

    @property
    def roles(self) -> tuple[Role, ...]:
        """What its wires are called."""
        return roles_of(self.form)

    @property
    def closed(self) -> bool:
        """Whether direct current runs round: a loop."""
        return self.form == "loop"

    def slot(self, key: str) -> Slot:
        """The one of a key."""
        return next(slot for slot in self.slots if slot.key == key)

    def at(self, key: str) -> int:
        """Where it stands among the slots, from the antenna down."""
        return next(i for i, slot in enumerate(self.slots) if slot.key == key)

    @property
    def line(self) -> Slot | None:
        """The feedline."""
        return next((slot for slot in self.slots if slot.kind == "line"), None)

    @property
    def line_at(self) -> int | None:
        """Where the feedline stands."""
        return next((i for i, slot in enumerate(self.slots) if slot.kind == "line"), None)

    @property
    def box_end(self) -> int:
        """So many slots stand above the feedline's upper plug: the match, the choke."""
        return self.at(JOINTS[0]) if self.line is not None else len(self.slots)

    @property
    def line_end(self) -> int:
        """So many slots stand above what is in the shack."""
        return self.at(JOINTS[1]) + 1 if self.line is not None else len(self.slots)


def installation(
    structure: Structure,
    form: str,
    bands: Sequence[Target],
    elements: Sequence[tuple[Element, SlotKind]],
    *,
    earths: int = 0,
    choke: bool = True,
    tuner: bool = True,
    feed_at: Where = "ladder",
    aloft_at: Where = "ladder",
    doubts: Doubts = Doubts(),
    by_word: bool = False,
) -> Installation:
    """Put it together, with the joints that nobody draws: a choke, plugs at both ends of the line, a lead, a tuner.

    Args:
        elements: from the antenna down, with what each is; a line at most once.
        tuner: whether one may stand before the radio.

    Raises:
        OutOfDomainError: no band.
    """
    if not bands:
        raise OutOfDomainError("bands", "none", "at least one on which it was used")
    slots: list[Slot] = []
    has_line = any(kind == "line" for _, kind in elements)
    for element, kind in elements:
        if kind == "tuner":
            continue
        if kind == "line":
            if choke:
                slots.append(Slot("choke", "choke", None, feed_at))
            slots.append(Slot(JOINTS[0], "joint", None, feed_at))
            slots.append(Slot(element.key, "line", element, "garden"))
            slots.append(Slot(JOINTS[1], "joint", None, "shack"))
        else:
            slots.append(Slot(element.key, kind, element, feed_at))
    if not has_line and choke:
        slots.append(Slot("choke", "choke", None, feed_at))
    slots.append(Slot("lead", "lead", None, "shack"))
    if tuner:
        slots.append(Slot("tuner", "tuner", None, "shack"))
    return Installation(structure, form, earths, tuple(slots), tuple(bands), feed_at, aloft_at, doubts, by_word)


def feed_reach(structure: Structure) -> Where:
    """Where one stands to open its feedpoint."""
    source = structure.source
    height = float(structure.wires[source.wire].at(source.at)[2])
    return "garden" if height <= REACHED_M else "ladder"


def of_design(
    hung: Hung,
    kind: AntennaKind,
    bands: Sequence[Target],
    design: Design | None,
    *,
    line: Line | None = None,
    by_word: bool = False,
    feed_at: Where | None = None,
) -> Installation:
    """A build as it was designed, its wires as planned.

    Args:
        design: its match and its line; None where it has neither.
        line: where the design has none.
        by_word: somebody told how it hangs; no plan.
    """
    structure = hung.structure()
    elements: list[tuple[Element, SlotKind]] = []
    if design is not None:
        for made, element in zip(design.system().elements, design.elements, strict=True):
            elements.append((made, slot_kind(element)))
    if line is not None and (design is None or design.feedline is None):
        elements.append((Element("line", "through", line), "line"))
    reach = feed_at or feed_reach(structure)
    aloft: Where = (
        "garden" if all(max(w.start_m[2], w.end_m[2]) <= REACHED_M for w in structure.wires) else "ladder"
    )
    return installation(
        structure,
        kind.form,
        bands,
        elements,
        earths=hung.earths,
        feed_at=reach,
        aloft_at=aloft,
        doubts=BY_WORD if by_word else Doubts(),
        by_word=by_word,
    )


def slot_kind(element: DesignElement) -> SlotKind:
    """What an element of a design is to whoever looks for a fault."""
    return next((kind for made, kind in KINDS_OF.items() if isinstance(element, made)), "coil")


def by_word(
    hung: Hung,
    kind: AntennaKind,
    bands: Sequence[Target],
    line: Line,
    *,
    unun: Element | None = None,
    feed_at: Where | None = None,
) -> Installation:
    """Without a design and without a baseline: what somebody tells of an antenna of a kind."""
    structure = hung.structure()
    elements: list[tuple[Element, SlotKind]] = [] if unun is None else [(unun, "transformer")]
    elements.append((Element("line", "through", line), "line"))
    reach = feed_at or feed_reach(structure)
    return installation(
        structure,
        kind.form,
        bands,
        elements,
        earths=hung.earths,
        feed_at=reach,
        aloft_at="ladder",
        doubts=BY_WORD,
        by_word=True,
    )


def resolution_m(one: Installation, low_hz: float, high_hz: float) -> tuple[float, float] | None:
    """How near two faults of its line may lie and be told apart, and how far a sweep's steps reach, metres.

    Source:
        Fourier: v·c/(2·span) and v·c/(4·step) one way, as time-domain reflectometry has them (common practice).
    """
    if one.line is None or one.line.element is None:
        return None
    part = one.line.element.part
    assert isinstance(part, Line)
    speed = 299_792_458.0 * float(np.asarray(part.cable.velocity_factor))
    span = high_hz - low_hz
    if not span > 0:
        return None
    return speed / (2 * span), speed / (4 * span / BROAD)
