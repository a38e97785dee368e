"""The application in a house, and whoever stands in its garden: nobody gets in unpaired."""

import itertools
import re
import ssl
import threading
import time

import httpx
import pytest
from client_helpers import TWELVE, made_build, made_design
from garden import HOUSE, MOST, standing_at, standing_in
from patience import PATIENCE_S

pytestmark = pytest.mark.deep

METHODS = ("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS", "TRACE", "PROPFIND")
# Each phone stands somewhere else: guesses are counted by place.
PLACES = itertools.count(212)
CODE = re.compile(r"[2-9A-HJKMNP-Z]{4}-[2-9A-HJKMNP-Z]{4}")


def port_of(house):
    return house.base_url.port


@pytest.fixture(autouse=True)
def nobody_is_paired(house, places):
    yield
    with standing_in(places[0]):
        for device in house.get("/api/devices").json()["devices"]:
            house.delete(f"/api/devices/{device['id']}").raise_for_status()


def builds_of(house, places):
    with standing_in(places[0]):
        return {b["id"] for b in house.get("/api/builds").json()}


def code_of(house, places, **asked):
    with standing_in(places[0]):
        made = house.post("/api/pairings", json=asked)
    assert made.status_code == 201, made.text
    assert CODE.fullmatch(made.json()["code"])
    return made.json()["code"]


@pytest.fixture
def phone(house, places):
    """A client of a device that was paired, as long as one stands in the garden."""
    code = code_of(house, places)
    with standing_in(places[1]), standing_at(next(PLACES), port_of(house)) as client:
        answer = client.post("/pair", data={"code": code, "name": "Phone"})
        assert (answer.status_code, answer.headers["location"]) == (303, "/"), answer.text
        yield client


def test_unpaired_is_refused_on_every_path_and_method(house, places):
    with standing_in(places[0]):
        build = made_build(house)
        listed = house.get("/api/openapi.json").json()["paths"]
    paths = [re.sub(r"\{\w+\}", build["id"], path) for path in listed]
    paths += [
        "/",
        "/devices",
        "/assets/index.js",
        "/favicon.svg",
        "/api/docs",
        "/nothing",
        "//pair",
        "/pair/",
        "/PAIR",
    ]
    paths += ["/pair/../api/builds", "/pair%2f..%2fapi/builds", "/api/builds/", "/manifest.webmanifest", "/sw.js"]
    asked = [(m, p) for p in paths for m in METHODS if (m, p) not in {("GET", "/pair"), ("POST", "/pair")}]
    answers = {}
    with standing_in(places[1]):
        # So many from one place as are let through to be refused.
        for number, some in enumerate(batched(asked)):
            with standing_at(number % MOST, port_of(house)) as client:
                for method, path in some:
                    answers[method, path] = client.request(method, path, content=b"{}").status_code

    assert len(answers) > 900
    assert set(answers.values()) == {401}
    assert build["id"] in builds_of(house, places)


def batched(asked, size=50):
    return (asked[i : i + size] for i in range(0, len(asked), size))


def test_paired_in_and_sent_away_within_a_second(house, places, phone):
    with standing_in(places[0]):
        build = made_build(house)
    cookie = phone.cookies.jar._cookies[HOUSE]["/"]["yc_device"]
    with standing_in(places[1]):
        answers = [
            phone.get("/api/builds"),
            phone.post("/api/builds", json={"name": "From the garden", "targets": [TWELVE]}),
        ]
    with standing_in(places[0]):
        shown = house.get("/api/devices").json()
        house.delete(f"/api/devices/{shown['devices'][0]['id']}").raise_for_status()
    gone_at = time.monotonic()
    with standing_in(places[1]):
        while phone.get("/api/builds").status_code == 200:
            assert time.monotonic() - gone_at < 1.0
        after = [phone.request(m, "/api/builds").status_code for m in ("GET", "POST", "HEAD")]

    assert [a.status_code for a in answers] == [200, 201]
    assert build["id"] in {b["id"] for b in answers[0].json()}
    assert [d["name"] for d in shown["devices"]] == ["Phone"]
    assert "HttpOnly" in cookie._rest
    assert cookie._rest["SameSite"] == "lax"
    assert after == [401, 401, 401]


def test_an_open_stream_ends_when_its_device_is_sent_away(house, places, phone):
    with standing_in(places[0]):
        house.put("/api/analyser/link", json={"kind": "simulated"}).raise_for_status()
        house.put("/api/analyser/bench", json={"thing": "load"}).raise_for_status()
    began, ended = threading.Event(), threading.Event()
    jobs = []

    def listen():
        with standing_in(places[1]):
            asked = {"kind": "sweep", "low_hz": 14e6, "high_hz": 15e6, "points": 101, "passes": None}
            job = phone.post("/api/jobs", json=asked).json()
            jobs.append(job["id"])
            try:
                with phone.stream("GET", f"/api/jobs/{job['id']}/events") as stream:
                    for _ in stream.iter_lines():
                        began.set()
            except httpx.HTTPError:
                pass
            ended.set()

    listener = threading.Thread(target=listen, daemon=True)
    listener.start()
    assert began.wait(20)
    with standing_in(places[0]):
        (device,) = house.get("/api/devices").json()["devices"]
        house.delete(f"/api/devices/{device['id']}").raise_for_status()

    assert ended.wait(2.0)
    listener.join()
    with standing_in(places[0]):
        house.delete(f"/api/jobs/{jobs[0]}").raise_for_status()


@pytest.mark.trial
def test_a_code_pairs_once_and_ten_thousand_guesses_are_in_vain(house, places, trials):
    """From 200 places; from 20 by ./test --deep."""
    from_places = 200 if trials.whole else 20
    code = code_of(house, places)
    letters = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"
    guesses = ("".join(c) for c in itertools.product(letters, repeat=3))
    statuses = []
    with standing_in(places[1]):
        for number in range(from_places):
            with standing_at(number, port_of(house)) as client:
                for _ in range(50):
                    data = {"code": f"{next(guesses)}-AAAAA", "name": "Stranger"}
                    statuses.append(client.post("/pair", data=data).status_code)
        with standing_at(210, port_of(house)) as client:
            right = client.post("/pair", data={"code": code.lower().replace("-", " "), "name": "Phone"})
        with standing_at(211, port_of(house)) as client:
            again = client.post("/pair", data={"code": code, "name": "Thief"})
    with standing_in(places[0]):
        names = [d["name"] for d in house.get("/api/devices").json()["devices"]]

    assert len(statuses) == 50 * from_places
    assert set(statuses) == {422, 429}
    # Five at once from one place, and the next in ten seconds.
    assert statuses.count(422) < 7 * from_places
    assert right.status_code == 303
    assert again.status_code == 422
    assert "used before" in again.text
    assert names == ["Phone"]


def test_what_is_the_owners_alone_a_phone_may_not(house, places, phone):
    with standing_in(places[1]):
        refused = [
            phone.post("/api/pairings", json={}),
            phone.put("/api/devices/analysers", json={"addresses": ["10.77.0.1:22"]}),
            phone.delete("/api/devices/00000000-0000-4000-8000-000000000000"),
        ]
        link = [
            phone.put("/api/analyser/link", json={"kind": "address", "address": where, "profile": "plain"})
            for where in (f"127.0.0.1:{port_of(house)}", f"{HOUSE}:5432", "localhost:22", "/dev/ttyS0")
        ]
        simulated = phone.put("/api/analyser/link", json={"kind": "simulated"})
        seen = phone.get("/api/devices").json()

    assert {(a.status_code, a.json()["code"]) for a in refused} == {(403, "owner_only")}
    assert {(a.status_code, a.json()["code"]) for a in link} == {(403, "not_allowed")}
    assert simulated.status_code == 200
    assert (seen["owner"], [d["here"] for d in seen["devices"]]) == (False, [True])
    with standing_in(places[0]):
        house.put("/api/devices/analysers", json={"addresses": [f"{HOUSE}:5026"]}).raise_for_status()
    with standing_in(places[1]):
        allowed = {"kind": "address", "address": f"{HOUSE}:5026", "profile": "plain"}
        answer = phone.put("/api/analyser/link", json=allowed)
    assert answer.json()["code"] == "analyser_gone"  # nothing is there, and it was asked


def test_another_site_cannot_act_through_a_paired_phone(house, places, phone):
    with standing_in(places[0]):
        build = made_build(house)
        design = made_design(house, build)
    before = builds_of(house, places)
    host = f"{HOUSE}:{port_of(house)}"
    form = {"Content-Type": "application/x-www-form-urlencoded"}
    with standing_in(places[1]):
        tried = [
            phone.post("/api/builds", headers={**form, "Origin": "http://evil.example"}, content="name=x"),
            phone.delete(f"/api/builds/{build['id']}?revision=1", headers={"Origin": "null"}),
            phone.post("/pair", headers={**form, "Origin": "http://evil.example"}, content="code=x"),
            phone.get("/api/builds", headers={"Host": "evil.example"}),
            phone.get("/api/builds", headers={"Host": f"{host}.evil.example"}),
            phone.get("/api/builds", headers={"Host": f"{host}@evil.example"}),
            phone.get("/api/builds", headers={"Host": f"{HOUSE}, evil.example"}),
            phone.post("/api/builds", headers={"Origin": f"http://{host}.evil.example"}, json={"name": "x"}),
            phone.post("/api/builds", headers={"Sec-Fetch-Site": "cross-site"}, json={"name": "x"}),
        ]
        # A word of a proxy that nobody named is no word.
        forged = phone.get("/api/devices", headers={"X-Forwarded-For": "127.0.0.1", "Forwarded": "for=127.0.0.1"})
        local = phone.get("/api/devices", headers={"Host": f"127.0.0.1:{port_of(house)}"})
        with standing_at(5, port_of(house)) as stranger:
            unpaired = stranger.get("/api/devices", headers={"Host": "localhost", "X-Forwarded-For": "127.0.0.1"})

    assert {a.status_code for a in tried} == {403}
    assert (forged.json()["owner"], local.json()["owner"]) == (False, False)
    assert unpaired.status_code == 401
    assert builds_of(house, places) == before
    with standing_in(places[0]):
        assert house.get(f"/api/designs/{design['id']}").status_code == 200


def test_over_https_a_phone_trusts_the_certificate_and_its_cookie_is_bound_to_the_name(places, folder, start):
    process, address = start("--https", "--no-demo", within=places[0])
    said = process.stdout.readline()
    secure = re.search(r"https://10\.77\.0\.1:\d+", said)[0]
    with standing_in(places[0]), httpx.Client(base_url=address, timeout=PATIENCE_S) as own:
        made = own.post("/api/pairings", json={}).json()
    trusting = ssl.create_default_context(cafile=folder / "tls" / "authority.pem")
    with standing_in(places[1]):
        with pytest.raises(httpx.ConnectError, match="CERTIFICATE_VERIFY_FAILED"):
            httpx.get(secure, timeout=PATIENCE_S)
        with httpx.Client(base_url=secure, verify=trusting, timeout=PATIENCE_S) as client:
            form = client.get("/pair")
            authority = client.get("/pair/authority.crt")
            paired = client.post("/pair", data={"code": made["code"], "name": "Phone"})
            builds = client.get("/api/builds")
        with pytest.raises(httpx.ConnectError):
            # Without encryption it is not there at all for others.
            httpx.get(address.replace("127.0.0.1", HOUSE), timeout=5)

    assert "THE LOCAL NETWORK IS SERVED" in said
    assert made["links"][0].startswith(f"{secure}/pair?code=")
    assert "/pair/authority.crt" in form.text
    assert authority.content == (folder / "tls" / "authority.pem").read_bytes()
    assert paired.headers["set-cookie"].startswith("__Host-yc_device=")
    assert "Secure" in paired.headers["set-cookie"]
    assert builds.status_code == 200
