"""Every endpoint for every role: the table of roles decides, and nothing is open by accident."""

import re
from enum import StrEnum
from pathlib import Path

import pytest
from django.test import Client
from ninja import Schema

from config.api import api
from core.roles import ALLOWED
from foundation.access import Needs
from foundation.schemas import Answer

# For everybody, signed in or not; `live` looks at the session itself.
OPEN = {("GET", "/health"), ("GET", "/live"), ("GET", "/session"), ("GET", "/session/demo")}
# Open to the world with a protection of their own: the public form, and devices with their token.
# A calendar's link is its own secret.
OPEN |= {
    ("GET", "/company/logo"),
    ("GET", "/board/calendar/{token}"),
    ("GET", "/intake/form"),
    ("POST", "/intake/form"),
    # The address of a quote is all a customer has.
    ("GET", "/public/quotes/{address}"),
    ("POST", "/public/quotes/{address}/seen"),
    ("POST", "/public/quotes/{address}/total"),
    ("POST", "/public/quotes/{address}/approve"),
    ("POST", "/public/quotes/{address}/refuse"),
    ("POST", "/public/quotes/{address}/ask"),
    ("GET", "/public/quotes/{address}/pdf"),
    ("GET", "/public/quotes/{address}/files/{int:file_id}"),
    ("POST", "/intake/alarms"),
    # A phone whose session has ended asks by its own name, which nobody else knows, whether it was signed out.
    ("GET", "/field/phones/{phone_id}/stand"),
}
KEYS = {"visit_id": 1, "customer_id": 1, "request_id": 1, "file_id": 1, "technician_id": 1, "layer": "land",
        "run_id": 1, "playbook_id": 1, "record": "order", "record_id": 1, "contact_id": 1, "merge_id": 1, "site_id": 1,
        "asset_id": 1, "job_type_id": 1, "order_id": 1, "link_id": 1, "view_id": 1, "kind": "customers",
        "code": "doors", "area_id": 1, "depot_id": 1, "token": "x", "holiday_id": 1, "absence_id": 1, "crew_id": 1,
        "reminder_id": 1, "message_id": 1, "key": "0123-abcd", "archive_id": 1, "asked_id": 10**9,
        "account_id": 10**9, "role_id": 10**9, "code_id": 10**9, "item_id": 10**9, "list_id": 10**9,
        "price_id": 10**9, "discount_id": 10**9, "quote_id": 10**9, "version_id": 10**9, "question_id": 10**9,
        "address": "x" * 32, "call_id": 1, "unread_id": 1, "printout_id": 1,
        "place_id": 10**9, "supplier_id": 10**9, "sheet_id": 10**9, "transfer_id": 10**9,
        "claim_id": 10**9, "loan_id": 10**9,
        "picture_id": "01936f2e-0000-7000-8000-000000000000", "fuel_id": "01936f2e-0000-7000-8000-000000000000",
        "phone_id": "01936f2e-0000-7000-8000-000000000000", "deed_id": "01936f2e-0000-7000-8000-000000000000",
        "day": "2026-11-25"}  # fmt: skip


def operations():
    for prefix, router in api._routers:
        for path, view in router.path_operations.items():
            for operation in view.operations:
                for method in operation.methods:
                    yield method, f"{prefix}{path}", operation


GUARDED = [row for row in operations() if (row[0], row[1]) not in OPEN]


def test_every_endpoint_names_the_action_it_needs():
    unguarded = {
        (method, path)
        for method, path, operation in operations()
        if not any(isinstance(auth, Needs) for auth in operation.auth_callbacks or [])
    }
    assert unguarded == OPEN


def test_there_are_as_many_endpoints_as_the_document_says():
    documented = sum(len(methods) for methods in api.get_openapi_schema()["paths"].values())
    assert documented == len(list(operations())) > 30


def test_no_two_shapes_have_one_name():
    """In the document the second would take the place of the first."""
    named = {}
    waiting = [*Schema.__subclasses__(), *Answer.__subclasses__()]
    while waiting:
        shape = waiting.pop()
        waiting += shape.__subclasses__()
        if shape.__module__.startswith(("apps.", "foundation.")) and shape.__qualname__ == shape.__name__:
            named.setdefault(shape.__name__, set()).add(shape.__module__)
    assert {name: modules for name, modules in named.items() if len(modules) > 1} == {}


def test_no_two_enumerations_have_one_name():
    """As with shapes: the document would give both the values of one."""
    named = {}
    for kind in StrEnum.__subclasses__():
        if kind.__module__.startswith(("core.", "apps.", "foundation.")):
            named.setdefault(kind.__name__, set()).add(kind.__module__)
    assert {name: modules for name, modules in named.items() if len(modules) > 1} == {}


def call(client, method, path):
    filled = re.sub(r"{(?:int:)?(\w+)}", lambda match: str(KEYS[match[1]]), path)
    return client.generic(method, f"/api/v1{filled}", "{}", content_type="application/json")


@pytest.mark.parametrize("role", list(ALLOWED))
def test_a_role_reaches_what_its_actions_allow_and_nothing_else(world, as_role, role):
    client = as_role(role.value).client
    client.raise_request_exception = False
    wrong = []
    for method, path, operation in GUARDED:
        [needed] = [auth.action for auth in operation.auth_callbacks]
        status = call(client, method, path).status_code
        if (needed in ALLOWED[role]) == (status == 403) or status >= 500:
            wrong.append((method, path, status))
    assert wrong == []


def test_each_kind_of_thing_has_one_home(world):
    """No two routers share an address: the second one would never be asked."""
    seen = {}
    for number, (prefix, router) in enumerate(api._routers):
        for path in router.path_operations:
            pattern = re.sub(r"{(?:int:)?\w+}", "{}", f"{prefix}{path}")
            assert seen.setdefault(pattern, number) == number, pattern
    roots = {path.split("/")[1].partition(".")[0] for _method, path, _ in operations()}
    things = {"visits", "orders", "requests", "sites", "assets", "areas", "technicians", "runs", "playbooks", "parts"}
    assert things <= roots
    for _method, path, _ in operations():
        under = path.split("/")[2:3]
        assert not set(under) & things or path.startswith(("/field/", "/health/")), path


def test_nobody_gets_in_without_signing_in(world):
    client = Client(HTTP_HOST="127.0.0.1")
    assert {call(client, method, path).status_code for method, path, _ in GUARDED} == {401}


def test_an_unknown_address_of_the_api_is_not_the_page(world):
    assert Client(HTTP_HOST="127.0.0.1").get("/api/v1/nothing").status_code == 404


def test_what_the_page_asks_for_before_it_is_drawn_is_there(world):
    """The page names addresses of its own; an API that moves must not leave them behind."""
    page = (Path(__file__).parents[3] / "frontend" / "index.html").read_text()
    named = re.findall(r'href="(/api/[^"]+)"', page)
    assert named
    assert [Client(HTTP_HOST="127.0.0.1").get(path).status_code for path in named] == [200] * len(named)
