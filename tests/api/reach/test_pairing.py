"""The form that pairs, the cookie it gives, and who asks through a proxy."""

import hashlib
import re
from datetime import timedelta

import pytest
from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from yielding_coil.api.http import local_path
from yielding_coil.store.tables import Device, Pairing


def code_of(client, **asked):
    answer = client.post("/api/pairings", json=asked)
    assert answer.status_code == 201, answer.text
    return answer.json()["code"]


def test_a_device_is_paired_known_again_and_sent_away(client, outside):
    phone = outside()
    made = client.post("/api/pairings", json={"to": "/builds/1/outdoors"}).json()
    form = phone.get("/pair", params={"code": made["code"], "to": "/builds/1/outdoors"})
    before = client.get(f"/api/pairings/{made['id']}").json()
    paired = phone.post("/pair", data={"code": made["code"], "name": " My  phone ", "to": "/builds/1/outdoors"})
    seen = client.get("/api/devices").json()
    (device,) = seen["devices"]

    assert f'value="{made["code"]}"' in form.text
    assert before["device_id"] is None
    assert (paired.status_code, paired.headers["location"]) == (303, "/builds/1/outdoors")
    assert client.get(f"/api/pairings/{made['id']}").json()["device_id"] == device["id"]
    assert (seen["owner"], device["name"], device["here"]) == (True, "My phone", False)
    assert phone.get("/api/devices").json()["devices"][0]["here"] is True
    assert client.delete(f"/api/devices/{device['id']}").status_code == 204
    assert client.delete(f"/api/devices/{device['id']}").status_code == 404
    assert client.get("/api/devices").json()["devices"] == []


def test_the_cookie_is_the_browsers_alone_and_only_its_hash_is_kept(client, outside, engine):
    phone = outside(**{"X-Forwarded-Proto": "https"})
    sent = phone.post("/pair", data={"code": code_of(client), "name": "Phone"}).headers["set-cookie"]
    token = re.match(r"__Host-yc_device=([\w-]+);", sent)[1]
    plain = outside().post("/pair", data={"code": code_of(client), "name": "Phone"}).headers["set-cookie"]
    with Session(engine) as session:
        hashes = set(session.scalars(select(Device.token_hash)))

    for mark in ("HttpOnly", "Path=/", "SameSite=lax", "Secure"):
        assert mark in sent
    assert plain.startswith("yc_device=")
    assert "Secure" not in plain
    assert len(token) == 43  # 256 bits
    assert hashlib.sha256(token.encode()).digest() in hashes


def test_a_code_that_is_old_used_or_overtaken_does_not_pair(client, outside, engine):
    old = code_of(client)
    with Session(engine) as session, session.begin():
        session.execute(update(Pairing).values(expires_at=func.now() - timedelta(seconds=1)))
    answers = [outside().post("/pair", data={"code": old, "name": "Phone"})]
    overtaken, newest = code_of(client), code_of(client)
    answers.append(outside().post("/pair", data={"code": overtaken, "name": "Phone"}))
    assert outside().post("/pair", data={"code": newest, "name": "Phone"}).status_code == 303
    answers.append(outside().post("/pair", data={"code": newest, "name": "Phone"}))

    assert [a.status_code for a in answers] == [422, 422, 422]
    assert all("does not pair" in a.text and "set-cookie" not in a.headers for a in answers)


def test_what_is_typed_is_shown_as_text_and_a_name_is_asked_for(client, outside):
    phone = outside()
    shown = phone.get("/pair", params={"code": '"><script>x', "to": "javascript:alert(1)"})
    nameless = phone.post("/pair", data={"code": code_of(client), "name": " \x07 "})
    large = phone.post("/pair", content=b"code=" + b"A" * 5000)

    assert "<script" not in shown.text
    assert 'name="to" value="/"' in shown.text
    assert "script-src" not in shown.headers["content-security-policy"]
    assert "default-src 'none'" in shown.headers["content-security-policy"]
    assert (nameless.status_code, large.status_code) == (422, 413)
    assert "Give this device a name" in nameless.text


@pytest.mark.parametrize(
    "away", ["//evil.example", "http://evil.example", "/\\evil.example", "", "x", "/" + "a" * 300]
)
def test_a_device_goes_to_a_place_in_this_application_only(away):
    assert local_path(away) == "/"
    assert local_path("/builds/1/outdoors?x=1") == "/builds/1/outdoors?x=1"


def test_a_page_gets_the_form_and_a_script_gets_words(outside):
    browser = outside(**{"User-Agent": "Mozilla/5.0 (Linux; Android 14) Mobile"})
    page = browser.get("/builds/1/outdoors", headers={"Accept": "text/html,*/*"})
    script = browser.get("/api/builds")

    assert (page.status_code, script.status_code) == (401, 401)
    assert 'value="Phone"' in page.text
    assert 'value="/builds/1/outdoors"' in page.text
    assert script.json()["code"] == "not_paired"


def test_a_proxys_word_counts_from_where_the_owner_says_and_its_last_hop_alone(client, outside):
    """Whoever asked may have written the hops before the last one."""
    stranger = outside(**{"X-Forwarded-For": "127.0.0.1, 203.0.113.5"})
    silent = outside(**{"X-Forwarded-For": ""})
    odd = outside(**{"X-Forwarded-For": "unknown"})
    # A proxy here that nobody named: behind it everybody would be the owner.
    names = ("X-Forwarded-For", "Forwarded", "X-Real-IP")
    unnamed = [client.get("/api/devices", headers={name: "203.0.113.5"}) for name in names]

    assert stranger.get("/api/builds").status_code == 401
    assert [c.get("/api/builds").json()["code"] for c in (silent, odd)] == ["proxy_silent"] * 2
    assert [(u.status_code, u.json()["code"]) for u in unnamed] == [(400, "proxy_silent")] * 3
    assert "--proxy 127.0.0.1" in unnamed[0].json()["detail"]
    assert client.get("/api/devices").json()["owner"] is True


def test_too_many_guesses_and_too_many_questions_wait(client, outside):
    phone = outside()
    code = code_of(client)
    for _ in range(5):
        assert phone.post("/pair", data={"code": "AAAA-AAAA", "name": "x"}).status_code == 422
    held = phone.post("/pair", data={"code": code, "name": "x"})
    asked = [phone.get("/api/builds").status_code for _ in range(80)]

    assert held.status_code == 429
    assert 1 <= int(held.headers["retry-after"]) <= 11
    assert "Wait" in held.text
    assert set(asked) == {401, 429}
    assert outside().post("/pair", data={"code": code, "name": "x"}).status_code == 303


def test_an_owners_analysers_are_kept_in_one_form(client, outside):
    kept = client.put("/api/devices/analysers", json={"addresses": [" Bench.local:5025 ", "bench.LOCAL:5025"]})
    wrong = client.put("/api/devices/analysers", json={"addresses": ["/etc/passwd"]})
    up = client.put("/api/devices/analysers", json={"addresses": ["/dev/../etc/passwd"]})

    assert kept.json() == {"addresses": ["bench.local:5025"]}
    assert client.get("/api/devices").json()["analysers"] == ["bench.local:5025"]
    assert (wrong.status_code, up.status_code) == (422, 422)
    assert "/dev/ttyUSB0" in wrong.json()["accepted"]
