"""Two areas, job types or own fields made into one; who uses them is said first."""

import pytest

from apps.catalogue.models import JobType
from apps.catalogue.queries import called, job_types_by_name
from apps.company.models import Area
from apps.customers.models import Customer, Site
from apps.orders.models import SavedView, WorkOrder
from apps.people.models import OwnRole, TechnicianWish
from core.basics import Place
from core.roads import AreaIndex
from foundation import merging

BOX = {"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1], [0, 1], [0, 0]]]}
NEXT = {"type": "Polygon", "coordinates": [[[1, 0], [2, 0], [2, 1], [1, 1], [1, 0]]]}


@pytest.fixture
def admin(world, as_role):
    return as_role("administrator")


def uses(admin, path):
    return {row["what"]: row["count"] for row in admin.get(f"{path}/uses").json()}


@pytest.fixture
def two(world):
    """Two neighbouring areas, with a site, technicians, a role and a wish."""
    west, east = Area.objects.create(name="West", polygon=BOX), Area.objects.create(name="East", polygon=NEXT)
    Site.objects.filter(pk=world.site.pk).update(area=west, lon=0.5, lat=0.5)
    world.ines.areas.set([west, east])
    world.ivor.areas.set([west])
    OwnRole.objects.create(name="West only", actions=["use", "see_orders"]).areas.set([west])
    TechnicianWish.objects.create(technician=world.ivor, area=west, likes=True)
    return west, east


def test_two_areas_are_one_with_both_outlines_and_everybody_of_both(world, admin, two):
    west, east = two
    assert uses(admin, f"/areas/{west.pk}") == {"sites": 1, "technicians": 2, "roles": 1, "wishes": 1}
    answer = admin.post(f"/areas/{west.pk}/merge", {"version": west.version, "into": east.pk})
    assert answer.status_code == 200
    assert list(Area.objects.filter(name__in=("West", "East")).values_list("name", flat=True)) == ["East"]
    east.refresh_from_db()
    index = AreaIndex({"east": east.polygon})
    assert index.at(Place(0.5, 0.5)) == index.at(Place(1.5, 0.5)) == "east"
    assert uses(admin, f"/areas/{east.pk}") == {"sites": 1, "technicians": 2, "roles": 1, "wishes": 1}
    assert list(world.ines.areas.values_list("name", flat=True)) == ["East"]
    assert Site.objects.get(pk=world.site.pk).area == east


def test_an_area_is_not_merged_into_itself_or_unseen(world, admin, two):
    west, east = two
    assert admin.post(f"/areas/{west.pk}/merge", {"version": west.version, "into": west.pk}).status_code == 422
    assert admin.post(f"/areas/{west.pk}/merge", {"version": west.version + 1, "into": east.pk}).status_code == 409
    assert Area.objects.filter(name="West").exists()


def test_two_job_types_are_one_and_old_names_lead_to_it(world, admin):
    visit, door = world.visit(), world.door_job
    kept = JobType.objects.create(code="gate", name="Gate")
    path = f"/catalogue/job-types/{door.pk}"
    assert uses(admin, path) == {"work orders": 1}
    merged = admin.post(f"{path}/merge", {"version": door.version, "into": kept.pk})
    assert merged.status_code == 200
    assert WorkOrder.objects.get(pk=visit.order_id).job_type == kept
    assert [row["name"] for row in admin.get("/catalogue/job-types", retired=True).json()] == ["Gate"]
    assert called("door") == kept
    assert job_types_by_name()["noisy door"] == kept
    assert admin.post(f"{path}/merge", {"version": door.version, "into": kept.pk}).status_code == 404


def test_a_job_type_is_not_merged_into_a_retired_one(world, admin):
    kept = JobType.objects.create(code="gate", name="Gate", retired=True)
    answer = admin.post(f"/catalogue/job-types/{world.door_job.pk}/merge", {"version": 1, "into": kept.pk})
    assert (answer.status_code, answer.json()["field"]) == (422, "into")


def test_whoever_points_at_a_job_type_has_said_what_becomes_of_it():
    assert [str(pointer) for pointer in merging.undeclared(JobType)] == []


FIELDS = [
    {"key": "gate", "label": "Gate code", "kind": "text"},
    {"key": "code", "label": "Code at the door", "kind": "text"},
    {"key": "dog", "label": "A dog", "kind": "yes_no"},
]


def define(admin, record, questions, version=0):
    body = {"version": version, "questions": questions}
    answer = admin.put(f"/company/fields/{record}", body)
    assert answer.status_code == 200, answer.json()
    return answer.json()["version"]


def merge_fields(admin, record, version, key="gate", into="code"):
    return admin.post(f"/company/fields/{record}/{key}/merge", {"version": version, "into": into})


def test_two_own_fields_are_one_with_the_answers_of_both(world, admin):
    version = define(admin, "customer", FIELDS)
    answers = ({"gate": "12"}, {"gate": "34", "code": "34"}, {"gate": "56", "code": ""}, {"code": "78"}, {"dog": True})
    made = [Customer.objects.create(name=f"Customer {at}", extra=extra) for at, extra in enumerate(answers)]
    assert uses(admin, "/company/fields/customer/gate") == {"customers": 3}
    answer = merge_fields(admin, "customer", version)
    assert [question["key"] for question in answer.json()["questions"]] == ["code", "dog"]
    for row in made:
        row.refresh_from_db()
    assert [row.extra for row in made] == [
        {"code": "12"},
        {"code": "34"},
        {"code": "56"},
        {"code": "78"},
        {"dog": True},
    ]


def test_own_fields_that_are_answered_differently_stay_two(world, admin):
    version = define(admin, "customer", FIELDS)
    row = Customer.objects.create(name="Unsure", extra={"gate": "1", "code": "2"})
    answer = merge_fields(admin, "customer", version)
    assert (answer.status_code, answer.json()["code"]) == (422, "answers_differ")
    assert "1 customers answer both" in answer.json()["title"]
    row.refresh_from_db()
    assert row.extra == {"gate": "1", "code": "2"}
    assert merge_fields(admin, "customer", version, into="dog").status_code == 422, "of another kind"
    assert merge_fields(admin, "customer", version, into="gone").status_code == 404
    assert merge_fields(admin, "customer", version + 1).status_code == 409


def test_views_that_filter_by_a_field_go_along(world, admin):
    version = define(admin, "order", FIELDS)
    view = SavedView.objects.create(
        page="orders", name="Gates", owner=world.accounts["dispatcher"],
        query={"extra": {"gate": "12"}, "columns": ["number", "extra.gate", "extra.code"], "sort": "extra.gate"},
    )  # fmt: skip
    assert uses(admin, "/company/fields/order/gate") == {"saved views": 1}
    assert merge_fields(admin, "order", version).status_code == 200
    view.refresh_from_db()
    assert view.query == {"extra": {"code": "12"}, "columns": ["number", "extra.code"], "sort": "extra.code"}
