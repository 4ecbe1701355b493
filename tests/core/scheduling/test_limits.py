"""Each limit names itself, with its reason in words."""

from datetime import timedelta

import pytest

from core.basics import Interval
from core.scheduling import LIMITS, Actual, Limit, TechnicianSpec, evaluate_day
from tests.core.worlds import MINUTE, MONDAY, TableTravel, at, day, ines, shift, stop

TRAVEL = TableTravel()


def broken(planned, *, now=None, travel=TRAVEL):
    return {found.limit: found.sentence for found in evaluate_day(planned, travel, now=now).broken}


def test_a_day_that_keeps_everything_breaks_nothing():
    promise = Interval(start=at(9), end=at(11))
    planned = day(stop(1, at(10), needs={"Door drives": 2}, promise=promise), shift_=shift(rest=True))
    assert broken(planned) == {}


def test_a_missing_skill():
    found = broken(day(stop(1, at(9), needs={"Rescue": 2})))
    assert found == {Limit.SKILL: "Rescue 2 needed, Ines Falk has none"}


def test_a_skill_at_too_low_a_level():
    found = broken(day(stop(1, at(9), needs={"Door drives": 5})))
    assert found == {Limit.SKILL: "Door drives 5 needed, Ines Falk has level 3"}


def test_an_area_not_worked_in():
    assert broken(day(stop(1, at(9), area="Hale"))) == {Limit.AREA: "Hale is not an area of Ines Falk"}


def test_without_areas_of_their_own_technicians_go_everywhere():
    anywhere = TechnicianSpec(id=2, name="Ivor Larkin", skills={})
    assert broken(day(stop(1, at(9), area="Hale"), technician=anywhere)) == {}


def test_before_the_shift():
    found = broken(day(stop(1, at(7, 30))))
    assert found[Limit.SHIFT] == "30 min before the shift starts at 08:00"


def test_past_the_overtime_allowed():
    found = broken(day(stop(1, at(15, 30), minutes=90), shift_=shift(overtime=30)))
    assert found == {Limit.OVERTIME: "Ends 1 h after the shift at 16:00; only 30 min overtime allowed"}


def test_within_the_overtime_allowed():
    assert broken(day(stop(1, at(15, 30), minutes=45), shift_=shift(overtime=30))) == {}


def test_on_call_is_for_urgent_work_only():
    evening = shift(overtime=30, on_call=22)
    found = broken(day(stop(1, at(18)), shift_=evening))
    assert found == {Limit.OVERTIME: "Ines Falk is on call from 16:00: for work of priority 1 only"}
    assert broken(day(stop(1, at(18), priority=1), shift_=evening)) == {}
    late = broken(day(stop(1, at(21, 30), priority=1), shift_=evening))
    assert late == {Limit.OVERTIME: "Ines Falk is on call until 22:00: 30 min too long"}


def test_on_a_day_on_call_only_nothing_else_is_done():
    on_call = shift(8, 8, on_call=20)
    assert Limit.OVERTIME in broken(day(stop(1, at(9)), shift_=on_call))
    assert broken(day(stop(1, at(9), priority=1), shift_=on_call)) == {}


def test_a_day_off():
    planned = day(stop(1, at(9)))
    off = type(planned)(**{**planned.__dict__, "shift": None})
    assert broken(off) == {Limit.SHIFT: "Ines Falk has no shift that day"}


def test_an_absence_for_part_of_the_day():
    absence = Interval(start=at(13), end=at(18))
    found = broken(day(stop(1, at(12, 30)), absences=(absence,)))
    assert found == {Limit.ABSENCE: "Ines Falk is absent from 13:00 to 18:00"}


def test_an_absence_for_the_whole_day():
    absence = Interval(start=at(0), end=at(0, day=MONDAY + timedelta(days=1)))
    assert broken(day(stop(1, at(9)), absences=(absence,))) == {Limit.ABSENCE: "Ines Falk is absent that day"}


def test_two_visits_at_once():
    found = broken(day(stop(1, at(9)), stop(2, at(9, 30))))
    assert found == {Limit.OVERLAP: "Overlaps W-1 by 30 min"}


def test_a_drive_that_does_not_fit():
    found = broken(day(stop(1, at(9)), stop(2, at(10, 5))), travel=TableTravel(minutes={(1, 2): 20}))
    assert found == {Limit.DRIVING: "The 20 min drive does not fit: there at 10:20, 15 min late"}


@pytest.mark.parametrize(
    ("start", "sentence"),
    [
        (at(12, 20), "20 min after the promise 10:00–12:00"),
        (at(9, 45), "15 min before the promise 10:00–12:00"),
    ],
)
def test_outside_the_promise(start, sentence):
    promise = Interval(start=at(10), end=at(12))
    assert broken(day(stop(1, start, promise=promise))) == {Limit.PROMISE: sentence}


def test_a_promise_on_another_day_names_the_day():
    tomorrow = MONDAY + timedelta(days=1)
    promise = Interval(start=at(10, day=tomorrow), end=at(12, day=tomorrow))
    found = broken(day(stop(1, at(10), promise=promise)))
    assert found == {Limit.PROMISE: "24 h before the promise Tue 24 Nov 10:00–12:00"}


def test_arriving_early_is_no_broken_promise_once_it_has_happened():
    promise = Interval(start=at(10), end=at(12))
    here = Actual(departed=at(9, 30), arrived=at(9, 50))
    assert broken(day(stop(1, at(10), promise=promise, actual=here)), now=at(10)) == {}


def test_no_room_for_the_break():
    planned = day(stop(1, at(11), minutes=90), stop(2, at(12, 45), minutes=90), shift_=shift(rest=True))
    assert broken(planned) == {Limit.BREAK: "No room for the 30 min break between 11:30 and 14:00"}


def test_a_day_that_ends_before_the_break_is_due_needs_none():
    assert broken(day(stop(1, at(9)), shift_=shift(rest=True))) == {}


def test_no_duration_yet():
    assert Limit.DURATION in broken(day(stop(1, at(9), minutes=None)))


def test_past_its_due_date_and_before_its_earliest_start():
    assert broken(day(stop(1, at(9), due=at(9, 30)))) == {Limit.DUE: "Ends 30 min after it is due"}
    assert broken(day(stop(1, at(9), earliest=at(10)))) == {Limit.EARLIEST: "May not start before Mon 23 Nov 10:00"}


def test_what_is_finished_is_judged_by_its_promise_only():
    done = Actual(departed=at(8), arrived=at(12, 30), finished=at(13))
    late = stop(1, at(9), needs={"Rescue": 5}, promise=Interval(start=at(9), end=at(12)), actual=done)
    assert set(broken(day(late), now=at(14))) == {Limit.PROMISE}


def test_every_limit_says_whether_it_refuses_or_asks_for_a_reason():
    assert set(LIMITS) == set(Limit)
    refusing = {limit for limit, rule in LIMITS.items() if rule.refuses}
    assert refusing == {
        Limit.LOCKED,
        Limit.DURATION,
        Limit.SKILL,
        Limit.CERTIFICATE,
        Limit.ABSENCE,
    }
    asking = {limit for limit, rule in LIMITS.items() if rule.asks}
    assert not asking & refusing
    assert asking >= {Limit.PROMISE, Limit.OVERTIME, Limit.DUE, Limit.FORBIDDEN, Limit.REQUIRED}


def test_lateness_below_three_minutes_is_not_worth_a_word():
    travel = TableTravel(default=0)
    planned = day(stop(1, at(9)), stop(2, at(9, 58)), technician=ines())
    assert evaluate_day(planned, travel).stop(2).starts - planned.stops[1].start == 2 * MINUTE
    assert broken(planned, travel=travel) == {}
    assert Limit.OVERLAP in broken(day(stop(1, at(9)), stop(2, at(9, 57))), travel=travel)
