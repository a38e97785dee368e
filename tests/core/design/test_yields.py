"""How many builds hold, and what each act on a part buys."""

from dataclasses import replace

import numpy as np
import pytest
from client_helpers import unun
from made import design_of

from yielding_coil.core.design import Design, DesignSummary, predict_yield, share_of, summary_of
from yielding_coil.core.design.yields import guessed_of
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target

BAND = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
# A series circuit of 94 Ω with X near −463 Ω, brought to 50 Ω on the band by about 2.7 µH and 6 pF.
COIL = {
    "kind": "coil",
    "key": "coil",
    "place": "series",
    "inductance_h": 2.6e-6,
    "former_m": 0.03,
    "wire": "cu-1.6",
}
MICA = {"kind": "capacitor", "key": "mica", "place": "shunt", "capacitance_f": 6.0e-12}
LINE = {"kind": "line", "key": "line", "cable": "foam-6", "length_m": 10.0}
GRID = np.linspace(20.5e6, 22e6, 11)


def match(**coil):
    antenna = {"kind": "resistor", "resistance_ohm": 94.0, "reactance_ohm": -463.0}
    return design_of({"antenna": antenna, "targets": [BAND], "elements": [MICA, {**COIL, **coil}, LINE]})


def test_a_part_that_is_known_has_nothing_to_buy():
    acts = {(g.name, g.act) for g in predict_yield(match(spread=0.005), GRID, 64, trimmed=True).bought}

    # Measuring what is known to half a percent gains nothing; it can be squeezed all the same.
    assert acts == {
        ("mica", "measured"),
        ("mica", "tighter"),
        ("mica", "trimmed"),
        ("coil", "trimmed"),
        ("mica, coil", "trimmed_in_turn"),
    }


def test_a_core_cannot_be_squeezed_and_a_line_is_not_made_by_hand():
    found = predict_yield(design_of(unun(line_m=10.0)), np.linspace(10e6, 30e6, 11), 64, trimmed=True)

    assert {(g.name, g.act) for g in found.bought} == {("unun", "measured")}
    assert {"unun", "unun leakage", "unun capacitance"} <= {c.name for c in found.parts.costs}


def test_the_readings_doubt_never_helps_and_wider_limits_never_hurt():
    found = predict_yield(match(), GRID, 512)

    assert found.reading.share <= found.parts.share + 3 * found.parts.standard_error
    assert {1.5, 2.0, 3.0} <= {a.swr_limit for a in found.limits}
    assert [a.parts_share for a in found.limits] == sorted(a.parts_share for a in found.limits)
    assert (found.fan_low <= found.fan_high).all()
    assert found.fan_hz is GRID


def test_what_costs_most_and_what_is_worth_doing():
    """Of each act the best part; a coil of ± 8 % is what costs."""
    found = predict_yield(match(spread=0.08), GRID, 512, trimmed=True)

    assert not found.few_hold
    assert len(found.costly) <= 2
    assert [c.share for c in found.costly] == sorted((c.share for c in found.costly), reverse=True)
    assert "coil" in {c.name for c in found.costly}
    assert [g.act for g in found.worthwhile] == ["measured", "trimmed"]
    for gain in found.worthwhile:
        assert gain.reading_share == max(g.reading_share for g in found.bought if g.act == gain.act)
        assert gain.reading_share > found.reading.share


def test_where_nothing_holds_no_part_is_to_blame():
    far = predict_yield(match(inductance_h=1.2e-6), GRID, 64)

    assert far.few_hold
    assert (far.costly, far.worthwhile) == ((), ())


def test_the_same_dice_at_every_call():
    one, again = match(), match()

    assert share_of(one, one.system()) == share_of(again, again.system())
    assert summary_of(one) == summary_of(again)


def test_a_resistor_on_a_line_says_nothing_of_an_antenna():
    resistor = {"kind": "resistor", "resistance_ohm": 50.0}
    bare = design_of({"antenna": resistor, "targets": [BAND], "elements": [LINE]})

    assert summary_of(bare) == DesignSummary(None, None)
    assert summary_of(match()).worst_swr > 1
    assert 0 <= summary_of(match()).share <= 1


@pytest.mark.parametrize(("points", "guessed"), [(3, 3), (101, None)])
def test_few_samples_round_a_band_are_no_yield(points, guessed):
    """Three typed points say nothing of what lies between them."""
    f = np.linspace(13.9e6, 14.5e6, points)
    antenna = Sweep(f, 40 + 2j * (f - 14.2e6) / 1e4)
    design = Design(antenna=antenna, targets=(Target("20 m", 14.0e6, 14.35e6, 2.0),), elements=())

    assert guessed_of(design) == guessed


def test_the_bench_takes_the_resistor_that_a_design_carries():
    design = design_of(unun(2700.0))

    assert design.carried_ohm("unun") == 2700.0
    assert design_of(unun(2700.0, line_m=10.0)).carried_ohm("unun") == 2700.0
    assert replace(design, antenna=FixedLoad(2700 - 500j)).carried_ohm("unun") is None
