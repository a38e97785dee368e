"""Calibrations and own cables in the database: kept to the bit, whole or half, in the bin and back."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.documents.design import CableValues, Feedline
from yielding_coil.store import calibrations as queries
from yielding_coil.store.pieces import bin_piece, cable_key, cable_row, own_cables
from yielding_coil.store.tables import Calibration, Piece

F = np.linspace(20e6, 30e6, 11)
RAW = {"short": -0.9 * np.exp(-1j * F / 1e7), "open": 0.92 * np.exp(-1j * F / 1e7), "load": 0.03j * np.ones(11)}
CABLE = CableValues(
    name="drum",
    impedance_ohm=49.7,
    velocity_factor=0.84,
    loss_sqrt=1.05,
    loss_linear=0.011,
    impedance_tolerance=0.01,
    velocity_tolerance=0.002,
    loss_tolerance=0.03,
    low_hz=1e6,
    high_hz=100e6,
)


@pytest.fixture
def row(session):
    row = Calibration(name="bench", plane="lead", low_hz=20e6, high_hz=30e6, points=11, kit={"load_ohm": 50.2})
    session.add(row)
    session.flush()
    return row


@pytest.fixture
def drum(session):
    piece = Piece(kind="cable", name="drum", values=CABLE.model_dump(), provenance="measured")
    session.add(piece)
    session.flush()
    return piece


def keep_all(row, passes=8):
    for name, raw in RAW.items():
        queries.keep_standard(row, name, raw, passes, 1e-3, "an analyser")


def test_standards_come_back_to_the_bit(session, row):
    keep_all(row)
    session.flush()
    session.expire(row)
    kept = queries.raw_of(row)
    assert {name: (raw == RAW[name]).all() for name, raw in kept.items()} == dict.fromkeys(RAW, True)
    assert queries.grid_of(row) == pytest.approx(F)
    correction = queries.correction_of(row)
    assert correction.kit.load_ohm == 50.2
    assert correction.correct(RAW["open"]) == pytest.approx(np.ones(11))


def test_a_half_one_says_what_is_missing(row):
    queries.keep_standard(row, "open", RAW["open"], 8, 1e-3, "an analyser")
    with pytest.raises(OutOfDomainError, match="without its short and load"):
        queries.correction_of(row)


def test_sweeping_a_standard_again_takes_its_place_and_the_check_away(row):
    keep_all(row)
    row.checked = {"residual_db": -60.0, "rms": 1e-3}
    queries.keep_standard(row, "load", RAW["load"] * 2, 4, 2e-3, "another")
    assert row.checked is None
    assert row.instrument == "another"
    assert queries.raw_of(row)["load"] == pytest.approx(RAW["load"] * 2)
    noise = queries.noise_of(row, 5e-3, 2)
    assert (noise.rms, noise.passes, noise.standards_passes) == (5e-3, 2, 4)
    assert noise.standards_rms == pytest.approx(np.sqrt((1 + 1 + 4) / 3) * 1e-3)


def test_its_age_in_hours(row):
    keep_all(row)
    assert queries.age_h(row, datetime.now(UTC) + timedelta(hours=3)) == pytest.approx(3, abs=0.01)
    assert queries.age_h(row, datetime.now(UTC) - timedelta(hours=3)) == 0.0


def test_the_bin_and_back(session, row):
    queries.bin_calibration(row)
    assert queries.all_calibrations(session) == []
    with pytest.raises(NotFoundError, match="is in the bin"):
        queries.one_calibration(session, row.id)
    assert queries.one_calibration(session, row.id, deleted=True) is row


def test_an_own_cable_stands_where_one_of_the_table_may(session, drum):
    found = cable_row(session, cable_key(drum))
    assert (found.cable.name, float(found.cable.impedance_ohm), found.velocity_tolerance) == ("drum", 49.7, 0.002)
    assert cable_row(session, "foam-6") is data.cable_row("foam-6")
    for wrong in ("hose", "own-", "own-nonsense"):
        with pytest.raises(NotFoundError, match=f"there is no cable “{wrong}”"):
            cable_row(session, wrong)


def test_a_binned_cable_is_gone_for_choosing_and_stays_in_designs(session, drum):
    key = cable_key(drum)
    taken = Feedline(
        key="line", cable=key, length_m=17.6, piece={"id": drum.id, "revision": 1, "values": drum.values}
    )
    bin_piece(drum)
    assert own_cables(session) == []
    with pytest.raises(NotFoundError, match="not in the drawer"):
        cable_row(session, key)
    assert cable_row(session, key, deleted=True).cable.name == "drum"
    line, spreads = taken.to_core().part(21e6), taken.to_core().spreads(21e6)
    assert line.matched_loss_db(14e6) == pytest.approx((1.05 * np.sqrt(14) + 0.011 * 14) * 0.176)
    assert {s.field: s.relative for s in spreads} == {
        "loss_sqrt": 0.03,
        "velocity_factor": 0.002,
    }
