"""What to cut: every school's length, the pieces, what fits, and how the log of a wire is replayed."""

import pytest

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import (
    FORMS,
    ActOn,
    Band,
    CutPlan,
    HungUp,
    ReadOn,
    cut_list,
    replay,
    require_amounts,
    rules_for,
    what_fits,
)

RULES = list(data.lengths().values())
TWELVE, FIFTEEN = Band("12 m", 24.94e6), Band("15 m", 21.225e6)
# No rule of length knows what coils, traps or more than half a wave do.
MODELLED = ["loaded-dipole", "loaded-vertical", "trap-dipole", "trap-vertical", "long-dipole", "any-length"]


def cut(*bands, unit="m", **plan):
    return cut_list(CutPlan(**plan), bands or (TWELVE,), RULES, unit)


def test_a_dipole_by_three_schools_and_its_cut_list():
    found = cut(rule="dipole-practice")
    (band,), (piece,) = found.bands, found.cuts

    assert [s.key for s in band.schools] == ["dipole-practice", "dipole-wire", "dipole-thin"]
    # 234 ft over 24.94 MHz (common practice), to the millimetre.
    assert band.leg_m == pytest.approx(234 * 0.3048 / 24.94, abs=5e-4)
    assert band.low_m < band.leg_m < band.high_m
    assert piece.count == 2
    # 3 to 6 % of a leg for folding back and fixing (common practice).
    assert 0.03 <= piece.add_m / piece.measure_m <= 0.06
    assert found.wire_m == pytest.approx(2 * piece.cut_m)


def test_linked_bands_from_the_highest_outwards_and_nested_ones_whole():
    linked, nested = cut(FIFTEEN, TWELVE), cut(FIFTEEN, TWELVE, arrangement="nested")

    assert [b.label for b in linked.bands] == ["12 m", "15 m"]
    outer, inner = linked.bands[1], linked.bands[0]
    assert outer.piece_m == pytest.approx(outer.leg_m - inner.leg_m, abs=2e-3)
    assert nested.bands[1].piece_m == nested.bands[1].leg_m
    # Wires side by side shift each other (common practice): more doubt.
    assert nested.bands[1].high_m > outer.high_m


def test_covered_wire_is_two_to_four_percent_shorter():
    """Richmond & Newman, Radio Science 11, 1976."""
    bare, covered = (cut(covered=c).bands[0].schools[1].part_m for c in (False, True))

    assert 0.96 <= covered / bare <= 0.98


@pytest.mark.parametrize(("corners", "feet"), [(3, 1046), (4, 1038)])
def test_a_loop_by_its_corners(corners, feet):
    """1046/f ft for a triangle, 1.055 of a wave (1038/f ft) for a square: computed, free space."""
    found = cut(form="loop", corners=corners)
    computed = found.bands[0].schools[1]

    assert (found.part, found.parts) == ("side", corners)
    assert computed.whole_m == pytest.approx(feet * 0.3048 / 24.94, rel=1e-3)
    assert computed.part_m == pytest.approx(computed.whole_m / corners)
    assert all(r.corners in (None, corners) for r in rules_for("loop", RULES, corners))


def test_a_tape_in_feet_gets_sixteenths():
    for piece in cut(TWELVE, FIFTEEN, unit="ft").cuts:
        for metres in (piece.measure_m, piece.add_m, piece.cut_m):
            assert metres / 0.0254 * 16 == pytest.approx(round(metres / 0.0254 * 16), abs=1e-6)


def test_a_school_that_is_not_the_forms_own_gives_way_to_its_first():
    assert cut(form="vertical", rule="dipole-practice").rule == rules_for("vertical", RULES)[0].key


@pytest.mark.parametrize("form", [form for form in FORMS if form not in MODELLED])
def test_every_form_has_its_schools_and_its_row(form):
    found = cut(form=form)

    assert found.bands[0].schools
    assert found.parts == FORMS[form].parts(4)
    assert FORMS[form].resonant == (FORMS[form].practice in data.lengths())
    assert found.cuts[0].count == FORMS[form].legs


@pytest.mark.parametrize("form", MODELLED)
def test_a_form_whose_coil_decides_has_no_rule(form):
    with pytest.raises(OutOfDomainError, match="its coil or trap decides: model it"):
        cut(form=form)


@pytest.mark.parametrize(("form", "most"), [("dipole", 2), ("vertical", 1), ("loop", 1)])
def test_no_more_amounts_than_legs(form, most):
    require_amounts(form, [0.1] * most)
    with pytest.raises(OutOfDomainError, match=f"one for each leg, {most} at most"):
        require_amounts(form, [0.1] * (most + 1))


def test_what_fits_between_two_trees_and_on_a_pole():
    """468 ft over 14.175 MHz is 10.06 m: it does not fit into 9.4 m; a 7 m pole is 6.8 m (common practice)."""
    bands = [("20 m", 14.175e6), ("17 m", 18.118e6)]
    shapes = {s.shape.key: s for s in what_fits(bands[::-1][::-1], RULES, 10.0, 7.0)}

    assert shapes["flat"].room_m == pytest.approx(9.4)
    assert shapes["flat"].lowest.label == "17 m"
    assert shapes["flat"].next.label == "20 m"
    assert shapes["vertical"].lowest.label == "20 m"
    assert {s.shape.needs for s in what_fits(bands, RULES, None, 7.0)} == {"pole"}
    with pytest.raises(OutOfDomainError, match="neither a span nor a pole"):
        what_fits(bands, RULES, None, None)


def test_a_log_is_replayed_act_by_act():
    hung = HungUp((2.96, 3.5))
    log = [None, hung, ReadOn(0), ActOn(0, "fold", (0.06, 0.04)), ActOn(1, "splice", (0.02,)), None]
    before, *after = replay(log)

    assert before is None
    assert after[0].leg(1) == (3.5, 0.0)
    assert after[-1].leg(0) == (2.96, 0.05)
    assert after[-1].leg(1)[0] == pytest.approx(3.52)
    assert after[-1].uneven_m == pytest.approx(0.02)


@pytest.mark.parametrize(
    ("log", "words"),
    [
        ([ReadOn(0)], "a wire not hung yet"),
        ([ActOn(0, "cut", (0.1,))], "a wire not hung yet"),
        ([HungUp((2.96,)), ReadOn(1)], "one of 1 bands"),
        ([HungUp((2.96,)), ActOn(0, "fold", (3.0,))], "less than what there to fold is"),
    ],
)
def test_what_a_wire_cannot_have_had_is_refused(log, words):
    with pytest.raises(OutOfDomainError, match=words):
        replay(log)
