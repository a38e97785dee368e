"""A line that was found out as a cable of one's own, and what a line hides."""

import numpy as np
import pytest

from yielding_coil.core.line import (
    Cable,
    Line,
    characterise,
    hides_antenna,
    highest_swr_behind,
    impedance_found,
    known_cable,
    loss_seen_db,
)
from yielding_coil.core.sweep import Sweep

F = np.linspace(1e6, 100e6, 401)
COAX = Line(Cable("some coax", 52.0, 0.70, 1.2, 0.01), 20.0)
OPENED = Sweep(F, COAX.input_impedance(F, 1 / (2j * np.pi * F * 0.2e-12)))
SHORTED = Sweep(F, COAX.input_impedance(F, np.zeros(F.size, dtype=complex)))


def test_its_row_holds_what_it_is_within_what_it_says():
    row = known_cable(characterise(OPENED, SHORTED, 20.0))

    assert float(row.cable.impedance_ohm) == pytest.approx(52.0, rel=row.impedance_tolerance)
    assert float(row.cable.velocity_factor) == pytest.approx(0.70, rel=row.velocity_tolerance)
    assert Line(row.cable, 20.0).matched_loss_db(50e6) == pytest.approx(
        COAX.matched_loss_db(50e6), rel=row.loss_tolerance
    )
    # Nobody knows a load better than a percent, a tape than 0.2 %, a loss than 2 %, at two standard deviations.
    assert row.impedance_tolerance >= 0.01
    assert row.velocity_tolerance >= 0.002
    assert row.loss_tolerance >= 0.02


def test_the_load_of_the_calibration_is_a_doubt_that_no_sweep_shows():
    found = characterise(OPENED, SHORTED, 20.0)

    assert impedance_found(found).error >= 0.005 * found.impedance_ohm.value
    assert impedance_found(found).value == found.impedance_ohm.value


def test_what_each_frequency_shows_is_the_matched_loss():
    """Γ of both ends together is e^(−4αl) for a line of its own impedance (Pozar, §2.7)."""
    line = Line(Cable("exact", 50.0, 0.66, 1.0, 0.0), 30.0)
    opened = Sweep(F, line.input_impedance(F, np.full(F.size, 1e9 + 0j)))
    shorted = Sweep(F, line.input_impedance(F, np.zeros(F.size, dtype=complex)))

    assert loss_seen_db(opened, shorted, F[50:]) == pytest.approx(line.matched_loss_db(F[50:]), rel=0.02)


@pytest.mark.parametrize(("loss_db", "swr"), [(10.0, 1.2222), (3.0103, 3.0), (0.0, 2e9)])
def test_behind_a_loss_no_swr_is_higher(loss_db, swr):
    """Everything comes back: |Γ| = 10^(−2·loss/20)."""
    assert float(highest_swr_behind(np.array(loss_db))) == pytest.approx(swr, rel=1e-3)
    assert hides_antenna(loss_db) == (loss_db >= 10)
