"""What the planner is asked for: put a day in order, fill gaps, plan, repair, and schedule a sequence.

Each is the same search on a problem with a different freedom, and ends in a proposal.
"""

from collections.abc import Callable, Collection
from dataclasses import replace
from typing import Required, TypedDict, Unpack

from core.scheduling.engine.model import Model
from core.scheduling.engine.search import Budget, Found, Progress, Search
from core.scheduling.engine.tuning import WARM, Tuning
from core.scheduling.evaluation.evaluate import Evaluation, day_of, evaluate
from core.scheduling.judgement.explaining import in_short, why_here, why_not
from core.scheduling.judgement.merits import LEAST_POINTS, in_words, merit, worth_making
from core.scheduling.judgement.proposal import (
    Proposal,
    ProposedChange,
    Unserved,
    apply,
    broken_keys,
    differences,
    measures_of,
    unlocked,
)
from core.scheduling.model.day import Day
from core.scheduling.model.limits import LIMITS
from core.scheduling.model.problem import Plan, Problem


class Effort(TypedDict, total=False):
    """How hard to search: `budget` is needed, the rest has `propose`'s defaults."""

    budget: Required[Budget]
    seed: int
    progress: Callable[[Progress], None] | None
    should_stop: Callable[[], bool] | None


# Reasons are worked out for so many unserved visits; the rest are counted.
EXPLAINED = 60


def improve(problem: Problem, **effort: Unpack[Effort]) -> Proposal:
    """Put one technician's day in a better order; nothing comes to it and nothing leaves it.

    Raises
    ------
    ValueError
        When the problem has more than the one day.
    """
    if len(problem.days) != 1:
        raise ValueError("one day is put in order at a time")
    linked = {visit_id for link in problem.links for visit_id in (link.first, link.second)}
    ours = {stop.visit.id for stop in problem.days[0].stops if stop.visit.crew == 1 and not stop.visit.locked}
    alone = replace(problem, backlog=(), movable=frozenset(ours - linked), free=frozenset(ours - linked))
    found = propose(alone, **effort)
    return found if not found.unserved else _unchanged(alone, found)


def fill(problem: Problem, **effort: Unpack[Effort]) -> Proposal:
    """Fill the gaps of the problem's days from its backlog; what is placed stays with its technician."""
    still = replace(problem, movable=frozenset(), free=frozenset())
    return propose(still, **effort)


def plan(problem: Problem, **effort: Unpack[Effort]) -> Proposal:
    """Plan the backlog into the days; what is placed and not locked may move, at the price of the disturbance."""
    open_ = replace(problem, movable=frozenset(problem.standing) - _locked(problem))
    return propose(open_, **effort)


def repair(problem: Problem, *, only: Collection[int] = (), **effort: Unpack[Effort]) -> Proposal:
    """Mend the days after a slip, a sick call or a cancellation, moving little.

    Visits of somebody who is absent, and those that will miss what they were promised, may leave their
    place even where they were sent: who was told is told again. With `only`, just these visits move.
    """
    freed = frozenset(only) if only else frozenset(_in_trouble(problem))
    open_ = unlocked(problem, freed)
    movable = freed & open_.standing.keys() if only else frozenset(open_.standing) - _locked(open_)
    found = propose(replace(open_, movable=movable), tuning=WARM, **effort)
    return replace(found, freed=freed)


def sequence(
    problem: Problem,
    *,
    visit_ids: Collection[int],
    **effort: Unpack[Effort],
) -> Proposal:
    """Place linked visits in one step; nothing else of the backlog, and nothing placed moves."""
    only = tuple(visit for visit in problem.backlog if visit.id in visit_ids)
    still = replace(problem, backlog=only, movable=frozenset(), free=frozenset())
    return propose(still, **effort)


def propose(
    problem: Problem,
    *,
    budget: Budget,
    seed: int = 1,
    tuning: Tuning | None = None,
    progress: Callable[[Progress], None] | None = None,
    should_stop: Callable[[], bool] | None = None,
) -> Proposal:
    """Search within the freedom the problem gives; what comes out breaks nothing that did not break before."""
    model = Model(problem)
    search = Search(model.arrays, tuning=tuning)
    search.begin(seed=seed, routes=model.routes, pins=model.pins)
    search.fill()
    found = search.run(budget, progress=progress, should_stop=should_stop)
    before = evaluate(problem, problem.as_it_stands)
    plan_, after = _sound(problem, model.plan_of(found), before)
    plan_, after = _worthwhile(problem, plan_, after)
    if after.total > before.total and not _mends(before, after):
        plan_, after = problem.as_it_stands, before
    return _proposal(problem, plan_, before, after, found, seed)


def _worthwhile(problem: Problem, plan_: Plan, after: Evaluation) -> tuple[Plan, Evaluation]:
    """The plan without the changes that help nothing, if that is as good and breaks no more."""
    changes = differences(problem, problem.as_it_stands, plan_)
    less, kept = worth_making(problem, plan_, changes)
    if len(kept) == len(changes):
        return plan_, after
    found = evaluate(problem, less)
    sound = broken_keys(found) <= broken_keys(after) and found.total <= after.total + LEAST_POINTS * len(changes)
    return (less, found) if sound else (plan_, after)


def _mends(before: Evaluation, after: Evaluation) -> bool:
    """A dearer plan is worth proposing when it breaks less."""
    return len(after.broken) < len(before.broken)


def _sound(problem: Problem, plan_: Plan, before: Evaluation) -> tuple[Plan, Evaluation]:
    """The plan without changes that the evaluator finds to break something new.

    The engine keeps every limit, so this should find nothing; it is the law that nothing else may pass.
    """
    known = broken_keys(before)
    changes = differences(problem, problem.as_it_stands, plan_)
    while True:
        plan_ = apply(problem, changes)
        after = evaluate(problem, plan_)
        worse = [(day, found) for day, found in after.broken if (day, found.limit.value, found.visit_id) not in known]
        if not worse or not changes:
            return plan_, after
        days = {day for day, _found in worse}
        visits = {found.visit_id for _day, found in worse}
        kept = [c for c in changes if c.visit_id not in visits and not (c.days & days)]
        changes = kept if len(kept) < len(changes) else []


def _proposal(
    problem: Problem, plan_: Plan, before: Evaluation, after: Evaluation, found: Found, seed: int
) -> Proposal:
    changes = tuple(
        replace(change, reasons=_reasons(problem, plan_, change))
        for change in differences(problem, problem.as_it_stands, plan_)
    )
    return Proposal(
        plan=plan_,
        changes=changes,
        before=measures_of(before),
        after=measures_of(after),
        points_before=before.points,
        points_after=after.points,
        broken_before=before.broken,
        broken_after=after.broken,
        unserved=_unserved(problem, plan_, after),
        seed=seed,
        seconds=found.seconds,
        iterations=found.iterations,
        stopped=found.stopped,
    )


def _reasons(problem: Problem, plan_: Plan, change: ProposedChange) -> tuple[str, ...]:
    """Why the visit goes where it goes, told from the day it goes to."""
    labels = {visit_id: visit.label for visit_id, visit in problem.visits.items()}
    why = in_words(merit(problem, plan_, change), labels)
    if not change.after:
        return ("No place is left for it: it goes back to the backlog", *why)
    words: list[str] = list(why)
    for placing in change.after:
        day, timetable = day_of(problem, plan_, placing.day)
        without = Plan(
            stops=tuple(
                tuple(stop for stop in stops if index != placing.day or stop.visit.id != change.visit_id)
                for index, stops in enumerate(plan_.stops)
            )
        )
        _day, before = day_of(problem, without, placing.day)
        visit = problem.playbook.on_visit(problem.visits[change.visit_id])
        reasons = why_here(day, before, timetable, visit)
        words += [f"{day.technician.name}: {reason}" if len(change.after) > 1 else reason for reason in reasons]
    return tuple(words)


def _unserved(problem: Problem, plan_: Plan, after: Evaluation) -> tuple[Unserved, ...]:
    by_technician: dict[int, list[Day]] = {}
    for index in range(len(problem.days)):
        day, _timetable = day_of(problem, plan_, index)
        by_technician.setdefault(day.technician.id, []).append(day)
    rows = []
    for number, visit in enumerate(sorted(after.unserved, key=lambda v: (v.priority, v.id))):
        reasons: tuple[str, ...] = ("Not looked into: too many are left",)
        if number < EXPLAINED:
            reasons = _why_unserved(problem, list(by_technician.values()), visit.id)
        rows.append(Unserved(visit_id=visit.id, label=visit.label, reasons=reasons))
    return tuple(rows)


def _why_unserved(problem: Problem, people: list[list[Day]], visit_id: int) -> tuple[str, ...]:
    visit = problem.visits[visit_id]
    if visit.duration is None:
        return ("No duration yet: give one before planning it",)
    if not people:
        return ("There is nobody to plan for on these days",)
    if problem.now is not None and visit.windows and all(window.end < problem.now for window in visit.windows):
        return ("The promise has passed: agree on a new one",)
    spans = [(d.shift.hours.start, d.shift.last_end) for own in people for d in own if d.shift is not None]
    if visit.windows and not any(w.start <= end and w.end >= start for w in visit.windows for start, end in spans):
        return ("It is promised for another day",)
    if visit.earliest is not None and all(visit.earliest > end for _start, end in spans):
        return ("It may start only after these days",)
    # Only what several share is told: looking for what would break least would give the same words, seconds later.
    said = [why_not(problem, own, visit, thorough=False) for own in people]
    return in_short(said)[:3]


def _locked(problem: Problem) -> set[int]:
    return {stop.visit.id for day in problem.days for stop in day.stops if stop.visit.locked}


def _in_trouble(problem: Problem) -> set[int]:
    """Visits that cannot stay: their technician is absent, or they will break a promise by a limit that is on."""
    now = evaluate(problem, problem.as_it_stands)
    return {
        found.visit_id
        for _day, found in now.broken
        if found.visit_id is not None and (LIMITS[found.limit].refuses or found.limit.value == "promise")
    }


def _unchanged(problem: Problem, found: Proposal) -> Proposal:
    """A day that cannot be put in order without losing a visit stays as it is."""
    return replace(
        found,
        plan=problem.as_it_stands,
        changes=(),
        points_after=found.points_before,
        broken_after=found.broken_before,
        unserved=(),
    )
