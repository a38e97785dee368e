"""Photographs over HTTP: kept to the byte, seen upright, refused with words, their place taken out for good."""

from datetime import datetime

import pytest
from client_helpers import made_build
from photographs import opened, photograph


@pytest.fixture
def build(client):
    return made_build(client)


def keep(client, build, data, **query):
    return client.post(f"/api/builds/{build['id']}/photographs", content=data, params={"name": "box.jpg", **query})


def kept(client, build, data, **query):
    answer = keep(client, build, data, **query)
    assert answer.status_code == 201, answer.text
    return answer.json()


def original(client, found):
    return client.get(f"/api/photographs/{found['id']}/original")


def test_the_original_comes_back_to_the_byte(client, build):
    data = photograph(gps=True)
    found = kept(client, build, data)
    assert original(client, found).content == data
    assert found["size"] == len(data)
    assert found["located"] is True
    # Where is never told.
    assert not [k for k in found if "lat" in k or "gps" in k]


def test_its_view_is_upright_and_small(client, build):
    found = kept(client, build, photograph(4000, 3000, orientation=6))
    assert (found["width"], found["height"]) == (3000, 4000)
    answer = client.get(f"/api/photographs/{found['id']}/view")
    assert answer.headers["content-type"] == "image/jpeg"
    assert opened(answer.content).size == (960, 1280)


def test_a_note_of_its_own_when_it_was_taken(client, build):
    data = photograph(taken="2026:05:14 18:03:22")
    found = kept(client, build, data, utc_offset_min=120)
    entry = next(e for e in client.get(f"/api/builds/{build['id']}/entries").json() if e["id"] == found["entry_id"])
    assert entry["data"]["kind"] == "note"
    assert datetime.fromisoformat(entry["happened_at"]) == datetime.fromisoformat("2026-05-14T16:03:22+00:00")


def test_a_clock_that_runs_ahead_is_not_believed(client, build):
    found = kept(client, build, photograph(taken="2099:01:01 00:00:00"))
    log = client.get("/api/log", params={"build_id": build["id"]}).json()
    item = next(i for i in log["items"] if i["id"] == found["entry_id"])
    assert datetime.fromisoformat(item["at"]).year < 2090


def test_at_an_entry_that_is_there(client, build):
    note = {"data": {"kind": "note"}, "text": "drip hole"}
    entry = client.post(f"/api/builds/{build['id']}/entries", json=note).json()
    for name in ("a.jpg", "b.png"):
        kept(client, build, photograph(form=name[2:].replace("jpg", "jpeg")), entry_id=entry["id"], name=name)
    log = client.get("/api/log", params={"build_id": build["id"], "groups": "photographs"}).json()
    assert [p["name"] for i in log["items"] for p in i["photographs"]] == ["a.jpg", "b.png"]


def test_twenty_mebibytes_are_refused_with_words(client, build):
    answer = keep(client, build, bytes(20 * 1024 * 1024))
    assert answer.status_code == 413
    assert "at most 16 MiB" in answer.json()["detail"]


def test_a_renamed_text_is_refused_and_leaves_no_entry(client, build):
    answer = keep(client, build, b"! sweep\n# MHz S RI R 50\n")
    assert answer.status_code == 422
    assert "no JPEG and no PNG" in answer.json()["detail"]
    assert client.get(f"/api/builds/{build['id']}/entries").json() == []


def test_position_goes_for_good_and_the_log_says_so(client, build):
    found = kept(client, build, photograph(gps=True, orientation=8))
    path = f"/api/photographs/{found['id']}/position-removed"
    clean = client.post(path, params={"revision": found["revision"]}).json()
    assert (clean["located"], clean["width"], clean["height"]) == (False, 400, 640)
    assert not opened(original(client, found).content).getexif().get_ifd(0x8825)
    kinds = [e["data"]["kind"] for e in client.get(f"/api/builds/{build['id']}/entries").json()]
    assert kinds == ["note", "position_removed"]
    assert client.post(path, params={"revision": found["revision"]}).status_code == 409


def test_binned_and_back(client, build):
    found = kept(client, build, photograph())
    path = f"/api/photographs/{found['id']}"
    assert client.delete(path, params={"revision": found["revision"]}).status_code == 204
    assert client.get(f"{path}/view").status_code == 404
    assert client.post(f"{path}/restore").json()["id"] == found["id"]
    assert client.get(f"{path}/view").status_code == 200
