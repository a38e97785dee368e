"""Traps in a leg of wire: their two schools, what they bear, how they are checked alone."""

import math

import pytest
from client_helpers import TRAP, beside
from made import report_of, said

from yielding_coil.core.errors import NotMatchableError


class TestTrap:
    def test_its_two_schools_stand_side_by_side(self):
        inside, below = report_of(beside(TRAP), "trap").trap.schools

        assert below.voltage_v < inside.voltage_v
        assert below.loss_w < inside.loss_w
        assert below.lower_share > inside.lower_share

    def test_what_it_bears_is_that_of_the_worst_end_of_its_bands(self):
        band = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}
        wide = {**band, "low_hz": 24.44e6, "high_hz": 25.44e6}
        narrow_v, wide_v = (
            said(report_of(beside(TRAP, targets=[t]), "trap"))["winding_voltage"]["voltage_v"] for t in (band, wide)
        )

        # Tuned below the band, its low edge comes nearer to resonance.
        assert wide_v > 1.2 * narrow_v

    def test_a_link_dips_where_it_resonates_and_the_port_shows_nothing(self):
        trap = report_of(beside(TRAP), "trap").trap
        loss = trap.link.value

        assert trap.link.frequency_hz[loss.argmax()] == pytest.approx(24.192e6, rel=2e-3)
        assert trap.port_swr > 100
        peak = trap.resistance_ohm.value
        assert trap.resistance_ohm.frequency_hz[peak.argmax()] == pytest.approx(24.192e6, rel=2e-3)

    def test_housing_moves_it_down(self):
        trap = report_of(beside({**TRAP, "housing_f": 2e-12}), "trap").trap

        assert trap.housed_hz == pytest.approx(
            trap.resonance_hz / math.sqrt(1 + 2e-12 / trap.capacitance_f), rel=1e-6
        )

    def test_wound_of_coax_it_traps_the_same(self):
        coax = {**TRAP, "cable": "pe-5", "outer_m": 5e-3, "former_m": 0.032}
        told = report_of(beside(coax), "trap")

        assert told.trap.resonance_hz == pytest.approx(24.192e6, rel=0.03)
        assert told.trap.coax_m > 0.2
        # Across the coax lies half the trap's voltage.
        volts = said(told)
        assert volts["coax_voltage"]["voltage_v"] == pytest.approx(volts["winding_voltage"]["voltage_v"] / 2)

    def test_no_power_warms_nothing_and_ten_kilowatts_do(self):
        none, much = (report_of(beside(TRAP), "trap", power_w=w) for w in (0, 10e3))

        assert {r.rise_c for h in none.heat for r in h.rises} == {0.0}
        assert all(r.verdict == "hot" for h in much.heat for r in h.rises)

    def test_bands_that_no_wire_serves_are_refused(self):
        far = {**TRAP, "capacitance_f": 3e-12, "tuned_hz": 14e6}
        with pytest.raises(NotMatchableError, match="no length of wire"):
            report_of(beside(far), "trap")
