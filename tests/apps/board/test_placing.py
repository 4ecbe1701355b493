"""The board: placing, moving, undoing, sending, and two dispatchers at once."""

from datetime import time, timedelta

import pytest

from apps.messages.models import Message
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Absence, WeeklyShiftRow
from foundation.models import AuditEntry
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at


def place(api, visit, technician, start, version=None, **more):
    body = {"version": version or visit.version, "technician_id": technician.pk, "start": start, **more}
    return api.post(f"/visits/{visit.pk}/place", body)


def seen_on(lane):
    return {stretch["visit_id"] for day in lane["days"] for stretch in day["timetable"]["stretches"]}


def test_a_visit_from_the_backlog_stands_on_the_board_once_placed(world, dispatcher):
    visit = world.visit()
    answer = place(dispatcher, visit, world.ines, at(11))
    assert answer.status_code == 200
    assert answer.json()["visit"]["state"] == "placed"
    board = dispatcher.get("/board", day=MONDAY.isoformat()).json()
    [shown] = board["visits"]
    assert (shown["id"], shown["technician_id"], shown["expected_start"]) == (visit.pk, world.ines.pk, at(11))
    assert dispatcher.post("/board/backlog", {}).json()["total"] == 0


def test_the_drag_is_told_what_the_save_then_says(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(14)))
    asked = dispatcher.post(
        "/scheduling/judge", {"visit_id": visit.pk, "technician_id": world.ines.pk, "start": at(15)}
    ).json()
    saved = place(dispatcher, visit, world.ines, at(15), because="they agreed").json()["verdict"]
    assert saved == asked
    assert {
        "weight": "asks", "sentence": "1 h after the promise 13:00–14:00", "limit": "promise",
        "why": {"code": "after_promise", "given": {"late": 3600, "promise": [at(13), at(14), at(15)]}},
    } in asked["reasons"]  # fmt: skip


def test_a_limit_that_a_person_may_override_asks_why_and_keeps_the_answer(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(14)))
    refused = place(dispatcher, visit, world.ines, at(15))
    assert refused.status_code == 422
    assert (refused.json()["code"], refused.json()["field"]) == ("reason_needed", "because")
    assert refused.json()["reasons"] == ["1 h after the promise 13:00–14:00"]
    visit.refresh_from_db()
    assert visit.state == "open"
    place(dispatcher, visit, world.ines, at(15), because="They agreed by phone")
    kept = AuditEntry.objects.filter(entity="visit", entity_id=visit.pk).latest("id")
    assert kept.changes["note"] == "1 h after the promise 13:00–14:00. All the same: They agreed by phone"


def test_in_the_evening_who_is_on_call_gets_urgent_work_and_no_other(world, dispatcher):
    WeeklyShiftRow.objects.filter(technician=world.ines).update(on_call_until=time(8))
    [day] = next(
        lane["days"] for lane in dispatcher.get("/board").json()["lanes"] if lane["technician_id"] == world.ines.pk
    )
    tomorrow = MONDAY + timedelta(days=1)
    assert day["shift"]["on_call"] == {"start": at(16), "end": at(8, day=tomorrow)}
    urgent, ordinary = world.visit(priority=1), world.visit(priority=2)
    refused = place(dispatcher, ordinary, world.ines, at(19))
    assert refused.json()["reasons"] == ["Ines Falk is on call from 16:00: for work of priority 1 only"]
    asked = dispatcher.post(
        "/scheduling/judge", {"visit_id": urgent.pk, "technician_id": world.ines.pk, "start": at(19)}
    ).json()
    assert not [row for row in asked["reasons"] if row["weight"] in ("asks", "refuses")]
    assert place(dispatcher, urgent, world.ines, at(19)).status_code == 200


def test_a_night_on_call_belongs_to_the_day_it_began_on(world, dispatcher):
    WeeklyShiftRow.objects.filter(technician=world.ines).update(on_call_until=time(8))
    night = at(2, day=MONDAY + timedelta(days=1))
    urgent = world.visit(priority=1)
    assert place(dispatcher, urgent, world.ines, night).status_code == 200
    board = dispatcher.get("/board", day=MONDAY.isoformat()).json()
    assert [row["id"] for row in board["visits"]] == [urgent.pk]


def test_judging_changes_nothing(world, dispatcher):
    visit = world.visit()
    dispatcher.post("/scheduling/judge", {"visit_id": visit.pk, "technician_id": world.ines.pk, "start": at(11)})
    visit.refresh_from_db()
    assert (visit.state, visit.version, visit.technician_id) == ("open", 1, None)


def test_a_missing_skill_refuses_with_the_reason_and_loses_nothing(world, dispatcher):
    visit = world.visit(needs={"rescue": 2})
    answer = place(dispatcher, visit, world.ines, at(11))
    assert answer.status_code == 422
    assert answer.json()["code"] == "limit_broken"
    assert answer.json()["reasons"] == ["Rescue 2 needed, Ines Falk has none"]
    visit.refresh_from_db()
    assert visit.state == "open"


def test_an_absence_refuses(world, dispatcher):
    Absence.objects.create(technician=world.ines, start=to_datetime(at(0)), end=to_datetime(at(23)))
    answer = place(dispatcher, world.visit(), world.ines, at(11))
    assert answer.status_code == 422
    assert "absent" in answer.json()["title"]


def test_a_visit_without_duration_is_not_placed(world, dispatcher):
    answer = place(dispatcher, world.visit(duration_seconds=None), world.ines, at(11))
    assert answer.json()["title"] == "No duration yet: give one before placing it."


def test_what_fits_no_technician_whatever_the_hour_is_known_beforehand(world, dispatcher):
    visit = world.visit(needs={"rescue": 2})
    rows = dispatcher.get(f"/visits/{visit.pk}/fits", day=MONDAY.isoformat()).json()
    assert {row["technician_id"]: row["reasons"] for row in rows}[world.ivor.pk] == [
        "Rescue 2 needed, Ivor Larkin has none"
    ]


def test_the_second_of_two_dispatchers_is_told_who_was_faster_and_how(world, as_role):
    visit = world.visit()
    assert place(as_role("dispatcher"), visit, world.ines, at(11)).status_code == 200
    answer = place(as_role("other"), visit, world.ivor, at(12), version=1)
    assert answer.status_code == 409
    problem = answer.json()
    assert problem["code"] == "stale"
    assert problem["current_version"] == 2
    assert problem["title"] == "The dispatcher was faster: placed it to Ines Falk, 11:00. Shown as it is now."
    visit.refresh_from_db()
    assert visit.technician_id == world.ines.pk


def test_undo_walks_back_step_by_step(world, dispatcher):
    visit = world.visit()
    place(dispatcher, visit, world.ines, at(11))
    place(dispatcher, visit, world.ivor, at(13), version=2)
    undone = dispatcher.post("/board/undo").json()
    assert undone["sentence"] == f"{visit.order.number} moved to Ivor Larkin, 13:00"
    assert (undone["visit"]["technician_id"], undone["visit"]["start"]) == (world.ines.pk, at(11))
    assert dispatcher.post("/board/undo").json()["visit"]["state"] == "open"
    assert dispatcher.post("/board/undo").json()["code"] == "nothing_to_undo"


def test_undo_gives_an_edit_back(world, dispatcher):
    visit = world.visit(priority=3, notes="ring twice")
    edited = edit(dispatcher, visit, priority=1, notes="")
    assert edited.status_code == 200, edited.content
    dispatcher.post("/board/undo")
    visit.refresh_from_db()
    assert (visit.priority, visit.notes) == (3, "ring twice")


def test_undo_says_when_the_visit_has_gone_on(world, as_role):
    first, second = as_role("dispatcher"), as_role("other")
    visit = world.visit()
    place(first, visit, world.ines, at(11))
    place(second, visit, world.ivor, at(12), version=2)
    answer = first.post("/board/undo")
    assert answer.status_code == 409
    assert "Other Dispatcher moved it to Ivor Larkin, 12:00" in answer.json()["title"]
    visit.refresh_from_db()
    assert visit.technician_id == world.ivor.pk


def test_one_dispatcher_does_not_undo_another_s_work(world, as_role):
    place(as_role("dispatcher"), world.visit(), world.ines, at(11))
    assert as_role("other").post("/board/undo").json()["code"] == "nothing_to_undo"


def test_dragging_back_puts_it_in_the_backlog(world, dispatcher):
    visit = world.placed(11)
    answer = dispatcher.post(f"/visits/{visit.pk}/unplace", {"version": 1})
    assert answer.json()["state"] == "open"
    assert dispatcher.post("/board/backlog", {}).json()["visits"][0]["reasons"] == ["unplaced"]


@pytest.mark.parametrize("state", ["en_route", "on_site", "on_hold", "done"])
def test_what_is_under_way_or_done_does_not_move(world, dispatcher, state):
    visit = world.placed(11, state=state)
    assert place(dispatcher, visit, world.ivor, at(13)).status_code == 422
    assert dispatcher.post(f"/visits/{visit.pk}/unplace", {"version": 1}).status_code == 422


def test_a_pinned_visit_does_not_move(world, dispatcher):
    visit = world.placed(11, pinned=True)
    assert "pinned" in place(dispatcher, visit, world.ivor, at(13)).json()["title"]
    assert "pinned" in dispatcher.post(f"/visits/{visit.pk}/unplace", {"version": 1}).json()["title"]


def test_sending_tells_the_technician_and_the_customer(world, dispatcher):
    promise = {"promise_start": to_datetime(at(11)), "promise_end": to_datetime(at(13))}
    visit = world.placed(11, **promise)
    assert dispatcher.post(f"/visits/{visit.pk}/send", {"version": 1}).json()["state"] == "sent"
    texts = {message.kind: message.text for message in Message.objects.all()}
    assert texts["technician"].startswith("New visit Mon 23 Nov at 11:00: Noisy door at Seagate Hall")
    assert texts["customer"] == (
        f"Test Lifts: Ines Falk will be with you on Mon 23 Nov between 11:00 and 13:00 ({visit.order.number})."
    )


def test_a_visit_in_the_backlog_cannot_be_sent(world, dispatcher):
    answer = dispatcher.post(f"/visits/{world.visit().pk}/send", {"version": 1})
    assert answer.json()["title"] == "A visit that is open cannot be sent."


def test_moving_what_was_sent_makes_it_unsent_and_tells_who_lost_it(world, dispatcher):
    visit = world.placed(11, state="accepted")
    moved = place(dispatcher, visit, world.ivor, at(12)).json()["visit"]
    assert moved["state"] == "placed"
    [message] = Message.objects.all()
    assert message.name == "Ines Falk"
    assert "no longer yours" in message.text


def test_sending_a_day_sends_all_that_is_placed_on_it(world, dispatcher):
    world.placed(11)
    world.placed(13, technician=world.ivor)
    world.placed(14, state="accepted")
    other_day = world.visit(
        technician=world.ines, start=to_datetime(at(11, day=MONDAY + timedelta(days=1))), state="placed"
    )
    assert dispatcher.post("/board/send-day", {"day": MONDAY.isoformat()}).json() == {
        "sent": 2,
        "asked": 0,
        "left": 0,
    }
    other_day.refresh_from_db()
    assert other_day.state == "placed"


def edit(api, visit, **changes):
    body = {
        "version": visit.version, "duration_seconds": visit.duration_seconds, "priority": visit.priority,
        "needs": visit.needs, "promise": None, "earliest": None, "due": None, "notes": visit.notes,
        "pinned": visit.pinned, "worth": visit.worth,
    } | changes  # fmt: skip
    return api.put(f"/visits/{visit.pk}/fields", body)


def test_details_are_edited_beside_the_board(world, dispatcher):
    visit = world.visit()
    promise = {"start": at(14), "end": at(16)}
    answer = edit(dispatcher, visit, duration_seconds=5400, needs={"doors": 2}, promise=promise, notes="roof")
    assert answer.status_code == 200
    shown = dispatcher.get(f"/visits/{visit.pk}").json()
    assert (shown["duration_seconds"], shown["needs"], shown["promise"]) == (5400, {"doors": 2}, promise)
    assert shown["history"][0]["sentence"] == "changed its duration, notes, promise, skills"


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"promise": {"start": at(16), "end": at(14)}}, "promise"),
        ({"needs": {"juggling": 2}}, "needs"),
        ({"earliest": at(12), "due": at(11)}, "due"),
    ],
)
def test_impossible_details_are_refused_at_their_field(world, dispatcher, changes, field):
    answer = edit(dispatcher, world.visit(), **changes)
    assert (answer.status_code, answer.json()["field"]) == (422, field)


def test_a_placed_visit_keeps_a_duration(world, dispatcher):
    assert edit(dispatcher, world.placed(11), duration_seconds=None).json()["field"] == "duration"


def test_of_a_visit_that_is_done_only_the_notes_change(world, dispatcher):
    visit = world.placed(9, state="done")
    assert edit(dispatcher, visit, priority=1).status_code == 422
    assert edit(dispatcher, visit, notes="call them").status_code == 200


def test_saving_without_a_change_makes_no_new_version(world, dispatcher):
    visit = world.visit()
    assert edit(dispatcher, visit).json()["version"] == 1
    assert not AuditEntry.objects.exists()


def test_every_step_is_in_the_audit_trail(world, dispatcher):
    visit = world.visit()
    place(dispatcher, visit, world.ines, at(11))
    dispatcher.post(f"/visits/{visit.pk}/send", {"version": 2})
    entries = AuditEntry.objects.filter(entity="visit").order_by("id")
    assert [(entry.action, entry.actor_name, entry.version) for entry in entries] == [
        ("place", "The dispatcher", 2),
        ("send", "The dispatcher", 3),
    ]


def test_the_backlog_names_the_loudest_reason_and_puts_it_first(world, dispatcher):
    world.visit()
    world.visit(due=to_datetime(at(9)))
    world.visit(duration_seconds=None)
    promised = world.visit(promise_start=to_datetime(at(14)), promise_end=to_datetime(at(16)))
    backlog = dispatcher.post("/board/backlog", {}).json()
    assert backlog["total"] == 4
    assert backlog["visits"][0]["id"] == promised.pk
    reasons = sorted(reason for row in backlog["visits"] for reason in row["reasons"])
    assert reasons == ["no duration", "nobody", "overdue", "unplaced"]


@pytest.mark.parametrize("text", ["seagate", "millrace road", "noisy", "W-{number}"])
def test_the_backlog_is_searched_by_what_people_remember(world, dispatcher, text):
    visit = world.visit()
    wanted = text.format(number=visit.order.number.removeprefix("W-"))
    assert len(dispatcher.post("/board/backlog", {"text": wanted}).json()["visits"]) == 1
    assert dispatcher.post("/board/backlog", {"text": "xyzzy"}).json()["visits"] == []


def test_three_signs_of_a_number_find_it_in_the_backlog(world, dispatcher):
    for number in ("W-1383", "W-2490"):
        visit = world.visit()
        WorkOrder.objects.filter(pk=visit.order_id).update(number=number)

    def found(text):
        return [row["number"] for row in dispatcher.post("/board/backlog", {"text": text}).json()["visits"]]

    assert found("w-138") == found("383") == found("1383") == ["W-1383"]
    assert found("83") == []


def test_the_board_needs_the_same_number_of_queries_however_full_it_is(
    world, dispatcher, django_assert_max_num_queries
):
    for hour in (9, 11, 13, 14):
        world.placed(hour)
        world.placed(hour, technician=world.ivor)
    with django_assert_max_num_queries(21):
        assert len(dispatcher.get("/board").json()["visits"]) == 8


def test_a_lamp_breaks_when_the_day_slips(world, dispatcher, now):
    world.placed(8, state="on_site", arrived_at=to_datetime(at(8)), duration_seconds=4 * 3600)
    promise = {"promise_start": to_datetime(at(10)), "promise_end": to_datetime(at(11))}
    late = world.placed(10, state="accepted", **promise)
    lamps = {row["id"]: row["lamp"] for row in dispatcher.get("/board").json()["visits"]}
    assert lamps[late.pk] == "broken"


def test_a_step_can_be_stamped_for_a_technician_and_says_who_did_it(world, dispatcher):
    visit = world.placed(11, state="sent")
    answer = dispatcher.post(f"/visits/{visit.pk}/step", {"version": 1, "step": "accept"})
    assert answer.json()["state"] == "accepted"
    assert Visit.objects.get(pk=visit.pk).events.get().actor_name == "The dispatcher"


def test_cancelling_needs_a_reason_and_tells_those_who_were_told(world, dispatcher):
    visit = world.placed(11, state="accepted")
    path = f"/visits/{visit.pk}/step"
    assert dispatcher.post(path, {"version": 1, "step": "cancel"}).json()["code"] == "note_missing"
    words = {"note": "sold", "tell": "We do not come."}
    assert dispatcher.post(path, {"version": 1, "step": "cancel", **words}).json()["state"] == "cancelled"
    assert {message.kind for message in Message.objects.all()} == {"technician", "customer"}


def test_a_crew_is_placed_whole_and_stands_on_both_days(world, dispatcher):
    visit = world.visit(crew=2)
    body = {"version": visit.version, "technician_id": world.ines.pk, "start": at(11), "mates": [world.ivor.pk]}
    assert dispatcher.post(f"/visits/{visit.pk}/place", body).status_code == 200
    lanes = dispatcher.get("/board", day=MONDAY.isoformat()).json()["lanes"]
    busy = {lane["technician_id"] for lane in lanes if visit.pk in seen_on(lane)}
    assert busy == {world.ines.pk, world.ivor.pk}
    assert dispatcher.post("/board/undo").status_code == 200
    visit.refresh_from_db()
    assert (visit.technician_id, visit.mates) == (None, [])


def test_moving_to_somebody_else_says_what_the_day_it_leaves_is_spared(world, dispatcher):
    visit = world.placed(11)
    body = {"visit_id": visit.pk, "technician_id": world.ivor.pk, "start": at(13)}
    reasons = [row["sentence"] for row in dispatcher.post("/scheduling/judge", body).json()["reasons"]]
    assert any(sentence.endswith("less driving for Ines Falk") for sentence in reasons)
    stays = dispatcher.post("/scheduling/judge", body | {"technician_id": world.ines.pk}).json()["reasons"]
    assert not any("Ines Falk" in row["sentence"] for row in stays)


def test_the_backlog_is_narrowed_by_state(world, dispatcher):
    waiting = world.visit()
    forward = world.placed(11, standby={"since": at(8), "not_before": None, "weekdays": [], "part": "",
                                        "notice_minutes": 60, "words": ""})  # fmt: skip

    def ids(**filters):
        return {row["id"] for row in dispatcher.post("/board/backlog", filters).json()["visits"]}

    assert ids() == {waiting.pk, forward.pk}
    assert ids(states=["open"]) == {waiting.pk}
    assert ids(states=["placed"]) == {forward.pk}
    assert ids(states=["open", "placed"]) == {waiting.pk, forward.pk}
    assert dispatcher.post("/board/backlog", {"states": ["lost"]}).status_code == 422
