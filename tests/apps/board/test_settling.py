"""What was promised for another day is settled before anybody is told; what is undone is as it was told."""

from datetime import timedelta

import pytest

from apps.messages import delivery
from apps.messages.gateways import SimulatedGateway
from apps.messages.models import Call, Message
from apps.orders.models import Visit
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

pytestmark = pytest.mark.django_db
TUESDAY = MONDAY + timedelta(days=1)


@pytest.fixture
def elsewhere(world):
    """Placed on Monday at 13:00, promised for Tuesday morning."""
    return world.placed(
        13, promise_start=to_datetime(at(10, day=TUESDAY)), promise_end=to_datetime(at(12, day=TUESDAY))
    )


def fresh(visit):
    return Visit.objects.get(pk=visit.pk)


def send(api, visit, how=None):
    return api.post(f"/visits/{visit.pk}/send", {"version": fresh(visit).version, "how": how})


def told():
    return dict(Message.objects.order_by("id").values_list("kind", "text"))


def shown(api, visit):
    [row] = api.get(f"/messages/preview/{visit.pk}").json()
    return row, {draft["kind"]: draft["text"] for draft in row["drafts"]}


def test_it_is_not_sent_before_somebody_says_what_becomes_of_the_promise(world, dispatcher, elsewhere):
    answer = send(dispatcher, elsewhere)
    assert (answer.status_code, answer.json()["code"]) == (422, "promise_elsewhere")
    assert "promised Tue 24 Nov 10:00–12:00, placed Mon 23 Nov 13:00" in answer.json()["title"]
    assert (fresh(elsewhere).state, told()) == ("placed", {})


def test_agreed_with_the_customer_the_promise_is_another_and_both_read_what_was_shown(world, dispatcher, elsewhere):
    row, drafts = shown(dispatcher, elsewhere)
    assert send(dispatcher, elsewhere, "changed").status_code == 200
    visit = fresh(elsewhere)
    window = row["elsewhere"]["window"]
    assert (visit.promise.start, visit.promise.end) == (window["start"], window["end"])
    assert window["start"] <= at(13) <= window["end"]
    assert told() == drafts
    assert visit.state == "sent"


def test_kept_only_the_technician_is_told(world, dispatcher, elsewhere):
    _row, drafts = shown(dispatcher, elsewhere)
    assert send(dispatcher, elsewhere, "keep").status_code == 200
    assert told() == {"technician": drafts["technician"]}
    assert fresh(elsewhere).promise.start == at(10, day=TUESDAY)


def test_to_be_asked_nobody_is_told_and_somebody_calls(world, dispatcher, elsewhere):
    assert send(dispatcher, elsewhere, "ask").status_code == 200
    assert (fresh(elsewhere).state, told()) == ("placed", {})
    [call] = dispatcher.get("/messages/calls").json()
    assert call["why"].startswith("Ask whether the other day suits: promised Tue 24 Nov")
    assert send(dispatcher, elsewhere, "ask").status_code == 200
    assert len(dispatcher.get("/messages/calls").json()) == 1  # asked for twice, called once


def test_on_its_own_day_nothing_is_asked_even_outside_the_window(world, dispatcher):
    visit = world.placed(13, promise_start=to_datetime(at(8)), promise_end=to_datetime(at(10)))
    assert dispatcher.get(f"/messages/preview/{visit.pk}").json()[0]["elsewhere"] is None
    assert send(dispatcher, visit).status_code == 200


def test_a_day_is_sent_without_those_that_are_not_settled(world, dispatcher, elsewhere):
    plain = world.placed(9)
    body = {"day": MONDAY.isoformat()}
    assert dispatcher.post("/board/send-day", body).json() == {"sent": 1, "asked": 0, "left": 1}
    assert (fresh(plain).state, fresh(elsewhere).state) == ("sent", "placed")
    settled = {**body, "settled": [{"visit_id": elsewhere.pk, "how": "changed"}]}
    assert dispatcher.post("/board/send-day", settled).json() == {"sent": 1, "asked": 0, "left": 0}
    assert fresh(elsewhere).state == "sent"


def test_many_at_once_leave_it_and_say_why(world, dispatcher, elsewhere):
    plain = world.placed(9)
    visits = [{"id": visit.pk, "version": visit.version} for visit in (plain, elsewhere)]
    rows = dispatcher.post("/board/bulk", {"visits": visits, "kind": "send"}).json()["outcomes"]
    assert ["settle the promise first" in row["problem"] for row in rows] == [False, True]


# --- undone, it is as it was told -------------------------------------------------------------------------


@pytest.fixture
def sent(world, dispatcher):
    visit = world.placed(11)
    send(dispatcher, visit)
    Message.objects.all().delete()
    return visit


def move(api, visit, technician, hour):
    body = {"version": fresh(visit).version, "technician_id": technician.pk, "start": at(hour)}
    assert api.post(f"/visits/{visit.pk}/place", body).status_code == 200


@pytest.mark.parametrize("deed", ["move", "unplace", "cancel"])
def test_what_was_sent_and_moved_is_sent_again_as_it_was_when_that_is_undone(world, dispatcher, sent, deed):
    path = f"/visits/{sent.pk}"
    if deed == "move":
        move(dispatcher, sent, world.ivor, 14)
    elif deed == "unplace":
        dispatcher.post(f"{path}/unplace", {"version": fresh(sent).version})
    else:
        dispatcher.post(f"{path}/step", {"version": fresh(sent).version, "step": "cancel", "note": "x"})
    assert fresh(sent).state != "sent"
    assert dispatcher.post("/board/undo").status_code == 200
    visit = fresh(sent)
    assert (visit.state, visit.technician_id, int(visit.start.timestamp())) == ("sent", world.ines.pk, at(11))
    assert set(Message.objects.values_list("state", flat=True)) == {"withdrawn"}


def test_an_accepted_visit_is_accepted_again_while_nobody_has_heard_otherwise(world, dispatcher, technician, sent):
    technician.post(f"/field/visits/{sent.pk}/step", {"version": fresh(sent).version, "step": "accept", "note": ""})
    move(dispatcher, sent, world.ivor, 14)
    dispatcher.post("/board/undo")
    assert fresh(sent).state == "accepted"
    move(dispatcher, sent, world.ivor, 14)
    dispatcher.post("/board/undo")
    assert fresh(sent).state == "accepted"


def test_who_has_heard_otherwise_is_told_that_it_stays(world, dispatcher, sent, now):
    move(dispatcher, sent, world.ivor, 14)
    for row in Message.objects.all():
        delivery.deliver(now=now, message_id=row.pk, gateway=SimulatedGateway())
    dispatcher.post("/board/undo")
    texts = list(Message.objects.order_by("id").values_list("name", "text"))
    assert texts[0][1].endswith("is no longer yours. You need not go.")
    assert texts[-1][0] == "Ines Falk"
    assert texts[-1][1].endswith("stays as it was: Mon 23 Nov at 11:00.")
    assert not Call.objects.exists()


def test_a_visit_moved_twice_goes_back_step_by_step(world, dispatcher, sent):
    move(dispatcher, sent, world.ivor, 13)
    move(dispatcher, sent, world.ivor, 15)
    dispatcher.post("/board/undo")
    assert (fresh(sent).state, int(fresh(sent).start.timestamp())) == ("placed", at(13))
    dispatcher.post("/board/undo")
    assert fresh(sent).state == "sent"
    dispatcher.post("/board/redo")
    assert (fresh(sent).state, int(fresh(sent).start.timestamp())) == ("placed", at(13))


def test_urgent_work_promised_for_another_day_is_promised_for_now_and_undone_for_then(world, dispatcher):
    promised = (to_datetime(at(10, day=TUESDAY)), to_datetime(at(12, day=TUESDAY)))
    urgent = world.visit(priority=1, promise_start=promised[0], promise_end=promised[1])
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(10, 30), "because": "They are trapped"}
    assert dispatcher.post(f"/visits/{urgent.pk}/give", body).status_code == 200
    visit = fresh(urgent)
    assert visit.promise.start <= at(10, 30) < visit.promise.end
    assert dispatcher.post("/board/undo").status_code == 200
    visit = fresh(urgent)
    assert (visit.state, visit.promise_start, visit.promise_end) == ("open", *promised)
