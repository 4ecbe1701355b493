"""What is counted in the bar: what is declined, promised with nobody, or will not be kept today."""

import pytest

from apps.board import attention as attention_module
from apps.orders.models import Visit
from apps.people.models import Absence
from foundation.moments import to_datetime
from tests.apps.conftest import at

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def _fresh(monkeypatch):
    monkeypatch.setattr(attention_module, "_known", None)


def matters(api):
    return [(row["kind"], row["visit_id"], row["sentence"]) for row in api.get("/board/attention").json()]


def test_nothing_is_said_when_all_is_well(world, dispatcher):
    world.placed(11, promise_start=to_datetime(at(10, 30)), promise_end=to_datetime(at(12)))
    world.visit()
    assert matters(dispatcher) == []


def test_a_promise_with_nobody_is_there_until_somebody_has_it(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(11)), promise_end=to_datetime(at(13)))
    assert matters(dispatcher) == [("nobody", visit.pk, "promised Mon 23 Nov 11:00–13:00, and nobody is assigned")]
    dispatcher.post(f"/visits/{visit.pk}/place", {"version": 1, "technician_id": world.ines.pk, "start": at(11)})
    assert matters(dispatcher) == []


def test_a_decline_is_said_with_its_reason_and_by_whom(world, dispatcher, technician):
    visit = world.placed(11, state="sent")
    answer = technician.post(
        f"/field/visits/{visit.pk}/step", {"version": 1, "step": "decline", "note": "van is broken"}
    )
    assert answer.status_code == 200, answer.json()
    visit.refresh_from_db()
    assert visit.state == "open"
    [(kind, _id, sentence)] = matters(dispatcher)
    assert (kind, sentence) == ("declined", "declined by The technician: van is broken")


def test_a_slip_and_an_absence_that_break_a_promise_are_said(world, dispatcher):
    world.placed(10, duration_seconds=3 * 3600)
    late = world.placed(11, promise_start=to_datetime(at(11)), promise_end=to_datetime(at(12)))
    [(kind, key, sentence)] = matters(dispatcher)
    assert (kind, key) == ("broken", late.pk)
    assert sentence.startswith("promised Mon 23 Nov 11:00–12:00, would start 13:")
    Visit.objects.exclude(pk=late.pk).delete()
    Absence.objects.create(technician=world.ines, start=to_datetime(at(0)), end=to_datetime(at(23)), reason="ill")
    attention_module._known = None
    [(kind, _key, sentence)] = matters(dispatcher)
    assert "Ines Falk is absent" in sentence


def test_it_is_the_same_count_as_the_backlog_and_the_board_have(world, dispatcher):
    for hour in (11, 12):
        world.visit(promise_start=to_datetime(at(hour)), promise_end=to_datetime(at(hour + 1)))
    rows = dispatcher.post("/board/backlog", {}).json()["visits"]
    nobody = [row["id"] for row in rows if "nobody" in row["reasons"]]
    assert sorted(key for kind, key, _ in matters(dispatcher) if kind == "nobody") == sorted(nobody)


def test_which_processes_are_there_is_told(world, dispatcher):
    assert dispatcher.get("/health/parts").json() == {"worker": False, "planner": False}
