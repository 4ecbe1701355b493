"""Skills, certificates and tags: who uses one is shown, and renaming, retiring and merging break nothing."""

from importlib import import_module
from types import SimpleNamespace

import pytest
from django.apps import apps
from django.db import connection

from apps.company.models import Area, Company, Tag
from apps.company.queries import tag_keys
from apps.customers.models import Customer
from apps.intake.models import Request
from apps.orders.models import SavedView, Visit, WorkOrder
from apps.people.models import Certificate, CertificateKind, Skill, TechnicianSkill
from apps.people.queries import skill_keys
from foundation.models import AuditEntry
from foundation.named import called

KINDS = ("/people/skills", "/people/certificates", "/company/tags")


@pytest.fixture
def admin(world, as_role):
    return as_role("administrator")


def one(api, path, code):
    return next(row for row in api.get(path).json() if row["code"] == code)


def merged(api, path, code, into):
    return api.post(f"{path}/{code}/merge", {"version": one(api, path, code)["version"], "into": into})


def uses(api, path, code):
    return {row["what"]: row["count"] for row in api.get(f"{path}/{code}/uses").json()}


@pytest.mark.parametrize("path", KINDS)
def test_a_name_is_added_renamed_retired_and_offered_again(admin, dispatcher, path):
    made = admin.post(path, {"name": "  Vacuum   lifts "})
    assert (made.status_code, made.json()["name"], made.json()["code"]) == (201, "Vacuum lifts", "vacuum-lifts")
    renamed = admin.put(f"{path}/vacuum-lifts", {"version": 1, "name": "Lifts by vacuum", "retired": True})
    assert renamed.json() == made.json() | {"name": "Lifts by vacuum", "retired": True, "version": 2}
    stale = admin.put(f"{path}/vacuum-lifts", {"version": 1, "name": "Again", "retired": False})
    assert (stale.status_code, "has changed it meanwhile" in stale.json()["title"]) == (409, True)
    # Asked for by its name it is offered again, and is no second one.
    again = admin.post(path, {"name": "lifts BY vacuum"}).json()
    assert (again["code"], again["retired"], again["version"]) == ("vacuum-lifts", False, 3)
    assert dispatcher.post(path, {"name": "Another"}).status_code == 403
    body = {"version": 3, "name": "Other", "retired": True}
    assert dispatcher.put(f"{path}/vacuum-lifts", body).status_code == 403
    assert [row.sentence.split()[0] for row in AuditEntry.objects.order_by("id").filter(entity_id__gt=0)][-3:] == [
        "made", "renamed", "took"
    ]  # fmt: skip


@pytest.mark.parametrize("path", KINDS)
def test_two_of_a_name_cannot_be_and_nothing_is_made_of_nothing(admin, path):
    admin.post(path, {"name": "First"})
    admin.post(path, {"name": "Second"})
    taken = admin.put(f"{path}/second", {"version": 1, "name": "FIRST"})
    assert (taken.status_code, taken.json()["field"]) == (422, "name")
    assert "merge the two if they are the same" in taken.json()["title"]
    assert admin.post(path, {"name": "   "}).status_code == 422
    assert admin.post(f"{path}/second/merge", {"version": 1, "into": "second"}).json()["field"] == "into"
    assert admin.post(f"{path}/second/merge", {"version": 1, "into": "nothing"}).status_code == 404
    assert admin.get(f"{path}/nothing/uses").status_code == 404


def test_a_merged_skill_is_the_other_one_wherever_it_was_held(world, admin, dispatcher):
    doors, other = Skill.objects.get(code="doors"), called(Skill, "Door things")[0]
    TechnicianSkill.objects.filter(technician=world.ivor, skill=doors).delete()
    world.ines.skills.create(skill=other, level=5)
    world.ivor.skills.create(skill=other, level=2)
    visit = world.visit(needs={"door-things": 4, "doors": 1})
    alone = world.visit(needs={"door-things": 2})
    job = world.door_job
    job.needs, job.visits = {"door-things": 3}, [{"title": "Paint", "seconds": 60, "needs": {"door-things": 1}}]
    job.save()
    view = SavedView.objects.create(
        page="backlog", name="Doors", owner=world.accounts["dispatcher"], query={"skill": "door-things"}
    )
    held = {"technicians": 2, "visits": 2, "job types": 1, "saved views": 1}
    assert uses(dispatcher, "/people/skills", "door-things") == held
    before = job.version
    assert merged(admin, "/people/skills", "door-things", "doors").json()["code"] == "doors"
    for row in (visit, alone, job, view):
        row.refresh_from_db()
    assert (visit.needs, alone.needs) == ({"doors": 4}, {"doors": 2})
    assert (job.needs, job.visits[0]["needs"], job.version) == ({"doors": 3}, {"doors": 1}, before + 1)
    assert view.query == {"skill": "doors"}
    levels = dict(TechnicianSkill.objects.filter(skill=doors).values_list("technician__name", "level"))
    assert (levels["Ines Falk"], levels["Ivor Larkin"]) == (5, 2)
    assert not TechnicianSkill.objects.filter(skill=other).exists()
    # Gone from the list; its name and what still speaks of it lead to the one that was kept.
    assert "door-things" not in {row["code"] for row in dispatcher.get("/people/skills").json()}
    assert admin.post("/people/skills", {"name": "door things"}).json()["code"] == "doors"
    told = AuditEntry.objects.filter(action="merge").get()
    assert told.sentence == (
        f"merged the skill Door things into {doors.name} (2 technicians, 2 visits, 1 job types, 1 saved views)"
    )


def test_a_merged_certificate_is_asked_for_and_held_under_the_other(world, admin):
    world.holds(world.ines, "Rope work", None)
    world.holds(world.ivor, "Rope access", None)
    world.door_job.certificates = ["rope-work", "rope-access"]
    world.door_job.save()
    assert merged(admin, "/people/certificates", "rope-work", "rope-access").status_code == 200
    world.door_job.refresh_from_db()
    assert world.door_job.certificates == ["rope-access"]
    kept = CertificateKind.objects.get(code="rope-access")
    assert set(Certificate.objects.values_list("technician__name", "kind")) == {
        ("Ines Falk", kept.pk), ("Ivor Larkin", kept.pk)
    }  # fmt: skip
    assert one(admin, "/people/certificates", "rope-access")["holders"] == 2


def test_a_merged_tag_marks_what_the_other_marks(world, admin, dispatcher):
    Customer.objects.filter(pk=world.customer.pk).update(tags=["complaint", "warranty"])
    visit = world.visit()
    WorkOrder.objects.filter(pk=visit.order_id).update(tags=["complaint"])
    request = Request.objects.create(
        number="R-9001", customer=world.customer, taken_at=visit.order.made_at,
        details={"tags": ["complaint", "warranty"], "po_number": "7"},
    )  # fmt: skip
    SavedView.objects.create(
        page="orders", name="Bad", owner=world.accounts["dispatcher"], query={"tags": ["warranty", "complaint"]}
    )
    assert uses(dispatcher, "/company/tags", "complaint") == {
        "customers": 1, "orders": 1, "requests": 1, "saved views": 1
    }  # fmt: skip
    assert merged(admin, "/company/tags", "complaint", "warranty").status_code == 200
    assert Customer.objects.get(pk=world.customer.pk).tags == ["warranty"]
    assert WorkOrder.objects.get(pk=visit.order_id).tags == ["warranty"]
    assert SavedView.objects.get().query == {"tags": ["warranty"]}
    request.refresh_from_db()
    assert request.details == {"tags": ["warranty"], "po_number": "7"}
    # A form that was open meanwhile still says the old key.
    body = {"version": world.customer.version, "name": world.customer.name, "tags": ["complaint"]}
    assert dispatcher.put(f"/customers/{world.customer.pk}", body).json()["tags"] == ["warranty"]
    unknown = dispatcher.put(f"/customers/{world.customer.pk}", body | {"version": 2, "tags": ["juggling"]})
    assert (unknown.status_code, unknown.json()["field"]) == (422, "tags")


def test_files_name_what_was_merged_by_either_name(world, admin, dispatcher):
    called(Skill, "Door things")
    assert merged(admin, "/company/tags", "complaint", "warranty").status_code == 200
    assert merged(admin, "/people/skills", "door-things", "doors").status_code == 200
    assert (tag_keys()["complaint"], tag_keys()["warranty"]) == ("warranty", "warranty")
    assert (skill_keys()["door things"], skill_keys()["door drives"]) == ("doors", "doors")


def test_merging_into_one_that_is_merged_again_leads_to_the_last(admin):
    for name in ("One", "Two", "Three"):
        admin.post("/company/tags", {"name": name})
    assert merged(admin, "/company/tags", "one", "two").status_code == 200
    assert merged(admin, "/company/tags", "two", "three").status_code == 200
    assert admin.post("/company/tags", {"name": "ONE"}).json()["code"] == "three"
    assert merged(admin, "/company/tags", "three", "three").status_code == 422


def test_tags_and_areas_that_were_held_by_name_are_found_by_key(world):
    Company.objects.update(settings={"tags": ["Key account", "Storm"], "offers_shown": 6})
    Tag.objects.exclude(code="key-account").delete()
    customer = Customer.objects.create(name="Old", tags=["Key account", "VIP"])
    order = world.visit().order
    WorkOrder.objects.filter(pk=order.pk).update(tags=["storm"])
    request = Request.objects.create(
        number="R-9000", customer=world.customer, taken_at=order.made_at, details={"tags": ["Storm"], "po_number": "7"}
    )
    area = Area.objects.first()
    owner = world.accounts["dispatcher"]
    views = [
        SavedView.objects.create(page=page, name="V", owner=owner, query={"areas": [area.name, "Gone"], **more})
        for page, more in (("orders", {"tags": ["VIP"]}), ("backlog", {"tag": "Storm"}))
    ]
    module = import_module("apps.orders.migrations.0015_tags_and_areas_by_key")
    schema = SimpleNamespace(connection=connection)
    module.by_key(apps, schema)
    module.by_name(apps, schema)
    assert Customer.objects.get(pk=customer.pk).tags == ["key account", "VIP"]
    assert Company.objects.get().settings == {"tags": ["key account", "Storm", "VIP"], "offers_shown": 6}
    module.by_key(apps, schema)
    for row in (customer, order, request, *views):
        row.refresh_from_db()
    assert dict(Tag.objects.values_list("code", "name")) == {
        "key-account": "key account", "storm": "Storm", "vip": "VIP"
    }  # fmt: skip
    assert (customer.tags, order.tags) == (["key-account", "vip"], ["storm"])
    assert request.details == {"tags": ["storm"], "po_number": "7"}
    assert Company.objects.get().settings == {"offers_shown": 6}
    assert views[0].query == {"areas": [area.pk], "tags": ["vip"]}
    assert views[1].query == {"area_ids": [area.pk], "tag": "storm"}


def test_work_is_found_by_tag_and_area_and_read_by_their_names(world, dispatcher, admin):
    order = world.visit().order
    WorkOrder.objects.filter(pk=order.pk).update(tags=["key-account"])
    tag = one(dispatcher, "/company/tags", "key-account")
    admin.put("/company/tags/key-account", {"version": tag["version"], "name": "Important"})
    Area.objects.filter(pk=world.site.area_id).update(name="Renamed Quarter")
    filters = {"tags": ["key-account"], "area_ids": [world.site.area_id]}
    found = dispatcher.post("/orders/list", {"filters": filters}).json()["rows"]
    assert [(row["id"], row["tags"], row["area"]) for row in found] == [(order.pk, ["Important"], "Renamed Quarter")]
    asked = {"tag": "key-account", "area_ids": [world.site.area_id]}
    waiting = dispatcher.post("/board/backlog", asked).json()["visits"]
    assert [row["id"] for row in waiting] == list(Visit.objects.filter(order=order).values_list("pk", flat=True))
