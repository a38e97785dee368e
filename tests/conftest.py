import shutil
import tempfile
import threading
import time
from pathlib import Path
from uuid import uuid4

import httpx
import pytest
import uvicorn
from hypothesis import settings
from sqlalchemy import create_engine, text

from yielding_coil.api.app import create_app
from yielding_coil.store.migrate import migrate
from yielding_coil.store.server import PrivateServer

settings.register_profile("steady", derandomize=True, deadline=None, database=None)
settings.load_profile("steady")


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


@pytest.fixture
def engine(server):
    """An empty, migrated database of its own for each test."""
    name = f"test_{uuid4().hex}"
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name} TEMPLATE yielding_coil"))
    engine = create_engine(server.url(name))
    yield engine
    engine.dispose()
    with admin.connect() as connection:
        connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
    admin.dispose()


@pytest.fixture(scope="session")
def application():
    """The application served on a free port, as ./start does it; each test gives it a database."""
    app = create_app(create_engine("postgresql+psycopg://"))
    served = uvicorn.Server(uvicorn.Config(app, port=0, log_level="warning"))
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
    end = time.monotonic() + 10
    while engine.pool.checkedout() and time.monotonic() < end:
        time.sleep(0.01)


@pytest.fixture
def client(address):
    """What a script sees of the application: plain HTTP."""
    with httpx.Client(base_url=address) as client:
        yield client
