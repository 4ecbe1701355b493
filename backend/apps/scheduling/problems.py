"""The company's days and backlog as a problem of the core."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from apps.company.queries import settings, time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.reach import visits_within
from apps.people.reach import within
from apps.people.working_days import working_days_between
from apps.roads.queries import travel_among
from apps.scheduling.assembling import facts_of, stop_of, technicians_of, without_parts
from apps.scheduling.placed import placed_by_day
from apps.scheduling.vans import vans_for
from core.basics import Interval
from core.calendars import day_interval
from core.orders.links import Link, LinkKind
from core.scheduling import Day, Playbook, Problem, Stop, VisitSpec, overdue_at
from core.scheduling.model.reasons import Code, why
from foundation.actors import Actor
from foundation.errors import Rejected
from foundation.snapshot import one_moment

MOST_DAYS = 14


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


@one_moment()
def load_problem(
    *,
    first: date,
    days: int,
    playbook: Playbook,
    now: datetime,
    technician_id: int | None = None,
    only: Collection[int] | None = None,
    promised_only: bool = False,
    but: int | None = None,
    movable: Collection[int] | None = None,
    spread: Collection[int] = (),
    reaching: Actor | None = None,
) -> Loaded:
    """Days from `first` on with what is placed on them, and the backlog.

    Parameters
    ----------
    technician_id
        Only this technician's days.
    only
        Ids of the backlog's visits to take; None: all of it.
    promised_only
        Of the backlog only what was promised within these days.
    but
        A visit to leave out wherever it is: the one that is asked about.
    movable
        Of what is placed only these visits may move; None: all that are not locked.
    spread
        Visits to place anew on these days, wherever they stand now. A promise for another day binds them no longer:
        the customer has to be asked anyway.
    reaching
        Whose reach narrows it: nobody else's days are there, and what is out of reach stays where it is.
    """
    if not 1 <= days <= MOST_DAYS:
        raise Rejected(f"Plan 1 to {MOST_DAYS} days at once.", field="days")
    tz = time_zone()
    dates = [first + timedelta(days=number) for number in range(days)]
    stretch = Interval(start=day_interval(dates[0], tz).start, end=day_interval(dates[-1], tz).end)
    ids = [technician_id] if technician_id is not None else within(reaching.reach) if reaching else None
    by_day, working = placed_by_day(dates[0], dates[-1], technician_ids=ids)
    placed = [line for lines in by_day.values() for line in lines]
    backlog = [line for line in orders.open_visits() if only is None or line.id in only]
    if promised_only:
        backlog = [line for line in backlog if line.promise is not None and line.promise.overlap(stretch)]
    backlog += [line for line in orders.lines_named(set(spread)) if not line.state.is_ended]
    # Inside somebody's transaction one is read after the other: what left its day between them is counted once.
    waiting = {line.id for line in backlog}
    placed = [line for line in placed if line.id != but and line.id not in waiting]
    backlog = [line for line in backlog if line.id != but]
    if reaching is not None and reaching.reach.is_narrow:
        mine = visits_within(reaching, (line.id for line in (*placed, *backlog)))
        backlog = [line for line in backlog if line.id in mine]
        movable = [key for key in mine if movable is None or key in movable]
    people = working_days_between(dates[0], dates[-1], tz, technician_ids=ids)
    places = {place for day in people.values() for w in day for place in (w.start_place, w.end_place)}
    places |= {line.place for line in (*placed, *backlog)}
    travel = travel_among(sorted(places))
    index = travel.index
    facts = facts_of((*placed, *backlog), wishes=True)
    lines = {line.id: line for line in (*placed, *backlog)}
    links = orders.links_of(lines.keys())
    elsewhere = _tied_elsewhere(lines, links)
    specs = {
        line.id: _held(line, _led_by_anybody(facts.spec(line, index, dates[0], dates[-1])), elsewhere.get(line.id, ()))
        for line in lines.values()
    }
    # What may be moved speaks for what it stands for now; whose it becomes is what the run finds out.
    vans = vans_for((*placed, *backlog), but=[line.id for line in backlog])
    stops: dict[tuple[int, date], list[Stop]] = {}
    for line in placed:
        if line.start is not None:
            stop = stop_of(line, _movable(specs[line.id], line.id, movable))
            for who in technicians_of(line):
                if ids is None or who in ids:
                    stops.setdefault((who, working.of(line.technician_id, line.start)), []).append(stop)
    keys, made = [], []
    for day in dates:
        for person in people[day]:
            own = tuple(stops.get((person.id, day), ()))
            if person.shift is None and not own:
                continue
            keys.append((person.id, day))
            made.append(
                Day(
                    technician=facts.with_run_load(person.spec, vans, dates[0], day), tz=tz, shift=person.shift,
                    start_place=index[person.start_place], end_place=index[person.end_place],
                    absences=person.absences, stops=own,
                )
            )  # fmt: skip
    problem = Problem(
        days=tuple(made),
        backlog=tuple(
            overdue_at(_freed(specs[line.id], stretch, line.id in spread), int(now.timestamp())) for line in backlog
        ),
        links=tuple(link for link in links if link.first in lines and link.second in lines),
        playbook=playbook,
        travel=travel,
        now=int(now.timestamp()),
        grain=60 * settings().grain_minutes,
    )
    return Loaded(problem=problem, keys=keys, lines=lines)


def _movable(spec: VisitSpec, visit_id: int, movable: Collection[int] | None) -> VisitSpec:
    """As it is planned; locked where only others may move."""
    planned = _planned(spec)
    if movable is None or visit_id in movable or planned.locked:
        return planned
    return replace(planned, locked=True, locked_because=why(Code.NOT_TO_BE_PLANNED))


def _tied_elsewhere(
    lines: Mapping[int, VisitLine], links: Sequence[Link]
) -> dict[int, list[tuple[Link, VisitLine]]]:  # fmt: skip
    """What ties visits of the problem to work that is planned and lies outside of it, by visit."""
    outside = {key for link in links for key in (link.first, link.second)} - lines.keys()
    others = {line.id: line for line in orders.lines_named(outside) if line.start is not None}
    found: dict[int, list[tuple[Link, VisitLine]]] = {}
    for link in links:
        for own, other in ((link.first, link.second), (link.second, link.first)):
            if own in lines and other in others:
                found.setdefault(own, []).append((link, others[other]))
    return found


def _held(line: VisitLine, spec: VisitSpec, ties: Sequence[tuple[Link, VisitLine]]) -> VisitSpec:
    """A visit that follows work elsewhere begins after it; one that is placed and tied otherwise stays where it is."""
    for link, other in ties:
        follows = link.kind is LinkKind.AFTER and link.second == spec.id
        if follows and other.start is not None:
            ends = other.finished or other.start + (other.duration_seconds or 0)
            spec = replace(spec, earliest=max(spec.earliest or 0, ends + link.least))
        if (not follows or link.greatest is not None) and line.start is not None and not spec.locked:
            spec = replace(spec, locked=True, locked_because=why(Code.TIED_ELSEWHERE, other=other.number))
    return spec


def _freed(spec: VisitSpec, stretch: Interval, spread: bool) -> VisitSpec:
    """A visit that goes to other days is not held by what it was promised for its own."""
    if not spread or any(window.overlap(stretch) for window in spec.windows):
        return spec
    return replace(spec, promise=None, other_windows=(), locked=False)


def _planned(spec: VisitSpec) -> VisitSpec:
    """What was sent stays: a run does not move it."""
    if not spec.told or spec.locked:
        return spec
    return replace(spec, locked=True, locked_because=why(Code.SENT))


def _led_by_anybody(spec: VisitSpec) -> VisitSpec:
    """Whoever leads a crew takes the parts along, and a run may choose anybody to lead."""
    return without_parts(spec) if spec.crew > 1 else spec
