"""What is drawn of a sweep while it is taken."""

import numpy as np
import pytest

from yielding_coil.analyser.bench import LOFT
from yielding_coil.api.sweep import FEW, SweepCurves
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep


def swept(low_mhz, high_mhz, seen=LOFT.impedance_ohm):
    f = np.linspace(low_mhz * 1e6, high_mhz * 1e6, 101)
    return Sweep(f, np.asarray(seen(f)))


class TestWhatIsDrawn:
    def test_a_known_doubt_is_a_fan_round_the_curve(self):
        found = swept(22, 27)
        doubt = ReflectionUncertainty.circular(np.full(101, 0.01))
        drawn = SweepCurves.of(found, found.low_hz, found.high_hz, 401, doubt)
        r = np.array(drawn.resistance_ohm)
        assert (np.array(drawn.fan.low_resistance_ohm) < r).all()
        assert (r < np.array(drawn.fan.high_resistance_ohm)).all()
        assert (np.array(drawn.fan.low_swr) >= 1).all()

    def test_thinning_keeps_the_fan_with_its_points(self):
        f = np.linspace(20e6, 30e6, 5000)
        found = Sweep(f, LOFT.impedance_ohm(f))
        doubt = ReflectionUncertainty.circular(np.linspace(0.001, 0.02, 5000))
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
        drawn = SweepCurves.of(found, f[0], f[-1], 100, ReflectionUncertainty.circular(np.full(f.size, 0.01)))
        assert drawn.fan is None
        assert drawn.ceiling is None

    def test_behind_a_line_no_curve_passes_its_ceiling(self):
        line = Line(Cable("thin", 50.0, 0.7, 2.8, 0.005), 25.0)
        f = np.linspace(20e6, 30e6, 201)
        shack = Sweep(f, line.input_impedance(f, LOFT.impedance_ohm(f)))
        drawn = SweepCurves.of(shack, f[0], f[-1], 201, None, line)
        assert (np.array(drawn.swr) <= np.array(drawn.ceiling) * 1.02).all()
