"""An installation that breaks on the simulated site: the same at every test, and refused where not understood."""

import json
import math

import numpy as np
import pytest

from yielding_coil.analyser.breaking import Broken, Truth, cut
from yielding_coil.analyser.faulty import FaultyThing, fault_text
from yielding_coil.core.diagnosis import AS_IT_IS, acts_of, installation
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS

F = np.linspace(5e6, 12e6, 41)
FORTY = Target("40 m", 7.0e6, 7.2e6, 2.0)
COAX = Line(Cable("5 mm", 50.0, 0.66, 1.35, 0.025), 18.0)
HUNG = KINDS["vertical"].start(7.1e6)
ONE = installation(
    HUNG.structure(),
    "vertical",
    [FORTY],
    [(Element("line", "through", COAX), "line")],
    earths=HUNG.earths,
    feed_at="garden",
)
ACTS = {act.key: act for act in acts_of(ONE)}


def thing(act=AS_IT_IS, number=1, **more):
    return FaultyThing(fault_text(ONE, HUNG, "vertical", act, number=number, **more), 7)


def broken(key, code, at=0.0, other=0.0):
    return Broken(ONE, ONE.structure, Truth(key, code, at, other), 7)


class TestRounds:
    def test_a_round_is_the_same_at_every_test_and_rounds_differ(self):
        told = [json.loads(thing(act).told()) for act in (AS_IT_IS, "at_feed", "ohm_shack")]
        assert told[0] == told[1] == told[2]
        assert len({thing(number=n).told() for n in range(12)}) > 4

    def test_it_was_good_before(self):
        was, is_now = (json.loads(thing(sound=sound).read()) for sound in (True, False))
        assert was["kind"] == is_now["kind"] == "sweep"
        assert len(was["f"]) == len(was["r"]) == 301
        assert max(abs(a - b) for a, b in zip(was["x"], is_now["x"], strict=True)) > 1

    def test_what_is_no_sweep_is_a_word_or_ohms(self):
        assert json.loads(thing("look_radials").read())["answer"] in ("yes", "no")
        assert set(json.loads(thing("ohm_shack").read())) == {"kind", "ohm"}

    @pytest.mark.parametrize("text", ["{}", "no json", '{"act": "as_it_is"}'])
    def test_what_is_not_understood(self, text):
        with pytest.raises(ValueError, match="installation"):
            FaultyThing(text, 7)

    def test_a_test_that_there_is_not(self):
        with pytest.raises(ValueError, match="installation"):
            thing("no_such_test")


class TestBroken:
    def test_an_ohmmeter_meets_what_is_there(self):
        # Open circuits and shorts as Kirchhoff has them: a vertical on radials is no path, a short across is one.
        assert math.isinf(broken("feed plug", "open").ohm(ACTS["ohm_shack"]))
        assert broken("line", "shorted", 0.5, 0.3).ohm(ACTS["ohm_shack"]) < 2
        assert broken("feed plug", "resistance", 20.0).ohm(ACTS["ohm_line_short"]) == pytest.approx(20, rel=0.5)

    def test_a_short_hides_what_lies_above_it(self):
        one, other = (
            broken("line", "shorted", 0.5, 0.1),
            Broken(ONE, ONE.structure, Truth("line", "shorted", 0.5, 0.1), 7, 0.02),
        )
        seen, moved = (each.impedance_ohm(F, ACTS[AS_IT_IS]) for each in (one, other))
        assert np.abs(seen - moved).max() < 0.5
        assert one.place_m() == pytest.approx(9.0, rel=0.03)

    def test_its_test_on_a_load_is_good_while_the_antenna_is_not(self):
        # A matched line shows its own impedance, whatever broke above it (Pozar, §2.3).
        seen = broken("wire1", "broken", 0.4, 0.2).impedance_ohm(F, ACTS["line_load"])
        assert np.abs(seen - 50).max() < 5

    def test_a_wire_that_parted_is_shorter(self):
        structure = HUNG.structure()
        gone = cut(structure, 0, 0.6, outward=True, gone=True)
        hanging = cut(structure, 0, 0.6, outward=True, gone=False)
        assert [len(s.wires) for s in (gone, hanging)] == [1, 2]
        assert gone.wires[0].length_m == pytest.approx(0.6 * structure.wires[0].length_m, abs=0.05)
        assert sum(w.length_m for w in hanging.wires) == pytest.approx(structure.wires[0].length_m, abs=0.05)
