"""What is wound for a design: turns, cuts, picture, heat, the bench, and what cannot be wound."""

import math

import pytest
from asking import END_FED, best, unun, wound_of

from yielding_coil import data
from yielding_coil.core.winding import WIRINGS

LOW = [{"label": "80 m", "low_hz": 3.5e6, "high_hz": 3.8e6, "swr_limit": 3.0}]


def refused(client, content, **more):
    answer = client.post("/api/windings", json={"content": content, "key": "unun", **more})
    assert answer.status_code in (404, 422), answer.text
    return answer.json()


class TestAnUnun:
    def test_both_ratios_and_both_ways_to_count(self, client):
        turns = wound_of(client, unun())["turns"]

        assert (turns["turns_ratio"], turns["impedance_ratio"]) == (8, 64)
        assert (turns["passes"], turns["returns"], turns["crosses_after"]) == (16, 15, 8)

    def test_what_joins_where(self, client):
        joins = {j["at"]: [(e["wire"], e["end"]) for e in j["ends"]] for j in wound_of(client, unun())["joins"]}

        assert joins == {
            "coax shield": [("long", "start"), ("primary", "start")],
            "coax centre": [("primary", "end")],
            "wire post": [("long", "end")],
        }

    def test_a_tap_in_place_of_a_primary_wire(self, client):
        found = wound_of(client, unun(primary_wire=False))

        assert found["turns"]["tap_after"] == 2
        assert [c["wire"] for c in found["cuts"]] == ["long"]
        assert {s["wire"] for s in found["picture"]["strokes"]} == {"long"}

    @pytest.mark.parametrize("wiring", WIRINGS)
    def test_every_wiring_has_the_same_shape_of_answer(self, client, wiring):
        way = WIRINGS[wiring]
        turns = 2 if way.in_hand == 1 else 8
        found = wound_of(client, unun(200.0, wiring=wiring, primary_turns=turns, crossed=False, twisted=False))

        assert sorted({c["wire"] for c in found["cuts"]}) == sorted(way.strands)
        assert len(found["picture"]["turns"]) == found["turns"]["passes"]
        assert len(found["seen"]["loss_db"]) == len(found["bench"]["value"]) == 201
        assert [h["label"] for h in found["heat"]] == ["30 m", "15 m", "10 m"]
        assert all(0 < h["loss_db"] < 6 for h in found["heat"])

    def test_the_bench_expects_what_an_independent_resistor_shows(self, client):
        """No load but the fitting one: 64 : 1 times 50 Ω; the band of builds holds the nominal curve."""
        bench = wound_of(client, unun())["bench"]

        assert bench["resistor_ohm"] == 3200
        inside = [lo <= v <= hi for lo, v, hi in zip(bench["low"], bench["value"], bench["high"], strict=True)]
        assert sum(inside) > 0.97 * len(inside)

    def test_a_measured_core_narrows_the_band(self, client):
        ring = data.ring_size("FT240")
        al = 4e-7 * math.pi * 788 * ring.area_m2 / ring.path_m

        def width(content):
            bench = wound_of(client, content, low_hz=1.8e6, high_hz=4e6)["bench"]
            return sum(h - low for h, low in zip(bench["high"], bench["low"], strict=True))

        measured = unun(core={"mix": "43", "size": "FT240", "al_h": al})
        assert width(measured) < 0.5 * width(unun())


class TestHeat:
    def test_at_the_advised_power_each_mode_stays_within_40_degrees(self, client):
        for mode, duty in data.MODE_DUTY.items():
            for h in wound_of(client, unun())["heat"]:
                rise = next(r for r in h["rises"] if r["mode"] == mode)
                advised = rise["highest_power_w"]
                assert rise["duty"] == duty
                for factor, holds in ((1.0, True), (1.1, False)):
                    again = wound_of(client, unun(), power_w=factor * advised)
                    there = next(x for x in again["heat"] if x["label"] == h["label"])
                    hot = next(r for r in there["rises"] if r["mode"] == mode)["rise_c"]
                    assert (hot <= 40.0 + 1e-6) is holds, (mode, h["label"], factor, hot)

    def test_modes_differ_by_their_duty(self, client):
        rises = {r["mode"]: r for r in wound_of(client, unun())["heat"][0]["rises"]}

        assert rises["speech"]["rise_c"] < rises["telegraphy"]["rise_c"] < rises["digital"]["rise_c"]
        # The law's own exponent (common practice).
        ratio = rises["digital"]["rise_c"] / rises["speech"]["rise_c"]
        assert ratio == pytest.approx((1.0 / 0.3) ** 0.833, rel=1e-6)

    def test_what_goes_into_heat_is_what_the_drop_shows(self, client):
        content = unun(line_m=15.0)
        hot = next(h for h in wound_of(client, content)["heat"] if h["label"] == "30 m")
        asked = {"content": content, "low_hz": hot["at_hz"], "high_hz": hot["at_hz"] + 1, "points": 2}
        stations = client.post("/api/predictions", json=asked).json()["stations"]

        assert [s["key"] for s in stations] == ["antenna", "unun", "line"]
        assert hot["core_w"] + hot["copper_w"] == pytest.approx(stations[1]["loss_w"][0], rel=0.01)

    def test_no_power_and_too_much(self, client):
        none = wound_of(client, unun(), power_w=0)
        much = wound_of(client, unun(), power_w=10000)

        assert all(r["rise_c"] == 0 and r["highest_power_w"] is None for h in none["heat"] for r in h["rises"])
        assert "no_power" in {f["code"] for f in none["findings"]}
        assert {r["verdict"] for h in much["heat"] for r in h["rises"]} == {"hot"}
        assert {"heat_extrapolated", "flux_above_guide"} <= {f["code"] for f in much["findings"]}


class TestOtherWindings:
    def test_an_air_coil_of_the_match(self, client, build):
        content = best(client, build)
        found = wound_of(client, content, key="coil")

        assert found["kind"] == "coil"
        coil = next(e for e in content["elements"] if e["kind"] == "coil")
        middle = [
            v
            for f, v in zip(found["bench"]["frequency_hz"], found["bench"]["value"], strict=True)
            if abs(f / 21.2e6 - 1) < 0.02
        ]
        # Halves of turns are wound: the reading is the nearest to what the match wants.
        assert middle[0] == pytest.approx(coil["inductance_h"], rel=0.06)
        assert found["stretch"]["low_h"] < middle[0] <= found["stretch"]["high_h"] * 1.01

    def test_a_coil_on_a_powder_ring(self, client):
        """5.7 nH a turn squared (from memory): 20 turns 2.28 µH well below its own resonance."""
        content = unun()
        content["elements"] = [
            {
                "kind": "ring_coil",
                "key": "unun",
                "place": "series",
                "turns": 20,
                "core": {"mix": "2", "size": "T68"},
                "wire": "cu-0.5",
            }
        ]
        found = wound_of(client, content)

        assert found["bench"]["value"][0] * 1e6 == pytest.approx(2.28, rel=0.01)
        assert "powder_loss_estimated" in {f["code"] for f in found["findings"]}

    def test_the_other_way_round_a_coil_keeps_its_value(self, client, build):
        content = best(client, build)
        coil = next(e for e in content["elements"] if e["kind"] == "coil")
        asked = {"element": coil, "center_hz": 21.225e6}
        ring = client.post("/api/windings/other-way", json=asked).json()["element"]
        back = client.post("/api/windings/other-way", json={**asked, "element": ring}).json()["element"]

        assert (ring["kind"], ring["key"], ring["place"]) == ("ring_coil", "coil", "series")
        # Whole turns: half a turn of so many is as near as it comes.
        assert back["inductance_h"] == pytest.approx(coil["inductance_h"], rel=1.2 / ring["turns"])

    def test_wire_of_ones_own_counts_and_stays_with_its_design(self, client):
        thick = {"kind": "wire", "name": "thick", "values": {"diameter_m": 2e-3, "covered_m": 4e-3}}
        wire = client.post("/api/pieces", json=thick).json()
        piece = {"id": wire["id"], "revision": wire["revision"], "values": wire["held"]["values"]}
        own, table = wound_of(client, unun(wire_piece=piece)), wound_of(client, unun())

        assert own["made_of"]["covered_m"] == 4e-3
        assert own["fit"]["most_turns"] < table["fit"]["most_turns"]
        assert own["cuts"][0]["cut_m"] > table["cuts"][0]["cut_m"]

    def test_a_box_of_ones_own_is_tried_first(self, client):
        box = {"width_m": 0.08, "height_m": 0.08, "depth_m": 0.03}
        client.post("/api/pieces", json={"kind": "box", "name": "lunch box", "values": box})
        shallow = {**box, "depth_m": 0.015}
        client.post("/api/pieces", json={"kind": "box", "name": "tin", "values": shallow})
        fits = {b["name"]: b["fits"] for b in wound_of(client, unun())["fit"]["boxes"]}

        assert (fits["lunch box"], fits["tin"]) == (True, False)

    def test_two_rings_need_room_for_both(self, client):
        one, two = (
            wound_of(client, unun(200.0, wiring=w, primary_turns=8, crossed=False, twisted=False))["fit"]
            for w in ("current-balun-4-one", "current-balun-4-two")
        )

        assert two["height_m"] == pytest.approx(2 * one["height_m"])

    def test_a_core_near_its_curie_temperature_is_warned_of(self, client):
        """Mix 43: 130 °C (from memory)."""
        hot = {f["code"] for f in wound_of(client, unun(), power_w=400)["findings"]}
        cool = {f["code"] for f in wound_of(client, unun(), power_w=20)["findings"]}

        assert "near_curie" in hot
        assert "near_curie" not in cool

    def test_a_tap_beyond_the_coil_is_refused(self, client, build):
        content = best(client, build)
        elements = [{**e, "tap_turns": 30} if e["kind"] == "coil" else e for e in content["elements"]]
        answer = client.post("/api/windings", json={"content": {**content, "elements": elements}, "key": "coil"})

        assert answer.status_code == 422
        assert answer.json()["field"] == "tap_turns"
        assert "the tap lies inside it" in answer.json()["detail"]


class TestWhatCannotBe:
    def test_turns_that_do_not_fit(self, client):
        problem = refused(client, unun(secondary_turns=120, crossed=False))

        assert problem["field"] == "turns"
        assert "take fewer turns, a thinner wire or a larger ring" in problem["detail"]

    def test_a_tap_beyond_the_winding(self, client):
        assert "the tap lies inside it" in refused(client, unun(primary_turns=17))["detail"]

    def test_wire_that_does_not_go_through_the_hole(self, client):
        problem = refused(client, unun(core={"mix": "43", "size": "FT23"}, wire="cu-3"))

        assert "thin enough for the hole of 3.12 mm" in problem["detail"]

    def test_a_material_outside_its_range_is_warned_of_with_its_note(self, client):
        found = wound_of(client, unun(core={"mix": "77", "size": "FT240"}))
        warned = next(f for f in found["findings"] if f["code"] == "material_above_range")

        assert warned["values"]["highest_hz"] == pytest.approx(6.812921e6)
        assert "ring resonance of the measured sample" in warned["values"]["note"]

    def test_a_note_is_shown_where_the_bands_rest_on_it_only(self, client):
        high = {f["code"] for f in wound_of(client, unun())["findings"]}
        low = {f["code"] for f in wound_of(client, unun(targets=LOW))["findings"]}

        assert "material_note" not in high
        # 3.5 MHz is where the doubt of mix 43 ends.
        assert "material_note" not in low
        lower = [{**LOW[0], "label": "160 m", "low_hz": 1.8e6, "high_hz": 2.0e6}]
        assert "material_note" in {f["code"] for f in wound_of(client, unun(targets=lower))["findings"]}

    def test_unknown_things_are_refused_with_what_there_is(self, client):
        assert "43" in refused(client, unun(core={"mix": "soap", "size": "FT240"}))["accepted"]
        assert "FT240" in refused(client, unun(core={"mix": "43", "size": "barn"}))["accepted"]
        assert "cu-1" in refused(client, unun(wire="rope"))["accepted"]
        problem = client.post("/api/windings", json={"content": unun(), "key": "trap"}).json()
        assert (problem["status"], problem["accepted"]) == (404, "unun")

    def test_a_design_that_cannot_be_wound_is_not_kept(self, client, build):
        made = {"name": "too tight", "content": unun(primary_turns=17)}

        assert client.post(f"/api/builds/{build['id']}/designs", json=made).status_code == 422


class TestWhichCore:
    def ask(self, client, content=None, **more):
        return client.post("/api/cores", json={"content": content or unun(), "key": "unun", **more}).json()

    def test_every_ring_of_the_drawer_is_judged(self, client):
        found = self.ask(client)

        ferrites = [m for m in data.ring_materials().values() if m.kind == "ferrite"]
        powders = [m for m in data.ring_materials().values() if m.kind == "powder" and m.q_points]
        sizes = [data.family_of(s) for s in data.ring_sizes().values()]
        rings = 2 * (len(ferrites) * sizes.count("ferrite") + len(powders) * sizes.count("powder"))
        assert found["judged"] == 5 * rings
        assert found["without_loss_data"] == 5
        assert [c["here"] for c in found["cores"]].count(True) == 1

    def test_the_first_fits_holds_and_stays_cool_and_none_of_those_loses_less(self, client):
        cores = self.ask(client)["cores"]
        good = [c for c in cores if c["fits"] and c["holds"] and c["rise_c"] <= 40]

        assert cores[0] == good[0]
        assert cores[0]["worst_loss_db"] == min(c["worst_loss_db"] for c in good)

    def test_what_is_judged_is_what_the_desk_then_shows(self, client):
        first = self.ask(client)["cores"][0]
        taken = unun(
            core={"mix": first["mix"], "size": first["size"], "stack": first["stack"]},
            primary_turns=first["primary_turns"],
            secondary_turns=first["secondary_turns"],
            input_capacitance_f=first["input_capacitance_f"],
            crossed=False,
            winding_capacitance_f=2.5e-12,
        )
        heat = wound_of(client, taken)["heat"]

        assert max(h["loss_db"] for h in heat) == pytest.approx(first["worst_loss_db"], rel=0.05)
        assert max(h["swr"] for h in heat) == pytest.approx(first["worst_swr"], rel=0.02)

    def test_it_is_judged_at_the_power_that_comes_up_the_coax(self, client):
        """Behind a coax that keeps part of the power a core warms less; the desk shows the same."""
        bare, behind = unun(), unun(line_m=30.0)
        present = [next(c for c in self.ask(client, c)["cores"] if c["here"]) for c in (bare, behind)]
        shown = [
            max(r["rise_c"] for h in wound_of(client, c)["heat"] for r in h["rises"] if r["mode"] == "speech")
            for c in (bare, behind)
        ]

        assert present[1]["rise_c"] < 0.9 * present[0]["rise_c"]
        for judged, on_desk in zip(present, shown, strict=True):
            # Its capacitor across the input is another one, which moves the match a little.
            assert judged["rise_c"] == pytest.approx(on_desk, rel=0.12)

    def test_a_mode_that_heats_longer_rules_out_more(self, client):
        cool = {
            mode: sum(c["rise_c"] <= 40 for c in self.ask(client, mode=mode)["cores"]) for mode in data.MODE_DUTY
        }

        assert cool["speech"] > cool["telegraphy"] > cool["digital"] > 0

    def test_nothing_wound_is_refused(self, client, build):
        content = best(client, build)
        for path in ("cores", "cores/capacitor"):
            answer = client.post(f"/api/{path}", json={"content": content, "key": "coil"})
            assert answer.status_code == 404, path
            assert "there is no unun or balun “coil”" in answer.json()["detail"]

    def test_parts_above_the_unun_belong_to_what_it_carries(self, client):
        """A capacitor across 3.2 kΩ that an unun then sees: the best capacitor is found for both together."""
        content = unun()
        shunt = {"kind": "capacitor", "key": "stray", "place": "shunt", "capacitance_f": 2e-12}
        with_stray = {**content, "elements": [shunt, *content["elements"]]}
        found = [
            client.post("/api/cores/capacitor", json={"content": c, "key": "unun"}).json()
            for c in (content, with_stray)
        ]

        assert found[1]["worst_without"] > found[0]["worst_without"]

    def test_only_ones_own(self, client):
        assert self.ask(client, own_only=True) == {"judged": 0, "without_loss_data": 5, "cores": []}
        held = {"kind": "core", "name": "the old ring", "count": 2, "values": {"mix": "61", "size": "FT140"}}
        assert client.post("/api/pieces", json=held).status_code == 201
        found = self.ask(client, own_only=True)

        assert {(c["piece_name"], c["stack"]) for c in found["cores"] if not c["here"]} == {
            ("the old ring", 1),
            ("the old ring", 2),
        }

    def test_the_best_capacitor_is_offered_with_what_it_gains(self, client):
        found = client.post("/api/cores/capacitor", json={"content": unun(), "key": "unun"}).json()

        assert 20e-12 < found["capacitance_f"] < 200e-12
        assert found["worst_with"] < found["worst_without"]
        bands = wound_of(client, unun(input_capacitance_f=found["capacitance_f"]))["heat"]
        assert max(h["swr"] for h in bands) == pytest.approx(found["worst_with"], rel=0.01)

    def test_the_builds_own_sweep_in_place_of_a_school(self, client, build):
        content = {
            **unun(targets=build["targets"]),
            "antenna": {"kind": "sweep", "sweep_id": build["baseline_sweep_id"]},
        }

        found = client.post("/api/cores/capacitor", json={"content": content, "key": "unun"})
        assert found.status_code == 200
        assert wound_of(client, content)["heat"][0]["label"] == "15 m"


def test_an_unun_has_its_yield_with_its_contributors_named(client):
    asked = {"content": unun(), "low_hz": 10e6, "high_hz": 30e6, "builds": 512, "trimmed": True}
    found = client.post("/api/yields", json=asked).json()

    names = {c["name"] for c in found["parts"]["costs"]}
    assert {"unun", "unun leakage", "unun capacitance"} <= names
    assert 0 < found["parts"]["share"] <= 1
    # A core cannot be squeezed in place.
    assert {b["act"] for b in found["bought"]} == {"measured"}


def test_the_demo_has_an_end_fed_build_from_choice_to_cut_list(client):
    client.post("/api/demo")
    builds = client.get("/api/builds").json()
    end_fed = next(b for b in builds if b["name"] == "Orchard end-fed")
    design = client.get(f"/api/builds/{end_fed['id']}/designs").json()[0]

    content = design["revision"]["content"]
    assert [t["label"] for t in content["targets"]] == [t["label"] for t in END_FED]
    found = wound_of(client, content)
    assert {c["wire"] for c in found["cuts"]} == {"long", "primary"}
    assert len(found["picture"]["strokes"]) == 20
