"""The outlook: hours by area and day, counted by hand."""

from dataclasses import replace

from core.basics import Interval
from core.planning import KEEP_PROMISES, Problem
from core.planning.capacity import outlook
from tests.core.worlds import HOUR, MONDAY, TableTravel, at, day, ines, shift, stop, visit


def hours_of(*days, backlog=(), now=None, skill=None, expected=None):
    problem = Problem(
        days=days, backlog=tuple(backlog), playbook=KEEP_PROMISES, travel=TableTravel(), now=now, grain=300
    )
    found = outlook(problem, areas=["Millrace", "Hale"], days=[MONDAY], skill=skill, expected=expected or {})
    return found["Millrace", MONDAY], found["Hale", MONDAY]


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
