"""The design that a planned antenna usually hangs above: its transformer or section of line, the coax, a tuner."""

from collections.abc import Sequence

from yielding_coil import data
from yielding_coil.core.antenna import coil_reading_h, pair_of
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.system import Element
from yielding_coil.core.wire import KINDS, Trapped
from yielding_coil.documents.choke_and_trap import Accessory, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import (
    AnyElement,
    DesignContent,
    Feedline,
    MatchSection,
    RadioTuner,
    TargetPayload,
)
from yielding_coil.documents.ring_wound import RingCore, WoundTransformer
from yielding_coil.documents.wire import WireAntenna

# The coax that is usually to hand, and how much of it.
USUAL_CABLE, USUAL_LINE_M = "foam-6", 15.0
# Turns by the ohms that a kind's feed expects (common practice: 2 in 14, nine turns of three wires).
UNUNS = {
    2450.0: WoundTransformer(
        key="unun",
        core=RingCore(mix="43", size="FT240"),
        wire="cu-1",
        wiring="tapped",
        primary_turns=2,
        secondary_turns=14,
        crossed=True,
        input_capacitance_f=100e-12,
    ),
    450.0: WoundTransformer(
        key="unun",
        core=RingCore(mix="43", size="FT140"),
        wire="cu-1",
        wiring="three-in-hand",
        primary_turns=9,
        secondary_turns=27,
    ),
}
# A full-wave loop comes to 50 Ω through a quarter-wave of this (practice).
LOOP_OHM, LOOP_CABLE = 112.0, "pe-6-75"


def usual_content(
    antenna: WireAntenna, targets: Sequence[TargetPayload], cable: str = USUAL_CABLE, line_m: float = USUAL_LINE_M
) -> DesignContent:
    """A whole design below a planned antenna, as its kind is usually fed.

    Args:
        targets: the bands, the first of which a section of line is cut for.
        cable: key of the coax; line_m: how much of it down to the radio.

    Raises:
        NotFoundError: no such cable.
    """
    kind = KINDS[antenna.antenna]
    elements: list[AnyElement] = []
    if kind.by_unun:
        elements.append(UNUNS[kind.feed_ohm])
    if kind.feed_ohm == LOOP_OHM:
        wave = SPEED_OF_LIGHT_M_PER_S / targets[0].to_core().center_hz
        velocity = float(data.cables()[LOOP_CABLE].cable.velocity_factor)
        elements.append(MatchSection(key="section", cable=LOOP_CABLE, length_m=round(velocity * wave / 4, 3)))
    elements.append(Feedline(key="line", cable=cable, length_m=line_m))
    if not kind.resonant:
        elements.append(RadioTuner(key="tuner"))
    return DesignContent(antenna=antenna, targets=list(targets), elements=elements, beside=_wound(antenna, targets))


def below_without_tuner(content: DesignContent) -> tuple[Element, ...]:
    """What stands below an antenna in a design, but for a tuner, which is set band by band; for the core."""
    kept = [element for element in content.elements if element.kind != "tuner"]
    design = content.model_copy(update={"elements": kept}).to_core(FixedLoad(50.0))
    return tuple(design.system().elements)


def _wound(antenna: WireAntenna, targets: Sequence[TargetPayload]) -> list[Accessory]:
    """What stands in its wires, to be wound: traps, or a coil as an analyser reads it in the first band."""
    hung, first = antenna.hung(), targets[0].to_core()
    if isinstance(hung, Trapped):
        pair = pair_of(KINDS[antenna.antenna], first, [t.to_core() for t in targets[1:]])
        if pair is None:
            return []
        high, low = pair
        return [
            WireTrap(
                key="trap",
                tuned_hz=hung.trap_hz,
                high_hz=high,
                low_hz=low,
                capacitance_f=hung.trap_f,
                former_m=0.025,
                wire="cu-1.6",
                wire_radius_m=hung.stock.radius_m,
                legs=2 if len(hung.structure().loads) - hung.earths > 1 else 1,
            )
        ]
    henry = coil_reading_h(hung, first.center_hz)
    if henry is None or henry <= 0:
        return []
    return [
        Coil(
            key="loading coil",
            place="series",
            inductance_h=round(henry, 9),
            former_m=0.05,
            wire="cu-1.6",
            pitch_m=0.0032,
        )
    ]
