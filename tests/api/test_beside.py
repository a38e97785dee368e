"""Chokes on the coax, traps in the wire, and the tuned coupler, as designs have them."""

import math

import pytest
from asking import CHOKE, END_FED, TRAP, beside, made_build, unun, wound_of


def findings(winding):
    return {f["code"]: f["values"] for f in winding["findings"]}


class TestChoke:
    def test_every_band_has_its_rating_by_the_resistive_part(self, client):
        bands = {b["label"]: b for b in wound_of(client, beside(CHOKE), "choke")["choke"]["bands"]}

        assert bands["30 m"]["resistance_ohm"] > bands["10 m"]["resistance_ohm"]
        assert bands["30 m"]["rating"] == "awkward places"
        assert bands["10 m"]["rating"] == "enough"

    def test_nine_turns_of_5_mm_coax_take_72_cm(self, client):
        """64 cm, 72 with tails, on a 2.4 inch ring (common practice)."""
        choke = {**CHOKE, "cable": "pe-5", "outer_m": 5e-3, "turns": 9, "crossed": False}
        told = wound_of(client, beside(choke), "choke")

        assert told["cuts"][0]["winding_m"] == pytest.approx(0.64, rel=0.06)
        assert told["choke"]["length_m"] == pytest.approx(0.72, rel=0.06)
        assert "tight_bend" in findings(told)

    def test_where_the_current_is_known_it_has_heat_and_voltage(self, client):
        told = wound_of(client, beside({**CHOKE, "current_a": 0.1}), "choke")
        band = told["choke"]["bands"][0]
        ohm = complex(band["resistance_ohm"], band["reactance_ohm"])

        # 30 m is narrow: about the same all over it.
        assert band["loss_w"] == pytest.approx(0.01 * ohm.real, rel=0.01)
        assert band["voltage_v"] == pytest.approx(0.1 * math.sqrt(2) * abs(ohm), rel=0.01)
        # 10 m is wide, and at its low edge it heats more than where it chokes least.
        wide = told["choke"]["bands"][-1]
        assert wide["loss_w"] > 1.05 * 0.01 * wide["resistance_ohm"]

    def test_an_air_choke_is_reactive_away_from_its_resonance(self, client):
        """16 turns on a 66 mm tube take 358 cm (common practice)."""
        air = {**CHOKE, "core": None, "former_m": 0.066, "cable": "pe-5", "outer_m": 5e-3, "turns": 16}
        told = wound_of(client, beside(air, targets=[{**END_FED[0], "low_hz": 3.5e6, "high_hz": 3.8e6}]), "choke")

        assert told["cuts"][0]["winding_m"] == pytest.approx(3.58, rel=0.01)
        assert told["choke"]["bands"][0]["rating"] in ("reactive", "too little")
        assert told["picture"]["kind"] == "coil"

    def test_two_rings_choke_twice_as_much_below_resonance(self, client):
        low = [{**END_FED[0], "low_hz": 1.8e6, "high_hz": 2.0e6}]
        one, two = (
            wound_of(
                client, beside({**CHOKE, "core": {**CHOKE["core"], "stack": k}, "turns": 6}, targets=low), "choke"
            )
            for k in (1, 2)
        )

        ratio = two["choke"]["bands"][0]["resistance_ohm"] / one["choke"]["bands"][0]["resistance_ohm"]
        assert ratio == pytest.approx(2, rel=0.05)

    def test_of_a_pair_both_wires_are_cut_and_its_own_impedance_is_told(self, client):
        pair = {**CHOKE, "cable": None, "outer_m": None, "wire": "pvc-0.75"}
        told = wound_of(client, beside(pair), "choke")
        coax = wound_of(client, beside(CHOKE), "choke")

        assert [c["wire"] for c in told["cuts"]] == ["red", "blue"]
        assert {w for t in told["picture"]["turns"] for w in t["wires"]} == {"red", "blue"}
        assert told["choke"]["bend_m"] is None
        assert told["choke"]["pair_ohm"] > 75
        assert findings(told)["pair_impedance"]["fits_ohm"] == 50
        assert "tight_bend" not in findings(told)
        assert told["choke"]["bands"][0]["resistance_ohm"] == coax["choke"]["bands"][0]["resistance_ohm"]
        # Enamelled wires lie close: about what coax is.
        close = wound_of(client, beside({**pair, "wire": "cu-1"}), "choke")
        assert 25 < close["choke"]["pair_ohm"] < 50

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
    def test_what_cannot_be_wound_is_refused(self, client, changes, field):
        answer = client.post("/api/windings", json={"content": beside({**CHOKE, **changes}), "key": "choke"})

        assert answer.status_code in (404, 422), answer.text
        assert answer.json()["field"] == field


class TestTrap:
    def test_its_two_schools_stand_side_by_side(self, client):
        inside, below = wound_of(client, beside(TRAP), "trap")["trap"]["schools"]

        assert below["voltage_v"] < inside["voltage_v"]
        assert below["loss_w"] < inside["loss_w"]
        assert below["lower_share"] > inside["lower_share"]

    def test_what_it_bears_is_that_of_the_worst_end_of_its_bands(self, client):
        band = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}
        wide = {**band, "low_hz": 24.44e6, "high_hz": 25.44e6}
        narrow_v, wide_v = (
            findings(wound_of(client, beside(TRAP, targets=[t]), "trap"))["winding_voltage"]["voltage_v"]
            for t in (band, wide)
        )

        # Tuned below the band, its low edge comes nearer to resonance.
        assert wide_v > 1.2 * narrow_v

    def test_a_link_dips_where_it_resonates_and_the_port_shows_nothing(self, client):
        trap = wound_of(client, beside(TRAP), "trap")["trap"]
        loss = trap["link"]["value"]

        assert trap["link"]["frequency_hz"][loss.index(max(loss))] == pytest.approx(24.192e6, rel=2e-3)
        assert trap["port_swr"] > 100
        peak = trap["resistance_ohm"]["value"]
        assert trap["resistance_ohm"]["frequency_hz"][peak.index(max(peak))] == pytest.approx(24.192e6, rel=2e-3)

    def test_housing_moves_it_down(self, client):
        trap = wound_of(client, beside({**TRAP, "housing_f": 2e-12}), "trap")["trap"]

        assert trap["housed_hz"] == pytest.approx(
            trap["resonance_hz"] / math.sqrt(1 + 2e-12 / trap["capacitance_f"]), rel=1e-6
        )

    def test_wound_of_coax_it_traps_the_same(self, client):
        coax = {**TRAP, "cable": "pe-5", "outer_m": 5e-3, "former_m": 0.032}
        told = wound_of(client, beside(coax), "trap")

        assert told["trap"]["resonance_hz"] == pytest.approx(24.192e6, rel=0.03)
        assert told["trap"]["coax_m"] > 0.2
        # Across the coax lies half the trap's voltage.
        volts = findings(told)
        assert volts["coax_voltage"]["voltage_v"] == pytest.approx(
            volts["winding_voltage"]["voltage_v"] / 2, rel=1e-5
        )

    def test_capacitors_that_stand_its_voltage(self, client):
        volts = findings(wound_of(client, beside(TRAP), "trap"))["winding_voltage"]["voltage_v"]
        found = client.post("/api/combinations", json={"capacitance_f": 30e-12, "voltage_v": volts}).json()

        assert found["sold"]
        assert all(c["voltage_v"] >= volts for c in found["sold"])

    def test_no_power_warms_nothing_and_ten_kilowatts_do(self, client):
        none, much = (wound_of(client, beside(TRAP), "trap", power_w=w) for w in (0, 10e3))

        assert {r["rise_c"] for h in none["heat"] for r in h["rises"]} == {0.0}
        assert all(r["verdict"] == "hot" for h in much["heat"] for r in h["rises"])

    def test_bands_that_no_wire_serves_are_refused(self, client):
        far = {**TRAP, "capacitance_f": 3e-12, "tuned_hz": 14e6}
        answer = client.post("/api/windings", json={"content": beside(far), "key": "trap"})

        assert answer.status_code == 422
        assert "no length of wire" in answer.json()["detail"]


COUPLER = {
    "core": {"mix": "2", "size": "T68"},
    "primary_turns": 3,
    "secondary_turns": 20,
    "wiring": "separate",
    "wire": "cu-0.5",
    "crossed": False,
    "leakage_h": 0.08e-6,
    "tuning": {"low_f": 8e-12, "high_f": 250e-12, "set_f": 100e-12, "voltage_v": 200},
}


class TestCoupler:
    def test_its_capacitor_reaches_these_bands(self, client):
        """227 pF for 7.0 MHz and 24 pF for 21.45 without any stray (computed); 2.7 kΩ reads near 50."""
        coupler = wound_of(client, unun(2700.0, **COUPLER), power_w=5)["coupler"]

        assert coupler["low_hz"] < 7.0e6 < 21.45e6 < coupler["high_hz"]
        assert [s["within"] for s in coupler["settings"]] == [True, True, True]
        assert all(s["swr"] < 1.3 for s in coupler["settings"])

    def test_what_the_capacitor_does_not_stand_is_told(self, client):
        told = wound_of(client, unun(2700.0, **COUPLER), power_w=100)

        # 100 W in 2.7 kΩ: √(2·100·2700), a little less for the loss.
        assert findings(told)["capacitor_voltage"]["voltage_v"] == pytest.approx(735, rel=0.06)
        assert "capacitor_voltage" not in findings(wound_of(client, unun(2700.0, **COUPLER), power_w=5))

    def test_a_band_out_of_reach_is_told(self, client):
        low = [{**END_FED[0], "label": "80 m", "low_hz": 3.5e6, "high_hz": 3.8e6}]
        told = wound_of(client, unun(2700.0, targets=low, **COUPLER), power_w=5)

        assert findings(told)["capacitor_at_its_stop"]["label"] == "80 m"

    def test_a_range_upside_down_is_refused(self, client):
        tuning = {**COUPLER["tuning"], "low_f": 300e-12}
        answer = client.post(
            "/api/windings", json={"content": unun(**{**COUPLER, "tuning": tuning}), "key": "unun"}
        )

        assert answer.status_code == 422
        assert "below the other end" in answer.json()["detail"]


def test_they_are_kept_with_a_design_and_need_keys_of_their_own(client):
    build = made_build(client)
    kept = {**beside(CHOKE, TRAP), "targets": build["targets"]}
    made = client.post(f"/api/builds/{build['id']}/designs", json={"name": "beside", "content": kept})
    assert made.status_code == 201, made.text
    assert [e["key"] for e in made.json()["revision"]["content"]["beside"]] == ["choke", "trap"]

    twice = {**kept, "beside": [CHOKE, {**TRAP, "key": "choke"}]}
    answer = client.post(f"/api/builds/{build['id']}/designs", json={"name": "twice", "content": twice})
    assert answer.status_code == 422
    assert "a key of its own each" in answer.json()["detail"]


@pytest.mark.parametrize(("name", "key"), [("Loft trap dipole", "trap"), ("Orchard end-fed", "choke")])
def test_the_demo_has_traps_and_a_choke_from_choice_on(client, name, key):
    client.post("/api/demo")
    build = next(b for b in client.get("/api/builds").json() if b["name"] == name)
    design = client.get(f"/api/builds/{build['id']}/designs").json()[0]
    told = wound_of(client, design["revision"]["content"], key)

    assert told["cuts"]
    assert told["setups"][0]["key"] == "alone"
    assert told["bench"]["what"] == "resistance"


def test_a_coupler_warms_by_what_it_loses_when_it_is_set_for_the_band(client):
    """On each band the knob is turned first: a few tenths of a decibel, not what detuning costs."""
    told = wound_of(client, unun(2700.0, **COUPLER), power_w=5)

    assert len(told["heat"]) == 3
    assert all(h["loss_db"] < 1 for h in told["heat"])
    assert told["made_of"]["measured"] is False
