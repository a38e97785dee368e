"""Antennas of plain numbers over the API: begun, dragged, looked at, cut, held against a recipe."""

from typing import get_args

import pytest

from yielding_coil.core.wire import KINDS
from yielding_coil.documents.wire import KindKey, WireAntenna

BAND = {"label": "30 m", "low_hz": 10.1e6, "high_hz": 10.15e6, "swr_limit": 2.0}
COVERED = {"diameter_m": 0.0014, "covering_m": 0.0024}
DIPOLE = {"antenna": "dipole", "numbers": {"leg_m": 7.1, "height_m": 7.4}}


def asked(client, what, **body):
    answer = client.post(f"/api/structures/{what}", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_every_kind_of_the_core_is_offered_with_its_numbers(client):
    kinds = {kind["key"]: kind for kind in client.get("/api/structures/kinds").json()}
    assert set(kinds) == set(KINDS) == set(get_args(KindKey))
    for key, kind in kinds.items():
        told = {number["name"] for number in kind["numbers"]}
        assert told == set(KINDS[key].start(1e7).numbers)
        assert kind["tuned_by"] in told
    assert [n["unit"] for n in kinds["loaded-vertical"]["numbers"]] == ["m", "H", "share", "Q", "count"]
    assert not kinds["five-eighths"]["resonant"]
    assert kinds["dipole"]["in_sets"]
    assert not kinds["end-fed"]["in_sets"]


def test_soils_are_what_an_antenna_can_hang_over(client):
    for soil in client.get("/api/structures/soils").json():
        WireAntenna(antenna="dipole", numbers={}, soil=soil["soil"]).hung().structure()


def test_one_is_begun_in_the_wire_of_another(client):
    like = {**DIPOLE, "stock": COVERED, "soil": {"conductivity_s_per_m": 0.02, "relative_permittivity": 20}}
    found = asked(client, "starts", antenna="inverted-v", target=BAND, like=like)
    assert found["stock"]["covering_m"] == 0.0024
    assert found["soil"]["relative_permittivity"] == 20
    seen = asked(client, "sketches", antenna=found, target=BAND)
    assert seen["dip_hz"] == pytest.approx(10.125e6, rel=5e-3)


def test_heights_are_kept_where_another_kind_can_hang_so(client):
    low = {"antenna": "end-fed", "numbers": {"wire_m": 13.7, "counterpoise_m": 1.5, "feed_m": 3.1, "far_m": 6.2}}
    found = asked(client, "starts", antenna="end-fed-on-shield", target=BAND, like=low)
    assert (found["numbers"]["feed_m"], found["numbers"]["far_m"]) == (3.1, 6.2)
    ground = {**low, "numbers": {**low["numbers"], "feed_m": 0.5}}
    usual = asked(client, "starts", antenna="end-fed-on-shield", target=BAND, like=ground)
    assert usual["numbers"]["feed_m"] > 5


def test_an_end_is_dragged_to_round_marks(client):
    drag = {"handle": "end", "x_m": 6.4567, "z_m": 5.0321}
    found = asked(client, "sketches", antenna=DIPOLE, target=BAND, drag=drag)
    assert found["antenna"]["numbers"] == {"leg_m": 6.46, "height_m": 5.03}
    place = next(h for h in found["picture"]["handles"] if h["key"] == "end")
    assert (place["x_m"], place["z_m"]) == (6.46, 5.03)
    feet = asked(client, "sketches", antenna=DIPOLE, target=BAND, drag=drag, unit="ft")["antenna"]["numbers"]
    assert feet["leg_m"] / 0.0127 == pytest.approx(round(feet["leg_m"] / 0.0127), abs=1e-6)


def test_a_place_that_it_has_not_is_refused(client):
    drag = {"handle": "tail", "x_m": 0, "z_m": 0}
    answer = client.post("/api/structures/sketches", json={"antenna": DIPOLE, "target": BAND, "drag": drag})
    assert answer.status_code == 404
    assert "end, other" in answer.text


def test_in_full_with_everything_that_the_desk_says(client):
    found = asked(client, "studies", antenna=DIPOLE, target=BAND, power_w=400, recipe={**DIPOLE, "stock": COVERED})
    assert found["dip_low_hz"] < found["sketch"]["dip_hz"] < found["dip_high_hz"]
    watts = [found[part]["watts"] for part in ("radiated", "wire", "loads", "ground")]
    assert sum(watts) == pytest.approx(400, rel=1e-4)
    assert len(found["swr"]["low"]) == len(found["sketch"]["frequency_hz"])
    assert found["pieces"][0] == {
        "label": "leg",
        "count": 2,
        "measure_m": 7.1,
        "add_m": 0.32,
        "cut_m": 7.42,
    }
    assert found["wire_m"] == pytest.approx(2 * 7.42)
    assert [d["name"] for d in found["recipe"]["differences"]] == ["stock"]
    assert found["recipe"]["differences"][0]["moves_hz"] > 0
    assert found["sketch"]["picture"]["highest_v"] == pytest.approx(2 * 861, rel=0.05)
    tuned = asked(client, "tunings", antenna=DIPOLE, target=BAND)
    assert tuned["numbers"]["leg_m"] == pytest.approx(found["tuned"]["numbers"]["leg_m"], rel=1e-3)


def test_what_its_feed_expects_may_be_told(client):
    found = asked(client, "sketches", antenna=DIPOLE, target=BAND, feed_ohm=75)
    at = min(range(41), key=lambda i: abs(found["reactance_ohm"][i]))
    assert found["swr"][at] == pytest.approx(found["resistance_ohm"][at] / 75, abs=0.05)


def test_how_it_goes_up(client):
    found = asked(client, "pieces", antenna=DIPOLE, target=BAND)
    assert found["reaches"][0]["folded_m"] == 0.32
    assert found["reaches"][0]["reach_m"] == pytest.approx(7.42)


@pytest.mark.parametrize(
    ("numbers", "said"),
    [
        ({"height_m": 0}, "height is 0 m; it must be 0.1 to 200 m"),
        ({"height_m": -3}, "height is -3 m"),
        ({"wire_m": 5}, "one of leg_m, height_m"),
        ({"leg_m": 1e9}, "one leg is 1e+09 m"),
        ({"leg_m": 1e12}, "leg_m"),
    ],
)
def test_numbers_that_it_cannot_have(client, numbers, said):
    antenna = {**DIPOLE, "numbers": {**DIPOLE["numbers"], **numbers}}
    answer = client.post("/api/structures/sketches", json={"antenna": antenna, "target": BAND})
    assert answer.status_code == 422
    assert said in answer.text


@pytest.mark.parametrize(
    ("antenna", "said"),
    [
        ({"antenna": "sloping-dipole", "numbers": {"leg_m": 2, "high_m": 9, "low_m": 2}}, "high end is 9 m"),
        ({"antenna": "inverted-v", "numbers": {"leg_m": 7, "apex_m": 3}}, "ground"),
        ({"antenna": "end-fed-on-shield", "numbers": {"feed_m": 2, "shield_m": 4}}, "shield down to the choke"),
        ({"antenna": "loaded-vertical", "numbers": {"coil_at": 1.2}}, "coil, up from the feed is 1.2"),
        ({**DIPOLE, "stock": {"diameter_m": 0.002, "covering_m": 0.001}}, "more than the wire's own"),
    ],
)
def test_what_cannot_hang_so_is_refused_and_not_kept(client, antenna, said):
    plan = {"form": "dipole", "antenna": {"kind": "wire", **antenna}}
    made = client.post("/api/builds", json={"name": "Orchard", "targets": [BAND], "wire": plan})
    assert made.status_code == 422
    assert said in made.text
    assert client.get("/api/builds").json() == []
