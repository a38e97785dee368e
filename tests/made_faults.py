"""Six installations that break, each seed otherwise; the truth lies with the simulator alone.

Wires are cut and solved anew with other segments, over other soil and at other heights than who looks for the fault
believes; lines and parts stray; what an analyser reads is off by the three terms of its bridge.
"""

import math
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

import numpy as np

from yielding_coil import data
from yielding_coil.analyser.breaking import Broken, Truth, draw_truth
from yielding_coil.core.diagnosis import (
    AS_IT_IS,
    Act,
    Case,
    Done,
    Inquiry,
    Installation,
    LookRead,
    OhmRead,
    SweepRead,
    installation,
)
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.ring import Ring
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap, coil_for
from yielding_coil.core.wire import KINDS, Ground, Load, Source, Structure, Wire

COAX = Cable("5 mm coax", 50.0, 0.66, 1.35, 0.025)
SECTION = Cable("75 Ω coax", 75.0, 0.66, 1.1, 0.02)
FORTY, TWENTY = Target("40 m", 7.0e6, 7.2e6, 2.0), Target("20 m", 14.0e6, 14.35e6, 2.0)
FIFTEEN, TEN = Target("15 m", 21.0e6, 21.45e6, 2.0), Target("10 m", 28.0e6, 29.0e6, 2.0)
TWELVE = Target("12 m", 24.89e6, 24.99e6, 2.0)
SWEPT = np.linspace(1.8e6, 30e6, 301)
# No more tests than so many: whoever needs more gave up.
MOST_TESTS = 9


def _line(metres: float) -> tuple[Element, str]:
    return Element("line", "through", Line(COAX, metres)), "line"


def dipole() -> Installation:
    """For 40 m, ten metres up, its choke at the feed."""
    hung = KINDS["dipole"].start(7.1e6)
    return installation(hung.structure(), "dipole", [FORTY], [_line(25.0)])


def end_fed() -> Installation:
    """A half-wave for 40 m through 49 to 1, fed from the garden."""
    hung = KINDS["end-fed"].start(7.1e6).told(feed_m=2.2, far_m=9.0)
    unun = Transformer(
        Ring(data.ring_material("43"), data.ring_size("FT240"), 1),
        2,
        14,
        leakage_h=0.1e-6,
        winding_capacitance_f=3e-12,
        input_capacitance_f=100e-12,
    )
    elements = [(Element("unun", "through", unun), "transformer"), _line(15.0)]
    return installation(hung.structure(), "end-fed", [FORTY, TWENTY], elements, feed_at="garden")


def trapped() -> Installation:
    """Three bands, two traps in each leg."""
    inner, middle, outer, height = 2.47, 0.66, 1.28, 9.0
    whole = inner + middle + outer
    ten, fifteen = (Trap(coil_for(farad, hz), farad, 200.0) for farad, hz in ((30e-12, 28.4e6), (42e-12, 21.2e6)))
    loads = []
    for side in (1, -1):
        loads += [
            Load(0, 0.5 + side * inner / whole / 2, ten),
            Load(0, 0.5 + side * (inner + middle) / whole / 2, fifteen),
        ]
    wire = Wire((-whole, 0, height), (whole, 0, height), 0.001)
    structure = Structure([wire], Source(0, 0.5), loads, Ground(0.005, 13))
    return installation(structure, "trap-dipole", [TWENTY, FIFTEEN, TEN], [_line(20.0)])


def loaded_vertical() -> Installation:
    """Short, its coil half way up, on radials."""
    hung = KINDS["loaded-vertical"].start(7.1e6).told(inductance_h=1.93e-5)
    return installation(
        hung.structure(), "loaded-vertical", [FORTY], [_line(18.0)], earths=hung.earths, feed_at="garden"
    )


def loop() -> Installation:
    """A triangle through a quarter wave of 75 Ω."""
    hung = KINDS["triangle"].start(14.2e6)
    section = Line(SECTION, 0.66 * 299_792_458 / 14.2e6 / 4)
    elements = [(Element("section", "through", section, in_match=True), "section"), _line(22.0)]
    return installation(hung.structure(), "loop", [TWENTY], elements, feed_at="garden")


def five_eighths() -> Installation:
    """Upright on radials, a capacitor across and a coil in series."""
    hung = KINDS["five-eighths"].start(24.94e6)
    omega = 2 * math.pi * 24.94e6
    elements = [
        (Element("capacitor", "shunt", Capacitor(0.000898 / omega, 1000.0)), "capacitor"),
        (Element("coil", "series", Inductor(317.2 / omega, 200.0)), "coil"),
        _line(16.0),
    ]
    return installation(hung.structure(), "five-eighths", [TWELVE], elements, earths=hung.earths, feed_at="garden")


INSTALLATIONS: dict[str, Callable[[], Installation]] = {
    "dipole": dipole,
    "end-fed": end_fed,
    "trapped": trapped,
    "loaded vertical": loaded_vertical,
    "loop": loop,
    "five-eighths": five_eighths,
}


@lru_cache(maxsize=6)
def known(name: str) -> Installation:
    """One of them, as it was planned."""
    return INSTALLATIONS[name]()


@lru_cache(maxsize=36)
def hung(name: str, which: int) -> Structure:
    """As it really hangs at one of two places: other lengths, heights and soil."""
    structure = known(name).structure
    rng = np.random.default_rng([20261130, which, *name.encode()])
    longer, higher, wetter = 1 + 0.006 * rng.normal(), 1 + 0.05 * rng.normal(), 3.0 ** rng.uniform(-0.7, 0.7)

    def there(point: tuple[float, float, float]) -> tuple[float, float, float]:
        x, y, z = point
        upright = structure.ground == "perfect"
        return x * longer, y * longer, z * (longer if upright else higher)

    wires = tuple(replace(w, start_m=there(w.start_m), end_m=there(w.end_m)) for w in structure.wires)
    ground = structure.ground
    if isinstance(ground, Ground):
        ground = Ground(ground.conductivity_s_per_m * wetter, ground.relative_permittivity * wetter**0.3)
    return replace(structure, wires=wires, ground=ground)


def swept(f: np.ndarray, z: np.ndarray, rng: np.random.Generator) -> Sweep:
    """As an analyser reads it: directivity, tracking and match left over, each turning on leads of its own."""
    gamma = reflection_of(z)
    errors = []
    for size in rng.rayleigh(0.006, size=3):
        turn = np.exp(-2j * math.pi * f * rng.uniform(0, 12e-9) + 1j * rng.uniform(0, 2 * math.pi))
        errors.append(size * turn)
    noise = rng.normal(size=(2, f.size)) * 0.0015
    read = gamma + errors[0] + errors[1] * gamma + errors[2] * gamma**2 + noise[0] + 1j * noise[1]
    return Sweep(f, impedance_of(read * np.minimum(1, 0.9995 / np.abs(read))))


class Seeded:
    """One fault of one installation."""

    def __init__(self, name: str, seed: int, truth: Truth | None = None, **case: object) -> None:
        self.one = known(name)
        rng = np.random.default_rng([20261130, seed])
        self.truth = truth or draw_truth(self.one, rng)
        structure = hung(name, seed % 2)
        seasons = 0.0015 * rng.normal(size=2)
        sound = Broken(self.one, structure, None, seed, seasons[0])
        self.broken = Broken(self.one, structure, self.truth, seed, seasons[0] + seasons[1])
        self.rng = np.random.default_rng([20261130, seed, 1])
        self.inquiry = Inquiry(Case(self.one, swept(SWEPT, self._z(sound, AS_IT_IS), self.rng), **case))

    def _z(self, broken: Broken, act: str) -> np.ndarray:
        # A tuner that was left in stands in the way of the first sweep alone; when it was good it was not.
        from yielding_coil.core.diagnosis import acts_of

        found = next(a for a in acts_of(self.one) if a.key == act)
        return broken.impedance_ohm(SWEPT, found)

    def read(self, act: Act) -> Done:
        """What a test shows."""
        if act.reads == "look":
            return Done(act.key, LookRead(self.broken.look(act)))
        if act.reads == "ohm":
            return Done(act.key, OhmRead(self.broken.ohm(act)))
        return Done(act.key, SweepRead(swept(SWEPT, self.broken.impedance_ohm(SWEPT, act), self.rng)))
