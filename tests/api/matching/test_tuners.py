"""Tuners over HTTP: in a design, their settings, and which knob to turn."""

import pytest
from made_tuners import HiddenTuner

from yielding_coil.core.tuner import CONTROLS

TWENTY = {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 2.0}
FIFTEEN = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
LINE = {"kind": "line", "key": "line", "cable": "pe-5", "length_m": 20.0}
TUNER = {"kind": "tuner", "key": "tuner"}


def content(*elements, ohm=200.0, reactance=0.0):
    return {
        "antenna": {"kind": "resistor", "resistance_ohm": ohm, "reactance_ohm": reactance},
        "targets": [TWENTY, FIFTEEN],
        "elements": list(elements),
    }


def test_a_tuner_is_kept_and_predicted_as_any_element(client):
    body = {"content": content(LINE, TUNER), "low_hz": 13.5e6, "high_hz": 22e6}
    found = client.post("/api/predictions", json=body).json()
    made = next(m for m in found["made"] if m["kind"] == "tuner")

    assert found["stations"][-1]["key"] == "tuner"
    assert made["reached"] == [True, True]
    assert {s["side"] for s in made["settings"]} == {"tee"}
    assert found["box"] == 0


def test_watts_band_by_band(client):
    body = {"content": content(LINE, TUNER), "power_w": 80}
    found = client.post("/api/predictions/bands", json=body).json()

    for band in found["bands"]:
        assert sum(loss["watts"] for loss in band["losses"]) + band["up_w"] == pytest.approx(80, rel=1e-4)
        assert band["swr_radio"] == pytest.approx(1.0, abs=1e-4)
        assert band["forward_w"] - band["reflected_w"] == pytest.approx(80 - band["losses"][0]["watts"], rel=1e-3)
    assert found["bands"][found["least"]]["up_w"] == min(b["up_w"] for b in found["bands"])
    assert [t["at"] for t in found["tuners"]] == ["nowhere", "radio", "antenna"]
    assert len(found["cables"]) >= 7


def test_the_settings_of_a_band_least_loss_first(client):
    body = {"content": content(LINE, TUNER), "target": 1}
    found = client.post("/api/tuners/choices", json=body).json()
    losses = [c["loss_w"] for c in found["choices"]]

    assert losses == sorted(losses)
    best = next(c for c in found["choices"] if c["middle_swr"] < 1.001)
    assert "least loss" in best["merits"]
    assert len(losses) >= 6
    assert all(c["middle_swr"] < 1.001 for c in found["choices"] if "best over the band" not in c["merits"])
    assert not found["assumed"]
    assert client.post("/api/tuners/choices", json={"content": content(LINE), "target": 0}).json()["assumed"]


def test_a_tuner_that_cannot_says_the_nearest_it_can(client):
    small = {**TUNER, "coil_high_h": 1.2e-6, "output_high_f": 120e-12, "input_high_f": 120e-12}
    asked = content(small, ohm=8, reactance=-90)
    found = client.post("/api/tuners/choices", json={"content": asked, "target": 0}).json()
    said = client.post("/api/predictions", json={"content": asked, "low_hz": 13.5e6, "high_hz": 22e6}).json()[
        "findings"
    ]

    assert not found["reached"]
    assert found["choices"][0]["merits"] == ["nearest"]
    assert found["choices"][0]["middle_swr"] > 1.5
    assert any(f["code"] == "tuner_cannot" and f["values"]["label"] == "20 m" for f in said)


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"content": content(LINE), "target": 5}, "0 to 1"),
        ({"content": content(ohm=0.0), "target": 0}, "above zero"),
        ({"content": content(TUNER, LINE), "target": 0}, "next to the radio"),
        ({"content": content({**TUNER, "coil_low_h": 30e-6}), "target": 0}, "above the lower stop"),
    ],
)
def test_what_cannot_be_is_refused(client, asked, said):
    answer = client.post("/api/tuners/choices", json=asked)

    assert answer.status_code in (404, 422)
    assert said in answer.text


def as_sent(seen):
    setting = seen.setting
    return {
        "dials": {
            "side": setting.side,
            "output_f": setting.output_f,
            "coil_h": setting.coil_h,
            "input_f": setting.input_f,
        },
        "frequency_hz": seen.frequency_hz.tolist(),
        "gamma_real": seen.reflection.real.tolist(),
        "gamma_imag": seen.reflection.imag.tolist(),
    }


def test_turned_as_advised_it_comes_to_a_match(client):
    hidden, seen = HiddenTuner(41, 0.05), []
    for _ in range(10):
        seen.append(as_sent(hidden.sweep()))
        said = client.post("/api/tuners/advice", json={"tuner": TUNER, "seen": seen}).json()
        if said["kind"] == "there":
            break
        values = list(hidden.dials.values)
        values[CONTROLS.index(said["control"])] = said["to"]
        hidden.dials = type(hidden.dials)("tee", *values)

    assert said["kind"] == "there"
    assert said["swr"] <= 1.2


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"dials": {"side": "tee", "coil_h": 1e-6}}, "where the dial stands is missing"),
        ({"gamma_real": [0.1]}, "one value each"),
        ({"frequency_hz": [2.0e6] * 21}, "ascending"),
        ({"gamma_real": [1.9] * 21}, "returns more than it gets"),
    ],
)
def test_a_sweep_that_is_none_is_refused(client, change, said):
    seen = {**as_sent(HiddenTuner(42, 0.05).sweep()), **change}
    answer = client.post("/api/tuners/advice", json={"tuner": TUNER, "seen": [seen]})

    assert answer.status_code == 422
    assert said in answer.text


def test_ones_own_way_beside_the_shortest(client):
    hidden, seen = HiddenTuner(41, 0.05), []
    for _ in range(4):
        seen.append(as_sent(hidden.sweep()))
        said = client.post("/api/tuners/advice", json={"tuner": TUNER, "seen": seen}).json()
        if said["control"] is None:
            break
        values = list(hidden.dials.values)
        values[CONTROLS.index(said["control"])] = said["to"]
        hidden.dials = type(hidden.dials)("tee", *values)
    way = client.post("/api/tuners/ways", json={"tuner": TUNER, "seen": seen}).json()

    assert 1 <= len(way) <= 3
    last = way[-1]
    assert abs(complex(last["gamma_real"], last["gamma_imag"])) < 0.1
