"""The outlook: hours by area and day, counted by worker."""

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from core.appointments.capacity import Worker, outlook
from core.basics import Interval
from core.scheduling import KEEP_PROMISES, Problem
from tests.core.worlds import HOUR, MONDAY, TableTravel, at, day, ines, shift, stop, visit


def hours_of(*days, backlog=(), now=None, skill=None, expected=None):
    problem = Problem(
        days=days, backlog=tuple(backlog), playbook=KEEP_PROMISES, travel=TableTravel(), now=now, grain=300
    )
    found = outlook(problem, areas=["Millrace", "Hale"], days=[MONDAY], skill=skill, expected=expected or {})
    return found.areas["Millrace", MONDAY], found.areas["Hale", MONDAY]


def test_work_and_driving_are_taken_from_the_shift():
    here, elsewhere = hours_of(day(stop(5, at(10))))
    assert (here.shifts, here.placed) == (8 * HOUR, HOUR + 2 * 600)
    assert elsewhere.shifts == 0  # Ines works in Millrace only


def test_what_is_promised_and_expected_is_no_longer_left():
    promised = visit(7, promise=Interval(start=at(10), end=at(12)))
    here, _ = hours_of(day(), backlog=[promised], expected={(0, "Millrace"): 1800})
    assert (here.promised, here.expected, here.left) == (HOUR, 1800, 8 * HOUR - HOUR - 1800)


def test_absences_and_breaks_are_not_for_sale():
    away = replace(day(), shift=shift(rest=True), absences=(Interval(start=at(8), end=at(10)),))
    here, _ = hours_of(away)
    assert here.shifts == 8 * HOUR - 2 * HOUR - 1800


def test_of_today_only_what_lies_ahead_counts():
    here, _ = hours_of(day(), now=at(12))
    assert here.shifts == 4 * HOUR


def test_by_skill_only_those_who_have_it_and_work_that_needs_it():
    promised = visit(7, promise=Interval(start=at(10), end=at(12)))
    here, _ = hours_of(day(technician=ines(Escalators=3)), backlog=[promised], skill="Rescue")
    assert (here.shifts, here.promised) == (0, 0)


def test_who_works_in_several_areas_is_shared_among_them_and_nothing_is_counted_twice():
    everywhere = replace(ines(), id=2, name="Tom", areas=frozenset())
    days = (day(stop(5, at(10))), replace(day(), technician=everywhere))
    problem = Problem(days=days, playbook=KEEP_PROMISES, travel=TableTravel(), grain=300)
    found = outlook(problem, areas=["Millrace", "Hale", "Varn"], days=[MONDAY], skill=None, expected={})
    assert found.areas["Millrace", MONDAY].shifts == 8 * HOUR + 8 * HOUR // 3
    assert found.areas["Hale", MONDAY].shifts == 8 * HOUR // 3
    assert found.total[MONDAY].shifts == 16 * HOUR
    for name in ("shifts", "placed"):
        assert sum(getattr(cell, name) for cell in found.areas.values()) == getattr(found.total[MONDAY], name)


@given(working=st.integers(0, 40_000), taken=st.integers(0, 40_000), count=st.integers(1, 7))
def test_shares_add_up_to_the_second(working, taken, count):
    names = tuple(f"Area {number}" for number in range(count))
    worker = Worker(technician_id=1, name="Ines", day=MONDAY, areas=names, working=working, taken=taken)
    assert [sum(part) for part in zip(*(worker.share(name) for name in names), strict=True)] == [working, taken]
    assert worker.share("elsewhere") == (0, 0)


def test_the_company_counts_what_lies_outside_of_all_areas():
    outside = visit(7, area=None, promise=Interval(start=at(10), end=at(12)))
    problem = Problem(days=(day(),), backlog=(outside,), playbook=KEEP_PROMISES, travel=TableTravel(), grain=300)
    found = outlook(problem, areas=["Millrace"], days=[MONDAY], skill=None, expected={(0, ""): 600, (1, ""): 900})
    assert (found.areas["Millrace", MONDAY].promised, found.total[MONDAY].promised) == (0, HOUR)
    assert found.total[MONDAY].expected == 600


def test_a_company_without_areas_has_its_hours_all_the_same():
    problem = Problem(days=(day(),), playbook=KEEP_PROMISES, travel=TableTravel(), grain=300)
    found = outlook(problem, areas=[], days=[MONDAY], skill=None, expected={})
    assert (found.areas, found.total[MONDAY].shifts) == ({}, 8 * HOUR)
