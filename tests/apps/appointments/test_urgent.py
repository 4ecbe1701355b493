"""Urgent work and what gives way to it: who goes, what that costs, and one decision for all of it."""

from datetime import time

import pytest

from apps.messages.models import Message
from apps.orders.models import Visit
from apps.people.models import WeeklyShiftRow
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

pytestmark = pytest.mark.django_db


def fresh(visit):
    return Visit.objects.get(pk=visit.pk)


def responders(api, visit):
    return api.get(f"/visits/{visit.pk}/responders").json()


def one(rows, name):
    return next(row for row in rows if row["name"] == name)


def promised(first, last):
    return {"promise_start": to_datetime(at(first)), "promise_end": to_datetime(at(last))}


def give(api, visit, technician, start, moves=(), because=""):
    body = {
        "version": fresh(visit).version, "technician_id": technician.pk, "start": start, "moves": list(moves),
        "because": because,
    }  # fmt: skip
    return api.post(f"/visits/{visit.pk}/give", body)


def decision(api, visit, technician):
    return api.get(f"/visits/{visit.pk}/give", technician_id=technician.pk).json()


def test_nobody_is_sent_earlier_than_is_needed_when_that_pushes_others(world, dispatcher):
    """It is 10:00. Ines could be there at once, and would push her next promise; there is time until 14:00."""
    world.placed(11, technician=world.ines, **promised(10, 11))
    urgent = world.visit(priority=1, duration_seconds=5400, **promised(10, 14))
    row = one(responders(dispatcher, urgent), "Ines Falk")
    assert row["gives_way"] == []
    assert at(12) <= row["start"] <= at(14)
    assert row["in_time"] is True


def test_without_time_to_wait_the_soonest_is_taken_and_what_it_pushes_is_named(world, dispatcher):
    pushed = world.placed(11, technician=world.ines, **promised(10, 11))
    urgent = world.visit(priority=1, duration_seconds=5400, **promised(10, 11))
    row = one(responders(dispatcher, urgent), "Ines Falk")
    assert row["start"] < at(11)
    assert len(row["gives_way"]) == 1
    assert row["gives_way"][0].startswith(f"{pushed.order.number} Seagate Hall")
    assert "after the promise 10:00–11:00" in row["gives_way"][0]


def test_who_is_there_a_little_later_without_breaking_a_promise_comes_first(world, dispatcher):
    world.placed(11, technician=world.ines, **promised(10, 11))
    world.placed(
        9, 30, technician=world.ivor, state="on_site", arrived_at=to_datetime(at(9, 30)), duration_seconds=4200
    )
    urgent = world.visit(priority=1, duration_seconds=5400, **promised(10, 11))
    rows = responders(dispatcher, urgent)
    assert [row["name"] for row in rows] == ["Ivor Larkin", "Ines Falk"]
    assert [row["soonest"] for row in rows] == [False, True]
    assert rows[0]["costs"] < rows[1]["costs"]


def test_who_is_in_time_comes_before_who_is_not_whatever_it_costs(world, dispatcher):
    world.placed(11, technician=world.ines, **promised(10, 11))
    world.placed(
        9, 30, technician=world.ivor, state="on_site", arrived_at=to_datetime(at(9, 30)), duration_seconds=2 * 3600
    )
    urgent = world.visit(priority=5, duration_seconds=5400, **promised(10, 11))
    assert [(row["name"], row["in_time"]) for row in responders(dispatcher, urgent)] == [
        ("Ines Falk", True), ("Ivor Larkin", False),
    ]  # fmt: skip


def test_what_gives_way_is_placed_elsewhere_in_the_same_decision_as_it_was_said(world, dispatcher):
    pushed = world.placed(11, technician=world.ines, state="sent", **promised(11, 12))
    urgent = world.visit(priority=1, duration_seconds=2 * 3600, **promised(10, 11))
    found = decision(dispatcher, urgent, world.ines)
    [way] = found["gives_way"]
    assert (way["visit_id"], way["elsewhere"]["name"]) == (pushed.pk, "Ivor Larkin")
    place = way["elsewhere"]
    move = {key: way[key] for key in ("visit_id", "version")}
    move |= {key: place[key] for key in ("technician_id", "start")}
    done = give(dispatcher, urgent, world.ines, found["start"], [move])
    assert done.status_code == 200, done.json()
    assert not [row for row in done.json()["verdict"]["reasons"] if row["weight"] in ("warns", "asks")]
    moved = fresh(pushed)
    assert (moved.technician_id, int(moved.start.timestamp()), moved.state) == (
        world.ivor.pk, place["start"], "sent",
    )  # fmt: skip
    assert fresh(urgent).state == "sent"
    assert dispatcher.get("/board", day="2026-11-23").json()["findings"] == []  # it breaks nothing, as it said
    # Both of the phones that gain work are told.
    told = set(Message.objects.filter(kind="technician").values_list("visit_id", flat=True))
    assert told == {pushed.pk, urgent.pk}
    undone = dispatcher.post("/board/undo").json()
    assert undone["sentence"] == "2 changes made in one step"
    assert (fresh(urgent).technician_id, fresh(pushed).technician_id) == (None, world.ines.pk)
    assert int(fresh(pushed).start.timestamp()) == at(11)


def test_two_that_give_way_are_not_given_the_same_gap(world, dispatcher):
    for hour in (11, 12):
        world.placed(hour, technician=world.ines, duration_seconds=3600, **promised(11, 13))
    urgent = world.visit(priority=1, duration_seconds=3 * 3600, **promised(10, 11))
    found = decision(dispatcher, urgent, world.ines)
    starts = sorted(row["elsewhere"]["start"] for row in found["gives_way"] if row["elsewhere"])
    assert len(found["gives_way"]) == 2
    assert len(starts) == 2
    assert starts[1] - starts[0] >= 3600
    moves = [
        {
            "visit_id": row["visit_id"], "version": row["version"],
            "technician_id": row["elsewhere"]["technician_id"], "start": row["elsewhere"]["start"],
        }
        for row in found["gives_way"]
    ]  # fmt: skip
    done = give(dispatcher, urgent, world.ines, found["start"], moves)
    assert done.status_code == 200, done.json()


def test_who_only_comes_later_stays_and_its_plan_says_so(world, dispatcher):
    """Two in a row are pushed; each is moved to where it will begin, and nothing asks why."""
    first = world.placed(11, technician=world.ines, duration_seconds=3600)
    second = world.placed(12, technician=world.ines, duration_seconds=3600, state="accepted")
    urgent = world.visit(priority=1, duration_seconds=5400)
    found = decision(dispatcher, urgent, world.ines)
    assert [(row["visit_id"], row["breaks"]) for row in found["gives_way"]] == [(first.pk, []), (second.pk, [])]
    moves = [
        {
            "visit_id": row["visit_id"], "version": row["version"], "technician_id": world.ines.pk,
            "start": row["starts"],
        }
        for row in found["gives_way"]
    ]  # fmt: skip
    done = give(dispatcher, urgent, world.ines, found["start"], moves)
    assert done.status_code == 200, done.json()
    for row in found["gives_way"]:
        moved = Visit.objects.get(pk=row["visit_id"])
        assert int(moved.start.timestamp()) == row["starts"]
    board = dispatcher.get("/board", day="2026-11-23").json()
    assert board["findings"] == []
    assert fresh(second).state == "sent"


def test_a_crew_that_comes_later_is_led_by_whoever_led_it(world, dispatcher):
    """Ines goes along with Ivor; pushed by her urgent visit, it stays Ivor's."""
    crew = world.placed(11, technician=world.ivor, crew=2, mates=[world.ines.pk])
    urgent = world.visit(priority=1, duration_seconds=5400)
    found = decision(dispatcher, urgent, world.ines)
    [way] = found["gives_way"]
    assert way["technician_id"] == world.ivor.pk
    move = {key: way[key] for key in ("visit_id", "version", "technician_id")} | {"start": way["starts"]}
    assert give(dispatcher, urgent, world.ines, found["start"], [move], "Trapped").status_code == 200
    moved = fresh(crew)
    assert (moved.technician_id, moved.mates, int(moved.start.timestamp())) == (
        world.ivor.pk, [world.ines.pk], way["starts"],
    )  # fmt: skip


def test_what_breaks_a_promise_of_another_asks_why(world, dispatcher):
    pushed = world.placed(11, technician=world.ines, **promised(10, 11))
    urgent = world.visit(priority=1, duration_seconds=5400, **promised(10, 11))
    found = decision(dispatcher, urgent, world.ines)
    [way] = found["gives_way"]
    assert way["breaks"]
    move = {
        "visit_id": pushed.pk, "version": pushed.version, "technician_id": world.ines.pk, "start": way["starts"]
    }  # fmt: skip
    refused = give(dispatcher, urgent, world.ines, found["start"], [move])
    assert (refused.status_code, refused.json()["code"]) == (422, "reason_needed")
    assert give(dispatcher, urgent, world.ines, found["start"], [move], "They are trapped").status_code == 200


def test_a_start_that_is_said_is_when_work_begins(world, dispatcher):
    """Nobody is put behind a visit that begins at the same rounded moment, and told the earlier time."""
    world.placed(
        9, 30, technician=world.ines, state="on_site", arrived_at=to_datetime(at(9, 30)), duration_seconds=51 * 60
    )
    world.placed(10, 25, technician=world.ines)
    urgent = world.visit(priority=1, duration_seconds=1800)
    row = one(responders(dispatcher, urgent), "Ines Falk")
    assert row["start"] == at(10, 21)
    assert row["gives_way"]
    assert give(dispatcher, urgent, world.ines, row["start"], because="Trapped").status_code == 200
    board = dispatcher.get("/board", day="2026-11-23").json()
    shown = next(visit for visit in board["visits"] if visit["id"] == urgent.pk)
    assert shown["expected_start"] == row["start"]


def test_what_gives_way_may_go_to_the_backlog(world, dispatcher):
    pushed = world.placed(11, technician=world.ines)
    urgent = world.visit(priority=1)
    move = {"visit_id": pushed.pk, "version": pushed.version}
    assert give(dispatcher, urgent, world.ines, at(10, 30), [move]).status_code == 200
    assert (fresh(pushed).state, fresh(urgent).state) == ("open", "sent")


def test_all_or_nothing_when_one_of_them_has_changed(world, dispatcher):
    pushed = world.placed(11, technician=world.ines)
    urgent = world.visit(priority=1)
    move = {"visit_id": pushed.pk, "version": pushed.version + 3}
    assert give(dispatcher, urgent, world.ines, at(10, 30), [move]).status_code == 409
    assert (fresh(pushed).state, fresh(urgent).state) == ("placed", "open")
    assert not Message.objects.exists()


def test_a_visit_gives_way_once_and_never_to_itself(world, dispatcher):
    urgent = world.visit(priority=1)
    move = {"visit_id": urgent.pk, "version": 1}
    assert give(dispatcher, urgent, world.ines, at(10, 30), [move]).status_code == 422


def test_only_who_is_at_work_now_is_asked_about(world, dispatcher):
    urgent = world.visit(priority=1)
    answer = dispatcher.get(f"/visits/{urgent.pk}/give", technician_id=999_999)
    assert answer.status_code == 404


def test_in_the_evening_who_is_on_call_is_offered_and_can_be_sent(world, dispatcher):
    """Nobody else is at work; what is offered is then done."""
    WeeklyShiftRow.objects.filter(technician=world.ines).update(on_call_until=time(8))
    urgent = world.visit(priority=1)
    with clock.frozen(to_datetime(at(20))):
        [row] = responders(dispatcher, urgent)
        assert (row["name"], row["start"] >= at(20)) == ("Ines Falk", True)
        given = dispatcher.post(
            f"/visits/{urgent.pk}/place",
            {"version": urgent.version, "technician_id": world.ines.pk, "start": row["start"]},
        )
        assert given.status_code == 200
        assert not [said for said in given.json()["verdict"]["reasons"] if said["weight"] in ("asks", "refuses")]


def test_on_a_day_on_call_only_ordinary_work_is_told_why_beforehand(world, dispatcher):
    WeeklyShiftRow.objects.filter(technician=world.ines).update(start=time(8), end=time(8), on_call_until=time(20))
    reasons = {}
    for priority in (1, 3):
        visit = world.visit(priority=priority)
        rows = dispatcher.get(f"/visits/{visit.pk}/fits", day=MONDAY.isoformat()).json()
        reasons[priority] = next(row["reasons"] for row in rows if row["technician_id"] == world.ines.pk)
    assert reasons == {1: [], 3: ["Ines Falk is on call that day, for work of priority 1 only"]}
