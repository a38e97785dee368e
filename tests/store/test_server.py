import os
import signal

import psycopg
import pytest
from sqlalchemy import create_engine, inspect, text

from yielding_coil.store.server import PrivateServer, ServerError
from yielding_coil.store.tables import Base


@pytest.fixture
def folder(top):
    return top / "data"


def greeting(server):
    engine = create_engine(server.url())
    with engine.connect() as connection:
        found = connection.execute(text("SELECT 41 + 1")).scalar_one()
    engine.dispose()
    return found


def test_it_is_made_started_stopped_and_started_again(folder):
    server = PrivateServer(folder, fsync=False)
    server.start()
    try:
        assert greeting(server) == 42
        server.stop()
        with pytest.raises(psycopg.OperationalError):
            psycopg.connect(server.url().render_as_string(False).replace("+psycopg", ""), connect_timeout=2)
        server.start()
        assert greeting(server) == 42
    finally:
        server.stop()


@pytest.mark.deep
def test_a_server_left_running_and_one_killed_are_dealt_with(folder):
    first = PrivateServer(folder, fsync=False)
    first.start()
    second = PrivateServer(folder, fsync=False)  # as after kill -9 of the application
    try:
        second.start()
        assert greeting(second) == 42
        os.kill(second._running(), signal.SIGKILL)  # as after kill -9 of the database
        second.start()
        assert greeting(second) == 42
    finally:
        second.stop()


@pytest.mark.deep
def test_a_cluster_cut_short_while_made_is_made_anew(folder):
    (folder / "pg.new").mkdir(parents=True)
    (folder / "pg.new" / "half").write_text("")
    server = PrivateServer(folder, fsync=False)
    try:
        server.start()
        assert greeting(server) == 42
    finally:
        server.stop()


def test_data_of_another_version_are_left_alone_and_said(folder):
    (folder / "pg").mkdir(parents=True)
    (folder / "pg" / "PG_VERSION").write_text("9\n")

    with pytest.raises(ServerError, match="made by PostgreSQL 9; run: apt-get install postgresql-9"):
        PrivateServer(folder).start()


def test_it_listens_on_loopback_only_and_asks_for_a_password(server):
    with psycopg.connect(server.url().render_as_string(False).replace("+psycopg", "")) as connection:
        assert connection.execute("SHOW listen_addresses").fetchone() == ("127.0.0.1",)
        assert connection.execute("SHOW unix_socket_directories").fetchone() == ("",)
    with pytest.raises(psycopg.OperationalError, match="password"):
        psycopg.connect(host="127.0.0.1", port=server.port, user="yielding_coil", password="wrong")
    assert (server.folder / "password").stat().st_mode & 0o077 == 0


def test_migrations_give_the_tables_that_the_code_declares(engine):
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
    assert set(inspect(engine).get_table_names()) == {*Base.metadata.tables, "alembic_version"}
