"""Bring a database to the newest shape of the tables."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine


def config(connection: Connection) -> Config:
    """Alembic's settings for one open connection; no file of its own."""
    settings = Config()
    settings.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    settings.set_main_option("path_separator", "os")
    settings.attributes["connection"] = connection
    return settings


def migrate(engine: Engine) -> None:
    """Apply every migration that this database has not seen."""
    with engine.begin() as connection:
        command.upgrade(config(connection), "head")
