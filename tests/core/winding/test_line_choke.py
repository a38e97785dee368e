"""Chokes on the coax: what the current outside meets, what they take, what they bear."""

import math

import pytest
from client_helpers import CHOKE, END_FED, beside
from made import report_of, said

from yielding_coil.core.errors import RefusedError


class TestChoke:
    def test_every_band_has_its_rating_by_the_resistive_part(self):
        bands = {b.label: b for b in report_of(beside(CHOKE), "choke").choke.bands}

        assert bands["30 m"].resistance_ohm > bands["10 m"].resistance_ohm
        assert bands["30 m"].rating == "awkward places"
        assert bands["10 m"].rating == "enough"

    def test_nine_turns_of_5_mm_coax_take_72_cm(self):
        """64 cm, 72 with tails, on a 2.4 inch ring (common practice)."""
        choke = {**CHOKE, "cable": "pe-5", "outer_m": 5e-3, "turns": 9, "crossed": False}
        told = report_of(beside(choke), "choke")

        assert told.cuts[0].winding_m == pytest.approx(0.64, rel=0.06)
        assert told.choke.length_m == pytest.approx(0.72, rel=0.06)
        assert "tight_bend" in said(told)

    def test_where_the_current_is_known_it_has_heat_and_voltage(self):
        told = report_of(beside({**CHOKE, "current_a": 0.1}), "choke")
        band = told.choke.bands[0]
        ohm = complex(band.resistance_ohm, band.reactance_ohm)

        # 30 m is narrow: about the same all over it.
        assert band.loss_w == pytest.approx(0.01 * ohm.real, rel=0.01)
        assert band.voltage_v == pytest.approx(0.1 * math.sqrt(2) * abs(ohm), rel=0.01)
        # 10 m is wide, and at its low edge it heats more than where it chokes least.
        wide = told.choke.bands[-1]
        assert wide.loss_w > 1.05 * 0.01 * wide.resistance_ohm

    def test_an_air_choke_is_reactive_away_from_its_resonance(self):
        """16 turns on a 66 mm tube take 358 cm (common practice)."""
        air = {**CHOKE, "core": None, "former_m": 0.066, "cable": "pe-5", "outer_m": 5e-3, "turns": 16}
        told = report_of(beside(air, targets=[{**END_FED[0], "low_hz": 3.5e6, "high_hz": 3.8e6}]), "choke")

        assert told.cuts[0].winding_m == pytest.approx(3.58, rel=0.01)
        assert told.choke.bands[0].rating in ("reactive", "too little")
        assert told.picture.turns == 16

    def test_two_rings_choke_twice_as_much_below_resonance(self):
        low = [{**END_FED[0], "low_hz": 1.8e6, "high_hz": 2.0e6}]
        one, two = (
            report_of(beside({**CHOKE, "core": {**CHOKE["core"], "stack": k}, "turns": 6}, targets=low), "choke")
            for k in (1, 2)
        )

        ratio = two.choke.bands[0].resistance_ohm / one.choke.bands[0].resistance_ohm
        assert ratio == pytest.approx(2, rel=0.05)

    def test_of_a_pair_both_wires_are_cut_and_its_own_impedance_is_told(self):
        pair = {**CHOKE, "cable": None, "outer_m": None, "wire": "pvc-0.75"}
        told = report_of(beside(pair), "choke")
        coax = report_of(beside(CHOKE), "choke")

        assert [c.wire for c in told.cuts] == ["red", "blue"]
        assert {w for t in told.picture.layout.passes() for w in t.wires} == {"red", "blue"}
        assert told.choke.bend_m is None
        assert told.choke.pair_ohm > 75
        assert said(told)["pair_impedance"]["fits_ohm"] == 50
        assert "tight_bend" not in said(told)
        assert told.choke.bands[0].resistance_ohm == coax.choke.bands[0].resistance_ohm
        # Enamelled wires lie close: about what coax is.
        close = report_of(beside({**pair, "wire": "cu-1"}), "choke")
        assert 25 < close.choke.pair_ohm < 50

    @pytest.mark.parametrize(
        ("changes", "field"),
        [
            ({"core": None}, "former_m"),
            ({"outer_m": 0.03}, "wire"),
            ({"cable": "rope"}, "cable"),
            ({"cable": None}, "cable"),
            ({"cable": None, "wire": "rope"}, "wire"),
            ({"cable": None, "wire": "pvc-1.5", "turns": 40}, "turns"),
        ],
    )
    def test_what_cannot_be_wound_is_refused(self, changes, field):
        with pytest.raises(RefusedError) as refused:
            report_of(beside({**CHOKE, **changes}), "choke")
        assert refused.value.field == field
