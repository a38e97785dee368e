"""Builds over HTTP: changes, the bin, duplicates, the baseline, the invented ones."""

import pytest
from client_helpers import BAND, DEMO_BUILDS, coil_of, drop, made_build, made_design, revise


class TestBuilds:
    def test_a_build_takes_its_target_from_its_sweep(self, build):
        assert build["targets"] == [BAND]

    def test_a_stale_change_gets_the_newest(self, client, build):
        url = f"/api/builds/{build['id']}"
        assert client.patch(url, json={"revision": 1, "power_w": 10}).json()["revision"] == 2

        stale = client.patch(url, json={"revision": 1, "power_w": 400})
        assert stale.status_code == 409
        assert stale.json()["newest"]["power_w"] == 10

    def test_a_band_outside_the_sweep_is_not_kept(self, client, build):
        url = f"/api/builds/{build['id']}"
        refused = client.patch(url, json={"revision": 1, "targets": [{**BAND, "high_hz": 30e6}]})

        assert refused.status_code == 422
        assert client.get(url).json()["targets"] == [BAND]

    def test_the_bin_and_back(self, client, build, design):
        url = f"/api/builds/{build['id']}"
        assert client.delete(url, params={"revision": 1}).status_code == 204
        assert client.get("/api/builds").json() == []
        assert client.get(url).json()["in_bin"] is True

        assert client.post(f"{url}/restore").status_code == 200
        assert client.get(f"{url}/designs").json()[0]["id"] == design["id"]

    @pytest.mark.parametrize("power", [0, -5, "nan", None])
    def test_power_that_is_none_is_refused(self, client, build, power):
        refused = client.patch(f"/api/builds/{build['id']}", json={"revision": 1, "power_w": power})

        assert refused.status_code == (200 if power is None else 422)  # null leaves it as it is
        assert client.get(f"/api/builds/{build['id']}").json()["power_w"] == 100

    def test_the_units_switch_is_kept(self, client):
        client.patch("/api/settings", json={"revision": 1, "units": "ft"})

        assert client.get("/api/settings").json() == {"revision": 2, "units": "ft", "region": 1, "bands": {}}
        assert client.patch("/api/settings", json={"revision": 1, "units": "m"}).status_code == 409


def test_the_demo_is_laid_in_once_and_never_over_a_users_data(client, engine, build):
    from sqlalchemy.orm import Session

    from yielding_coil import demo

    for fresh, laid in ((False, True), (False, False), (True, True)):
        with Session(engine) as session, session.begin():
            assert demo.lay_in(session, fresh=fresh) is laid
    names = [b["name"] for b in client.get("/api/builds").json()]
    assert sorted(names) == ["Allotment", *DEMO_BUILDS]


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

    def test_a_sweep_that_a_design_hangs_on_stays_until_the_design_goes(self, client, build, design):
        other = drop(client, name="wet.s1p").json()
        content = {**design["revision"]["content"], "antenna": {"kind": "sweep", "sweep_id": other["id"]}}
        made = client.post(
            f"/api/builds/{build['id']}/designs", json={"name": "Wet one", "content": content}
        ).json()
        url = f"/api/sweeps/{other['id']}"
        band = {edge: build["targets"][0][edge] for edge in ("low_hz", "high_hz")}
        refused = client.delete(url, params={"revision": 1})

        assert (refused.status_code, refused.json()["code"]) == (409, "in_use")
        assert "the design “Wet one”" in refused.json()["detail"]
        client.delete(f"/api/designs/{made['id']}", params={"name_revision": 1})
        assert client.delete(url, params={"revision": 1}).status_code == 204
        client.post(f"/api/designs/{made['id']}/restore")
        shown = client.post("/api/predictions", json={"content": content, **band})
        assert shown.status_code == 200

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


def test_the_demo_is_laid_in_anew_when_asked(client, build):
    first = client.post("/api/demo").json()
    again = client.post("/api/demo").json()
    names = [b["name"] for b in client.get("/api/builds").json()]

    assert {b["id"] for b in first}.isdisjoint(b["id"] for b in again)
    assert sorted(names) == ["Allotment", *DEMO_BUILDS]
    assert len(client.get("/api/bin").json()) == len(DEMO_BUILDS)
