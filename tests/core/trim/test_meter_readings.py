"""Readings without a file: sides, dips, signs and contradictions, against the impedance they were made from."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.trim import (
    ContradictionError,
    SwrPoint,
    contradictions,
    dip_between,
    dip_in,
    dip_of,
    resistance_and_size,
    signs_of,
    swr_of_powers,
)

WIRE_DIP_HZ = 24.9e6


def wire(f, dip_hz=WIRE_DIP_HZ, resistance=62.0, q=11.0):
    """A wire near its resonance: R constant, X straight in frequency."""
    return resistance * (1 + 2j * q * (np.asarray(f) / dip_hz - 1))


def points(*at_hz, spread=0.01, **made):
    return [SwrPoint(f, float(swr_of_impedance(complex(wire(f, **made)))), spread) for f in at_hz]


class TestPowersAndSizes:
    """Handbook relations: |Γ|² is the ratio of the powers; S + 1/S = (|Z|² + Z0²)/(R·Z0)."""

    # 11 % back is 2 : 1, a quarter 3 : 1, 4 % 1.5 : 1 (any handbook's table of SWR and reflected power).
    @pytest.mark.parametrize(("back", "swr"), [(11.11, 2.0), (25.0, 3.0), (4.0, 1.5), (0.0, 1.0)])
    def test_reflected_power(self, back, swr):
        assert swr_of_powers(100.0, back) == pytest.approx(swr, abs=2e-4)

    @given(r=st.floats(2, 2000), x=st.floats(-2000, 2000))
    def test_r_and_the_size_of_x_come_back_from_z_and_swr(self, r, x):
        z = complex(r, x)
        found = resistance_and_size(abs(z), float(swr_of_impedance(z)))

        assert found[0] == pytest.approx(r, rel=1e-6)
        assert found[1] == pytest.approx(abs(x), rel=1e-4, abs=1e-3 * abs(z))

    def test_what_no_impedance_shows_is_refused_with_how_far_it_is_off(self):
        with pytest.raises(ContradictionError, match=r"at least 3\.00, which is 1\.50 more"):
            resistance_and_size(150.0, 1.5)
        with pytest.raises(ContradictionError, match="full scale"):
            swr_of_powers(10.0, 12.0)

    @pytest.mark.parametrize(
        "wrong",
        [
            lambda: swr_of_powers(0.0, 0.0),
            lambda: swr_of_powers(10.0, -1.0),
            lambda: resistance_and_size(-5.0, 2.0),
            lambda: resistance_and_size(50.0, 0.5),
            lambda: SwrPoint(1e6, 0.9, 0.01),
            lambda: SwrPoint(-1e6, 2.0, 0.01),
            lambda: dip_of([]),
        ],
    )
    def test_what_cannot_be_is_refused(self, wrong):
        with pytest.raises(OutOfDomainError):
            wrong()


class TestWhereTheDipIs:
    """One reading says nothing of the side, two say it, three find it."""

    def test_one_asks_for_another_beside_it(self):
        found = dip_of([SwrPoint(24.5e6, 2.6, 0.03)])

        assert found.side == "unknown"
        assert found.read_next_hz == pytest.approx(24.745e6)

    def test_two_tell_the_side_and_ask_for_the_third_beyond(self):
        # 2.6 at 24.5 and 1.9 at 24.8 MHz: the dip lies above 24.65, and 25.1 tells how far.
        found = dip_of([SwrPoint(24.5e6, 2.6, 0.03), SwrPoint(24.8e6, 1.9, 0.03)])
        assert (found.side, found.low_hz, found.high_hz) == ("above", 24.65e6, None)
        assert found.read_next_hz == pytest.approx(25.1e6)

        mirrored = dip_of([SwrPoint(24.5e6, 1.9, 0.03), SwrPoint(24.8e6, 2.6, 0.03)])
        assert (mirrored.side, mirrored.low_hz, mirrored.high_hz) == ("below", None, 24.65e6)
        assert mirrored.read_next_hz == pytest.approx(24.2e6)

    def test_two_alike_ask_for_the_middle(self):
        found = dip_of([SwrPoint(24.5e6, 2.0, 0.03), SwrPoint(25.3e6, 2.02, 0.03)])

        assert found.side == "unknown"
        assert found.read_next_hz == pytest.approx(24.9e6)

    @given(
        dip=st.floats(24.7e6, 25.1e6),
        resistance=st.floats(25, 110),
        q=st.floats(6, 16),
        apart=st.floats(0.1e6, 0.4e6),
    )
    @settings(max_examples=25)
    @pytest.mark.deep
    def test_three_round_it_find_it_whatever_the_wire(self, dip, resistance, q, apart):
        """On a wire of constant R and straight X, from which the readings are made."""
        at = (24.7e6 - apart, 24.9e6, 25.1e6 + apart)
        found = dip_of(points(*at, dip_hz=dip, resistance=resistance, q=q, spread=1e-3))

        reach = 3 * (found.spread or 0) * dip
        assert (found.low_hz or 0) - reach < dip < (found.high_hz or 1e9) + reach
        if abs(dip - 24.9e6) < 0.1e6 and q > 8:
            assert found.side == "found"
            assert found.frequency_hz == pytest.approx(dip, rel=0.01)

    @pytest.mark.parametrize(
        ("at", "side"), [((23.0e6, 23.1e6, 23.2e6), "above"), ((26.8e6, 26.9e6, 27e6), "below")]
    )
    def test_far_from_it_they_tell_the_side_alone(self, at, side):
        assert dip_of(points(*at)).side == side

    @pytest.mark.parametrize(
        ("low", "high", "side"),
        [(24.5e6, 25.3e6, "found"), (24.5e6, None, "above"), (None, 25.3e6, "below")],
    )
    def test_edges(self, low, high, side):
        found = dip_between(low, high, 2.0, 0.03)
        assert found.side == side
        if side == "found":
            assert found.frequency_hz == 24.9e6
        else:
            assert found.read_next_hz > low if side == "above" else found.read_next_hz < high

    @pytest.mark.parametrize("wrong", [(None, None, 2.0), (25.3e6, 24.5e6, 2.0), (24e6, 25e6, 1.0)])
    def test_edges_that_cannot_be(self, wrong):
        with pytest.raises(OutOfDomainError):
            dip_between(*wrong, 0.03)

    def test_a_table_of_swr_and_a_sweep_are_read_alike(self):
        f = np.linspace(24.0e6, 25.8e6, 61)
        table = dip_in(SwrSweep(f, swr_of_impedance(wire(f))), 24.94e6)
        sweep = dip_in(Sweep(f, wire(f)), 24.94e6)
        handful = dip_in(SwrSweep(f[::15], swr_of_impedance(wire(f[::15]))), 24.94e6)

        for found in (table, sweep, handful):
            assert found.low_hz < WIRE_DIP_HZ < found.high_hz
        assert sweep.frequency_hz == pytest.approx(WIRE_DIP_HZ, rel=1e-5)
        assert table.frequency_hz == pytest.approx(WIRE_DIP_HZ, rel=1e-3)

    def test_of_two_dips_the_one_that_is_wanted_counts(self):
        f = np.linspace(20e6, 26e6, 301)
        z = 1 / (1 / wire(f, 21.2e6) + 1 / wire(f, 24.9e6))
        for wanted in (21.2e6, 24.9e6):
            assert dip_in(Sweep(f, z), wanted).frequency_hz == pytest.approx(wanted, rel=0.02)


class TestContradictions:
    """Which two, and by how much."""

    def test_one_frequency_two_values(self):
        with pytest.raises(ContradictionError, match="readings 1 and 3 contradict each other") as refused:
            dip_of([SwrPoint(24.5e6, 2.6, 0.02), SwrPoint(24.8e6, 1.9, 0.02), SwrPoint(24.5e6, 1.4, 0.02)])
        assert "1.40 was read where 2.60 is expected" in refused.value.message

    def test_a_hump_is_no_dip(self):
        with pytest.raises(ContradictionError, match=r"24\.800 MHz 3\.00 was read"):
            dip_of([SwrPoint(24.5e6, 1.5, 0.02), SwrPoint(24.8e6, 3.0, 0.02), SwrPoint(25.1e6, 1.5, 0.02)])

    def test_of_five_the_one_beside_the_curve_is_named(self):
        good = points(24.3e6, 24.6e6, 24.9e6, 25.2e6, 25.5e6, spread=0.01)
        wrong = [*good[:3], SwrPoint(25.2e6, 3.5, 0.01), good[4]]
        with pytest.raises(ContradictionError, match=r"25\.200 MHz 3\.50 was read"):
            dip_of(wrong)

    def test_a_worse_meter_may_stray_further(self):
        near = [SwrPoint(24.5e6, 2.6, 0.06), SwrPoint(24.5e6, 2.0, 0.06)]
        assert contradictions(near) == []
        assert len(contradictions([SwrPoint(p.frequency_hz, p.swr, 0.01) for p in near])) == 1


class TestSigns:
    """X rises with frequency near a wire's resonance (R. M. Foster, Bell System Technical Journal 3, 1924)."""

    def test_one_reading_names_the_next(self):
        found = signs_of([24.5e6], [30.0], [60.0])
        assert (found.reactance_ohm, found.read_next_hz) == ((None,), pytest.approx(24.745e6))

    @pytest.mark.parametrize("at", [(24.3e6, 24.5e6, 24.7e6), (25.1e6, 25.3e6, 25.5e6), (24.6e6, 24.8e6, 25.2e6)])
    def test_the_trend_of_three_tells(self, at):
        z = wire(np.array(at))
        found = signs_of(at, np.abs(z.imag), z.real)

        assert found.reactance_ohm == pytest.approx(z.imag)
        assert found.resonance_hz == pytest.approx(WIRE_DIP_HZ, rel=1e-4)

    def test_two_that_fall_could_cross_or_not_and_the_middle_tells(self):
        found = signs_of([24.6e6, 25.0e6], [17.0, 6.0], [62.0, 62.0])
        assert found.reactance_ohm == (None, None)
        assert found.read_next_hz == pytest.approx(24.8e6)

    def test_at_resonance_there_is_no_sign(self):
        assert signs_of([24.9e6], [0.4], [60.0]).reactance_ohm == (0.0,)

    @pytest.mark.parametrize(
        "wrong",
        [
            ([], [], []),
            ([2e6, 1e6], [1, 1], [50, 50]),
            ([1e6], [-1], [50]),
            ([1e6], [1], [0]),
            ([1e6], [1, 2], [50]),
        ],
    )
    def test_what_cannot_be_is_refused(self, wrong):
        with pytest.raises(OutOfDomainError):
            signs_of(*wrong)
