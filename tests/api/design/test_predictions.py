"""What designs predict over HTTP, and what they are made of."""

import numpy as np
import pytest
from client_helpers import DEMO, bare, best

from yielding_coil.formats import touchstone


class TestPredictions:
    def ask(self, client, content, route="predictions", **more):
        body = {"content": content, "low_hz": 20.4e6, "high_hz": 22e6, **more}
        answer = client.post(f"/api/{route}", json=body)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_watts_add_up_at_every_frequency(self, client, build):
        found = self.ask(client, best(client, build))
        up = np.array(found["stations"][0]["power_w"])
        lost = sum(np.array(s["loss_w"]) for s in found["stations"][1:])

        assert up + lost == pytest.approx(np.full(201, 100.0), rel=2e-5)  # six digits on the wire

    def test_the_demo_through_its_coax_is_what_was_swept_in_the_shack(self, client, build):
        """The second made-up sweep: 17.6 m of 50 Ω, VF 0.84, 1.05·√MHz + 0.011·MHz dB/100 m, no match."""
        from yielding_coil.core.line import Cable, Line

        wire = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())
        shack = touchstone.read((DEMO / "allotment-shack.s1p").read_bytes())
        line = Line(Cable("demo", 50, 0.84, 1.05, 0.011), 17.6)
        seen = line.input_impedance(wire.frequency_hz, wire.impedance_ohm)

        assert np.abs((seen - 50) / (seen + 50) - shack.reflection()).max() < 0.03

    def test_the_yield_and_what_it_costs(self, client, build):
        found = self.ask(client, best(client, build), "yields", builds=2048)
        cost = {c["name"]: c["share"] for c in found["reading"]["costs"]}

        assert found["parts"]["share"] == pytest.approx(0.98, abs=0.015)
        assert found["reading"]["share"] == pytest.approx(0.80, abs=0.03)
        assert cost["reading"] == pytest.approx(0.15, abs=0.03)
        assert cost["coil"] == pytest.approx(0.08, abs=0.03)
        bought = {(b["name"], b["act"]): b["reading_share"] for b in found["bought"]}
        assert bought["coil", "measured"] == pytest.approx(0.88, abs=0.03)

    def test_the_fan_holds_the_curve(self, client, build):
        content = best(client, build)
        fan = self.ask(client, content, "yields", builds=512, points=81)
        curve = self.ask(client, content, points=81)["stations"][2]["swr"]
        inside = [
            low - 1e-3 <= s <= high + 1e-3
            for low, s, high in zip(fan["fan_low"], curve, fan["fan_high"], strict=True)
        ]

        assert np.mean(inside) > 0.9  # at the very dip every build is a little worse

    def test_a_five_eighths_vertical_and_how_to_make_its_match(self, client):
        """94 − j463 Ω at 18.1 MHz: 3.00 µH in series, 7.01 pF across the wire (practice: 3 µH, 7 pF)."""
        content = {
            "antenna": {"kind": "resistor", "resistance_ohm": 94, "reactance_ohm": -463},
            "targets": [{"label": "17 m", "low_hz": 18.068e6, "high_hz": 18.132e6, "swr_limit": 2}],
            "elements": [],
        }
        found = client.post("/api/matches", json={"content": content, "at_hz": 18.1e6}).json()
        made = next(c for c in found if (c["series"], c["shunt"]) == ("coil", "capacitor"))
        coil = next(e for e in made["content"]["elements"] if e["kind"] == "coil")
        capacitor = next(e for e in made["content"]["elements"] if e["kind"] == "coax_capacitor")

        assert coil["inductance_h"] == pytest.approx(3.00e-6, abs=5e-9)
        assert capacitor["capacitance_f"] == pytest.approx(7.01e-12, abs=5e-15)
        body = {"content": made["content"], "low_hz": 18e6, "high_hz": 18.2e6}
        parts = {m["kind"]: m for m in client.post("/api/predictions", json=body).json()["made"]}
        assert parts["coil"]["turns"] in (9.0, 9.5, 10.0)
        # 50 Ω solid PE holds about 101 pF/m (practice): 7 pF is a little under 7 cm.
        assert parts["coax_capacitor"]["coax_m"] == pytest.approx(0.067, abs=0.003)

    @pytest.mark.deep
    def test_four_networks_where_there_are_four(self, client, build):
        content = {
            **bare(build),
            "antenna": {"kind": "resistor", "resistance_ohm": 20, "reactance_ohm": -150},
        }
        found = client.post("/api/matches", json={"content": content}).json()

        assert len({(c["series"], c["shunt"], c["shunt_at"]) for c in found}) == 4

    def test_without_resistance_there_is_no_match_and_the_point_is_named(self, client, build):
        content = {**bare(build), "antenna": {"kind": "resistor", "resistance_ohm": 0, "reactance_ohm": -150}}
        refused = client.post("/api/matches", json={"content": content})

        assert (refused.status_code, refused.json()["code"]) == (422, "not_matchable")
        assert "21.225 MHz" in refused.json()["detail"]

    @pytest.mark.parametrize(
        ("change", "words"),
        [
            ({"pitch_m": 1e-3}, "at least the wire over its covering"),
            ({"inductance_h": 0}, "greater than"),
            ({"wire": "none"}, "no wire “none” in the table"),
        ],
    )
    def test_a_coil_that_cannot_be_wound_is_refused(self, client, design, change, words):
        content = design["revision"]["content"]
        elements = [{**e, **change} if e["kind"] == "coil" else e for e in content["elements"]]
        body = {"content": {**content, "elements": elements}, "low_hz": 20e6, "high_hz": 22e6}
        refused = client.post("/api/predictions", json=body)

        assert refused.status_code in (404, 422)
        assert words in refused.json()["detail"]

    def test_rulers_are_marked_in_half_turns_and_centimetres(self, client, design):
        elements = {e["kind"]: e for e in design["revision"]["content"]["elements"]}
        ask = {"center_hz": 21.225e6}
        coil = client.post(
            "/api/rulers", json={**ask, "element": elements["coil"], "low": 1.6e-6, "high": 3e-6}
        ).json()
        coax = client.post(
            "/api/rulers", json={**ask, "element": elements["coax_capacitor"], "low": 3e-12, "high": 1e-11}
        ).json()

        assert {t["make"] * 2 % 1 for t in coil} == {0}
        assert np.all(np.diff([t["value"] for t in coil]) > 0)
        assert np.diff([t["make"] for t in coax]) == pytest.approx(np.full(len(coax) - 1, 0.005))

    def test_a_capacitor_in_hand_that_does_not_stand_the_volts_is_told(self, client, build):
        piece = {"id": "00000000-0000-4000-8000-000000000000", "revision": 1, "values": {"voltage_v": 250.0}}
        mica = {"kind": "capacitor", "key": "series", "place": "series", "capacitance_f": 60e-12, "piece": piece}
        content = {**bare(build), "elements": [mica, *bare(build)["elements"]]}
        said = [
            [
                f["values"]
                for f in self.ask(client, content, power_w=power)["findings"]
                if f["code"] == "capacitor_too_low"
            ]
            for power in (1, 1500)
        ]

        assert said[0] == []
        assert said[1][0]["stands_v"] == 250
        assert said[1][0]["voltage_v"] > 250

    def test_turns_and_lengths_give_what_the_ruler_says_at_their_mark(self, client, design):
        elements = {e["kind"]: e for e in design["revision"]["content"]["elements"]}
        for kind, make in (("coil", 7.5), ("coax_capacitor", 0.06)):
            ask = {"element": elements[kind], "center_hz": 21.225e6}
            low, high = (1.6e-6, 3e-6) if kind == "coil" else (3e-12, 1e-11)
            marks = client.post("/api/rulers", json={**ask, "low": low, "high": high}).json()
            given = client.post("/api/rulers/marks", json={**ask, "make": make}).json()

            assert given in marks

    @pytest.mark.parametrize(("make", "words"), [(0, "greater than"), (0.5, "1 to 500"), (90, "self-resonance")])
    def test_turns_that_make_no_coil_are_refused(self, client, design, make, words):
        coil = next(e for e in design["revision"]["content"]["elements"] if e["kind"] == "coil")
        refused = client.post("/api/rulers/marks", json={"element": coil, "center_hz": 21.225e6, "make": make})

        assert refused.status_code == 422
        assert words in refused.json()["detail"]


def ask(client, content, path, **more):
    body = {"content": content, "low_hz": 20.4e6, "high_hz": 22.0e6, **more}
    return client.post(f"/api/{path}", json=body).json()


def test_the_prediction_carries_the_floor_of_each_target(client, build):
    target = ask(client, best(client, build), "predictions")["targets"][0]

    assert target["worst_swr"] > target["floor"]["any"] > 1
    assert target["floor"]["q"] > 10


def test_a_resistor_has_no_floor(client):
    band = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
    content = {"antenna": {"kind": "resistor", "resistance_ohm": 100}, "targets": [band], "elements": []}

    assert ask(client, content, "predictions")["targets"][0]["floor"] is None
