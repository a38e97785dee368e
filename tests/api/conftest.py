import pytest
from client_helpers import made_build, made_design


@pytest.fixture
def build(client):
    return made_build(client)


@pytest.fixture
def design(client, build):
    return made_design(client, build)
