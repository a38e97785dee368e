"""What stands beside a match: other coax, other limits, measuring and trimming, the floor."""

import pytest
from asking import DEMO_BUILDS, best

from yielding_coil import data


def ask(client, content, path, **more):
    body = {"content": content, "low_hz": 20.4e6, "high_hz": 22.0e6, **more}
    return client.post(f"/api/{path}", json=body).json()


class TestOtherCoax:
    def rows(self, client, build, **more):
        return client.post("/api/feedlines", json={"content": best(client, build), **more}).json()

    def test_every_coax_of_the_table_least_loss_first(self, client, build):
        rows = self.rows(client, build)

        assert {r["cable"] for r in rows} == {key for key, row in data.cables().items() if row.coax}
        losses = [r["loss_w"] for r in rows]
        assert losses == sorted(losses)
        assert [r["cable"] for r in rows if r["here"]] == ["foam-6"]

    def test_the_present_one_is_as_predicted(self, client, build):
        content = best(client, build)
        here = next(r for r in self.rows(client, build) if r["here"])
        line = next(m for m in ask(client, content, "predictions")["made"] if m["kind"] == "line")

        assert here["loss_db"] == pytest.approx(line["loss_db"], rel=1e-3)

    def test_watts_follow_the_power(self, client, build):
        low, high = (self.rows(client, build, power_w=p)[0] for p in (10, 100))

        assert high["loss_w"] == pytest.approx(10 * low["loss_w"], rel=1e-4)

    def test_without_a_line_there_is_nothing_to_compare(self, client, build):
        content = best(client, build)
        content = {**content, "elements": [e for e in content["elements"] if e["kind"] != "line"]}

        assert client.post("/api/feedlines", json={"content": content}).json() == []


class TestYields:
    def test_trimming_is_told_only_when_asked(self, client, build):
        content = best(client, build)
        plain, trimmed = (ask(client, content, "yields", builds=512, trimmed=t)["bought"] for t in (False, True))

        assert {b["act"] for b in plain} == {"measured"}
        assert {(b["name"], b["act"]) for b in trimmed} >= {("coil", "trimmed"), ("capacitor", "trimmed")}

    def test_limits_are_those_people_speak_of(self, client, build):
        found = ask(client, best(client, build), "yields", builds=1024)
        at = {row["swr_limit"]: row["parts_share"] for row in found["limits"]}

        assert list(at) == [1.5, 2.0, 3.0]
        assert at[1.5] <= at[2.0] <= at[3.0]
        assert at[2.0] == pytest.approx(found["parts"]["share"])

    def test_a_part_that_is_measured_already_is_not_offered(self, client, build):
        content = best(client, build)
        elements = [{**e, "spread": 0.01} if e["kind"] == "coil" else e for e in content["elements"]]
        found = ask(client, {**content, "elements": elements}, "yields", builds=256)

        assert "coil" not in {b["name"] for b in found["bought"]}


def test_the_prediction_carries_the_floor_of_each_target(client, build):
    target = ask(client, best(client, build), "predictions")["targets"][0]

    assert target["worst_swr"] > target["floor"]["any"] > 1
    assert target["floor"]["q"] > 10


def test_a_resistor_has_no_floor(client):
    band = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
    content = {"antenna": {"kind": "resistor", "resistance_ohm": 100}, "targets": [band], "elements": []}

    assert ask(client, content, "predictions")["targets"][0]["floor"] is None


def test_the_demo_is_laid_in_anew_when_asked(client, build):
    first = client.post("/api/demo").json()
    again = client.post("/api/demo").json()
    names = [b["name"] for b in client.get("/api/builds").json()]

    assert {b["id"] for b in first}.isdisjoint(b["id"] for b in again)
    assert sorted(names) == ["Allotment", *DEMO_BUILDS]
    assert len(client.get("/api/bin").json()) == len(DEMO_BUILDS)
