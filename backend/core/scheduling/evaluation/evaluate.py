"""The one evaluator: what a plan comes to - timetables, broken limits, costs, and who is left out."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.plan_rules import plan_rules
from core.scheduling.model.aims import Aim, costs_of_day, left_out
from core.scheduling.model.day import Day, VisitSpec
from core.scheduling.model.limits import Broken
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Timetable


@dataclass(frozen=True, kw_only=True)
class Evaluation:
    """What a plan comes to.

    Attributes
    ----------
    timetables : one per day of the problem.
    broken : limits of the playbook that do not hold, by day (None: of the plan as a whole).
    points : cost by aim, weighted.
    unserved : visits of the problem that stand nowhere in the plan.
    """

    timetables: tuple[Timetable, ...]
    broken: tuple[tuple[int | None, Broken], ...]
    points: Mapping[Aim, float]
    unserved: tuple[VisitSpec, ...]

    @cached_property
    def total(self) -> float:
        return sum(self.points.values())


def evaluate(problem: Problem, plan: Plan) -> Evaluation:
    """Evaluate a plan by the problem's playbook.

    Parameters
    ----------
    problem
        Days, visits, links and playbook.
    plan
        Stops for each of the problem's days.

    Returns
    -------
    Evaluation
        Infeasible plans have one too: what would really happen, with the limits it breaks.
    """
    timetables: list[Timetable] = []
    broken: list[tuple[int | None, Broken]] = []
    points = dict.fromkeys(Aim, 0.0)
    for index in range(len(problem.days)):
        day, timetable = day_of(problem, plan, index)
        timetables.append(timetable)
        broken += [(index, found) for found in timetable.broken]
        for aim, cost in costs_of_day(day, timetable, problem.standing).items():
            points[aim] += cost
    broken += [(None, found) for found in plan_rules(problem, plan, timetables)]
    unserved = tuple(visit for visit in problem.visits.values() if visit.id not in plan.where)
    for visit in unserved:
        for aim, cost in left_out(visit, problem.standing.get(visit.id)).items():
            points[aim] += cost
    weighted = {aim: cost * problem.playbook.weight(aim) for aim, cost in points.items()}
    return Evaluation(timetables=tuple(timetables), broken=tuple(broken), points=weighted, unserved=unserved)


def day_of(problem: Problem, plan: Plan, index: int) -> tuple[Day, Timetable]:
    """One day of a plan, as the playbook sees it, with its timetable.

    Plans of one problem differ in few of its days: what a day came to last is kept with the problem.
    """
    stops = plan.stops[index]
    known = problem.last_days.get(index)
    if known is not None and known[0] == stops:
        return known[1]
    day = problem.playbook.on_day(problem.day(index, plan))
    found = day, evaluate_day(day, problem.travel, now=problem.now_for(day))
    problem.last_days[index] = (stops, found)
    return found


def with_plan(problem: Problem, plan: Plan) -> Problem:
    """The problem as it would stand if the plan were taken over."""
    served = plan.where.keys()
    days = tuple(replace(day, stops=plan.stops[index]) for index, day in enumerate(problem.days))
    left = tuple(visit for visit in problem.visits.values() if visit.id not in served)
    return replace(problem, days=days, backlog=left)
