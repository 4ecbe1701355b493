"""Bringing in open work from a file."""

from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.customers.models import Customer, Site
from apps.orders.models import Visit, WorkOrder
from foundation import audit

HEADER = "customer,site,address,phone,job_type,description,priority,promise_from,promise_to,skills"
EXAMPLE = Path(__file__).parents[3] / "demo" / "open-work.csv"


def preview(api, *lines, header=HEADER, encoding="utf-8"):
    text = "\n".join([header, *lines]) + "\n"
    file = SimpleUploadedFile("work.csv", text.encode(encoding), content_type="text/csv")
    return api.client.post("/api/v1/open-work", {"file": file})


def test_a_preview_says_row_by_row_what_will_happen_and_makes_nothing(world, dispatcher):
    body = preview(
        dispatcher,
        "Seagate Stores,Seagate Hall,,,Noisy door,Rattles,2,,,",
        "New Foods,Kitchen,Millrace Road 40,+351 77,,Gate stuck,,,,",
        "Other Foods,Kitchen,Nowhere Street 40,,,Gate stuck,,,,",
    ).json()
    assert (body["accepted"], body["refused"]) == (2, 1)
    known, new, refused = body["rows"]
    assert known["notes"] == ["known customer Seagate Stores", "known site Seagate Hall"]
    assert new["notes"][0] == "new customer New Foods"
    assert new["notes"][-1] == "new site Kitchen"
    assert refused["problems"][0].startswith("address “Nowhere Street 40” is not on the map")
    assert (WorkOrder.objects.count(), Customer.objects.count()) == (0, 1)


def test_all_accepted_rows_are_made_at_once(world, dispatcher):
    body = preview(
        dispatcher,
        "Seagate Stores,Seagate Hall,,,Noisy door,Rattles,2,2026-11-24 10:00,12:00,",
        "New Foods,Kitchen,Millrace Road 40,+351 777777,,Gate stuck,,,,Door drives:2",
        "new foods,Kitchen,Millrace Road 40,+351 777777,,Second gate,,,,",
        "Bad,,,,,,,,,",
    ).json()
    answer = dispatcher.post(f"/open-work/{body['file_id']}/accept")
    assert answer.json() == {"made": 3}
    assert Customer.objects.count() == 2
    assert Site.objects.get(name="Kitchen").area is not None
    known, new, _ = Visit.objects.order_by("id")
    assert (known.priority, known.duration_seconds, known.needs) == (2, 2700, {"doors": 1})
    assert known.promise_end is not None
    assert new.needs == {"doors": 2}
    assert dispatcher.post("/board/backlog", {}).json()["total"] == 3


def test_what_is_brought_in_takes_the_parts_of_its_job_type(world, dispatcher):
    world.door_job.parts, world.door_job.worth = {"door-roller": 2}, 120
    world.door_job.save()
    body = preview(
        dispatcher,
        "Seagate Stores,Seagate Hall,,,Noisy door,Rattles,2,,,",
        "Seagate Stores,Seagate Hall,,,,Something else,,,,",
    ).json()
    dispatcher.post(f"/open-work/{body['file_id']}/accept")
    assert [(visit.takes, visit.worth) for visit in Visit.objects.order_by("id")] == [
        ({"door-roller": 2}, 120), ({}, None),
    ]  # fmt: skip


def test_a_file_is_brought_in_once(world, dispatcher):
    body = preview(dispatcher, "Seagate Stores,Seagate Hall,,,,Rattles,,,,").json()
    path = f"/open-work/{body['file_id']}/accept"
    assert dispatcher.post(path).status_code == 200
    assert dispatcher.post(path).json()["code"] == "already_accepted"
    assert Visit.objects.count() == 1


@pytest.mark.parametrize(
    ("line", "problem"),
    [
        ("Seagate Stores,Seagate Hall,,,Noisy dor,X,,,,", "unknown job type “Noisy dor”; did you mean Noisy door?"),
        ("Seagate Stores,Seagate Hall,,,,X,,,,Reskue:2", "unknown skill “Reskue”; did you mean Rescue?"),
        ("Seagate Stores,Seagate Hall,,,,X,,2026-11-20 10:00,12:00,", "the promise lies in the past"),
        ("Nobody Ltd,,,,,X,,,,", "a new site needs an address or coordinates"),
    ],
)
def test_a_refused_row_says_why(world, dispatcher, line, problem):
    [row] = preview(dispatcher, line).json()["rows"]
    assert row["problems"] == [problem]


def test_a_row_obeys_what_the_company_and_the_customer_need_of_every_order(world, dispatcher, as_role):
    admin = as_role("administrator")
    seen = admin.get("/company/settings").json()
    answer = admin.post("/company/settings", {"version": seen["version"], "changes": {"required": ["contact"]}})
    assert answer.status_code == 200, answer.json()
    Customer.objects.filter(name="Seagate Stores").update(needs_po_number=True)
    columns = "customer,site,description,contact,po_number"
    body = preview(
        dispatcher,
        "Seagate Stores,Seagate Hall,Rattles,,PO 7",
        "Seagate Stores,Seagate Hall,Squeaks,Mia,",
        "Seagate Stores,Seagate Hall,Jams,Mia,PO 8",
        header=columns,
    ).json()
    assert [row["problems"] for row in body["rows"]] == [
        ["The company needs the contact of every order."],
        ["Seagate Stores needs a purchase-order number on every order."],
        [],
    ]
    assert dispatcher.post(f"/open-work/{body['file_id']}/accept").json() == {"made": 1}
    order = WorkOrder.objects.get()
    assert (order.origin, order.contact_name, order.po_number) == ("file", "Mia", "PO 8")


def test_every_order_of_a_file_has_its_making_in_its_history(world, dispatcher):
    body = preview(dispatcher, "Seagate Stores,Seagate Hall,,,,Rattles,,,,", "New,,Millrace Road 40,,,Jams,,,,").json()
    dispatcher.post(f"/open-work/{body['file_id']}/accept")
    for order in WorkOrder.objects.all():
        [entry] = audit.latest("order", order.pk)
        assert (entry.sentence, entry.actor_name) == ("made the order from a file", "The dispatcher")


def test_the_same_row_twice_is_refused_the_second_time(world, dispatcher):
    line = "Seagate Stores,Seagate Hall,,,,Rattles,,,,"
    rows = preview(dispatcher, line, line).json()["rows"]
    assert [row["problems"] for row in rows] == [[], ["the same as line 2"]]


def test_a_customer_is_known_by_the_phone_number_too(world, dispatcher):
    [row] = preview(dispatcher, "Seagate Str.,Seagate Hall,,351296555100,,Rattles,,,,").json()["rows"]
    assert row["notes"][0] == "known customer Seagate Stores, by phone number"


def test_semicolons_and_latin_letters(world, dispatcher):
    body = preview(
        dispatcher, "Seagate Stores;Seagate Hall;Tür klemmt", header="customer;site;description", encoding="latin-1"
    ).json()
    assert body["rows"][0]["description"] == "Tür klemmt"


def test_a_file_that_cannot_be_read_is_refused_whole(world, dispatcher):
    answer = preview(dispatcher, "a,b", header="name,what")
    assert answer.status_code == 422
    assert answer.json()["title"] == "The first line must name the columns; missing: customer, description."


def test_a_file_without_an_acceptable_row_makes_nothing(world, dispatcher):
    body = preview(dispatcher, "Bad,,,,,,,,,").json()
    assert dispatcher.post(f"/open-work/{body['file_id']}/accept").json()["code"] == "nothing_to_make"


def test_the_example_file_of_the_docs_can_be_read(world, dispatcher):
    file = SimpleUploadedFile("open-work.csv", EXAMPLE.read_bytes())
    body = dispatcher.client.post("/api/v1/open-work", {"file": file}).json()
    assert body["accepted"] + body["refused"] >= 8
