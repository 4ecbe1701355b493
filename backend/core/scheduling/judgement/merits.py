"""What each change of a proposal is good for: which aim it helps, by how much; and which changes help nothing."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass

from core.scheduling.evaluation.evaluate import day_of, evaluate
from core.scheduling.judgement.proposal import ProposedChange, apply
from core.scheduling.model.aims import Aim, costs_of_day, left_out
from core.scheduling.model.day import Stop
from core.scheduling.model.limits import Broken
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.reasons import about

# A change that is worth less than this (a minute of driving) only stirs.
LEAST_POINTS = 60.0
_HELPS: Mapping[Aim, str] = {
    Aim.SERVED: "done, instead of left undone",
    Aim.LATENESS: "{minutes} less late",
    Aim.DRIVING: "{minutes} less driving",
    Aim.DISTANCE: "a shorter way",
    Aim.OVERTIME: "{minutes} less overtime",
    Aim.WAITING: "{minutes} less waiting",
    Aim.SKILL_WASTED: "keeps higher skills free",
    Aim.FAIRNESS: "spreads the load more evenly",
    Aim.PREFERRED: "goes to whom the customer prefers",
    Aim.SAME_TECHNICIAN: "goes to who was there last time",
    Aim.AREA_LEFT: "stays in their own area",
    Aim.WISHES: "goes to who likes it more",
    Aim.DISTURBANCE: "leaves the plan more as it is",
}
# Aims whose points are seconds, so that the number can be said as it is.
_TIMED = frozenset({Aim.DRIVING, Aim.OVERTIME, Aim.WAITING})
SAID = 2


@dataclass(frozen=True, kw_only=True)
class Merit:
    """What a plan gains by one of its changes.

    Attributes
    ----------
    points : what it saves by aim, weighted; negative where it costs.
    needed : what would be broken without it, while the other changes are made.
    mends : what is broken where the visit stands now, and is not where it goes.
    """

    points: Mapping[Aim, float]
    needed: tuple[Broken, ...] = ()
    mends: tuple[Broken, ...] = ()

    @property
    def total(self) -> float:
        return sum(self.points.values())

    @property
    def helps(self) -> bool:
        return bool(self.needed or self.mends) or self.total >= LEAST_POINTS


def merit(problem: Problem, plan: Plan, change: ProposedChange) -> Merit:
    """What one change of a plan is good for: the plan with it against the plan without it."""
    without = _without(problem, plan, change)
    points = dict.fromkeys(Aim, 0.0)
    new: list[Broken] = []
    old: list[Broken] = []
    for index in sorted(change.days):
        for which, sign in ((without, 1), (plan, -1)):
            day, timetable = day_of(problem, which, index)
            for aim, cost in costs_of_day(day, timetable, problem.standing).items():
                points[aim] += sign * cost
            found = [row for row in timetable.broken if problem.playbook.setting(row.limit).on]
            (new if sign == 1 else old).extend(found)
    visit = problem.visits[change.visit_id]
    for aim, cost in left_out(visit, problem.standing.get(visit.id)).items():
        points[aim] += cost * (bool(not change.before) - bool(not change.after))
    weighted = {aim: cost * problem.playbook.weight(aim) for aim, cost in points.items()}
    known = {(row.limit, row.visit_id) for row in old}
    worse = [row for row in new if (row.limit, row.visit_id) not in known]
    if _is_tied(problem, change):
        worse += _links_broken_without(problem, plan, without)
    return Merit(
        points=weighted, needed=tuple(row for row in worse if row.visit_id != visit.id),
        mends=tuple(row for row in worse if row.visit_id == visit.id),
    )  # fmt: skip


def _without(problem: Problem, plan: Plan, change: ProposedChange) -> Plan:
    """The plan with this visit where it stands now."""
    stops = [tuple(stop for stop in day if stop.visit.id != change.visit_id) for day in plan.stops]
    for placing in change.before:
        stop = Stop(visit=problem.visits[change.visit_id], start=placing.start)
        stops[placing.day] = tuple(sorted((*stops[placing.day], stop), key=lambda one: one.order))
    return Plan(stops=tuple(stops))


def _is_tied(problem: Problem, change: ProposedChange) -> bool:
    crew = problem.visits[change.visit_id].crew > 1
    return crew or any(change.visit_id in (link.first, link.second) for link in problem.links)


def _links_broken_without(problem: Problem, plan: Plan, without: Plan) -> list[Broken]:
    known = {(row.limit, row.visit_id) for _day, row in evaluate(problem, plan).broken}
    return [row for _day, row in evaluate(problem, without).broken if (row.limit, row.visit_id) not in known]


def worth_making(
    problem: Problem, plan: Plan, changes: Sequence[ProposedChange]
) -> tuple[Plan, tuple[ProposedChange, ...]]:
    """A plan without the changes that help nothing; with fewer of them others may come to help nothing too.

    What is tied to other visits goes with them or not at all: its changes are not looked at one by one.
    """
    kept = list(changes)
    tied = {visit_id for link in problem.links for visit_id in (link.first, link.second)}
    alone = [change for change in changes if change.visit_id not in tied]
    while True:
        idle = [change for change in alone if change in kept and not merit(problem, plan, change).helps]
        dropped = False
        for change in idle:
            if merit(problem, plan, change).helps:
                continue  # by now something rests on it
            kept.remove(change)
            plan = apply(problem, kept)
            dropped = True
        if not dropped:
            return plan, tuple(kept)


def in_words(found: Merit, labels: Mapping[int, str]) -> tuple[str, ...]:
    """Why a change is made, the weightiest first."""
    said = [str(about("Mends", row.why)) for row in found.mends[:1]]
    for name in _names(found.needed, labels):
        said.append(f"Makes room for {name}")
    gains = sorted(((points, aim) for aim, points in found.points.items() if points >= LEAST_POINTS), reverse=True)
    said += [_gain(aim, points) for points, aim in gains[:SAID]]
    return tuple(said)


def _gain(aim: Aim, points: float) -> str:
    minutes = f"{round(points / 60)} min"
    words = _HELPS[aim].format(minutes=minutes)
    worth = "" if aim in _TIMED else f" (worth {minutes} of driving)"
    return f"{words[0].upper()}{words[1:]}{worth}"


def _names(rows: Iterable[Broken], labels: Mapping[int, str]) -> Collection[str]:
    return list(
        dict.fromkeys(labels[row.visit_id] for row in rows if row.visit_id is not None and row.visit_id in labels)
    )[:2]
