"""A proposal: changes to the plan that a computation suggests, each with its reasons, and what they come to."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from core.scheduling.evaluation.evaluate import Evaluation, evaluate
from core.scheduling.model.aims import Aim
from core.scheduling.model.day import Stop
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Kind as TimeKind

Kind = Literal["place", "move", "retime", "unplace"]


@dataclass(frozen=True, kw_only=True)
class Placing:
    """Where a visit stands: a day of the problem, whose it is, and the start."""

    day: int
    technician_id: int
    start: int


@dataclass(frozen=True, kw_only=True)
class ProposedChange:
    """One visit goes somewhere else. `before` or `after` is empty when it stands nowhere then."""

    visit_id: int
    label: str
    before: tuple[Placing, ...]
    after: tuple[Placing, ...]
    reasons: tuple[str, ...] = ()

    @property
    def kind(self) -> Kind:
        if not self.before:
            return "place"
        if not self.after:
            return "unplace"
        same = {p.technician_id for p in self.before} == {p.technician_id for p in self.after}
        return "retime" if same and {p.day for p in self.before} == {p.day for p in self.after} else "move"

    @property
    def days(self) -> frozenset[int]:
        """Days of the problem that it touches."""
        return frozenset(placing.day for placing in (*self.before, *self.after))


@dataclass(frozen=True, kw_only=True)
class Unserved:
    """A visit that stands nowhere in the proposed plan, and why."""

    visit_id: int
    label: str
    reasons: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Measures:
    """What a plan comes to, in what a dispatcher counts.

    Attributes
    ----------
    left : visits without a place, `promised_left` of them promised to somebody.
    late : promises that the plan does not keep.
    drive_seconds, drive_metres, overtime_seconds : of all days together.
    """

    left: int
    promised_left: int
    late: int
    drive_seconds: int
    drive_metres: int
    overtime_seconds: int


def measures_of(evaluation: Evaluation) -> Measures:
    """The measures of a plan that was evaluated."""
    days = evaluation.timetables
    return Measures(
        left=len(evaluation.unserved),
        promised_left=sum(bool(visit.windows) for visit in evaluation.unserved),
        late=len({found.visit_id for day in days for found in day.broken if found.limit is Limit.PROMISE}),
        drive_seconds=sum(day.total(TimeKind.DRIVE) for day in days),
        drive_metres=sum(day.metres for day in days),
        overtime_seconds=sum(day.overtime.seconds for day in days if day.overtime),
    )


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """What a planning run suggests.

    Attributes
    ----------
    plan : the whole plan as it would be.
    before, after : what the plan comes to as it is and as it would be.
    points_before, points_after : cost by aim, weighted.
    broken_before, broken_after : limits that do not hold, as (day or None, limit).
    seconds, iterations, seed, stopped : how it was found.
    freed : visits that were locked and that this run was allowed to move.
    """

    plan: Plan
    changes: tuple[ProposedChange, ...]
    before: Measures
    after: Measures
    points_before: Mapping[Aim, float]
    points_after: Mapping[Aim, float]
    broken_before: tuple[tuple[int | None, Broken], ...]
    broken_after: tuple[tuple[int | None, Broken], ...]
    unserved: tuple[Unserved, ...]
    seed: int
    seconds: float
    iterations: int
    stopped: bool
    freed: frozenset[int] = frozenset()


def unlocked(problem: Problem, visit_ids: Collection[int]) -> Problem:
    """The problem with these visits free to move, sent or not; what has begun stays."""
    days = tuple(
        replace(
            day,
            stops=tuple(
                replace(stop, visit=replace(stop.visit, locked=False))
                if stop.visit.id in visit_ids and not stop.has_begun
                else stop
                for stop in day.stops
            ),
        )
        for day in problem.days
    )
    return replace(problem, days=days)


def placings(problem: Problem, plan: Plan, visit_id: int) -> tuple[Placing, ...]:
    found = (
        Placing(day=index, technician_id=problem.days[index].technician.id, start=stop.start)
        for index, stop in plan.where.get(visit_id, ())
    )
    return tuple(sorted(found, key=lambda placing: (placing.day, placing.technician_id)))


def differences(problem: Problem, before: Plan, after: Plan) -> list[ProposedChange]:
    """The changes that lead from one plan to another, in the order of the days they lead to."""
    changes = []
    for visit_id, visit in problem.visits.items():
        old, new = placings(problem, before, visit_id), placings(problem, after, visit_id)
        if old != new:
            changes.append(ProposedChange(visit_id=visit_id, label=visit.label, before=old, after=new))
    return sorted(changes, key=lambda change: (not change.after, *(p.start for p in change.after), change.visit_id))


@dataclass(frozen=True, kw_only=True)
class Part:
    """A part of a proposal that can stand by itself.

    `added` are changes that had to come along, because one that was asked for needs their place.
    """

    plan: Plan
    changes: tuple[ProposedChange, ...]
    added: tuple[ProposedChange, ...]
    evaluation: Evaluation


def accepted_part(problem: Problem, changes: Collection[ProposedChange], wanted: Collection[int]) -> Part:
    """Some of the changes, with whatever else they need so that the plan breaks nothing that it did not break before.

    Parameters
    ----------
    changes
        All changes of the proposal.
    wanted
        Ids of the visits whose changes are asked for.
    """
    base = broken_keys(evaluate(problem, problem.as_it_stands))
    chosen = {change.visit_id for change in changes if change.visit_id in wanted}
    asked = frozenset(chosen)
    while True:
        plan = apply(problem, [change for change in changes if change.visit_id in chosen])
        evaluation = evaluate(problem, plan)
        worse = [key for key in broken_keys(evaluation) if key not in base]
        left = [change for change in changes if change.visit_id not in chosen]
        if not worse or not left:
            taken = tuple(change for change in changes if change.visit_id in chosen)
            added = tuple(change for change in taken if change.visit_id not in asked)
            return Part(plan=plan, changes=taken, added=added, evaluation=evaluation)
        chosen |= _next_needed(worse, left, plan, problem)


def _next_needed(
    worse: Collection[tuple[object, ...]], left: Collection[ProposedChange], plan: Plan, problem: Problem
) -> set[int]:
    """Changes on a day that does not hold without them: first those that make room there, else all of that day."""
    days = {day for day, _limit, _visit in worse if isinstance(day, int)}
    linked = {visit for day, _limit, visit in worse if day is None}
    ties = {link.first for link in problem.links if link.second in linked}
    days |= {index for visit_id in linked if isinstance(visit_id, int) for index, _ in plan.where.get(visit_id, ())}
    touching = {change.visit_id for change in left if change.days & days or change.visit_id in ties | linked}
    leaving = {c.visit_id for c in left if c.visit_id in touching and {p.day for p in c.before} & days}
    return leaving or touching or {change.visit_id for change in left}


def broken_keys(evaluation: Evaluation) -> set[tuple[int | None, str, int | None]]:
    return {(day, found.limit.value, found.visit_id) for day, found in evaluation.broken}


def apply(problem: Problem, changes: Collection[ProposedChange]) -> Plan:
    """The plan as it stands with these changes made."""
    moved = {change.visit_id for change in changes}
    days = [[stop for stop in stops if stop.visit.id not in moved] for stops in problem.as_it_stands.stops]
    for change in changes:
        for placing in change.after:
            days[placing.day].append(Stop(visit=problem.visits[change.visit_id], start=placing.start))
    return Plan(stops=tuple(tuple(sorted(stops, key=lambda stop: stop.order)) for stops in days))
