from itertools import pairwise
from pathlib import Path

import pytest

from yielding_coil import data
from yielding_coil.core.conductor import METALS
from yielding_coil.core.errors import NotFoundError

TOP = Path(__file__).parents[2]


@pytest.mark.parametrize(
    ("key", "mhz", "db_per_100_m"),
    [
        ("pe-5", 10, 4.519),  # 1.35·√10 + 0.025·10
        ("foam-10", 28, 2.146),  # 0.401·√28 + 0.00085·28
        ("pe-2.8", 28, 15.665),  # 1.975·√28 + 0.0366·28 + 4.19
    ],
)
def test_a_row_gives_the_loss_of_its_law(key, mhz, db_per_100_m):
    """Arithmetic by hand on the table's own coefficients: checks law and units, not the nominal data."""
    gamma, _ = data.cable(key).propagation(mhz * 1e6)

    assert float(gamma.real) * 100 * 8.685890 == pytest.approx(db_per_100_m, abs=1e-3)


@pytest.mark.parametrize(
    ("gauge", "millimetres"), [(10, 2.588), (12, 2.053), (14, 1.628), (18, 1.024), (20, 0.812)]
)
def test_bare_wire_by_gauge(gauge, millimetres):
    """ASTM B258, table 1."""
    assert data.wire(f"awg-{gauge}").diameter_m * 1e3 == pytest.approx(millimetres, abs=6e-4)


def test_a_covering_adds_to_the_wire():
    for row in data.wires().values():
        bare = row.key.startswith(("awg", "al", "steel"))
        # Enamel is thin, more so on thick wire; plastic is not.
        most = 1.2 if row.key.startswith("cu") else 3.0
        assert (row.covered_m == row.diameter_m) if bare else (1.0 < row.covered_m / row.diameter_m < most)
        assert METALS[row.metal].resistivity_ohm_m > 1e-8


def test_bands_lie_in_order_and_apart():
    rows = list(data.bands().values())
    for lower, upper in pairwise(rows):
        assert lower.low_hz < lower.high_hz < upper.low_hz


def test_a_cable_that_leaves_its_law_says_below_which_frequency():
    assert data.cables()["pe-2.8"].lowest_hz == 20e6
    assert "20 MHz" in data.cables()["pe-2.8"].note


def test_what_is_not_in_a_table_is_refused_with_what_is():
    with pytest.raises(NotFoundError, match="no cable “hose”") as refused:
        data.cable("hose")
    assert "pe-5" in refused.value.accepted
    with pytest.raises(NotFoundError, match="no wire “rope”"):
        data.wire("rope")


def test_the_notice_that_the_ring_data_ask_for_is_in_place():
    notices = (TOP / "THIRD_PARTY_NOTICES.md").read_text()

    assert "Copyright (c) 2025 OpenMagnetics" in notices
    for table in ("ring_materials", "ring_sizes"):
        assert f"{table}.json" in notices
        assert "copyright (c) 2025 OpenMagnetics" in (TOP / "yielding_coil" / "data" / f"{table}.json").read_text()


def test_what_is_from_memory_says_so():
    assert "from memory" in data.source_of("ring_sizes")
    assert "from memory" in data.source_of("capacitors")
    for rows in (data.formers(), data.boxes()):
        assert all("memory" in row.source or "practice" in row.source for row in rows.values())


def test_values_that_no_table_has_are_refused_with_what_there_is():
    with pytest.raises(NotFoundError, match="no mix “99”"):
        data.ring_material("99")
    with pytest.raises(NotFoundError, match="no size “FT1”"):
        data.ring_size("FT1")
