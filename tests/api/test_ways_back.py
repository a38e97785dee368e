"""Names, copies, history and the bin: nothing is lost by a slip."""

from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from asking import coil_of, drop, made_build, made_design, turned


def revise(client, design, edited, inductance_h):
    body = {"edited": edited, "content": turned(design, inductance_h)}
    return client.post(f"/api/designs/{design['id']}/revisions", json=body)


class TestHistory:
    def test_every_state_can_be_named_and_seen_again(self, client, design):
        revise(client, design, 1, 2.0e-6)
        client.patch(f"/api/designs/{design['id']}/revisions/1", json={"label": "  before the rain "})
        heads = client.get(f"/api/designs/{design['id']}/revisions").json()

        assert [h["number"] for h in heads] == [2, 1]
        assert [h["label"] for h in heads] == ["", "before the rain"]
        assert heads[1]["share"] > heads[0]["share"]
        first = client.get(f"/api/designs/{design['id']}/revisions/1").json()
        assert coil_of(first) == pytest.approx(coil_of(design["revision"]))

    def test_an_edit_sent_twice_is_kept_once(self, client, design):
        """As when the answer to the first sending was lost."""
        first, second = (revise(client, design, 1, 2.0e-6) for _ in range(2))

        assert (first.status_code, second.status_code) == (201, 201)
        assert first.json()["number"] == second.json()["number"] == 2

    def test_another_edit_of_the_same_state_is_refused_with_the_newest(self, client, design):
        revise(client, design, 1, 2.0e-6)
        refused = revise(client, design, 1, 1.9e-6)

        assert (refused.status_code, refused.json()["newest_number"]) == (409, 2)


class TestNames:
    def test_a_design_gets_another_name(self, client, design):
        url = f"/api/designs/{design['id']}"
        renamed = client.patch(url, json={"name": "for the summer", "name_revision": 1}).json()

        assert (renamed["name"], renamed["name_revision"]) == ("for the summer", 2)
        stale = client.patch(url, json={"name": "for the winter", "name_revision": 1})
        assert (stale.status_code, stale.json()["newest"]["name"]) == (409, "for the summer")

    def test_a_sweep_gets_another_name_and_keeps_its_file(self, client, build):
        url = f"/api/sweeps/{build['baseline_sweep_id']}"
        renamed = client.patch(url, json={"revision": 1, "name": "dry, at noon"}).json()

        assert renamed["name"] == "dry, at noon"
        assert "allotment.s1p" in client.get(f"{url}/original").headers["content-disposition"]
        assert client.patch(url, json={"revision": 1, "name": "x"}).status_code == 409


class TestBin:
    def things(self, client):
        return {(b["kind"], b["name"]) for b in client.get("/api/bin").json()}

    def test_a_sweep_goes_and_comes_back(self, client, build):
        params = {"name": "wet.s1p", "build_id": build["id"]}
        other = client.post("/api/sweeps", params=params, content=b"# MHz S RI R 50\n20 0 0\n23 0 0\n").json()
        assert client.delete(f"/api/sweeps/{other['id']}", params={"revision": 1}).status_code == 204

        assert self.things(client) == {("sweep", "wet.s1p")}
        gone = client.get(f"/api/sweeps/{other['id']}")
        assert (gone.status_code, gone.json()["in_bin"]) == (404, True)
        assert len(client.get(f"/api/builds/{build['id']}").json()["sweeps"]) == 1
        client.post(f"/api/sweeps/{other['id']}/restore")
        assert len(client.get(f"/api/builds/{build['id']}").json()["sweeps"]) == 2

    def test_the_sweep_that_the_match_hangs_on_stays(self, client, build):
        refused = client.delete(f"/api/sweeps/{build['baseline_sweep_id']}", params={"revision": 1})

        assert (refused.status_code, refused.json()["code"]) == (409, "in_use")

    def test_a_design_goes_and_the_shelf_shows_the_next(self, client, build, design):
        other = made_design(client, build, "second")
        client.delete(f"/api/designs/{other['id']}", params={"name_revision": 1})

        assert client.get(f"/api/builds/{build['id']}").json()["chosen_design_id"] == design["id"]
        assert self.things(client) == {("design", "second")}
        back = client.post(f"/api/designs/{other['id']}/restore").json()
        assert back["name"] == "second"
        assert len(client.get(f"/api/builds/{build['id']}/designs").json()) == 2

    def test_the_last_design_too(self, client, build, design):
        client.delete(f"/api/designs/{design['id']}", params={"name_revision": 1})
        assert client.get(f"/api/builds/{build['id']}").json()["chosen_design_id"] is None

        client.post(f"/api/designs/{design['id']}/restore")
        assert client.get(f"/api/builds/{build['id']}").json()["chosen_design_id"] == design["id"]

    def test_a_build_hides_what_is_in_it(self, client, build, design):
        client.delete(f"/api/designs/{design['id']}", params={"name_revision": 1})
        client.delete(f"/api/builds/{build['id']}", params={"revision": build["revision"]})

        assert self.things(client) == {("build", "Allotment")}
        client.post(f"/api/builds/{build['id']}/restore")
        assert self.things(client) == {("design", "Coil up")}


class TestDuplicate:
    def test_a_copy_lives_a_life_of_its_own(self, client, build, design):
        revise(client, design, 1, 2.0e-6)
        copy = client.post(f"/api/builds/{build['id']}/duplicate", json={"name": "Copy"}).json()
        made = client.get(f"/api/builds/{copy['id']}/designs").json()[0]

        assert copy["baseline_sweep_id"] != build["baseline_sweep_id"]
        assert made["revision"]["content"]["antenna"]["sweep_id"] == copy["baseline_sweep_id"]
        assert coil_of(made["revision"]) == 2.0e-6
        revise(client, made, 1, 1.5e-6)
        assert coil_of(client.get(f"/api/designs/{design['id']}").json()["revision"]) == 2.0e-6
        files = [client.get(f"/api/sweeps/{b['baseline_sweep_id']}/original").content for b in (build, copy)]
        assert files[0] == files[1]


class TestBaseline:
    def test_the_match_hangs_on_another_sweep(self, client, build):
        params = {"name": "wide.csv", "build_id": build["id"]}
        rows = b"MHz,R,X\n20,60,-400\n21.2,85,-411\n22.5,120,-300\n"
        other = client.post("/api/sweeps", params=params, content=rows).json()
        patch = {"revision": build["revision"], "baseline_sweep_id": other["id"]}
        changed = client.patch(f"/api/builds/{build['id']}", json=patch).json()

        assert changed["baseline_sweep_id"] == other["id"]

    def test_a_sweep_of_another_build_is_refused(self, client, build):
        other = made_build(client, "Loft")
        patch = {"revision": build["revision"], "baseline_sweep_id": other["baseline_sweep_id"]}
        refused = client.patch(f"/api/builds/{build['id']}", json=patch)

        assert refused.status_code == 422
        assert "of this build" in refused.json()["detail"]

    def test_a_sweep_serves_one_build(self, client, build):
        again = client.post("/api/builds", json={"name": "Again", "sweep_id": build["baseline_sweep_id"]})

        assert (again.status_code, again.json()["code"]) == (409, "in_use")

    def test_several_sweeps_make_one_build(self, client):
        first, second = drop(client).json(), drop(client).json()
        made = {"name": "Both", "sweep_id": first["id"], "more_sweep_ids": [second["id"]]}
        build = client.post("/api/builds", json=made).json()

        assert {s["id"] for s in build["sweeps"]} == {first["id"], second["id"]}


@pytest.mark.deep
def test_a_thousand_conflicting_saves_lose_nothing_silently(client, address, design):
    """Two pages save on one design as fast as they can; whoever is refused keeps theirs as a design of its own."""
    content = design["revision"]["content"]
    build_id = design["build_id"]

    def page(first):
        kept, refused, edited = [], 0, 1
        with httpx.Client(base_url=address, timeout=60) as own:
            for k in range(500):
                value = (first + 2 * k) * 1e-9
                body = {"edited": edited, "content": turned({"revision": {"content": content}}, value)}
                answer = own.post(f"/api/designs/{design['id']}/revisions", json=body)
                if answer.status_code == 201:
                    edited = answer.json()["number"]
                    kept.append(("revision", edited, value))
                else:
                    assert answer.status_code == 409
                    refused += 1
                    edited = answer.json()["newest_number"]
                    mine = {"name": f"mine {first} {k}", "content": body["content"]}
                    made = own.post(f"/api/builds/{build_id}/designs", json=mine)
                    assert made.status_code == 201
                    kept.append(("design", made.json()["id"], value))
        return kept, refused

    with ThreadPoolExecutor(2) as pages:
        found = list(pages.map(page, (1000, 1001)))
    assert sum(len(kept) for kept, _ in found) == 1000
    assert sum(refused for _, refused in found) > 0
    designs = {d["id"]: d for d in client.get(f"/api/builds/{build_id}/designs").json()}
    for kept, _ in found:
        for kind, where, value in kept:
            if kind == "design":
                revision = designs[where]["revision"]
            else:
                revision = client.get(f"/api/designs/{design['id']}/revisions/{where}").json()
            assert coil_of(revision) == value
