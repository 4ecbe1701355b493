"""Really at the same time: two hands on one visit, two visits on one technician's hour."""

import threading
from datetime import time, timedelta

import pytest
from django.db import connection, connections

from apps.orders.models import Visit
from apps.people.models import Absence
from apps.scheduling import asking, locks
from core.calendars import epoch, zone
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at


@pytest.fixture
def at_once():
    """Run several calls together, each in a thread and connection of its own; their answers."""

    def run(*calls):
        barrier = threading.Barrier(len(calls))
        answers = [None] * len(calls)

        def work(index, call):
            barrier.wait()
            try:
                answers[index] = call()
            finally:
                connections.close_all()

        threads = [threading.Thread(target=work, args=row) for row in enumerate(calls)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return answers

    return run


pytestmark = pytest.mark.django_db(transaction=True)


def placing(api, visit, technician, start):
    body = {"version": 1, "technician_id": technician.pk, "start": start}
    return lambda: api.post(f"/visits/{visit.pk}/place", body)


def test_of_two_who_place_the_same_visit_one_wins_and_the_other_is_told(transactional_db, world, as_role, at_once):
    visit = world.visit()
    first, second = as_role("dispatcher"), as_role("other")
    answers = at_once(placing(first, visit, world.ines, at(11)), placing(second, visit, world.ivor, at(13)))
    assert sorted(answer.status_code for answer in answers) == [200, 409]
    loser = next(answer for answer in answers if answer.status_code == 409)
    assert "was faster" in loser.json()["title"]
    visit.refresh_from_db()
    assert visit.version == 2


def test_the_second_visit_on_the_same_hour_is_judged_with_the_first(transactional_db, world, as_role, at_once):
    one, two = world.visit(), world.visit()
    first, second = as_role("dispatcher"), as_role("other")
    answers = at_once(placing(first, one, world.ines, at(11)), placing(second, two, world.ines, at(11)))
    assert sorted(answer.status_code for answer in answers) == [200, 422]
    refused = next(answer for answer in answers if answer.status_code == 422).json()
    assert refused["code"] == "reason_needed"
    assert any("verlaps" in reason for reason in refused["reasons"])


def test_a_request_is_ordered_once_however_fast_two_people_are(transactional_db, world, as_role, at_once):
    intake = as_role("intake")
    body = {"site_id": world.site.pk, "what_is_wrong": "Scrapes"}
    request = intake.post("/requests", body).json()
    order = {"request_id": request["id"], "version": 1}
    answers = at_once(
        lambda: intake.post("/orders", order),
        lambda: as_role_again(as_role).post("/orders", order),
    )
    assert sorted(answer.status_code for answer in answers) == [201, 409]
    assert Visit.objects.count() == 1


def as_role_again(as_role):
    return as_role("dispatcher")


# --- one order of locks, and none across a call to the planner -----------------------------------------


def test_opposed_moves_of_many_wait_for_each_other_and_both_end(transactional_db, world, as_role, at_once):
    """One gives Ines's day to Ivor while another gives Ivor's to Ines: neither is torn down by the database."""
    hers = [world.placed(hour, technician=world.ines) for hour in (10, 13)]
    his = [world.placed(hour, technician=world.ivor) for hour in (11, 14)]
    everything = [*hers, *his]

    def give(role, to, visits):
        rows = [{"id": visit.pk, "version": 1} for visit in visits]
        body = {"kind": "give", "technician_id": to.pk, "visits": rows}
        return lambda: as_role(role).post("/board/bulk", body)

    one = give("dispatcher", world.ivor, everything)
    other = give("other", world.ines, everything[::-1])
    answers = at_once(one, other)
    assert all(answer.status_code in (200, 422) for answer in answers), [answer.json() for answer in answers]
    assert any(answer.status_code == 200 for answer in answers)


def test_no_transaction_is_open_while_the_planner_thinks(transactional_db, world, as_role, monkeypatch, planner_here):
    real, seen = asking.ask, []

    def slow(path, **body):
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count(*) FROM pg_locks JOIN pg_database ON pg_database.oid = pg_locks.database"
                " WHERE locktype = 'advisory' AND datname = current_database()"
            )
            seen.append((connection.in_atomic_block, cursor.fetchone()[0]))
        return real(path, **body)

    monkeypatch.setattr(asking, "ask", slow)
    assert book(as_role("intake"), world).status_code == 201
    assert seen == [(False, 0)]


def test_what_comes_to_the_day_meanwhile_is_seen_before_the_promise(
    transactional_db, world, as_role, monkeypatch, planner_here
):
    """The planner said yes; before it is written somebody else takes the time: it is asked again, and says no."""
    Absence.objects.create(technician=world.ivor, start=to_datetime(at(0)), end=to_datetime(at(0, day=FAR)))
    blocker, dispatcher, asked = world.visit(duration_seconds=7 * 3600), as_role("dispatcher"), []
    real = asking.ask

    def then_taken(path, **body):
        answer = real(path, **body)
        asked.append(path)
        if len(asked) == 1:
            place = {"version": 1, "technician_id": world.ines.pk, "start": at(8, 30, day=TUESDAY)}
            assert dispatcher.post(f"/visits/{blocker.pk}/place", place).status_code == 200
        return answer

    monkeypatch.setattr(asking, "ask", then_taken)
    answer = book(as_role("intake"), world, duration_seconds=3 * 3600)
    assert (answer.status_code, answer.json()["code"]) == (409, "window_gone")
    assert len(asked) == 2
    assert Visit.objects.count() == 1  # the one that took the time


def test_what_is_written_elsewhere_meanwhile_does_not_ask_the_planner_again(
    transactional_db, world, as_role, monkeypatch, planner_here
):
    other, dispatcher, asked = world.placed(13), as_role("dispatcher"), []
    real = asking.ask

    def then_noted(path, **body):
        answer = real(path, **body)
        asked.append(path)
        assert dispatcher.post(f"/visits/{other.pk}/unplace", {"version": 1}).status_code == 200
        return answer

    monkeypatch.setattr(asking, "ask", then_noted)
    assert book(as_role("intake"), world).status_code == 201
    assert len(asked) == 1


def test_a_place_that_was_taken_since_is_not_taken_back(transactional_db, world, as_role):
    """Moved away, somebody else put work there, then undone: nobody ends up with two at once."""
    visit, other = world.placed(13), world.visit()
    first, second = as_role("dispatcher"), as_role("other")
    moved = first.post(f"/visits/{visit.pk}/place", placed_at(world.ivor, 13))
    assert moved.status_code == 200
    with clock.frozen(to_datetime(at(10, 1))):
        assert second.post(f"/visits/{other.pk}/place", placed_at(world.ines, 13)).status_code == 200
    answer = first.post("/board/undo")
    assert answer.status_code == 409
    assert "Other Dispatcher has placed" in answer.json()["title"]
    visit.refresh_from_db()
    assert visit.technician_id == world.ivor.pk


@pytest.mark.parametrize("zone_name", ["Asia/Tokyo", "Atlantic/Azores", "America/Los_Angeles"])
def test_a_working_day_is_locked_by_the_company_s_clock(zone_name, monkeypatch):
    """Morning and afternoon of one day share a lock in every zone; the morning after a night shares that night's."""
    tz = zone(zone_name)
    monkeypatch.setattr(locks, "time_zone", lambda: tz)
    days = {hour: set(locks._days_of(epoch(MONDAY, time(hour), tz))) for hour in (0, 3, 8, 13, 17, 23)}
    assert all(MONDAY in found for found in days.values())
    assert MONDAY - timedelta(days=1) in days[3]
    assert days[13] == days[23] == {MONDAY}
    # Who gives a whole day locks it from midnight: whatever start is found then is locked already.
    assert days[0] == set().union(*days.values())


TUESDAY, FAR = MONDAY + timedelta(days=1), MONDAY + timedelta(days=14)


def placed_at(technician, hour):
    return {"version": 1, "technician_id": technician.pk, "start": at(hour)}


def book(api, world, **more):
    body = {
        "site_id": world.site.pk, "what_is_wrong": "Door squeaks", "job_type_id": world.door_job.pk,
        "window": {"start": at(8, day=TUESDAY), "end": at(10, day=TUESDAY)}, **more,
    }  # fmt: skip
    return api.post("/appointments/book", body)
