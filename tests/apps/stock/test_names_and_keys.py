"""Skills, certificates and parts are held by key: another name changes what is read, and nothing that is held."""

from datetime import date

from apps.people.models import CertificateKind, Skill
from apps.stock.models import Part, VanPart
from tests.apps.conftest import MONDAY, at


def renamed(model, code, name):
    model.objects.filter(code=code).update(name=name)


def judged(api, visit, technician):
    body = {"visit_id": visit.pk, "technician_id": technician.pk, "start": at(13)}
    reasons = api.post("/scheduling/judge", body).json()["reasons"]
    return {row["limit"]: row["sentence"] for row in reasons if row["limit"]}


def test_a_new_name_is_said_everywhere_and_breaks_no_limit(world, dispatcher, as_role):
    world.holds(world.ines, "Rope access", date(2027, 1, 1))
    VanPart.objects.create(technician=world.ines, part=Part.objects.get(code="door-roller"), quantity=1)
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


def test_a_kind_of_certificate_is_made_once_by_whoever_changes_settings(world, dispatcher, as_role):
    admin = as_role("administrator")
    made = admin.post("/people/certificates", {"name": "Confined spaces"})
    assert (made.status_code, made.json()["code"]) == (201, "confined-spaces")
    assert admin.post("/people/certificates", {"name": "confined SPACES"}).json()["code"] == "confined-spaces"
    assert dispatcher.post("/people/certificates", {"name": "Another"}).status_code == 403
    assert [row["name"] for row in dispatcher.get("/people/certificates").json()] == ["Confined spaces"]
