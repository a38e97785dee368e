import contextlib
import ipaddress
import itertools
import re
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from uuid import uuid4

import httpx
import pytest
import uvicorn
from analyser_faults import Running, serving, simulated
from garden import house_and_garden, standing_in
from hypothesis import settings
from patience import PATIENCE_S
from sqlalchemy import create_engine, text
from sqlalchemy.orm import Session
from trials import Trials

from yielding_coil import demo
from yielding_coil.analyser.link import Link
from yielding_coil.api.app import create_app
from yielding_coil.api.http import Reach
from yielding_coil.store.engine import connect
from yielding_coil.store.migrate import migrate
from yielding_coil.store.server import PrivateServer
from yielding_coil.store.tables import Base

TOP = Path(__file__).parents[1]
TRIALS = pytest.StashKey[Trials]()
# Each test comes from elsewhere: how often one asked is remembered.
PLACES = itertools.count(1)
PROXY = "127.0.0.2"

settings.register_profile("steady", derandomize=True, deadline=None, database=None)
settings.register_profile("quick", settings.get_profile("steady"), max_examples=30)
settings.load_profile("steady")


def pytest_addoption(parser):
    parser.addoption("--trials", action="store_true", help="long trials with all their seeds")


def pytest_configure(config):
    config.stash[TRIALS] = Trials(whole=config.getoption("--trials"))
    if "not deep" in (config.getoption("markexpr") or ""):
        settings.load_profile("quick")


def pytest_terminal_summary(terminalreporter, config):
    figures = config.stash[TRIALS].figures
    if figures:
        terminalreporter.section("trials: nominal 90 % intervals, and counts")
        for line in figures:
            terminalreporter.write_line(line)


@pytest.fixture(scope="session")
def trials(pytestconfig):
    """Which seeds of a long trial are run, and what their counts must show."""
    return pytestconfig.stash[TRIALS]


@pytest.fixture(scope="session")
def server():
    """A private PostgreSQL for the tests, with a migrated template."""
    folder = Path(tempfile.mkdtemp(prefix="yielding-coil-test-"))
    folder.chmod(0o755)
    server = PrivateServer(folder / "data", fsync=False)
    server.start()
    engine = create_engine(server.url())
    migrate(engine)
    engine.dispose()
    yield server
    server.stop()
    shutil.rmtree(folder)


@pytest.fixture(scope="session")
def demo_template(server):
    """A database with the invented builds in it: made once, copied for each test that wants them."""
    name = "with_demo"
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    admin.dispose()
    engine = create_engine(server.url(name))
    migrate(engine)
    with Session(engine) as session, session.begin():
        demo.lay_in(session)
    engine.dispose()
    return name


@pytest.fixture
def laid_in(demo_template):
    """The demo builds on the shelf; asked for before the database is copied."""
    return demo_template


@pytest.fixture(scope="session")
def emptied(server):
    """One migrated database, emptied again and again: quicker than a new one for each test."""
    engine = connect(server.url())
    yield engine
    engine.dispose()


@pytest.fixture
def engine(server, request):
    """A migrated database without rows, or a copy of the one with the demo builds."""
    if "laid_in" not in request.fixturenames:
        engine = request.getfixturevalue("emptied")
        with engine.begin() as connection:
            # Rows alone: new files for every table and index, as TRUNCATE makes them, take ten times as long.
            connection.execute(text("SET LOCAL session_replication_role = replica"))
            for table in Base.metadata.tables:
                connection.execute(text(f"DELETE FROM {table}"))
        yield engine
        return
    name = f"test_{uuid4().hex}"
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name} TEMPLATE {request.getfixturevalue('laid_in')}"))
    engine = connect(server.url(name))
    yield engine
    engine.dispose()
    with admin.connect() as connection:
        connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
    admin.dispose()


@pytest.fixture(scope="session")
def application():
    """The application served on a free port, as ./start does it; each test gives it a database."""
    app = create_app(create_engine("postgresql+psycopg://"))
    served = uvicorn.Server(uvicorn.Config(app, port=0, log_level="warning", proxy_headers=False))
    thread = threading.Thread(target=served.run, daemon=True)
    thread.start()
    while not served.started:
        time.sleep(0.01)
    yield app, f"http://127.0.0.1:{served.servers[0].sockets[0].getsockname()[1]}"
    served.should_exit = True
    thread.join()


@pytest.fixture
def address(engine, application):
    """Where the application answers, on this test's database."""
    app, found = application
    before, app.state.engine = app.state.engine, engine
    yield found
    # A page may have asked something just as its test ended: let it be answered before the database goes.
    app.state.engine = before
    end = time.monotonic() + PATIENCE_S
    while engine.pool.checkedout() and time.monotonic() < end:
        time.sleep(0.01)


@pytest.fixture
def bench(application):
    """A simulated analyser that the application may start and connect to; it does not wait for its sweeps."""
    app, _ = application
    with serving(simulated()) as server:
        app.state.link = Link(Running(server))
        yield server
        app.state.link.connect("none")
    app.state.link = Link()


@pytest.fixture(scope="session")
def script(application):
    """What a script sees of the application: plain HTTP. One for all: making one reads every authority known."""
    _, found = application
    # Long enough for a machine that has other work: a stand-still ends the test, a slow minute does not.
    # A connection that is left alone is let go before the server does so, at five seconds, amid a question.
    with httpx.Client(base_url=found, timeout=PATIENCE_S, limits=httpx.Limits(keepalive_expiry=2)) as client:
        yield client


@pytest.fixture
def client(address, script):
    """What a script sees of the application on this test's database."""
    return script


@contextlib.contextmanager
def folder_of_its_own():
    """A data folder that goes with whoever asked for it."""
    top = Path(tempfile.mkdtemp(prefix="yielding-coil-start-"))
    top.chmod(0o755)
    try:
        yield top / "data"
    finally:
        PrivateServer(top / "data").stop()
        shutil.rmtree(top)


@pytest.fixture
def folder():
    """A data folder of its own."""
    with folder_of_its_own() as found:
        yield found


@contextlib.contextmanager
def starting(folder):
    """What starts the application on a folder; what is left of it is ended."""
    running = []

    def start(*options, within=None):
        """The process with its address; `within` is the network namespace that it runs in."""
        before = ["ip", "netns", "exec", within] if within else []
        begun = [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder)]
        process = subprocess.Popen(
            [*before, *begun, *options],
            cwd=TOP,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        running.append(process)
        said = process.stdout.readline()
        if said.startswith("Updated; a backup"):
            said = process.stdout.readline()
        found = re.search(r"http://127\.0\.0\.1:\d+/", said)
        if not found:
            process.kill()
            raise AssertionError(said + process.stdout.read())
        assert str(folder) in process.stdout.readline()
        return process, found[0]

    try:
        yield start
    finally:
        for process in running:
            process.kill()
            process.wait()
            process.stdout.close()


@pytest.fixture
def start(folder):
    """Starts the application as a process and gives it with its address; ends what is left of it."""
    with starting(folder) as found:
        yield found


@pytest.fixture(scope="module")
def start_once():
    """The same for all tests of a file together."""
    with folder_of_its_own() as folder, starting(folder) as found:
        yield found


@pytest.fixture(scope="module")
def places():
    """A house and a garden, as network namespaces."""
    with house_and_garden() as found:
        yield found


@pytest.fixture(scope="module")
def house(places, start_once):
    """The application in the house as `./start --lan` runs it, and a script at that computer."""
    _, address = start_once("--lan", "--no-demo", within=places[0])
    with standing_in(places[0]), httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        assert client.get("/api/health").status_code == 200
        yield client


@pytest.fixture
def outside(application, address):
    """What asks from outside, through a proxy that the owner named: gives a client for an address of its own."""
    app, found = application
    before = app.state.reach
    port = int(found.rsplit(":", 1)[1])
    app.state.reach = Reach(
        lan=True,
        names=lambda: frozenset({"coil.example", "192.0.2.9"}),
        port=port,
        proxies=(ipaddress.ip_network(PROXY),),
    )
    clients = []

    def asking(**headers):
        place = f"198.51.100.{next(PLACES) % 250 + 1}"
        transport = httpx.HTTPTransport(verify=False, local_address=PROXY)
        said = {"Host": "coil.example", "X-Forwarded-For": place, **headers}
        clients.append(httpx.Client(base_url=found, transport=transport, timeout=PATIENCE_S, headers=said))
        return clients[-1]

    yield asking
    for client in clients:
        client.close()
    app.state.reach = before
