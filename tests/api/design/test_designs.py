"""Designs over HTTP: every edit kept, undo and redo, none silently lost."""

from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from client_helpers import coil_of, revise, turned
from patience import PATIENCE_S


class TestDesigns:
    def test_edits_undo_and_redo_walk_and_every_state_is_kept(self, client, design):
        url = f"/api/designs/{design['id']}"
        first = coil_of(design["revision"])
        for edited, value in ((1, 2.0e-6), (2, 1.9e-6)):
            body = {"edited": edited, "content": turned(design, value)}
            assert client.post(f"{url}/revisions", json=body).status_code == 201

        def walk(way, edited):
            return client.post(f"{url}/{way}", json={"edited": edited}).json()

        assert coil_of(walk("undo", 3)) == 2.0e-6
        back = walk("undo", 4)
        assert (coil_of(back), back["can_undo"], back["can_redo"]) == (first, False, True)
        assert coil_of(walk("redo", 5)) == 2.0e-6
        last = walk("redo", 6)
        assert (coil_of(last), last["number"], last["can_redo"]) == (1.9e-6, 7, False)
        assert coil_of(client.get(f"{url}/revisions/2").json()) == 2.0e-6

    def test_an_edit_after_undo_ends_the_way_forward(self, client, design):
        url = f"/api/designs/{design['id']}"
        client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 2.0e-6)})
        client.post(f"{url}/undo", json={"edited": 2})
        new = client.post(f"{url}/revisions", json={"edited": 3, "content": turned(design, 1.8e-6)}).json()

        assert (new["can_undo"], new["can_redo"]) == (True, False)
        nothing = client.post(f"{url}/redo", json={"edited": 4})
        assert (nothing.status_code, nothing.json()["code"]) == (409, "nothing_to_walk")

    def test_a_stale_edit_gets_409_and_changes_nothing(self, client, design):
        url = f"/api/designs/{design['id']}"
        client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 2.0e-6)})
        stale = client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 1.5e-6)})

        assert (stale.status_code, stale.json()["code"], stale.json()["newest_number"]) == (
            409,
            "stale_edit",
            2,
        )
        assert coil_of(client.get(url).json()["revision"]) == 2.0e-6

    def test_of_many_at_once_one_wins_and_the_rest_are_told(self, client, design):
        url = f"/api/designs/{design['id']}/revisions"

        def edit(n):
            body = {"edited": 1, "content": turned(design, (2 + n / 100) * 1e-6)}
            return client.post(url, json=body).status_code

        with ThreadPoolExecutor(8) as pool:
            codes = sorted(pool.map(edit, range(16)))
        assert codes == [201] + [409] * 15

    def test_the_shelf_shows_what_the_design_says(self, client, build, design):
        shown = client.get("/api/builds").json()[0]

        assert shown["chosen_design_id"] == design["id"]
        assert shown["worst_swr"] == pytest.approx(1.53, abs=0.02)
        assert 0.9 < shown["share"] <= 1

    def test_a_design_that_cannot_be_is_not_kept(self, client, design):
        url = f"/api/designs/{design['id']}"
        refused = client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 1.0)})

        assert refused.status_code == 422
        assert client.get(url).json()["revision"]["number"] == 1


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


@pytest.mark.deep
@pytest.mark.trial
def test_a_thousand_conflicting_saves_lose_nothing_silently(client, address, design, trials):
    """Two pages save on one design as fast as they can; whoever is refused keeps theirs as a design of its own."""
    each = 500 if trials.whole else 100
    content = design["revision"]["content"]
    build_id = design["build_id"]

    def page(first):
        kept, refused, edited = [], 0, 1
        with httpx.Client(base_url=address, timeout=PATIENCE_S) as own:
            for k in range(each):
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
    assert sum(len(kept) for kept, _ in found) == 2 * each
    assert sum(refused for _, refused in found) > 0
    designs = {d["id"]: d for d in client.get(f"/api/builds/{build_id}/designs").json()}
    for kept, _ in found:
        for kind, where, value in kept:
            if kind == "design":
                revision = designs[where]["revision"]
            else:
                revision = client.get(f"/api/designs/{design['id']}/revisions/{where}").json()
            assert coil_of(revision) == value
