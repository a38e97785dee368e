"""One-port calibration: against scikit-rf, by what must hold, and each slip by what it says."""

import numpy as np
import pytest
import skrf

from yielding_coil.core.calibration import (
    Kit,
    Noise,
    Residual,
    like_a_standard,
    one_port,
    residual,
    residual_kind,
    slips,
)
from yielding_coil.core.errors import OutOfDomainError

F = np.linspace(1e6, 60e6, 61)
KIT = Kit(load_ohm=50.4, open_f=0.06e-12, short_h=0.15e-9, open_offset_m=4e-3, short_offset_m=3e-3)


def instrument(rng, turn_ns=7.0):
    """A bridge with three terms behind a lead, as a map from Γ to what it shows; made here, not by the core."""
    directivity, match = 0.08 * np.exp(1j * rng.uniform(0, 6)), 0.1 * np.exp(1j * rng.uniform(0, 6))
    delay = np.exp(-4e-9j * np.pi * turn_ns * F)
    return lambda gamma: directivity + 0.9 * delay * gamma / (1 - match * delay * gamma)


def standards(show, kit=KIT):
    return [show(g) for g in kit.reflections(F)]


@pytest.mark.parametrize("seed", range(5))
def test_it_corrects_as_scikit_rf_does(seed):
    """scikit-rf 2.2.0, calibration.OnePort (least squares over the same three standards): 1e-9 on Γ."""
    rng = np.random.default_rng([401, seed])
    show = instrument(rng)
    frequency = skrf.Frequency.from_f(F, unit="Hz")

    def network(values):
        return skrf.Network(frequency=frequency, s=np.reshape(values, (-1, 1, 1)))

    raw = standards(show)
    theirs = skrf.calibration.OnePort(
        ideals=[network(g) for g in KIT.reflections(F)], measured=[network(r) for r in raw]
    )
    gamma = rng.uniform(0, 1, F.size) * np.exp(1j * rng.uniform(0, 6.28, F.size))
    shown = show(gamma)

    mine = one_port(*raw, F, KIT).correct(shown)

    assert np.abs(mine - theirs.apply_cal(network(shown)).s[:, 0, 0]).max() < 1e-9
    assert np.abs(mine - gamma).max() < 1e-9


def test_a_perfect_instrument_needs_no_correction_and_raw_of_undoes_correct():
    correction = one_port(np.array([-1.0]), np.array([1.0]), np.array([0.0]))
    assert correction.correct(np.array([0.3 - 0.2j])) == pytest.approx(0.3 - 0.2j)
    show = instrument(np.random.default_rng(5))
    skewed = one_port(*standards(show), F, KIT)
    gamma = 0.7 * np.exp(-3j * F / 1e7)
    assert skewed.raw_of(gamma) == pytest.approx(show(gamma))


def test_terms_are_read_between_the_points_measured_and_not_beyond():
    """Twice as many points, corrected by terms between those measured: the lead turns 0.8 times over the range."""
    show = instrument(np.random.default_rng(9))
    correction = one_port(*standards(show), F, KIT)
    middle = (F[:-1] + F[1:]) / 2
    delay = np.exp(-4e-9j * np.pi * 7.0 * middle)
    rng = np.random.default_rng(9)
    directivity, match = 0.08 * np.exp(1j * rng.uniform(0, 6)), 0.1 * np.exp(1j * rng.uniform(0, 6))
    shown = directivity + 0.9 * delay * 0.5 / (1 - match * delay * 0.5)
    assert np.abs(correction.at(middle).correct(shown) - 0.5).max() < 1e-3  # the ends of a natural spline
    with pytest.raises(OutOfDomainError, match="inside the calibration, 1 to 60 MHz"):
        correction.at(np.array([10e6, 61e6]))
    assert correction.at(F) is correction


def test_a_load_one_percent_off_makes_every_impedance_one_percent_off():
    """A wrong load scales the reference: Z = 50·(1 + Γ)/(1 − Γ) with 50 in place of 50.5 (exact, any impedance)."""
    true = Kit(load_ohm=50.5, load_spread=0.0)
    show = instrument(np.random.default_rng(2))
    believed = one_port(*standards(show, true), F, Kit())
    for ohm in (20 + 5j, 94 - 463j, 3000 + 1j):
        gamma = (ohm - 50) / (ohm + 50)
        seen = believed.correct(show(np.full(F.size, gamma)))
        assert 50 * (1 + seen) / (1 - seen) == pytest.approx(np.full(F.size, ohm / 1.01), rel=1e-9)
    # and one standard deviation of half a percent is told so
    doubt = one_port(*standards(show, true), F, Kit(open_spread_f=0, short_spread_h=0)).doubt(
        np.full(F.size, 1 / 3 + 0j), Noise(0.0)
    )
    r, x = doubt.impedance_bands(np.full(F.size, 1 / 3 + 0j))
    assert r == pytest.approx(np.full(F.size, 1.645 * 0.5), rel=5e-3)  # 100 Ω, half a percent, nine in ten
    assert x == pytest.approx(np.zeros(F.size), abs=1e-3)


def test_noise_alone_comes_through_by_the_slope_of_the_map():
    """20,000 draws of noise through a known bridge: root mean square within 2 %, four standard errors."""
    show = instrument(np.random.default_rng(3))
    correction = one_port(*standards(show), F, KIT)
    gamma = np.full(F.size, 0.6 - 0.3j)
    rng = np.random.default_rng(4)
    noise = rng.normal(size=(20000, F.size, 2)).view(complex)[..., 0] * (1e-3 / np.sqrt(2))
    away = correction.correct(show(gamma) + noise) - gamma
    bare = Kit(
        **{**{k: getattr(KIT, k) for k in KIT.__slots__}, "load_spread": 0, "open_spread_f": 0, "short_spread_h": 0}
    )
    stated = one_port(*standards(show), F, bare).doubt(gamma, Noise(1e-3)).rms
    assert np.sqrt(np.mean(np.abs(away) ** 2, axis=0)) == pytest.approx(stated, rel=0.02)


def test_averaging_and_age_narrow_and_widen():
    correction = one_port(*standards(instrument(np.random.default_rng(6))), F, KIT)
    gamma = np.full(F.size, 0.2 + 0j)
    one, sixteen = (correction.doubt(gamma, Noise(0.02, passes)).rms.mean() for passes in (1, 16))
    assert sixteen < 0.5 * one
    fresh, old = (correction.doubt(gamma, Noise(1e-5), age).rms.mean() for age in (0.0, 8.0))
    assert old > 1.5 * fresh


def test_residual_in_db_and_what_it_means():
    """40 dB is 0.01 of Γ: at the centre 2 % of 50 Ω, and 1.02 at most (Pozar, §2.3)."""
    found = residual(np.full(F.size, 0.01j), F)
    assert found.db == pytest.approx(-40)
    assert found.impedance_share(0) == pytest.approx(0.02)
    assert found.swr_between(0)[1] == pytest.approx(1.0202, abs=1e-4)
    assert found.swr_between(1 / 3) == pytest.approx((1.9556, 2.0457), abs=1e-3)
    assert Residual(0.0).db == -120


RAW = dict(zip(("short", "open", "load"), standards(instrument(np.random.default_rng(8))), strict=True))


@pytest.mark.parametrize(
    ("given", "code", "which"),
    [
        (RAW, None, None),
        ({**RAW, "open": RAW["load"], "load": RAW["open"]}, "swapped", {"load", "open"}),
        ({**RAW, "short": RAW["load"], "load": RAW["short"]}, "swapped", {"load", "short"}),
        ({**RAW, "open": RAW["short"], "short": RAW["open"]}, "swapped", {"short", "open"}),
        ({**RAW, "open": RAW["short"] + 0.01}, "left_on", {"short", "open"}),
        ({"short": RAW["short"], "open": RAW["short"] - 0.02j}, "left_on", {"short", "open"}),
        ({**RAW, "load": RAW["open"] * 0.99}, "left_on", {"load", "open"}),
        ({"load": RAW["open"]}, "load_high", {"load", "open"}),
        ({"short": RAW["short"], "open": RAW["load"]}, None, None),  # only a load tells what an open should be
    ],
)
def test_slips_with_the_standards_are_named(given, code, which):
    found = slips(given, F)
    assert [s.code for s in found] == ([code] if code else [])
    if code:
        assert {found[0].first, found[0].second} == which


@pytest.mark.parametrize(
    ("low", "high", "code"),
    [
        (20e6, 30e6, "swapped"),
        (1e6, 30e6, "swapped"),
        (14e6, 14.35e6, "too_narrow"),
        (28e6, 28.1e6, "too_narrow"),
    ],
)
def test_short_and_open_exchanged_are_seen_or_said_to_be_beyond_telling(low, high, code):
    """A lead of 0.6 m in solid polyethylene, 0.1 % of noise; right ones are never called exchanged."""
    f = np.linspace(low, high, 101)
    rng = np.random.default_rng(20261216)
    back = np.exp(-4j * np.pi * f * 0.6 / (0.66 * 299_792_458))
    raw = {
        name: gamma * back + 7e-4 * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
        for name, gamma in (("short", -1), ("open", 1), ("load", 0.01))
    }
    exchanged = {**raw, "open": raw["short"], "short": raw["open"]}

    assert [s.code for s in slips(exchanged, f)] == [code]
    assert [s.code for s in slips(raw, f)] == ([] if code == "swapped" else ["too_narrow"])


def test_a_sweep_that_is_a_standard_is_called_that():
    assert like_a_standard(np.full(5, -0.99 + 0.01j)) == "short"
    assert like_a_standard(np.full(5, 0.01j)) == "load"
    assert like_a_standard(np.exp(-1j * np.linspace(0, 0.5, 5))) is None


def test_refusals():
    ones = np.ones(3, dtype=complex)
    with pytest.raises(OutOfDomainError, match="the standards is alike; it must be three different things"):
        one_port(ones, ones, 0 * ones)
    with pytest.raises(OutOfDomainError, match="load is of 2 points; it must be as many as the short has, 3"):
        one_port(-ones, ones, np.zeros(2))
    with pytest.raises(OutOfDomainError, match="raw_reflection is of \\(2,\\) points"):
        one_port(-ones, ones, 0 * ones).correct(np.zeros(2))
    with pytest.raises(OutOfDomainError, match="raw_reflection is .*nan.*finite"):
        one_port(-ones, ones, 0 * ones).correct(ones * np.nan)
    with pytest.raises(OutOfDomainError, match="frequency_hz is left out"):
        one_port(-ones, ones, 0 * ones, kit=KIT)
    with pytest.raises(OutOfDomainError, match="load_ohm is 0.0; it must be above zero"):
        Kit(load_ohm=0.0)


@pytest.mark.parametrize(
    ("load_ohm", "kind"), [(50.2, "as_good"), (51.5, "fair"), (60.0, "moved"), (25.0, "no_load"), (1e6, "no_load")]
)
def test_the_check_of_the_load_says_what_it_says(load_ohm, kind):
    """Found by trying it: a resistor of 25 Ω was a connector to be tightened. By 20·lg|Γ| of the resistor."""
    gamma = np.full(F.size, (load_ohm - 50) / (load_ohm + 50), dtype=complex)
    assert residual_kind(residual(gamma, F).db) == kind
