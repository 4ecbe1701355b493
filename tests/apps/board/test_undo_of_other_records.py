"""Ctrl Z goes through everything done on the board: absences, reminders, crews and counts, among visits."""

from datetime import timedelta

import pytest

from apps.board.models import Reminder
from apps.people.models import Absence, Crew
from foundation import clock
from foundation.models import AuditEntry, UndoEntry
from tests.apps.board.test_placing import place
from tests.apps.conftest import at, on_vans


def undo(api):
    return api.post("/board/undo", {})


def redo(api):
    return api.post("/board/redo", {})


def absence(api, technician):
    body = {"technician_id": technician.pk, "start": at(13), "end": at(16), "reason": "ill"}
    return api.post("/people/absences", body).json()


def remind(api, technician, text="Keys back"):
    return api.post("/reminders", {"technician_id": technician.pk, "at": at(11), "text": text}).json()


def change_reminder(api, row, **changes):
    body = {name: row[name] for name in ("version", "at", "text", "done")} | changes
    return api.put(f"/reminders/{row['id']}", body).json()


def crew(api, *members, name="Riggers"):
    return api.post("/people/crews", {"name": name, "members": [member.pk for member in members]}).json()


def count(api, technician, quantity, version=None):
    body = {"part": "Door roller", "quantity": quantity, "version": version}
    return api.put(f"/technicians/{technician.pk}/van", body).json()


def texts():
    return list(Reminder.objects.order_by("id").values_list("text", flat=True))


def test_an_absence_goes_and_comes_again(world, dispatcher):
    absence(dispatcher, world.ines)
    answer = undo(dispatcher).json()
    assert answer == {"visit": None, "sentence": "noted that Ines Falk is away"}
    assert not Absence.objects.exists()
    assert redo(dispatcher).status_code == 200
    found = Absence.objects.get()
    assert (found.technician_id, int(found.start.timestamp()), found.reason) == (world.ines.pk, at(13), "ill")
    # It has come again under another number, and still goes.
    assert undo(dispatcher).status_code == 200
    assert not Absence.objects.exists()


def test_an_absence_that_was_taken_back_is_there_again(world, dispatcher):
    noted = absence(dispatcher, world.ines)
    dispatcher.client.delete(f"/api/v1/people/absences/{noted['id']}")
    undo(dispatcher)
    assert Absence.objects.get().reason == "ill"
    undo(dispatcher)
    assert not Absence.objects.exists()
    assert undo(dispatcher).json()["code"] == "nothing_to_undo"


def test_a_reminder_goes_back_step_by_step(world, dispatcher):
    row = remind(dispatcher, world.ines)
    row = change_reminder(dispatcher, row, text="Keys back to the caretaker")
    row = change_reminder(dispatcher, row, done=True)
    dispatcher.client.delete(f"/api/v1/reminders/{row['id']}")
    seen = []
    for _ in range(4):
        assert undo(dispatcher).status_code == 200
        seen.append([(found.text, found.done_at is not None) for found in Reminder.objects.all()])
    assert seen == [
        [("Keys back to the caretaker", True)],
        [("Keys back to the caretaker", False)],
        [("Keys back", False)],
        [],
    ]
    for _ in range(3):
        assert redo(dispatcher).status_code == 200
    assert Reminder.objects.get().done_at is not None
    assert redo(dispatcher).status_code == 200
    assert texts() == []


def test_a_crew_is_made_changed_and_dissolved_backwards(world, dispatcher):
    made = crew(dispatcher, world.ines, world.ivor)
    body = {"version": made["version"], "name": "Doors", "members": [world.ivor.pk, world.ines.pk]}
    changed = dispatcher.put(f"/people/crews/{made['id']}", body).json()
    dispatcher.client.delete(f"/api/v1/people/crews/{changed['id']}")
    undo(dispatcher)
    again = Crew.objects.get()
    assert (again.name, [place.technician_id for place in again.places.order_by("position")]) == (
        "Doors",
        [world.ivor.pk, world.ines.pk],
    )
    undo(dispatcher)
    assert Crew.objects.get().name == "Riggers"
    undo(dispatcher)
    assert not Crew.objects.exists()


def test_a_count_goes_back_to_what_lay_there(world, dispatcher):
    count(dispatcher, world.ines, 3)
    count(dispatcher, world.ines, 5, version=1)
    undo(dispatcher)
    assert on_vans() == {world.ines.pk: {"door-roller": 3}}
    undo(dispatcher)
    assert on_vans() == {}
    redo(dispatcher)
    redo(dispatcher)
    assert on_vans() == {world.ines.pk: {"door-roller": 5}}


def test_visits_and_other_records_go_back_in_the_order_they_were_done(world, dispatcher):
    visit = world.visit()
    remind(dispatcher, world.ines)
    place(dispatcher, visit, world.ines, at(10))
    absence(dispatcher, world.ivor)
    undo(dispatcher)
    assert (Absence.objects.count(), texts()) == (0, ["Keys back"])
    assert undo(dispatcher).json()["visit"]["id"] == visit.pk
    visit.refresh_from_db()
    assert visit.technician_id is None
    undo(dispatcher)
    assert texts() == []


def test_the_list_of_changes_names_them(world, dispatcher):
    visit = world.visit()
    place(dispatcher, visit, world.ines, at(10))
    remind(dispatcher, world.ines)
    rows = dispatcher.get("/board/undo").json()["undo"]
    assert [(row["visit_id"], row["sentence"]) for row in rows] == [
        (None, "put a reminder on the line of Ines Falk"),
        (visit.pk, rows[1]["sentence"]),
    ]


def test_what_somebody_else_went_on_with_stays(world, dispatcher, as_role):
    row = remind(dispatcher, world.ines)
    other = as_role("other")
    change_reminder(other, row, text="Keys to the office")
    answer = undo(dispatcher)
    assert (answer.status_code, answer.json()["code"]) == (409, "gone_on")
    assert texts() == ["Keys to the office"]
    # Each has changes of their own, and the one that failed does not stand in the way.
    assert undo(other).status_code == 200
    assert texts() == ["Keys back"]
    assert undo(dispatcher).json()["code"] == "nothing_to_undo"


def test_a_reminder_that_somebody_else_removed_is_not_undone_by_its_maker(world, dispatcher, as_role):
    row = remind(dispatcher, world.ines)
    as_role("manager").client.delete(f"/api/v1/reminders/{row['id']}")
    assert undo(dispatcher).json()["code"] == "gone_on"
    assert texts() == []


def test_an_undo_that_a_rule_forbids_by_now_says_so_and_changes_nothing(world, dispatcher):
    noted = absence(dispatcher, world.ines)
    dispatcher.client.delete(f"/api/v1/people/absences/{noted['id']}")
    Absence.objects.create(
        technician=world.ines, start=clock.now() + timedelta(days=-400), end=clock.now() + timedelta(days=4000)
    )
    answer = undo(dispatcher)
    assert answer.status_code == 422
    assert "noted as absent then already" in answer.json()["title"]
    assert Absence.objects.count() == 1


def test_undoing_is_no_new_deed_and_is_written_down(world, dispatcher):
    remind(dispatcher, world.ines)
    undo(dispatcher)
    redo(dispatcher)
    assert UndoEntry.objects.count() == 1
    said = AuditEntry.objects.filter(action="reminder").order_by("id").values_list("sentence", flat=True)
    assert list(said) == [
        "put a reminder on the line of Ines Falk", "removed a reminder", "put a reminder on the line of Ines Falk",
    ]  # fmt: skip


def test_something_new_ends_what_could_be_done_again(world, dispatcher):
    remind(dispatcher, world.ines)
    undo(dispatcher)
    remind(dispatcher, world.ines, text="Something else")
    assert redo(dispatcher).json()["code"] == "nothing_to_redo"


@pytest.mark.parametrize("gap", [0, 1, 2])
def test_a_chain_of_removals_and_returns_keeps_to_one_record(world, dispatcher, gap):
    for _ in range(gap + 1):
        row = remind(dispatcher, world.ines)
        dispatcher.client.delete(f"/api/v1/reminders/{row['id']}")
    for _ in range(2 * gap + 2):
        assert undo(dispatcher).status_code == 200
    assert Reminder.objects.count() == 0
    for _ in range(2 * gap + 2):
        assert redo(dispatcher).status_code == 200
    assert Reminder.objects.count() == 0
