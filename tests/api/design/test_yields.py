"""How many builds hold, over HTTP."""

import pytest
from client_helpers import best


def ask(client, content, path, **more):
    body = {"content": content, "low_hz": 20.4e6, "high_hz": 22.0e6, **more}
    return client.post(f"/api/{path}", json=body).json()


class TestYields:
    def test_trimming_is_told_only_when_asked(self, client, build):
        content = best(client, build)
        plain, trimmed = (ask(client, content, "yields", builds=512, trimmed=t)["bought"] for t in (False, True))

        assert {b["act"] for b in plain} == {"measured"}
        assert {(b["name"], b["act"]) for b in trimmed} >= {("coil", "trimmed"), ("capacitor", "trimmed")}

    def test_limits_are_those_people_speak_of(self, client, build):
        found = ask(client, best(client, build), "yields", builds=1024)
        at = {row["swr_limit"]: row["parts_share"] for row in found["limits"]}

        assert {1.5, 2.0, 3.0} <= set(at)
        assert at[1.5] <= at[2.0] <= at[3.0]
        assert at[2.0] == pytest.approx(found["parts"]["share"])

    def test_a_part_that_is_measured_already_is_not_offered(self, client, build):
        content = best(client, build)
        elements = [{**e, "spread": 0.01} if e["kind"] == "coil" else e for e in content["elements"]]
        found = ask(client, {**content, "elements": elements}, "yields", builds=256)

        assert "coil" not in {b["name"] for b in found["bought"]}
