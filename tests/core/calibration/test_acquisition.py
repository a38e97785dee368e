"""What is said of a sweep: dips in view and out of it, standards left on, calibrations that do not reach."""

import numpy as np
import pytest

from yielding_coil.analyser.bench import LOFT, THINGS
from yielding_coil.core.calibration import (
    CalibrationInUse,
    OutsideCalibrationError,
    acquisition_findings,
    dip_elsewhere,
    good_dip,
    require_covered,
    wide_range,
)
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep

INSTRUMENT = (0.1e6, 200e6)
FRESH = CalibrationInUse(np.linspace(20e6, 30e6, 101), 0.1)


def swept(low_mhz, high_mhz, seen=LOFT.impedance_ohm):
    f = np.linspace(low_mhz * 1e6, high_mhz * 1e6, 101)
    return Sweep(f, np.asarray(seen(f)))


def said(found, calibration=None, kept_passes=None):
    told = acquisition_findings(found.frequency_hz, found, calibration, kept_passes=kept_passes)
    return {f.code: f.values for f in told}


@pytest.mark.parametrize(
    ("low", "high", "good"),
    [(22, 27, True), (24.2, 26, True), (25, 27, False), (20, 24, False), (28, 30, False)],
)
def test_a_dip_counts_when_it_lies_inside_and_is_one(low, high, good):
    """The loft dipole's dip lies at 24.36 MHz."""
    assert good_dip(swept(low, high)) == good


@pytest.mark.parametrize(
    ("low", "high", "where", "falls"),
    [(25.5, 27.5, "below", "yes"), (21.0, 23.5, "above", "yes"), (12, 14, "above", "no")],
)
def test_without_a_dip_it_says_on_which_side_to_look(low, high, where, falls):
    told = said(swept(low, high))["no_dip"]

    assert (told["where"], told["falls"]) == (where, falls)


def look(seen, low_mhz, high_mhz, gone=False):
    """One quick look further than a sweep."""
    asked = (low_mhz * 1e6, high_mhz * 1e6)
    f = np.linspace(*wide_range(*asked, *INSTRUMENT), 401)
    raw = None if gone else reflection_of(np.asarray(seen(f)))
    return dip_elsewhere(f, raw, asked, swept(low_mhz, high_mhz, seen), INSTRUMENT)


@pytest.mark.deep
def test_a_quick_look_finds_the_dip_outside_and_centres_the_same_span_on_it():
    found = look(LOFT.impedance_ohm, 27, 29)

    assert found.code == "dip_elsewhere"
    assert found.values["frequency_hz"] == pytest.approx(24.36e6, rel=0.02)
    assert found.values["high_hz"] - found.values["low_hz"] == pytest.approx(2e6)


@pytest.mark.parametrize("gone", [False, True])
def test_where_there_is_none_or_nobody_answers_it_says_how_far_it_looked(gone):
    found = look(THINGS["r200"].seen, 27, 29, gone)

    assert found.code == "no_dip_anywhere"
    assert found.values["low_hz"] == pytest.approx(6.75e6)
    assert found.values["high_hz"] == pytest.approx(116e6)


def test_what_is_said_with_a_calibration_and_without():
    assert list(said(swept(22, 27))) == ["uncorrected"]
    assert "interpolated" in said(swept(22, 27), FRESH)
    assert said(swept(20, 30), FRESH) == {}
    old = CalibrationInUse(FRESH.frequency_hz, 9.0)
    assert said(swept(20, 30), old)["old_calibration"]["age_h"] == 9.0
    load = Sweep(FRESH.frequency_hz, np.full(101, 50.2 + 0j))
    assert said(load, FRESH)["like_a_standard"] == {"standard": "load"}
    assert said(swept(20, 30), FRESH, kept_passes=1)["kept_passes"] == {"passes": 1}
    assert [f.code for f in acquisition_findings(FRESH.frequency_hz, None, None)] == ["uncorrected"]


def test_more_back_than_was_sent_is_counted():
    z = np.full(101, 40 + 10j)
    z[50:53] = -8 + 30j
    assert said(Sweep(FRESH.frequency_hz, z), FRESH)["above_one"] == {"points": 3}


def test_a_calibration_covers_what_lies_inside_it():
    require_covered((20e6, 30e6), 20e6, 30e6)
    require_covered(None, 1e6, 100e6)
    for low, high in ((19e6, 25e6), (25e6, 31e6)):
        with pytest.raises(OutsideCalibrationError, match="only from 20 to 30 MHz: sweep inside it"):
            require_covered((20e6, 30e6), low, high)
