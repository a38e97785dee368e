"""Who may speak to the application, and what its pages may load."""

import pytest
from client_helpers import drop, made_build


@pytest.mark.parametrize(
    "host", ["evil.example", "evil.example:80", "127.0.0.1.evil.example", "", "[::2]", "a@b:1:2"]
)
@pytest.mark.parametrize("path", ["/", "/api/builds", "/api/openapi.json", "/assets/x.js"])
def test_a_foreign_host_gets_nothing(client, host, path):
    answer = client.get(path, headers={"Host": host})

    assert (answer.status_code, answer.json()["code"]) == (403, "foreign")


@pytest.mark.parametrize("origin", ["http://evil.example", "null", "http://localhost:1", "https://127.0.0.1"])
@pytest.mark.parametrize("method", ["GET", "POST", "DELETE"])
def test_a_foreign_origin_gets_nothing_and_changes_nothing(client, origin, method):
    build = made_build(client)
    path = f"/api/builds/{build['id']}"
    answer = client.request(method, path, params={"revision": 1}, headers={"Origin": origin})

    assert (answer.status_code, answer.json()["code"]) == (403, "foreign")
    assert client.get(path).status_code == 200


@pytest.mark.parametrize("host", ["localhost", "127.0.0.1", "LOCALHOST", "[::1]"])
def test_its_own_names_are_answered(client, host):
    name = f"{host}:8750"
    answer = client.get("/api/health", headers={"Host": name, "Origin": f"http://{name.lower()}"})

    assert answer.status_code == 200


def test_pages_load_only_their_own(client):
    policy = client.get("/").headers["content-security-policy"]

    assert "default-src 'self'" in policy
    assert "unsafe" not in policy
    assert "frame-ancestors 'none'" in policy
    assert client.get("/api/health").headers["x-content-type-options"] == "nosniff"


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_a_foreign_page_without_an_origin_gets_nothing(client, site):
    asked = {"Sec-Fetch-Site": site, "Sec-Fetch-Mode": "no-cors"}
    for method in ("GET", "POST"):
        assert client.request(method, "/api/builds", headers=asked).status_code == 403
    # A link to here that is followed, and an address that is typed.
    assert client.get("/", headers={**asked, "Sec-Fetch-Mode": "navigate"}).status_code == 200
    assert client.get("/api/builds", headers={"Sec-Fetch-Site": "none"}).status_code == 200


def test_a_websocket_is_turned_away(client):
    upgrade = {"Connection": "Upgrade", "Upgrade": "websocket", "Sec-WebSocket-Version": "13"}
    answer = client.get("/api/health", headers={**upgrade, "Sec-WebSocket-Key": "dGhlIHNhbXBsZSBub25jZQ=="})

    assert answer.status_code < 500


def test_a_download_keeps_its_name(client):
    sweep = drop(client, name="über é.s1p").json()
    sent = client.get(f"/api/sweeps/{sweep['id']}/original").headers["content-disposition"]

    assert sent == "attachment; filename=\"_ber _.s1p\"; filename*=UTF-8''%C3%BCber%20%C3%A9.s1p"
