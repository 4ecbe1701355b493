"""Customers: found however they are typed, never twice, merged and taken apart again."""

import pytest

from apps.company.models import Company
from apps.customers.models import Customer, Merge, Site
from apps.customers.queries import find, twins
from apps.customers.search import make_findable
from apps.intake.models import Request
from apps.orders.models import WorkOrder
from foundation import merging

pytestmark = pytest.mark.django_db


@pytest.fixture
def twin(world) -> Customer:
    """The same customer, made a second time by somebody in a hurry."""
    made = Customer.objects.create(name="Seagate Stores Ltd", phone="00351 296 555 100", phone_key="+351296555100")
    Site.objects.create(customer=made, name="Annexe", address="Millrace Road 62", lon=-24.6, lat=47.2)
    make_findable([made.pk])
    return made


@pytest.mark.parametrize(
    "typed",
    [
        "seagate", "sea sto", "SEAGATE hall", "296 555 100", "+351 296 555 100", "00351296555100",
        "office@seagate", "millrace road 60", "or-12345", "seagte stores", "se",
    ],
)  # fmt: skip
def test_a_customer_is_found_by_whatever_is_typed(world, typed):
    assert world.customer.pk in {hit.customer.pk for hit in find(typed)}


@pytest.mark.parametrize("typed", ["s", "", "zzyx laundry", "999 888 777", "o'", "':", "&|", "a:*"])
def test_and_not_by_what_does_not_fit(world, typed):
    assert find(typed) == []


def test_accents_and_case_do_not_matter(world):
    made = Customer.objects.create(name="Ângela Ålund")
    make_findable([made.pk])
    assert [hit.customer for hit in find("angela alund")] == [made]


def test_a_serial_number_finds_the_asset_and_its_site(world):
    [hit] = find("OR-12345")
    assert (hit.asset, hit.site) == (world.asset, world.site)


def test_likely_twins_come_with_every_reason(world, twin):
    [found] = twins(name="Seagate Stores", phone="296555100", address="Millrace Road 62", but=world.customer.pk)
    assert found.customer == twin
    assert found.because == [
        "has the same phone number",
        "has nearly the same name",
        "has a site at Millrace Road 62",
    ]


def test_everything_moves_with_a_merge_and_back(world, twin, dispatcher):
    order = WorkOrder.objects.get(pk=world.visit().order_id)
    WorkOrder.objects.filter(pk=order.pk).update(customer=twin)
    request = Request.objects.create(
        number="R-1", customer=twin, what_is_wrong="x", taken_at=order.made_at, taken_by="y"
    )
    body = {"kept_id": world.customer.pk, "gone_id": twin.pk}
    merged = dispatcher.post("/customers/merges", body).json()
    assert {site["name"] for site in merged["sites"]} == {"Seagate Hall", "Annexe"}
    order.refresh_from_db()
    request.refresh_from_db()
    assert (order.customer, request.customer) == (world.customer, world.customer)
    assert [hit.customer.pk for hit in find("annexe")] == [world.customer.pk]
    assert dispatcher.get(f"/customers/{twin.pk}").json()["merged_into"]["id"] == world.customer.pk

    undone = dispatcher.post(f"/customers/merges/{merged['merge']['id']}/undo").json()
    assert {site["name"] for site in undone["sites"]} == {"Seagate Hall"}
    order.refresh_from_db()
    request.refresh_from_db()
    assert (order.customer, request.customer) == (twin, twin)
    assert [hit.customer.pk for hit in find("annexe")] == [twin.pk]


def test_whatever_points_at_a_customer_says_what_becomes_of_it_in_a_merge():
    assert [str(pointer) for pointer in merging.undeclared(Customer)] == []


def test_what_nobody_declared_is_found(monkeypatch):
    monkeypatch.setitem(merging._moving, Customer, [])
    assert "orders.WorkOrder.payer" in [str(pointer) for pointer in merging.undeclared(Customer)]


def test_what_came_after_a_merge_stays_when_it_is_undone(world, twin, dispatcher):
    dispatcher.post("/customers/merges", {"kept_id": world.customer.pk, "gone_id": twin.pk})
    order = world.visit().order
    dispatcher.post(f"/customers/merges/{Merge.objects.get().pk}/undo")
    order.refresh_from_db()
    assert order.customer == world.customer


def test_what_the_kept_one_lacks_it_takes_over_and_gives_back(world, twin, dispatcher):
    Customer.objects.filter(pk=world.customer.pk).update(email="")
    Customer.objects.filter(pk=twin.pk).update(email="annexe@seagate.example", tags=["warranty"])
    dispatcher.post("/customers/merges", {"kept_id": world.customer.pk, "gone_id": twin.pk})
    kept = Customer.objects.get(pk=world.customer.pk)
    assert (kept.email, kept.tags) == ("annexe@seagate.example", ["warranty"])
    dispatcher.post(f"/customers/merges/{Merge.objects.get().pk}/undo")
    kept.refresh_from_db()
    assert (kept.email, kept.tags) == ("", [])


def test_what_was_changed_after_a_merge_stays_when_it_is_undone(world, twin, dispatcher):
    Customer.objects.filter(pk=world.customer.pk).update(email="")
    Customer.objects.filter(pk=twin.pk).update(email="annexe@seagate.example")
    dispatcher.post("/customers/merges", {"kept_id": world.customer.pk, "gone_id": twin.pk})
    Customer.objects.filter(pk=world.customer.pk).update(email="new@seagate.example")
    dispatcher.post(f"/customers/merges/{Merge.objects.get().pk}/undo")
    assert Customer.objects.get(pk=world.customer.pk).email == "new@seagate.example"


def test_a_customer_cannot_be_merged_twice_or_into_itself(world, twin, dispatcher):
    same = {"kept_id": twin.pk, "gone_id": twin.pk}
    assert dispatcher.post("/customers/merges", same).status_code == 422
    body = {"kept_id": world.customer.pk, "gone_id": twin.pk}
    dispatcher.post("/customers/merges", body)
    assert dispatcher.post("/customers/merges", body).status_code == 409


def test_a_stale_change_is_refused_with_who_was_faster(world, dispatcher):
    body = {"version": 1, "name": "Seagate Stores", "phone": "+351 296 555 100", "tags": ["key-account"]}
    assert dispatcher.put(f"/customers/{world.customer.pk}", body).status_code == 200
    answer = dispatcher.put(f"/customers/{world.customer.pk}", {**body, "tags": []})
    assert answer.status_code == 409
    assert answer.json()["title"].startswith("The dispatcher changed")
    assert Customer.objects.get(pk=world.customer.pk).tags == ["key-account"]


def test_own_fields_are_checked_and_searched(world, as_role, dispatcher):
    fields = [
        {"key": "grade", "label": "Grade", "kind": "choice", "choices": ["gold", "silver"], "required": "to create"},
        {"key": "lifts", "label": "Lifts", "kind": "number", "least": 1},
    ]
    admin = as_role("administrator")
    assert admin.put("/company/fields/customer", {"version": 0, "questions": fields}).status_code == 200
    body = {"version": 1, "name": "Seagate Stores"}
    refused = dispatcher.put(f"/customers/{world.customer.pk}", body)
    assert (refused.status_code, refused.json()["field"]) == (422, "extra.grade")
    wrong = dispatcher.put(f"/customers/{world.customer.pk}", {**body, "extra": {"grade": "gold", "lifts": 0}})
    assert wrong.json()["title"] == "Lifts: At least 1."
    kept = dispatcher.put(f"/customers/{world.customer.pk}", {**body, "extra": {"grade": "gold", "lifts": "3"}})
    assert kept.status_code == 200
    assert Customer.objects.get(pk=world.customer.pk).extra == {"grade": "gold", "lifts": 3}
    assert [hit.customer for hit in find("gold")] == [world.customer]


def test_an_asset_is_no_part_of_itself(world, dispatcher):
    asset = dispatcher.post(
        "/assets", {"site_id": world.site.pk, "kind": "Door drive", "parent_id": world.asset.pk}
    ).json()
    body = {"version": 1, "kind": "Automatic door", "parent_id": asset["id"]}
    assert dispatcher.put(f"/assets/{world.asset.pk}", body).json()["title"] == "It would be a part of itself."


def test_hours_and_people_of_a_site_are_kept(world, dispatcher):
    body = {
        "version": 1, "name": "Seagate Hall", "address": world.site.address, "lon": world.site.lon,
        "lat": world.site.lat, "opening": ["08:00-12:00", "", "", "", "", "", ""],
        "preferred": [world.ines.pk], "refused": [world.ivor.pk],
    }  # fmt: skip
    assert dispatcher.put(f"/sites/{world.site.pk}", body).status_code == 200
    [site] = dispatcher.get(f"/customers/{world.customer.pk}").json()["sites"]
    assert [row["name"] for row in site["refused"]] == ["Ivor Larkin"]
    both = dispatcher.put(f"/sites/{world.site.pk}", {**body, "version": 2, "refused": [world.ines.pk]})
    assert both.json()["title"] == "Nobody is preferred and refused at once."
    bad = dispatcher.put(f"/sites/{world.site.pk}", {**body, "version": 2, "opening": ["eight"] + [""] * 6})
    assert bad.json()["field"] == "opening"


def test_notes_stay_in_the_history(world, dispatcher):
    assert dispatcher.post(f"/customers/{world.customer.pk}/notes", {"text": "Pays late"}).status_code == 201
    [entry] = dispatcher.get(f"/customers/{world.customer.pk}/history").json()["rows"]
    assert (entry["by"], entry["note"]) == ("The dispatcher", "Pays late")


def test_settings_are_explained_checked_and_versioned(world, as_role):
    admin = as_role("administrator")
    found = admin.get("/company/settings").json()
    assert all(row["explanation"] for row in found["settings"])
    version = found["version"]
    bad = admin.post("/company/settings", {"version": version, "changes": {"windows": ["ten to two"]}})
    assert (bad.status_code, bad.json()["field"]) == (422, "windows")
    word = admin.post("/company/settings", {"version": version, "changes": {"message_promised": "Hi {nobody}"}})
    assert "{nobody} is not known" in word.json()["title"]
    assert admin.post("/company/settings", {"version": version, "changes": {"offers_shown": 6}}).status_code == 200
    stale = admin.post("/company/settings", {"version": version, "changes": {"offers_shown": 2}})
    assert stale.status_code == 409
    assert Company.objects.get().settings == {"offers_shown": 6}
    assert as_role("dispatcher").post("/company/settings", {"version": 2, "changes": {}}).status_code == 403


def test_an_area_is_drawn_and_its_sites_find_it(world, as_role):
    admin = as_role("administrator")
    lon, lat = world.site.lon, world.site.lat
    ring = [[lon - d, lat - e] for d, e in ((0.001, 0.001), (-0.001, 0.001), (-0.001, -0.001), (0.001, -0.001))]
    polygon = {"type": "Polygon", "coordinates": [[*ring, ring[0]]]}
    answer = admin.put("/areas", {"name": "Seagate Quarter", "polygon": polygon})
    assert answer.json()["problems"] == ["1 sites now lie in another area"]
    world.site.refresh_from_db()
    assert world.site.area.name == "Seagate Quarter"
    bad = admin.put("/areas", {"name": "Line", "polygon": {"type": "LineString", "coordinates": []}})
    assert bad.status_code == 422
    drawn = world.site.area
    again = {"name": "Seagate", "polygon": polygon, "area_id": drawn.pk, "version": 1}
    assert admin.put("/areas", again).status_code == 200
    stale = admin.put("/areas", again | {"name": "Hall"})
    assert (stale.status_code, "has changed this area meanwhile" in stale.json()["title"]) == (409, True)
    assert admin.client.delete(f"/api/v1/areas/{drawn.pk}").status_code == 200
    world.site.refresh_from_db()
    assert world.site.area.name not in ("Seagate", "Seagate Quarter")
    assert admin.post(f"/areas/{drawn.pk}/back", {}).status_code == 200
    world.site.refresh_from_db()
    assert (world.site.area.pk, world.site.area.name) == (drawn.pk, "Seagate")


def test_every_site_is_on_the_map_but_those_of_merged_customers(world, dispatcher, django_assert_max_num_queries):
    other = Customer.objects.create(name="Seagate Store")
    Site.objects.create(customer=other, name="Annex", address="x", lon=-24.6, lat=47.2)
    with django_assert_max_num_queries(5):
        rows = dispatcher.get("/sites/on-map").json()
    assert [(row["name"], row["customer_name"]) for row in rows] == [
        ("Seagate Hall", "Seagate Stores"), ("Annex", "Seagate Store")
    ]  # fmt: skip
    assert (rows[0]["lon"], rows[0]["lat"]) == (world.site.lon, world.site.lat)
    Customer.objects.filter(pk=other.pk).update(merged_into=world.customer)
    assert [row["name"] for row in dispatcher.get("/sites/on-map").json()] == ["Seagate Hall"]


def test_what_sites_say_of_a_technician_is_read_with_whose_they_are(world, dispatcher, as_role):
    world.site.refused.add(world.ines)
    other = Site.objects.create(customer=world.customer, name="Annex", address="x", lon=-24.6, lat=47.2)
    other.required.add(world.ines, world.ivor)
    said = dispatcher.get(f"/sites/saying-of/{world.ines.pk}").json()
    assert {(row["how"], row["site_id"], row["customer"]) for row in said} == {
        ("refused", world.site.pk, world.customer.name), ("required", other.pk, world.customer.name),
    }  # fmt: skip
    assert [row["how"] for row in dispatcher.get(f"/sites/saying-of/{world.ivor.pk}").json()] == ["required"]
