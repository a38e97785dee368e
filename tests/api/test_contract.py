"""The whole API against its own description, with what schemathesis makes up."""

import pytest
import schemathesis
from client_helpers import drop, made_build, made_design
from hypothesis import HealthCheck, given, settings
from patience import PATIENCE_S
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

pytestmark = pytest.mark.deep

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


def operations(client, address):
    # Made once and kept, which may take longer on a busy machine than the library waits.
    client.get("/api/openapi.json").raise_for_status()
    schema = schemathesis.openapi.from_url(f"{address}/api/openapi.json")
    return [result.ok() for result in schema.get_all_operations()]


@pytest.mark.trial
def test_whatever_comes_in_the_answer_keeps_the_contract(client, address, trials):
    """No 5xx; the status, the kind and the shape of every answer as described."""
    build = made_build(client)
    made_design(client, build)
    drop(client)
    found = operations(client, address)
    assert len(found) > 40
    for operation in found:

        @settings(
            max_examples=20 if trials.whole else 10,
            derandomize=True,
            deadline=None,
            database=None,
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def keeps(case):
            case.call_and_validate(checks=CHECKS, timeout=PATIENCE_S)

        keeps()
