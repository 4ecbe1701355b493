"""The company's days and backlog as a problem of the core."""

from collections.abc import Collection
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.commands import TOLD
from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDay, working_days
from apps.planning.translate import spec_of_visit, stop_of
from apps.roads.queries import travel_among
from core.basics import Interval, Place
from core.calendars import day_interval, local_day
from core.learning import Learned
from core.planning import Day, Playbook, Problem, Stop, VisitSpec
from foundation.errors import Rejected

MOST_DAYS = 14
# As the board snaps.
GRAIN_SECONDS = 300


@dataclass(frozen=True, kw_only=True)
class Loaded:
    """A problem, and what its numbers stand for.

    Attributes
    ----------
    keys : technician and date of each of the problem's days.
    lines : the visits by id, as rows.
    """

    problem: Problem
    keys: list[tuple[int, date]]
    lines: dict[int, VisitLine]


def load_problem(
    *,
    first: date,
    days: int,
    playbook: Playbook,
    now: datetime,
    technician_id: int | None = None,
    only: Collection[int] | None = None,
) -> Loaded:
    """Days from `first` on with what is placed on them, and the backlog.

    Parameters
    ----------
    technician_id
        Only this technician's days.
    only
        Ids of the backlog's visits to take; None: all of it.
    """
    if not 1 <= days <= MOST_DAYS:
        raise Rejected(f"Plan 1 to {MOST_DAYS} days at once.", field="days")
    tz = time_zone()
    dates = [first + timedelta(days=number) for number in range(days)]
    stretch = Interval(start=day_interval(dates[0], tz).start, end=day_interval(dates[-1], tz).end)
    placed = orders.visits_within(stretch, technician_id=technician_id)
    backlog = [line for line in orders.open_visits() if only is None or line.id in only]
    people: dict[date, list[WorkingDay]] = {
        day: [w for w in working_days(day, tz) if technician_id in (None, w.id)] for day in dates
    }
    places = {place for day in people.values() for w in day for place in (w.start_place, w.end_place)}
    places |= {line.place for line in (*placed, *backlog)}
    travel = travel_among(sorted(places))
    index = travel.matrix.index
    known = orders.learned_durations()
    last = orders.last_technicians(line.site_id for line in (*placed, *backlog))
    stops: dict[tuple[int, date], list[Stop]] = {}
    for line in placed:
        if line.technician_id is not None and line.start is not None:
            stop = stop_of(line, index)
            spec = _spec(line, index, known, last, placed=True)
            stops.setdefault((line.technician_id, local_day(line.start, tz)), []).append(replace(stop, visit=spec))
    keys, made = [], []
    for day in dates:
        for person in people[day]:
            own = tuple(stops.get((person.id, day), ()))
            if person.shift is None and not own:
                continue
            keys.append((person.id, day))
            made.append(
                Day(
                    technician=person.spec, tz=tz, shift=person.shift, start_place=index[person.start_place],
                    end_place=index[person.end_place], absences=person.absences, stops=own,
                )
            )  # fmt: skip
    problem = Problem(
        days=tuple(made),
        backlog=tuple(_spec(line, index, known, last, placed=False) for line in backlog),
        playbook=playbook,
        travel=travel,
        now=int(now.timestamp()),
        grain=GRAIN_SECONDS,
    )
    return Loaded(problem=problem, keys=keys, lines={line.id: line for line in (*placed, *backlog)})


def _spec(
    line: VisitLine, index: dict[Place, int], known: dict[str, Learned], last: dict[int, int], *, placed: bool
) -> VisitSpec:
    """A visit with what history knows of it. What was sent is locked: a run does not move it."""
    spec = spec_of_visit(line, index)
    learned = known.get(line.job_type or "")
    durations = learned.for_duration(line.duration_seconds) if learned and line.duration_seconds else {}
    told = line.state in TOLD
    sent = placed and told and not spec.locked
    return replace(
        spec, durations=durations, priority=line.priority, last_technician=last.get(line.site_id), told=told,
        locked=spec.locked or sent, locked_because="It was sent" if sent else spec.locked_because,
    )  # fmt: skip
