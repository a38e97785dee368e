"""What may take power unseen: each thing as a model of what an analyser then shows, with how far it may go.

An antenna as it may hang, behind what is known to lie below it, with one thing more: a resistance in line, one
across, more loss of its line or its transformer, a resistor in its place, a tuner left in.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np

from yielding_coil.core.antenna import fit_strays
from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.modelled_antenna import ModelledAntenna, modelled
from yielding_coil.core.parts import Inductor, Resistor
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import ReadOnce
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.tuner import Tuner, TunerNetwork, TunerSetting, matches_of
from yielding_coil.core.wire import Hung, OnRadials, Stray, radials_ohm

CauseKey = Literal["none", "joint", "radials", "across", "resistor", "line", "transformer", "tuner"]

# Medians, and by how much one standard deviation multiplies (from memory): a bad joint in ohm; what poor radials
# lose beyond the table; what lies across the feed, over what it expects; a resistor in the antenna's place, over
# the same, and its leads in henry; a wet or aged line's loss over its nominal one; what a hot core is across the
# radio's side.
JOINT_OHM, RADIALS_OHM, ACROSS_TIMES, RESISTOR_TIMES, LEAD_H = 10.0, 15.0, 8.0, 2.0, 50e-9
LINE_TIMES, HOT_OHM, TIMES = 4.0, 150.0, 2.5
# Its permeability over what it should be, and by how much one standard deviation multiplies (from memory).
TIRED, TIRED_TIMES = 0.75, 1.4
# Of a known line, one standard deviation: loss, electrical length, impedance; of a known transformer: permeability,
# leakage and capacitance (common practice).
LINE_LOSS, LINE_LENGTH, LINE_OHM, RING, STRAYS_TIMES = 0.05, 0.005, 0.02, 0.1, 1.5
# A wet line is slower by so much as well; from where a fit of one sets out.
SLOWER = 0.015
WET_STARTS = tuple((1.0, slow) for slow in (-1.0, 0.5, 1.5, 2.5))
# Two standard deviations, relative: of a loading coil's Q, and of one length
# beside the others (common practice).
COIL_Q, ONE_LENGTH = 0.6, 0.01
# So many of a tuner's settings are looked at.
SETTINGS = 8
# How far around its band an antenna is known.
AROUND = 0.08
# No deviate is taken further; a tuner's settings, by how much one standard deviation multiplies.
FURTHEST, SETTING_TIMES = 6.0, 1.25
MOST_BACK, OFF = 0.9999, 1e-5

Columns = list[Real]


@dataclass(frozen=True)
class Known:
    """What is known of an installation: its antenna, what its feed expects, and what lies below it.

    Args:
        below: from the antenna down to where it is swept.
        at_hz: where watts are told.
    """

    antenna: ModelledAntenna
    feed_ohm: float
    below: tuple[Element, ...]
    at_hz: float

    @classmethod
    def of(cls, hung: Hung, feed_ohm: float, below: Sequence[Element], target: Target) -> "Known":
        """A planned antenna around a band; what is solved for it is kept until it hangs otherwise."""
        antenna = as_modelled(hung, target.low_hz / (1 + AROUND), target.high_hz * (1 + AROUND))
        return cls(antenna, feed_ohm, tuple(below), target.center_hz)

    @property
    def lines(self) -> tuple[Element, ...]:
        """Lengths of line below it."""
        return tuple(e for e in self.below if isinstance(e.part, Line))

    @property
    def transformers(self) -> tuple[Element, ...]:
        """Transformers below it."""
        return tuple(e for e in self.below if isinstance(e.part, Transformer))


@dataclass(frozen=True)
class Cause:
    """One thing that may take power.

    Args:
        key: its name; several may share one.
        prior: how likely, among those that may be here.
        dimensions: deviates of its own.
        added: the elements with it, by those deviates, shape (m, 1) each.
        antenna: whether the antenna still is what is fed.
        starts: of its own deviates.
    """

    key: CauseKey
    prior: float
    dimensions: int
    added: Callable[[Sequence[Element], Columns], list[Element]]
    antenna: bool = True
    starts: tuple[tuple[float, ...], ...] = ()


def as_modelled(hung: Hung, low_hz: float, high_hz: float) -> ModelledAntenna:
    """An antenna as it may hang, with the loss of its coil open too; kept since it last settled.

    Raises:
        OutOfDomainError: no range; a structure that is none.
    """
    strays = list(fit_strays(hung))
    if "q" in hung.numbers:
        strays.append(Stray("coil's loss", ("q",), COIL_Q))
    strays += [Stray(f"{name} alone", (name,), ONE_LENGTH) for name in hung.lengths[1:]]
    return modelled(hung, low_hz, high_hz, tuple(strays))


def _times(median: float, z: Real, times: float = TIMES) -> Real:
    return np.asarray(median * times**z)


def _in_line(key: str, median: float) -> Callable[[Sequence[Element], Columns], list[Element]]:
    return lambda below, z: [Element(key, "series", Resistor(_times(median, z[0]))), *below]


def _across(ohm: float) -> Callable[[Sequence[Element], Columns], list[Element]]:
    return lambda below, z: [Element("across", "shunt", Resistor(_times(ohm, z[0]))), *below]


def _lossier(key: str) -> Callable[[Sequence[Element], Columns], list[Element]]:
    def added(below: Sequence[Element], z: Columns) -> list[Element]:
        def other(e: Element) -> Element:
            if e.key != key or not isinstance(e.part, Line):
                return e
            times = 1 + _times(LINE_TIMES - 1, z[0], 2.0)
            return replace(e, part=_line(e.part, times, 1 + SLOWER * np.abs(1 + z[1]), 1.0))

        return [other(e) for e in below]

    return added


def _hot(key: str) -> Callable[[Sequence[Element], Columns], list[Element]]:
    def added(below: Sequence[Element], z: Columns) -> list[Element]:
        at = next(i for i, e in enumerate(below) if e.key == key)
        hot = Element("hot", "shunt", Resistor(_times(HOT_OHM, z[0])))
        cold: Any = below[at].part
        # Near where it gives up a core has less permeability too.
        tired = replace(cold, permeability_factor=cold.permeability_factor * _times(TIRED, z[1], TIRED_TIMES))
        return [*below[:at], replace(below[at], part=tired), hot, *below[at + 1 :]]

    return added


def _tuned(setting: TunerSetting) -> Callable[[Sequence[Element], Columns], list[Element]]:
    def added(below: Sequence[Element], z: Columns) -> list[Element]:
        own = [
            math.nan if not math.isfinite(v) else _times(v, each, SETTING_TIMES)
            for v, each in zip(setting.values, z[:3], strict=True)
        ]
        usual: Any = Tuner()
        tuner = replace(usual, coil_q=_times(usual.coil_q, z[3], 1.4))
        part = TunerNetwork(tuner, (1e7,), (TunerSetting(setting.side, *own),))
        return [*below, Element("tuner", "through", part)]

    return added


def _line(line: Line, loss: Reals, longer: Reals, impedance: Reals) -> Line:
    own = line.cable
    cable = Cable(
        own.name,
        own.impedance_ohm * impedance,
        np.minimum(own.velocity_factor / longer, 1.0),
        own.loss_sqrt * loss,
        own.loss_linear * loss,
        own.loss_constant * loss,
    )
    return replace(line, cable=cable)


def causes_of(known: Known) -> tuple[Cause, ...]:
    """What may take power here, and that nothing does."""
    found = [
        Cause("joint", 1.0, 1, _in_line("joint", JOINT_OHM), starts=((-1.0,), (1.0,))),
        Cause("across", 1.0, 1, _across(ACROSS_TIMES * known.feed_ohm), starts=((-1.0,), (1.0,))),
    ]
    if isinstance(known.antenna.hung, OnRadials):
        found.append(Cause("radials", 1.0, 1, _in_line("radials", RADIALS_OHM), starts=((-1.0,), (1.0,))))
    found.append(_resistor_at(known.feed_ohm, behind=True))
    if known.below:
        found.append(_resistor_at(50.0, behind=False))
    found += [Cause("line", 1.0, 2, _lossier(e.key), starts=WET_STARTS) for e in known.lines]
    found += [
        Cause("transformer", 1.0, 2, _hot(e.key), starts=((-1.0, 0.0), (1.0, 0.0))) for e in known.transformers
    ]
    nothing = np.zeros((1, dimensions_of(known)))
    load = System(_seen(known, np.array([known.at_hz]), nothing), known.below).impedance(np.array([known.at_hz]))
    settings = matches_of(Tuner(), known.at_hz, complex(np.asarray(load).reshape(-1)[0])).settings
    spread = settings[:: max(1, len(settings) // SETTINGS)][:SETTINGS]
    found += [Cause("tuner", 1 / len(spread), 4, _tuned(setting)) for setting in spread]
    return (Cause("none", 1.0, 0, lambda below, z: list(below)), *found)


def _resistor_at(ohm: float, *, behind: bool) -> Cause:
    def added(below: Sequence[Element], z: Columns) -> list[Element]:
        lead = Element("lead", "series", Inductor(_times(LEAD_H, z[1]), 1e4))
        resistor = Element("resistor", "shunt", Resistor(_times(RESISTOR_TIMES * ohm, z[0])))
        return [resistor, lead, *below] if behind else [resistor, lead]

    return Cause("resistor", 0.5, 2, added, antenna=False, starts=((-1.0, 0.0), (1.0, 0.0)))


def dimensions_of(known: Known) -> int:
    """Deviates of what is known: the antenna's, then of each line and transformer."""
    return len(known.antenna.effects) + 3 * len(known.lines) + 3 * len(known.transformers)


def _seen(known: Known, frequency_hz: Real, z: Real, off: Reals = 0.0) -> ReadOnce:
    strayed = {e.name: z[:, i : i + 1] for i, e in enumerate(known.antenna.effects)}
    gamma = reflection_of(known.antenna.strayed(strayed).impedance_at(frequency_hz)) + off
    held = gamma * np.minimum(1.0, MOST_BACK / np.maximum(np.abs(gamma), 1e-9))
    return ReadOnce(np.asarray(impedance_of(held)))


def _below(known: Known, z: Real) -> list[Element]:
    """What lies below, as it may be."""
    at = len(known.antenna.effects)
    found = []
    for e in known.below:
        part = e.part
        if isinstance(part, Line | Transformer):
            a, b, c = (z[:, at + i : at + i + 1] for i in range(3))
            at += 3
            if isinstance(part, Line):
                part = _line(part, np.exp(LINE_LOSS * a), np.exp(LINE_LENGTH * b), np.exp(LINE_OHM * c))
            else:
                part = replace(
                    part,
                    permeability_factor=part.permeability_factor * np.exp(RING * a),
                    leakage_h=part.leakage_h * STRAYS_TIMES**b,
                    winding_capacitance_f=part.winding_capacitance_f * STRAYS_TIMES**c,
                )
        found.append(replace(e, part=part))
    return found


def system_of(known: Known, cause: Cause, z: Real, frequency_hz: Real, off: Reals = 0.0) -> System:
    """The whole of it with a cause.

    Args:
        z: deviates of what is known, then of the cause, shape (m, k).
        off: added to the antenna's Γ.
    """
    z = np.clip(z, -FURTHEST, FURTHEST)
    k = dimensions_of(known)
    own = [z[:, k + i : k + i + 1] for i in range(cause.dimensions)]
    antenna = _seen(known, frequency_hz, z, off)
    if not cause.antenna:
        # In its place something that takes nothing.
        antenna = ReadOnce(np.full((len(z), frequency_hz.size), 1e9 + 0j))
    return System(antenna, cause.added(_below(known, z), own))


def reflections(known: Known, cause: Cause, z: Real, frequency_hz: Real, off: Reals = 0.0) -> Complex:
    """Γ of such installations where they are swept, shape (m, n)."""
    found = reflection_of(system_of(known, cause, z, frequency_hz, off).impedance(frequency_hz))
    return np.broadcast_to(found, (len(z), frequency_hz.size))


def places_of(known: Known, cause: Cause, z: Real, watts: Real, effects: Real) -> dict[str, Real]:
    """Of 100 W that go in where it is swept, what is radiated and what stays where; shape (m,) each.

    Args:
        watts, effects: of the antenna by itself: shares radiated, in wire, loads, ground, shape (4,); and what a
            standard deviation of each thing that strays does to them, shape (strays, 4).
    """
    f = np.array([known.at_hz])
    system = system_of(known, cause, z, f)
    shares: dict[str, Real] = {}
    passed = [np.ones(len(z))]
    for i in range(1, len(system.elements) + 1):
        upper = System(system.antenna, system.elements[:i]).efficiency(f)
        passed.append(np.broadcast_to(upper, (len(z), 1))[:, 0])
    total = passed[-1]
    for i, e in enumerate(system.elements):
        with np.errstate(divide="ignore", invalid="ignore"):
            lost = total / passed[i + 1] - total / passed[i]
        name = PLACES.get(e.key) or ("transformer" if isinstance(e.part, Transformer) else None) or "parts"
        name = "line" if isinstance(e.part, Line) else name
        shares[name] = shares.get(name, np.zeros(len(z))) + 100 * np.nan_to_num(lost)
    into = total if cause.antenna else np.zeros(len(z))
    own = np.clip(watts + z[:, : len(effects)] @ effects, 1e-6, 1.0)
    hung = known.antenna.hung
    if isinstance(hung, OnRadials):
        # Their resistor stands at the base: it takes what it is of all that is seen there.
        names = [e.name for e in known.antenna.effects]
        least, most = radials_ohm(hung.radials)
        ohm = (hung.ground_ohm or 0.0) + z[:, names.index("radials")] * (most - least) / 2
        there = np.asarray(system.antenna.impedance_at(f)).real[:, 0]
        taken = np.clip(ohm / np.maximum(there, 1e-9), 0.0, 1.0)
        shares["radials"] = shares.get("radials", 0.0) + 100 * into * taken
        still = (hung.ground_ohm or 0.0) / float(np.asarray(known.antenna.impedance_at(f)).real[0])
        own[:, 3] = np.maximum(own[:, 3] - still, 1e-6)
        into = into * (1 - taken)
    own = own / own.sum(axis=1, keepdims=True)
    for name, share in zip(("radiated", "wire", "coil", "soil"), own.T, strict=True):
        shares[name] = 100 * into * share
    return shares


# Where what an added element takes is said to stay.
PLACES = {
    "joint": "joint",
    "radials": "radials",
    "across": "across",
    "resistor": "resistor",
    "lead": "resistor",
    "hot": "transformer",
    "tuner": "tuner",
}
