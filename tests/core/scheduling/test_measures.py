"""What a plan comes to, in what a dispatcher counts."""

from core.basics import Interval
from core.scheduling import KEEP_PROMISES, Problem, evaluate
from core.scheduling.judgement.proposal import measures_of
from tests.core.worlds import MINUTE, TableTravel, at, day, stop, visit

TRAVEL = TableTravel()  # ten minutes, 6,000 metres, between any two places


def measures(*days, backlog=()):
    problem = Problem(days=days, backlog=backlog, links=(), playbook=KEEP_PROMISES, travel=TRAVEL)
    return measures_of(evaluate(problem, problem.as_it_stands))


def promise(first, last):
    return Interval(start=first, end=last)


def test_driving_of_all_days_is_added_up():
    found = measures(day(stop(1, at(9)), stop(2, at(11))))
    assert (found.drive_seconds, found.drive_metres) == (30 * MINUTE, 18_000)
    assert (found.left, found.late, found.overtime_seconds) == (0, 0, 0)


def test_what_has_no_place_is_counted_and_what_was_promised_of_it():
    found = measures(day(), backlog=(visit(1), visit(2, promise=promise(at(9), at(11)))))
    assert (found.left, found.promised_left) == (2, 1)


def test_a_promise_that_is_late_counts_once():
    late = stop(1, at(12), promise=promise(at(9), at(10)))
    assert measures(day(late, stop(2, at(14), promise=promise(at(14), at(15))))).late == 1


def test_overtime_is_what_runs_past_the_shift():
    assert measures(day(stop(1, at(15, 30)))).overtime_seconds == 40 * MINUTE
    assert measures(day(stop(1, at(12)))).overtime_seconds == 0
