"""What sweeps on the bench are trusted for, and what a verdict comes to."""

import numpy as np
import pytest
from client_helpers import unun
from made import design_of

from yielding_coil import data
from yielding_coil.core.bench import (
    KEPT_NOISE,
    BenchSweep,
    bench_verdict,
    crossings_of,
    seen_of,
    setup_of,
    trusted_db,
    useful,
    winding_suspects,
)
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.reflection import impedance_of
from yielding_coil.core.sweep import Sweep

MATERIALS = list(data.ring_materials().values())
UNUN = design_of(unun()).wound("unun")
WIDE = np.geomspace(1.8e6, 30e6, 101)


@pytest.mark.parametrize(
    ("of", "db"),
    [
        ({"calibrated": True}, 45.0),
        ({"calibrated": True, "checked_db": -38.0}, 38.0),
        ({"calibrated": True, "checked_db": -70.0}, 50.0),
        ({"calibrated": False, "by_analyser": True}, 25.0),
        ({"calibrated": False}, 50.0),
    ],
)
def test_a_sweep_is_trusted_as_far_as_its_calibration_was_checked(of, db):
    assert trusted_db(**of) == db


def test_only_where_what_is_wound_is_described():
    f = np.array([1e4, 1e6, 10e6, 100e6])
    assert useful(Sweep(f, np.full(4, 50 + 0j))).frequency_hz == pytest.approx([1e6, 10e6])
    with pytest.raises(OutOfDomainError, match="within 0.1 to 60 MHz"):
        useful(Sweep(np.array([70e6, 80e6]), np.full(2, 50 + 0j)))


def verdict(impedance_ohm, f=WIDE, setup="resistor"):
    taken = BenchSweep(setup_of(UNUN, setup), Sweep(f, impedance_ohm), 50.0, KEPT_NOISE)
    return bench_verdict(UNUN, [taken], 14e6, MATERIALS)


def looks_like(code, f=WIDE):
    suspect = next(s for s in winding_suspects(UNUN, 14e6, MATERIALS) if s.code == code)
    still = np.zeros((1, 2 + len(suspect.spreads)))
    return impedance_of(seen_of(suspect, setup_of(UNUN, "resistor"), f, still)[0])


@pytest.mark.deep
def test_right_passes_and_a_fault_does_not():
    assert verdict(looks_like("right")).passed is True
    bucking = verdict(looks_like("bucking"))
    assert (bucking.passed, bucking.verdict.codes) == (False, ("bucking",))


@pytest.mark.deep
def test_a_dipole_behind_coax_is_no_winding():
    """An open line of 30 m: X passes zero again and again."""
    line = Line(Cable("coax", 50.0, 0.66, 1.0, 0.0), 30.0)
    z = line.input_impedance(WIDE, 1 / (2j * np.pi * WIDE * 20e-12) + 40.0)
    told = verdict(z)

    assert crossings_of(Sweep(WIDE, z)) >= 3
    assert (told.verdict.says, told.passed) == ("strange", False)
    assert [f.code for f in told.findings] == ["like_an_antenna"]


def test_less_than_an_octave_tells_little():
    narrow = np.linspace(7e6, 13e6, 51)

    assert [f.code for f in verdict(looks_like("right", narrow), narrow).findings] == ["narrow_sweep"]
