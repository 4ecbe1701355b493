"""Why a visit stands where it stands: what keeps it from being sooner, and how far it can slip."""

import pytest

from core.basics import Interval
from core.scheduling import Actual
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.safety import Spread, likely_start
from core.scheduling.judgement.slack import MOST, slack_of, slip_in_words
from tests.core.worlds import HOUR, MINUTE, TableTravel, at, day, shift, stop

TRAVEL = TableTravel()  # ten minutes between any two places


def promised(number, start, first, last, **more):
    return stop(number, start, promise=Interval(start=first, end=last), **more)


def stands(planned, visit_id, **more):
    return slack_of(planned, visit_id, TRAVEL, **more)


def test_the_visit_before_and_the_drive_keep_it_from_being_sooner():
    found = stands(day(stop(1, at(9)), stop(2, at(10, 10))), 2)
    assert (found.sooner, found.held) == (0, "W-1 before it ends at 10:00, the drive takes 10 min")


def test_free_time_before_it_is_counted():
    found = stands(day(stop(1, at(9)), stop(2, at(11))), 2)
    assert found.sooner == 50 * MINUTE
    assert found.held.startswith("W-1 before it ends at 10:00")


def test_the_first_visit_waits_for_the_shift():
    found = stands(day(stop(1, at(8, 40))), 1)
    assert (found.sooner, found.held) == (30 * MINUTE, "the shift begins at 08:00, the drive takes 10 min")


def test_the_promise_holds_it_although_somebody_could_be_there():
    found = stands(day(stop(1, at(8, 30)), promised(2, at(11), at(11), at(13))), 2)
    assert (found.sooner, found.held) == (0, "the promise begins at 11:00")


def test_the_site_opens_and_the_day_allowed_begins():
    opening = (Interval(start=at(10), end=at(15)),)
    assert stands(day(stop(1, at(10), opening=opening)), 1).held == "the site opens at 10:00"
    assert stands(day(stop(1, at(10), earliest=at(10))), 1).held == "nobody may come before that day"


def test_nothing_begins_before_now():
    found = stands(day(stop(1, at(11))), 1, now=at(10, 30))
    assert (found.sooner, found.held) == (30 * MINUTE, "it is 10:30")


def test_the_break_before_it_counts():
    planned = day(stop(1, at(10, 40)), stop(2, at(12, 20)), shift_=shift(rest=True))
    found = stands(planned, 2)
    assert found.held == "W-1 before it ends at 11:40, the drive takes 10 min and the break 30 min"
    assert found.sooner == 0


def test_it_slips_until_its_own_promise_breaks():
    found = stands(day(promised(1, at(9), at(8), at(10))), 1)
    # Lateness of less than three minutes breaks nothing, the next step of five does.
    assert found.later == HOUR
    assert "5 min" in found.beyond


def test_it_slips_until_another_promise_breaks_and_says_whose():
    planned = day(stop(1, at(9)), promised(2, at(10, 30), at(10, 30), at(11)))
    found = stands(planned, 1)
    # Ending at 10:50 it is at the next one at 11:00.
    assert found.later == 50 * MINUTE
    assert found.beyond.startswith("W-2: ")


def test_what_slips_keeps_its_place_in_the_order():
    planned = day(stop(1, at(9), minutes=30), stop(2, at(9, 40), minutes=30), promised(3, at(13), at(13), at(14)))
    found = stands(planned, 1)
    # 1 and 2 take an hour and two drives of ten minutes before 3 has to begin by 14:00.
    assert found.later == int(3 * HOUR + 40 * MINUTE)
    assert found.beyond.startswith("W-3: ")


def test_a_loose_day_slips_as_far_as_anybody_asks():
    found = stands(day(stop(1, at(9))), 1)
    assert (found.later, found.beyond) == (MOST, "")
    assert slip_in_words(found)[1] == "Could begin 4 h later and nothing would break"


def test_what_is_broken_already_is_not_counted_again():
    late = day(promised(1, at(11), at(8), at(10)), shift_=shift(8, 16))
    found = stands(late, 1)
    assert found.later == 0
    assert slip_in_words(found)[1].startswith("Not later: ")


def test_what_has_begun_neither_comes_sooner_nor_slips():
    begun = day(stop(1, at(9), actual=Actual(departed=at(8, 50), arrived=at(9))))
    found = stands(begun, 1, now=at(9, 20))
    assert (found.sooner, found.later) == (None, None)
    assert slip_in_words(found) == ()
    assert found.reasons


def test_its_reasons_are_those_of_an_opening():
    found = stands(day(stop(1, at(9)), promised(2, at(10, 10), at(10), at(12)), stop(3, at(13))), 2)
    assert found.reasons[0] == "Inside the promise, 1 h 50 min to spare"
    assert found.reasons[1] == "10 min more driving, between two visits in Millrace"


def test_both_ways_are_said_in_words():
    found = stands(day(stop(1, at(9)), promised(2, at(11), at(10), at(12))), 2)
    sooner, later = slip_in_words(found)
    assert sooner == "Could begin 50 min sooner; then W-1 before it ends at 10:00, the drive takes 10 min"
    assert later.startswith("Could begin 1 h later; beyond that: ")


# --- when it is likely to begin -----------------------------------------------------------------------


def likely(planned, visit_id, spread=0.2):
    timetable = evaluate_day(planned, TRAVEL)
    return likely_start(planned, timetable, visit_id, spread=Spread(work={1: spread, 2: spread}, drive=0.0))


def test_a_visit_after_another_scatters_with_it():
    found = likely(day(stop(1, at(9)), stop(2, at(10, 10))), 2)
    # An hour scatters by 12 minutes; nobody begins before the plan says.
    assert found.start == at(10, 10)
    assert found.end == pytest.approx(at(10, 25), abs=4 * MINUTE)


def test_without_scatter_it_begins_when_it_is_planned():
    found = likely(day(stop(1, at(9)), stop(2, at(10, 30))), 2, spread=0.0)
    assert (found.start, found.end) == (at(10, 30), at(10, 30))


def test_a_visit_of_another_day_has_no_likely_start():
    assert likely(day(stop(1, at(9))), 7) is None
