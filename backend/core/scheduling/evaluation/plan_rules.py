"""Limits that span several technicians or days: crews, links, parts on a van."""

from collections import Counter
from collections.abc import Iterator, Sequence

from core.orders.links import Link
from core.scheduling.evaluation.findings import crew_broken
from core.scheduling.evaluation.links import LinkEnd, link_broken
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.reasons import Code, Why, about, why
from core.scheduling.model.timetable import StopTimes, Timetable


def plan_rules(problem: Problem, plan: Plan, timetables: Sequence[Timetable]) -> Iterator[Broken]:
    """Limits of the plan as a whole that do not hold."""
    yield from _crew_rules(problem, plan)
    for link in problem.links:
        yield from _link_rules(problem, link, plan, timetables)
    if problem.playbook.setting(Limit.PARTS).on:
        yield from _parts_rules(problem, plan)
    yield from _lock_rules(problem, plan)


def _broken(limit: Limit, visit_id: int, reason: Why, seconds: int = 0) -> Broken:
    return Broken(limit=limit, visit_id=visit_id, why=reason, seconds=seconds)


def _crew_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    for visit_id, places in plan.where.items():
        visit = problem.visits[visit_id]
        people = {problem.days[index].technician.id for index, _ in places}
        count = crew_broken(visit_id, visit.label, wanted=visit.crew, going=len(people))
        if count is not None:
            yield count
        elif len({stop.start for _, stop in places}) > 1:
            yield _broken(Limit.CREW, visit_id, why(Code.CREW_APART, visit=visit.label))


def _times(visit_id: int, plan: Plan, timetables: Sequence[Timetable]) -> list[StopTimes]:
    found = (timetables[index].stop(visit_id) for index, _ in plan.where.get(visit_id, ()))
    return [times for times in found if times is not None]


def _link_rules(problem: Problem, link: Link, plan: Plan, timetables: Sequence[Timetable]) -> Iterator[Broken]:
    if link.first in problem.visits and link.second in problem.visits:
        ends = [_end_of(problem, key, plan, timetables) for key in (link.first, link.second)]
        yield from link_broken(link, *ends)


def _end_of(problem: Problem, visit_id: int, plan: Plan, timetables: Sequence[Timetable]) -> LinkEnd:
    times = _times(visit_id, plan, timetables)
    technicians = frozenset(problem.days[index].technician.id for index, _ in plan.where.get(visit_id, ()))
    return LinkEnd(
        label=problem.visits[visit_id].label, technicians=technicians,
        starts=min((t.starts for t in times), default=None), ends=max((t.ends for t in times), default=None),
    )  # fmt: skip


def _parts_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    """A van is not filled up between days: what all of a technician's days take must lie on it.

    What one day takes too much of by itself is a limit of that day.
    """
    taken: dict[int, Counter[str]] = {}
    for index, stops in enumerate(plan.stops):
        technician = problem.days[index].technician
        load, before = technician.load, taken.setdefault(technician.id, Counter())
        if load is None:
            continue
        today: Counter[str] = Counter()
        for stop in stops:
            for part in stop.visit.parts:
                today[part] += stop.takes(part)
                used, has = before[part] + today[part], load.has(part)
                if stop.takes(part) and today[part] <= has < used:
                    given = {"technician": technician.name, "used": used, "part": part, "has": has}
                    yield _broken(Limit.PARTS, stop.visit.id, why(Code.PARTS_USED_UP, **given))
        before.update(today)


def _lock_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    for visit_id, stood in problem.standing.items():
        visit = problem.visits[visit_id]
        if not visit.locked:
            continue
        places = plan.where.get(visit_id, ())
        people = {problem.days[index].technician.id for index, _ in places}
        if people != stood.technician_ids or any(stop.start != stood.start for _, stop in places):
            yield _broken(Limit.LOCKED, visit_id, about(visit.label, visit.locked_because or why(Code.LOCKED)))
