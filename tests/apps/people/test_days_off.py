"""Days off: asked for on the phone, granted with the effect that was shown."""

from datetime import timedelta

import pytest

from apps.people.models import Absence, DaysAsked, Technician
from apps.people.working_days import working_day
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, TZ, at

THURSDAY, NEXT_TUESDAY = MONDAY + timedelta(days=3), MONDAY + timedelta(days=8)
DAYS = {"first_day": THURSDAY.isoformat(), "last_day": NEXT_TUESDAY.isoformat(), "kind": "holiday", "words": "Wedding"}


@pytest.fixture
def phone(as_role):
    return as_role("technician")


def test_what_is_asked_for_is_granted_with_the_effect_that_was_shown(world, phone, dispatcher):
    Technician.objects.filter(pk=world.ines.pk).update(holiday_days=25)
    world.visit(technician=world.ines, state="placed", start=to_datetime(at(9, day=THURSDAY)))
    promised = {
        "promise_start": to_datetime(at(9, day=NEXT_TUESDAY)),
        "promise_end": to_datetime(at(11, day=NEXT_TUESDAY)),
    }
    world.visit(technician=world.ines, state="placed", start=to_datetime(at(9, day=NEXT_TUESDAY)), **promised)
    Absence.objects.create(
        technician=world.ivor, start=to_datetime(at(0, day=THURSDAY)), end=to_datetime(at(12, day=THURSDAY))
    )
    asked = phone.post("/field/days-off", DAYS)
    assert (asked.status_code, asked.json()["state"]) == (201, "asked")
    [effect] = dispatcher.get("/board/days-off").json()
    assert {name: effect[name] for name in ("technician", "working_days", "visits", "promised", "others")} == {
        "technician": "Ines Falk", "working_days": 4, "visits": 2, "promised": 1, "others": ["Ivor Larkin"],
    }  # fmt: skip
    assert (effect["holiday_days"], effect["holiday_taken"]) == (25, 0)
    assert dispatcher.post(f"/board/days-off/{effect['id']}/grant", {"answer": "Enjoy it"}).json() == []
    own = phone.get("/field/days-off").json()
    assert own["allowance"] == {"year": 2026, "days": 25, "taken": effect["working_days"]}
    assert (own["asked"][0]["state"], own["asked"][0]["answer"]) == ("granted", "Enjoy it")
    day = working_day(world.ines.pk, THURSDAY, TZ)
    assert day.absences[0].overlap(day.shift.hours) == day.shift.hours.seconds
    board = dispatcher.get("/board", day=THURSDAY.isoformat()).json()
    assert next(lane for lane in board["lanes"] if lane["technician_id"] == world.ines.pk)["days"][0]["absences"]


def test_undone_it_was_taken_back_and_can_be_asked_for_again(world, phone, dispatcher):
    asked = phone.post("/field/days-off", DAYS).json()
    dispatcher.post(f"/board/days-off/{asked['id']}/grant", {})
    assert phone.post("/field/days-off", DAYS).json()["field"] == "first_day"
    dispatcher.client.delete(f"/api/v1/people/absences/{Absence.objects.get().pk}")
    assert phone.get("/field/days-off").json()["asked"][0]["state"] == "taken back"
    assert phone.post("/field/days-off", DAYS).status_code == 201


def test_undone_and_done_again_it_is_granted(world, phone, dispatcher):
    asked = phone.post("/field/days-off", DAYS).json()
    dispatcher.post(f"/board/days-off/{asked['id']}/grant", {})
    assert dispatcher.post("/board/undo").status_code == 200
    assert phone.get("/field/days-off").json()["asked"][0]["state"] == "taken back"
    assert dispatcher.post("/board/redo").status_code == 200
    assert phone.get("/field/days-off").json()["asked"][0]["state"] == "granted"
    assert phone.get("/field/days-off").json()["allowance"]["taken"] == 4


def test_a_declined_one_says_why_and_an_answer_is_given_once(world, phone, dispatcher, as_role):
    asked = phone.post("/field/days-off", DAYS).json()
    assert dispatcher.post(f"/board/days-off/{asked['id']}/decline", {}).json()["field"] == "answer"
    dispatcher.post(f"/board/days-off/{asked['id']}/decline", {"answer": "The tower is then"})
    late = as_role("manager").post(f"/board/days-off/{asked['id']}/grant", {})
    assert (late.status_code, "declined by The dispatcher" in late.json()["title"]) == (409, True)
    assert phone.get("/field/days-off").json()["asked"][0]["answer"] == "The tower is then"
    assert not Absence.objects.exists()


def test_one_takes_back_one_s_own_and_nobody_else_s(world, phone, dispatcher):
    asked = phone.post("/field/days-off", DAYS).json()
    theirs = DaysAsked.objects.create(
        technician=world.ivor, first_day=THURSDAY, last_day=THURSDAY, kind="training", asked_at=clock.now()
    )
    assert phone.client.delete(f"/api/v1/field/days-off/{theirs.pk}").status_code == 404
    assert phone.client.delete(f"/api/v1/field/days-off/{asked['id']}").json()["state"] == "withdrawn"
    assert [row["technician"] for row in dispatcher.get("/board/days-off").json()] == ["Ivor Larkin"]
    assert phone.client.delete(f"/api/v1/field/days-off/{asked['id']}").status_code == 409


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"first_day": "2026-11-22"}, "first_day"),
        ({"last_day": "2026-11-25"}, "last_day"),
        ({"last_day": "2027-06-25"}, "last_day"),
        ({"first_day": "2029-01-01", "last_day": "2029-01-02"}, "last_day"),
    ],
)
def test_days_that_cannot_be_asked_for_say_so(world, phone, wrong, field):
    answer = phone.post("/field/days-off", DAYS | wrong)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert not DaysAsked.objects.exists()


def test_sickness_and_days_on_call_only_take_no_holiday(world, phone, dispatcher):
    asked = phone.post("/field/days-off", DAYS | {"kind": "sickness"}).json()
    dispatcher.post(f"/board/days-off/{asked['id']}/grant", {})
    assert phone.get("/field/days-off").json()["allowance"]["taken"] == 0
