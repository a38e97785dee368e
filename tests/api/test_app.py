"""The application itself: its tables and its pages."""


def test_tables_have_sources(client):
    for name in ("cables", "wires"):
        rows = client.get(f"/api/tables/{name}").json()
        assert rows
        assert all(row["source"] for row in rows)
    assert "memory" in client.get("/api/tables/bands").json()["source"]


def test_pages_and_their_addresses(client):
    page = client.get("/builds/anything/match")

    assert page.status_code == 200
    assert '<div id="app">' in page.text
    assert page.headers["cache-control"] == "no-cache"
    assert client.get("/api/nothing").status_code == 404
    assert client.get("/assets/nothing.js").status_code == 404
