"""Technicians' days as planning reads them."""

from datetime import date, time, timedelta

import pytest

from apps.company.models import Area
from apps.people.models import Absence, WeeklyShiftRow
from apps.people.working_days import working_day, working_days
from foundation.errors import NotFound
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, TZ, at

SUNDAY = MONDAY - timedelta(days=1)


def ines_on(world, day=MONDAY):
    return working_day(world.ines.pk, day, TZ)


def test_shift_skills_and_overtime(world):
    day = ines_on(world)
    assert (day.name, day.depot) == ("Ines Falk", "Northlock")
    assert day.spec.skills == {"Door drives": 3}
    assert (day.shift.hours.start, day.shift.hours.end) == (at(8), at(16))
    assert day.shift.overtime_limit == 1800
    assert day.shift.rest is None


def test_a_day_off_has_no_shift(world):
    assert ines_on(world, SUNDAY).shift is None


def test_the_break_is_read_with_its_window(world):
    WeeklyShiftRow.objects.filter(technician=world.ines).update(
        rest_earliest=time(11, 30), rest_latest=time(14), rest_minutes=45
    )
    shift = ines_on(world).shift
    assert (shift.rest.start, shift.rest.end, shift.rest_seconds) == (at(11, 30), at(14), 2700)


def test_areas_are_those_worked_in_and_none_means_everywhere(world):
    world.ines.areas.add(Area.objects.get(name="Millrace"), Area.objects.get(name="Hale"))
    assert ines_on(world).spec.areas == {"Millrace", "Hale"}
    assert working_day(world.ivor.pk, MONDAY, TZ).spec.areas == frozenset()


@pytest.mark.parametrize(
    ("start", "end", "counts"),
    [
        (at(13), at(18), True),
        (at(0, day=SUNDAY), at(0, day=MONDAY + timedelta(days=2)), True),
        (at(8, day=SUNDAY), at(0), False),
        (at(0, day=MONDAY + timedelta(days=1)), at(9, day=MONDAY + timedelta(days=1)), False),
    ],
)
def test_an_absence_counts_on_the_days_it_touches(world, start, end, counts):
    Absence.objects.create(technician=world.ines, start=to_datetime(start), end=to_datetime(end))
    assert bool(ines_on(world).absences) is counts


def test_everybody_comes_in_order_with_the_same_answer_as_alone(world):
    everybody = working_days(MONDAY, TZ)
    assert [day.name for day in everybody] == ["Ines Falk", "Ivor Larkin"]
    assert everybody[0] == ines_on(world)


def test_the_number_of_queries_does_not_grow_with_the_company(world, django_assert_num_queries):
    with django_assert_num_queries(9):
        assert len(working_days(MONDAY, TZ)) == 2
    with django_assert_num_queries(9):
        ines_on(world)


def test_somebody_unknown_is_not_found(world):
    with pytest.raises(NotFound):
        working_day(999_999, MONDAY, TZ)


def test_the_clock_change_keeps_the_wall_clock_times(world):
    # Monday 29 March 2027: summer time, an hour ahead of winter's UTC.
    shift = ines_on(world, date(2027, 3, 29)).shift
    assert shift.hours.start == at(8, day=date(2027, 3, 29))
    assert shift.hours.start % 86_400 == 8 * 3600
