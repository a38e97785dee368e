"""One quick look further, with an instrument."""

import numpy as np
import pytest

from yielding_coil.analyser.bench import LOFT
from yielding_coil.analyser.driver import AnalyserGoneError
from yielding_coil.api.analyser.acquisition import SweepIn, _find_dip_elsewhere
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep


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


@pytest.mark.parametrize(("gone", "code"), [(False, "dip_elsewhere"), (True, "no_dip_anywhere")])
def test_one_quick_look_further_is_taken_with_the_instrument(gone, code):
    asked = SweepIn(low_hz=27e6, high_hz=29e6, points=101)

    assert _find_dip_elsewhere(Seeing(LOFT.impedance_ohm, gone), asked, swept(27, 29)).code == code
