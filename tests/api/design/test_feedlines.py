"""Other cables for a design, over HTTP."""

import pytest
from client_helpers import best

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
