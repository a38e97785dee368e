"""What is said of a sweep: dips in view and out of it, standards left on, calibrations that do not reach."""

import numpy as np
import pytest

from yielding_coil.analyser.bench import LOFT, THINGS
from yielding_coil.analyser.driver import AnalyserGoneError, Taken
from yielding_coil.api.curves import FEW, SweepCurves
from yielding_coil.api.sweeping import (
    OutsideCalibrationError,
    SweepAsked,
    _elsewhere,
    _findings,
    _good_dip,
    _Known,
    require_covered,
)
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import ReflectionDoubt, Sweep
from yielding_coil.store.calibrations import keep_standard
from yielding_coil.store.tables import Calibration


class Seeing:
    """An analyser without errors of its own, on one antenna; it may be gone."""

    identity, low_hz, high_hz, most_points = "seeing", 0.1e6, 200e6, 2001

    def __init__(self, seen, gone=False):
        self.seen, self.gone = seen, gone

    def sweep(self, low_hz, high_hz, points):
        if self.gone:
            raise AnalyserGoneError("gone")
        f = np.linspace(low_hz, high_hz, points)
        return reflection_of(np.asarray(self.seen(f)))

    def close(self):
        pass


def swept(low_mhz, high_mhz, seen=LOFT.impedance_ohm):
    f = np.linspace(low_mhz * 1e6, high_mhz * 1e6, 101)
    return Sweep(f, np.asarray(seen(f)))


def asked(low_mhz, high_mhz):
    return SweepAsked(low_hz=low_mhz * 1e6, high_hz=high_mhz * 1e6, points=101)


def said(found, known=None, problem=None):
    taken = Taken(found.frequency_hz)
    taken.add(found.reflection())
    both = asked(found.low_hz / 1e6, found.high_hz / 1e6)
    return {f.code: f.values for f in _findings(both, known, found, taken, problem)}


@pytest.fixture
def known():
    """A perfect calibration from 20 to 30 MHz."""
    from datetime import UTC, datetime

    row = Calibration(low_hz=20e6, high_hz=30e6, points=101, kit={}, taken={}, revision=1)
    for name, gamma in (("short", -1), ("open", 1), ("load", 0)):
        keep_standard(row, name, np.full(101, gamma, dtype=complex), 8, 1e-4, "seeing")
    row.made_at = datetime.now(UTC)
    return _Known(row)


@pytest.mark.parametrize(
    ("low", "high", "good"),
    [(22, 27, True), (24.2, 26, True), (25, 27, False), (20, 24, False), (28, 30, False)],
)
def test_a_dip_counts_when_it_lies_inside_and_is_one(low, high, good):
    """The loft dipole's dip lies at 24.36 MHz."""
    assert _good_dip(swept(low, high)) == good


@pytest.mark.parametrize(
    ("low", "high", "where"), [(25.5, 27.5, "below"), (21.0, 23.5, "above"), (12, 14, "above")]
)
def test_without_a_dip_it_says_on_which_side_to_look(low, high, where):
    assert said(swept(low, high))["no_dip"]["where"] == where


def test_a_quick_look_finds_the_dip_outside_and_centres_the_same_span_on_it():
    found = _elsewhere(Seeing(LOFT.impedance_ohm), asked(27, 29), swept(27, 29))
    assert found.code == "dip_elsewhere"
    assert found.values["frequency_hz"] == pytest.approx(24.36e6, rel=0.02)
    assert found.values["high_hz"] - found.values["low_hz"] == pytest.approx(2e6)


@pytest.mark.parametrize("gone", [False, True])
def test_where_there_is_none_or_nobody_answers_it_says_how_far_it_looked(gone):
    found = _elsewhere(Seeing(THINGS["r200"].seen, gone), asked(27, 29), swept(27, 29, THINGS["r200"].seen))
    assert found.code == "no_dip_anywhere"
    assert found.values["low_hz"] == pytest.approx(6.75e6)
    assert found.values["high_hz"] == pytest.approx(116e6)


def test_what_is_said_with_a_calibration_and_without(known):
    assert list(said(swept(22, 27))) == ["uncorrected"]
    assert "interpolated" in said(swept(22, 27), known)
    assert said(swept(20, 30), known) == {}
    known.age_h = 9.0
    assert said(swept(20, 30), known)["old_calibration"]["age_h"] == 9.0
    load = Sweep(known.frequency_hz, np.full(101, 50.2 + 0j))
    assert said(load, known)["like_a_standard"] == {"standard": "load"}
    assert said(swept(20, 30), known, AnalyserGoneError("gone"))["kept_passes"] == {"passes": 1}


def test_more_back_than_was_sent_is_counted(known):
    z = np.full(101, 40 + 10j)
    z[50:53] = -8 + 30j
    assert said(Sweep(known.frequency_hz, z), known)["above_one"] == {"points": 3}


def test_a_calibration_covers_what_lies_inside_it(known):
    require_covered(known, 20e6, 30e6)
    require_covered(None, 1e6, 100e6)
    for low, high in ((19e6, 25e6), (25e6, 31e6)):
        with pytest.raises(OutsideCalibrationError, match="only from 20 to 30 MHz: sweep inside it"):
            require_covered(known, low, high)


class TestWhatIsDrawn:
    def test_a_known_doubt_is_a_fan_round_the_curve(self):
        found = swept(22, 27)
        doubt = ReflectionDoubt.circular(np.full(101, 0.01))
        drawn = SweepCurves.of(found, found.low_hz, found.high_hz, 401, doubt)
        r = np.array(drawn.resistance_ohm)
        assert (np.array(drawn.fan.low_resistance_ohm) < r).all()
        assert (r < np.array(drawn.fan.high_resistance_ohm)).all()
        assert (np.array(drawn.fan.low_swr) >= 1).all()

    def test_thinning_keeps_the_fan_with_its_points(self):
        f = np.linspace(20e6, 30e6, 5000)
        found = Sweep(f, LOFT.impedance_ohm(f))
        doubt = ReflectionDoubt.circular(np.linspace(0.001, 0.02, 5000))
        drawn = SweepCurves.of(found, f[0], f[-1], 400, doubt)
        k = 200
        at = int(np.searchsorted(f, drawn.frequency_hz[k]))
        half, _ = doubt.at(np.array([at])).impedance_bands(found.reflection()[[at]])
        width = drawn.fan.high_resistance_ohm[k] - drawn.fan.low_resistance_ohm[k]
        assert width == pytest.approx(2 * half[0], rel=1e-3)
        assert len(drawn.fan.high_swr) == len(drawn.frequency_hz)

    def test_few_samples_have_no_fan_and_no_line_no_ceiling(self):
        f = np.linspace(20e6, 30e6, FEW - 4)
        found = Sweep(f, LOFT.impedance_ohm(f))
        drawn = SweepCurves.of(found, f[0], f[-1], 100, ReflectionDoubt.circular(np.full(f.size, 0.01)))
        assert drawn.fan is None
        assert drawn.ceiling is None

    def test_behind_a_line_no_curve_passes_its_ceiling(self):
        line = Line(Cable("thin", 50.0, 0.7, 2.8, 0.005), 25.0)
        f = np.linspace(20e6, 30e6, 201)
        shack = Sweep(f, line.input_impedance(f, LOFT.impedance_ohm(f)))
        drawn = SweepCurves.of(shack, f[0], f[-1], 201, None, line)
        assert (np.array(drawn.swr) <= np.array(drawn.ceiling) * 1.02).all()
