"""Fifteen installations whose truth lies here alone: hung otherwise than planned, and with what nobody knows of.

Wires are solved with other segments and hang over other soil, coils have other capacitance and loss, what an
analyser reads is off by the three terms of its bridge. Known to who judges: the kind, lengths within 1 %, the line,
the transformer and where it was swept.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np
from scipy.optimize import brentq

from yielding_coil import data
from yielding_coil.core.antenna import begun
from yielding_coil.core.design import Known, as_modelled
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import Inductor, Resistor
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.ring import Ring
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import ReadOnce
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.tuner import Tuner, TunerNetwork, matches_of
from yielding_coil.core.wire import (
    KINDS,
    Ground,
    Hung,
    Insulation,
    OnRadials,
    Source,
    Stock,
    Structure,
    Wire,
    radials_ohm,
)

TWELVE, FIFTEEN = Target("12 m", 24.89e6, 24.99e6, 2.0), Target("15 m", 21.0e6, 21.45e6, 2.0)
SIXTY = Target("60 m", 5.3515e6, 5.3665e6, 2.0)
COVERED = Stock(0.001, "copper", Insulation(0.0016, 2.5))
THICK = Stock(0.0125, "aluminium")
LEAD = Line(Cable("test lead", 50.0, 0.66, 1.35, 0.025), 1.5)
# Swept so far to both sides; other segments than who judges solves with; Γ that a calibration leaves.
SPAN, TRUE_SEGMENTS, RESIDUAL = 0.06, 53.0, 0.003
UNUN = Transformer(
    Ring(data.ring_material("43"), data.ring_size("FT240"), 1),
    2,
    14,
    leakage_h=0.1e-6,
    winding_capacitance_f=3e-12,
    input_capacitance_f=100e-12,
)


@dataclass(frozen=True)
class Installed:
    """One as it is known, as it reads, and what of 100 W really becomes heat: in parts, line, wires and radials.

    `again` is a second sweep with a hand on the coax; `stays_w` None where there is no figure to hold against.
    """

    known: Known
    sweep: Sweep
    again: Sweep | None
    stays_w: float | None


def hung_truly(planned: Hung, rng: Any) -> Hung:
    """As it hangs: lengths within 1 %, heights within 5 %, other soil, other covering, another coil."""
    own: Any = planned
    wetter = 3.0 ** rng.uniform(-0.87, 0.87)
    soil = Ground(
        planned.soil.conductivity_s_per_m * wetter,
        max(1.0, planned.soil.relative_permittivity * wetter ** (1 / 3)),
    )
    stretch = 1 + rng.uniform(-0.008, 0.008)
    changes: dict[str, Any] = {n: getattr(own, n) * stretch * (1 + rng.uniform(-0.002, 0.002)) for n in own.lengths}
    changes |= {n: getattr(own, n) * rng.uniform(0.95, 1.05) for n in own.heights}
    changes["soil" if isinstance(planned, OnRadials) else "ground"] = soil
    if planned.stock.insulation is not None:
        changes["stock"] = planned.stock.covered(rng.uniform(0.75, 1.25))
    if isinstance(planned, OnRadials):
        changes["ground_ohm"] = rng.uniform(*radials_ohm(planned.radials))
    if hasattr(own, "q"):
        changes |= {"q": own.q * rng.uniform(0.75, 1.3), "own_f": own.own_f * rng.uniform(0.7, 1.4)}
        changes["inductance_h"] = own.inductance_h * rng.uniform(0.96, 1.04)
    return replace(own, **changes)


def line_truly(line: Line, rng: Any, *, loss: float = 1.0, slower: float = 1.0) -> Line:
    """Its loss within 10 %, its velocity within 1 %, its impedance within 3 %; or wet."""
    own: Any = line.cable
    loss *= rng.uniform(0.9, 1.1)
    cable = Cable(
        own.name,
        own.impedance_ohm * rng.uniform(0.97, 1.03),
        own.velocity_factor * rng.uniform(0.99, 1.01) / slower,
        own.loss_sqrt * loss,
        own.loss_linear * loss,
        own.loss_constant * loss,
    )
    return replace(line, cable=cable)


def unun_truly(rng: Any) -> Transformer:
    """Its ring within 15 %, what leaks and lies across within a half."""
    return replace(
        UNUN,
        permeability_factor=rng.uniform(0.85, 1.15),
        leakage_h=UNUN.leakage_h * rng.uniform(0.6, 1.5),
        winding_capacitance_f=UNUN.winding_capacitance_f * rng.uniform(0.6, 1.5),
    )


def read(f: Any, ohm: Any, rng: Any) -> Sweep:
    """Misread by the three terms of a bridge through its lead, and noise."""
    gamma = reflection_of(ohm)
    d, m, t = RESIDUAL / math.sqrt(3) * rng.normal(size=(3, 2)).view(complex)[:, 0] / math.sqrt(2)
    turn = np.exp(2 * LEAD.cable.propagation(f)[0] * LEAD.length_m)
    gamma = gamma + d * turn + t * gamma + m * gamma**2 / turn
    gamma = gamma + 1e-3 / math.sqrt(2) * rng.normal(size=(f.size, 2)).view(complex)[:, 0]
    return Sweep(f, impedance_of(gamma))


@lru_cache
def planned(kind: str, target: Target, stock: Stock = COVERED, others: tuple[Target, ...] = ()) -> Hung:
    """As it is planned; the short one has its coil at its base."""
    if kind != "short":
        return begun(kind, target, stock, others=others)
    begun_so: Any = begun("loaded-vertical", target, stock)
    short = replace(begun_so, height_m=0.09 * 299.792458e6 / target.center_hz, coil_at=0.0)

    def ohm(henry: float) -> float:
        found = replace(short, inductance_h=henry).structure().impedance_at(np.array([target.center_hz]))
        return float(found[0].imag)

    return replace(short, inductance_h=float(brentq(ohm, 1e-6, 200e-6)))


def installed(
    rng: Any,
    kind: str,
    target: Target = TWELVE,
    stock: Stock = COVERED,
    others: tuple[Target, ...] = (),
    below: tuple[Element, ...] = (),
    truly: Callable[[Hung, tuple[Element, ...], Any], tuple[Hung, list[Element], bool]] | None = None,
    told: bool = True,
) -> Installed:
    """One as planned, hung, and swept below all that lies there.

    Args:
        truly: from how it hangs and what honestly lies below: what does; and whether the antenna is there at all.
        told: whether its watts are held against.
    """
    plan = planned(kind, target, stock, others)
    at = target.center_hz
    f = np.linspace(at * (1 - SPAN), at * (1 + SPAN), 101)
    known = Known(as_modelled(plan, at * (1 - 1.5 * SPAN), at * (1 + 1.5 * SPAN)), feed_of(kind), below, at)
    hung = hung_truly(plan, rng)
    real = [
        replace(e, part=line_truly(e.part, rng) if isinstance(e.part, Line) else unun_truly(rng)) for e in below
    ]
    there = True
    if truly is not None:
        hung, real, there = truly(hung, tuple(real), rng)
    ohm = replace(hung.structure(), segments_per_wave=TRUE_SEGMENTS).impedance_at(f)
    system = System(ReadOnce(ohm if there else np.full(f.shape, 1e9 + 0j)), real)
    _, wire, coil, ground = hung.watts_at(at, 1.0) / hung.watts_at(at, 1.0).sum()
    radials = (
        min(hung.ground_ohm / float(np.interp(at, f, ohm.real)), ground) if isinstance(hung, OnRadials) else 0.0
    )
    into = float(np.interp(at, f, system.efficiency(f))) if there else 0.0
    heat = 100 * (1 - into * (1 - wire - coil - radials))
    return Installed(known, read(f, system.impedance(f), rng), None, heat if told else None)


def feed_of(kind: str) -> float:
    """What its feed expects."""
    return 25.0 if kind == "short" else KINDS[kind].feed_ohm


def _joint(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    return hung, [Element("bad", "series", Resistor(rng.uniform(12.0, 18.0))), *below], True


def _resistor(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    lead = Element("lead", "series", Inductor(rng.uniform(20e-9, 100e-9), 100.0))
    return hung, [Element("r", "shunt", Resistor(rng.uniform(40.0, 150.0))), lead, *below], False


def _radials(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    own: Any = hung
    return replace(own, ground_ohm=rng.uniform(25.0, 40.0)), list(below), True


def _hot(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    """Near where its core gives up: a third of its permeability, and as much again lost as it carries on."""
    unun: Any = below[0].part
    hot = replace(unun, permeability_factor=rng.uniform(0.4, 0.7))
    across = Element("hot core", "shunt", Resistor(rng.uniform(60.0, 150.0)))
    return hung, [replace(below[0], part=hot), across, *below[1:]], True


def _wet(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    line: Any = below[0].part
    wet = line_truly(line, rng, loss=rng.uniform(5.0, 10.0), slower=rng.uniform(1.01, 1.04))
    return hung, [replace(below[0], part=wet)], True


def _tuner(hung: Hung, below: tuple[Element, ...], rng: Any) -> tuple[Hung, list[Element], bool]:
    """Set for this band by somebody, with a coil of its own Q."""
    at = np.array([FIFTEEN.center_hz * rng.uniform(0.995, 1.005)])
    ohm = System(ReadOnce(hung.structure().impedance_at(at)), below).impedance(at)
    tuner = Tuner(coil_q=rng.uniform(80.0, 200.0))
    found = matches_of(tuner, float(at[0]), complex(ohm[0]))
    setting = found.settings[int(rng.integers(len(found.settings)))]
    return hung, [*below, Element("left in", "through", TunerNetwork(tuner, (1e7,), (setting,)))], True


def _shield(rng: Any) -> Installed:
    """The coax hangs on one leg, a wire as well; then a hand holds it lower down."""
    own = installed(rng, "dipole", told=False)
    hung: Any = hung_truly(planned("dipole", TWELVE), rng)
    f = own.sweep.frequency_hz
    length = rng.uniform(2.6, 3.6)

    def seen(hanging_m: float) -> Any:
        top = (0.0, 0.0, hung.height_m)
        legs = [hung.stock.wire(top, (x, 0.0, hung.height_m)) for x in (hung.leg_m, -hung.leg_m)]
        shield = Wire(top, (0.0, 0.05, max(hung.height_m - hanging_m, 0.3)), 0.003)
        wires = Structure([*legs, shield], Source(0, 0.0), ground=hung.ground)
        return replace(wires, segments_per_wave=TRUE_SEGMENTS).impedance_at(f)

    by_hand = rng.uniform(0.3, 0.8) * rng.choice([-1.0, 1.0])
    return replace(own, sweep=read(f, seen(length), rng), again=read(f, seen(length + by_hand), rng), stays_w=None)


COAX = (Element("line", "through", Line(data.cable("pe-5"), 20.0)),)
THIN = (Element("line", "through", Line(data.cable("pe-2.8"), 60.0)),)
WINDOW = (Element("line", "through", Line(data.cable("window-450"), 20.0)),)
BY_UNUN = (Element("unun", "through", UNUN),)

# By its name: how it is made from a generator, and what may be named, any of them; nothing for an honest one.
INSTALLATIONS: dict[str, tuple[Callable[[Any], Installed], frozenset[str]]] = {
    "dipole": (lambda rng: installed(rng, "dipole"), frozenset()),
    "dipole of thick tube": (lambda rng: installed(rng, "dipole", stock=THICK), frozenset()),
    "fan": (lambda rng: installed(rng, "fan-dipole", others=(FIFTEEN,)), frozenset()),
    "vertical on 32 radials": (lambda rng: installed(rng, "five-eighths", FIFTEEN), frozenset()),
    "dipole through coax": (lambda rng: installed(rng, "dipole", FIFTEEN, below=COAX), frozenset()),
    "end-fed by its unun": (lambda rng: installed(rng, "end-fed", below=BY_UNUN), frozenset()),
    "a resistor": (lambda rng: installed(rng, "dipole", truly=_resistor), frozenset({"resistor"})),
    "60 m of thin coax": (lambda rng: installed(rng, "dipole", below=THIN), frozenset({"line"})),
    "short wire, coil at its base": (
        lambda rng: installed(rng, "short", SIXTY),
        frozenset({"ground", "coil"}),
    ),
    "four short radials": (lambda rng: installed(rng, "vertical", truly=_radials), frozenset({"radials"})),
    "a hot transformer": (
        lambda rng: installed(rng, "end-fed", below=BY_UNUN, truly=_hot),
        frozenset({"transformer"}),
    ),
    "current on the shield": (_shield, frozenset({"shield"})),
    "a corroded joint": (lambda rng: installed(rng, "dipole", truly=_joint), frozenset({"joint"})),
    "a wet window line": (lambda rng: installed(rng, "dipole", below=WINDOW, truly=_wet), frozenset({"line"})),
    "a tuner left in": (
        lambda rng: installed(rng, "dipole", FIFTEEN, below=COAX, truly=_tuner),
        frozenset({"tuner"}),
    ),
}
