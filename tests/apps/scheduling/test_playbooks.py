"""Playbooks: three ready-made, edited in plain words, one the default."""

import pytest

from apps.scheduling.models import PlaybookRow
from apps.scheduling.playbooks import playbook_row
from core.scheduling import KEEP_PROMISES

pytestmark = pytest.mark.django_db


def listed(api):
    return api.get("/playbooks").json()


def body_of(row, **changes):
    return {key: row[key] for key in ("name", "limits", "aims", "version")} | changes


def test_three_are_ready_made_and_one_is_the_default(world, dispatcher):
    rows = listed(dispatcher)["playbooks"]
    assert [row["name"] for row in rows] == ["Keep promises", "Least driving", "Most value"]
    assert [row["is_default"] for row in rows] == [True, False, False]


def test_limits_are_told_in_words(world, dispatcher):
    least = listed(dispatcher)["playbooks"][1]
    words = {row["limit"]: row["words"] for row in least["limits"]}
    assert words["long_drive"] == "The drive between two visits is not too long: at most 45 min."
    assert words["due"] == "Not asked."


def test_a_change_is_kept_and_others_who_saw_the_old_one_are_told(world, dispatcher, as_role):
    row = listed(dispatcher)["playbooks"][0]
    aims = [{**aim, "weight": 5} if aim["aim"] == "driving" else aim for aim in row["aims"]]
    saved = dispatcher.put(f"/playbooks/{row['id']}", body_of(row, aims=aims))
    assert saved.status_code == 200
    assert {aim["aim"]: aim["weight"] for aim in saved.json()["aims"]}["driving"] == 5
    late = as_role("other").put(f"/playbooks/{row['id']}", body_of(row))
    assert late.status_code == 409
    assert "was faster" in late.json()["title"]


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"name": " "}, "name"),
        ({"name": "least driving"}, "Another playbook has that name."),
        ({"aims": []}, "A playbook needs an aim that weighs something."),
        ({"aims": [{"aim": "driving", "weight": 101}]}, "weight"),
        ({"limits": [{"limit": "shift", "on": False, "number": None}]}, "“Shift” cannot be switched off."),
        ({"limits": [{"limit": "skill", "on": True, "number": 3}]}, "“Skill” takes no number."),
    ],
)
def test_what_cannot_be_is_refused_with_the_reason(world, dispatcher, changes, said):
    row = listed(dispatcher)["playbooks"][0]
    answer = dispatcher.put(f"/playbooks/{row['id']}", body_of(row, **changes))
    assert answer.status_code == 422
    assert said in answer.json()["title"]
    assert listed(dispatcher)["playbooks"][0]["version"] == row["version"]


def test_another_one_is_made_the_default(world, dispatcher):
    row = listed(dispatcher)["playbooks"][2]
    answer = dispatcher.post(f"/playbooks/{row['id']}/default", {"version": row["version"]})
    assert answer.json()["is_default"] is True
    assert [r["name"] for r in listed(dispatcher)["playbooks"] if r["is_default"]] == ["Most value"]


def test_a_copy_under_a_new_name(world, dispatcher):
    row = listed(dispatcher)["playbooks"][0]
    answer = dispatcher.post("/playbooks", {key: row[key] for key in ("limits", "aims")} | {"name": "Nights"})
    assert answer.status_code == 200
    assert "Nights" in [r["name"] for r in listed(dispatcher)["playbooks"]]


def test_intake_sees_playbooks_and_does_not_edit_them(world, as_role):
    intake = as_role("intake")
    row = listed(intake)["playbooks"][0]
    assert intake.put(f"/playbooks/{row['id']}", body_of(row)).status_code == 403


def test_a_company_that_has_kept_no_playbook_goes_by_the_ready_made_ones_and_reading_keeps_none(world, dispatcher):
    PlaybookRow.objects.all().delete()
    world.placed(11)
    assert dispatcher.get("/board/attention").status_code == 200
    assert dispatcher.get("/board").status_code == 200
    assert playbook_row(None).name == KEEP_PROMISES.name
    assert not PlaybookRow.objects.exists()
