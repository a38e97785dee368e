"""Archives over HTTP: streamed out and in, with how far they are; what cannot be leaves everything as it was."""

import io
import json
import zipfile

import pytest
from client_helpers import made_build, made_design
from photographs import photograph


@pytest.fixture
def build(client):
    build = made_build(client)
    made_design(client, build)
    path = f"/api/builds/{build['id']}/photographs"
    client.post(path, content=photograph(gps=True), params={"name": "box.jpg"})
    return build


def out(client, build=None, **query):
    answer = client.get("/api/archives", params={**({"build_id": build["id"]} if build else {}), **query})
    assert answer.status_code == 200, answer.text
    return answer


def told_by(data):
    return json.loads(zipfile.ZipFile(io.BytesIO(data)).read("archive.json"))


def test_out_and_in_gives_a_second_build(client, build):
    answer = out(client, build)
    assert answer.headers["content-type"] == "application/zip"
    assert build["name"] in answer.headers["content-disposition"]
    taken = client.post("/api/archives", content=answer.content)
    assert taken.status_code == 201, taken.text
    assert (taken.json()["sweeps"], taken.json()["designs"], taken.json()["photographs"]) == (1, 1, 1)
    (made,) = taken.json()["builds"]
    assert made["id"] != build["id"]
    first, second = (client.get(f"/api/builds/{b['id']}").json()["sweeps"][0]["id"] for b in (build, made))
    assert (
        client.get(f"/api/sweeps/{first}/original").content == client.get(f"/api/sweeps/{second}/original").content
    )
    curves = [client.get(f"/api/sweeps/{s}/curves").json() for s in (first, second)]
    assert curves[0] == curves[1]
    shelf = [b for b in client.get("/api/builds").json() if b["name"] == build["name"]]
    assert [b["worst_swr"] for b in shelf] == [shelf[0]["worst_swr"]] * 2
    assert shelf[0]["share"] == shelf[1]["share"]


def test_everything_goes_out_without_a_build_named(client, build):
    whole = told_by(out(client).content)
    assert [b["name"] for b in whole["builds"]] == [build["name"]]
    assert whole["settings"]["units"] == "m"


def test_where_photographs_were_taken_goes_along_only_on_request(client, build):
    def located(data):
        archive = zipfile.ZipFile(io.BytesIO(data))
        return photograph(gps=True) in [archive.read(n) for n in archive.namelist()]

    assert not located(out(client, build).content)
    assert located(out(client, build, positions=True).content)


def test_how_far_it_is(client, build):
    data = out(client, build, token="out-1").content
    told = client.get("/api/archives/transfers/out-1").json()
    assert told["done"] == told["of"] == len(data)
    client.post("/api/archives", content=data, params={"token": "in-1"})
    told = client.get("/api/archives/transfers/in-1").json()
    assert told["done"] == told["of"]
    assert client.get("/api/archives/transfers/nobody").status_code == 404


@pytest.mark.parametrize("data", [b"", b"no archive", b"PK\x03\x04 cut short"])
def test_refused_in_words_and_nothing_kept(client, build, data):
    answer = client.post("/api/archives", content=data)
    assert answer.status_code == 422
    assert "no archive" in answer.json()["detail"]
    assert len(client.get("/api/builds").json()) == 1


def test_a_build_that_is_not_there(client):
    answer = client.get("/api/archives", params={"build_id": "00000000-0000-4000-8000-000000000000"})
    assert answer.status_code == 404


def test_one_that_breaks_off_half_way_leaves_nothing(client, build):
    data = out(client, build).content
    told = told_by(data)
    made = io.BytesIO()
    source = zipfile.ZipFile(io.BytesIO(data))
    with zipfile.ZipFile(made, "w") as archive:
        for name in source.namelist():
            # Its last part, read when the build and its sweep are in already.
            archive.writestr(name, b"other" if name.startswith("photographs/") else source.read(name))
    assert told["builds"]
    answer = client.post("/api/archives", content=made.getvalue())
    assert answer.status_code == 422
    assert len(client.get("/api/builds").json()) == 1
