"""Limits that span several technicians or days: crews, links, parts on a van."""

from collections import Counter
from collections.abc import Iterator, Sequence

from core.basics import minutes_in_words
from core.planning.limits import Broken, Limit
from core.planning.plan import Plan, Problem
from core.planning.problem import Link, LinkKind
from core.planning.timetable import StopTimes, Timetable


def whole_rules(problem: Problem, plan: Plan, timetables: Sequence[Timetable]) -> Iterator[Broken]:
    """Limits of the plan as a whole that do not hold."""
    yield from _crew_rules(problem, plan)
    for link in problem.links:
        yield from _link_rules(problem, link, plan, timetables)
    if problem.playbook.setting(Limit.PARTS).on:
        yield from _parts_rules(problem, plan)
    yield from _lock_rules(problem, plan)


def _broken(limit: Limit, visit_id: int, sentence: str, seconds: int = 0) -> Broken:
    return Broken(limit=limit, visit_id=visit_id, sentence=sentence, seconds=seconds)


def _crew_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    for visit_id, places in plan.where.items():
        visit = problem.visits[visit_id]
        people = {problem.days[index].technician.id for index, _ in places}
        if len(people) != visit.crew or len(places) != visit.crew:
            yield _broken(Limit.CREW, visit_id, f"{visit.label} takes {visit.crew}, {len(people)} go there")
        elif len({stop.start for _, stop in places}) > 1:
            yield _broken(Limit.CREW, visit_id, f"{visit.label}: the crew does not start together")


def _times(visit_id: int, plan: Plan, timetables: Sequence[Timetable]) -> list[StopTimes]:
    found = (timetables[index].stop(visit_id) for index, _ in plan.where.get(visit_id, ()))
    return [times for times in found if times is not None]


def _link_rules(problem: Problem, link: Link, plan: Plan, timetables: Sequence[Timetable]) -> Iterator[Broken]:
    first, second = _times(link.first, plan, timetables), _times(link.second, plan, timetables)
    if not second or link.first not in problem.visits or link.second not in problem.visits:
        return
    one, two = problem.visits[link.first], problem.visits[link.second]
    if link.kind is LinkKind.SAME_HANDS:
        hands = [
            {problem.days[index].technician.id for index, _ in plan.where.get(visit.id, ())} for visit in (one, two)
        ]
        if first and not hands[0] & hands[1]:
            yield _broken(Limit.LINK, two.id, f"{two.label} needs the same hands as {one.label}")
        return
    if not first:
        if link.kind is LinkKind.AFTER:
            yield _broken(Limit.LINK, two.id, f"{two.label} comes after {one.label}, which is not planned")
        else:
            yield _broken(Limit.LINK, two.id, f"{two.label} starts with {one.label}, which is not planned")
        return
    starts = min(times.starts for times in second)
    if link.kind is LinkKind.TOGETHER:
        apart = abs(starts - min(times.starts for times in first))
        if apart:
            sentence = f"{two.label} starts {minutes_in_words(apart)} apart from {one.label}"
            yield _broken(Limit.LINK, two.id, sentence, apart)
        return
    gap = starts - max(times.ends for times in first)
    if gap < link.least:
        early = minutes_in_words(link.least - gap)
        yield _broken(Limit.LINK, two.id, f"{two.label} starts {early} too early after {one.label}", link.least - gap)
    elif link.greatest is not None and gap > link.greatest:
        late = minutes_in_words(gap - link.greatest)
        yield _broken(Limit.LINK, two.id, f"{two.label} starts {late} too late after {one.label}", gap - link.greatest)


def _parts_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    """A van is not filled up between days: what all of a technician's days take must lie on it.

    What one day takes too much of by itself is a limit of that day.
    """
    taken: dict[int, Counter[str]] = {}
    for index, stops in enumerate(plan.stops):
        technician = problem.days[index].technician
        van, before = technician.parts, taken.setdefault(technician.id, Counter())
        if van is None:
            continue
        today: Counter[str] = Counter()
        for stop in stops:
            for part in stop.visit.parts:
                today[part] += stop.takes(part)
                used, has = before[part] + today[part], van.get(part, 0)
                if stop.takes(part) and today[part] <= has < used:
                    sentence = f"{technician.name} would use {used} × {part}, {has} on the van"
                    yield _broken(Limit.PARTS, stop.visit.id, sentence)
        before.update(today)


def _lock_rules(problem: Problem, plan: Plan) -> Iterator[Broken]:
    for visit_id, stood in problem.standing.items():
        visit = problem.visits[visit_id]
        if not visit.locked:
            continue
        places = plan.where.get(visit_id, ())
        people = {problem.days[index].technician.id for index, _ in places}
        if people != stood.technician_ids or any(stop.start != stood.start for _, stop in places):
            yield _broken(Limit.LOCKED, visit_id, f"{visit.label}: {visit.locked_because or 'it is locked'}")
