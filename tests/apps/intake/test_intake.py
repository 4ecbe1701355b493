"""From the call to the backlog."""

import pytest

from apps.customers.models import Customer
from tests.apps.conftest import at


def need(world, **changes):
    return {"site_id": world.site.pk, "what_is_wrong": "Scrapes on closing", "job_type_id": world.door_job.pk} | changes


def test_the_job_type_fills_what_was_not_said(world, as_role):
    request = as_role("intake").post("/requests", need(world)).json()
    assert (request["duration_seconds"], request["priority"], request["needs"]) == (2700, 4, {"doors": 1})
    assert request["number"] == "R-1001"


def test_what_was_said_overrides_the_job_type(world, as_role):
    body = need(world, duration_seconds=3600, priority=2, needs={})
    request = as_role("intake").post("/requests", body).json()
    assert (request["duration_seconds"], request["priority"], request["needs"]) == (3600, 2, {})


def test_a_request_becomes_an_order_with_everything_carried_over(world, as_role):
    intake = as_role("intake")
    promise = {"start": at(14), "end": at(16)}
    body = need(world, promise=promise, asset_id=world.asset.pk, contact_name="Mara", contact_phone="+351 1")
    request = intake.post("/requests", body).json()
    order = intake.post("/orders", {"request_id": request["id"], "version": request["version"]}).json()
    [visit_id] = order["visit_ids"]
    visit = intake.get(f"/visits/{visit_id}").json()
    assert (visit["state"], visit["title"], visit["promise"]) == ("open", "Noisy door", promise)
    assert (visit["description"], visit["contact_name"]) == ("Scrapes on closing", "Mara")
    assert visit["asset"] == "Automatic door Orrin OR-12345"
    assert intake.get("/requests", state="new").json() == {"rows": [], "next": None}
    assert intake.post("/board/backlog", {}).json()["total"] == 1


def test_a_request_is_ordered_once(world, as_role):
    intake = as_role("intake")
    request = intake.post("/requests", need(world)).json()
    body = {"request_id": request["id"], "version": 1}
    assert intake.post("/orders", body).status_code == 201
    answer = intake.post("/orders", body)
    assert (answer.status_code, answer.json()["code"]) == (409, "already_ordered")


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"what_is_wrong": "   "}, "what_is_wrong"),
        ({"promise": {"start": at(16), "end": at(14)}}, "promise"),
        ({"promise": {"start": at(7), "end": at(9)}}, "promise"),
        ({"needs": {"juggling": 1}}, "needs"),
        ({"priority": 9}, "priority"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(world, as_role, changes, field):
    answer = as_role("intake").post("/requests", need(world, **changes))
    assert (answer.status_code, answer.json()["field"]) == (422, field)


def test_the_asset_must_be_at_the_site(world, as_role):
    answer = as_role("intake").post("/requests", need(world, asset_id=world.asset.pk + 99))
    assert answer.json()["code"] == "no_asset"


def test_a_request_can_end_without_an_order_with_a_reason(world, as_role):
    intake = as_role("intake")
    request = intake.post("/requests", need(world)).json()
    path = f"/requests/{request['id']}/close"
    assert intake.post(path, {"version": 1, "reason": " "}).json()["field"] == "reason"
    assert intake.post(path, {"version": 1, "reason": "works again"}).json()["state"] == "closed"


@pytest.mark.parametrize(
    ("typed", "because"),
    [
        ("seagate", "Millrace Road"),
        ("seag hall", "Millrace Road"),
        ("Millrace Road", "Millrace Road"),
        ("OR-123", "asset OR-12345"),
        ("296 555", "+351 296 555 100"),
    ],
)
def test_the_caller_is_found_by_what_they_say(world, as_role, typed, because):
    [hit] = as_role("intake").get("/customers", text=typed).json()
    assert hit["customer"]["name"] == "Seagate Stores"
    assert because in hit["because"]


def test_nobody_is_found_by_nothing(world, as_role):
    assert as_role("intake").get("/customers", text=" ").json() == []


@pytest.mark.parametrize(
    ("query", "because"),
    [
        ({"phone": "00351296555100"[2:]}, "has the same phone number"),
        ({"email": "Office@Seagate.example"}, "has the same e-mail address"),
        ({"name": "Seagate Store"}, "has nearly the same name"),
    ],
)
def test_a_probable_duplicate_is_named_before_it_is_made(world, as_role, query, because):
    [row] = as_role("intake").get("/customers/twins", **query).json()
    assert (row["customer"]["id"], row["because"]) == (world.customer.pk, [because])


def test_a_new_customer_and_site_are_made_in_the_call(world, as_role):
    intake = as_role("intake")
    customer = intake.post("/customers", {"name": "Marram Foods", "phone": "+351 9", "contact_name": "Edda"}).json()
    [address, *_] = intake.get("/roads/addresses", text="millrace raod 30").json()
    site = intake.post(
        "/sites",
        {"customer_id": customer["id"], "address": address["address"], "lon": address["lon"], "lat": address["lat"]},
    ).json()
    assert site["area"] == address["area"]
    assert Customer.objects.get(pk=customer["id"]).contacts.get().name == "Edda"
    assert intake.post("/assets", {"site_id": site["id"], "kind": "Rolling gate"}).status_code == 201


def test_a_site_outside_every_area_says_so(world, as_role):
    body = {"customer_id": world.customer.pk, "address": "Lighthouse rock", "lon": -25.2, "lat": 47.2}
    assert as_role("intake").post("/sites", body).json()["area"] is None


def test_a_point_of_the_map_has_an_address(world, as_role):
    found = as_role("intake").get("/roads/address-at", lon=world.site.lon, lat=world.site.lat).json()
    assert found["address"].startswith("Millrace Road")


def test_a_request_keeps_everything_that_was_said_of_the_order_to_come(world, as_role):
    api = as_role("intake")
    payer = Customer.objects.create(name="Quay Holding")
    details = {
        "payer_id": payer.pk, "billing": "not billable", "po_number": "PO 7", "tags": ["warranty"],
        "technician_note": "Ask for the porter", "invoice_text": "Gate", "extra": {"claim": "C 7"},
    }  # fmt: skip
    body = {"site_id": world.site.pk, "what_is_wrong": "Squeaks", "details": details}
    made = api.post("/requests", body).json()
    kept = api.get(f"/requests/{made['id']}").json()
    assert {name: kept["details"][name] for name in details} == details
    assert kept["payer_name"] == "Quay Holding"
    # Completed by somebody who says nothing of it, it is still there; and the order has it.
    completed = api.put(
        f"/requests/{made['id']}",
        {"version": made["version"], "site_id": world.site.pk, "what_is_wrong": "Squeaks loudly"},
    ).json()
    order = api.post("/orders", {"request_id": made["id"], "version": completed["version"]})
    assert order.status_code == 201, order.json()
    from apps.orders.models import WorkOrder

    row = WorkOrder.objects.get(request_id=made["id"])
    assert (row.po_number, row.invoice_text, row.technician_note, row.billing) == (
        "PO 7", "Gate", "Ask for the porter", "not billable",
    )  # fmt: skip
    assert (row.payer_id, row.tags) == (payer.pk, ["warranty"])


def test_what_was_emptied_when_it_is_booked_stays_empty(world, as_role):
    api = as_role("intake")
    body = {"site_id": world.site.pk, "what_is_wrong": "Squeaks", "details": {"po_number": "PO 7"}}
    made = api.post("/requests", body).json()
    booked = api.post(
        "/appointments/book",
        {**body, "details": {"invoice_text": "x"}, "request_id": made["id"], "version": made["version"]},
    )
    assert booked.status_code == 201, booked.json()
    from apps.orders.models import WorkOrder

    row = WorkOrder.objects.get(request_id=made["id"])
    assert (row.po_number, row.invoice_text) == ("", "x")
