"""Finding a fault over HTTP: told, tested, refused, mended; and practised on the simulated site."""

import pytest
from sqlalchemy import text

from yielding_coil.api.diagnosis import cases, practice

pytestmark = pytest.mark.deep

BAND = {"label": "40 m", "low_hz": 7.0e6, "high_hz": 7.2e6, "swr_limit": 2.0}
PLAN = {
    "form": "dipole",
    "antenna": {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 10.05, "height_m": 9}},
}


@pytest.fixture
def dipole(client):
    """A planned dipole for 40 m, not designed, never swept."""
    made = {"name": "orchard dipole", "targets": [BAND], "wire": PLAN}
    return client.post("/api/builds", json=made).json()


def told(client, build, data, **more):
    return client.post(f"/api/builds/{build['id']}/entries", json={"data": data, **more})


def fault_of(client, build):
    answer = client.get(f"/api/builds/{build['id']}/fault")
    assert answer.status_code == 200, answer.text
    return answer.json()


LINE = {"cable": "pe-5", "length_m": 25.0}


def begun(client, build, **more):
    answer = told(client, build, {"kind": "fault_begun", "line": LINE, **more})
    assert answer.status_code == 201, answer.text
    return answer.json()


class TestSearch:
    def test_what_is_missing_is_said(self, client, dipole):
        assert fault_of(client, dipole)["missing"] == ["line"]
        told(client, dipole, {"kind": "fault_begun", "line": LINE})
        found = fault_of(client, dipole)
        assert (found["missing"], found["known_by"], found["line_m"]) == ([], "plan", 25.0)
        assert found["feed_at"] == "ladder"
        assert [e["key"] for e in found["elements"]][-3:] == ["radio plug", "lead", "tuner"]

    def test_gone_on_the_only_band(self, client, dipole):
        begun(client, dipole, bands={"40 m": "gone"}, happened=["storm"])
        found = fault_of(client, dipole)
        assert found["state"] == "looking"
        # By word of mouth and dial alone nothing is at nine in ten.
        assert found["left"][0]["odds"] < 0.9
        assert found["offered"][0]["where"] == "shack"
        assert all(o["cautions"][0] == "radio_off" for o in found["offered"])

    def test_an_ohmmeter_and_a_look(self, client, dipole):
        begun(client, dipole, bands={"40 m": "gone"})
        before = fault_of(client, dipole)
        told(client, dipole, {"kind": "fault_test", "act": "ohm_shack", "reading": {"kind": "ohm", "ohm": 0.8}})
        after = fault_of(client, dipole)
        assert [t["code"] for t in after["tests"]] == ["ohm_shack"]
        shorts = {(e["key"], e["code"]): e["odds"] for e in after["left"]}
        assert shorts[("line", "shorted")] > 0.2
        assert len(before["offered"]) == len(after["offered"]) + 1
        assert {e["key"]: e["state"] for e in after["elements"]}["leg1"] == "cleared"

    def test_what_cannot_be_done_is_not_offered(self, client, dipole):
        begun(client, dipole, bands={"40 m": "gone"})
        told(client, dipole, {"kind": "fault_test", "act": "look_up", "skipped": True})
        assert "look_up" not in [o["key"] for o in fault_of(client, dipole)["offered"]]


class TestRefusals:
    @pytest.mark.parametrize(
        ("reading", "of"),
        [
            ({"kind": "look", "answer": "yes"}, "ohm_shack"),
            ({"kind": "ohm", "ohm": 3.0}, "look_up"),
            ({"kind": "look", "answer": "perhaps"}, "look_up"),
            ({"kind": "dial", "points": [{"frequency_hz": 90e6, "swr": 2.0}]}, "as_it_is"),
            ({"kind": "bands", "bands": {"2 m": "gone"}}, "as_it_is"),
            ({"kind": "ohm", "ohm": 3.0}, "no_such_test"),
            ({"kind": "sweep"}, "as_it_is"),
        ],
        ids=["seen", "measured", "answer", "frequency", "band", "act", "without a sweep"],
    )
    def test_a_reading_that_its_test_has_not_stands_with_why(self, client, dipole, reading, of):
        begun(client, dipole)
        told(client, dipole, {"kind": "fault_test", "act": of, "reading": reading})
        (test,) = fault_of(client, dipole)["tests"]
        assert test["problem"]["accepted"]

    def test_neither_done_nor_skipped(self, client, dipole):
        answer = told(client, dipole, {"kind": "fault_test", "act": "look_up"})
        assert answer.status_code == 422

    def test_answers_that_contradict(self, client, dipole):
        begun(client, dipole)
        for act, ohm in (("ohm_line_open", 0.3), ("ohm_line_short", None)):
            told(client, dipole, {"kind": "fault_test", "act": act, "reading": {"kind": "ohm", "ohm": ohm}})
        found = fault_of(client, dipole)
        assert found["state"] == "contradiction"
        assert [found["against"]["first"], found["against"]["second"]] == [t["entry_id"] for t in found["tests"]]

    def test_no_band_no_search(self, client):
        build = client.post("/api/builds", json={"name": "loft", "targets": [BAND]}).json()
        assert fault_of(client, build)["missing"] == ["antenna"]


class TestByWord:
    def test_the_clubs_version(self, client):
        build = client.post("/api/builds", json={"name": "the narrowboat's", "targets": [BAND]}).json()
        begun(
            client,
            build,
            line=None,
            told={"antenna": "end-fed", "line_m": 12},
            bands={"40 m": "gone"},
            instrument="dial",
        )
        found = fault_of(client, build)
        assert (found["known_by"], found["baseline"]) == ("word", None)
        assert "unun" in [e["key"] for e in found["elements"]]
        assert found["left"][0]["odds"] < 0.5


class TestPractice:
    def test_a_round(self, client, bench, dipole):
        client.put("/api/analyser/link", json={"kind": "simulated"})
        answer = client.post(
            f"/api/builds/{dipole['id']}/fault/practice", json={"begun": {"kind": "fault_begun", "line": LINE}}
        )
        assert answer.status_code == 201, answer.text
        found = fault_of(client, dipole)
        assert found["baseline"]["used"]
        assert found["begun"]["practice"]
        assert client.get(f"/api/builds/{dipole['id']}/fault/told").status_code == 422
        for _ in range(6):
            if found["state"] != "looking":
                break
            act = found["offered"][0]["key"]
            done = client.post(f"/api/builds/{dipole['id']}/fault/practised", json={"act": act})
            assert done.status_code == 201, done.text
            found = fault_of(client, dipole)
        top = found["left"][0]
        told(client, dipole, {"kind": "fault_mended", "element": top["key"], "fault": top["code"], "marked": True})
        truth = client.get(f"/api/builds/{dipole['id']}/fault/told").json()
        among = [(e["key"], e["code"]) for e in found["left"][: max(found["alike"], 1)]]
        assert (truth["element"], truth["fault"]) in among
        assert truth["shortest"] is None or len(truth["shortest"]) <= len(truth["own"])


class TestSlowly:
    """On a machine with other work: the database ends a transaction that stands open for a minute."""

    @pytest.fixture
    def left_open(self, engine, monkeypatch):
        """Transactions that stand open whenever something that takes seconds begins, one count a time."""
        seen = []

        def watched(work):
            def begin(*given, **more):
                with engine.connect() as looker:
                    standing = looker.execute(
                        text(
                            "SELECT count(*) FROM pg_stat_activity"
                            " WHERE datname = current_database() AND state LIKE 'idle in transaction%'"
                        )
                    )
                    seen.append(standing.scalar_one())
                return work(*given, **more)

            return begin

        monkeypatch.setattr(cases, "Inquiry", watched(cases.Inquiry))
        monkeypatch.setattr(practice, "_read", watched(practice._read))
        return seen

    def test_no_transaction_stands_open_while_it_is_computed(self, client, dipole, left_open):
        begun(client, dipole, bands={"40 m": "gone"})
        assert fault_of(client, dipole)["state"] == "looking"
        assert left_open == [0]

    def test_nor_while_the_simulated_site_is_solved(self, client, dipole, bench, left_open):
        client.put("/api/analyser/link", json={"kind": "simulated", "address": "", "profile": "plain"})
        url = f"/api/builds/{dipole['id']}/fault"
        asked = {"begun": {"kind": "fault_begun", "line": LINE}}
        assert client.post(f"{url}/practice", json=asked).status_code == 201
        assert client.post(f"{url}/practised", json={"act": "at_feed"}).status_code == 201
        assert left_open == [0, 0, 0]
