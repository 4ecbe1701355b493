"""Where days begin and end, from a day on: depot, home, a depot that moves, two depots made one."""

from datetime import date, timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from apps.company.models import Depot
from apps.people.commands import change_technician, set_terms
from apps.people.inputs import TechnicianFields, TermsFields
from apps.people.models import FormerEnds, Technician
from apps.people.working_days import working_day
from core.basics import Place
from foundation import clock
from tests.apps.conftest import MONDAY, TZ

HOMES = (Place(-24.61, 47.21), Place(-24.62, 47.22))


@pytest.fixture
def admin(as_role):
    return as_role("administrator")


@pytest.fixture
def south(world):
    return Depot.objects.create(name="Southgate", address="Depot", lon=-24.5, lat=47.1)


def ends_on(world, day: date):
    found = working_day(world.ines.pk, day, TZ)
    return found.start_place, found.end_place, found.depot


def fields_of(world, depot):
    return TechnicianFields(name="Ines Falk", depot_id=depot.pk, skills={"doors": 3})


moves = st.tuples(st.integers(0, 12), st.sampled_from(["depot", "home", "back"]), st.integers(0, 1))


@settings(max_examples=15, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(changes=st.lists(moves, min_size=1, max_size=5))
def test_another_depot_or_home_from_a_day_on_never_touches_a_day_before(world, south, changes):
    """Whatever is changed in whatever order, each day begins and ends as was said last of what begins by it."""
    FormerEnds.objects.all().delete()
    Technician.objects.filter(pk=world.ines.pk).update(
        depot=world.ines.depot, starts_at_home=False, ends_at_home=False, home_lon=None, home_lat=None
    )
    depots, actor = (world.ines.depot, south), world.accounts["administrator"]
    span = [MONDAY + timedelta(days=offset) for offset in range(-3, 20)]
    expected = {day: ends_on(world, day) for day in span}
    for number, kind, which in changes:
        since = MONDAY + timedelta(days=number)
        version = Technician.objects.values_list("version", flat=True).get(pk=world.ines.pk)
        how = {"actor": actor, "now": clock.now(), "technician_id": world.ines.pk, "version": version}
        row = Technician.objects.select_related("depot").get(pk=world.ines.pk)
        before = (row.depot_id, row.starts_at_home, row.ends_at_home, row.home_lon)
        if kind == "depot":
            change_technician(**how, fields=fields_of(world, depots[which]), valid_from=since)
        else:
            home = HOMES[which] if kind == "home" else None
            terms = TermsFields(home=home, starts_at_home=home is not None, home_address="Home" if home else "")
            set_terms(**how, fields=terms, valid_from=since)
        row = Technician.objects.select_related("depot").get(pk=world.ines.pk)
        if before == (row.depot_id, row.starts_at_home, row.ends_at_home, row.home_lon):
            continue
        depot = Place(row.depot.lon, row.depot.lat)
        start = Place(row.home_lon, row.home_lat) if row.starts_at_home else depot
        expected |= {day: (start, depot, row.depot.name) for day in span if day >= since}
        assert {day: ends_on(world, day) for day in span} == expected


def test_a_day_that_is_over_is_not_begun_elsewhere(world, admin, south):
    body = {"name": "Ines Falk", "depot_id": south.pk, "skills": {}, "version": 1, "valid_from": "2026-11-22"}
    answer = admin.put(f"/technicians/{world.ines.pk}", body)
    assert (answer.status_code, answer.json()["field"]) == (422, "valid_from")


def test_a_depot_that_moves_leaves_the_days_before(world, admin):
    depot = world.ines.depot
    before, yesterday = ends_on(world, MONDAY), MONDAY - timedelta(days=1)
    body = {"name": "Northlock", "address": "Elsewhere", "lon": -24.5, "lat": 47.1, "version": depot.version}
    assert admin.put(f"/depots/{depot.pk}", body).status_code == 200
    assert ends_on(world, yesterday) == before
    assert ends_on(world, MONDAY)[:2] == (Place(-24.5, 47.1), Place(-24.5, 47.1))
    renamed = {**body, "name": "North", "version": depot.version + 1}
    assert admin.put(f"/depots/{depot.pk}", renamed).status_code == 200
    assert FormerEnds.objects.count() == 2, "one for each technician: another name moves nobody"


def test_two_depots_made_one_leave_the_days_before(world, admin, south):
    depot, before = world.ines.depot, ends_on(world, MONDAY)
    merged = admin.post(f"/people/depots/{depot.pk}/merge", {"version": depot.version, "into": south.pk})
    assert merged.status_code == 204
    assert ends_on(world, MONDAY - timedelta(days=1)) == before
    assert ends_on(world, MONDAY) == (Place(-24.5, 47.1), Place(-24.5, 47.1), "Southgate")
