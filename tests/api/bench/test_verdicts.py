"""The verdict of the bench and what one holds characterised, through the simulated analyser."""

import numpy as np
import pytest
from client_helpers import (
    CHOKE,
    TRAP,
    beside,
    calibrated,
    connected,
    drop,
    logged,
    measured,
    screwed_on,
    unun,
    wire_build,
)

from yielding_coil.core.sweep import Sweep
from yielding_coil.formats import touchstone

UNUN = unun(input_capacitance_f=90e-12)


def wound_there(client, content, key, setup, fault):
    answer = client.put(
        "/api/analyser/bench/wound", json={"content": content, "key": key, "setup": setup, "fault": fault}
    )
    assert answer.status_code == 200, answer.text
    assert answer.json()["thing"] == "wound"


def verdict(client, content, key, *swept):
    body = {
        "content": content,
        "key": key,
        "swept": [{"setup": setup, "sweep_id": sweep["id"]} for setup, sweep in swept],
    }
    return client.post("/api/bench-verdicts", json=body)


def said(client, content, key, *swept):
    answer = verdict(client, content, key, *swept)
    assert answer.status_code == 200, answer.text
    return answer.json()


@pytest.fixture
def calibration(client, bench):
    connected(client)
    return calibrated(client, 1e6, 60e6, 201)


def by_deep(*cases):
    """Cases that ./test --deep runs."""
    return [pytest.param(*(case if isinstance(case, tuple) else (case,)), marks=pytest.mark.deep) for case in cases]


class TestPractice:
    # Which fault looks like what is a rule of the core and tried there; over HTTP every day two, by --deep all.
    @pytest.mark.parametrize(
        "fault",
        ["none", "bucking", *by_deep("turn_more", "turn_less", "tap_more", "other_mix", "capacitor_missing")],
    )
    def test_a_fault_wound_there_is_found(self, client, calibration, fault):
        wound_there(client, UNUN, "unun", "resistor", fault)
        told = said(client, UNUN, "unun", ("resistor", measured(client, calibration)))

        expected = "right" if fault == "none" else fault
        assert expected in [s["code"] for s in told["stated"]]
        assert len(told["stated"]) <= 2
        assert told["passed"] is (fault == "none")

    @pytest.mark.deep
    def test_mended_it_is_the_same_core_and_passes(self, client, calibration):
        for fault, passed in (("any", False), ("none", True)):
            wound_there(client, UNUN, "unun", "resistor", fault)
            told = said(client, UNUN, "unun", ("resistor", measured(client, calibration)))
            assert told["passed"] is passed

    @pytest.mark.deep
    def test_a_choke_hides_its_turn_and_three_turns_of_ones_own_tell(self, client, calibration):
        content = beside(CHOKE)
        wound_there(client, content, "choke", "alone", "turn_less")
        first = measured(client, calibration)
        told = said(client, content, "choke", ("alone", first))
        assert {h["code"] for h in told["hidden"]} >= {"turn_more", "turn_less"}
        assert told["next_setup"] == "link"

        wound_there(client, content, "choke", "link", "turn_less")
        told = said(client, content, "choke", ("alone", first), ("link", measured(client, calibration)))
        assert "turn_less" in [s["code"] for s in told["stated"]]

    @pytest.mark.parametrize(
        ("wiring", "turns", "ohm"),
        [
            ("current-balun-1", 10, 50.0),
            *by_deep(("current-balun-4-two", 8, 200.0), ("current-balun-4-one", 6, 200.0)),
        ],
    )
    @pytest.mark.parametrize("fault", ["none", *by_deep("bucking", "other_mix")])
    def test_a_current_balun_on_its_resistor_and_as_a_choke(self, client, calibration, wiring, turns, ohm, fault):
        content = unun(ohm, wiring=wiring, primary_turns=turns, secondary_turns=turns, key="balun")
        swept = []
        for setup in ("resistor", "common"):
            wound_there(client, content, "balun", setup, fault)
            swept.append((setup, measured(client, calibration)))
        told = said(client, content, "balun", *swept)

        expected = "right" if fault == "none" else fault
        assert expected in [s["code"] for s in told["stated"]]
        assert told["passed"] is (fault == "none")

    @pytest.mark.parametrize("fault", ["none", "capacitor_missing", "shorted_turn"])
    def test_a_trap_alone(self, client, calibration, fault):
        content = beside(TRAP)
        wound_there(client, content, "trap", "alone", fault)
        told = said(client, content, "trap", ("alone", measured(client, calibration, 5e6, 55e6, 201)))

        assert told["stated"][0]["code"] == ("right" if fault == "none" else fault)

    def test_an_antenna_in_its_place_is_called_that(self, client, calibration):
        screwed_on(client, "allotment")
        told = said(client, UNUN, "unun", ("resistor", measured(client, calibration, 5e6, 60e6)))

        assert told["says"] == "strange"
        assert told["passed"] is False
        assert [f["code"] for f in told["findings"]] == ["like_an_antenna"]

    def test_a_sweep_too_narrow_is_told(self, client, calibration):
        wound_there(client, UNUN, "unun", "resistor", "none")
        narrow = measured(client, calibration, 14e6, 14.4e6)

        assert "narrow_sweep" in [f["code"] for f in said(client, UNUN, "unun", ("resistor", narrow))["findings"]]

    def test_what_is_not_there_is_refused(self, client, calibration):
        wound_there(client, UNUN, "unun", "resistor", "none")
        sweep = measured(client, calibration)

        for key, setup, words in (
            ("nothing", "resistor", "nothing in this design"),
            ("unun", "alone", "not swept"),
        ):
            answer = verdict(client, UNUN, key, (setup, sweep))
            assert answer.status_code == 404
            assert words in answer.json()["detail"]
        asked = {"content": UNUN, "key": "unun", "setup": "resistor", "fault": "moths"}
        answer = client.put("/api/analyser/bench/wound", json=asked)
        assert answer.status_code == 503
        assert "there is no fault moths" in answer.json()["detail"]

    def test_a_check_is_an_entry_in_the_log(self, client, calibration):
        build = wire_build(client)
        wound_there(client, UNUN, "unun", "resistor", "bucking")
        sweep = measured(client, calibration)
        data = {"kind": "bench_check", "passed": False, "key": "unun", "setup": "resistor", "stated": ["bucking"]}
        made = logged(client, build, data, sweep_id=sweep["id"])

        assert made.status_code == 201, made.text
        kept = client.get(f"/api/builds/{build['id']}/entries").json()[-1]
        assert kept["data"]["stated"] == ["bucking"]
        assert kept["sweep_id"] == sweep["id"]


class TestCharacterise:
    def ring(self, client, calibration, *wound, size="FT240", low=1e6, high=40e6):
        sweeps = []
        for turns, thing in wound:
            screwed_on(client, thing)
            sweeps.append({"turns": turns, "sweep_id": measured(client, calibration, low, high, 201, 8)["id"]})
        return client.post("/api/characterisations/ring", json={"size": size, "wound": sweeps})

    @pytest.fixture
    def found(self, client, calibration):
        answer = self.ring(client, calibration, (11, "ring-11"), (3, "ring-3"))
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_the_orchards_ring_is_of_mix_43(self, found):
        assert found["likely"][0]["mix"] == "43"
        assert 0.8 < found["likely"][0]["factor"] < 1.2
        assert found["values"]["like"] == "43"

    def test_the_found_ring_is_of_another(self, client, calibration):
        found = self.ring(client, calibration, (10, "found-10"), (4, "found-4"), size="FT140").json()

        assert "61" in [k["mix"] for k in found["likely"][:2]]

    def test_kept_it_changes_the_unun_and_narrows_its_fan(self, client, found):
        material = client.post(
            "/api/pieces", json={"kind": "material", "name": "the orchard's", "values": found["values"]}
        ).json()
        snapshot = {"id": material["id"], "revision": material["revision"], "values": found["values"]}
        core = {"mix": "43", "size": "FT240", "material": snapshot}
        nominal, own = (
            client.post("/api/windings", json={"content": c, "key": "unun"}).json()
            for c in (UNUN, unun(input_capacitance_f=90e-12, core=core))
        )

        def width(winding):
            at = np.searchsorted(winding["bench"]["frequency_hz"], 2e6)
            return winding["bench"]["high"][at] - winding["bench"]["low"][at]

        assert own["made_of"]["tolerance"] < 0.5 * nominal["made_of"]["tolerance"]
        assert width(own) < 0.6 * width(nominal)
        assert own["heat"][0]["loss_db"] != pytest.approx(nominal["heat"][0]["loss_db"], rel=0.005)
        assert "as you measured it" in own["made_of"]["note"]
        build = wire_build(client)
        client.post(f"/api/builds/{build['id']}/designs", json={"name": "own", "content": unun(core=core)})
        used = {p["name"]: p["used"] for p in ({**p, **p["held"]} for p in client.get("/api/pieces").json())}
        assert used["the orchard's"] == 1

        # Out as a table and in again it is the same curve.
        table = client.get("/api/drawer/table").content
        [again] = client.post("/api/drawer/table", content=table, headers={"Content-Type": "text/csv"}).json()
        out, back = (made["held"]["values"] for made in (material, again))
        assert back["points"] == [pytest.approx(point) for point in out["points"]]
        assert (back["tolerance"], back["like"]) == (pytest.approx(out["tolerance"]), out["like"])

    def test_a_narrow_sweep_of_a_ring_is_called_that(self, client, calibration):
        answer = self.ring(client, calibration, (3, "ring-3"), low=7e6, high=7.1e6)

        assert answer.status_code == 422
        assert answer.json()["code"] == "not_this"
        assert "7 to 7.1 MHz, is too narrow to tell materials apart" in answer.json()["detail"]

    def test_turns_miscounted_are_refused(self, client, bench):
        """Where eleven turns are tens of ohms; from a megahertz on they are kilohms, and calibration hides it."""
        connected(client)
        low = calibrated(client, 0.2e6, 5e6, 201)
        answer = self.ring(client, low, (14, "ring-11"), (3, "ring-3"), low=0.2e6, high=5e6)

        assert answer.status_code == 422
        assert "contradict each other" in answer.json()["detail"]

    def test_an_antenna_is_no_ring(self, client, calibration):
        answer = self.ring(client, calibration, (5, "allotment"))

        assert answer.status_code == 422
        assert answer.json()["code"] == "not_this"

    @pytest.mark.parametrize(("kind", "thing"), [("coil", "coil"), ("trap", "trap")])
    def test_a_part_alone(self, client, calibration, kind, thing):
        """The bench's coil is 2.2 µH with 1.5 pF; its trap 1.543 µH with 50 pF."""
        screwed_on(client, thing)
        sweep = measured(client, calibration, 1e6, 60e6, 201, 8)
        found = client.post("/api/characterisations/part", json={"kind": kind, "sweep_id": sweep["id"]}).json()

        assert found["inductance_h"]["value"] == pytest.approx(2.2e-6 if kind == "coil" else 1.543e-6, rel=0.02)
        piece = {"kind": kind, "name": "mine", "values": found["values"], "sweep_id": sweep["id"]}
        kept = client.post("/api/pieces", json=piece)
        assert kept.status_code == 201, kept.text
        assert kept.json()["provenance"] == "measured"
        table = client.get("/api/drawer/table").content
        assert (
            client.post("/api/drawer/table", content=table, headers={"Content-Type": "text/csv"}).status_code == 201
        )

    def test_a_capacitor_from_a_file(self, client):
        f = np.linspace(1e6, 60e6, 201)
        omega = 2 * np.pi * f
        made = touchstone.write(Sweep(f, 1 / (1j * omega * 120e-12 + 1e-8) + 1j * omega * 12e-9))
        sweep = drop(client, made, "c.s1p").json()
        found = client.post(
            "/api/characterisations/part", json={"kind": "capacitor", "sweep_id": sweep["id"]}
        ).json()

        assert found["values"]["capacitance_f"] == pytest.approx(120e-12, rel=5e-3)

    def test_a_coil_above_its_resonance_is_called_that(self, client):
        f = np.linspace(90e6, 150e6, 101)
        sweep = drop(client, touchstone.write(Sweep(f, -1j * 3e9 / f + 3)), "high.s1p").json()
        answer = client.post("/api/characterisations/part", json={"kind": "coil", "sweep_id": sweep["id"]})

        assert answer.status_code == 422
        assert "above its self-resonance" in answer.json()["detail"]
