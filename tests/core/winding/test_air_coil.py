"""An air coil: one rule for the wire to cut and for its own resonance, whichever desk asks."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from made import design_of, report_of, said

from yielding_coil.core.design import design_findings, evaluate, parts_list
from yielding_coil.core.element import resonance_findings
from yielding_coil.core.parts import bare_inductance_h, inductance_reading_h
from yielding_coil.core.target import Target
from yielding_coil.core.winding import TAIL_M, coil_cut

TWENTY = {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 2.0}
TEN = {"label": "10 m", "low_hz": 28.0e6, "high_hz": 29.7e6, "swr_limit": 2.0}


def with_coil(henry=2.28e-6, former_m=0.032, targets=(TWENTY,)):
    coil = {"kind": "coil", "key": "coil", "place": "series", "inductance_h": henry, "former_m": former_m}
    return {
        "antenna": {"kind": "resistor", "resistance_ohm": 50.0, "reactance_ohm": -150.0},
        "targets": list(targets),
        "elements": [{**coil, "wire": "cu-1.6"}],
    }


def both_desks(content):
    """The same coil as the parts list and as its own report have it."""
    found = evaluate(design_of(content))
    return parts_list(found)[0], design_findings(found), report_of(content, "coil")


@settings(max_examples=25)
@given(st.floats(0.5e-6, 4e-6), st.floats(0.02, 0.05))
def test_both_desks_cut_the_same_wire_and_see_the_same_resonance(henry, former_m):
    made, findings, report = both_desks(with_coil(henry, former_m, (TWENTY, TEN)))

    assert made.cut_m == report.cuts[0].cut_m
    assert made.turns == report.turns.passes
    of_list = {f.code: f.values for f in findings if f.code in ("own_capacitance", "near_self_resonance")}
    of_report = {c: v for c, v in said(report).items() if c in ("own_capacitance", "near_self_resonance")}
    assert of_list == of_report


def test_the_wire_to_cut_covers_a_coil_wound_one_turn_long():
    """A coil is wound a turn long and taken back (common practice): the wire reaches for it, with both tails."""
    made, _, report = both_desks(with_coil())
    coil = design_of(with_coil()).wound("coil")
    longer = coil.solenoid(made.turns + 1)

    assert made.cut_m >= longer.wire_length_m + 2 * TAIL_M
    assert made.cut_m <= 1.03 * longer.wire_length_m + 2 * TAIL_M
    assert report.cuts[0].tails_m == 2 * TAIL_M
    # Without a turn to spare it is what is wound, its slack, and the tails.
    plain = coil_cut(coil.solenoid(made.turns), TAIL_M)
    assert plain.cut_m == pytest.approx(1.02 * made.wire_m + 2 * TAIL_M, abs=1e-3)
    assert made.cut_m - plain.cut_m == pytest.approx(1.02 * plain.turn_m, abs=2e-3)


def test_a_coil_is_judged_at_the_upper_end_of_the_highest_band():
    """By hand: resonant at 75 MHz, 29.7 MHz is 0.396 of it, whatever the order of the bands."""
    bands = [Target("20 m", 14e6, 14.35e6, 2.0), Target("10 m", 28e6, 29.7e6, 2.0)]

    for targets in (bands, bands[::-1]):
        (found,) = resonance_findings("coil", 75e6, targets)
        assert found.code == "own_capacitance"
        assert found.values["ratio"] == pytest.approx(0.396)
    assert resonance_findings("coil", 75e6, bands[:1]) == []
    assert resonance_findings("coil", 50e6, bands)[0].code == "near_self_resonance"


@given(st.floats(1e-7, 1e-4), st.floats(1e5, 3e7), st.floats(1e-13, 1e-11))
def test_a_reading_and_what_the_turns_make_lead_back_to_each_other(henry, hertz, farad):
    """1/L = 1/L' + ω²C: L across C resonates where the reading is endless (any text on circuits)."""
    bare = bare_inductance_h(henry, hertz, farad)

    assert bare < henry
    assert inductance_reading_h(bare, hertz, farad) == pytest.approx(henry, rel=1e-6)
    resonance = 1 / (2 * math.pi * math.sqrt(bare * farad))
    assert hertz < resonance
