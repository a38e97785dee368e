"""From the side: currents, voltages, what not to touch."""

import math

import numpy as np
import pytest

from yielding_coil.core.antenna import REACH_M, TOUCH_V, picture_of
from yielding_coil.core.wire import Structure
from yielding_coil.core.wire.kinds import Dipole, EndFed, InvertedV, LoadedVertical, RaisedVertical, Vertical

F = 10.125e6


def test_the_ends_of_a_dipole_carry_the_voltage():
    """As an open line of 60·(ln(2h/a) − 1) a side would (Schelkunoff's mean impedance, from memory)."""
    hung = Dipole(7.06, 8.0)
    z = complex(hung.structure().impedance_at(F))
    told = 60 * (math.log(2 * 7.06 / 0.001) - 1) * math.sqrt(200 / z.real)
    picture = picture_of(hung, F, 100.0)
    assert picture.highest_v == pytest.approx(told, rel=0.1)
    assert abs(picture.highest[0]) > 6.8
    assert picture.within_reach_v == 0
    (wire,) = picture.wires
    middle = np.argmin(np.abs(wire.x_m))
    assert wire.current_a[middle] == pytest.approx(math.sqrt(200 / z.real), rel=1e-3)
    assert wire.current_a[0] < 1e-9
    assert wire.volts.min() < 0.15 * picture.highest_v


def test_four_times_the_power_is_twice_the_voltage():
    one, four = (picture_of(Dipole(7.06, 8.0), F, power).highest_v for power in (25.0, 100.0))
    assert four == pytest.approx(2 * one)


def test_the_voltage_at_a_feed_is_what_goes_in():
    """Across the gap of an end-fed wire stands √(2·P/R)·|Z|: the difference of both sides, less what runs along."""
    hung = EndFed(13.9, 1.5, 8.0, 8.0)
    structure: Structure = hung.structure()
    z = complex(structure.impedance_at(F))
    seen = structure.voltage_at(F, 100.0)
    both = [seen.volts[seen.wire == wire][0] for wire in (0, 1)]
    across = math.sqrt(200 / z.real) * abs(z)
    # Of two sides whose phases are not told, the difference lies between these.
    assert abs(both[0] - both[1]) < across < sum(both)
    assert max(both) == pytest.approx(across, rel=0.25)


def test_a_base_within_reach_is_told():
    picture = picture_of(Vertical(7.1), F, 100.0)
    assert TOUCH_V < picture.within_reach_v < picture.highest_v
    assert picture.highest[1] > 6.5
    lifted = picture_of(RaisedVertical(7.1, 7.1, REACH_M + 6.0), F, 100.0)
    assert lifted.within_reach_v == 0


def test_above_a_coil_the_voltage_jumps():
    """Its own ωL·I stands across it."""
    hung = LoadedVertical(3.6, 1.26e-5, 0.5)
    structure = hung.structure()
    amperes = abs(structure.solve(F, 100.0).current_a).max()
    seen = structure.voltage_at(F, 100.0)
    across = seen.volts[seen.at > 0.5][0] - seen.volts[seen.at < 0.5][-1]
    assert across == pytest.approx(2 * math.pi * F * 1.26e-5 * amperes, rel=0.25)


def test_what_holds_it():
    assert [(s.z_m, s.tied) for s in picture_of(Dipole(7.0, 8.0), F, 100.0).supports] == [
        (8.0, False),
        (8.0, False),
    ]
    bent = picture_of(InvertedV(7.0, 9.0), F, 100.0).supports
    assert sorted((round(s.z_m, 1), s.tied) for s in bent) == [(5.5, True), (5.5, True), (9.0, False)]
    assert [h.key for h in picture_of(InvertedV(7.0, 9.0), F, 100.0).handles] == ["apex", "end", "other"]


def test_radials_towards_the_eye_are_left_out():
    assert len(picture_of(RaisedVertical(7.1, 7.1, 7.0, 4), F, 100.0).wires) == 3
