import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import NotMatchableError
from yielding_coil.core.matching import l_networks, part_for_reactance, part_for_susceptance


def values(network, frequency):
    return (
        part_for_reactance(network.series_reactance_ohm, frequency)[1],
        part_for_susceptance(network.shunt_susceptance_s, frequency)[1],
    )


def test_pozar_example_5_1():
    """Pozar, 4th ed., Ex. 5.1: 200 − j100 Ω to 100 Ω at 500 MHz: 38.98 nH, 0.923 pF or 2.599 pF, 46.14 nH.

    The book prints 38.8 nH, 0.92 pF; 2.61 pF, 46.1 nH, read with rounded normalised values.
    """
    coil_first, capacitor_first = l_networks(200 - 100j, 500e6, 100)

    assert values(coil_first, 500e6) == (
        pytest.approx(38.98e-9, rel=1e-3),
        pytest.approx(0.923e-12, rel=1e-3),
    )
    assert values(capacitor_first, 500e6) == (
        pytest.approx(2.599e-12, rel=1e-3),
        pytest.approx(46.14e-9, rel=1e-3),
    )


def test_bowick_chapter_4():
    """Bowick, RF Circuit Design, ch. 4 (numbering from memory): 100 to 1000 Ω at 100 MHz: 477 nH, 4.77 pF."""
    network = l_networks(1000, 100e6, 100)[0]

    assert values(network, 100e6) == (pytest.approx(477e-9, rel=1e-2), pytest.approx(4.77e-12, rel=1e-2))


def test_a_five_eighths_vertical():
    """94 − j463 Ω at 18.1 MHz: 3.00 µH in series, 7.01 pF across the antenna (practice: about 3 µH, 7 pF)."""
    network = l_networks(94 - 463j, 18.1e6)[0]

    assert network.shunt_at == "load"
    assert values(network, 18.1e6) == (pytest.approx(3.00e-6, abs=5e-9), pytest.approx(7.01e-12, abs=5e-15))


@given(r=st.floats(0.5, 5000), x=st.floats(-5000, 5000), source=st.floats(10, 600))
def test_every_network_matches(r, x, source):
    load = complex(r, x)
    networks = l_networks(load, 14e6, source)

    assert len(networks) >= 2
    for n in networks:
        if n.shunt_at == "load":
            seen = 1 / (1 / load + 1j * n.shunt_susceptance_s) + 1j * n.series_reactance_ohm
        else:
            seen = 1 / (1 / (load + 1j * n.series_reactance_ohm) + 1j * n.shunt_susceptance_s)
        assert abs((seen - source) / (seen + source)) < 1e-7


def test_four_networks_where_resistance_is_low_and_reactance_high():
    assert [n.shunt_at for n in l_networks(20 - 150j, 7e6)] == ["load", "load", "source", "source"]


@pytest.mark.parametrize("load", [0j, -5 + 10j, 0 - 300j])
def test_a_load_without_resistance_is_refused_by_name(load):
    with pytest.raises(NotMatchableError, match=r"the load at 7.100 MHz is .* needs a resistance above zero"):
        l_networks(load, 7.1e6)


def test_parts_turn_back_into_what_they_came_from():
    omega = 2 * math.pi * 7e6
    kind, henry = part_for_reactance(120.0, 7e6)
    assert (kind, omega * henry) == ("coil", pytest.approx(120))
    kind, farad = part_for_susceptance(0.01, 7e6)
    assert (kind, omega * farad) == ("capacitor", pytest.approx(0.01))
    assert part_for_reactance(-120.0, 7e6)[0] == "capacitor"
    assert np.isclose(1 / (omega * part_for_susceptance(-0.01, 7e6)[1]), 0.01)
