"""Work that cannot wait, put on a day that is running: when it could begin, what that costs, and what gives way."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from core.basics import Interval
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN, fit_broken
from core.scheduling.judgement.judge import Verdict, first_fit, is_new, judge
from core.scheduling.model.aims import (
    LATE_BY_PRIORITY,
    OTHER_PERSON,
    POINTS_PER_SECOND_MOVED,
    WORTH_OF_A_PROMISE,
    costs_of_day,
)
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.playbook import Playbook
from core.scheduling.model.timetable import Timetable

# Starts are people's: so many seconds apart.
STEP = 300
# That a visit begins later than planned is told as that: its plan is to be moved.
_LATER = frozenset({Limit.OVERLAP, Limit.DRIVING})


@dataclass(frozen=True, kw_only=True)
class Displaced:
    """A visit that comes later than it would: when it then begins, how much later, what of it no longer holds."""

    visit_id: int
    starts: int
    later: int
    breaks: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Response:
    """What it would be to go.

    Attributes
    ----------
    in_time : whether work begins by the moment that was asked for; None where none was.
    points : what it costs, as seconds of driving: what the day then costs more, lateness, and promises that it breaks.
    """

    start: int
    verdict: Verdict
    displaced: tuple[Displaced, ...]
    in_time: bool | None
    points: int


def response(
    day: Day, visit: VisitSpec, travel: Travel, *, soonest: int, by: int | None, asked: int, playbook: Playbook,
    now: int | None,
) -> Response:  # fmt: skip
    """The start on somebody's day that serves urgent work and disturbs least.

    Nobody is sent earlier than is needed when that pushes others: where there is a start by `by` that moves nothing,
    the first of them is taken, else the soonest.

    Parameters
    ----------
    soonest
        When whoever goes could begin, from where they are; rounded up to a start as people say them.
    by
        When somebody must have begun; None: as soon as possible, and every second from `asked` on costs.
    now
        As for `evaluate_day`.
    """
    alone = day.without(visit.id)
    before = evaluate_day(alone, travel, now=now)
    start, verdict = _start(day, visit, travel, soonest=soonest, by=by, now=now, before=before)
    displaced = displaced_by(visit.id, before, verdict.timetable)
    points = _points(playbook, day.with_stop(Stop(visit=visit, start=start)), verdict.timetable)
    points -= _points(playbook, alone, before)
    late = max(0, start - (asked if by is None else by))
    points += LATE_BY_PRIORITY[visit.priority] * late + _price(visit.id, before, verdict.timetable, displaced)
    return Response(
        start=start, verdict=verdict, displaced=displaced, in_time=None if by is None else start <= by,
        points=round(points),
    )  # fmt: skip


def _start(
    day: Day, visit: VisitSpec, travel: Travel, *, soonest: int, by: int | None, now: int | None, before: Timetable
) -> tuple[int, Verdict]:
    rounded = -(-soonest // STEP) * STEP
    if by is not None and rounded <= by:
        within = Interval(start=rounded, end=by + 1)
        gentle = first_fit(day, visit, travel, now=now, within=within, step=STEP, warned=True, before=before)
        if gentle:
            return gentle
    # On the minute where the rounded start would put it behind another visit; behind that one where nothing else helps.
    for start in (rounded, -(-soonest // GRAIN) * GRAIN):
        verdict = judge(day, Stop(visit=visit, start=start), travel, now=now, before=before)
        times = verdict.timetable.stop(visit.id)
        assert times is not None
        if times.starts - start < GRAIN:
            return start, verdict
        behind = -(-times.starts // GRAIN) * GRAIN
    return behind, judge(day, Stop(visit=visit, start=behind), travel, now=now, before=before)


def displaced_by(visit_id: int, before: Timetable, after: Timetable) -> tuple[Displaced, ...]:
    """Who gives way: the others that begin later, or of which something new does not hold."""
    found = []
    for old in before.stops:
        new = after.stop(old.visit_id)
        if new is None or old.visit_id == visit_id:
            continue
        worse = [
            row for row in after.broken_for(old.visit_id) if is_new(row, before.broken) and row.limit not in _LATER
        ]
        breaks = tuple(row.sentence for row in sorted(worse, key=lambda row: row.limit is not Limit.PROMISE))
        if breaks or new.starts - old.starts >= GRAIN:
            found.append(
                Displaced(visit_id=old.visit_id, starts=new.starts, later=new.starts - old.starts, breaks=breaks)
            )
    return tuple(found)


def _is_price(found: Broken, before: Timetable) -> bool:
    return found.limit not in _LATER and is_new(found, before.broken)


def _points(playbook: Playbook, day: Day, timetable: Timetable) -> float:
    return sum(cost * playbook.weight(aim) for aim, cost in costs_of_day(day, timetable, {}).items())


def _price(visit_id: int, before: Timetable, after: Timetable, displaced: tuple[Displaced, ...]) -> float:
    """What it costs the others: that they come later, and what of them no longer holds."""
    worse = [
        row
        for row in after.broken
        if row.visit_id != visit_id and row.limit not in _LATER and is_new(row, before.broken)
    ]
    broken = sum(WORTH_OF_A_PROMISE if row.limit is Limit.PROMISE else OTHER_PERSON for row in worse)
    return broken + POINTS_PER_SECOND_MOVED * sum(max(0, row.later) for row in displaced)


@dataclass(frozen=True, kw_only=True)
class Elsewhere:
    """Where a displaced visit could go instead: whose day, when, and how much more driving that is."""

    technician_id: int
    start: int
    extra_drive_seconds: int


def elsewhere(
    days: Mapping[int, Day], visits: Sequence[VisitSpec], travel: Travel, *, now: Mapping[int, int | None]
) -> dict[int, Elsewhere]:
    """The place for each displaced visit on somebody else's day that breaks nothing and costs least driving.

    One after the other: two of them are not given the same gap. Who finds none is left out.

    Parameters
    ----------
    days
        The days of everybody who may take them, by technician.
    now
        As for `evaluate_day`, by technician.
    """
    own = dict(days)
    found: dict[int, Elsewhere] = {}
    for visit in visits:
        places = [
            Elsewhere(technician_id=key, start=fit[0], extra_drive_seconds=fit[1].extra_drive_seconds)
            for key, day in own.items()
            if (fit := _fit(day, visit, travel, now[key])) is not None
        ]
        best = min(places, key=lambda row: (row.extra_drive_seconds, row.start, row.technician_id), default=None)
        if best is not None and visit.crew == 1:
            found[visit.id] = best
            stop = Stop(visit=visit, start=best.start)
            own[best.technician_id] = own[best.technician_id].with_stop(stop)
    return found


def _fit(day: Day, visit: VisitSpec, travel: Travel, now: int | None) -> tuple[int, Verdict] | None:
    noon = day.shift.hours.start if day.shift else 0
    if day.shift is None or visit.locked or any(fit_broken(day, Stop(visit=visit, start=noon))):
        return None
    return first_fit(day, visit, travel, now=now, within=visit.promise)
