"""Who could be there first: for work that cannot wait."""

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from apps.catalogue.models import JobType
from apps.company.queries import time_zone
from apps.orders.drafts import Draft, visit_of_draft
from apps.orders.lines import VisitLine, line_of
from apps.orders.models import Visit
from apps.people.working_days import WorkingDay, working_days_between
from apps.scheduling.assembling import days_of, technicians_of
from apps.scheduling.placed import placed_by_day
from core.appointments.responders import Displaced, Elsewhere, Response, elsewhere, response
from core.basics import minutes_in_words
from core.calendars import day_interval, local_day, local_time
from core.orders import VisitState
from core.scheduling import Day, Stop, Verdict, VisitSpec, pressed_by, whereabouts
from core.scheduling.evaluation.rules import fit_broken
from foundation.errors import NotFound

# Less is not worth a word.
MINUTE = 60


@dataclass(frozen=True, kw_only=True)
class Responder:
    """Somebody who could go: what they are in the middle of, the drive from there, and what going would be.

    `soonest`: nobody could be there before; `gives_way`: labels of the visits that come later.
    """

    technician_id: int
    name: str
    phone: str
    doing: str
    drive_seconds: int
    response: Response
    soonest: bool
    gives_way: list[str]

    @property
    def start(self) -> int:
        return self.response.start


@dataclass(frozen=True, kw_only=True)
class GivesWay:
    """A visit that urgent work would displace, and where it could go instead."""

    line: VisitLine
    displaced: Displaced
    elsewhere: Elsewhere | None
    name: str


@dataclass(frozen=True, kw_only=True)
class Decision:
    """What giving urgent work to somebody comes to: the start that is given, and who gives way to it."""

    start: int
    by: int | None
    verdict: Verdict
    gives_way: list[GivesWay]


@dataclass(frozen=True, kw_only=True)
class FirstThere:
    """Until when somebody must be there, and who could be first."""

    respond_by: int
    minutes: int
    first: list[Responder]


# So many are named while the caller is on the line; all of them beside the board.
NAMED = 3


def first_there(*, draft: Draft, now: datetime) -> FirstThere | None:
    """For a call that is being taken: None unless its job type has to be responded to within this day."""
    visit = visit_of_draft(draft)
    job = visit.order.job_type
    by = respond_by(job, int(now.timestamp()))
    if job is None or by is None:
        return None
    # Whoever goes is told how long: an hour, where nobody has said.
    visit.duration_seconds = visit.duration_seconds or 3600
    first = responders(visit=visit, now=now, by=by)[:NAMED]
    return FirstThere(respond_by=by, minutes=job.respond_minutes or 0, first=first)


def respond_by(job: JobType | None, now: int) -> int | None:
    """Until when work of this type must be responded to, where that is within the day."""
    if job is None or not job.respond_minutes:
        return None
    moment = now + 60 * job.respond_minutes
    return moment if moment <= day_interval(local_day(now, time_zone()), time_zone()).end else None


def needed_by(visit: Visit, now: int) -> int | None:
    """Until when somebody must have begun: the end of the promise, else of the job's time to respond. None: nothing
    says so, or it has passed."""
    if visit.promise is not None:
        return visit.promise.end if visit.promise.end > now else None
    job = visit.order.job_type
    if job is None or not job.respond_minutes:
        return None
    by = int(visit.order.made_at.timestamp()) + 60 * job.respond_minutes
    return by if by > now else None


def responders(*, visit: Visit, now: datetime, by: int | None = None) -> list[Responder]:
    """Everybody at work now whose skills allow it: who is there in time and costs least first.

    Parameters
    ----------
    by
        When somebody must have begun; None: as the visit says itself.
    """
    field_ = _Field(visit, now, by)
    able = [row for row in map(field_.responder, field_.able()) if row.response.verdict.allowed]
    soonest = min((row.start for row in able), default=0)
    able = [replace(row, soonest=row.start == soonest) for row in able]
    return sorted(
        able, key=lambda row: (row.response.in_time is False, row.response.points, row.start, row.technician_id)
    )


def decision(*, visit: Visit, technician_id: int, now: datetime) -> Decision:
    """What giving it to somebody comes to, with a place elsewhere for what gives way.

    Raises
    ------
    NotFound
        When that technician is not at work now.
    """
    field_ = _Field(visit, now, None)
    person = next((row for row in field_.people if row.id == technician_id), None)
    if person is None:
        raise NotFound("This technician is not at work now.", code="no_technician")
    found = field_.responder(person).response
    others = {key: day for key, day in field_.days.days.items() if key != technician_id}
    specs = [field_.stopped(technician_id, row.visit_id) for row in found.displaced]
    places = elsewhere(
        others, specs, field_.days.travel, now={key: pressed_by(day, field_.now) for key, day in others.items()}
    )
    names = {row.id: row.name for row in field_.people}
    rows = []
    for displaced in found.displaced:
        place = places.get(displaced.visit_id)
        name = names.get(place.technician_id, "") if place else ""
        rows.append(GivesWay(line=field_.lines[displaced.visit_id], displaced=displaced, elsewhere=place, name=name))
    return Decision(start=found.start, by=field_.by, verdict=found.verdict, gives_way=rows)


def _at_work(day: date, now: int) -> tuple[list[WorkingDay], list[VisitLine]]:
    """Who works today from now on, or is still at work from a night that began yesterday; and what they have to do."""
    before = day - timedelta(days=1)
    by_day, dates = placed_by_day(before, day)
    shifts = working_days_between(before, day, time_zone())
    people = [
        row
        for on in (before, day)
        for row in shifts[on]
        if row.shift and now < row.shift.last_end and dates.of(row.id, now) == on
    ]
    night = {row.id for row in people if dates.of(row.id, now) == before}
    last_night = [line for line in by_day[before] if night & set(technicians_of(line))]
    return people, [*last_night, *(line for line in by_day[day] if line.technician_id not in night)]


class _Field:
    """Who is where now, and the urgent visit as everybody's day would have it."""

    def __init__(self, visit: Visit, now: datetime, by: int | None) -> None:
        tz = time_zone()
        self.now = int(now.timestamp())
        day = local_day(self.now, tz)
        line = line_of(visit)
        self.people, placed = _at_work(day, self.now)
        self.lines = {row.id: row for row in placed}
        self.days = days_of(self.people, placed, tz, day=day, also=[line])
        self.spec = self.days.spec(line, day)
        self.by = needed_by(visit, self.now) if by is None else by
        self.playbook = self.days.facts.playbook

    def able(self) -> list[WorkingDay]:
        """Who may be sent at all; of the others it is not worked out what sending them would be."""
        stop = Stop(visit=self.spec, start=self.now)
        return [
            row for row in self.people if not any(found.refuses for found in fit_broken(self.days.days[row.id], stop))
        ]

    def stopped(self, technician_id: int, visit_id: int) -> VisitSpec:
        stops = self.days.days[technician_id].stops
        return next(stop.visit for stop in stops if stop.visit.id == visit_id)

    def responder(self, person: WorkingDay) -> Responder:
        own = self.days.days[person.id].without(self.spec.id)
        pressed = pressed_by(own, self.now)
        here = whereabouts(own, self.days.travel, now=pressed)
        assert own.shift is not None
        place = here.place if here else own.start_place
        free = max(here.free if here else own.shift.hours.start, self.now)
        drive = self.days.travel.leg(place, self.spec.place, free).seconds
        soonest = free + drive
        if self.spec.promise is not None and self.by is not None:
            soonest = max(soonest, self.spec.promise.start)
        found = response(
            own, self.spec, self.days.travel, soonest=soonest, by=self.by, asked=self.now, playbook=self.playbook,
            now=pressed,
        )  # fmt: skip
        return Responder(
            technician_id=person.id, name=person.name, phone=person.phone, drive_seconds=drive, response=found,
            doing=_doing(own, self.lines, free, self.now), soonest=False,
            gives_way=[self._in_words(row) for row in found.displaced],
        )  # fmt: skip

    def _in_words(self, row: Displaced) -> str:
        line = self.lines[row.visit_id]
        why = f", {row.breaks[0][0].lower()}{row.breaks[0][1:]}" if row.breaks else ""
        later = f" {minutes_in_words(row.later)} later" if row.later >= MINUTE else ""
        return f"{line.number} {line.site}{later}{why}"


def _doing(own: Day, lines: dict[int, VisitLine], free: int, now: int) -> str:
    """What somebody is in the middle of, in words."""
    begun = [lines[stop.visit.id] for stop in own.running if stop.visit.id in lines]
    busy = next((row for row in reversed(begun) if row.state.is_under_way), None)
    if busy is not None:
        words = {VisitState.EN_ROUTE: "on the way to", VisitState.ON_HOLD: "on hold at"}.get(busy.state, "at")
        return f"{words} {busy.site}, free about {local_time(free, own.tz)}"
    last = next((row for row in reversed(begun) if row.finished is not None), None)
    if last is not None and last.finished is not None:
        return f"free for {minutes_in_words(max(0, now - last.finished))}, was last at {last.site}"
    assert own.shift is not None
    if now < own.shift.hours.start:
        return f"begins at {local_time(own.shift.hours.start, own.tz)}"
    return "free, nothing begun yet today"
