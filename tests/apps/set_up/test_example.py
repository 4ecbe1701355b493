"""A small example in an empty company: complete enough to plan, and gone without a trace."""

import pytest
from django.db import transaction
from django.test import Client

from apps.company.commands import found_company
from apps.company.models import Depot
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Account, Technician
from apps.roads.queries import map_layer
from apps.set_up import example
from apps.set_up.archive import tables
from apps.set_up.models import Archive
from core.roles import Role
from foundation.models import AuditEntry
from tests.apps.conftest import MONDAY, Api
from tests.apps.set_up.test_archive import everything

pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.usefixtures("planner_here")]


@pytest.fixture
def owner(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    with transaction.atomic(), tables.emptied(tables.tables()):
        pass
    found_company(name="Vale Lifts", time_zone="Atlantic/Azores", areas=map_layer("areas"))
    account = Account.objects.create_account(
        email="own@er.example", name="Rui Vale", role=Role.ADMINISTRATOR, password="a-long-enough-password"
    )
    client = Client(HTTP_HOST="127.0.0.1")
    client.force_login(account, backend="apps.accounts.backends.AccountBackend")
    return Api(client)


def test_an_example_can_be_planned_at_once_and_leaves_nothing_behind(owner):
    before = everything()
    filled = owner.post("/set-up/example", {"trade": "lifts"})
    assert filled.json()["counts"] == {"technicians": 3, "customers": 6, "requests": 10, "orders": 8}
    # Something that is offered can be booked.
    visit = Visit.objects.filter(order__job_type__isnull=False).order_by("pk").first()
    openings = owner.get(f"/visits/{visit.pk}/openings", day=MONDAY.isoformat(), days=5).json()["openings"]
    seat = openings[0]["seats"][0]
    placed = owner.post(
        f"/visits/{visit.pk}/place",
        {"version": visit.version, "technician_id": seat["technician_id"], "start": openings[0]["start"]},
    )
    assert placed.status_code == 200
    owner.post("/people/skills", {"name": "Added since"})
    gone = owner.client.delete("/api/v1/set-up/example")
    assert gone.json() == {
        "exists": False, "can_be_filled": True, "counts": {"technicians": 0, "customers": 0, "requests": 0, "orders": 0}
    }  # fmt: skip
    after = everything()
    said = AuditEntry.objects.latest("pk")
    assert said.sentence == "threw the example away"
    before.pop("foundation_auditentry"), after.pop("foundation_auditentry")
    assert {name for name in before if before[name] != after[name]} == set()
    assert owner.get("/session").json()["account"]["name"] == "Rui Vale"  # still signed in


def test_a_depot_that_is_there_is_used(owner):
    made = owner.post("/depots", {"name": "Yard", "address": "Millrace Road 1", "lon": -24.6, "lat": 47.2}).json()
    owner.post("/set-up/example", {"trade": "doors"})
    assert {row.depot_id for row in Technician.objects.all()} == {made["id"]}
    assert Depot.objects.count() == 1


def test_an_example_is_for_an_empty_company_and_comes_once(owner):
    assert owner.post("/set-up/example", {"trade": "shoes"}).json()["field"] == "trade"
    assert owner.client.delete("/api/v1/set-up/example").status_code == 404
    assert owner.post("/set-up/example", {"trade": "it"}).status_code == 200
    assert owner.post("/set-up/example", {"trade": "it"}).status_code == 422
    assert (Archive.objects.filter(way="before").count(), WorkOrder.objects.count()) == (1, 8)


def test_of_an_example_that_fails_nothing_is_left(owner, monkeypatch):
    def fail(**_how):
        raise RuntimeError("half way")

    monkeypatch.setattr(example.orders, "make_order", fail)
    owner.client.raise_request_exception = False
    assert owner.post("/set-up/example", {"trade": "it"}).status_code == 500
    assert (Technician.objects.count(), example.exists()) == (0, False)


def test_only_administrators_fill_and_throw_away(world, as_role):
    for role in ("manager", "dispatcher", "technician"):
        assert as_role(role).post("/set-up/example", {"trade": "it"}).status_code == 403
        assert as_role(role).client.delete("/api/v1/set-up/example").status_code == 403
