"""The timetable of a day: drive, wait, work, break, overtime."""

from core.basics import Interval
from core.scheduling import Actual, Kind, evaluate_day
from tests.core.worlds import HOUR, MINUTE, TableTravel, at, day, shift, stop

TRAVEL = TableTravel()


def kinds(timetable):
    return [(stretch.kind, stretch.start, stretch.end) for stretch in timetable.stretches]


def test_the_first_drive_arrives_just_in_time():
    timetable = evaluate_day(day(stop(1, at(9))), TRAVEL)
    assert kinds(timetable) == [
        (Kind.DRIVE, at(8, 50), at(9)),
        (Kind.WORK, at(9), at(10)),
        (Kind.DRIVE, at(10), at(10, 10)),
    ]


def test_nobody_leaves_before_the_shift_begins():
    timetable = evaluate_day(day(stop(1, at(8))), TRAVEL)
    assert timetable.stop(1).starts == at(8, 10)


def test_between_visits_the_drive_comes_first_and_then_the_wait():
    timetable = evaluate_day(day(stop(1, at(9)), stop(2, at(11))), TRAVEL)
    assert kinds(timetable)[2:5] == [
        (Kind.DRIVE, at(10), at(10, 10)),
        (Kind.WAIT, at(10, 10), at(11)),
        (Kind.WORK, at(11), at(12)),
    ]


def test_a_visit_starts_late_when_the_one_before_takes_too_long():
    timetable = evaluate_day(day(stop(1, at(9), minutes=90), stop(2, at(10))), TRAVEL)
    assert timetable.stop(2).starts == at(10, 40)


def test_visits_are_done_in_the_order_of_their_planned_starts():
    timetable = evaluate_day(day(stop(2, at(12)), stop(1, at(9))), TRAVEL)
    assert [times.visit_id for times in timetable.stops] == [1, 2]


def test_the_break_is_taken_where_it_fits_and_pushes_nothing():
    timetable = evaluate_day(day(stop(1, at(10), minutes=90), stop(2, at(13)), shift_=shift(rest=True)), TRAVEL)
    [rest] = [stretch for stretch in timetable.stretches if stretch.kind is Kind.BREAK]
    assert (rest.start, rest.end) == (at(11, 30), at(12))
    assert timetable.stop(2).starts == at(13)


def test_the_break_is_taken_on_arrival_when_the_window_opens_only_then():
    travel = TableTravel(minutes={(1, 2): 40})
    planned = day(stop(1, at(9, 30)), stop(2, at(12, 10)), shift_=shift(rest=True))
    timetable = evaluate_day(planned, travel)
    [rest] = [stretch for stretch in timetable.stretches if stretch.kind is Kind.BREAK]
    assert (rest.start, rest.end) == (at(11, 30), at(12))
    assert timetable.broken == ()


def test_overtime_is_what_lies_past_the_end_of_the_shift():
    timetable = evaluate_day(day(stop(1, at(15, 30))), TRAVEL)
    assert timetable.overtime == Interval(start=at(16), end=at(16, 40))


def test_totals_add_up_what_the_stretches_say():
    timetable = evaluate_day(day(stop(1, at(9)), stop(2, at(11))), TRAVEL)
    assert timetable.total(Kind.DRIVE) == 30 * MINUTE
    assert timetable.total(Kind.WORK) == 2 * HOUR
    assert timetable.metres == 3 * 6000


def test_an_empty_day_has_an_empty_timetable():
    timetable = evaluate_day(day(shift_=shift(rest=True)), TRAVEL)
    assert timetable.stretches == ()
    assert timetable.broken == ()


def test_what_happened_counts_and_not_what_was_planned():
    done = Actual(departed=at(8, 40), arrived=at(9, 5), finished=at(9, 35))
    timetable = evaluate_day(day(stop(1, at(9), actual=done), stop(2, at(11))), TRAVEL, now=at(9, 40))
    assert (timetable.stop(1).starts, timetable.stop(1).ends) == (at(9, 5), at(9, 35))


def test_work_that_overran_goes_on_until_now():
    here = Actual(departed=at(8, 50), arrived=at(9))
    timetable = evaluate_day(day(stop(1, at(9), actual=here), stop(2, at(10, 30))), TRAVEL, now=at(10, 50))
    assert timetable.stop(1).ends == at(10, 50)
    assert timetable.stop(2).starts == at(11)


def test_nothing_begins_before_now():
    timetable = evaluate_day(day(stop(1, at(9))), TRAVEL, now=at(9, 30))
    assert timetable.stop(1).arrives == at(9, 40)


def test_who_is_on_the_road_arrives_no_earlier_than_now():
    timetable = evaluate_day(day(stop(1, at(9), actual=Actual(departed=at(8, 50)))), TRAVEL, now=at(9, 20))
    assert timetable.stop(1).arrives == at(9, 20)


def test_a_visit_of_unknown_length_is_drawn_as_an_hour():
    timetable = evaluate_day(day(stop(1, at(9), minutes=None)), TRAVEL)
    assert timetable.stop(1).ends - timetable.stop(1).starts == HOUR
