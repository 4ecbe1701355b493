"""What a day is used for, and what is free of it."""

from dataclasses import replace

import pytest
from hypothesis import given, settings

from core.basics import Interval
from core.scheduling import Kind, evaluate_day, workload
from tests.core.scheduling.test_laws import days, tables
from tests.core.worlds import HOUR, MINUTE, TableTravel, at, day, shift, stop

TRAVEL = TableTravel()  # ten minutes between any two places


def used(planned, *, now=None):
    return workload(planned, evaluate_day(planned, TRAVEL, now=now), now=now)


def free(planned, *, now=None):
    return [(row.start, row.end) for row in used(planned, now=now).gaps]


def test_an_empty_day_is_free_but_for_its_break():
    found = used(day(shift_=shift(rest=True)))
    assert (found.working, found.work, found.drive, found.visits, found.share) == (
        8 * HOUR - 30 * MINUTE, 0, 0, 0, 0,
    )  # fmt: skip
    assert found.left == found.working


def test_driving_is_used_time_there_between_and_home():
    found = used(day(stop(1, at(9)), stop(2, at(11), minutes=30)))
    assert (found.work, found.drive, found.visits) == (90 * MINUTE, 30 * MINUTE, 2)
    assert found.share == pytest.approx(2 / 8)
    assert found.left == 6 * HOUR


def test_an_absence_is_neither_worked_nor_free():
    away = (Interval(start=at(12), end=at(18)),)
    found = used(day(stop(1, at(9)), absences=away))
    assert found.working == 4 * HOUR
    assert found.free[-1].end == at(12)


def test_a_break_is_neither_worked_nor_free():
    rested = day(stop(1, at(9)), stop(2, at(14)), shift_=shift(rest=True))
    found = used(rested)
    assert found.work + found.drive == 2 * HOUR + 30 * MINUTE
    assert found.left == 8 * HOUR - 30 * MINUTE - found.work - found.drive
    assert sum(row.seconds for row in found.free) == found.left


def test_what_runs_past_the_shift_is_overtime_and_takes_nothing_of_the_shift():
    found = used(day(stop(1, at(15, 30))))
    assert found.overtime == 40 * MINUTE
    assert found.taken == 40 * MINUTE  # ten minutes of driving and half an hour of work


def test_work_without_a_shift_is_more_than_full():
    found = used(replace(day(stop(1, at(9))), shift=None))
    assert (found.working, found.share, found.free) == (0, 1.0, ())


def test_gaps_begin_when_the_work_before_is_over_and_end_when_the_drive_begins():
    assert free(day(stop(1, at(9)), stop(2, at(12)))) == [
        (at(8), at(8, 50)), (at(10, 10), at(12)), (at(13, 10), at(16)),
    ]  # fmt: skip


def test_less_than_half_an_hour_is_no_gap():
    assert free(day(stop(1, at(8, 20)), stop(2, at(9, 45)), stop(3, at(10, 45)))) == [(at(12, 5), at(16))]


def test_what_has_passed_is_free_no_more():
    assert free(day(), now=at(11)) == [(at(11), at(16))]
    assert free(day(), now=at(15, 45)) == []
    assert used(day(), now=at(18)).left == 0


@settings(max_examples=200)
@given(days(), tables())
def test_what_is_used_adds_up_and_what_is_free_meets_nothing(planned, travel):
    timetable = evaluate_day(planned, travel)
    found = workload(planned, timetable)
    assert found.work == sum(times.ends - times.starts for times in timetable.stops)
    assert found.drive == timetable.total(Kind.DRIVE)
    assert 0 <= found.left <= found.working <= 8 * HOUR
    busy = [row for row in timetable.stretches if row.kind is not Kind.WAIT]
    for stretch in found.free:
        assert not any(Interval(start=row.start, end=row.end).overlap(stretch) for row in busy)
