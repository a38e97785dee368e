"""Lengths that are a half-wave on no band: practice's own figures, the long-wire rule, the model beside them."""

import math

import numpy as np
import pytest

from yielding_coil.core.antenna import (
    AnyLength,
    far_under,
    half_wave_m,
    length_on_bands,
    margin_of,
    strip_of,
    windows,
    zones_by_rule,
)
from yielding_coil.core.antenna.any_length import Zone
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.target import Target
from yielding_coil.core.wire import Stock

FOOT = 0.3048
BANDS = tuple(
    Target(label, low * 1e6, high * 1e6, 2.0)
    for label, low, high in (
        ("80 m", 3.5, 3.8),
        ("40 m", 7.0, 7.2),
        ("20 m", 14.0, 14.35),
        ("15 m", 21.0, 21.45),
        ("12 m", 24.89, 24.99),
        ("10 m", 28.0, 29.7),
    )
)
HOW = AnyLength(7.0, 4.0, Stock())


@pytest.fixture(scope="module")
def strip():
    return strip_of(HOW, BANDS, 5.0, 45.0)


def margin(school, feet, zones):
    return margin_of(school, feet * FOOT, zones)


def test_74_feet_by_practice_is_a_percent_from_four_half_waves_on_12_m():
    """1.2 % (practice)."""
    found = margin("practice", 74, zones_by_rule("practice", BANDS, 60.0))
    assert (found.zone.label, found.zone.half_waves) == ("12 m", 4)
    assert found.share == pytest.approx(0.012, abs=0.0005)
    assert found.metres > 0


def test_135_feet_by_practice_is_a_percent_from_a_half_wave_at_3_5_mhz():
    """1 % (practice), and clear of 10 m by that rule."""
    zones = zones_by_rule("practice", BANDS, 60.0)
    found = margin("practice", 135, zones)
    assert (found.zone.label, found.zone.half_waves) == ("80 m", 1)
    assert found.share == pytest.approx(0.01, abs=0.001)
    assert found.zone.high_m == pytest.approx(468 / 3.5 * FOOT, rel=1e-3)
    assert margin("practice", 135, [z for z in zones if z.label == "10 m"]).share > 0.005


def test_135_feet_by_the_long_wire_rule_is_eight_half_waves_at_29_mhz():
    """An eighth half-wave at 29.0 MHz (computed)."""
    assert half_wave_m("long-wire", 8, 29.0e6) == pytest.approx(135 * FOOT, rel=3e-3)
    ten = [z for z in zones_by_rule("long-wire", BANDS, 60.0) if z.label == "10 m"]
    found = margin("long-wire", 135, ten)
    assert (found.share, found.zone.half_waves) == (0.0, 8)


@pytest.mark.parametrize("school", ["practice", "long-wire"])
def test_33_feet_is_a_half_wave_on_20_m(school):
    found = margin(school, 33, zones_by_rule(school, BANDS, 60.0))
    assert (found.share, found.zone.label, found.zone.half_waves) == (0.0, "20 m", 1)


def test_the_window_of_74_feet_by_the_model(strip):
    """69.5 to 77.7 ft (computed), between 10 m and 12 m; clear by all three."""
    window = next(w for w in windows(strip.zones(), 5.0, 45.0) if w.low_m < 74 * FOOT < w.high_m)
    assert window.low_m / FOOT == pytest.approx(69.5, abs=0.3)
    assert window.high_m / FOOT == pytest.approx(77.7, abs=0.3)
    assert margin("model", 74, strip.zones()).share > 0.04


def test_135_feet_by_the_model_is_eight_half_waves_on_10_m(strip):
    found = margin("model", 135, [z for z in strip.zones() if z.label == "10 m"])
    assert (found.share, found.zone.half_waves) == (0.0, 8)


def test_33_feet_by_the_model(strip):
    assert margin("model", 33, strip.zones()).zone.label == "20 m"
    assert margin("model", 33, strip.zones()).share == 0.0


def test_the_model_lies_by_the_long_wire_rule_and_parts_from_practice(strip):
    """The end effect counts once: at many half-waves practice's own are shorter (handbook's rule, from memory)."""
    for zone in strip.zones():
        if zone.half_waves >= 3:
            target = next(t for t in BANDS if t.label == zone.label)
            long, short = (half_wave_m(s, zone.half_waves, target.low_hz) for s in ("long-wire", "practice"))
            assert zone.high_m == pytest.approx(long, rel=0.012)
            assert zone.high_m > 1.015 * short


@pytest.mark.deep
def test_all_lengths_at_once_are_what_each_is_by_itself(strip):
    """Against wires solved one by one with twice the segments: Γ of 450 Ω within a few hundredths."""
    rng = np.random.default_rng(20261210)
    for length in np.round(rng.uniform(6.0, 40.0, 5), 2):
        at = round((length - 5.0) / 0.01)
        alone = HOW.hung(float(length)).structure()
        for band in (0, 3):
            f = strip.frequency_hz[band][[0, -1]]
            one = reflection_of(alone.impedance_at(f), 450.0)
            assert np.abs(one - reflection_of(strip.impedance_ohm[band][[0, -1], at], 450.0)).max() < 0.05


@pytest.mark.deep
def test_the_shortest_that_is_taken_is_solved_too():
    """Against the wire of that length alone."""
    found = strip_of(HOW, BANDS[:1], 0.8, 40.0)
    for at in (0, 20):
        alone = HOW.hung(float(found.lengths_m[at])).structure()
        one = complex(reflection_of(alone.impedance_at(found.frequency_hz[0][2]), 600.0))
        assert abs(one - complex(reflection_of(found.impedance_ohm[0, 2, at], 600.0))) < 0.01


@pytest.mark.trial
@pytest.mark.deep
def test_the_strip_against_two_hundred_full_lengths(trials):
    """Interpolated, with half the segments, against each length solved in full; seed chosen before."""
    strip = strip_of(HOW, BANDS, 5.0, 60.0)
    rng = np.random.default_rng(20261211)
    lengths = np.round(rng.uniform(5.0, 60.0, 200 if trials.whole else 20), 2)
    off = []
    for length in lengths:
        alone, at = HOW.hung(float(length)).structure(), round((float(length) - 5.0) / 0.01)
        for band in range(len(BANDS)):
            f = strip.frequency_hz[band][2]
            one = complex(reflection_of(alone.impedance_at(f), 450.0))
            off.append(abs(one - complex(reflection_of(strip.impedance_ohm[band, 2, at], 450.0))))
    trials.figures.append(
        f"strip of lengths against {len(lengths)} in full: |ΔΓ| of 450 Ω, median {np.median(off):.3f}, "
        f"nine of ten {np.quantile(off, 0.9):.3f}, most {max(off):.3f}"
    )
    assert np.quantile(off, 0.9) < 0.05


def test_a_half_wave_shows_kilohms_and_the_quarters_between_tens_of_ohms(strip):
    """2.45 to 5 kΩ at one half-wave by school (practice); a quarter-wave against a short counterpoise little."""
    band = next(i for i, t in enumerate(BANDS) if t.label == "20 m")
    zone = next(z for z in strip.zones() if (z.label, z.half_waves) == ("20 m", 1))
    ohm = strip.impedance_ohm[band, 2].real
    crest = ohm[(strip.lengths_m > 0.95 * zone.low_m) & (strip.lengths_m < 1.05 * zone.high_m)].max()
    assert 2000 < crest < 5000
    between = ohm[(strip.lengths_m > 1.4 * zone.low_m) & (strip.lengths_m < 1.6 * zone.high_m)]
    assert between.min() < 150


def test_odd_quarter_waves_of_the_stricter_school(strip):
    """234/f feet, and three, five times that (practice)."""
    found = zones_by_rule("practice", BANDS, 60.0, quarters=True)
    first = next(z for z in found if z.label == "20 m")
    assert first.half_waves == 0.5
    assert first.low_m == pytest.approx(234 / 14.35 * FOOT, rel=1e-3)
    model = next(z for z in strip.zones(quarters=True) if (z.label, z.half_waves) == ("20 m", 1.5))
    assert model.low_m == pytest.approx(half_wave_m("long-wire", 1.5, 14.35e6), rel=0.06)


def test_windows_lie_between_zones_and_the_widest_comes_first():
    zones = [Zone("a", 1, 10.0, 11.0), Zone("b", 1, 10.5, 12.0), Zone("a", 2, 20.0, 21.0)]
    found = windows(zones, 8.0, 24.0)
    assert [(w.low_m, w.high_m) for w in found] == [(12.0, 20.0), (8.0, 10.0), (21.0, 24.0)]
    assert found[0].best_m == pytest.approx(math.sqrt(240))
    assert windows([Zone("a", 1, 1.0, 30.0)], 8.0, 24.0) == ()
    assert [(w.low_m, w.high_m) for w in windows([], 8.0, 24.0)] == [(8.0, 24.0)]


def test_far_under_a_quarter_wave():
    """On bands where the wire is much under a quarter-wave a low reading is loss (practice)."""
    assert far_under(10.0, BANDS) == ("80 m",)
    assert far_under(22.5, BANDS) == ()


def test_a_chosen_length_band_by_band():
    found = length_on_bands(HOW, 6.0, BANDS[:2])
    assert [each.far_under for each in found] == [True, True]
    assert found[0].swr_low <= found[0].swr_high


@pytest.mark.parametrize(
    ("ask", "why"),
    [
        (lambda: zones_by_rule("practice", (), 60.0), "bands is none; it must be at least one"),
        (lambda: strip_of(HOW, BANDS, 0.0, 40.0), "space is 0 to 40 m"),
        (lambda: strip_of(HOW, BANDS, 20.0, 10.0), "lengths above 0, rising"),
        (lambda: strip_of(HOW, BANDS, 0.5, 40.0), "0.5 m of a wire up to 40 m; it must be 0.8 m or more"),
        (lambda: strip_of(HOW, BANDS * 3, 5.0, 10.0), "bands is 18; it must be at most 12"),
        (lambda: margin_of("practice", 0.0, ()), "above zero"),
        (lambda: half_wave_m("practice", 1, 0.0), "above zero"),
        (lambda: AnyLength(0.0, 4.0, Stock()).hung(20.0), "feedpoint height is 0 m"),
    ],
)
def test_what_cannot_be_is_refused(ask, why):
    with pytest.raises(OutOfDomainError, match=why):
        ask()
