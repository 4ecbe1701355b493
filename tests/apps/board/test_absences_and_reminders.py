"""A technician's day besides its visits: absences, holidays, reminders, crews, locks, papers, directions, previews."""

import re
import zlib
from datetime import timedelta
from itertools import pairwise
from types import SimpleNamespace

import pytest
from django.db import connection
from django.template.loader import render_to_string
from django.test import Client
from django.test.utils import CaptureQueriesContext

from apps.board import feeds
from apps.board.commands import printing
from apps.board.models import Reminder
from apps.company.models import Holiday
from apps.messages.models import Message
from apps.orders import order_details
from apps.orders import printing as orders_printing
from apps.orders.models import Visit
from apps.people.models import Absence, Crew
from foundation import clock
from foundation.models import AuditEntry
from foundation.moments import to_datetime
from tests.apps.board.test_placing import place
from tests.apps.conftest import MONDAY, at

TUESDAY = MONDAY + timedelta(days=1)


def day_of(api, technician, day=MONDAY):
    board = api.get("/board", day=day.isoformat(), technicians=str(technician.pk)).json()
    return board["lanes"][0]["days"][0]


# --- absences -----------------------------------------------------------------------------------------


def absence(api, technician, start, end, reason="ill"):
    body = {"technician_id": technician.pk, "start": start, "end": end, "reason": reason}
    return api.post("/people/absences", body)


def test_an_absence_is_noted_shown_and_taken_back(world, dispatcher):
    noted = absence(dispatcher, world.ines, at(13), at(16)).json()
    [shown] = day_of(dispatcher, world.ines)["absences"]
    assert shown == {"id": noted["id"], "start": at(13), "end": at(16), "reason": "ill"}
    assert dispatcher.client.delete(f"/api/v1/people/absences/{noted['id']}").status_code == 204
    assert day_of(dispatcher, world.ines)["absences"] == []
    said = AuditEntry.objects.filter(entity="technician", entity_id=world.ines.pk).order_by("id")
    assert [row.sentence for row in said] == ["noted that Ines Falk is away", "took back the absence of Ines Falk"]


def test_what_is_placed_in_an_absence_stays_and_says_so(world, dispatcher):
    visit = world.placed(14)
    absence(dispatcher, world.ines, at(13), at(16))
    [broken] = [row for row in day_of(dispatcher, world.ines)["timetable"]["broken"] if row["visit_id"] == visit.pk]
    assert broken["limit"] == "absence"


@pytest.mark.parametrize(
    ("start", "end", "field"),
    [(at(14), at(13), "end"), (at(14), at(14), "end"), (at(14), at(14) + 400 * 86_400, "end")],
)
def test_an_absence_that_cannot_be_is_refused(world, dispatcher, start, end, field):
    answer = absence(dispatcher, world.ines, start, end)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert not Absence.objects.exists()


def test_nobody_is_absent_twice_at_once(world, dispatcher):
    absence(dispatcher, world.ines, at(9), at(12))
    assert absence(dispatcher, world.ines, at(11), at(13)).status_code == 422
    assert absence(dispatcher, world.ines, at(12), at(13)).status_code == 200
    assert absence(dispatcher, world.ivor, at(11), at(13)).status_code == 200


def test_an_absence_that_is_gone_is_not_found(world, dispatcher):
    assert dispatcher.client.delete("/api/v1/people/absences/77").json()["code"] == "no_absence"


# --- holidays -----------------------------------------------------------------------------------------


def test_on_a_holiday_nobody_has_a_shift(world, as_role):
    admin = as_role("administrator")
    holiday = admin.post("/company/holidays", {"day": TUESDAY.isoformat(), "name": "Harbour day"}).json()
    day = day_of(admin, world.ines, TUESDAY)
    assert (day["holiday"], day["shift"]) == ("Harbour day", None)
    assert day_of(admin, world.ines)["holiday"] == ""
    assert [row["name"] for row in admin.get("/company/holidays").json()] == ["Harbour day"]
    assert admin.client.delete(f"/api/v1/company/holidays/{holiday['id']}").status_code == 204
    assert day_of(admin, world.ines, TUESDAY)["shift"] is not None


def test_nothing_is_offered_on_a_holiday(world, dispatcher):
    Holiday.objects.create(day=TUESDAY, name="Harbour day")
    fits = dispatcher.get(f"/visits/{world.visit().pk}/fits", day=TUESDAY.isoformat()).json()
    assert all("has no shift that day" in row["reasons"][0] for row in fits)


def test_a_day_is_a_holiday_once_and_by_name(world, as_role):
    admin = as_role("administrator")
    body = {"day": TUESDAY.isoformat(), "name": "Harbour day"}
    assert admin.post("/company/holidays", body).status_code == 200
    again = admin.post("/company/holidays", body | {"name": "Another"})
    assert again.json()["title"] == "That day is Harbour day already."
    assert admin.post("/company/holidays", {"day": MONDAY.isoformat(), "name": " "}).status_code == 422
    assert admin.client.delete("/api/v1/company/holidays/99").json()["code"] == "no_holiday"


def test_old_holidays_are_not_listed(world, dispatcher):
    Holiday.objects.create(day=MONDAY - timedelta(days=90), name="Long ago")
    Holiday.objects.create(day=MONDAY, name="Today")
    assert [row["name"] for row in dispatcher.get("/company/holidays").json()] == ["Today"]


# --- reminders ----------------------------------------------------------------------------------------


def test_a_reminder_hangs_on_the_line_until_it_is_removed(world, dispatcher):
    body = {"technician_id": world.ines.pk, "at": at(11), "text": "Keys back"}
    made = dispatcher.post("/reminders", body).json()
    assert day_of(dispatcher, world.ines)["reminders"] == [made]
    assert (made["by"], made["done"]) == ("The dispatcher", False)
    changed = {"version": 1, "at": at(12), "text": "Keys back!", "done": True}
    done = dispatcher.put(f"/reminders/{made['id']}", changed).json()
    assert (done["at"], done["text"], done["done"], done["version"]) == (at(12), "Keys back!", True, 2)
    assert dispatcher.put(f"/reminders/{made['id']}", changed).json()["code"] == "stale"
    undone = dispatcher.put(f"/reminders/{made['id']}", changed | {"version": 2, "done": False}).json()
    assert undone["done"] is False
    assert dispatcher.client.delete(f"/api/v1/reminders/{made['id']}").status_code == 204
    assert not Reminder.objects.exists()
    assert dispatcher.client.delete(f"/api/v1/reminders/{made['id']}").json()["code"] == "no_reminder"


def test_a_reminder_says_something(world, dispatcher):
    body = {"technician_id": world.ines.pk, "at": at(11), "text": "  "}
    assert dispatcher.post("/reminders", body).json()["field"] == "text"


def test_a_reminder_stands_on_its_own_day_only(world, dispatcher):
    Reminder.objects.create(technician=world.ines, at=to_datetime(at(11, day=TUESDAY)), text="x", made_by="x")
    assert day_of(dispatcher, world.ines)["reminders"] == []
    assert len(day_of(dispatcher, world.ines, TUESDAY)["reminders"]) == 1
    assert day_of(dispatcher, world.ivor, TUESDAY)["reminders"] == []


# --- crews --------------------------------------------------------------------------------------------


def test_a_crew_is_made_changed_and_dissolved(world, dispatcher):
    crew = dispatcher.post("/people/crews", {"name": "Riggers", "members": [world.ivor.pk, world.ines.pk]}).json()
    assert crew["members"] == [world.ivor.pk, world.ines.pk]
    change = {"name": "Rope people", "members": [world.ines.pk, world.ivor.pk], "version": 1}
    assert dispatcher.put(f"/people/crews/{crew['id']}", change).json()["version"] == 2
    assert dispatcher.put(f"/people/crews/{crew['id']}", change).json()["code"] == "stale"
    [listed] = dispatcher.get("/people/crews").json()
    assert (listed["name"], listed["members"][0]) == ("Rope people", world.ines.pk)
    assert dispatcher.client.delete(f"/api/v1/people/crews/{crew['id']}").status_code == 204
    assert not Crew.objects.exists()
    assert dispatcher.client.delete(f"/api/v1/people/crews/{crew['id']}").json()["code"] == "no_crew"


def test_a_crew_that_cannot_be_is_refused(world, dispatcher):
    ines, ivor = world.ines.pk, world.ivor.pk
    wrong = [
        ({"name": "", "members": [ines, ivor]}, "name"),
        ({"name": "One", "members": [ines]}, "members"),
        ({"name": "Twice", "members": [ines, ines]}, "members"),
    ]
    for body, field in wrong:
        assert dispatcher.post("/people/crews", body).json()["field"] == field
    assert dispatcher.post("/people/crews", {"name": "Ghosts", "members": [ines, 777]}).status_code == 404
    dispatcher.post("/people/crews", {"name": "Riggers", "members": [ines, ivor]})
    assert dispatcher.post("/people/crews", {"name": "riggers", "members": [ines, ivor]}).json()["field"] == "name"
    assert Crew.objects.count() == 1


def test_who_often_works_together_is_counted_whoever_led(world, dispatcher):
    for number in range(4):
        lead, mate = (world.ines, world.ivor) if number % 2 else (world.ivor, world.ines)
        visit = world.placed(9, technician=lead, state="done", crew=2, mates=[mate.pk])
        Visit.objects.filter(pk=visit.pk).update(finished_at=to_datetime(at(9) - number * 86_400))
    world.placed(9, state="done", finished_at=to_datetime(at(9)))
    [row] = dispatcher.get("/board/crews/often").json()
    assert row == {"members": sorted([world.ines.pk, world.ivor.pk]), "visits": 4}


def test_twice_together_is_no_habit_and_long_ago_does_not_count(world, dispatcher):
    for days in (1, 2, 300, 400):
        visit = world.placed(9, state="done", crew=2, mates=[world.ivor.pk])
        Visit.objects.filter(pk=visit.pk).update(finished_at=to_datetime(at(9) - days * 86_400))
    assert dispatcher.get("/board/crews/often").json() == []


def test_a_standing_crew_goes_whole_and_undo_makes_the_visit_small_again(world, dispatcher):
    visit = world.visit()
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(11), "mates": [world.ivor.pk]}
    placed = dispatcher.post(f"/visits/{visit.pk}/place", body).json()["visit"]
    assert (placed["crew"], placed["mates"]) == (2, [world.ivor.pk])
    assert dispatcher.post("/board/undo").status_code == 200
    visit.refresh_from_db()
    assert (visit.crew, visit.mates, visit.technician_id) == (1, [], None)
    assert dispatcher.post("/board/redo").status_code == 200
    visit.refresh_from_db()
    assert (visit.crew, visit.mates, visit.technician_id) == (2, [world.ivor.pk], world.ines.pk)


def test_a_mates_day_is_judged_too(world, dispatcher):
    absence(dispatcher, world.ivor, at(10), at(15))
    visit = world.visit(crew=2)
    body = {"visit_id": visit.pk, "technician_id": world.ines.pk, "start": at(11)}
    assert dispatcher.post("/scheduling/judge", body).json()["allowed"] is True
    verdict = dispatcher.post("/scheduling/judge", body | {"mates": [world.ivor.pk]}).json()
    assert verdict["allowed"] is False
    assert any("Ivor Larkin" in row["sentence"] for row in verdict["reasons"] if row["weight"] == "refuses")
    refused = place(dispatcher, visit, world.ines, at(11), mates=[world.ivor.pk])
    assert refused.json()["code"] == "limit_broken"


def test_moving_a_crews_visit_is_judged_on_the_mates_who_stay_with_it(world, dispatcher):
    visit = world.placed(9, crew=2, mates=[world.ivor.pk])
    absence(dispatcher, world.ivor, at(12), at(15))
    assert place(dispatcher, visit, world.ines, at(13)).json()["code"] == "limit_broken"
    alone = place(dispatcher, visit, world.ines, at(13), mates=[])
    assert alone.status_code == 200


# --- locks --------------------------------------------------------------------------------------------


def pinned(*visits):
    return [Visit.objects.get(pk=visit.pk).pinned for visit in visits]


def test_a_technicians_day_is_locked_and_unlocked_in_one_step(world, dispatcher):
    mine, second, other = world.placed(9), world.placed(12), world.placed(9, technician=world.ivor)
    body = {"day": MONDAY.isoformat(), "technician_id": world.ines.pk, "pinned": True}
    assert dispatcher.post("/board/lock-days", body).json() == {"changed": 2}
    assert pinned(mine, second, other) == [True, True, False]
    assert dispatcher.post("/board/undo").status_code == 200
    assert pinned(mine, second, other) == [False, False, False]
    assert dispatcher.post("/board/redo").status_code == 200
    assert dispatcher.post("/board/lock-days", body | {"pinned": False}).json() == {"changed": 2}


def test_a_whole_day_is_locked_but_for_what_is_over(world, dispatcher):
    mine, other, done = world.placed(11), world.placed(11, technician=world.ivor), world.placed(8, state="done")
    body = {"day": MONDAY.isoformat(), "pinned": True}
    assert dispatcher.post("/board/lock-days", body).json() == {"changed": 2}
    assert pinned(mine, other, done) == [True, True, False]
    assert dispatcher.post("/board/lock-days", body).json()["code"] == "nothing_done"


def test_all_visits_of_an_order_are_locked(world, dispatcher):
    first = world.placed(9)
    second = Visit.objects.create(
        order=first.order, part=2, duration_seconds=3600, state="placed", technician=world.ivor,
        start=to_datetime(at(11)),
    )  # fmt: skip
    waiting = Visit.objects.create(order=first.order, part=3, duration_seconds=3600)
    answer = dispatcher.post(f"/orders/{first.order_id}/lock", {"pinned": True})
    assert answer.json() == {"changed": 2}
    assert pinned(first, second, waiting) == [True, True, False]
    assert dispatcher.get(f"/visits/{first.pk}").json()["parts"] == 3


# --- papers, directions, heads ------------------------------------------------------------------------


def pages(answer):
    """Pages of a PDF, whose objects lie compressed in it."""
    packed = re.findall(rb"stream\r?\n(.*?)\r?\nendstream", answer.content, re.DOTALL)
    text = b"".join(zlib.decompressobj().decompress(part) for part in packed if part[:1] == b"x") + answer.content
    return len(re.findall(rb"/Type ?/Page\b(?!s)", text))


def test_the_work_orders_of_a_day_are_printed_each_on_pages_of_its_own(world, dispatcher):
    world.placed(9), world.placed(11), world.placed(9, technician=world.ivor)
    one = dispatcher.get("/board/work-orders", day=MONDAY.isoformat(), technician_id=world.ines.pk)
    everybody = dispatcher.get("/board/work-orders", day=MONDAY.isoformat())
    assert one["Content-Type"] == "application/pdf"
    assert (pages(one), pages(everybody)) == (2, 3)
    assert dispatcher.get("/board/work-orders", day=TUESDAY.isoformat()).json()["code"] == "nothing_planned"


def test_all_work_orders_of_a_day_are_printed_by_the_worker_and_fetched_by_who_asked(
    world, dispatcher, as_role, settings, tmp_path
):
    settings.MEDIA_ROOT = tmp_path
    world.placed(9), world.placed(11), world.placed(9, technician=world.ivor)
    asked = dispatcher.post("/printouts", {"day": MONDAY.isoformat()}).json()
    assert (asked["state"], asked["orders"]) == ("waiting", 3)
    path = f"/printouts/{asked['id']}"
    assert dispatcher.get(f"{path}/pdf").status_code == 404
    printing.make(asked["id"])
    printing.make(asked["id"])
    assert dispatcher.get(path).json()["state"] == "done"
    answer = dispatcher.get(f"{path}/pdf")
    answer.content_ = b"".join(answer.streaming_content)
    assert pages(SimpleNamespace(content=answer.content_)) == 3
    assert as_role("other").get(path).status_code == 404
    assert dispatcher.post("/printouts", {"day": TUESDAY.isoformat()}).json()["code"] == "nothing_planned"


def test_papers_say_what_is_needed_on_the_way_and_on_site(world, dispatcher):
    visit = world.placed(
        11, crew=2, mates=[world.ivor.pk], takes={"car-lamp": 2}, due=to_datetime(at(16)), state="sent",
        promise_start=to_datetime(at(10)), promise_end=to_datetime(at(12)),
    )  # fmt: skip
    order = visit.order
    order.asset, order.due = world.asset, to_datetime(at(17))
    order.save()
    world.site.access_notes = "Ring twice & wait"
    world.site.save()
    paper = render_to_string("orders/work_order.html", orders_printing._words(order_details.order(order.pk)))
    for words in ("Due Mon 23 Nov 17:00", "2 together", "Mon 23 Nov 16:00", "10:00–12:00", "OR-12345"):
        assert words in paper
    assert "string-set" in paper  # the footer takes the name from the page, not escaped into the style
    [page] = list(feeds._pages(MONDAY, world.ines.pk, clock.now()))
    sheet = render_to_string("board/route_sheet.html", {"company": "X", "day": MONDAY, "pages": [page], "font": ""})
    for words in ("Ring twice &amp; wait", "1 h", "crew of 2", "OR-12345", "take along: 2 × Car lamp"):
        assert words in sheet
    path = dispatcher.get(f"/technicians/{world.ines.pk}/calendar-link").json()["path"]
    feed = Client(HTTP_HOST="127.0.0.1").get(path).content.decode().replace("\r\n ", "")
    for words in ("296 111 222", "Ring twice", f"field/{visit.pk}", "GEO:47."):
        assert words in feed


def test_directions_lead_street_by_street_and_home(world, dispatcher):
    visit = world.placed(11)
    there, home = dispatcher.get("/board/directions", technician_id=world.ines.pk, day=MONDAY.isoformat()).json()
    assert (there["visit_id"], there["leads_to"]) == (visit.pk, "Seagate Hall")
    assert (home["visit_id"], home["leads_to"]) == (None, "depot Northlock")
    assert there["ways"][0]["turn"].startswith("head ")
    assert there["ways"][-1]["street"] == "Millrace Road"
    streets = [way["street"] for way in there["ways"]]
    assert all(one != other for one, other in pairwise(streets))
    driven = sum(way["metres"] for way in there["ways"])
    assert driven == pytest.approx(there["metres"], rel=0.1, abs=60)


def test_a_day_without_visits_has_no_directions(world, dispatcher):
    assert dispatcher.get("/board/directions", technician_id=world.ivor.pk, day=MONDAY.isoformat()).json() == []
    assert dispatcher.get("/board/directions", technician_id=777, day=MONDAY.isoformat()).status_code == 404


def test_a_head_says_how_to_reach_somebody_and_what_papers_they_have(world, dispatcher):
    world.ines.email = "ines@test.example"
    world.ines.save()
    for name, until in (("First aid", MONDAY), ("Mechanic", None), ("Rope access", MONDAY - timedelta(days=3))):
        world.holds(world.ines, name, until, number="7")
    ines, ivor = dispatcher.get("/board/lanes").json()
    assert ines["email"] == "ines@test.example"
    assert [row["name"] for row in ines["certificates"]] == ["Rope access", "First aid", "Mechanic"]
    assert ivor["certificates"] == []


# --- what sending would write -------------------------------------------------------------------------


def test_what_is_sent_is_read_first_and_is_what_is_sent(world, dispatcher):
    visit = world.placed(11)
    [preview] = dispatcher.get("/messages/preview", day=MONDAY.isoformat()).json()
    assert (preview["visit_id"], preview["again"]) == (visit.pk, False)
    assert not Message.objects.exists()
    dispatcher.post("/board/send-day", {"day": MONDAY.isoformat()})
    written = Message.objects.order_by("id").values_list("kind", "name", "address", "text")
    assert list(written) == [(d["kind"], d["name"], d["address"], d["text"]) for d in preview["drafts"]]


def test_reading_many_messages_needs_as_many_queries_as_reading_one(world, dispatcher):
    def queries():
        with CaptureQueriesContext(connection) as caught:
            assert dispatcher.get("/messages/preview", day=MONDAY.isoformat()).status_code == 200
        return len(caught)

    world.placed(11)
    queries()  # what is kept for a moment is read now
    one = queries()
    for hour in (9, 12, 13, 14):
        world.placed(hour, technician=world.ivor)
    assert queries() == one


def test_what_changed_since_it_was_sent_is_told_apart(world, dispatcher):
    moved, sent, fresh = world.placed(9), world.placed(11), world.placed(13)
    for visit in (moved, sent):
        dispatcher.post(f"/visits/{visit.pk}/send", {"version": 1})
    moved.refresh_from_db()
    assert place(dispatcher, moved, world.ines, at(14, 30)).status_code == 200
    found = {
        row["visit_id"]: row["again"] for row in dispatcher.get("/messages/preview", day=MONDAY.isoformat()).json()
    }
    assert found == {moved.pk: True, fresh.pk: False}


def test_one_visits_messages_go_to_everybody_who_goes(world, dispatcher):
    visit = world.placed(11, crew=2, mates=[world.ivor.pk])
    [preview] = dispatcher.get(f"/messages/preview/{visit.pk}").json()
    assert [row["name"] for row in preview["drafts"]] == ["Ines Falk", "Ivor Larkin", "Seagate Stores"]
    assert dispatcher.get(f"/messages/preview/{world.visit().pk}").json() == []


# --- planning the chosen ------------------------------------------------------------------------------


def test_a_run_for_chosen_visits_may_move_only_those(world):
    from apps.scheduling.problems import load_problem
    from core.scheduling import KEEP_PROMISES
    from foundation import clock

    chosen, other = world.placed(11), world.placed(13)
    loaded = load_problem(
        first=MONDAY, days=1, playbook=KEEP_PROMISES, now=clock.now(), only=[chosen.pk], movable=[chosen.pk]
    )
    locks = {stop.visit.id: stop.visit.locked for day in loaded.problem.days for stop in day.stops}
    assert locks == {chosen.pk: False, other.pk: True}


# --- coming forward from the standby list -------------------------------------------------------------


def standby_visit(world):
    return world.placed(
        14, technician=world.ivor, standby={"part": ""}, promise_start=to_datetime(at(13)),
        promise_end=to_datetime(at(15)),
    )  # fmt: skip


def test_who_comes_forward_is_promised_the_earlier_time_and_told(world, dispatcher):
    visit = standby_visit(world)
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(11, 10)}
    placed = dispatcher.post(f"/visits/{visit.pk}/forward", body).json()["visit"]
    assert placed["promise"] == {"start": at(11), "end": at(13)}
    assert (placed["technician_id"], placed["start"], placed["standby"]) == (world.ines.pk, at(11, 10), None)
    board = dispatcher.get("/board").json()["visits"]
    assert [row["lamp"] for row in board if row["id"] == visit.pk] != ["broken"]
    assert "between 11:00 and 13:00" in Message.objects.get(kind="customer").text


def test_coming_forward_is_undone_in_one_step_and_done_again(world, dispatcher):
    visit = standby_visit(world)
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(11, 10)}
    dispatcher.post(f"/visits/{visit.pk}/forward", body)
    assert dispatcher.post("/board/undo").status_code == 200
    visit.refresh_from_db()
    assert (visit.technician_id, visit.start) == (world.ivor.pk, to_datetime(at(14)))
    assert (visit.promise_start, visit.standby) == (to_datetime(at(13)), {"part": ""})
    assert dispatcher.post("/board/redo").status_code == 200
    visit.refresh_from_db()
    assert (visit.technician_id, visit.promise_start, visit.standby) == (world.ines.pk, to_datetime(at(11)), None)


def test_only_who_is_on_the_standby_list_comes_forward(world, dispatcher):
    visit = world.placed(14, technician=world.ivor)
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(11)}
    assert dispatcher.post(f"/visits/{visit.pk}/forward", body).json()["code"] == "not_on_standby"
    visit = standby_visit(world)
    absence(dispatcher, world.ines, at(10), at(15))
    refused = dispatcher.post(f"/visits/{visit.pk}/forward", body)
    assert refused.json()["code"] == "limit_broken"
    visit.refresh_from_db()
    assert (visit.standby, visit.version) == ({"part": ""}, 1)
    assert not Message.objects.exists()
