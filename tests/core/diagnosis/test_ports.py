"""Wires solved once with ports, held against the same wires solved with what stands in them, and cut ones."""

from dataclasses import replace

import numpy as np
import pytest

from yielding_coil.core.diagnosis import installation
from yielding_coil.core.diagnosis.ports import ROLES
from yielding_coil.core.parts import Capacitor, Resistor
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS, Load, Wire

# Solving every kind takes seconds.
pytestmark = pytest.mark.deep

F = np.linspace(6.5e6, 28e6, 25)
BAND = Target("40 m", 7.0e6, 7.2e6, 2.0)


def opened(one, key, frequency_hz=F):
    """The same with one port open."""
    ohm = one.wires.as_planned(frequency_hz)
    at = next(i for i, p in enumerate(one.wires.ports) if p.key == key)
    ohm[at] = 1e9
    return one.wires.impedance(frequency_hz, ohm)


def apart(one, other):
    return np.abs(reflection_of(one, 200.0) - reflection_of(other, 200.0)).max()


@pytest.mark.parametrize("key", ["dipole", "trap-dipole", "loaded-dipole", "end-fed", "triangle"])
def test_with_its_parts_in_place_it_is_what_the_solver_says(key):
    hung = KINDS[key].start(7.1e6)
    one = installation(hung.structure(), KINDS[key].form, [BAND], [])
    found = one.wires.impedance(F, one.wires.as_planned(F))
    # Half as many segments: the solver's own difference bounds what that may change.
    assert apart(found, hung.structure().impedance_at(F)) < 0.01


def test_a_part_in_a_port_is_a_load_in_the_wire():
    hung = KINDS["dipole"].start(7.1e6)
    structure = hung.structure()
    one = installation(structure, "dipole", [BAND], [])
    port = next(p for p in one.wires.ports if p.from_feed > 0.4)
    ohm = one.wires.as_planned(F)
    ohm[one.wires.ports.index(port)] = 60 + Capacitor(40e-12).impedance_ohm(F)
    loads = [Load(port.wire, port.at, Resistor(60.0)), Load(port.wire, port.at, Capacitor(40e-12))]
    assert apart(one.wires.impedance(F, ohm), replace(structure, loads=loads).impedance_at(F)) < 0.02


def test_an_open_port_is_a_wire_in_two():
    # Cut with shears, a gap of some centimetres between the ends: solved as two wires that do not meet.
    hung = KINDS["dipole"].start(7.1e6)
    structure = hung.structure()
    one = installation(structure, "dipole", [BAND], [])
    port = next(p for p in one.wires.ports if p.number == 1 and 0.4 < p.from_feed < 0.7)
    (wire,) = structure.wires
    cut_x = float(wire.at(port.at)[0])
    height = wire.start_m[2]
    end_x = wire.end_m[0]
    near = replace(wire, end_m=(cut_x - 0.03, 0.0, height))
    far = Wire((cut_x + 0.03, 0.0, height), (end_x, 0.0, height), wire.radius_m)
    source = replace(structure.source, at=end_x / (end_x + cut_x - 0.03))
    two = replace(structure, wires=(near, far), source=source)
    # Known roughly: a twentieth of Γ, the error that a broken wire is weighed with.
    assert apart(opened(one, port.key), two.impedance_at(F)) < 0.1


def test_longer_wire_is_the_same_at_lower_frequencies():
    hung = KINDS["dipole"].start(7.1e6)
    one = installation(hung.structure(), "dipole", [BAND], [])
    plain = one.wires.as_planned(F)
    assert one.wires.impedance(F, plain, 0.02) == pytest.approx(one.wires.impedance(F * 1.02, plain), rel=1e-9)


def test_every_form_has_roles():
    assert {kind.form for kind in KINDS.values()} == set(ROLES)
