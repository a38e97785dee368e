"""A design beside others: every coax at several lengths, a tuner at either end, and what would raise the least."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.design.design import Design
from yielding_coil.core.design.prediction import Evaluation
from yielding_coil.core.line import CableRow, Line
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.system import Element, System
from yielding_coil.core.tuner import BYPASSED, Tuner, TunerNetwork, TunerSetting, least_loss, tee_of
from yielding_coil.core.winding import WoundTransformer

# Lengths of line that are compared, over the design's own.
LENGTHS = (0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 2.0)

TunerAt = Literal["nowhere", "radio", "antenna"]
BetterBy = Literal["cable", "tuner_nowhere", "tuner_radio", "tuner_antenna", "stack"]
TUNER_TO: dict[TunerAt, BetterBy] = {
    "nowhere": "tuner_nowhere",
    "radio": "tuner_radio",
    "antenna": "tuner_antenna",
}
# A change is worth a word from this share of the power on.
WORTH_SHARE = 0.01


@dataclass(frozen=True, slots=True)
class CableOnBands:
    """One coax in place of the feedline, at every length and on every band.

    Args:
        line_w: what it takes at the design's own length, one a band.
        up_w: shape (lengths, bands).
        meter_swr: what is read at its radio's end, shape (lengths, bands).
    """

    cable: str
    name: str
    here: bool
    line_w: Real
    up_w: Real
    meter_swr: Real


@dataclass(frozen=True, slots=True)
class TunerOnBands:
    """A tuner at one end of the line, or nowhere, by band: what the radio sees, the line carries, and goes up.

    NaN where the tuner cannot match it.
    """

    at: TunerAt
    here: bool
    radio_swr: Real
    line_swr: Real
    up_w: Real


class Better(NamedTuple):
    """A change, and the least that then goes up on any band."""

    by: BetterBy
    key: str
    least_w: float


def _above_line(found: Evaluation) -> System:
    """The cascade down to the box."""
    return System(found.system.antenna, found.system.elements[: found.box])


def coaxes_of(design: Design, cables: Iterable[CableRow]) -> list[CableRow]:
    """Those to compare, the design's own among them; none without a line."""
    line = design.feedline
    if line is None or line.length_m == 0:
        return []
    rows = {cable.key: cable for cable in cables if cable.coax}
    rows[line.cable.key] = line.cable
    return list(rows.values())


def on_cables(
    found: Evaluation, radiated: Real, cables: Sequence[CableRow]
) -> tuple[tuple[CableOnBands, ...], tuple[float, ...]]:
    """Every coax in place of the feedline, without a tuner."""
    line = found.design.feedline
    if line is None or not cables:
        return (), ()
    f = np.array([t.center_hz for t in found.design.targets])
    box = _above_line(found)
    z, share = box.impedance(f), box.efficiency(f) * radiated * found.power_w
    lengths = np.array([over * line.length_m for over in LENGTHS])
    own = LENGTHS.index(1.0)
    compared = []
    for row in cables:
        part = Line(row.cable, lengths[:, np.newaxis])
        passed = System(_Known(z), [Element("line", "through", part)])
        kept = passed.efficiency(f)
        compared.append(
            CableOnBands(
                row.key,
                row.cable.name,
                row is line.cable,
                (1 - kept[own]) * found.power_w,
                kept * share,
                swr_of_impedance(passed.impedance(f)),
            )
        )
    compared.sort(key=lambda c: float(np.nansum(c.line_w)))
    return tuple(compared), tuple(lengths.tolist())


@dataclass(frozen=True, slots=True)
class _Known:
    """An antenna by its impedance at the frequencies that are asked for."""

    load_ohm: Complex

    def impedance_at(self, frequency_hz: object) -> Complex:
        return self.load_ohm


def with_tuners(found: Evaluation, radiated: Real) -> tuple[TunerOnBands, ...]:
    """None, one at the radio, one at the box: set to the match with the least loss in the middle of each band."""
    design = found.design
    tuner = design.radio_tuner.tuner if design.radio_tuner else Tuner()
    f = np.array([t.center_hz for t in design.targets])
    box = _above_line(found)
    z, up = box.impedance(f), box.efficiency(f) * radiated * found.power_w
    line = design.feedline
    below = [Element("line", "through", line.part(design.center_hz))] if line is not None else []
    here: TunerAt = "radio" if design.radio_tuner else "nowhere"

    def whole(at: TunerAt) -> TunerOnBands:
        load = System(_Known(z), below if at == "radio" else []).impedance(f)
        settings = _set(tuner, f, load) if at != "nowhere" else [BYPASSED] * f.size
        cannot = np.array([s is None for s in settings])
        network = TunerNetwork(tuner, tuple(f.tolist()), tuple(s or BYPASSED for s in settings))
        element = Element("tuner", "through", network)
        one = System(_Known(z), [*below, element] if at == "radio" else [element, *below])
        stations = one.stations(f, 1.0)
        on_line = next((s.line_swr for s in stations if s.line_swr is not None), stations[-1].swr)
        rows = np.stack([stations[-1].swr, on_line, stations[0].power_w * up])
        return TunerOnBands(at, at == here, *np.where(cannot, np.nan, rows))

    places: tuple[TunerAt, ...] = ("nowhere", "radio", "antenna")
    return tuple(whole(at) for at in places)


def _set(tuner: Tuner, f: Real, load: Complex) -> list[TunerSetting | None]:
    """Least loss for each load that takes power."""
    found: list[TunerSetting | None] = [None] * f.size
    takes = (load.real > 0) & np.isfinite(load)
    for k, setting in zip(np.flatnonzero(takes), least_loss(tuner, f[takes], load[takes]), strict=True):
        found[k] = setting
    return found


def _passed(tuner: Tuner, f: Real, load: Complex) -> Real:
    """Power out of a tuner over the power in, set with the least loss for each load; NaN where it cannot match."""
    settings = _set(tuner, f, load)
    found = np.full(f.size, np.nan)
    for side in tuner.sides:
        at = [k for k, s in enumerate(settings) if s is not None and s.side == side]
        if at:
            values = np.array([s.values for k in at if (s := settings[k]) is not None]).T
            found[at] = tee_of(tuner, TunerSetting(side, *values), f[at]).efficiency(load[at])
    return found


def better_ways(
    found: Evaluation,
    radiated: Real,
    cables: Sequence[CableRow],
    tuners: tuple[TunerOnBands, ...],
) -> tuple[Better, ...]:
    """Changes that raise what goes up least, the best first: another coax, a tuner elsewhere, one ring more."""
    design, f = found.design, np.array([t.center_hz for t in found.design.targets])
    at_radio = design.radio_tuner

    def least(share: Real) -> float:
        return float(np.where(np.isfinite(share), share * radiated, 0.0).min()) * found.power_w

    now = least(found.system.efficiency(f))
    tried: list[Better] = []
    others = [row for row in cables if design.feedline is not None and row is not design.feedline.cable]
    if others and design.feedline is not None:
        box = _above_line(found)
        z, above = box.impedance(f), box.efficiency(f)
        lines = [
            System(_Known(z), [Element("line", "through", Line(row.cable, design.feedline.length_m))])
            for row in others
        ]
        kept = np.stack([line.efficiency(f) for line in lines])
        if at_radio:
            # All cables at once: the tuner is set anew for each of them on every band.
            seen = np.stack([line.impedance(f) for line in lines])
            kept = kept * _passed(at_radio.tuner, np.tile(f, len(lines)), seen.ravel()).reshape(kept.shape)
        tried = [Better("cable", row.key, least(above * share)) for row, share in zip(others, kept, strict=True)]
    tried += [
        Better(TUNER_TO[each.at], "", float(each.up_w.min()))
        for each in tuners
        if not each.here and np.isfinite(each.up_w).all()
    ]
    for e in design.elements:
        if isinstance(e, WoundTransformer):
            elements = tuple(e.stacked() if each is e else each for each in design.elements)
            tried.append(Better("stack", e.key, least(replace(design, elements=elements).system().efficiency(f))))
    worth = [b for b in tried if b.least_w > now + WORTH_SHARE * found.power_w]
    return tuple(sorted(worth, key=lambda b: -b.least_w))
