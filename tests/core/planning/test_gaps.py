"""Free time on a technician's day."""

from dataclasses import replace

from core.planning import gaps_of
from tests.core.worlds import at, day, stop


def hours(found):
    return [(gap.hours.start, gap.hours.end, gap.after, gap.before) for gap in found]


def test_a_day_without_visits_is_one_gap():
    assert hours(gaps_of(day())) == [(at(8), at(16), None, None)]


def test_gaps_lie_before_between_and_after_and_know_their_neighbours():
    planned = day(stop(1, at(9)), stop(2, at(12)))
    assert hours(gaps_of(planned)) == [
        (at(8), at(9), None, 1),
        (at(10), at(12), 1, 2),
        (at(13), at(16), 2, None),
    ]


def test_less_than_half_an_hour_is_no_gap():
    planned = day(stop(1, at(8, 20)), stop(2, at(9, 45)), stop(3, at(10, 45)))
    assert hours(gaps_of(planned)) == [(at(11, 45), at(16), 3, None)]


def test_what_has_passed_is_no_gap_any_more():
    planned = day(stop(1, at(12)))
    assert hours(gaps_of(planned, now=at(11))) == [(at(11), at(12), None, 1), (at(13), at(16), 1, None)]
    assert gaps_of(day(), now=at(15, 45)) == []


def test_overlapping_visits_leave_nothing_between_them():
    planned = day(stop(1, at(9), minutes=180), stop(2, at(10)))
    assert hours(gaps_of(planned)) == [(at(8), at(9), None, 1), (at(12), at(16), 2, None)]


def test_a_day_off_has_none():
    assert gaps_of(replace(day(), shift=None)) == []
