"""The two parts of an L network that hold the bands best: the least worst SWR, not the match at the centre."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from scipy.optimize import minimize

from yielding_coil.core.arrays import Real
from yielding_coil.core.matching.l_network import (
    End,
    LNetwork,
    l_networks,
    part_for_reactance,
    part_for_susceptance,
)
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.system import Antenna, Element, System, worst_over
from yielding_coil.core.target import Target, judged_at

Kind = Literal["coil", "capacitor"]

# Half the width of the first look round the closed form, in natural logarithms of the value.
_REACH = 0.7
_GRID = 25


@dataclass(frozen=True, slots=True)
class Shape:
    """Which part goes where in an L: the shunt's end, and what each part is."""

    shunt_at: End
    series: Kind
    shunt: Kind

    def system(self, antenna: Antenna, series: Inductor | Capacitor, shunt: Inductor | Capacitor) -> System:
        """The L below an antenna, in order from the antenna down."""
        parts = (Element("shunt", "shunt", shunt), Element("series", "series", series))
        return System(antenna, parts if self.shunt_at == "load" else parts[::-1])


@dataclass(frozen=True, slots=True)
class Optimum:
    """The best two values of a shape: henry for a coil, farad for a capacitor."""

    shape: Shape
    series_value: float
    shunt_value: float
    worst_swr: float


def shape_of(network: LNetwork) -> Shape:
    """Which parts make a closed-form L."""
    return Shape(
        network.shunt_at,
        part_for_reactance(network.series_reactance_ohm, 1.0)[0],
        part_for_susceptance(network.shunt_susceptance_s, 1.0)[0],
    )


def with_value(part: Inductor | Capacitor, value: float | Real) -> Inductor | Capacitor:
    """The same quality of part at another value."""
    if isinstance(part, Inductor):
        return replace(part, inductance_h=value)
    return replace(part, capacitance_f=value)


def best_parts(
    antenna: Antenna,
    network: LNetwork,
    targets: Sequence[Target],
    coil: Inductor | None = None,
    capacitor: Capacitor | None = None,
) -> Optimum:
    """Values of both parts that make the worst SWR over the targets least.

    With several limits the least of the worst |Γ| over the |Γ| allowed. A grid round the closed form, then
    Nelder and Mead's simplex from its best point and from the closed form.

    Args:
        antenna: known over every target.
        network: the closed-form L that gives the shape, at the first target's centre.
        targets: at least one.
        coil, capacitor: quality of the parts (Q, self-capacitance); Q 220 and 1,000 when left out.

    Raises:
        OutOfDomainError: no target, or one outside what the antenna is known for.
    """
    shape = shape_of(network)
    kinds: dict[Kind, Inductor | Capacitor] = {
        "coil": coil or Inductor(1e-6, q=220),
        "capacitor": capacitor or Capacitor(1e-11, q=1000),
    }
    series, shunt = kinds[shape.series], kinds[shape.shunt]
    center = targets[0].center_hz
    start = np.log(
        [
            max(part_for_reactance(network.series_reactance_ohm, center)[1], 1e-15),
            max(part_for_susceptance(network.shunt_susceptance_s, center)[1], 1e-15),
        ]
    )
    frequency, allowed = judged_at(targets)
    fixed = _Known(frequency, antenna.impedance_at(frequency))

    def excess(logs: Real) -> Real:
        values = np.exp(logs)
        system = shape.system(
            fixed,
            with_value(series, values[..., :1]),
            with_value(shunt, values[..., 1:]),
        )
        z = system.impedance(frequency)
        return (np.abs((z - 50) / (z + 50)) / allowed).max(axis=-1)

    steps = np.linspace(-_REACH, _REACH, _GRID)
    grid = (start + np.stack(np.meshgrid(steps, steps), axis=-1)).reshape(-1, 2)
    best = start
    for origin in (grid[int(np.argmin(excess(grid)))], start):
        size = 0.05
        for _ in range(3):  # a simplex may stall on the kink of a worst case: start it afresh, smaller
            simplex = origin + size * np.array([[0.0, 0.0], [1.0, 0.3], [-0.3, 1.0]])
            found = minimize(  # type: ignore[call-overload]  # the stubs do not know simplex options
                lambda x: float(excess(np.asarray(x))),
                np.asarray(origin, dtype=float),
                method="Nelder-Mead",
                options={"initial_simplex": simplex, "xatol": 1e-6, "fatol": 1e-8, "maxiter": 300},
            )
            origin, size = found.x, size / 5
        if excess(origin) < excess(best):
            best = origin
    series_value, shunt_value = (float(v) for v in np.exp(best))
    system = shape.system(antenna, with_value(series, series_value), with_value(shunt, shunt_value))
    return Optimum(shape, series_value, shunt_value, max(worst_over(system, targets)))


def candidates(antenna: Antenna, targets: Sequence[Target]) -> tuple[LNetwork, ...]:
    """The closed-form L networks at the first target's centre, one for each shape."""
    center = targets[0].center_hz
    load = complex(antenna.impedance_at(center))
    found: dict[Shape, LNetwork] = {}
    for network in l_networks(load, center):
        found.setdefault(shape_of(network), network)
    return tuple(found.values())


@dataclass(frozen=True, slots=True)
class _Known:
    """An antenna read once, at the frequencies that matter."""

    frequency_hz: Real
    load_ohm: np.ndarray

    def impedance_at(self, frequency_hz: float | Real) -> np.ndarray:
        return self.load_ohm
