"""Cutting and trimming over HTTP: lengths, dials, the log, and what it says of the next act."""

from typing import ClassVar

import numpy as np
import pytest
from client_helpers import (
    TWELVE,
    acted,
    connected,
    done,
    drop,
    hung,
    logged,
    made_build,
    made_design,
    read,
    says,
    trim_of,
    wire_build,
)

from yielding_coil.core.sweep import Sweep
from yielding_coil.core.trim import DipReading, next_cut
from yielding_coil.formats import touchstone

FIFTEEN = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}


def dip(mhz, swr=None):
    return {"kind": "dip", "dip_hz": mhz * 1e6, "swr": swr}


def swr_at(*pairs, meter="meter"):
    return {"kind": "swr", "meter": meter, "points": [{"frequency_hz": f * 1e6, "swr": s} for f, s in pairs]}


@pytest.fixture
def loft(client):
    """A dipole for 12 m with legs of 2.96 m, stopped when its dip is there."""
    build = wire_build(client, stop="dip")
    hung(client, build, 2.96)
    return build


class TestLengths:
    """POST /api/lengths and what stands beside it."""

    def asked(self, client, bands=(TWELVE,), unit="m", **plan):
        each = [{"label": b["label"], "frequency_hz": (b["low_hz"] + b["high_hz"]) / 2} for b in bands]
        answer = client.post("/api/lengths", json={"plan": plan, "bands": each, "unit": unit})
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_a_dipole_by_three_schools_and_its_cut_list(self, client):
        found = self.asked(client)
        band = found["bands"][0]

        assert [s["key"] for s in band["schools"]] == ["dipole-practice", "dipole-wire", "dipole-thin"]
        # 234 ft over 24.94 MHz (common practice), to the millimetre.
        assert band["leg_m"] == pytest.approx(234 * 0.3048 / 24.94, abs=5e-4)
        assert band["low_m"] < band["leg_m"] < band["high_m"]
        (cut,) = found["cuts"]
        assert cut["count"] == 2
        assert 0.03 <= cut["add_m"] / cut["measure_m"] <= 0.06
        assert cut["cut_m"] == pytest.approx(cut["measure_m"] + cut["add_m"])
        assert found["wire_m"] == pytest.approx(2 * cut["cut_m"])

    def test_section_radials_and_counterpoise(self, client):
        def parts(**asked):
            answer = client.post("/api/lengths/parts", json={"frequency_hz": 28.51e6, **asked})
            assert answer.status_code == 200, answer.text
            return answer.json()

        section = parts(form="section", velocity_factor=0.66)
        assert section["schools"][0]["part_m"] == pytest.approx(1.735, abs=5e-4)
        assert section["section"]["measured"]
        # Z0²/Z, and what the cable loses: a loop of 112 Ω comes out at 50 (Pozar, 4th ed., §2.5).
        loop = parts(form="section", cable="pe-6-75", antenna_ohm=112.5)["section"]
        assert loop["through_ohm"] == pytest.approx(75**2 / 112.5, rel=0.03)
        assert loop["without_swr"] == pytest.approx(2.25)
        assert loop["through_swr"] < 1.05
        by_class = parts(form="section", cable="pe-5")
        assert not by_class["section"]["measured"]
        assert by_class["schools"][0]["low_m"] < by_class["schools"][0]["part_m"]
        assert len(parts(form="counterpoise")["schools"]) == 3
        assert parts(form="radial")["section"] is None

    def test_what_fits(self, client):
        found = client.post("/api/lengths/fitting", json={"span_m": 10.0, "pole_m": 7.0}).json()
        shapes = {s["key"]: s for s in found}

        # 468 ft over 14.175 MHz is 10.06 m: it does not fit into 9.4 m, 17 m does.
        assert shapes["flat"]["lowest"]["label"] == "17 m"
        assert shapes["flat"]["next"]["label"] == "20 m"
        # A quarter-wave on 20 m is 5.03 m, on 30 m 7.05 m; a 7 m pole is 6.8 m.
        assert shapes["vertical"]["lowest"]["label"] == "20 m"
        assert shapes["vertical"]["next"]["left_m"] == pytest.approx(6.8 - 7.05, abs=0.02)
        assert all(s["needs"] == "pole" for s in client.post("/api/lengths/fitting", json={"pole_m": 7}).json())

    def test_a_proven_design_is_scaled(self, client):
        asked = {"lengths_m": [7.3152, 1.0], "proven_hz": 9.82e6, "wanted_hz": 10.12e6, "unit": "ft"}
        found = client.post("/api/lengths/scaling", json=asked).json()

        assert found["lengths_m"][0] / 0.0254 == pytest.approx(279.4375)
        assert found["ratio"] == pytest.approx(0.97036, abs=1e-5)

    @pytest.mark.parametrize(
        ("path", "asked", "word"),
        [
            ("fitting", {}, "neither a span nor a pole"),
            ("fitting", {"span_m": -3}, "span_m"),
            ("scaling", {"lengths_m": [], "proven_hz": 1e6, "wanted_hz": 2e6}, "lengths_m"),
            ("parts", {"form": "section", "frequency_hz": 1e6, "cable": "string"}, "string"),
            ("parts", {"form": "antimony", "frequency_hz": 1e6}, "form"),
        ],
    )
    def test_what_cannot_be_is_refused(self, client, path, asked, word):
        refused = client.post(f"/api/lengths/{path}", json=asked)

        assert refused.status_code in (404, 422)
        assert word in refused.text


class TestDials:
    """POST /api/dials: what they carry, what they leave open."""

    def said(self, client, *readings):
        answer = client.post("/api/dials", json={"readings": list(readings)})
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_two_typed_frequencies_tell_the_side_and_name_the_third(self, client):
        found = self.said(client, swr_at((24.5, 2.6)), swr_at((24.8, 1.9)))

        assert (found["dip"]["side"], found["dip"]["low_hz"]) == ("above", 24.65e6)
        assert found["ask"]["code"] == "read_swr_at"
        assert found["ask"]["values"] == {"frequency_hz": 25.1e6, "side": "above"}
        assert found["points"][0]["low_swr"] < 2.6 < found["points"][0]["high_swr"]

    @pytest.mark.parametrize(
        ("readings", "words"),
        [
            ([swr_at((24.5, 2.6)), swr_at((24.5, 1.2))], ["readings 1 and 2", "1.20 was read where 2.60"]),
            (
                [{"kind": "size", "points": [{"frequency_hz": 24e6, "size_ohm": 150, "swr": 1.5}]}],
                ["at least 3.00", "1.50 more"],
            ),
            (
                [{"kind": "power", "points": [{"frequency_hz": 24e6, "forward_w": 10, "reflected_w": 12}]}],
                ["full scale"],
            ),
        ],
    )
    def test_contradictions_say_which_and_by_how_much(self, client, readings, words):
        refused = client.post("/api/dials", json={"readings": readings})

        assert (refused.status_code, refused.json()["code"]) == (422, "contradiction")
        for word in words:
            assert word in refused.json()["detail"]

    def test_a_meter_that_is_not_there_and_edges_upside_down(self, client):
        unknown = client.post("/api/dials", json={"readings": [swr_at((24.5, 2.0), meter="crystal")]})
        assert (unknown.status_code, unknown.json()["field"]) == (404, "meter")
        edges = {"kind": "edges", "low_hz": 25e6, "high_hz": 24e6}
        assert client.post("/api/dials", json={"readings": [edges]}).status_code == 422
        assert client.post("/api/dials", json={"readings": [{"kind": "edges"}]}).status_code == 422
        assert {m["key"] for m in client.get("/api/tables/meters").json()} >= {"meter", "radio"}


class TestTheLog:
    """Entries: what is kept, taken back, put back, refused."""

    def test_a_round_by_the_sum_of_the_trade(self, client, loft):
        assert read(client, loft, dip(24.2)).status_code == 201
        view = trim_of(client, loft)

        # 2.96 m, 24.2 → 24.94 MHz: 8.8 cm as a fold, 7.5 cm as a cut.
        assert (view["next"]["act"], view["next"]["per_leg_m"]) == ("fold", 0.088)
        cut = trim_of(client, loft, by="cut")["next"]
        assert (cut["act"], cut["per_leg_m"]) == ("cut", 0.075)
        assert view["rule_low_hz"] < 24.2e6 < view["target_hz"] < view["rule_high_hz"]

    def test_acts_are_taken_back_and_put_back(self, client, loft):
        read(client, loft, dip(24.2))
        act = acted(client, loft, "fold", 0.088, 0.088)
        assert trim_of(client, loft)["links"][0]["folded_m"] == pytest.approx(0.088)

        assert client.delete(f"/api/entries/{act['id']}", params={"revision": act["revision"]}).status_code == 204
        assert trim_of(client, loft)["links"][0]["folded_m"] == 0.0
        assert trim_of(client, loft)["dip_hz"] == pytest.approx(24.2e6)
        assert client.post(f"/api/entries/{act['id']}/restore").status_code == 200
        assert len(client.get(f"/api/builds/{loft['id']}/entries").json()) == 3
        stale = client.delete(f"/api/entries/{act['id']}", params={"revision": 1})
        assert (stale.status_code, stale.json()["code"]) == (409, "stale_edit")

    def test_any_entry_is_taken_back_and_waits_in_the_bin_until_it_is_put_back(self, client, loft):
        first = read(client, loft, dip(24.2)).json()
        acted(client, loft, "fold", 0.088, 0.088)
        read(client, loft, dip(24.75))
        client.delete(f"/api/entries/{first['id']}", params={"revision": first["revision"]})

        view = trim_of(client, loft)
        assert [t["dip_hz"] for t in view["trail"]] == [24.75e6]
        assert [entry["id"] for entry in view["taken"]] == [first["id"]]
        binned = [thing for thing in client.get("/api/bin").json() if thing["kind"] == "entry"]
        assert [(thing["id"], thing["build"]) for thing in binned] == [(first["id"], "Loft dipole")]
        assert client.post(f"/api/entries/{first['id']}/restore").status_code == 200
        assert [t["dip_hz"] for t in trim_of(client, loft)["trail"]] == [24.2e6, 24.75e6]

    def test_it_may_hang_with_folds_already(self, client):
        build = wire_build(client, stop="dip")
        hung(client, build, 2.96, folded_m=[0.1])
        read(client, build, dip(25.2))

        view = trim_of(client, build)
        assert (view["links"][0]["folded_m"], view["next"]["act"]) == (0.1, "unfold")
        refused = logged(client, build, {"kind": "hung", "reach_m": [2.0], "folded_m": [2.5]})
        assert refused.status_code == 422

    def test_used_as_it_is_until_it_is_touched_again(self, client, loft):
        read(client, loft, dip(25.4, 2.6))
        assert trim_of(client, loft)["stop"] is None
        assert logged(client, loft, {"kind": "use_so", "link": 0}).status_code == 201
        assert trim_of(client, loft)["stop"]["code"] == "used_so"
        acted(client, loft, "splice", 0.05, 0.05)
        read(client, loft, dip(25.0, 1.4))
        assert trim_of(client, loft)["stop"] is None

    def test_what_lies_on_the_ground_gets_no_cut(self, client, loft):
        read(client, loft, dip(23.0), setup={"plane": "feedpoint", "conditions": {"height": "on the ground"}})

        view = trim_of(client, loft)
        assert "on_the_ground" in says(view)
        assert view["next"] is None

    def test_what_a_later_act_needs_is_not_taken_back(self, client, loft):
        fold = acted(client, loft, "fold", 0.05, 0.05)
        acted(client, loft, "unfold", 0.05, 0.05)
        refused = client.delete(f"/api/entries/{fold['id']}", params={"revision": 1})

        assert refused.status_code == 422
        assert len(client.get(f"/api/builds/{loft['id']}/entries").json()) == 3

    @pytest.mark.parametrize(
        ("entry", "word"),
        [
            ({"kind": "cut", "act": "fold", "per_leg_m": [3.5, 3.5]}, "less than what there to fold is, 2.960 m"),
            ({"kind": "cut", "act": "cut", "per_leg_m": [-0.1]}, "per_leg_m"),
            ({"kind": "cut", "act": "unfold", "per_leg_m": [0.1]}, "folded back is, 0.000 m"),
            ({"kind": "cut", "act": "cut", "per_leg_m": [0.1], "link": 3}, "from 0"),
            ({"kind": "hung", "reach_m": [-2.9]}, "reach_m"),
            ({"kind": "hung", "reach_m": [3.4, 2.9]}, "longer from band to band"),
            ({"kind": "reading", "reading": {"kind": "sweep"}}, "sweep_id"),
            ({"kind": "reading", "reading": {"kind": "dip", "dip_hz": -1}}, "dip_hz"),
        ],
    )
    def test_what_cannot_have_happened_is_refused_and_nothing_is_kept(self, client, loft, entry, word):
        refused = logged(client, loft, entry)

        assert refused.status_code == 422
        assert word in refused.text
        assert len(client.get(f"/api/builds/{loft['id']}/entries").json()) == 1

    def test_one_leg_has_one_amount(self, client):
        build = wire_build(client, form="vertical")
        hung(client, build, 3.0, form="vertical")
        refused = logged(client, build, {"kind": "cut", "act": "cut", "per_leg_m": [0.1, 0.1]})
        assert refused.status_code == 422
        assert "1 at most" in refused.json()["detail"]

    def test_a_wire_that_does_not_hang_has_no_acts(self, client):
        refused = read(client, wire_build(client), dip(24.2))
        assert refused.status_code == 422
        assert "hangs" in refused.json()["detail"]

    def test_a_sweep_of_another_build_is_none_of_this_one(self, client, loft):
        other = drop(client).json()
        refused = logged(client, loft, {"kind": "reading", "reading": {"kind": "sweep"}}, sweep_id=other["id"])
        assert refused.status_code == 422

    def test_a_copy_of_a_build_has_its_log(self, client, loft):
        read(client, loft, dip(24.2))
        copy = client.post(f"/api/builds/{loft['id']}/duplicate", json={"name": "another"}).json()

        assert (copy["hung"], copy["entries"], copy["wire"]["stop"]) == (True, 2, "dip")
        assert trim_of(client, copy)["next"] == trim_of(client, loft)["next"]

    def test_entries_that_are_not_there(self, client):
        nobody = "00000000-0000-4000-8000-000000000000"
        assert client.post(f"/api/entries/{nobody}/restore").status_code == 404
        assert client.delete(f"/api/entries/{nobody}", params={"revision": 1}).status_code == 404
        assert client.get(f"/api/builds/{nobody}/trim").status_code == 404


class TestWhatItSays:
    """Findings, reasons to stop, ways on."""

    def test_other_conditions_are_kept_apart(self, client, loft):
        grass = {"plane": "feedpoint", "conditions": {"height": "on the grass"}}
        beam = {"plane": "feedpoint", "conditions": {"height": "under the beam"}}
        read(client, loft, dip(23.4), setup=grass)
        read(client, loft, dip(24.2), setup=beam, instrument="needle")
        view = trim_of(client, loft)

        assert says(view)["conditions_apart"] == {"readings": 1}
        assert view["next"]["per_leg_m"] == 0.088
        assert [p["apart"] for p in view["trail"]] == [True, False]
        assert view["setup"]["conditions"]["height"] == "under the beam"
        read(client, loft, dip(24.2), setup=beam, instrument="radio")
        assert "needle" in says(trim_of(client, loft))["other_instrument"]["names"]

    @pytest.mark.deep
    def test_a_linked_wire_from_the_high_band_outwards(self, client):
        """Every dip by L·f constant over the whole leg, a fold doing three quarters: 2.90 and 3.40 m."""
        build = wire_build(client, (TWELVE, FIFTEEN), stop="dip")
        hung(client, build, 2.99, 3.60)
        proper = {0: (24.94e6, 2.90), 1: (21.225e6, 3.40)}
        for _ in range(10):
            view = trim_of(client, build)
            if all(link["settled"] for link in view["links"]):
                break
            link = view["link"]
            assert "higher_band_first" not in says(view)
            if view["next"] and view["next"]["act"] != "none":
                amount = view["next"]["per_leg_m"]
                acted(client, build, view["next"]["act"], amount, amount, link=link)
            wire = trim_of(client, build, link=link)["links"][link]
            target, leg = proper[link]
            inner = view["links"][0]["folded_m"] if link else 0.0
            folded = wire["folded_m"] + inner
            read(client, build, dip(target * leg / (wire["leg_m"] - 0.75 * folded) / 1e6), link=link)
        view = trim_of(client, build)
        assert [link["settled"] for link in view["links"]] == [True, True]
        for link in view["links"]:
            assert link["dip_hz"] == pytest.approx(link["target_hz"], rel=2.5e-3)

    def test_good_enough_by_the_users_own_limit(self, client):
        build = wire_build(client)
        hung(client, build, 2.9)
        read(client, build, swr_at((24.89, 1.45), (24.94, 1.3), (24.99, 1.4)))
        stop = trim_of(client, build)["stop"]
        assert (stop["code"], stop["values"]["worst_swr"]) == ("band_holds", 1.45)

        tighter = [{**TWELVE, "swr_limit": 1.2}]
        now = client.get(f"/api/builds/{build['id']}").json()
        changed = client.patch(f"/api/builds/{build['id']}", json={"revision": now["revision"], "targets": tighter})
        assert changed.status_code == 200
        assert trim_of(client, build)["stop"] is None

    def test_what_is_in_the_line_is_checked_first(self, client):
        build = wire_build(client, transformer=True)
        hung(client, build, 2.96)
        assert says(trim_of(client, build))["check_first"] == {"failed": "no"}
        logged(client, build, {"kind": "bench_check", "passed": False})
        assert says(trim_of(client, build))["check_first"] == {"failed": "yes"}
        logged(client, build, {"kind": "bench_check", "passed": True})
        assert "check_first" not in says(trim_of(client, build))

    def test_a_network_of_the_chosen_design_counts_too(self, client):
        build = made_build(client)
        assert "check_first" not in says(trim_of(client, build))
        made_design(client, build)
        assert "check_first" in says(trim_of(client, build))

    def test_uneven_legs_long_folds_and_changed_bands(self, client, loft):
        acted(client, loft, "fold", 0.5, 0.52)
        read(client, loft, dip(24.9))
        said = says(trim_of(client, loft))
        assert said["uneven"]["by_m"] == pytest.approx(0.02)
        assert said["long_fold"]["folded_m"] == pytest.approx(0.51)

        now = client.get(f"/api/builds/{loft['id']}").json()
        client.patch(f"/api/builds/{loft['id']}", json={"revision": now["revision"], "targets": [TWELVE, FIFTEEN]})
        changed = trim_of(client, loft)
        assert "bands_changed" in says(changed)
        assert not changed["hung"]

    def test_a_band_outside_the_sweep_is_said_and_the_dip_still_counts(self, client, loft):
        f = np.linspace(23e6, 24.7e6, 69)
        wire = 62 * (1 + 22j * (f / 24.2e6 - 1))
        sweep = client.post(
            "/api/sweeps",
            params={"name": "narrow.s1p", "build_id": loft["id"]},
            content=touchstone.write(Sweep(f, wire)),
        ).json()
        logged(client, loft, {"kind": "reading", "reading": {"kind": "sweep"}}, sweep_id=sweep["id"])
        view = trim_of(client, loft)

        assert says(view)["target_outside"] == {"low_hz": 23e6, "high_hz": 24.7e6}
        assert view["dip_hz"] == pytest.approx(24.2e6, rel=1e-3)
        assert view["next"]["per_leg_m"] == pytest.approx(0.088, abs=2e-3)
        # A sweep in the bin says nothing any more.
        assert client.delete(f"/api/sweeps/{sweep['id']}", params={"revision": 1}).status_code == 204
        assert trim_of(client, loft)["dip_hz"] is None

    def test_a_sweep_that_misses_the_dip_or_the_band(self, client):
        """The demo's allotment wire, swept over 15 m, is resonant far below it."""
        build = made_build(client)
        hung(client, build, 3.4)
        sweep = build["sweeps"][0]
        logged(client, build, {"kind": "reading", "reading": {"kind": "sweep"}}, sweep_id=sweep["id"])
        view = trim_of(client, build)

        assert view["dip_hz"] is None
        assert says(view)["beyond_sweep"]["side"] in ("above", "below")


def test_a_simulated_sweep_enters_no_log_of_a_real_wire(client, bench, loft):
    connected(client)
    swept = done(
        client,
        kind="sweep",
        low_hz=22e6,
        high_hz=28e6,
        points=101,
        passes=1,
        keep={"name": "invented", "build_id": loft["id"], "setup": {"plane": "feedpoint"}},
    )["found"]["sweep"]
    entry = {"kind": "reading", "reading": {"kind": "sweep"}}
    refused = logged(client, loft, entry, sweep_id=swept["id"])
    assert refused.status_code == 422
    assert "this wire is a real one" in refused.json()["detail"]

    build = client.get(f"/api/builds/{loft['id']}").json()
    marked = {"revision": build["revision"], "wire": {**build["wire"], "practice": True}}
    assert client.patch(f"/api/builds/{loft['id']}", json=marked).status_code == 200
    kept = logged(client, loft, entry, sweep_id=swept["id"])
    assert (kept.status_code, kept.json()["simulated"]) == (201, True)


def test_the_simulated_wire_is_cut_by_hands_over_its_socket(client, bench):
    connected(client)
    put = {"thing": "loft-new", "leg_m": 2.95, "folded_m": 0.06}
    assert client.put("/api/analyser/bench", json=put).json()["thing"] == "loft-new"
    assert (bench.simulator.leg_m, bench.simulator.folded_m) == (2.95, 0.06)
    refused = client.put("/api/analyser/bench", json={**put, "folded_m": 3.0})
    assert (refused.status_code, bench.simulator.folded_m) == (503, 0.06)
    assert "folded by less than that" in refused.json()["detail"]


class TestCuts:
    """POST /api/cuts: the sum alone, nothing kept."""

    @pytest.mark.parametrize("unit", ["m", "ft"])
    def test_a_mark_of_the_tape_is_never_past_the_bound(self, client, unit):
        """Near the target the bound holds a cut, not caution: the tape's mark lies at or below it."""
        for mhz in (24.82, 24.84, 24.86, 24.88):
            readings = [{"dip_hz": 24.2e6, "leg_m": 2.96}, {"dip_hz": mhz * 1e6, "leg_m": 2.885}]
            asked = {"readings": readings, "target_hz": 24.94e6, "by": "cut", "unit": unit}
            found = client.post("/api/cuts", json=asked).json()
            plain = next_cut([DipReading(r["dip_hz"], r["leg_m"]) for r in readings], 24.94e6, "cut")
            assert found["held_by"] == "bound"
            assert found["per_leg_m"] <= plain.per_leg_m

    def test_the_worked_example(self, client):
        asked = {"readings": [{"dip_hz": 24.2e6, "leg_m": 2.96}], "target_hz": 24.94e6}
        assert client.post("/api/cuts", json=asked).json()["per_leg_m"] == 0.088
        assert client.post("/api/cuts", json={**asked, "by": "cut"}).json()["per_leg_m"] == 0.075

    @pytest.mark.parametrize(
        "reading",
        [
            {"dip_hz": 24.2e6, "leg_m": -2.96},
            {"dip_hz": 24.2e6, "leg_m": 2.96, "folded_m": 3.0},
            {"dip_hz": 0, "leg_m": 2.96},
        ],
    )
    def test_what_cannot_be_is_refused(self, client, reading):
        assert client.post("/api/cuts", json={"readings": [reading], "target_hz": 24.94e6}).status_code == 422


def test_a_build_needs_a_sweep_or_bands(client):
    refused = client.post("/api/builds", json={"name": "nothing"})

    assert refused.status_code == 422
    assert "one band at least" in refused.json()["detail"]


class TestAPlannedAntenna:
    """Trimmed by its numbers: one wire on its first band, and what a centimetre moves by its model."""

    SHORT: ClassVar = {
        "kind": "wire",
        "antenna": "loaded-vertical",
        "numbers": {"height_m": 4.0, "inductance_h": 4.98e-5, "coil_at": 0.5, "q": 250.0, "radials": 8},
    }
    SIXTY: ClassVar = {"label": "60 m", "low_hz": 5.3515e6, "high_hz": 5.3665e6, "swr_limit": 3.0}
    TWELVE: ClassVar = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 3.0}

    def build(self, client, *targets, **plan):
        answer = client.post("/api/builds", json={"name": "Narrowboat", "targets": list(targets), "wire": plan})
        assert answer.status_code == 201, answer.text
        return answer.json()

    def test_what_its_top_moves_is_by_the_model(self, client):
        plan = {"form": "loaded-vertical", "rule": "", "antenna": self.SHORT}
        build = self.build(client, self.SIXTY, **plan)
        data = {"kind": "hung", "form": "loaded-vertical", "reach_m": [4.09], "folded_m": [0.09]}
        assert logged(client, build, data).status_code == 201
        dip = {"kind": "reading", "reading": {"kind": "dip", "meter": "meter", "dip_hz": 5.30e6, "swr": 1.8}}
        assert logged(client, build, dip).status_code == 201
        view = trim_of(client, build)
        assert view["planned"]["antenna"]["antenna"] == "loaded-vertical"
        # Half a wire above a coil: f goes by the root of what its top holds, less than by the ratio of lengths.
        ratio = (4.09 - 0.75 * 0.09) * (1 - 5.30 / 5.359)
        assert view["next"]["exact_m"] > 1.05 * ratio / view["next"]["moves"]

    def test_one_wire_for_three_bands_is_trimmed_on_the_first(self, client):
        antenna = {
            "kind": "wire",
            "antenna": "end-fed",
            "numbers": {"wire_m": 5.6, "counterpoise_m": 0.6, "feed_m": 2.0, "far_m": 5.0},
        }
        plan = {"form": "end-fed", "rule": "end-fed-practice", "antenna": antenna}
        build = self.build(client, self.TWELVE, self.SIXTY, **plan)
        data = {"kind": "hung", "form": "end-fed", "reach_m": [5.9], "folded_m": [0.3]}
        assert logged(client, build, data).status_code == 201
        view = trim_of(client, build)
        assert view["hung"]
        assert not view["bands_changed"]
        assert [link["label"] for link in view["links"]] == ["12 m"]
        assert view["legs"] == 1
