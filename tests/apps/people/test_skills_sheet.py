"""Who can do what, as a sheet."""

import pytest

from apps.people.models import Skill, TechnicianSkill
from foundation.models import AuditEntry


@pytest.fixture
def manager(as_role):
    return as_role("manager")


def rows(api):
    return {row["name"]: row for row in api.get("/technicians/skills").json()}


def put(api, technician, version, code, level):
    return api.put(f"/technicians/{technician.pk}/skill", {"version": version, "code": code, "level": level})


def test_a_level_is_set_raised_and_taken_away(world, manager):
    seen = rows(manager)["Ines Falk"]
    assert seen["skills"] == {"doors": 3}
    set_ = put(manager, world.ines, seen["version"], "rescue", 4).json()
    assert set_["skills"] == {"doors": 3, "rescue": 4}
    raised = put(manager, world.ines, set_["version"], "rescue", 5).json()
    assert raised["skills"]["rescue"] == 5
    gone = put(manager, world.ines, raised["version"], "rescue", None).json()
    assert gone["skills"] == {"doors": 3}
    assert rows(manager)["Ines Falk"] == gone
    said = AuditEntry.objects.filter(entity="technician").order_by("id").values_list("sentence", flat=True)
    assert list(said) == [
        "Rescue of Ines Falk is at level 4", "Rescue of Ines Falk is at level 5", "Rescue of Ines Falk is removed",
    ]  # fmt: skip


@pytest.mark.parametrize(("code", "level"), [("flying", 3), ("rescue", 6), ("rescue", 0)])
def test_what_is_no_skill_or_level_is_refused(world, manager, code, level):
    answer = put(manager, world.ines, rows(manager)["Ines Falk"]["version"], code, level)
    assert answer.status_code == 422
    assert TechnicianSkill.objects.filter(technician=world.ines).count() == 1


def test_of_two_who_write_into_one_line_the_second_is_told(world, manager, as_role):
    seen = rows(manager)["Ines Falk"]["version"]
    assert put(manager, world.ines, seen, "rescue", 1).status_code == 200
    late = put(as_role("administrator"), world.ines, seen, "rescue", 2)
    assert late.status_code == 409
    assert "The manager has changed this technician meanwhile" in late.json()["title"]


def test_the_sheet_has_everybody_and_its_reading_costs_the_same_for_many(world, manager, django_assert_max_num_queries):
    Skill.objects.create(code="ropes", name="Rope access")
    with django_assert_max_num_queries(12):
        assert set(rows(manager)) == {"Ines Falk", "Ivor Larkin"}


def test_a_dispatcher_reads_it_and_writes_nothing(world, dispatcher):
    assert put(dispatcher, world.ines, rows(dispatcher)["Ines Falk"]["version"], "rescue", 4).status_code == 403
