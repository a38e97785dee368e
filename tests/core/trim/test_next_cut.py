"""The next cut: the sums of the trade, what is learnt from acts, bounds, and what is refused."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil.analyser.bench import NEW_LEG_M, NEW_TARGET_HZ, Site
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.quantity import INCH_M
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.trim import (
    FAR_OFF,
    DipReading,
    dip_in,
    height_of_dipole_m,
    loading_h,
    next_cut,
    slips,
    without_folds,
)
from yielding_coil.core.wire import HungWire

# Readings in sequence; frequencies and lengths of common practice where a test says so.
LOFT = DipReading(24.2e6, 2.96)
WANTED = 24.94e6


class TestTheSumOfTheTrade:
    """Length times present over wanted frequency; worked examples of common practice."""

    def test_a_fold_takes_the_sum_and_a_cut_less(self):
        # 2.96 m · (1 − 24.2/24.94) = 8.8 cm; 0.85 of it as a cut, 7.5 cm (common practice).
        fold, cut = next_cut([LOFT], WANTED, "fold"), next_cut([LOFT], WANTED, "cut")

        assert fold.by_ratio_m == cut.by_ratio_m == pytest.approx(0.0878, abs=5e-5)
        assert (fold.act, round(fold.per_leg_m, 3)) == ("fold", 0.088)
        assert (cut.act, round(cut.per_leg_m, 3), cut.held_by) == ("cut", 0.075, "caution")

    @pytest.mark.parametrize(
        ("dip_mhz", "wanted_mhz", "leg_in", "left_in"),
        [(26.6, 28.3, 99.0, 93.05), (9.82, 10.12, 288.0, 279.46)],
    )
    def test_inches_too(self, dip_mhz, wanted_mhz, leg_in, left_in):
        cut = next_cut([DipReading(dip_mhz * 1e6, leg_in * INCH_M)], wanted_mhz * 1e6)

        assert leg_in - cut.by_ratio_m / INCH_M == pytest.approx(left_in, abs=0.01)

    def test_the_percentage_rule_is_the_same_sum(self):
        # 17.6 → 18.1 MHz with 4.25 m legs: 0.0276 of the length, 11.7 cm (common practice).
        cut = next_cut([DipReading(17.6e6, 4.25)], 18.1e6)

        assert cut.by_ratio_m / 4.25 == pytest.approx(0.0276, abs=5e-5)
        assert cut.by_ratio_m == pytest.approx(0.117, abs=5e-4)

    def test_a_first_fold_moves_three_quarters_of_it_as_far_as_is_known(self):
        cut = next_cut([LOFT], WANTED)

        assert cut.lands_hz == pytest.approx(24.2e6 + 0.75 * (WANTED - 24.2e6), rel=1e-3)
        assert cut.lands_low_hz < cut.lands_hz < cut.lands_high_hz
        assert not cut.learned


class TestLearning:
    """From the second reading on, what an act moved counts more than the rule."""

    def folded(self, share):
        """A dip after 8.8 cm were folded that moved `share` of what the sum promised."""
        moved = WANTED / (WANTED / 24.2e6 - share * 0.088 / 2.96 * WANTED / 24.2e6)
        return [LOFT, DipReading(moved, 2.96, 0.088)]

    @pytest.mark.parametrize("share", [0.6, 0.75, 0.9])
    def test_it_is_pulled_towards_what_was_seen(self, share):
        cut = next_cut(self.folded(share), WANTED)

        assert cut.learned
        assert cut.moves_spread < 0.125
        assert min(0.75, share) - 0.01 <= cut.moves <= max(0.75, share) + 0.01

    def test_more_readings_of_the_same_state_narrow_it(self):
        once = self.folded(0.9)
        often = next_cut([once[0]] * 6 + [once[1]] * 6, WANTED)

        assert abs(often.moves - 0.9) < abs(next_cut(once, WANTED).moves - 0.9) < 0.15
        assert often.dip_spread < next_cut(once, WANTED).dip_spread

    def test_other_conditions_are_kept_apart(self):
        on_the_ground = DipReading(23.1e6, 2.96, conditions="on the grass")
        cut = next_cut([on_the_ground, LOFT], WANTED)

        assert (cut.used, cut.apart) == (1, 1)
        assert cut.per_leg_m == next_cut([LOFT], WANTED).per_leg_m

    def test_cutting_off_the_folds_moves_the_dip_by_what_they_still_did(self):
        readings = self.folded(0.75)
        off = without_folds(readings, WANTED)

        now = next_cut(readings, WANTED)
        assert off.dip_hz > now.dip_hz
        # A quarter of 8.8 cm on a leg of 2.96 m, as far as is known.
        assert off.dip_hz / now.dip_hz - 1 == pytest.approx(0.25 * 0.088 / 2.96, rel=0.25)


@given(
    dip=st.floats(0.8, 0.999),
    leg=st.floats(0.5, 40),
    moves=st.floats(0.7, 1.1),
    rounds=st.integers(1, 4),
)
@settings(max_examples=40)
@pytest.mark.deep
def test_a_cut_stays_inside_the_leg_and_short_of_what_would_hit(dip, leg, moves, rounds):
    target = 10e6
    readings = [DipReading(dip * target, leg)]
    for _ in range(rounds):
        cut = next_cut(readings, target, "cut")
        if cut.act != "cut":
            break
        assert 0 < cut.per_leg_m < readings[-1].leg_m
        assert cut.low_m <= cut.most_m <= cut.high_m
        assert cut.per_leg_m <= min(cut.exact_m, cut.most_m)
        assert cut.lands_hz < target
        before = readings[-1]
        now = before.leg_m - cut.per_leg_m
        readings.append(DipReading(before.dip_hz / (1 - moves * cut.per_leg_m / before.leg_m), now))


@pytest.mark.parametrize("off", [0.003, 0.01, 0.05])
def test_a_first_cut_goes_past_the_target_at_most_once_in_ten(off):
    """On 20,000 sites of common practice, a centimetre moving 1 ± 0.1 of the sum and dips reading to 0.15 %."""
    rng = np.random.default_rng(20261212)
    sites, stray = 1 + 0.1 * rng.normal(size=20_000), 0.0015 * rng.normal(size=20_000)
    cut = next_cut([DipReading((1 - off) * 10e6, 5.0)], 10e6, "cut")
    landed = (1 - off) * 10e6 / (1 + stray) / (1 - sites * cut.per_leg_m / 5.0)

    assert np.mean(landed > 10e6) <= 0.11


@pytest.mark.parametrize(
    ("reading", "act"), [(DipReading(25.3e6, 2.9, 0.05), "unfold"), (DipReading(25.3e6, 2.9), "splice")]
)
def test_a_dip_too_high_gives_wire_back(reading, act):
    cut = next_cut([reading], WANTED)

    assert cut.act == act
    assert cut.lands_hz < 25.3e6
    if act == "unfold":
        assert cut.per_leg_m == 0.05


def test_a_coil_for_a_wire_too_short():
    # X = ωL: 0.16 µH is 25 Ω at 24.94 MHz (any handbook's reactance chart).
    assert loading_h(-25.07, WANTED) == pytest.approx(0.16e-6, rel=1e-3)
    with pytest.raises(OutOfDomainError, match="below zero"):
        loading_h(5.0, WANTED)


@pytest.mark.parametrize(("resistance", "waves"), [(21, 0.1), (63, 0.2), (97, 0.35), (10, 0.1), (110, None)])
def test_the_height_that_shows_an_r(resistance, waves):
    # Dipole over perfect ground, computed by two codes (height over wavelength: 21, 41, 63, 82, 97 ohm).
    found = height_of_dipole_m(resistance, 29.9792458e6)
    assert found is None if waves is None else found == pytest.approx(10 * waves)
    with pytest.raises(OutOfDomainError):
        height_of_dipole_m(-1.0, 10e6)


@pytest.mark.parametrize(
    ("ratio", "said"),
    [(1.14, []), (2.0, ["whole_for_leg"]), (0.5, ["leg_for_whole"]), (3.28, ["feet_for_metres"]), (1.5, [])],
)
def test_slips_are_told_by_how_far_the_dip_is_off(ratio, said):
    assert slips(ratio * 10e6, 10e6) == said
    assert abs(ratio - 1) >= FAR_OFF or not said


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: DipReading(24.2e6, -2.96),
        lambda: DipReading(0.0, 2.96),
        lambda: DipReading(24.2e6, 2.96, 2.96),
        lambda: DipReading(24.2e6, 2.96, -0.1),
        lambda: next_cut([], WANTED),
        lambda: next_cut([LOFT], -1.0),
        lambda: slips(0.0, 1e6),
    ],
)
def test_what_cannot_be_is_refused(wrong):
    with pytest.raises(OutOfDomainError):
        wrong()


class TestHanging:
    """What hands did to the wire."""

    def test_links_add_up_from_the_feedpoint(self):
        wire = HungWire.hung([2.9, 3.45]).after(0, "cut", [0.05, 0.05]).after(1, "fold", [0.1, 0.1])

        assert wire.leg(0) == (pytest.approx(2.85), 0.0)
        assert wire.leg(1) == (pytest.approx(3.40), 0.1)

    def test_nested_wires_stand_alone(self):
        wire = HungWire.hung([2.9, 3.45], "nested").after(0, "cut", [0.05])

        assert wire.leg(1) == (3.45, 0.0)

    def test_all_acts_and_back(self):
        wire = HungWire.hung([3.0]).after(0, "fold", [0.1]).after(0, "unfold", [0.04]).after(0, "splice", [0.2])
        assert wire.leg(0) == (pytest.approx(3.2), pytest.approx(0.06))
        assert wire.after(0, "cut_folds", []).leg(0) == (pytest.approx(3.14), 0.0)

    def test_uneven_legs_are_noticed(self):
        assert HungWire.hung([3.0]).after(0, "cut", [0.05, 0.08]).uneven_m == pytest.approx(-0.03)

    @pytest.mark.parametrize(
        ("act", "amounts"),
        [("fold", [3.0]), ("cut", [4.0]), ("unfold", [0.1]), ("cut", [-0.1]), ("cut", []), ("cut_folds", [])],
    )
    def test_more_than_there_is_is_refused(self, act, amounts):
        with pytest.raises(OutOfDomainError):
            HungWire.hung([3.0]).after(0, act, amounts)

    def test_bands_that_do_not_rise_and_bands_that_are_not_there(self):
        for wrong in ([], [3.0, 2.0], [-1.0]):
            with pytest.raises(OutOfDomainError):
                HungWire.hung(wrong)
        with pytest.raises(OutOfDomainError, match="one of the 1 bands"):
            HungWire.hung([3.0]).after(1, "cut", [0.1])


def dip_at(site, leg_m, folded_m=0.0):
    """Where the site's dip really lies: the lowest SWR on a fine grid."""
    f = np.linspace(22e6, 28e6, 6001)
    return Sweep(f, site.wire(leg_m, folded_m).impedance_ohm(f)).best_match().frequency_hz


def test_a_dip_read_through_noise_is_the_lowest_swr():
    """Against the model's own minimum on a fine grid; 50 seeds, |Γ| noise of 0.1 %."""
    site = Site.of(5)
    true = dip_at(site, NEW_LEG_M)
    f = np.linspace(22.5e6, 26.5e6, 161)
    z = site.wire(NEW_LEG_M, 0.0).impedance_ohm(f)
    off = []
    for seed in range(20261200, 20261250):
        rng = np.random.default_rng(seed)
        gamma = (z - 50) / (z + 50) + 7e-4 * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
        found = dip_in(Sweep(f, 50 * (1 + gamma) / (1 - gamma)), NEW_TARGET_HZ)
        assert found.side == "found"
        off.append(found.frequency_hz / true - 1)
    assert abs(np.mean(off)) < 5e-4
    assert np.std(off) < 5e-4


def test_ripple_at_an_edge_is_no_dip():
    """A sweep that ends just short of the dip, 50 seeds, |Γ| noise of 0.1 %: never found, always on its side."""
    f = np.linspace(19.5e6, 22.9e6, 161)
    z = Site.of(5).wire(NEW_LEG_M, 0.0).impedance_ohm(f)
    for seed in range(20261250, 20261300):
        rng = np.random.default_rng(seed)
        gamma = (z - 50) / (z + 50) + 7e-4 * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
        assert dip_in(Sweep(f, 50 * (1 + gamma) / (1 - gamma)), 21.2e6).side == "above"


@pytest.mark.parametrize(("low", "high", "side"), [(25.5e6, 28e6, "below"), (20e6, 23.0e6, "above")])
def test_a_dip_beyond_the_sweep_is_told_by_the_side_it_falls_to(low, high, side):
    f = np.linspace(low, high, 101)
    found = dip_in(Sweep(f, Site.of(5).wire(NEW_LEG_M, 0.0).impedance_ohm(f)), NEW_TARGET_HZ)

    assert (found.side, found.frequency_hz) == (side, None)
    assert found.read_next_hz < low if side == "below" else found.read_next_hz > high
