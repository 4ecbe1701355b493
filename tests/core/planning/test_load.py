"""How full a day is."""

import pytest

from core.basics import Interval
from core.planning import evaluate_day
from core.planning.load import load_of
from tests.core.worlds import HOUR, MINUTE, TableTravel, at, day, shift, stop

TRAVEL = TableTravel()  # ten minutes between any two places


def load(planned):
    return load_of(planned, evaluate_day(planned, TRAVEL))


def test_an_empty_day_has_its_shift_and_nothing_in_it():
    found = load(day())
    assert (found.shift, found.work, found.drive, found.visits, found.share) == (8 * HOUR, 0, 0, 0, 0)


def test_driving_counts_there_between_and_home():
    found = load(day(stop(1, at(9)), stop(2, at(11), minutes=30)))
    assert (found.work, found.drive, found.visits) == (90 * MINUTE, 30 * MINUTE, 2)
    assert found.share == pytest.approx(2 / 8)


def test_an_absence_makes_the_shift_shorter():
    away = (Interval(start=at(12), end=at(18)),)
    assert load(day(stop(1, at(9)), absences=away)).shift == 4 * HOUR


def test_waiting_and_breaks_do_not_fill_a_day():
    rested = day(stop(1, at(9)), stop(2, at(14)), shift_=shift(rest=True))
    assert load(rested).work + load(rested).drive == 2 * HOUR + 30 * MINUTE


def test_what_runs_past_the_shift_is_overtime():
    found = load(day(stop(1, at(15, 30))))
    assert found.overtime == 40 * MINUTE


def test_work_without_a_shift_is_more_than_full():
    off = day(stop(1, at(9)))
    object.__setattr__(off, "shift", None)
    found = load(off)
    assert (found.shift, found.share) == (0, 1.0)
