"""What stands in a wire, over HTTP: places of a coil, traps by both schools, what a stretch moves."""

import pytest

FIFTEEN = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2}
TWELVE = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2}
SIXTY = {"label": "60 m", "low_hz": 5.35e6, "high_hz": 5.37e6, "swr_limit": 2}


def begun(client, kind, target, others=()):
    answer = client.post("/api/structures/starts", json={"antenna": kind, "target": target, "others": others})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_places_of_a_coil(client):
    antenna = begun(client, "loaded-vertical", SIXTY)
    found = client.post("/api/structures/coil-places", json={"antenna": antenna, "target": SIXTY}).json()
    best = found["places"][found["most"]]
    assert best["radiated_w"] == max(p["radiated_w"] for p in found["places"])
    assert antenna["numbers"]["coil_at"] in [p["coil_at"] for p in found["places"]]


@pytest.mark.deep
def test_traps_by_both_schools_and_as_they_hang(client):
    antenna = begun(client, "trap-dipole", FIFTEEN, [TWELVE])
    body = {"antenna": antenna, "target": FIFTEEN, "others": [TWELVE]}
    found = client.post("/api/structures/traps", json=body).json()
    assert [on["label"] for on in found["on"]] == ["12 m", "15 m"]
    inside, below = found["schools"]
    assert below["on"][0]["model"]["voltage_v"] < inside["on"][0]["model"]["voltage_v"]
    assert inside["antenna"]["antenna"] == "trap-dipole"
    alone = client.post("/api/structures/traps", json={**body, "others": []}).json()
    assert (len(alone["on"]), alone["schools"]) == (1, [])


@pytest.mark.deep
def test_a_stretch_moves_the_dip(client):
    antenna = begun(client, "trap-dipole", FIFTEEN, [TWELVE])
    moved = client.post("/api/structures/stretches", json={"antenna": antenna, "target": FIFTEEN}).json()
    by_name = {m["name"]: m["moves_hz"] for m in moved}
    assert by_name["inner_m"] < 0
    assert by_name["outer_m"] < 0


@pytest.mark.deep
def test_brought_to_both_bands_at_once(client):
    antenna = begun(client, "trap-dipole", FIFTEEN, [TWELVE])
    longer = {**antenna, "numbers": {**antenna["numbers"], "inner_m": antenna["numbers"]["inner_m"] * 1.02}}
    body = {"antenna": longer, "target": FIFTEEN, "others": [TWELVE]}
    back = client.post("/api/structures/tunings", json=body).json()
    assert back["numbers"]["inner_m"] == pytest.approx(antenna["numbers"]["inner_m"], rel=2e-3)


def test_how_two_bands_go_up(client):
    antenna = begun(client, "trap-dipole", FIFTEEN, [TWELVE])
    body = {"antenna": antenna, "target": FIFTEEN, "others": [TWELVE]}
    inner, whole = client.post("/api/structures/pieces", json=body).json()["reaches"]
    assert inner["reach_m"] < whole["reach_m"]
    assert inner["folded_m"] > whole["folded_m"] > 0


@pytest.mark.parametrize(
    ("path", "said"),
    [("coil-places", "loaded-vertical or loaded-dipole"), ("traps", "trap-dipole or trap-vertical")],
)
def test_an_antenna_without_such_parts_is_refused(client, path, said):
    antenna = begun(client, "dipole", FIFTEEN)
    answer = client.post(f"/api/structures/{path}", json={"antenna": antenna, "target": FIFTEEN})
    assert answer.status_code == 422
    assert said in answer.text


def test_traps_in_the_wrong_order_are_refused(client):
    """A trap below the lower band can part nothing."""
    antenna = begun(client, "trap-dipole", FIFTEEN, [TWELVE])
    wrong = {**antenna, "numbers": {**antenna["numbers"], "trap_hz": 1.5e7}}
    body = {"antenna": wrong, "target": FIFTEEN, "others": [TWELVE]}
    answer = client.post("/api/structures/tunings", json=body)
    assert answer.status_code == 422
    assert "a length each for" in answer.text


@pytest.mark.deep
def test_a_coil_that_cannot_make_it_says_how_low_it_can_go(client):
    antenna = begun(client, "loaded-vertical", SIXTY)
    short = {**antenna, "numbers": {**antenna["numbers"], "height_m": 0.3}}
    low = {"label": "low", "low_hz": 0.099e6, "high_hz": 0.101e6, "swr_limit": 2}
    answer = client.post("/api/structures/coil-places", json={"antenna": short, "target": low})
    assert answer.status_code == 422
    assert "MHz at the lowest" in answer.text


@pytest.mark.deep
def test_schools_of_a_return_path(client):
    antenna = begun(client, "end-fed", FIFTEEN)
    found = client.post("/api/structures/return-paths", json={"antenna": antenna, "target": FIFTEEN}).json()
    assert [p["school"] for p in found["paths"]] == ["twentieth", "quarter", "beside", "shield", "nothing"]
    assert found["choke"][0]["at_m"] < found["choke"][-1]["at_m"]


def test_a_return_path_is_of_an_end_fed_wire(client):
    antenna = begun(client, "dipole", FIFTEEN)
    answer = client.post("/api/structures/return-paths", json={"antenna": antenna, "target": FIFTEEN})
    assert answer.status_code == 422
    assert "fed at its end" in answer.text
