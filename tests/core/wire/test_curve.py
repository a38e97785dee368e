"""Γ over a range from few solved frequencies: against solving each frequency by itself."""

import numpy as np
import pytest

from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.wire import KEPT_OHM, KINDS, reflection_curve, reflection_over
from yielding_coil.core.wire.kinds import EndFed, LoadedVertical


def alone(structure, f):
    return reflection_of(np.array([complex(structure.impedance_at(each)) for each in f]), KEPT_OHM)


def test_a_sharp_resonance_is_met_between_few_frequencies():
    """A short mast and its coil: a hundredth of a band wide."""
    structure = LoadedVertical(4.0, 5e-5, 0.5, q=400.0, radials=32).structure()
    f = np.linspace(5.25e6, 5.45e6, 41)
    found = reflection_curve(structure, 4.5e6, 6.5e6)(np.log(f))
    assert np.abs(found - alone(structure, f)).max() < 1e-4


@pytest.mark.deep
def test_over_octaves_each_has_its_own_segments():
    structure = EndFed(13.7, 1.5, 3.0, 8.0).structure()
    f = np.array([6e6, 7.9e6, 8.1e6, 10.1e6, 15e6, 20e6, 28.5e6, 31e6])
    found = reflection_over(structure, 5.5e6, 33.5e6)(np.log(f))
    assert np.abs(found - alone(structure, f)).max() < 2e-3


def test_what_reaches_little_into_an_octave_is_no_finer_there():
    structure = KINDS["dipole"].start(29e6).structure()
    f = np.array([31e6, 33e6])
    found = reflection_over(structure, 28e6, 34e6)(np.log(f))
    assert found == pytest.approx(alone(structure, f), abs=0.02)
