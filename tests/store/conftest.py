import shutil
import tempfile
from pathlib import Path

import pytest
from sqlalchemy.orm import Session


@pytest.fixture
def top():
    """A folder that the database's user can enter, for data folders."""
    found = Path(tempfile.mkdtemp(prefix="yielding-coil-store-"))
    found.chmod(0o755)
    yield found
    shutil.rmtree(found)


@pytest.fixture
def session(engine):
    """One transaction on an empty database."""
    with Session(engine) as session, session.begin():
        yield session
