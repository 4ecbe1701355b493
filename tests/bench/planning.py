"""What a dispatcher waits for: openings and the safety of promises, in the core alone."""

from dataclasses import replace

import numpy as np

from core.basics import Interval
from core.scheduling import KEEP_PROMISES, Day, Problem, evaluate_day
from core.scheduling.engine import Budget, OpeningFinder, plan
from core.scheduling.evaluation.evaluate import with_plan
from core.scheduling.evaluation.safety import Spread, likelihoods
from tests.bench.figures import Figures
from tests.core.scheduling.random_worlds import travel_by_hour
from tests.core.worlds import HOUR, PLACES, at, day, shift, visit
from tests.core.worlds import ines as a_technician

WEEK = 5


def _days(technicians: int, count: int) -> tuple[Day, ...]:
    made = []
    for number in range(1, technicians + 1):
        one = replace(a_technician(), id=number, name=f"Technician {number}", areas=frozenset())
        for offset in range(count):
            hours = shift(rest=True)
            move = offset * 86_400
            assert hours.rest is not None
            later = replace(
                hours,
                hours=Interval(start=hours.hours.start + move, end=hours.hours.end + move),
                rest=Interval(start=hours.rest.start + move, end=hours.rest.end + move),
            )
            made.append(replace(day(technician=one), shift=later))
    return tuple(made)


def _planned(technicians: int, days: int, visits: int, *, left: int) -> Problem:
    """Days filled by the engine, and some visits left in the backlog."""
    dice = np.random.default_rng(7)
    made = []
    for number in range(visits + left):
        offset = int(dice.integers(days)) * 86_400
        first = at(8 + int(dice.integers(7))) + offset
        promise = Interval(start=first, end=first + 2 * HOUR) if dice.random() < 0.6 else None
        minutes, place = int(dice.choice([30, 45, 60, 90])), int(dice.integers(1, PLACES))
        made.append(visit(1000 + number, minutes=minutes, place=place, promise=promise))
    travel = travel_by_hour(dice)
    empty = Problem(days=_days(technicians, days), backlog=tuple(made[:visits]), playbook=KEEP_PROMISES, travel=travel)
    standing = with_plan(empty, plan(empty, budget=Budget(iterations=300)).plan)
    return replace(standing, backlog=(*standing.backlog, *made[visits:]))


def openings(figures: Figures) -> None:
    problem = _planned(80, WEEK, 1600, left=20)
    finder = OpeningFinder(problem)
    wanted = [one.id for one in problem.backlog][-20:]
    turn = iter(wanted * 10)
    figures.take("openings of a visit, 80 technicians x 5 days", lambda: finder.openings(next(turn)), wanted="< 100 ms")
    figures.take("making that world ready", lambda: OpeningFinder(problem), repeat=3, warm=1)


def safety(figures: Figures) -> None:
    problem = _planned(24, 1, 140, left=0)
    days = [problem.playbook.on_day(one) for one in problem.days]
    timetables = [evaluate_day(one, problem.travel) for one in days]
    spread = Spread(work={})
    figures.take(
        "likelihood of all promises of 24 days, 1,000 samples",
        lambda: likelihoods(days, timetables, spread=spread),
        wanted="< 300 ms",
    )
