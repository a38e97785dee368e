"""The plain sums over HTTP."""

import pytest


def sums(client, swr, at="radio", **line):
    return client.post("/api/line-sums", json={"swr": swr, "at": at, "line": line})


def test_a_reading_at_the_radio_behind_one_decibel(client):
    """Handbook formula: 2.45 : 1 at the load, 0.33 dB extra, 8.72 : 1 the most."""
    found = sums(client, 2.0, matched_db=1.0).json()

    assert found["swr_load"] == pytest.approx(2.45, abs=0.005)
    assert found["extra_db"] == pytest.approx(0.33, abs=0.005)
    assert found["highest_radio_swr"] == pytest.approx(8.72, abs=0.005)


def test_a_cable_by_its_length_and_frequency_is_its_loss(client):
    by_db = sums(client, 2.0, "load", cable="pe-5", length_m=30.0, at_hz=14.2e6).json()
    again = sums(client, 2.0, "load", matched_db=by_db["matched_db"]).json()

    assert by_db["matched_db"] == pytest.approx(0.3 * (1.35 * 14.2**0.5 + 0.025 * 14.2), rel=1e-4)
    assert again["swr_radio"] == pytest.approx(by_db["swr_radio"], rel=1e-5)


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"swr": 9.0, "matched_db": 1.0}, "below 8.72"),
        ({"swr": 0.5, "matched_db": 1.0}, "1 or more"),
        ({"swr": 2.0, "cable": "pe-5", "length_m": 0, "at_hz": 14e6}, "a line of no length"),
        ({"swr": 2.0}, "a loss in dB, or a cable, its length"),
    ],
)
def test_what_cannot_be_is_refused_with_what_can(client, asked, said):
    answer = sums(client, asked.pop("swr"), **asked)

    assert answer.status_code == 422
    assert said in answer.json()["detail"]


def test_two_readings_of_one_antenna(client):
    """2 : 1 behind 30 m of two cables at 28 MHz, by the handbook's sum: the better one reads worse."""
    lines = [{"cable": cable, "length_m": 30.0, "at_hz": 28e6} for cable in ("pe-5", "foam-10")]
    reads = [sums(client, 2.0, "load", **line).json() for line in lines]
    body = [{"swr": r["swr_radio"], "line": line} for r, line in zip(reads, lines, strict=True)]
    found = client.post("/api/line-sums/two-readings", json={"first": body[0], "second": body[1]}).json()

    assert reads[1]["swr_radio"] > reads[0]["swr_radio"]
    assert reads[1]["arrives_w"] > reads[0]["arrives_w"] + 9
    assert found["verdict"] == "loss"
    assert found["loss_share"] == pytest.approx(1.0, abs=0.001)
    assert found["first"]["swr_load"] == pytest.approx(2.0, rel=1e-4)
    assert found["second"]["swr_load"] == pytest.approx(2.0, rel=1e-4)


@pytest.mark.parametrize(("load", "swr"), [((25, 0), 2.0), ((112.5, 0), 2.25), ((50, 0), 1.0), ((42, -21), 1.627)])
def test_at_resonance_the_swr_is_still_the_ratio(client, load, swr):
    """25 Ω with X = 0 reads 2 : 1 (common practice); the last: |−8 − j21|/|92 − j21| = 22.47/94.37 (by hand)."""
    asked = dict(zip(("resistance_ohm", "reactance_ohm"), load, strict=True))

    assert client.post("/api/line-sums/load", json=asked).json()["swr"] == pytest.approx(swr, abs=0.005)


@pytest.mark.parametrize("resistance", [0, -5])
def test_a_load_that_takes_no_power_is_refused(client, resistance):
    answer = client.post("/api/line-sums/load", json={"resistance_ohm": resistance})

    assert answer.status_code == 422
    assert "without R no power is taken" in answer.json()["detail"]


def test_a_cable_by_its_class_is_known_to_a_tenth_of_its_loss(client):
    by_class = sums(client, 2.0, cable="pe-5", length_m=30.0, at_hz=14.2e6).json()
    in_db = sums(client, 2.0, matched_db=by_class["matched_db"]).json()

    assert by_class["other_low"] < by_class["swr_load"] < by_class["other_high"]
    assert in_db["other_low"] is None
