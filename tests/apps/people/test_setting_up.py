"""Setting up depots and technicians, and other working hours from a day on."""

from datetime import date, time, timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from apps.company.models import Area, Depot
from apps.people.commands import set_week
from apps.people.inputs import ShiftFields
from apps.people.models import Technician, WeeklyShiftRow
from apps.people.working_days import working_day
from core.basics import Place
from foundation import clock
from foundation.models import AuditEntry
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, TZ, at

WEEKDAY = {"start": "07:00", "end": "15:30", "rest_earliest": "11:00", "rest_latest": "13:00", "rest_minutes": 30}
TUESDAY = MONDAY + timedelta(days=1)


@pytest.fixture
def admin(world, as_role):
    return as_role("administrator")


def someone(world, **more):
    return {"name": "Noor Abell", "depot_id": world.ines.depot_id, "skills": {"doors": 2}, **more}


def test_a_company_gets_a_depot_and_a_technician_who_is_on_the_board(world, admin, dispatcher):
    depot = admin.post("/depots", {"name": "Yard", "address": "Millrace Road 1", "lon": -24.6, "lat": 47.2}).json()
    area = Area.objects.get(name="Hale")
    made = admin.post("/technicians", someone(world, depot_id=depot["id"], area_ids=[area.pk], phone="+351 1"))
    assert made.status_code == 201
    row = made.json()
    week = {
        "version": row["version"], "valid_from": MONDAY.isoformat(),
        "shifts": [WEEKDAY | {"weekday": day} for day in range(5)],
    }  # fmt: skip
    row = admin.put(f"/technicians/{row['id']}/week", week).json()
    assert [(w["valid_from"], w["valid_until"], len(w["shifts"])) for w in row["weeks"]] == [
        (MONDAY.isoformat(), None, 5)
    ]  # fmt: skip
    head = next(head for head in dispatcher.get("/board/lanes").json() if head["name"] == "Noor Abell")
    assert (head["technician_id"], head["depot"]) == (row["id"], "Yard")
    lane = next(lane for lane in dispatcher.get("/board").json()["lanes"] if lane["technician_id"] == row["id"])
    shift = lane["days"][0]["shift"]
    assert (shift["start"], shift["end"]) == (at(7), at(15, 30))
    visit = world.visit()
    placed = dispatcher.post(
        f"/visits/{visit.pk}/place", {"version": visit.version, "technician_id": row["id"], "start": at(13)}
    )
    assert (placed.status_code, placed.json()["visit"]["technician_id"]) == (200, row["id"])


def test_who_has_no_hours_ahead_is_told_from_who_has(world, admin):
    off = {"version": 1, "valid_from": TUESDAY.isoformat(), "shifts": []}
    assert admin.put(f"/technicians/{world.ines.pk}/week", off).json()["weeks"][0]["valid_until"] == TUESDAY.isoformat()
    admin.post("/technicians", someone(world))
    hours = {row["name"]: row["has_hours"] for row in admin.get("/technicians").json()}
    assert hours == {"Ines Falk": True, "Ivor Larkin": True, "Noor Abell": False}  # Ines works today
    WeeklyShiftRow.objects.filter(technician=world.ines).update(valid_until=MONDAY)
    assert {row["name"] for row in admin.get("/technicians").json() if row["has_hours"]} == {"Ivor Larkin"}


def test_a_change_carries_the_version_that_was_seen(world, admin):
    row = admin.get(f"/technicians/{world.ines.pk}").json()
    body = {**row, "name": "Ines F.", "skills": {"doors": 5, "rescue": 1}}
    changed = admin.put(f"/technicians/{world.ines.pk}", body).json()
    assert (changed["name"], changed["skills"], changed["version"]) == ("Ines F.", body["skills"], row["version"] + 1)
    stale = admin.put(f"/technicians/{world.ines.pk}", body | {"name": "Other"})
    assert (stale.status_code, "changed this technician meanwhile" in stale.json()["title"]) == (409, True)
    depot = Depot.objects.get(pk=world.ines.depot_id)
    moved = {"name": "North yard", "address": "x", "lon": -24.61, "lat": 47.21, "version": depot.version}
    assert admin.put(f"/depots/{depot.pk}", moved).json()["name"] == "North yard"
    assert admin.put(f"/depots/{depot.pk}", moved).status_code == 409
    assert working_day(world.ines.pk, MONDAY, TZ).start_place == Place(-24.61, 47.21)


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"name": "  "}, "name"),
        ({"name": "ines falk"}, "name"),
        ({"depot_id": 10**9}, "depot_id"),
        ({"email": "nowhere"}, "email"),
        ({"area_ids": [10**9]}, "area_ids"),
        ({"skills": {"juggling": 1}}, "skills"),
        ({"skills": {"doors": 6}}, "skills"),
    ],
)
def test_what_cannot_be_is_said_at_its_field_and_nothing_is_made(world, admin, wrong, field):
    answer = admin.post("/technicians", someone(world, **wrong))
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert not Technician.objects.exclude(pk__in=[world.ines.pk, world.ivor.pk]).exists()


def test_only_who_changes_settings_sets_people_up(world, dispatcher):
    assert dispatcher.post("/technicians", someone(world)).status_code == 403
    week = {"version": 1, "valid_from": MONDAY.isoformat(), "shifts": []}
    assert dispatcher.put(f"/technicians/{world.ines.pk}/week", week).status_code == 403
    assert dispatcher.post("/depots", {"name": "Y", "address": "x", "lon": 1, "lat": 1}).status_code == 403


def test_hours_of_a_day_that_is_over_cannot_be_changed(world, admin):
    yesterday = (MONDAY - timedelta(days=1)).isoformat()
    week = {"version": 1, "valid_from": yesterday, "shifts": []}
    answer = admin.put(f"/technicians/{world.ines.pk}/week", week)
    assert (answer.status_code, answer.json()["field"]) == (422, "valid_from")
    twice = {"version": 1, "valid_from": MONDAY.isoformat(), "shifts": [WEEKDAY | {"weekday": 0}] * 2}
    answer = admin.put(f"/technicians/{world.ines.pk}/week", twice)
    assert (answer.status_code, answer.json()["field"]) == (422, "shifts")


def test_other_hours_next_week_leave_this_week_as_it_is(world, admin):
    next_week = MONDAY + timedelta(days=7)
    late = {"weekday": 0, "start": "14:00", "end": "22:00"}
    week = {"version": 1, "valid_from": next_week.isoformat(), "shifts": [late]}
    row = admin.put(f"/technicians/{world.ines.pk}/week", week).json()
    assert [(w["valid_from"], w["valid_until"]) for w in row["weeks"]] == [
        ("2000-01-01", next_week.isoformat()), (next_week.isoformat(), None)
    ]  # fmt: skip
    assert working_day(world.ines.pk, TUESDAY, TZ).shift.hours.start == at(8, day=TUESDAY)
    assert working_day(world.ines.pk, next_week, TZ).shift.hours.start == at(14, day=next_week)
    assert working_day(world.ines.pk, next_week + timedelta(days=1), TZ).shift is None
    assert AuditEntry.objects.get(action="technician").sentence == (
        f"set the working hours of Ines Falk from {next_week.isoformat()} on"
    )


week_plans = st.dictionaries(st.integers(0, 6), st.integers(5, 12), max_size=7)
rotations = st.lists(week_plans, min_size=1, max_size=3)


@settings(max_examples=12, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(changes=st.lists(st.tuples(st.integers(0, 20), rotations), min_size=1, max_size=5))
def test_hours_from_a_day_on_never_touch_a_day_before(world, changes):
    """Whatever is set in whatever order, each day has the hours that were set last of those that begin by it."""
    WeeklyShiftRow.objects.filter(technician=world.ines).delete()
    admin, expected = world.accounts["administrator"], {}
    for number, weeks in changes:
        first = MONDAY + timedelta(days=number)
        version = Technician.objects.values_list("version", flat=True).get(pk=world.ines.pk)
        shifts = [
            ShiftFields(weekday=day, start=time(hour), end=time(hour + 8), week=week)
            for week, plan in enumerate(weeks)
            for day, hour in plan.items()
        ]
        set_week(
            actor=admin, now=clock.now(), technician_id=world.ines.pk, version=version, shifts=shifts,
            valid_from=first, weeks=len(weeks),
        )  # fmt: skip
        expected = {since: hours for since, hours in expected.items() if since < first} | {first: weeks}
        for offset in range(-2, 45):
            day = MONDAY + timedelta(days=offset)
            assert hour_of(world, day) == wanted(expected, day), (day, expected)


def hour_of(world, day: date):
    shift = working_day(world.ines.pk, day, TZ).shift
    return None if shift is None else (shift.hours.start - at(0, day=day)) // 3600


def wanted(expected, day: date):
    """Weeks are counted one by one from the first one's Monday."""
    since = max((first for first in expected if first <= day), default=None)
    if since is None:
        return None
    turn, monday = 0, since - timedelta(days=since.weekday())
    while monday + timedelta(days=7) <= day:
        turn, monday = (turn + 1) % len(expected[since]), monday + timedelta(days=7)
    return expected[since][turn].get(day.weekday())


def test_early_and_late_weeks_are_shown_with_the_one_that_runs(world, admin):
    early, late = (
        {"weekday": 0, "start": start, "end": end} for start, end in (("06:00", "14:00"), ("14:00", "22:00"))
    )
    body = {
        "version": 1, "valid_from": MONDAY.isoformat(), "weeks": 2,
        "shifts": [early | {"week": 0}, late | {"week": 1}],
    }  # fmt: skip
    row = admin.put(f"/technicians/{world.ines.pk}/week", body).json()
    assert [(w["weeks"], w["current"], len(w["shifts"])) for w in row["weeks"]] == [(2, 0, 2)]
    with clock.frozen(to_datetime(at(10, day=MONDAY + timedelta(days=9)))):
        [weeks] = admin.get(f"/technicians/{world.ines.pk}").json()["weeks"]
        assert weeks["current"] == 1
    outside = body | {"version": row["version"], "weeks": 1}
    assert admin.put(f"/technicians/{world.ines.pk}/week", outside).json()["field"] == "shifts"


def test_a_retired_depot_keeps_who_begins_there(world, admin):
    depot = Depot.objects.get(pk=world.ines.depot_id)
    assert admin.get(f"/people/depots/{depot.pk}/uses").json() == [{"what": "technicians", "count": 2}]
    retired = admin.post(f"/depots/{depot.pk}/retired", {"version": depot.version, "retired": True})
    assert retired.json()["retired"] is True
    assert working_day(world.ines.pk, MONDAY, TZ).depot == "Northlock"
    assert admin.post(f"/depots/{depot.pk}/retired", {"version": depot.version, "retired": False}).status_code == 409


def test_two_depots_become_one_with_everybody_who_was_there(world, admin, dispatcher):
    old = Depot.objects.get(pk=world.ines.depot_id)
    new = admin.post("/depots", {"name": "Yard", "address": "Millrace Road 1", "lon": -24.6, "lat": 47.2}).json()
    body = {"version": old.version, "into": new["id"]}
    assert dispatcher.post(f"/people/depots/{old.pk}/merge", body).status_code == 403
    assert admin.post(f"/people/depots/{old.pk}/merge", body | {"into": old.pk}).json()["field"] == "into"
    assert admin.post(f"/people/depots/{old.pk}/merge", body).status_code == 204
    assert not Depot.objects.filter(pk=old.pk).exists()
    assert working_day(world.ivor.pk, MONDAY, TZ).start_place == Place(-24.6, 47.2)
    said = AuditEntry.objects.filter(entity="depot").latest("pk").sentence
    assert said == "merged the depot Northlock into Yard (2 technicians, 0 vehicles)"
