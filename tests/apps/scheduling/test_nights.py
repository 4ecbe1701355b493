"""Night shifts: what is done after midnight is on the board, in the plan and in drags of the day the shift began on."""

from datetime import time, timedelta
from zoneinfo import ZoneInfo

import pytest

from apps.company import queries as company_queries
from apps.company.models import Company
from apps.orders.models import Visit
from apps.people.models import Absence, WeeklyShiftRow
from apps.scheduling.playbooks import playbook_of, playbook_row
from apps.scheduling.problems import load_problem
from core.calendars import epoch
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

pytestmark = pytest.mark.django_db
TUESDAY = MONDAY + timedelta(days=1)


@pytest.fixture
def night(world):
    """Ivor works from 22:00 to 06:00; something is placed at two in the night to Tuesday."""
    WeeklyShiftRow.objects.filter(technician=world.ivor).delete()
    for weekday in range(7):
        WeeklyShiftRow.objects.create(
            technician=world.ivor, weekday=weekday, start=time(22), end=time(6), rest_minutes=0, overtime_minutes=60
        )
    visit = world.placed(11, technician=world.ivor)
    Visit.objects.filter(pk=visit.pk).update(start=to_datetime(at(2, day=TUESDAY)))
    return visit


def lane_of(api, technician, day, days=1):
    board = api.get("/board", day=day.isoformat(), days=days).json()
    lane = next(row for row in board["lanes"] if row["technician_id"] == technician.pk)
    return board, lane["days"]


def stops(day):
    return [row["visit_id"] for row in day["timetable"]["stretches"] if row["kind"] == "work"]


def test_the_board_shows_it_in_the_shift_that_does_it(world, dispatcher, night):
    board, [monday] = lane_of(dispatcher, world.ivor, MONDAY)
    assert stops(monday) == [night.pk]
    assert board["findings"] == []
    _board, [tuesday] = lane_of(dispatcher, world.ivor, TUESDAY)
    assert stops(tuesday) == []
    _board, both = lane_of(dispatcher, world.ivor, MONDAY, days=2)
    assert [stops(day) for day in both] == [[night.pk], []]


def test_a_drag_into_the_night_is_judged_on_that_shift(world, dispatcher, night):
    other = world.visit()
    asked = {"visit_id": other.pk, "technician_id": world.ivor.pk, "start": at(4, day=TUESDAY)}
    verdict = dispatcher.post("/scheduling/judge", asked).json()
    assert verdict["allowed"]
    assert [row for row in verdict["reasons"] if row["weight"] in ("refuses", "asks", "warns")] == []
    clash = dispatcher.post("/scheduling/judge", asked | {"start": at(2, 10, day=TUESDAY)}).json()
    assert any("Overlaps" in row["sentence"] for row in clash["reasons"])


def test_an_absence_of_the_day_after_is_minded_in_the_night_before(world, dispatcher, night):
    Absence.objects.create(
        technician=world.ivor, start=to_datetime(at(0, day=TUESDAY)), end=to_datetime(at(23, day=TUESDAY))
    )
    asked = {"visit_id": world.visit().pk, "technician_id": world.ivor.pk, "start": at(4, day=TUESDAY)}
    verdict = dispatcher.post("/scheduling/judge", asked).json()
    assert not verdict["allowed"]
    assert "absence" in [row["limit"] for row in verdict["reasons"]]


def test_a_run_has_it_on_the_shift_and_not_on_the_day_after(world, night):
    loaded = load_problem(first=MONDAY, days=1, playbook=playbook_of(playbook_row(None)), now=clock.now())
    found = {
        key: [stop.visit.id for stop in day.stops] for key, day in zip(loaded.keys, loaded.problem.days, strict=True)
    }
    assert found[world.ivor.pk, MONDAY] == [night.pk]


def test_what_is_sent_and_printed_for_a_day_is_what_its_shifts_do(world, dispatcher, night):
    assert dispatcher.post("/board/send-day", {"day": TUESDAY.isoformat()}).json()["sent"] == 0
    assert dispatcher.post("/board/send-day", {"day": MONDAY.isoformat()}).json()["sent"] == 1


def test_somebody_on_a_night_that_began_yesterday_is_asked_for_urgent_work(world, dispatcher, night):
    urgent = world.visit(priority=1)
    with clock.frozen(to_datetime(at(1, day=TUESDAY))):
        found = dispatcher.get(f"/visits/{urgent.pk}/responders").json()
    assert [row["name"] for row in found][:1] == ["Ivor Larkin"]


def test_the_phone_shows_the_night_until_it_is_over(world, technician, night):
    Visit.objects.filter(pk=night.pk).update(state="sent")
    account, world.ines.account = world.ines.account, None
    world.ines.save()
    world.ivor.account = account
    world.ivor.save()
    with clock.frozen(to_datetime(at(1, day=TUESDAY))):
        assert [row["id"] for row in technician.get("/field/day").json()["visits"]] == [night.pk]
    with clock.frozen(to_datetime(at(12, day=TUESDAY))):
        assert technician.get("/field/day").json()["visits"] == []


@pytest.mark.parametrize("zone", ["Asia/Tokyo", "Atlantic/Azores", "America/Los_Angeles"])
def test_far_from_utc_a_night_is_the_same_night(world, dispatcher, night, zone, monkeypatch):
    Company.objects.update(time_zone=zone)
    monkeypatch.setattr(company_queries, "_zone", None)
    start = epoch(TUESDAY, time(2), ZoneInfo(zone))
    Visit.objects.filter(pk=night.pk).update(start=to_datetime(start))
    _board, [monday] = lane_of(dispatcher, world.ivor, MONDAY)
    assert stops(monday) == [night.pk]


# --- split shifts -------------------------------------------------------------------------------------


@pytest.fixture
def split(world):
    """Ines works from 8 to 16, with nothing from 12 to 14."""
    WeeklyShiftRow.objects.filter(technician=world.ines).update(gap_start=time(12), gap_end=time(14))
    return world


def test_in_the_gap_of_a_split_shift_nobody_works(split, dispatcher):
    visit = split.visit()
    asked = {"visit_id": visit.pk, "technician_id": split.ines.pk, "start": at(11, 30)}
    verdict = dispatcher.post("/scheduling/judge", asked).json()
    [said] = [row["sentence"] for row in verdict["reasons"] if row["limit"] == "absence"]
    assert said == "Ines Falk does not work from 12:00 to 14:00, between two parts of the shift"
    assert not verdict["allowed"]
    assert dispatcher.post("/scheduling/judge", asked | {"start": at(14)}).json()["allowed"]


def test_a_split_shift_is_one_lane_with_its_gap_and_less_time(split, dispatcher):
    _board, [monday] = lane_of(dispatcher, split.ines, MONDAY)
    assert monday["shift"]["gap"] == {"start": at(12), "end": at(14)}
    assert monday["workload"]["working"] == 6 * 3600
    assert all(row["end"] <= at(12) or row["start"] >= at(14) for row in monday["workload"]["gaps"])


def test_what_is_found_for_a_visit_keeps_out_of_the_gap(split, dispatcher):
    split.placed(10, duration_seconds=2 * 3600 - 600)
    visit = split.visit(duration_seconds=3600)
    day = {"version": 1, "technician_id": split.ines.pk, "day": MONDAY.isoformat()}
    placed = dispatcher.post(f"/visits/{visit.pk}/place-first", day).json()["visit"]
    assert placed["start"] >= at(14)
