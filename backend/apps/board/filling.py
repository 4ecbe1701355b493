"""What could fill a gap: those who would come forward first, then work without a place, each with its driving."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from functools import partial

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.reach import visits_within
from apps.people.reach import within
from apps.people.working_days import working_date_of, working_day
from apps.scheduling.assembling import Days, days_of
from apps.scheduling.placed import placed_on
from core.basics import Interval
from core.calendars import local_day
from core.orders import would_come
from core.scheduling import Day, Timetable, Verdict, Workload, evaluate_day, first_fit, pressed_by, workload
from foundation.actors import Actor

# The nearest so many are looked at closely; what lies further would not be chosen.
LOOKED_AT = 60
SHOWN = 12
STEP = 300


@dataclass(frozen=True, kw_only=True)
class Filler:
    """A visit that fits into the gap at `start`, and what that means."""

    visit: VisitLine
    start: int
    extra_drive_seconds: int
    drive_seconds: int
    reasons: tuple[str, ...]
    standby: bool


@dataclass(frozen=True, kw_only=True)
class Filling:
    """A free stretch, and what fits into it."""

    gap: Interval
    fillers: list[Filler]


def filling(
    *, technician_id: int, around: Interval, now: datetime, but: int | None = None, actor: Actor | None = None
) -> Filling:
    """What fits into a free stretch of a technician's day, the standby list first, then by the driving it costs.

    Parameters
    ----------
    around
        The stretch, or a part of it, such as the time of a visit that was cancelled: what is free before and after
        belongs to the same gap.
    but
        A visit that is not to come back into its own gap.
    actor
        To whom it is offered: what is out of their reach is not.
    """
    tz = time_zone()
    day = working_date_of(technician_id, around.start, tz)
    person = working_day(technician_id, day, tz)
    placed = placed_on(day, technician_ids=[technician_id])
    gap = _free_around(around, _used(days_of([person], placed, tz, day=day), technician_id, now))
    # Who is on the standby list said when an earlier time would suit: nothing else is offered to them.
    open_ = [line for line in orders.open_visits() if line.id != but and line.standby is None]
    waiting = [line for line in open_ if line.duration_seconds is not None]
    forward = [line for line in orders.standby_visits() if line.id != but and _would_come(line, gap, now)]
    if actor is not None and actor.reach.is_narrow:
        reached = within(actor.reach)
        mine = visits_within(actor, (line.id for line in (*forward, *waiting)))
        mine = mine if reached is None or technician_id in reached else ()
        forward, waiting = [row for row in forward if row.id in mine], [row for row in waiting if row.id in mine]
    days = days_of([person], placed, tz, day=day, also=[*forward, *waiting])
    own = days.days[technician_id]
    near = _nearest(own, days, gap, waiting)
    found = [
        *_fitting(own, days, gap, forward, now, standby=True),
        *_fitting(own, days, gap, near, now, standby=False),
    ]
    found.sort(key=lambda row: (not row.standby, row.visit.promise is None, row.extra_drive_seconds))
    return Filling(gap=gap, fillers=found[:SHOWN])


def _used(days: Days, technician_id: int, now: datetime) -> Workload:
    own = days.days[technician_id]
    pressed = pressed_by(own, int(now.timestamp()))
    return workload(own, evaluate_day(own, days.travel, now=pressed), now=pressed)


def _free_around(around: Interval, used: Workload) -> Interval:
    """The gap of the day that has most of a stretch; the stretch itself where none has any of it."""
    best = max(used.gaps, key=around.overlap, default=None)
    return best if best is not None and around.overlap(best) > 0 else around


def _would_come(line: VisitLine, gap: Interval, now: datetime) -> bool:
    later = line.start is None or line.start > gap.start
    return later and would_come(line.standby or {}, gap, now=int(now.timestamp()), tz=time_zone())


def _suits(line: VisitLine, now: datetime, start: int, _timetable: Timetable) -> bool:
    """Whether the customer would come forward to that very moment."""
    return _would_come(line, Interval(start=start, end=start), now)


def _nearest(own: Day, days: Days, gap: Interval, waiting: list[VisitLine]) -> list[VisitLine]:
    before = [stop for stop in own.stops if stop.start < gap.end]
    place = before[-1].visit.place if before else own.start_place
    rows = [(days.travel.leg(place, days.index[line.place], gap.start).seconds, line.id, line) for line in waiting]
    rows.sort(key=lambda row: (row[2].promise is None, row[0], row[1]))
    return [line for _seconds, _id, line in rows[:LOOKED_AT]]


def _fitting(
    own: Day, days: Days, gap: Interval, lines: list[VisitLine], now: datetime, *, standby: bool
) -> Iterator[Filler]:
    pressed = pressed_by(own, int(now.timestamp()))
    day = local_day(gap.start, own.tz)
    for line in lines:
        # Who comes forward is asked: the window promised for later does not hold them back.
        spec = days.spec(line, day, promised=not standby)
        latest = gap.end - (spec.seconds_for(own.technician.id) or 0)
        if latest < gap.start:
            continue
        within = Interval(start=gap.start, end=latest + STEP)
        suits = partial(_suits, line, now) if standby else None
        fit = first_fit(own.without(line.id), spec, days.travel, now=pressed, within=within, step=STEP, also=suits)
        if fit is not None:
            yield _filler(line, *fit, standby=standby)


def _filler(line: VisitLine, start: int, verdict: Verdict, *, standby: bool) -> Filler:
    times = verdict.timetable.stop(line.id)
    assert times is not None
    return Filler(
        visit=line, start=start, extra_drive_seconds=verdict.extra_drive_seconds, drive_seconds=times.drive_seconds,
        reasons=tuple(reason.sentence for reason in verdict.reasons), standby=standby,
    )  # fmt: skip


def gap_around(*, visit_id: int, now: datetime) -> tuple[int, Interval] | None:
    """The stretch that follows a placed visit, and whose: what could come next after it."""
    visit = orders.visit(visit_id)
    if visit.technician_id is None or visit.start is None:
        return None
    tz, start = time_zone(), int(visit.start.timestamp())
    day = working_date_of(visit.technician_id, start, tz)
    person = working_day(visit.technician_id, day, tz)
    placed = placed_on(day, technician_ids=[visit.technician_id])
    used = _used(days_of([person], placed, tz, day=day), visit.technician_id, now)
    after = next((stretch for stretch in used.gaps if stretch.start >= start), None)
    return None if after is None else (visit.technician_id, after)
