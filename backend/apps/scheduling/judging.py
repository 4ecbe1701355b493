"""What a placement would mean: for the days of whoever goes, for what is tied to it, by the company's playbook."""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import replace
from datetime import date, datetime
from functools import partial
from zoneinfo import ZoneInfo

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine, line_of
from apps.orders.models import Visit
from apps.people.working_days import WorkingDay, working_date_of, working_day, working_days, working_days_between
from apps.scheduling.assembling import Days, days_of, stop_of, technicians_of, without_parts
from apps.scheduling.nearby import where_else
from apps.scheduling.placed import placed_on
from apps.scheduling.schedule import evaluate_on, times_on
from apps.scheduling.ties import crews_broken, ties_of
from core.basics import Interval
from core.calendars import day_interval
from core.scheduling import (
    Limit,
    Reason,
    Timetable,
    Verdict,
    first_fit,
    is_new,
    judge,
    judge_crew,
    pressed_by,
    reason_of,
    relief,
)
from core.scheduling.evaluation.rules import fit_broken
from foundation.errors import NotFound


def judge_placement(
    *, line: VisitLine, technician_id: int, start: int, now: datetime, mates: Collection[int] | None = None
) -> Verdict:
    """What placing the visit there would mean for whoever goes and for what is tied to it; changes nothing.

    Parameters
    ----------
    mates
        Who goes with the technician; None: those who go with the visit already.
    """
    moved = _moved(line, technician_id, start, mates)
    trial = _Trial(line, technicians_of(moved), working_date_of(technician_id, start, time_zone()), now)
    verdict = trial.verdict(moved)
    if any(row.limit is Limit.PARTS for row in verdict.reasons):
        return verdict.with_reasons(where_else(moved, now=now))
    return verdict


def overlapped(
    *, line: VisitLine, technician_id: int, start: int, mates: Collection[int] | None = None
) -> list[VisitLine]:
    """The visits at whose planned time this one would lie too, for whoever goes."""
    moved = _moved(line, technician_id, start, mates)
    technicians = set(technicians_of(moved))
    ends = start + (moved.duration_seconds or 0)
    around = Interval(start=start - 86_400, end=start + 86_400)
    others = orders.visits_within(around, technician_ids=technicians)
    return [
        other
        for other in others
        if other.id != line.id
        and other.start is not None
        and not other.state.is_ended
        and other.start < ends
        and start < other.start + (other.duration_seconds or 0)
    ]


def _moved(line: VisitLine, technician_id: int, start: int, mates: Collection[int] | None) -> VisitLine:
    with_them = dict.fromkeys(line.mates if mates is None else mates)
    own = tuple(key for key in with_them if key != technician_id)
    # Who is named to go along goes: as when it is placed, that makes the visit's crew larger.
    crew = line.crew if mates is None else max(line.crew, len(own) + 1)
    return replace(line, technician_id=technician_id, start=start, mates=own, crew=crew)


class _Trial:
    """A visit tried on a day of somebody's: their days and what is tied to them, read once for all the starts tried."""

    def __init__(self, line: VisitLine, technicians: Sequence[int], day: date, now: datetime) -> None:
        self.line, self.day, self.now = line, day, int(now.timestamp())
        leaves = _left_that_day(line, day, technicians)
        self.days, lines = _days_of([*technicians, *leaves], day, line)
        self.leaves = leaves
        hours = day_interval(day, time_zone())
        before = {key: self._as_it_is(key) for key in (*technicians, *leaves)}
        times = {stop.visit_id: stop for timetable in before.values() for stop in timetable.stops}
        known = {row.id: row for row in (*lines, line)}
        links = orders.links_of(known.keys())
        self.ties = ties_of(links, known, times, hours=hours, times_of=partial(times_on, day, now, 1))
        self.broken_before = list(self.ties.broken())

    def _as_it_is(self, technician_id: int) -> Timetable:
        return evaluate_on(self.days, technician_id, self.now)

    def verdict(self, moved: VisitLine) -> Verdict:
        """What it means that the visit begins then and these people go."""
        assert moved.start is not None
        days, technicians = self.days, technicians_of(moved)
        stop = stop_of(moved, days.spec(moved, self.day), start=moved.start)
        beside = replace(stop, visit=without_parts(stop.visit))
        verdicts = {
            key: judge(
                days.days[key], stop if key == moved.technician_id else beside, days.travel,
                now=pressed_by(days.days[key], self.now),
            )
            for key in technicians
        }  # fmt: skip
        tied = self.tied(moved, [row.timetable for row in verdicts.values()])
        lead = verdicts.pop(technicians[0])
        told = judge_crew(lead, {days.days[key].technician.name: verdict for key, verdict in verdicts.items()})
        spared = [
            relief(days.days[key], moved.id, days.travel, now=pressed_by(days.days[key], self.now))
            for key in self.leaves
        ]
        return told.with_reasons(tied, then=spared)

    def tied(self, moved: VisitLine, timetables: Iterable[Timetable]) -> list[Reason]:
        """What of its links and its crew does not hold then, and what of others' would not any more."""
        times = {stop.visit_id: stop for timetable in timetables for stop in timetable.stops}
        after = [*crews_broken([moved]), *self.ties.broken(moved=moved, times=times)]
        own = [reason_of(row) for row in after if row.visit_id == moved.id]
        # What it does to others never forbids it: it is its price.
        others = [row for row in after if row.visit_id != moved.id and is_new(row, self.broken_before)]
        return own + [Reason(weight="warns", why=row.why, limit=row.limit) for row in others]

    def first_start(self, technician_id: int) -> int | None:
        """The first start of the day that harms nothing, rather without a warning; None: there is none."""
        own, spec = self.days.days[technician_id].without(self.line.id), self.days.spec(self.line, self.day)
        pressed = pressed_by(own, self.now)

        def holds(start: int, timetable: Timetable) -> bool:
            moved = _moved(self.line, technician_id, start, None)
            return not any(row.limit is Limit.LINK for row in self.tied(moved, [timetable]))

        for warned in (False, True):
            found = first_fit(own, spec, self.days.travel, now=pressed, warned=warned, also=holds)
            if found is not None:
                return found[0]
        return None


def _left_that_day(line: VisitLine, day: date, technicians: Collection[int]) -> list[int]:
    """Who has the visit on that day now and would not any more."""
    if line.start is None or line.technician_id is None:
        return []
    if working_date_of(line.technician_id, line.start, time_zone()) != day:
        return []
    return [key for key in technicians_of(line) if key not in technicians]


def first_start(*, visit: Visit, technician_id: int, day: date, now: datetime) -> int | None:
    """The first moment of a technician's day at which the visit fits, rather without a warning; None: there is none."""
    line = line_of(visit)
    return _Trial(line, [technician_id], day, now).first_start(technician_id)


def _days_of(technician_ids: Collection[int], day: date, line: VisitLine) -> tuple[Days, list[VisitLine]]:
    """Some technicians' days, with the place of a visit that is asked about; and the visits on them."""
    tz = time_zone()
    ids = list(technician_ids)
    technicians = [working_day(ids[0], day, tz)] if len(ids) == 1 else _known(ids, day, tz)
    others = placed_on(day, technician_ids=ids)
    return days_of(technicians, others, tz, day=day, also=[line]), others


def _known(ids: list[int], day: date, tz: ZoneInfo) -> list[WorkingDay]:
    found = working_days_between(day, day, tz, technician_ids=ids)[day]
    if len(found) < len(set(ids)):
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def fits(*, visit: Visit, day: date) -> dict[int, list[str]]:
    """For every technician, what speaks against this visit whatever the hour: skill, area, absence, no shift."""
    tz = time_zone()
    technicians = working_days(day, tz)
    line = line_of(visit)
    days = days_of(technicians, [], tz, day=day, also=[line])
    spec = days.spec(line, day)
    out = {}
    for technician in technicians:
        own = days.days[technician.id]
        noon = own.shift.hours.start if own.shift else day_interval(day, tz).start
        broken = list(fit_broken(own, stop_of(line, spec, start=noon)))
        reasons = [found.sentence for found in broken]
        if own.shift is None:
            reasons.append(f"{technician.name} has no shift that day")
        elif not own.shift.hours.seconds and not spec.calls_out:
            reasons.append(f"{technician.name} is on call that day, for work of priority 1 only")
        elif any(absence.overlap(own.shift.hours) == own.shift.hours.seconds > 0 for absence in own.absences):
            reasons.append(f"{technician.name} is absent that day")
        out[technician.id] = reasons
    return out
