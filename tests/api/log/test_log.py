"""One line of time: all that happened, filtered, searched, a page at a time; and what was so on any day."""

import time
from datetime import UTC, datetime, timedelta
from uuid import uuid4

import pytest
from client_helpers import drop, hung, logged, made_build, made_design, read, wire_build


def dip(mhz):
    return {"kind": "dip", "meter": "meter", "dip_hz": mhz * 1e6, "swr": 1.4}


def log_of(client, **query):
    answer = client.get("/api/log", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def note(client, build, text, days_ago=0, **more):
    at = datetime.now(UTC) - timedelta(days=days_ago)
    data = {"data": {"kind": "note"}, "text": text, "happened_at": at.isoformat(), **more}
    answer = client.post(f"/api/builds/{build['id']}/entries", json=data)
    assert answer.status_code == 201, answer.text
    return answer.json()


def seen(found):
    """What each place shows, in a word."""
    return [
        i["entry"]["data"]["kind"] if i["entry"] else "sweep" if i["sweep"] else f"state {i['state']['number']}"
        for i in found["items"]
    ]


class TestLine:
    def test_everything_newest_first(self, client):
        build = made_build(client)
        made_design(client, build)
        note(client, build, "bought the ring", days_ago=30)
        note(client, build, "it hangs")
        found = log_of(client, build_id=build["id"])
        assert seen(found) == ["note", "state 1", "sweep", "note"]
        assert found["older"] is None
        assert found["whole"] == 4

    def test_a_sweep_that_an_entry_shows_is_seen_once(self, client):
        build = made_build(client)
        sweep = client.get(f"/api/builds/{build['id']}").json()["sweeps"][0]
        check = {"kind": "bench_check", "passed": True}
        client.post(f"/api/builds/{build['id']}/entries", json={"data": check, "sweep_id": sweep["id"]})
        found = log_of(client, build_id=build["id"])
        assert seen(found) == ["bench_check"]
        assert found["items"][0]["sweep"]["id"] == sweep["id"]
        assert seen(log_of(client, build_id=build["id"], groups="sweeps")) == ["sweep"]

    def test_a_state_with_a_name(self, client):
        build = made_build(client)
        design = made_design(client, build)
        content = design["revision"]["content"]
        made = {"edited": 1, "content": content, "label": "as built"}
        client.post(f"/api/designs/{design['id']}/revisions", json=made)
        assert seen(log_of(client, build_id=build["id"], groups="designs")) == ["state 2", "state 1"]

    def test_page_by_page_without_a_gap(self, client):
        build = wire_build(client)
        for k in range(25):
            note(client, build, f"note {k}", days_ago=k // 3)
        texts, before = [], None
        while True:
            page = log_of(client, build_id=build["id"], limit=4, **({"before": before} if before else {}))
            texts += [i["entry"]["text"] for i in page["items"]]
            before = page["older"]
            if before is None:
                break
        assert sorted(texts) == sorted(f"note {k}" for k in range(25))

    @pytest.mark.parametrize("cursor", ["x", "", "2026", "AAAA", "!!", "MjAyNi0wMS0wMSB4"])
    def test_a_cursor_of_ones_own_is_refused(self, client, cursor):
        assert client.get("/api/log", params={"before": cursor}).status_code == 422

    def test_search_over_all_builds(self, client):
        one, other = wire_build(client, name="Loft dipole"), wire_build(client, name="Orchard wire")
        note(client, one, "the GREEN reel, 100 % full")
        note(client, other, "green paint on the mast")
        note(client, other, "blue")
        found = log_of(client, text="green")
        assert sorted(i["build"] for i in found["items"]) == ["Loft dipole", "Orchard wire"]
        # What means something to a database means itself here.
        assert [i["build"] for i in log_of(client, text="100 %")["items"]] == ["Loft dipole"]
        assert log_of(client, text="_%_")["items"] == []

    def test_builds_in_the_bin_are_not_searched(self, client):
        build = wire_build(client, name="Gone")
        note(client, build, "quite unlike anything")
        revision = client.get(f"/api/builds/{build['id']}").json()["revision"]
        client.delete(f"/api/builds/{build['id']}", params={"revision": revision})
        assert log_of(client, text="quite unlike anything")["items"] == []

    def test_by_group(self, client):
        build = wire_build(client)
        hung(client, build, 2.96)
        read(client, build, dip(24.2))
        logged(client, build, {"kind": "on_air", "evidence": "report", "band": "12 m"}, text="weak")
        logged(client, build, {"kind": "remind", "when": "after_storm"})
        groups = {"acts": ["hung"], "readings": ["reading"], "air": ["on_air"], "notes": ["remind"], "checks": []}
        for group, kinds in groups.items():
            assert seen(log_of(client, build_id=build["id"], groups=group)) == kinds
        assert len(seen(log_of(client, build_id=build["id"], groups=["acts", "air"]))) == 2
        assert client.get("/api/log", params={"groups": "nonsense"}).status_code == 422


class TestEntries:
    def test_told_later(self, client):
        build = wire_build(client)
        entry = note(client, build, "hung the pole", days_ago=400)
        assert datetime.fromisoformat(entry["happened_at"]).year < datetime.now(UTC).year

    @pytest.mark.parametrize("at", ["1850-01-01T00:00:00Z", "2999-01-01T00:00:00Z"])
    def test_not_in_the_future_nor_before_radio(self, client, at):
        build = wire_build(client)
        made = {"data": {"kind": "note"}, "happened_at": at}
        assert client.post(f"/api/builds/{build['id']}/entries", json=made).status_code == 422

    def test_acts_on_the_wire_are_told_as_they_happen(self, client):
        build = wire_build(client)
        made = {"data": {"kind": "hung", "reach_m": [2.9]}, "happened_at": "2026-01-01T00:00:00Z"}
        answer = client.post(f"/api/builds/{build['id']}/entries", json=made)
        assert answer.status_code == 422
        assert "told as it happens" in answer.json()["detail"]

    def test_told_out_of_reach_and_told_again(self, client):
        """A phone says how long ago, since its clock may be wrong; what it tells twice is there once."""
        build, other = wire_build(client), wire_build(client, name="Loft")
        path, own = f"/api/builds/{build['id']}/entries", str(uuid4())
        made = {"id": own, "data": {"kind": "hung", "reach_m": [2.9]}, "waited_s": 600}
        first, again = client.post(path, json=made), client.post(path, json={**made, "waited_s": 605})
        elsewhere = client.post(f"/api/builds/{other['id']}/entries", json=made)
        ahead = client.post(path, json={**made, "id": str(uuid4()), "waited_s": -1})
        ago = datetime.now(UTC) - datetime.fromisoformat(first.json()["happened_at"])

        assert timedelta(seconds=600) <= ago < timedelta(seconds=660)
        assert again.json() == first.json()
        assert [e["id"] for e in client.get(path).json()] == [own]
        assert (elsewhere.status_code, ahead.status_code) == (422, 422)
        assert "no other build" in elsewhere.json()["detail"]

    def test_other_words(self, client):
        build = wire_build(client)
        entry = note(client, build, "thre feet")
        path, patch = f"/api/entries/{entry['id']}", {"revision": entry["revision"], "text": "three feet"}
        assert client.patch(path, json=patch).json()["text"] == "three feet"
        assert client.patch(path, json={**patch, "text": "four"}).status_code == 409

    def test_checked_again_needs_the_sweep_before(self, client):
        build = made_build(client)
        sweep = client.get(f"/api/builds/{build['id']}").json()["sweeps"][0]["id"]
        data = {"kind": "checked_again", "after": "glue", "before_sweep_id": sweep}
        made = {"data": data, "sweep_id": sweep}
        assert client.post(f"/api/builds/{build['id']}/entries", json=made).status_code == 201
        made["data"]["before_sweep_id"] = "00000000-0000-4000-8000-000000000000"
        assert client.post(f"/api/builds/{build['id']}/entries", json=made).status_code == 404


class TestThen:
    def test_lengths_design_and_sweep_of_a_moment(self, client):
        build = made_build(client)
        design = made_design(client, build)
        before = datetime.now(UTC)
        hung(client, build, 8.75)
        time.sleep(0)
        middle = datetime.now(UTC)
        client.post(
            f"/api/builds/{build['id']}/entries",
            json={"data": {"kind": "cut", "act": "fold", "per_leg_m": [0.05, 0.05]}},
        )
        other = drop(client).json()
        client.post(
            f"/api/designs/{design['id']}/revisions", json={"edited": 1, "content": design["revision"]["content"]}
        )

        def then(at):
            answer = client.get(f"/api/builds/{build['id']}/then", params={"at": at.isoformat()})
            assert answer.status_code == 200, answer.text
            return answer.json()

        assert then(before)["legs"] == []
        assert then(middle)["legs"] == [{"reach_m": 8.75, "folded_m": 0.0}]
        assert then(datetime.now(UTC))["legs"] == [{"reach_m": 8.75, "folded_m": 0.05}]
        assert then(middle)["state"]["number"] == 1
        assert then(datetime.now(UTC))["state"]["number"] == 2
        assert then(middle)["sweep"]["id"] != other["id"]
        early = then(before - timedelta(days=3))
        assert (early["sweep"], early["state"], early["last"]) == (None, None, None)

    def test_the_state_that_it_was_built_by(self, client):
        build = made_build(client)
        design = made_design(client, build)
        client.post(
            f"/api/designs/{design['id']}/revisions", json={"edited": 1, "content": design["revision"]["content"]}
        )
        logged(client, build, {"kind": "built", "design_id": design["id"], "number": 1})
        now = datetime.now(UTC).isoformat()
        found = client.get(f"/api/builds/{build['id']}/then", params={"at": now}).json()
        assert found["state"]["number"] == 1


def test_the_same_sweep_again_has_not_moved(client):
    build = made_build(client)
    sweep = client.get(f"/api/builds/{build['id']}").json()["sweeps"][0]["id"]
    asked = {"first": sweep, "second": sweep, "targets": build["targets"]}
    found = client.post("/api/sweeps/moved", json=asked).json()
    assert (found["state"], found["reflection_change"]) == ("still", 0.0)
