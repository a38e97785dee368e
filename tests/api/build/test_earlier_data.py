"""Data of earlier versions open: designs, drawer and log are what they were, to the last digit.

Each file in tests/earlier is a database as that day's version left it, and what that version answered of it. They
are kept for ever; a version that changes what is kept adds one. What came later has its default.
"""

import json
from pathlib import Path
from uuid import uuid4

import pytest
from sqlalchemy import create_engine, text
from stored import stands_in

from yielding_coil.store.migrate import migrate

EARLIER = sorted((Path(__file__).parents[2] / "earlier").glob("*.sql"))


@pytest.fixture(params=EARLIER, ids=[file.stem for file in EARLIER])
def earlier(request, server, application, script):
    """The application on such a data folder, and what was answered of it then."""
    name = f"earlier_{uuid4().hex}"
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    engine = create_engine(server.url(name))
    with engine.begin() as connection:
        connection.exec_driver_sql(request.param.read_text("utf-8"))
    # The dump leaves the session without a search path.
    engine.dispose()
    migrate(engine)
    app, _ = application
    before, app.state.engine = app.state.engine, engine
    yield script, json.loads(request.param.with_suffix(".json").read_text("utf-8"))
    app.state.engine = before
    engine.dispose()
    with admin.connect() as connection:
        connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
    admin.dispose()


def test_designs_drawer_and_log_are_what_they_were(earlier):
    client, then = earlier

    now = {path: client.get(path).json() for path in then}
    # Since then the bin also shows what was taken back of logs.
    now["/api/bin"] = [thing for thing in now["/api/bin"] if thing["kind"] != "entry"]
    assert [path for path in then if not stands_in(then[path], now[path])] == []
    # Every kind of element, piece and entry stands in it: a poorer file would prove little.
    kept = json.dumps(then)
    for kind in (
        *("coil", "coax_capacitor", "capacitor", "ring_coil", "transformer", "line", "choke", "trap"),
        *("core", "material", "wire", "cable", "former", "box"),
        *("hung", "cut", "reading", "bench_check", "note"),
    ):
        assert f'"kind": "{kind}"' in kept, kind


def test_every_design_of_then_can_still_be_computed(earlier):
    client, then = earlier
    designs = [d for path, found in then.items() if path.endswith("/designs") for d in found]

    for design in designs:
        content = design["revision"]["content"]
        wide = {"low_hz": content["targets"][0]["low_hz"], "high_hz": content["targets"][0]["high_hz"]}
        answer = client.post("/api/predictions", json={"content": content, "points": 2, **wide})
        assert answer.status_code == 200, (design["name"], answer.text)
        for thing in [*content["elements"], *content["beside"]]:
            if thing["kind"] not in ("line", "capacitor", "coax_capacitor"):
                asked = {"content": content, "key": thing["key"]}
                assert client.post("/api/windings", json=asked).status_code == 200, (design["name"], thing["key"])
    assert len(designs) > 8
