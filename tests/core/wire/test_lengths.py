"""Lengths by the rules of the schools, against worked examples; tapes; what fits; scaling."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.quantity import FOOT_M, INCH_M, decimal_feet
from yielding_coil.core.wire import FORMS, STEP_M, Rule, on_tape, room, scaled, segments


def rule(key):
    return data.lengths()[key]


class TestRules:
    """Constants of practice in feet and megahertz (common practice, from memory), and what they give."""

    @pytest.mark.parametrize(
        ("key", "feet"),
        [
            ("dipole-practice", 468),
            ("vertical-practice", 234),
            ("five-eighths-practice", 585),
            ("loop-practice", 1005),
            ("section-practice", 246),
            ("radial-raised", 234),
        ],
    )
    def test_feet_over_megahertz(self, key, feet):
        assert rule(key).length(1e6).length_m == pytest.approx(feet * FOOT_M, rel=1e-9)

    @pytest.mark.parametrize(
        ("key", "waves"),
        [
            ("dipole-thin", 0.4852),
            ("vertical-thin", 0.2426),
            ("loop-triangle", 1.063),
            ("loop-square", 1.055),
            ("counterpoise-twentieth", 0.05),
            ("section-cable", 0.25),
        ],
    )
    def test_shares_of_a_wave(self, key, waves):
        assert rule(key).length(10e6).length_m == pytest.approx(waves * 29.9792458, rel=1e-5)

    def test_a_quarter_wave_of_75_ohm_coax(self):
        # 28.51 MHz, velocity factor 0.66: 1.735 m, 5 ft 8 5/16 in on a tape (worked example of practice).
        section = rule("section-cable").length(28.51e6, 0.66).length_m

        assert section == pytest.approx(1.735, abs=5e-4)
        assert on_tape(section, "ft") == pytest.approx(5 * FOOT_M + (8 + 5 / 16) * INCH_M, abs=1e-9)

    def test_the_schools_differ_less_than_their_doubt(self):
        lengths = [r.length(24.94e6, 0.95) for r in data.lengths().values() if r.form == "dipole"]
        assert max(x.low_m for x in lengths) < min(x.high_m for x in lengths)

    def test_every_row_has_a_source_and_a_form_that_is_asked_for(self):
        for row in data.lengths().values():
            assert row.source
            assert min(row.low, row.high) >= 0
            assert row.form in {*FORMS, "section", "radial", "counterpoise"}

    @pytest.mark.parametrize(("frequency", "velocity"), [(0.0, 0.9), (-7e6, 0.9), (7e6, 0.0), (7e6, 1.2)])
    def test_what_cannot_be_is_refused(self, frequency, velocity):
        with pytest.raises(OutOfDomainError):
            rule("section-cable").length(frequency, velocity)

    def test_a_velocity_counts_only_where_the_rule_takes_one(self):
        assert rule("dipole-practice").length(7e6, 0.5) == rule("dipole-practice").length(7e6)
        doubted = Rule("r", "section", "", 75e6, "cable", 0.0, 0.0, "").length(7.5e6, 0.8, 0.02)
        assert (doubted.low_m, doubted.high_m) == (pytest.approx(0.98 * 8), pytest.approx(1.02 * 8))


class TestLinks:
    """Highest band first."""

    def test_linked_pieces_add_up_and_nested_ones_stand_alone(self):
        assert segments([2.86, 3.36, 5.0], "linked") == [pytest.approx(v) for v in (2.86, 0.5, 1.64)]
        assert segments([2.86, 3.36], "nested") == [2.86, 3.36]

    @pytest.mark.parametrize("wrong", [[3.36, 2.86], [2.86, 2.86], [0.0], [-1.0]])
    def test_what_does_not_rise_is_refused(self, wrong):
        with pytest.raises(OutOfDomainError):
            segments(wrong, "linked")


def test_scaling_is_the_ratio_of_the_waves():
    # 9.82 → 10.12 MHz at 288 in: 279.5 in (practice); a wave and its lengths go together.
    assert scaled(288 * INCH_M, 9.82e6, 10.12e6) / INCH_M == pytest.approx(279.5, abs=0.05)
    assert on_tape(scaled(288 * INCH_M, 9.82e6, 10.12e6), "ft") / INCH_M == pytest.approx(279.4375)
    with pytest.raises(OutOfDomainError):
        scaled(-1.0, 9.82e6, 10.12e6)


def test_room_on_a_span_and_a_pole():
    # A 7 m pole is 6.8 m (practice).
    assert room("pole", 7.0) == pytest.approx(6.8)
    assert room("span", 10.0) == pytest.approx(9.4)
    assert room("span", 0.5) == 0.0
    with pytest.raises(OutOfDomainError):
        room("pole", -7.0)


class TestTapes:
    """Marks of a tape: a millimetre, or a sixteenth of an inch."""

    @given(length=st.floats(0, 200), unit=st.sampled_from(["m", "ft"]))
    def test_a_mark_is_near_and_stays_where_it_is(self, length, unit):
        marked = on_tape(length, unit)

        assert abs(marked - length) <= STEP_M[unit] / 2 * (1 + 1e-6)
        assert on_tape(marked, unit) == marked
        assert on_tape(length, unit, "down") <= length + 1e-9 <= on_tape(length, unit, "up") + 2e-9
        assert math.isclose(marked / STEP_M[unit], round(marked / STEP_M[unit]), abs_tol=1e-5)

    def test_no_tape_measures_below_zero(self):
        with pytest.raises(OutOfDomainError):
            on_tape(-0.1, "m")

    @pytest.mark.parametrize(
        ("text", "unit", "inches"),
        [("5.7 ft", "m", 67), ("5.11'", "m", 71), ("5.7", "ft", 67), ("5.12 ft", "m", None), ("5.7 m", "ft", None)],
    )
    def test_decimals_of_a_foot_that_look_like_inches(self, text, unit, inches):
        found = decimal_feet(text, unit)
        assert found is None if inches is None else found == pytest.approx(inches * INCH_M)


def test_a_meter_that_is_not_in_the_table():
    assert 0 < data.meter("radio").spread < 0.2
    with pytest.raises(NotFoundError, match="crystal") as refused:
        data.meter("crystal")
    assert refused.value.accepted == "analyser, meter, radio, power"
