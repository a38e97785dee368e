"""What may hurt at a test and at a mending: a row each, the words are the page's."""

from collections.abc import Mapping
from typing import Literal

from yielding_coil.core.diagnosis.acts import Act
from yielding_coil.core.diagnosis.installation import JOINTS, Installation, Where
from yielding_coil.core.diagnosis.suspects import FEED

CautionCode = Literal["radio_off", "discharge", "power_lines", "ladder", "not_alone", "meter_bias"]
DoneCaution = Literal["mark_first", "radio_off", "power_lines", "ladder", "dig", "seal", "low_power", "sweep_again"]

_BY_WHERE: Mapping[Where, tuple[CautionCode, ...]] = {
    "shack": ("radio_off",),
    "garden": ("radio_off", "discharge", "power_lines"),
    "ladder": ("radio_off", "discharge", "power_lines", "ladder", "not_alone"),
}


def cautions_of(act: Act) -> tuple[CautionCode, ...]:
    """What to mind at a test."""
    return (*_BY_WHERE[act.where], *(("meter_bias",) if act.reads == "ohm" else ()))


def mending_cautions(one: Installation, key: str) -> tuple[DoneCaution, ...]:
    """What to mind when an element is taken apart and mended."""
    kind, group = stands_in(one, key)
    found: list[DoneCaution] = ["mark_first", "radio_off"]
    where = one.aloft_at if group == "antenna" else one.feed_at if group == "box" else "shack"
    if group in ("antenna", "box"):
        found.append("power_lines")
    if where == "ladder":
        found.append("ladder")
    if kind == "line":
        found.append("dig")
    if kind in ("joint", "line", "trap", "transformer", "coil"):
        found.append("seal")
    return (*found, "low_power", "sweep_again")


def stands_in(one: Installation, key: str) -> tuple[str, Literal["antenna", "box", "line", "shack"]]:
    """What kind of thing an element is, and where it belongs on the way from antenna to radio."""
    for k, slot in enumerate(one.slots):
        if slot.key == key:
            group: Literal["antenna", "box", "line", "shack"] = "shack"
            if slot.kind == "line":
                group = "line"
            elif slot.key == JOINTS[0] or k < one.box_end:
                group = "box"
            return slot.kind, group
    if key == FEED:
        return "feed", "antenna"
    port = next((p for p in one.wires.ports if p.key == key), None)
    if port is not None:
        return port.kind, "antenna"
    return next((p.role for p in one.wires.ports if f"{p.role}{p.number}" == key), key), "antenna"
