"""Planned antennas hung on the simulated site: near what was planned, and not the same."""

import json

import numpy as np
import pytest

from yielding_coil.analyser.bench import Site
from yielding_coil.analyser.hanging import HungThing, as_it_hangs
from yielding_coil.analyser.practice import WireEnd, antenna_text
from yielding_coil.analyser.simulator import Simulator
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.wire import KINDS
from yielding_coil.core.wire.kinds import Dipole, LoadedVertical
from yielding_coil.demo import end_fed

F = 10.125e6


@pytest.mark.parametrize("key", KINDS)
def test_every_kind_hangs_near_what_was_planned(key):
    planned = KINDS[key].start(F)
    spec = json.loads(antenna_text(planned, key))
    hung = as_it_hangs(spec, Site.of(5))
    assert type(hung) is type(planned)
    assert hung != planned
    for name in planned.lengths:
        assert getattr(hung, name) == pytest.approx(getattr(planned, name), rel=5e-3)


def test_a_cut_wire_is_shorter_by_what_company_leaves():
    planned, site = Dipole(7.1, 7.4), Site.of(5)
    whole, cut, folded = (
        as_it_hangs(json.loads(antenna_text(planned, "dipole", [WireEnd(F, leg, fold)])), site).leg_m
        for leg, fold in ((7.1, 0.0), (7.0, 0.0), (7.1, 0.1))
    )
    assert whole - cut == pytest.approx(0.1 * site.stretch * (1 - site.company))
    assert whole - folded == pytest.approx((whole - cut) * site.fold_moves)


def test_behind_its_unun_an_end_fed_wire_is_near_fifty_ohm():
    content = end_fed()
    unun = content.elements[0].to_core()
    planned = KINDS["end-fed"].start(F)
    text = antenna_text(planned, "end-fed", unun=unun)
    alone = json.dumps({**json.loads(text), "unun": None})
    f = np.linspace(0.95 * F, 1.05 * F, 101)
    usual = antenna_text(planned, "end-fed")
    behind, by_usual, bare = (HungThing(t, 3).impedance_ohm(f) for t in (text, usual, alone))
    assert swr_of_impedance(bare).min() > 20
    assert swr_of_impedance(behind).min() < 2
    assert swr_of_impedance(by_usual).min() < 2


def test_the_simulator_hangs_it_and_says_what_it_cannot():
    simulator = Simulator(2, lambda: 0.0, lambda seconds: None)
    planned = LoadedVertical(4.0, 4.98e-5, 0.5, radials=8)
    assert simulator.answer("BENC:HUNG " + antenna_text(planned, "loaded-vertical")) is None
    assert simulator.on == "hung"
    assert simulator.answer("SYST:ERR?") == b'0,"No error"'
    seen = simulator.true_reflection(np.linspace(5.2e6, 5.5e6, 301))
    assert np.abs(seen).min() < 0.6
    simulator.answer('BENC:HUNG {"antenna": "dipole"}')
    assert b"an antenna as a JSON object" in simulator.answer("SYST:ERR?")
    low = Dipole(7.1, 7.4)
    simulator.answer("BENC:HUNG " + antenna_text(low, "dipole", [WireEnd(F, 900.0, 0.0)]))
    assert b"one leg is" in simulator.answer("SYST:ERR?")
