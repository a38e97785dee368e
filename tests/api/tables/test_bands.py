"""Bands of three regions, and what the visitor makes of them."""

import pytest


def bands(client):
    return {b["key"]: b for b in client.get("/api/tables/bands").json()["rows"]}


@pytest.mark.parametrize(
    ("region", "edges"),
    [(1, (7.0e6, 7.2e6)), (2, (7.0e6, 7.3e6)), (3, (7.0e6, 7.2e6))],
)
def test_forty_metres_by_region(client, region, edges):
    """ITU Radio Regulations, Article 5: 7.2 MHz is the upper edge in Regions 1 and 3, 7.3 in Region 2 (memory)."""
    client.patch("/api/settings", json={"revision": 1, "region": region})

    row = bands(client)["40m"]
    assert (row["low_hz"], row["high_hz"]) == edges


def test_segments_lie_inside_their_bands(client):
    for region in (1, 2, 3):
        revision = client.get("/api/settings").json()["revision"]
        client.patch("/api/settings", json={"revision": revision, "region": region})
        for band in bands(client).values():
            for segment in band["segments"].values():
                assert band["low_hz"] <= segment["low_hz"] < segment["high_hz"] <= band["high_hz"]


def test_a_changed_edge_is_kept_and_can_be_put_back(client):
    own = {"60m": {"label": "60 m", "low_hz": 5.2585e6, "high_hz": 5.4065e6, "segments": {}}}
    client.patch("/api/settings", json={"revision": 1, "bands": own})
    assert bands(client)["60m"]["high_hz"] == 5.4065e6
    assert bands(client)["60m"]["changed"]

    client.patch("/api/settings", json={"revision": 2, "bands": {}})
    assert bands(client)["60m"]["high_hz"] == 5.3665e6


def test_a_band_of_ones_own_is_suggested_for_a_sweep(client):
    own = {"channel": {"label": "channel 5", "low_hz": 27.01e6, "high_hz": 27.02e6, "segments": {}}}
    client.patch("/api/settings", json={"revision": 1, "bands": own})
    sweep = client.post("/api/sweeps", params={"name": "a.csv"}, content=b"MHz,R,X\n27,50,1\n27.1,50,2\n").json()

    assert [t["label"] for t in sweep["suggested_targets"]] == ["channel 5"]
    assert bands(client)["channel"]["own"]


@pytest.mark.parametrize(
    ("key", "band"),
    [
        ("60m", {"label": "60 m", "low_hz": 5.4e6, "high_hz": 5.3e6}),
        ("60m", {"label": "", "low_hz": 5.3e6, "high_hz": 5.4e6}),
        ("Sixty!", {"label": "60 m", "low_hz": 5.3e6, "high_hz": 5.4e6}),
        ("60m", {"label": "60 m", "low_hz": -1, "high_hz": 5.4e6}),
    ],
)
def test_a_wrong_band_is_refused_and_nothing_changes(client, key, band):
    refused = client.patch("/api/settings", json={"revision": 1, "bands": {key: band}})

    assert refused.status_code == 422
    assert client.get("/api/settings").json()["revision"] == 1
