"""An antenna in full, against solving it and the rules."""

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.antenna import begun, checked, cut_pieces, sketch, study
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS, Insulation, Stock
from yielding_coil.core.wire.kinds import Dipole, EndFed, LoadedVertical, Vertical

BAND = Target("30 m", 10.1e6, 10.15e6, 2.0)
F = BAND.center_hz
RULES = list(data.lengths().values())


@pytest.fixture(scope="module")
def dipole():
    return study(KINDS["dipole"], Dipole(7.1, 7.4), BAND, 100.0, RULES, others=[Target("15 m", 21e6, 21.45e6, 2.0)])


@pytest.fixture(scope="module")
def short():
    hung = begun("loaded-vertical", BAND)
    return hung, study(KINDS["loaded-vertical"], hung, BAND, 100.0, RULES)


def test_its_curve_is_its_structure(dipole):
    at = dipole.sketch.frequency_hz[[10, 60, 110]]
    true = Dipole(7.1, 7.4).structure().impedance_at(at)
    assert dipole.sketch.impedance_ohm[[10, 60, 110]] == pytest.approx(true, abs=0.05)
    assert (dipole.swr.low <= dipole.sketch.swr + 1e-6).all()
    assert (dipole.sketch.swr <= dipole.swr.high + 1e-6).all()
    assert dipole.dip_low_hz < dipole.sketch.dip_hz < dipole.dip_high_hz


def test_watts_sum_to_what_goes_in(dipole, short):
    for found in (dipole, short[1]):
        parts = (found.radiated, found.wire, found.loads, found.ground)
        assert sum(part.watts for part in parts) == pytest.approx(100.0)
        assert all(part.low_w <= part.watts <= part.high_w for part in parts)


def test_a_coil_takes_what_its_q_says(short):
    """I²·X/2Q at its place, the current from solving, more of it in the turns than in the wire by 1/(1 − ω²LC)."""
    hung, found = short
    solved = hung.structure().solve(F, 100.0)
    at = np.argmin(np.abs(solved.at - hung.coil_at))
    reactance = 2 * np.pi * F * hung.inductance_h
    in_turns = abs(solved.current_a[at]) / (1 - 2 * np.pi * F * hung.own_f * reactance)
    assert found.loads.watts == pytest.approx(in_turns**2 / 2 * reactance / hung.q, rel=0.02)


def test_the_model_beside_the_rules(dipole):
    told = dipole.lengths
    assert told.tuned_by == "leg_m"
    assert told.low < told.value < told.high
    assert told.value == pytest.approx(7.106, abs=0.02)
    by_key = {rule.key: rule for rule in told.rules}
    # 234 feet over megahertz, to the inch.
    assert by_key["dipole-practice"].length_m == pytest.approx(234 * 0.3048 / 10.125, rel=1e-3)
    assert by_key["dipole-practice"].longer == pytest.approx(7.044 / told.part_m - 1, abs=1e-3)
    assert [reason.code for reason in told.reasons] == ["surroundings"]


@pytest.mark.deep
def test_a_covering_saves_wire():
    covered = Dipole(6.9, 7.4, Stock(0.0007, insulation=Insulation(0.0012, 2.5)))
    found = study(KINDS["dipole"], covered, BAND, 100.0, RULES)
    reasons = {reason.code: reason.longer for reason in found.lengths.reasons}
    # 2 to 4 % (Richmond & Newman, Radio Science 11, 1976).
    assert -0.045 < reasons["covering"] < -0.015
    assert found.tuned["leg_m"] < 7.1


def test_another_band_is_told(dipole):
    (other,) = dipole.others
    z = Dipole(7.1, 7.4).structure().impedance_at(np.linspace(21e6, 21.45e6, 9))
    assert other.worst_swr == pytest.approx(float(swr_of_impedance(z, 50.0).max()), rel=1e-6)


@pytest.mark.deep
def test_a_lower_wire_dips_lower(dipole):
    assert dipole.sag.middle_m > 0.2
    assert dipole.sag_moves_hz == pytest.approx(
        study(KINDS["dipole"], Dipole(7.1, 7.4 - dipole.sag.mean_m), BAND, 100.0, RULES).sketch.dip_hz
        - dipole.sketch.dip_hz,
        abs=1500,
    )


def test_the_sketch_lies_near_the_study(dipole):
    rough = sketch(KINDS["dipole"], Dipole(7.1, 7.4), BAND, 100.0)
    assert rough.dip_hz == pytest.approx(dipole.sketch.dip_hz, rel=4e-3)
    assert rough.picture.highest_v == pytest.approx(dipole.sketch.picture.highest_v, rel=0.1)


def test_one_without_resonance_is_told_all_the_same():
    found = study(KINDS["five-eighths"], begun("five-eighths", BAND), BAND, 100.0, RULES)
    assert found.tuned is None
    assert found.lengths.value is None
    assert found.sketch.dip_hz is None
    assert [rule.longer for rule in found.lengths.rules] == [None, None]


def test_pieces_as_a_tape_shows_them():
    first, second = cut_pieces(EndFed(14.32, 1.5, 2.0, 8.0), F, 0.03)
    assert (first.label, first.count, first.measure_m, first.cut_m) == ("wire", 1, 14.32, 14.75)
    assert second.label == "counterpoise"
    *_, radial = cut_pieces(Vertical(7.1, 16), F, 0.04)
    assert (radial.count, radial.add_m) == (16, 0)
    assert radial.cut_m == pytest.approx(299.792458 / 10.125 / 4, abs=1e-3)
    feet = cut_pieces(EndFed(14.32, 1.5, 2.0, 8.0), F, 0.03, "ft")[0]
    assert feet.cut_m / (0.0254 / 16) == pytest.approx(round(feet.cut_m / (0.0254 / 16)), abs=1e-6)


def test_a_coil_parts_the_wire():
    above, below, _ = cut_pieces(LoadedVertical(4.0, 2e-5, 0.25), F, 0.0)
    assert (above.label, above.cut_m, below.cut_m) == ("wire above the coil", 3.0, 1.0)


def test_a_recipe_and_what_differs_here():
    """Lower, and of covered wire: each by itself, the larger one first."""
    there = Dipole(7.1, 12.0)
    here = Dipole(7.1, 6.0, Stock(0.001, insulation=Insulation(0.0018, 2.5)))
    found = checked(KINDS["dipole"], there, here, F)
    assert [d.name for d in found.differences] == ["stock", "height_m"]
    assert found.differences[0].moves_hz < -100e3
    both = sum(d.moves_hz for d in found.differences)
    assert found.here_hz - found.there_hz == pytest.approx(both, abs=0.2 * abs(both))
    assert checked(KINDS["dipole"], there, there, F).differences == ()
    with pytest.raises(OutOfDomainError, match="another kind of antenna"):
        checked(KINDS["dipole"], Vertical(7.1), there, F)


@pytest.mark.parametrize(
    ("hung", "match"),
    [
        (lambda: Dipole(7.1, 7.4).told(height_m=0.0), r"height is 0 m; it must be 0\.1 to 200 m"),
        (lambda: Dipole(7.1, 7.4).told(wire_m=3.0), "it must be one of leg_m, height_m"),
        (lambda: LoadedVertical(4.0, 2e-5).told(coil_at=1.2), "0 to 0.95"),
        (lambda: LoadedVertical(4.0, 2e-5).told(radials=1), r"radials is 1; it must be 2 to 64|4 to 64"),
    ],
)
def test_numbers_that_cannot_be(hung, match):
    with pytest.raises(OutOfDomainError, match=match):
        hung()
