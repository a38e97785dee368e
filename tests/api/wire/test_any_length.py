"""A length that fits, over HTTP: rules at once, every length by the model, one of them as a whole design."""

import time

import pytest

BANDS = [
    {"label": label, "low_hz": low * 1e6, "high_hz": high * 1e6, "swr_limit": 2}
    for label, low, high in (("30 m", 10.1, 10.15), ("15 m", 21.0, 21.45), ("12 m", 24.89, 24.99))
]
ASKED = {"targets": BANDS, "least_m": 8, "most_m": 24, "length_m": 12.5, "counterpoise_m": 4}


def asked(client, path, **changes):
    answer = client.post(f"/api/any-lengths/{path}", json={**ASKED, **changes})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_rules_answer_at_once(client):
    asked(client, "rules")
    start = time.perf_counter()
    found = asked(client, "rules")
    assert time.perf_counter() - start < 1.0
    assert [s["school"] for s in found["schools"]] == ["practice", "long-wire"]
    assert all(s["length"]["share"] > 0.05 for s in found["schools"])
    assert any(w["low_m"] < 12.5 < w["high_m"] for w in found["clear"])


def test_the_stricter_school_leaves_less(client):
    usual, strict = (asked(client, "rules", quarters=q)["clear"] for q in (False, True))
    assert max(w["share"] for w in strict) < max(w["share"] for w in usual)


def test_every_length_by_the_model(client):
    found = asked(client, "strips")
    assert found["school"]["school"] == "model"
    assert found["school"]["length"]["known"]
    assert not found["school"]["counterpoise"]["known"]
    assert [b["label"] for b in found["bands"]] == ["30 m", "15 m", "12 m"]
    for band in found["bands"]:
        assert len(band["swr"]) == len(band["grades"]) == len(found["lengths_m"])
        assert set(band["grades"]) <= {0, 1, 2, 3, 4}


@pytest.mark.deep
def test_one_length_is_a_whole_design(client):
    found = asked(client, "chosen")
    content = found["content"]
    assert [e["kind"] for e in content["elements"]] == ["transformer", "line", "tuner"]
    assert content["elements"][0]["secondary_turns"] == 27
    assert [b["label"] for b in found["bands"]] == ["30 m", "15 m", "12 m"]
    for band in found["bands"]:
        assert 0 < band["low_w"] < band["up_w"] < band["high_w"] <= band["wire_w"] < 100


@pytest.mark.deep
def test_watts_of_a_length_are_near_those_of_its_whole_prediction(client):
    """The comparison's rough sum beside the design's own, solved in full."""
    found = asked(client, "chosen")
    flows = client.post("/api/predictions/bands", json={"content": found["content"]}).json()
    for rough, whole in zip(found["bands"], flows["bands"], strict=True):
        assert rough["up_w"] == pytest.approx(whole["up_w"], rel=0.2)


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"targets": []}, "bands is none; it must be at least one"),
        ({"least_m": 0, "most_m": 0}, "space is 0 to 0 m"),
        ({"least_m": 30}, "space is 30 to 24 m"),
        ({"length_m": 0}, "length_m"),
        ({"most_m": 1e9}, "most_m"),
    ],
)
def test_bad_input_is_refused_in_words(client, changes, said):
    for path in ("rules", "strips"):
        answer = client.post(f"/api/any-lengths/{path}", json={**ASKED, **changes})
        assert answer.status_code == 422
        assert said in answer.text
