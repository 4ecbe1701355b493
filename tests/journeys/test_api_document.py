"""The API against its own document: nothing that fits the document may break the server."""

import pytest
import requests
import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error

from config.api import api

# The stream never ends.
SKIPPED = [("get", "/api/v1/live")]
ADMINISTRATOR = "ada.reyne@hallamreyne.example"


def document():
    schema = dict(api.get_openapi_schema())
    # The session is given to every call as a cookie; made-up ones would only be refused.
    schema["components"] = {"schemas": schema["components"]["schemas"]}
    schema["paths"] = {
        path: {method: {**body, "security": []} for method, body in methods.items() if (method, path) not in SKIPPED}
        for path, methods in schema["paths"].items()
    }
    return {**schema, "paths": {path: methods for path, methods in schema["paths"].items() if methods}}


SCHEMA = schemathesis.openapi.from_dict(document())


@pytest.fixture(scope="module")
def session(running):
    from demo.accounts import PASSWORD

    with requests.Session() as client:

        def take_token():
            answer = client.get(f"{running.url}/api/v1/session", timeout=30)
            client.headers["X-CSRFToken"] = answer.json()["csrf_token"]

        take_token()
        body = {"email": ADMINISTRATOR, "password": PASSWORD}
        client.post(f"{running.url}/api/auth/browser/v1/auth/login", json=body, timeout=30).raise_for_status()
        take_token()
        yield client


@SCHEMA.parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
def test_nothing_that_fits_the_document_breaks_the_server(case, running, session):
    answer = case.call(base_url=running.url, session=session, timeout=30)
    case.validate_response(answer, checks=[not_a_server_error])


def test_the_document_is_complete():
    """Every endpoint says what it does and what it answers."""
    missing = [
        (method, path)
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method, operation in methods.items()
        if not operation.get("description") and not operation.get("summary")
    ]
    untyped = [
        (method, path)
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method, operation in methods.items()
        if not any(code.startswith("2") for code in map(str, operation["responses"]))
    ]
    assert missing == []
    assert untyped == []
