"""The build sheet over HTTP, and its ticks: kept by state, followed elsewhere, carried over."""

import pytest
from client_helpers import beside, made_build, unun


@pytest.fixture
def unun_design(client):
    build = made_build(client)
    made = {"name": "unun", "content": unun()}
    return client.post(f"/api/builds/{build['id']}/designs", json=made).json()


def at(design, number=1):
    return f"/api/designs/{design['id']}/revisions/{number}"


def sheet_of(client, design, number=1, **query):
    answer = client.get(f"{at(design, number)}/sheet", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def tick(client, design, step, number=1, revision=0, done=True, note=""):
    made = {"step": step, "revision": revision, "done": done, "note": note}
    return client.put(f"{at(design, number)}/ticks", json=made)


class TestSheet:
    def test_what_to_take_and_do(self, client, unun_design):
        sheet = sheet_of(client, unun_design)
        assert (sheet["number"], sheet["newest"], sheet["begun"]) == (1, 1, None)
        assert sheet["steps"][0]["key"] == "cut:unun"
        assert [w["key"] for w in sheet["windings"]] == ["unun"]
        ring = next(t for t in sheet["things"] if t["kind"] == "ring")
        assert (ring["name"], ring["source"]) == ("FT240-43", "buy")
        assert sheet["box"]["posts"] == ["wire post", "counterpoise"]

    def test_what_lies_in_the_drawer(self, client, unun_design):
        core = {"mix": "43", "size": "FT240"}
        piece = {"kind": "core", "name": "ring of the shed", "count": 3, "price": "8.40 each", "values": core}
        client.post("/api/pieces", json=piece)
        ring = next(t for t in sheet_of(client, unun_design, builds=10)["things"] if t["kind"] == "ring")
        assert (ring["source"], ring["have"], ring["count"], ring["price"]) == ("too_few", 3, 10, "8.40 each")

    def test_a_state_that_is_not_there(self, client, unun_design):
        assert client.get(f"{at(unun_design, 9)}/sheet").status_code == 404
        assert client.get(f"{at(unun_design)}/sheet", params={"builds": 101}).status_code == 422

    def test_a_wound_thing_beside(self, client):
        build = made_build(client)
        choke = {
            "kind": "choke",
            "key": "choke",
            "core": {"mix": "31", "size": "FT240"},
            "cable": "ptfe-2.8",
            "outer_m": 2.8e-3,
            "turns": 11,
            "crossed": True,
        }
        made = {"name": "with a choke", "content": beside(choke)}
        design = client.post(f"/api/builds/{build['id']}/designs", json=made).json()
        assert "choke_in_line:choke" in [s["key"] for s in sheet_of(client, design)["steps"]]


class TestTicks:
    def test_kept_with_time_and_note(self, client, unun_design):
        kept = tick(client, unun_design, "cut:unun", note="from the green reel").json()
        assert (kept["done"], kept["revision"]) == (True, 1)
        assert kept["ticked_at"]
        assert sheet_of(client, unun_design)["ticks"] == [kept]
        assert sheet_of(client, unun_design)["begun"] == 1

    def test_sent_twice_it_is_kept_once(self, client, unun_design):
        first, again = (tick(client, unun_design, "solder").json() for _ in range(2))
        assert first == again

    def test_changed_elsewhere_meanwhile(self, client, unun_design):
        tick(client, unun_design, "solder")
        late = tick(client, unun_design, "solder", done=False, note="mine")
        assert late.status_code == 409
        assert late.json()["newest"]["done"] is True
        there = late.json()["newest"]["revision"]
        assert tick(client, unun_design, "solder", revision=there, note="mine").status_code == 200

    def test_taken_away_the_time_goes_too(self, client, unun_design):
        tick(client, unun_design, "solder")
        away = tick(client, unun_design, "solder", revision=1, done=False).json()
        assert (away["done"], away["ticked_at"]) == (False, None)
        assert sheet_of(client, unun_design)["begun"] is None

    @pytest.mark.parametrize("bad", [{"step": ""}, {"step": "x" * 81}, {"revision": -1}, {"note": "n" * 501}])
    def test_refused(self, client, unun_design, bad):
        made = {"step": "solder", "revision": 0, "done": True, "note": "", **bad}
        assert client.put(f"{at(unun_design)}/ticks", json=made).status_code == 422

    def test_no_such_state(self, client, unun_design):
        assert tick(client, unun_design, "solder", number=7).status_code == 404

    def test_only_steps_that_stay_the_same_are_carried_over(self, client, unun_design):
        for step in ("cut:unun", "solder", "count:unun"):
            tick(client, unun_design, step, note="done on Sunday")
        other = unun(secondary_turns=14)
        edited = client.post(f"/api/designs/{unun_design['id']}/revisions", json={"edited": 1, "content": other})
        assert edited.status_code == 201
        assert sheet_of(client, unun_design, 2)["begun"] == 1
        tick(client, unun_design, "solder", number=2, done=False, note="not yet")
        carried = client.post(f"{at(unun_design, 2)}/ticks/carried", json={"number": 1}).json()
        # Two turns fewer: wire and count are others; what was said here stays.
        assert {t["step"]: (t["done"], t["note"]) for t in carried} == {"solder": (False, "not yet")}
        client.post(f"/api/designs/{unun_design['id']}/undo", json={"edited": 2})
        back = client.post(f"{at(unun_design, 3)}/ticks/carried", json={"number": 1}).json()
        assert {t["step"] for t in back} == {"cut:unun", "solder", "count:unun"}
