"""Skills, certificates and parts are held by key: another name changes what is read, and nothing that is held."""

from datetime import date
from importlib import import_module
from types import SimpleNamespace

from django.apps import apps
from django.db import connection

from apps.catalogue.commands import edition
from apps.orders.models import SavedView
from apps.people.models import CertificateKind, Skill
from apps.stock.models import Part
from foundation import clock
from tests.apps.conftest import MONDAY, at, lies


def renamed(model, code, name):
    model.objects.filter(code=code).update(name=name)


def judged(api, visit, technician):
    body = {"visit_id": visit.pk, "technician_id": technician.pk, "start": at(13)}
    reasons = api.post("/scheduling/judge", body).json()["reasons"]
    return {row["limit"]: row["sentence"] for row in reasons if row["limit"]}


def test_a_new_name_is_said_everywhere_and_breaks_no_limit(world, dispatcher, as_role):
    world.holds(world.ines, "Rope access", date(2027, 1, 1))
    lies(world.ines, "door-roller", 1)
    world.door_job.certificates = ["rope-access"]
    world.door_job.save()
    visit = world.visit(needs={"doors": 3}, takes={"door-roller": 2})
    renamed(Skill, "doors", "Automatic doors")
    renamed(CertificateKind, "rope-access", "Work on ropes")
    renamed(Part, "door-roller", "Roller, 40 mm")
    assert judged(dispatcher, visit, world.ines) == {"parts": "2 × Roller, 40 mm needed, 1 on the van of Ines Falk"}
    world.ivor.skills.all().delete()
    said = judged(dispatcher, visit, world.ivor)
    assert said["skill"] == "Automatic doors 3 needed, Ivor Larkin has none"
    assert said["certificate"] == "Work on ropes needed, Ivor Larkin has no such certificate"
    assert dispatcher.get("/appointments/capacity", first=MONDAY.isoformat(), skill="doors").status_code == 200
    # A job type that was opened before is saved as it was meant.
    admin = as_role("administrator")
    job = next(row for row in admin.get("/catalogue/job-types").json() if row["id"] == world.door_job.pk)
    saved = admin.put(f"/catalogue/job-types/{job['id']}", job).json()
    assert (saved["needs"], saved["certificates"]) == ({"doors": 1}, ["rope-access"])


def test_what_is_not_known_is_refused_by_name_of_the_field(world, dispatcher, as_role):
    admin = as_role("administrator")
    job = next(row for row in admin.get("/catalogue/job-types").json() if row["id"] == world.door_job.pk)
    wrong = {
        "needs": {"juggling": 2}, "certificates": ["juggling"], "parts": {"juggling": 2},
        "visits": [{"title": "Show", "seconds": 600, "needs": {"juggling": 1}}],
    }  # fmt: skip
    for name, value in wrong.items():
        answer = admin.put(f"/catalogue/job-types/{job['id']}", {**job, name: value})
        assert (answer.status_code, answer.json()["title"].endswith("juggling.")) == (422, True), name
    assert dispatcher.get("/appointments/capacity", first=MONDAY.isoformat(), skill="juggling").status_code == 422


def test_a_number_that_somebody_gave_by_hand_is_passed_over(world, dispatcher):
    [first] = dispatcher.post("/parts", {"names": ["First part"]}).json()
    number = Part.objects.get(code=first["code"]).number
    head, digits = number.split("-")
    Part.objects.create(code="by-hand", name="Numbered by hand", number=f"{head}-{int(digits) + 1}")
    answer = dispatcher.post("/parts", {"names": ["Second part", "Third part"]})
    assert answer.status_code == 201
    numbers = [Part.objects.get(code=row["code"]).number for row in answer.json()]
    assert numbers == [f"{head}-{int(digits) + 2}", f"{head}-{int(digits) + 3}"]


def test_a_kind_of_certificate_is_made_once_by_whoever_changes_settings(world, dispatcher, as_role):
    admin = as_role("administrator")
    made = admin.post("/people/certificates", {"name": "Confined spaces"})
    assert (made.status_code, made.json()["code"]) == (201, "confined-spaces")
    assert admin.post("/people/certificates", {"name": "confined SPACES"}).json()["code"] == "confined-spaces"
    assert dispatcher.post("/people/certificates", {"name": "Another"}).status_code == 403
    assert [row["name"] for row in dispatcher.get("/people/certificates").json()] == ["Confined spaces"]


def test_what_was_held_by_name_is_found_by_key_and_nothing_is_lost(world):
    job = world.door_job
    job.needs, job.parts, job.certificates = {"Door drives": 2}, {"Door roller": 3}, ["Rope access"]
    job.visits = [{"title": "Paint", "seconds": 600, "needs": {"Rescue": 1}}, {"title": "Dry", "seconds": 60}]
    job.save()
    kept = edition(job, now=clock.now(), by="Ada")
    visit = world.visit(needs={"Door drives": 3, "Juggling": 1}, takes={"door ROLLER": 2, "Belt, 4 m": 1})
    plain = world.visit()
    view = SavedView.objects.create(
        page="backlog", name="Rescuers", owner=world.accounts["dispatcher"], query={"skill": "Rescue", "tag": "x"}
    )
    by_key = import_module("apps.orders.migrations.0011_names_by_key").by_key
    by_key(apps, SimpleNamespace(connection=connection))
    for row in (visit, plain, job, kept, view):
        row.refresh_from_db()
    assert visit.needs == {"doors": 3, "juggling": 1}
    assert visit.takes == {"door-roller": 2, "belt-4-m": 1}
    assert (plain.needs, plain.takes) == ({}, {})
    for content in (vars(job), kept.content):
        assert content["needs"] == {"doors": 2}
        assert content["parts"] == {"door-roller": 3}
        assert content["certificates"] == ["rope-access"]
        assert [part.get("needs") for part in content["visits"]] == [{"rescue": 1}, None]
    assert view.query == {"skill": "rescue", "tag": "x"}
    # What nobody had named is a row of its own now, to be tidied.
    assert Skill.objects.get(code="juggling").name == "Juggling"
    assert Part.objects.get(code="belt-4-m").name == "Belt, 4 m"
