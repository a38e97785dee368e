"""Chokes on the coax, traps in the wire, and the tuned coupler, as designs have them."""

import pytest
from client_helpers import CHOKE, COUPLER, TRAP, beside, made_build, unun, wound_of


def findings(winding):
    return {f["code"]: f["values"] for f in winding["findings"]}


class TestChoke:
    def test_every_band_has_its_rating_by_the_resistive_part(self, client):
        bands = {b["label"]: b for b in wound_of(client, beside(CHOKE), "choke")["choke"]["bands"]}

        assert bands["30 m"]["resistance_ohm"] > bands["10 m"]["resistance_ohm"]
        assert bands["30 m"]["rating"] == "awkward places"
        assert bands["10 m"]["rating"] == "enough"

    @pytest.mark.parametrize(("changes", "field"), [({"core": None}, "former_m"), ({"cable": "rope"}, "cable")])
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

    def test_capacitors_that_stand_its_voltage(self, client):
        volts = findings(wound_of(client, beside(TRAP), "trap"))["winding_voltage"]["voltage_v"]
        found = client.post("/api/combinations", json={"capacitance_f": 30e-12, "voltage_v": volts}).json()

        assert found["sold"]
        assert all(c["voltage_v"] >= volts for c in found["sold"])


class TestCoupler:
    def test_its_capacitor_reaches_these_bands(self, client):
        """227 pF for 7.0 MHz and 24 pF for 21.45 without any stray (computed); 2.7 kΩ reads near 50."""
        coupler = wound_of(client, unun(2700.0, **COUPLER), power_w=5)["coupler"]

        assert coupler["low_hz"] < 7.0e6 < 21.45e6 < coupler["high_hz"]
        assert [s["within"] for s in coupler["settings"]] == [True, True, True]
        assert all(s["swr"] < 1.3 for s in coupler["settings"])


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


@pytest.mark.parametrize("farad", [1.0, 1e-3])
def test_a_slip_of_a_thousand_million_in_a_capacitor_is_refused_and_named(client, farad):
    """Found by trying it: a trap of 1 F was an error of the application, 1 F over an input a dotted path."""
    for content, key, field in (
        (beside({**TRAP, "capacitance_f": farad}), "trap", "capacitance_f"),
        (unun(input_capacitance_f=farad), "unun", "input_capacitance_f"),
    ):
        answer = client.post("/api/windings", json={"content": content, "key": key})
        assert answer.status_code == 422
        told = answer.json()
        assert (told["code"], told["field"]) == ("out_of_domain", field)
        assert "at most 10 nF: was it meant in pF?" in told["detail"]


def test_a_trap_without_a_housing_is_one(client):
    """Found by trying it: a housing of 0 pF was refused."""
    told = wound_of(client, beside({**TRAP, "housing_f": 0.0}), "trap")["trap"]
    assert told["housed_hz"] == told["resonance_hz"]
