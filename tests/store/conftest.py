import pytest
from sqlalchemy.orm import Session


@pytest.fixture
def session(engine):
    """One transaction on an empty database."""
    with Session(engine) as session, session.begin():
        yield session
