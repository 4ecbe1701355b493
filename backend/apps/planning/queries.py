"""Reading the board, and asking what a placement would mean."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from apps.company.queries import areas, time_zone
from apps.customers.people import refused_at
from apps.orders import queries as orders
from apps.orders.lines import VisitLine, line_of
from apps.orders.models import Visit
from apps.people.working_days import WorkingDay, working_day, working_days
from apps.planning.models import Change, PlanningRun
from apps.planning.problems import load_problem
from apps.planning.translate import Days, days_of, opening_of, spec_of_visit, stop_of
from core.basics import Interval
from core.calendars import day_interval, local_day
from core.orders import VisitState
from core.planning import (
    KEEP_PROMISES,
    Broken,
    Day,
    Lamp,
    Timetable,
    Verdict,
    VisitSpec,
    evaluate_day,
    judge,
    lamp,
    pressed_by,
)
from core.planning.capacity import Outlook, outlook
from core.planning.rules import fit_rules
from core.planning.safety import Spread, likelihoods
from foundation.errors import NotFound

# Enough to tell nine in ten from eight in ten; a board is looked at often.
BOARD_SAMPLES = 400


@dataclass(frozen=True, kw_only=True)
class Lane:
    """A technician's day on the board."""

    technician: WorkingDay
    day: Day
    timetable: Timetable


@dataclass(frozen=True, kw_only=True)
class Board:
    day: date
    hours: Interval
    now: int
    lanes: list[Lane]
    visits: list[VisitLine]


def board(*, day: date, now: datetime) -> Board:
    """Everybody's day, evaluated."""
    tz = time_zone()
    hours = day_interval(day, tz)
    visits = orders.visits_within(hours)
    technicians = working_days(day, tz)
    days = days_of(technicians, visits, tz, day=day)
    moment = int(now.timestamp())
    lanes = [Lane(technician=t, day=days.days[t.id], timetable=evaluate_on(days, t.id, moment)) for t in technicians]
    return Board(day=day, hours=hours, now=moment, lanes=lanes, visits=visits)


def evaluate_on(days: Days, technician_id: int, now: int) -> Timetable:
    day = days.days[technician_id]
    return evaluate_day(day, days.travel, now=pressed_by(day, now))


def safety(board_: Board) -> dict[int, tuple[Lamp, float | None]]:
    """How safe each promise on the board is: its lamp, and how likely it is to be kept."""
    lanes = [lane for lane in board_.lanes if any(stop.visit.windows for stop in lane.day.stops)]
    chances = likelihoods(
        [lane.day for lane in lanes],
        [lane.timetable for lane in lanes],
        spread=Spread(work=_spread_of_work(board_.visits)),
        samples=BOARD_SAMPLES,
    )
    times = {stop.visit_id: stop for lane in board_.lanes for stop in lane.timetable.stops}
    found = {}
    for visit in board_.visits:
        chance, arrived = chances.get(visit.id), visit.arrived is not None
        shown = lamp(visit.promise, times.get(visit.id), arrived=arrived, likelihood=chance)
        found[visit.id] = (shown, None if visit.promise is None or arrived else chance)
    return found


def _spread_of_work(visits: list[VisitLine]) -> dict[int, float]:
    """How much each visit's length scatters, as a share of it, where history says."""
    known = orders.learned_durations()
    return {
        visit.id: learned.spread / learned.mean
        for visit in visits
        if visit.job_type is not None and (learned := known.get(visit.job_type)) is not None
    }


def judge_placement(*, visit: Visit, technician_id: int, start: int, now: datetime) -> Verdict:
    """What placing the visit there would mean; changes nothing."""
    tz = time_zone()
    day = local_day(start, tz)
    technician = working_day(technician_id, day, tz)
    others = orders.visits_within(day_interval(day, tz), technician_id=technician_id)
    line = line_of(visit)
    days = days_of([technician], others, tz, day=day, also=[line.place])
    target = days.days[technician_id]
    stop = stop_of(line, _spec(line, days, day), start=start)
    return judge(target, stop, days.travel, now=pressed_by(target, int(now.timestamp())))


def _spec(line: VisitLine, days: Days, day: date) -> VisitSpec:
    opening = opening_of(line, day, day, time_zone())
    return spec_of_visit(line, days.index, opening=opening, refused=refused_at([line.site_id]))


def fits(*, visit: Visit, day: date) -> dict[int, list[str]]:
    """For every technician, what speaks against this visit whatever the hour: skill, area, absence, no shift."""
    tz = time_zone()
    technicians = working_days(day, tz)
    line = line_of(visit)
    days = days_of(technicians, [], tz, day=day, also=[line.place])
    spec = _spec(line, days, day)
    out = {}
    for technician in technicians:
        own = days.days[technician.id]
        noon = own.shift.hours.start if own.shift else day_interval(day, tz).start
        broken: list[Broken] = list(fit_rules(own, stop_of(line, spec, start=noon)))
        reasons = [found.sentence for found in broken]
        if own.shift is None:
            reasons.append(f"{technician.name} has no shift that day")
        elif any(absence.overlap(own.shift.hours) == own.shift.hours.seconds for absence in own.absences):
            reasons.append(f"{technician.name} is absent that day")
        out[technician.id] = reasons
    return out


def capacity(*, first: date, days: int, skill: str | None, now: datetime) -> dict[tuple[str, date], Outlook]:
    """Hours free, promised and expected, by area and day."""
    loaded = load_problem(first=first, days=days, playbook=KEEP_PROMISES, now=now, promised_only=True)
    names = [area.name for area in areas()]
    dates = [first + timedelta(days=number) for number in range(days)]
    expected = orders.short_notice_seconds(now=now, skill=skill)
    return outlook(loaded.problem, areas=names, days=dates, skill=skill, expected=expected)


def backlog_reasons(visit: VisitLine, now: int) -> list[str]:
    """Why a visit is in the backlog, the loudest first."""
    reasons = []
    if visit.promise is not None:
        reasons.append("nobody")
    if (visit.due is not None and visit.due < now) or (visit.promise is not None and visit.promise.end < now):
        reasons.append("overdue")
    if visit.duration_seconds is None:
        reasons.append("no duration")
    if visit.standby is not None:
        reasons.append("standby")
    return reasons or ["unplaced"]


def undoable(*, actor_id: int, limit: int = 20) -> list[Change]:
    """What this dispatcher did last and can still undo, newest first."""
    return list(
        Change.objects.filter(actor_id=actor_id, undone=False).select_related("visit__order").order_by("-id")[:limit]
    )


def unsent(*, day: date) -> list[VisitLine]:
    """Placed visits of a day that nobody has been told about."""
    stretch = day_interval(day, time_zone())
    return [visit for visit in orders.visits_within(stretch) if visit.state is VisitState.PLACED]


def latest_runs(*, limit: int = 20) -> list[PlanningRun]:
    """The last planning runs, newest first."""
    return list(PlanningRun.objects.defer("proposal").order_by("-id")[:limit])


def run(run_id: int) -> PlanningRun:
    found = PlanningRun.objects.filter(pk=run_id).first()
    if found is None:
        raise NotFound("There is no such planning run.", code="no_run")
    return found
