"""Starting with the job types of a trade."""

from apps.catalogue.models import JobType
from apps.people.models import CertificateKind, Skill
from core.trades import starter_jobs
from foundation.models import AuditEntry


def take(api, *codes):
    return api.post("/catalogue/starters", {"codes": list(codes)})


def test_what_is_ticked_is_what_is_made(world, as_role):
    manager = as_role("manager")
    [heating] = [row for row in manager.get("/catalogue/starters").json() if row["key"] == "heating"]
    shown = {row["code"]: row for row in heating["jobs"]}
    made = take(manager, "gas-smell", "no-heating").json()
    assert [row["code"] for row in made] == ["gas-smell", "no-heating"]
    for row in made:
        seen = shown[row["code"]]
        assert (row["name"], row["priority"], row["crew"]) == (seen["name"], seen["priority"], seen["crew"])
        assert row["duration_seconds"] == 60 * seen["minutes"]
        assert [Skill.objects.get(code=code).name for code in row["needs"]] == seen["skills"]
    assert made[0]["respond_minutes"] == 60
    assert made[0]["certificates"] == [CertificateKind.objects.get(name="Gas work").code]
    [again] = [row for row in manager.get("/catalogue/starters").json() if row["key"] == "heating"]
    assert {row["code"] for row in again["jobs"] if row["is_ours"]} == {"gas-smell", "no-heating"}
    assert AuditEntry.objects.filter(sentence="made the skill Gas").count() == 1


def test_a_skill_that_is_there_is_used_and_a_job_type_that_is_there_stays(world, as_role):
    manager = as_role("manager")
    Skill.objects.create(code="door-things", name="doors")
    JobType.objects.create(code="door-noisy", name="Ours", duration_seconds=600)
    made = take(manager, "door-noisy", "door-stuck").json()
    assert [(row["code"], row["needs"]) for row in made] == [("door-stuck", {"door-things": 2})]
    assert JobType.objects.get(code="door-noisy").name == "Ours"


def test_all_of_them_can_be_taken_at_once_and_twice(world, as_role):
    manager = as_role("manager")
    before = JobType.objects.count()
    assert len(take(manager, *starter_jobs()).json()) == len(starter_jobs())
    assert take(manager, *starter_jobs()).json() == []
    assert JobType.objects.count() == before + len(starter_jobs())


def test_what_nobody_offers_is_refused_and_makes_nothing(world, as_role):
    answer = take(as_role("manager"), "door-stuck", "flying")
    assert (answer.status_code, answer.json()["field"]) == (422, "codes")
    assert not JobType.objects.filter(code="door-stuck").exists()


def test_a_dispatcher_sees_them_and_makes_none(world, dispatcher):
    assert dispatcher.get("/catalogue/starters").status_code == 200
    assert take(dispatcher, "door-stuck").status_code == 403
