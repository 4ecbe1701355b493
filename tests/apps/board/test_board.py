"""More of the board: several days, first times that fit, undo and redo, many at once, gaps, urgent work."""

from datetime import timedelta

import icalendar
import pytest
from django.test import Client

from apps.customers.models import Site
from apps.messages.models import Message
from apps.orders.models import Visit, VisitLink, WorkOrder
from apps.people.models import Absence
from apps.roads.queries import find_addresses
from foundation.models import UndoEntry
from foundation.moments import to_datetime
from tests.apps.board.test_placing import place, seen_on
from tests.apps.conftest import MONDAY, at

TUESDAY = MONDAY + timedelta(days=1)
DAY = 86_400


def seen(*visits):
    return [{"id": visit.pk, "version": visit.version} for visit in visits]


def bulk(api, kind, *visits, **more):
    return api.post("/board/bulk", {"kind": kind, "visits": seen(*visits), **more})


def undo(api):
    return api.post("/board/undo")


def redo(api):
    return api.post("/board/redo")


def fresh(visit):
    return Visit.objects.get(pk=visit.pk)


# --- several days -------------------------------------------------------------------------------------


def test_a_week_shows_each_day_of_each_technician(world, dispatcher):
    monday, tuesday = world.placed(11), world.placed(11)
    Visit.objects.filter(pk=tuesday.pk).update(start=to_datetime(at(9, day=TUESDAY)))
    board = dispatcher.get("/board", day=MONDAY.isoformat(), days=7).json()
    ines = next(lane for lane in board["lanes"] if lane["technician_id"] == world.ines.pk)
    assert [row["shift"] is not None for row in ines["days"]] == [True] * 5 + [False] * 2
    assert [stretch["visit_id"] for row in ines["days"][:2] for stretch in row["timetable"]["stretches"]
            if stretch["kind"] == "work"] == [monday.pk, tuesday.pk]  # fmt: skip
    assert {row["id"] for row in board["visits"]} == {monday.pk, tuesday.pk}


def test_a_part_of_the_board_holds_only_the_technicians_asked_for(world, dispatcher):
    mine, other = world.placed(11), world.placed(11, technician=world.ivor)
    part = dispatcher.get("/board", day=MONDAY.isoformat(), technicians=f"{world.ivor.pk}").json()
    assert [lane["technician_id"] for lane in part["lanes"]] == [world.ivor.pk]
    assert {row["id"] for row in part["visits"]} == {other.pk} != {mine.pk}
    assert dispatcher.get("/board", technicians="1;drop").status_code == 422


def test_a_week_needs_as_many_queries_as_a_day(world, dispatcher, django_assert_max_num_queries):
    world.placed(11)
    with django_assert_max_num_queries(21):
        dispatcher.get("/board", day=MONDAY.isoformat(), days=14)


# --- the first time that fits, and lengths ------------------------------------------------------------


def test_dropped_on_a_technician_it_takes_the_first_time_that_harms_nothing(world, dispatcher):
    world.placed(10, 30)
    visit = world.visit()
    body = {"version": 1, "technician_id": world.ines.pk, "day": MONDAY.isoformat()}
    placed = dispatcher.post(f"/visits/{visit.pk}/place-first", body).json()
    # The other one at the same site runs from 10:30 to 11:30; it is ten, and there is no hour before it.
    assert placed["visit"]["start"] == at(11, 30)
    assert not [row for row in placed["verdict"]["reasons"] if row["weight"] in ("asks", "warns", "refuses")]


def test_where_nothing_fits_it_says_so_and_changes_nothing(world, dispatcher):
    visit = world.visit(needs={"rescue": 2})
    body = {"version": 1, "technician_id": world.ines.pk, "day": MONDAY.isoformat()}
    answer = dispatcher.post(f"/visits/{visit.pk}/place-first", body)
    assert (answer.status_code, answer.json()["code"]) == (422, "no_room")
    assert answer.json()["reasons"] == ["Rescue 2 needed, Ines Falk has none"]
    assert fresh(visit).state == "open"


def test_a_length_is_stretched_and_given_back(world, dispatcher):
    visit = world.placed(11)
    dispatcher.post(f"/visits/{visit.pk}/length", {"version": 1, "seconds": 5400})
    assert fresh(visit).duration_seconds == 5400
    undo(dispatcher)
    assert fresh(visit).duration_seconds == 3600


# --- undo and redo ------------------------------------------------------------------------------------


def test_fifty_changes_of_one_visit_go_back_and_forth_again(world, dispatcher):
    visit = world.visit()
    place(dispatcher, visit, world.ines, at(11))
    for number in range(49):
        start = at(12) if number % 2 else at(13)
        assert place(dispatcher, visit, world.ines, start, version=number + 2).status_code == 200
    starts = [change.after["start"] for change in UndoEntry.objects.order_by("id")]
    for expected in [*reversed(starts[:-1]), None]:
        assert undo(dispatcher).json()["visit"]["start"] == expected
    assert undo(dispatcher).json()["code"] == "nothing_to_undo"
    for expected in starts:
        assert redo(dispatcher).json()["visit"]["start"] == expected
    assert redo(dispatcher).json()["code"] == "nothing_to_redo"


def test_a_new_change_forgets_what_could_be_done_again(world, dispatcher):
    first, second = world.visit(), world.visit()
    place(dispatcher, first, world.ines, at(11))
    undo(dispatcher)
    assert len(dispatcher.get("/board/undo").json()["redo"]) == 1
    place(dispatcher, second, world.ines, at(14))
    assert dispatcher.get("/board/undo").json()["redo"] == []
    assert redo(dispatcher).status_code == 404


def test_what_another_changed_meanwhile_is_not_done_again(world, as_role):
    mine, other = as_role("dispatcher"), as_role("other")
    visit = world.visit()
    place(mine, visit, world.ines, at(11))
    undo(mine)
    place(other, visit, world.ivor, at(12), version=3)
    answer = redo(mine)
    assert answer.status_code == 409
    assert "Other Dispatcher placed it to Ivor Larkin, 12:00" in answer.json()["title"]
    assert fresh(visit).technician_id == world.ivor.pk


def test_a_cancelled_visit_comes_back_to_its_place(world, dispatcher):
    visit = world.placed(13)
    body = {"version": 1, "step": "cancel", "note": "they sold the house"}
    dispatcher.post(f"/visits/{visit.pk}/step", body)
    assert fresh(visit).state == "cancelled"
    undo(dispatcher)
    back = fresh(visit)
    assert (back.state, back.technician_id, back.start) == ("placed", world.ines.pk, to_datetime(at(13)))
    redo(dispatcher)
    assert fresh(visit).state == "cancelled"


# --- many at once -------------------------------------------------------------------------------------


def test_a_preview_says_what_becomes_of_each_and_changes_nothing(world, dispatcher):
    visits = [world.placed(11), world.placed(13, promise_start=to_datetime(at(12)), promise_end=to_datetime(at(14)))]
    found = bulk(dispatcher, "day", *visits, day=TUESDAY.isoformat(), preview=True).json()
    first, second = found["outcomes"]
    assert (found["done"], first["sentence"]) == (1, "goes to Ines Falk, Tue 24 Nov 11:00")
    assert second["asks"] is True
    assert "after the promise" in second["problem"]
    assert [fresh(visit).start for visit in visits] == [visit.start for visit in visits]
    assert not UndoEntry.objects.exists()


def test_many_move_to_another_day_and_back_in_one_step(world, dispatcher):
    visits = [world.placed(11), world.placed(13)]
    assert bulk(dispatcher, "day", *visits, day=TUESDAY.isoformat()).json()["done"] == 2
    assert [fresh(visit).start for visit in visits] == [visit.start + timedelta(days=1) for visit in visits]
    assert undo(dispatcher).json()["sentence"] == "2 changes made in one step"
    assert [fresh(visit).start for visit in visits] == [visit.start for visit in visits]
    redo(dispatcher)
    assert [fresh(visit).start for visit in visits] == [visit.start + timedelta(days=1) for visit in visits]


def test_what_cannot_be_done_to_one_leaves_that_one(world, dispatcher):
    pinned, free = world.placed(11, pinned=True), world.placed(13)
    found = bulk(dispatcher, "unplace", pinned, free).json()
    assert found["done"] == 1
    assert [fresh(pinned).state, fresh(free).state] == ["placed", "open"]
    refused = bulk(dispatcher, "unplace", pinned)
    assert (refused.status_code, refused.json()["code"]) == (422, "nothing_done")


def test_a_sick_technicians_visits_go_to_another_at_the_first_times_that_fit(world, dispatcher):
    visits = [world.placed(11), world.placed(13)]
    found = bulk(dispatcher, "give", *visits, technician_id=world.ivor.pk).json()
    assert found["done"] == 2
    assert [fresh(visit).technician_id for visit in visits] == [world.ivor.pk] * 2
    first, second = (fresh(visit).start for visit in visits)
    assert second >= first + timedelta(hours=1)


def test_many_shift_without_pushing_one_another(world, dispatcher):
    visits = [world.placed(11), world.placed(12)]
    found = bulk(dispatcher, "shift", *visits, seconds=3600).json()
    assert [row["warnings"] for row in found["outcomes"]] == [[], []]
    assert [fresh(visit).start for visit in visits] == [to_datetime(at(12)), to_datetime(at(13))]


@pytest.mark.parametrize(
    ("kind", "more", "field"),
    [("day", {}, "day"), ("give", {}, "technician_id"), ("cancel", {"because": " "}, "because")],
)
def test_what_is_not_said_whole_is_refused(world, dispatcher, kind, more, field):
    answer = bulk(dispatcher, kind, world.placed(11), **more)
    assert (answer.status_code, answer.json()["field"]) == (422, field)


def test_only_what_changed_is_sent_again(world, dispatcher):
    changed, sent = world.placed(11), world.placed(13, state="sent")
    found = bulk(dispatcher, "send", changed, sent).json()
    assert found["done"] == 1
    assert found["outcomes"][1]["problem"] == "nothing has changed since it was sent"
    assert fresh(changed).state == "sent"


def test_locked_ones_stay_until_they_are_unlocked(world, dispatcher):
    visit = world.placed(11)
    bulk(dispatcher, "lock", visit)
    assert place(dispatcher, visit, world.ines, at(14), version=2).json()["code"] == "limit_broken"
    bulk(dispatcher, "unlock", fresh(visit))
    assert place(dispatcher, visit, world.ines, at(14), version=3).status_code == 200


# --- gaps ---------------------------------------------------------------------------------------------


def test_a_gap_is_offered_to_the_standby_list_first_then_to_promises_then_to_the_rest(world, dispatcher):
    plain = world.visit()
    promised = world.visit(promise_start=to_datetime(at(12)), promise_end=to_datetime(at(15)))
    forward = world.placed(9, technician=world.ivor, standby={"part": "afternoon", "notice_minutes": 30},
                           promise_start=to_datetime(at(8, day=TUESDAY)),
                           promise_end=to_datetime(at(10, day=TUESDAY)))  # fmt: skip
    Visit.objects.filter(pk=forward.pk).update(start=to_datetime(at(9, day=TUESDAY)))
    asked = {"technician_id": world.ines.pk, "start": at(12), "end": at(15)}
    gap = dispatcher.get("/board/gap", **asked).json()
    found = gap["fillers"]
    assert [row["visit"]["id"] for row in found] == [forward.pk, promised.pk, plain.pk]
    assert [row["standby"] for row in found] == [True, False, False]
    body = {"version": fresh(forward).version, "technician_id": world.ines.pk, "start": found[0]["start"]}
    assert dispatcher.post(f"/visits/{forward.pk}/place", body).json()["code"] == "reason_needed"
    because = {"because": "Comes forward from the standby list"}
    assert dispatcher.post(f"/visits/{forward.pk}/place", body | because).status_code == 200
    # Everything free around it belongs to the gap; who comes forward for an afternoon does not come in the morning.
    assert gap["start"] < at(12) < at(15) < gap["end"]
    assert found[0]["start"] >= at(12)
    assert all(gap["start"] <= row["start"] < gap["end"] for row in found)


def test_what_was_free_beside_a_cancelled_visit_belongs_to_its_gap(world, dispatcher):
    """Half an hour falls free between two hours of nothing: what fits there is more than what takes half an hour."""
    world.placed(10, 30, duration_seconds=3600)
    cancelled = world.placed(13, duration_seconds=1800)
    world.placed(15, duration_seconds=1800)
    waiting = world.visit(duration_seconds=5400)
    step = {"version": 1, "step": "cancel", "note": "Ill", "tell": ""}
    assert dispatcher.post(f"/visits/{cancelled.pk}/step", step).status_code == 200
    asked = {"technician_id": world.ines.pk, "start": at(13), "end": at(13, 30), "but": cancelled.pk}
    gap = dispatcher.get("/board/gap", **asked).json()
    assert [row["visit"]["id"] for row in gap["fillers"]] == [waiting.pk]
    [row] = gap["fillers"]
    place = {"version": 1, "technician_id": world.ines.pk, "start": row["start"]}
    assert dispatcher.post(f"/visits/{waiting.pk}/place", place).status_code == 200


def test_a_customer_who_would_only_come_in_the_morning_is_not_offered_an_afternoon(world, dispatcher):
    world.placed(10, 30, duration_seconds=5400)
    world.visit(standby={"part": "morning"})
    asked = {"technician_id": world.ines.pk, "start": at(13), "end": at(15)}
    assert dispatcher.get("/board/gap", **asked).json()["fillers"] == []


def test_what_does_not_fit_the_gap_is_not_offered(world, dispatcher):
    world.placed(10, 30, duration_seconds=5400)
    world.placed(13)
    world.visit(duration_seconds=7200)
    asked = {"technician_id": world.ines.pk, "start": at(12), "end": at(13)}
    assert dispatcher.get("/board/gap", **asked).json()["fillers"] == []
    assert dispatcher.get("/board/gap", **{**asked, "end": at(11)}).status_code == 422


def test_what_next_looks_at_the_free_time_after_a_visit(world, dispatcher):
    before, after = world.placed(10, 30), world.placed(14)
    open_one = world.visit()
    found = dispatcher.get(f"/visits/{before.pk}/next").json()
    assert (found["start"], found["end"]) == (at(11, 30), at(14))
    assert [row["visit"]["id"] for row in found["fillers"]] == [open_one.pk]
    assert dispatcher.get(f"/visits/{open_one.pk}/next").json() is None
    assert fresh(after).start == to_datetime(at(14))


# --- the map, and weeks ahead ---------------------------------------------------------------------------


def test_the_road_of_a_day_leads_from_the_depot_from_visit_to_visit_and_home(world, dispatcher):
    visit = world.placed(11)
    found = dispatcher.get("/board/rounds", day=MONDAY.isoformat(), technicians=f"{world.ines.pk}").json()
    assert [row["technician_id"] for row in found] == [world.ines.pk]
    legs = found[0]["legs"]
    assert [leg["visit_id"] for leg in legs] == [visit.pk, None]
    out, home = legs
    depot = world.ines.depot
    assert out["points"][0] == pytest.approx([depot.lon, depot.lat], abs=0.003)
    assert out["points"][-1] == pytest.approx([world.site.lon, world.site.lat], abs=0.003)
    assert home["points"][-1] == pytest.approx(out["points"][0], abs=0.003)
    assert all(leg["seconds"] > 0 for leg in legs)


def test_everybody_s_roads_come_at_once_and_cost_no_more_questions_for_more_people(
    world, dispatcher, django_assert_max_num_queries
):
    mine, other = world.placed(11), world.placed(9, technician=world.ivor)
    world.placed(13, technician=world.ivor)
    with django_assert_max_num_queries(18):
        rows = dispatcher.get("/board/rounds", day=MONDAY.isoformat()).json()
    visits = {row["technician_id"]: [leg["visit_id"] for leg in row["legs"]] for row in rows}
    assert visits[world.ines.pk] == [mine.pk, None]
    assert len(visits[world.ivor.pk]) == 2 or visits[world.ivor.pk][0] == other.pk
    assert dispatcher.get("/board/rounds", day=TUESDAY.isoformat()).json()[0]["legs"] == []
    assert dispatcher.get("/board/rounds", day=MONDAY.isoformat(), technicians="x").status_code == 422


def test_everybody_at_work_was_seen_somewhere(world, dispatcher):
    world.placed(9, state="on_site", arrived_at=to_datetime(at(9, 5)), departed_at=to_datetime(at(8, 50)))
    rows = {row["name"]: row for row in dispatcher.get("/board/last-seen").json()}
    assert rows["Ines Falk"]["doing"] == "on site: Seagate Hall"
    assert rows["Ines Falk"]["at"] == at(9, 5)
    assert (rows["Ines Falk"]["lon"], rows["Ines Falk"]["lat"]) == (world.site.lon, world.site.lat)
    assert rows["Ivor Larkin"]["at"] is None
    assert "depot" in rows["Ivor Larkin"]["doing"]


def test_what_the_phone_said_last_is_where_somebody_is(world, dispatcher):
    visit = world.placed(9, state="on_site", arrived_at=to_datetime(at(9, 5)))
    moment = to_datetime(at(9, 6))
    visit.events.create(
        step="arrive", happened_at=moment, recorded_at=moment, technician=world.ines, actor_name="Ines", lon=-24.6,
        lat=47.2,
    )  # fmt: skip
    rows = {row["name"]: row for row in dispatcher.get("/board/last-seen").json()}
    assert (rows["Ines Falk"]["lon"], rows["Ines Falk"]["lat"], rows["Ines Falk"]["at"]) == (-24.6, 47.2, at(9, 6))


def test_traffic_is_that_of_the_period_of_the_day(world, dispatcher):
    morning = dispatcher.get("/roads/traffic", at=at(8)).json()
    night = dispatcher.get("/roads/traffic", at=at(3)).json()
    assert (morning["period"], night["period"]) == ("morning peak", "night")
    assert morning["shares"]["bridge"] < night["shares"]["bridge"] == 1


def test_weeks_ahead_say_how_full_each_day_is_with_its_driving(world, dispatcher):
    world.placed(11, crew=2, mates=[world.ivor.pk])
    Absence.objects.create(technician=world.ivor, start=to_datetime(at(8)), end=to_datetime(at(10)))
    rows = {row["name"]: row["days"] for row in dispatcher.get("/board/load", day=MONDAY.isoformat()).json()}
    assert len(rows["Ines Falk"]) == 35
    ines, ivor, saturday = rows["Ines Falk"][0], rows["Ivor Larkin"][0], rows["Ines Falk"][5]
    assert (ines["date"], ines["working"], ines["work"], ines["visits"]) == ("2026-11-23", 8 * 3600, 3600, 1)
    assert (ivor["working"], ivor["work"]) == (6 * 3600, 3600)
    assert ines["drive"] == ivor["drive"] > 60
    assert ines["share"] == pytest.approx((ines["work"] + ines["drive"]) / ines["working"], abs=0.001)
    assert saturday == {
        "date": "2026-11-28", "working": 0, "left": 0, "work": 0, "drive": 0, "overtime": 0, "visits": 0, "share": 0.0
    }  # fmt: skip


def test_the_load_of_some_is_asked_for_alone_and_agrees_with_the_board(world, dispatcher):
    world.placed(11)
    world.placed(13)
    [row] = dispatcher.get("/board/load", day=MONDAY.isoformat(), days=1, technicians=f"{world.ines.pk}").json()
    board = dispatcher.get("/board", day=MONDAY.isoformat()).json()
    stretches = next(
        lane for lane in board["lanes"] if lane["technician_id"] == world.ines.pk
    )["days"][0]["timetable"]["stretches"]  # fmt: skip
    driven = sum(stretch["end"] - stretch["start"] for stretch in stretches if stretch["kind"] == "drive")
    assert row["days"][0]["drive"] == driven


def test_weeks_ahead_cost_as_many_questions_for_many_visits_as_for_one(
    world, dispatcher, django_assert_max_num_queries
):
    for hour in (8, 10, 12, 14):
        world.placed(hour)
        world.placed(hour, technician=world.ivor)
    with django_assert_max_num_queries(19):
        dispatcher.get("/board/load", day=MONDAY.isoformat())


# --- calendar and paper -------------------------------------------------------------------------------


def test_a_technicians_calendar_holds_what_was_sent_behind_a_link_nobody_guesses(world, dispatcher):
    world.placed(13)
    sent = world.placed(11, state="sent", promise_start=to_datetime(at(11)), promise_end=to_datetime(at(12)))
    path = dispatcher.get(f"/technicians/{world.ines.pk}/calendar-link").json()["path"]
    answer = Client(HTTP_HOST="127.0.0.1").get(path)
    assert answer["Content-Type"].startswith("text/calendar")
    feed = icalendar.Calendar.from_ical(answer.content)
    [event] = feed.events
    assert event["SUMMARY"] == "Noisy door, Seagate Hall"
    assert event.start == sent.start
    assert "promised 11:00-12:00" in event["DESCRIPTION"]
    other = path.replace(f"/{world.ines.pk}-", f"/{world.ivor.pk}-")
    assert Client(HTTP_HOST="127.0.0.1").get(other).status_code == 404


def test_the_route_sheet_is_printed_for_one_and_for_all(world, dispatcher):
    world.placed(11, notes="Ring twice")
    one = dispatcher.get("/board/route-sheet", day=MONDAY.isoformat(), technician_id=world.ines.pk)
    assert one.content.startswith(b"%PDF")
    assert dispatcher.get("/board/route-sheet", day=MONDAY.isoformat()).content.startswith(b"%PDF")
    none = dispatcher.get("/board/route-sheet", day=MONDAY.isoformat(), technician_id=world.ivor.pk)
    assert (none.status_code, none.json()["code"]) == (404, "nothing_planned")


# --- the backlog --------------------------------------------------------------------------------------


def waiting(api, **filters):
    return [row["id"] for row in api.post("/board/backlog", filters).json()["visits"]]


def test_the_backlog_is_narrowed_by_any_of_its_filters(world, dispatcher):
    plain = world.visit(priority=4)
    pressing = world.visit(priority=1, needs={"rescue": 2}, due=to_datetime(at(12, day=TUESDAY)))
    WorkOrder.objects.filter(pk=pressing.order_id).update(tags=["storm"], extra={"claim": True})
    both = [pressing.pk, plain.pk]
    assert waiting(dispatcher) == both
    assert waiting(dispatcher, priorities=[1, 2]) == [pressing.pk]
    assert waiting(dispatcher, skill="rescue") == [pressing.pk]
    assert waiting(dispatcher, due_by=TUESDAY.isoformat()) == [pressing.pk]
    assert waiting(dispatcher, due_by=MONDAY.isoformat()) == []
    assert waiting(dispatcher, tag="storm") == waiting(dispatcher, extra={"claim": True}) == [pressing.pk]
    assert waiting(dispatcher, customer_id=world.customer.pk) == both
    assert waiting(dispatcher, job_type_ids=[world.door_job.pk]) == both
    assert waiting(dispatcher, area_ids=[10**9]) == []
    assert waiting(dispatcher, sort="priority") == both
    assert dispatcher.post("/board/backlog", {"sort": "colour"}).status_code == 422


def test_the_backlog_knows_what_lies_near_a_point(world, dispatcher):
    here = world.visit()
    where = find_addresses("Orchard Rise")[0].place
    far_site = Site.objects.create(customer=world.customer, name="Far", address="x", lon=where.lon, lat=where.lat)
    far = world.visit()
    WorkOrder.objects.filter(pk=far.order_id).update(site=far_site)
    point = {"lon": where.lon, "lat": where.lat}
    assert waiting(dispatcher, **point, sort="nearest") == [far.pk, here.pk]
    assert waiting(dispatcher, **point, metres=500) == [far.pk]


def test_the_backlog_says_what_is_wrong_with_each(world, dispatcher):
    declined = world.placed(11, state="sent")
    body = {"version": 1, "step": "decline", "note": "van broke down"}
    dispatcher.post(f"/visits/{declined.pk}/step", body)
    forward = world.placed(13, standby={"part": ""})
    unknown = world.visit(duration_seconds=None)
    rows = dispatcher.post("/board/backlog", {}).json()
    reasons = {row["id"]: row["reasons"] for row in rows["visits"]}
    assert reasons == {declined.pk: ["declined"], forward.pk: ["standby"], unknown.pk: ["no duration"]}
    assert rows["total"] == 2
    place(dispatcher, fresh(declined), world.ines, at(11))
    dispatcher.post(f"/visits/{declined.pk}/unplace", {"version": fresh(declined).version})
    again = dispatcher.post("/board/backlog", {}).json()["visits"]
    assert next(row for row in again if row["id"] == declined.pk)["reasons"] == ["unplaced"]


def test_only_what_nobody_was_promised_a_time_for(world, dispatcher):
    plain = world.visit()
    world.visit(promise_start=to_datetime(at(12)), promise_end=to_datetime(at(13)))
    world.placed(11, standby={"part": ""})
    found = dispatcher.post("/board/backlog", {"unpromised": True}).json()["visits"]
    assert [row["id"] for row in found] == [plain.pk]


def test_views_of_the_backlog_are_not_views_of_the_orders(world, dispatcher):
    dispatcher.post("/orders/views", {"page": "backlog", "name": "Storm", "query": {"tag": "storm"}})
    assert [row["name"] for row in dispatcher.get("/orders/views", page="backlog").json()] == ["Storm"]
    assert dispatcher.get("/orders/views").json() == []


# --- urgent work --------------------------------------------------------------------------------------


def test_who_could_be_there_first_says_what_they_are_in_the_middle_of(world, dispatcher):
    world.placed(9, 30, state="on_site", arrived_at=to_datetime(at(9, 30)), departed_at=to_datetime(at(9, 15)))
    urgent = world.visit(priority=1)
    rows = dispatcher.get(f"/visits/{urgent.pk}/responders").json()
    assert [row["name"] for row in rows] == ["Ivor Larkin", "Ines Falk"]
    assert rows[0]["doing"] == "free, nothing begun yet today"
    assert rows[1]["doing"] == "at Seagate Hall, free about 10:30"
    assert rows[1]["start"] == at(10, 30)


def test_giving_urgent_work_places_it_and_tells_the_phone_at_once(world, dispatcher):
    urgent = world.visit(priority=1)
    [row] = [r for r in dispatcher.get(f"/visits/{urgent.pk}/responders").json() if r["name"] == "Ines Falk"]
    body = {"version": 1, "technician_id": row["technician_id"], "start": row["start"]}
    given = dispatcher.post(f"/visits/{urgent.pk}/give", body).json()
    assert (given["visit"]["state"], given["visit"]["technician_id"]) == ("sent", world.ines.pk)
    assert Message.objects.filter(visit=urgent, kind="technician").count() == 1


def test_urgent_work_given_to_the_wrong_one_is_taken_back_and_both_are_told(world, dispatcher):
    urgent = world.visit(priority=1)
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(10, 30)}
    dispatcher.post(f"/visits/{urgent.pk}/give", body)
    undone = undo(dispatcher)
    assert undone.status_code == 200, undone.json()
    assert (fresh(urgent).state, fresh(urgent).technician_id) == ("open", None)
    told = list(Message.objects.filter(visit=urgent, kind="technician").order_by("id").values_list("text", flat=True))
    assert len(told) == 2
    assert told[1].endswith("is no longer yours. You need not go.")
    again = redo(dispatcher).json()["visit"]
    assert (again["state"], again["technician_id"]) == ("placed", world.ines.pk)


def test_urgent_work_that_somebody_has_accepted_stays(world, dispatcher, technician):
    urgent = world.visit(priority=1)
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(10, 30)}
    dispatcher.post(f"/visits/{urgent.pk}/give", body)
    technician.post(f"/field/visits/{urgent.pk}/step", {"version": fresh(urgent).version, "step": "accept", "note": ""})
    assert undo(dispatcher).status_code == 409
    assert fresh(urgent).state == "accepted"


def test_nobody_who_lacks_the_skill_is_sent_to_an_emergency(world, dispatcher):
    urgent = world.visit(needs={"rescue": 2})
    assert dispatcher.get(f"/visits/{urgent.pk}/responders").json() == []


def test_visits_are_found_by_what_is_typed(world, dispatcher):
    visit = world.placed(11)
    found = dispatcher.get("/visits", text=f"seagate {visit.order.number}").json()
    assert [row["id"] for row in found] == [visit.pk]
    assert seen_on(dispatcher.get("/board", day=MONDAY.isoformat()).json()["lanes"][0]) == {None, visit.pk}


# --- the lamp -----------------------------------------------------------------------------------------------


def lamp_of(api, visit):
    rows = api.get("/board", day=MONDAY.isoformat()).json()["visits"]
    return next((row["lamp"], row["likelihood"]) for row in rows if row["id"] == visit.pk)


def test_a_promise_on_somebody_absent_is_broken_however_well_the_hours_fit(world, dispatcher):
    visit = world.placed(11, promise_start=to_datetime(at(10, 30)), promise_end=to_datetime(at(12)))
    assert lamp_of(dispatcher, visit)[0] == "dark"
    Absence.objects.create(technician=world.ines, start=to_datetime(at(0)), end=to_datetime(at(23)), reason="ill")
    assert lamp_of(dispatcher, visit) == ("broken", None)


def test_a_promise_on_a_day_without_a_shift_is_broken(world, dispatcher):
    visit = world.placed(11, promise_start=to_datetime(at(10, 30)), promise_end=to_datetime(at(12)))
    world.ines.shifts.all().delete()
    assert lamp_of(dispatcher, visit) == ("broken", None)


def test_a_promise_whose_link_does_not_hold_is_broken_and_the_day_says_why(world, dispatcher):
    first = world.placed(13)
    second = world.placed(11, promise_start=to_datetime(at(10, 30)), promise_end=to_datetime(at(12)))
    VisitLink.objects.create(kind="after", first=first, second=second)
    assert lamp_of(dispatcher, second) == ("broken", None)
    board = dispatcher.get("/board", day=MONDAY.isoformat()).json()
    said = [row["sentence"] for lane in board["lanes"] for day in lane["days"] for row in day["timetable"]["broken"]]
    assert any("too early after" in sentence for sentence in said)
    # Also when the other one stands on another day, or nowhere.
    Visit.objects.filter(pk=first.pk).update(start=to_datetime(at(9, day=MONDAY + timedelta(days=1))))
    assert lamp_of(dispatcher, second)[0] == "broken"
    Visit.objects.filter(pk=first.pk).update(start=None, technician=None, state="open")
    assert lamp_of(dispatcher, second)[0] == "broken"
    Visit.objects.filter(pk=first.pk).update(state="cancelled")
    assert lamp_of(dispatcher, second)[0] == "dark"


# --- whose deed, and where -----------------------------------------------------------------------------------


def at_screen(api, screen):
    api.client.defaults["HTTP_X_SCREEN"] = screen
    return api


def test_undo_takes_back_what_was_done_at_this_screen_by_this_person(world, as_role):
    one, two = world.visit(), world.visit()
    left, right = at_screen(as_role("dispatcher"), "left"), at_screen(as_role("dispatcher"), "right")
    place(left, one, world.ines, at(11))
    place(right, two, world.ivor, at(11))
    assert [row["visit_id"] for row in left.get("/board/undo").json()["undo"]] == [one.pk]
    assert left.post("/board/undo").json()["visit"]["id"] == one.pk
    assert left.post("/board/undo").json()["code"] == "nothing_to_undo"
    two.refresh_from_db()
    assert two.technician_id == world.ivor.pk


def test_who_was_faster_is_not_said_to_the_very_person(world, dispatcher, as_role):
    visit = world.visit()
    place(dispatcher, visit, world.ines, at(11))
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(12)}
    mine = dispatcher.post(f"/visits/{visit.pk}/place", body).json()["title"]
    assert mine.startswith("You have done something with it already: ")
    theirs = as_role("other").post(f"/visits/{visit.pk}/place", body).json()["title"]
    assert theirs.startswith("The dispatcher was faster: ")


def test_a_double_booking_asks_for_a_reason_whichever_is_put_on_the_other(world, dispatcher):
    world.placed(11)
    for start in (at(11, 30), at(10, 30)):
        visit = world.visit()
        path, body = (
            f"/visits/{visit.pk}/place",
            {"version": 1, "technician_id": world.ines.pk, "start": start},
        )
        refused = dispatcher.post(path, body)
        assert refused.json()["code"] == "reason_needed", refused.json()
        assert dispatcher.post(path, {**body, "because": "two hands there"}).status_code == 200
        Visit.objects.filter(pk=visit.pk).delete()
