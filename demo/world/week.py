"""A running week: yesterday finished, today half-way, the next days partly full, and a backlog."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from functools import partial
from zoneinfo import ZoneInfo

import numpy as np

from apps.catalogue.models import JobType, JobTypeEdition
from apps.company.numbers import take_numbers
from apps.customers.models import Asset, Site
from apps.customers.queries import place_of
from apps.orders.models import Visit, VisitEvent, WorkOrder
from apps.people.models import Absence, Technician
from apps.roads.queries import travel_among
from core.basics import Place
from core.calendars import epoch
from core.learning import Learned
from core.orders import VisitState, order_state
from core.roads import Period
from demo.world.people import People
from demo.world.stamps import parts_from_events, stamps_of
from demo.world.work import COMPLAINTS, JOBS, Job
from foundation.moments import to_datetime

# How full each day is, as a share of the shift; 0 is today.
FULLNESS = {-1: 0.97, 0: 0.90, 1: 0.62, 2: 0.42, 3: 0.22}
BACKLOG = 60
SOURCES = ("phone", "phone", "e-mail", "phone", "contract", "web", "phone", "recommended", "contract")
WINDOWS = ((8, 10), (10, 12), (12, 14), (14, 16), (8, 12), (12, 17))


@dataclass
class Week:
    """Rows being made, written all at once at the end."""

    random: np.random.Generator
    tz: ZoneInfo
    today: date
    now: int
    people: People
    sites: list[Site]
    jobs: dict[str, JobType]
    editions: dict[str, JobTypeEdition]
    orders: list[WorkOrder] = field(default_factory=list)
    visits: list[Visit] = field(default_factory=list)
    stamps: list[VisitEvent] = field(default_factory=list)
    learned: Mapping[int, Learned] = field(default_factory=dict)

    def __post_init__(self) -> None:
        places = [place_of(site) for site in self.sites]
        depots = [Place(t.depot.lon, t.depot.lat) for t in self.people.technicians]
        self.travel = travel_among(list(dict.fromkeys([*depots, *places])))
        self.assets: dict[int, list[Asset]] = defaultdict(list)
        for asset in Asset.objects.order_by("id"):
            self.assets[asset.site_id].append(asset)

    def index(self, place: Place) -> int:
        return self.travel.index[place]

    def length(self, technician_id: int, job_type_id: int, seconds: int) -> int:
        """Seconds, as history has it of whoever goes: the days are planned as a dispatcher would."""
        learned = self.learned.get(job_type_id)
        return learned.for_duration(seconds).get(technician_id, seconds) if learned else seconds

    def workday(self, offset: int) -> date:
        """The working day that many working days from today."""
        day, step = self.today, 1 if offset > 0 else -1
        while offset:
            day += timedelta(days=step)
            if day.weekday() < 5:
                offset -= step
        return day


def make_week(week: Week) -> None:
    """Make all orders and visits and write them."""
    _absences(week)
    for offset, fullness in FULLNESS.items():
        for position, technician in enumerate(week.people.technicians):
            if not _is_away(week, week.workday(offset), position):
                _fill_day(week, technician, week.workday(offset), fullness)
    _tell_today(week)
    _backlog(week)
    number_orders(week, week.visits)
    WorkOrder.objects.bulk_create(week.orders)
    Visit.objects.bulk_create(week.visits)
    VisitEvent.objects.bulk_create(week.stamps)
    parts_from_events(week.stamps)


def _absences(week: Week) -> None:
    away = week.people.technicians[10]
    half = week.people.technicians[17]
    day = week.workday(1)
    Absence.objects.bulk_create(
        [
            Absence(
                technician=away,
                start=_at(week, week.today, time(0)),
                end=_at(week, week.today + timedelta(days=1), time(0)),
                reason="ill",
            ),
            Absence(technician=half, start=_at(week, day, time(13)), end=_at(week, day, time(18)), reason="training"),
        ]
    )


def _is_away(week: Week, day: date, position: int) -> bool:
    return (position == 10 and day == week.today) or (position == 17 and day == week.workday(1))


def _fill_day(week: Week, technician: Technician, day: date, fullness: float) -> None:
    start, end = week.people.hours[technician.pk]
    free, last = epoch(day, start, week.tz), epoch(day, end, week.tz)
    until = free + int((last - free) * min(1.0, max(0.15, fullness + week.random.normal(0, 0.08))))
    here = Place(technician.depot.lon, technician.depot.lat)
    rested = False
    while True:
        choice = _next_work(week, technician, here)
        if choice is None:
            return
        site, job, asset = choice
        drive = week.travel.leg(week.index(here), week.index(place_of(site)), free).seconds
        begins = _round_up(free + drive)
        if not rested and begins > epoch(day, time(11, 45), week.tz):
            begins, rested = _round_up(begins + 2400), True
        length = week.length(technician.pk, week.jobs[job.code].pk, (job.minutes or 60) * 60)
        home = week.travel.leg(
            week.index(place_of(site)), week.index(Place(technician.depot.lon, technician.depot.lat)), begins + length
        ).seconds
        if begins + length > until or begins + length + home > last:
            return
        visit = _add(week, site, job, asset, day=day, promised_at=begins)
        visit.technician, visit.start, visit.state = technician, to_datetime(begins), VisitState.PLACED
        free, here = begins + length, place_of(site)
        if week.random.random() < 0.25:
            free += int(week.random.integers(5, 30)) * 60


def _next_work(week: Week, technician: Technician, here: Place) -> tuple[Site, Job, Asset] | None:
    """Something this technician can do, rather near than far."""
    levels, areas = week.people.levels[technician.pk], week.people.area_names[technician.pk]
    jobs = [j for j in JOBS if j.minutes and all(levels.get(s, 0) >= least for s, least in j.needs.items())]
    weights = np.array([job.share for job in jobs])
    matrix = week.travel.matrix
    origin = matrix.index[here]
    for _ in range(12):
        job = jobs[int(week.random.choice(len(jobs), p=weights / weights.sum()))]
        picks = week.random.choice(len(week.sites), size=9, replace=False)
        fitting = [
            (matrix.seconds[Period.DAY, origin, matrix.index[place_of(site)]], int(number), site, asset)
            for number in picks
            if (site := week.sites[int(number)]).area is not None
            and (not areas or site.area.name in areas)
            and (asset := _asset_for(week, site, job.fits)) is not None
            and place_of(site) != here
        ]
        if fitting:
            _, _, site, asset = min(fitting, key=lambda row: row[:2])
            return site, job, asset
    return None


def _asset_for(week: Week, site: Site, kinds: tuple[str, ...]) -> Asset | None:
    return next((asset for asset in week.assets[site.pk] if asset.kind in kinds), None)


def _add(week: Week, site: Site, job: Job, asset: Asset | None, *, day: date | None, promised_at: int | None) -> Visit:
    """An order with its visit; promised for the window that holds `promised_at`, if named."""
    template = week.jobs[job.code]
    order = WorkOrder(
        customer=site.customer,
        site=site,
        asset=asset,
        job_type=template,
        title=template.name,
        description=_complaint(week, template),
        contact_name="",
        contact_phone=site.customer.phone,
        source=SOURCES[len(week.orders) % len(SOURCES)],
        priority=template.priority,
        edition=week.editions[job.code],
        made_by="Ivo Brandt",
        made_at=to_datetime(week.now - int(week.random.integers(1, 9)) * 86_400),
    )
    visit = Visit(
        order=order, duration_seconds=template.duration_seconds, needs=template.needs, priority=template.priority,
        takes=template.parts, worth=template.worth,
    )  # fmt: skip
    if day is not None and promised_at is not None and week.random.random() < 0.8:
        window = _window_around(week, day, promised_at)
        if window:
            visit.promise_start, visit.promise_end = window
    week.orders.append(order)
    week.visits.append(visit)
    return visit


def number_orders(week: Week, visits: list[Visit]) -> None:
    """Give each visit's order its number, and what follows from its one visit."""
    numbers = take_numbers("order", len(visits), now=to_datetime(week.now))
    for visit, number in zip(visits, numbers, strict=True):
        order = visit.order
        order.number, order.state = number, order_state([VisitState(visit.state)])
        if not VisitState(visit.state).is_ended:
            order.promise_start, order.promise_end, order.due = visit.promise_start, visit.promise_end, visit.due


def _complaint(week: Week, job: JobType) -> str:
    texts = COMPLAINTS.get(job.code)
    if not texts:
        return job.name
    text = texts[int(week.random.integers(len(texts)))]
    return text.format(n=int(week.random.integers(2, 60)), f=int(week.random.integers(1, 9)))


def _window_around(week: Week, day: date, moment: int) -> tuple[datetime, datetime] | None:
    fitting = [
        (first, last)
        for first, last in WINDOWS
        if epoch(day, time(first), week.tz) <= moment <= epoch(day, time(last), week.tz) - 1200
    ]
    if not fitting:
        return None
    first, last = fitting[int(week.random.integers(len(fitting)))]
    return _at(week, day, time(first)), _at(week, day, time(last))


def _tell_today(week: Week) -> None:
    """What has happened by now: sent, accepted, under way, done; and one that is late."""
    by_technician: dict[int, list[Visit]] = defaultdict(list)
    for visit in week.visits:
        by_technician[visit.technician_id or 0].append(visit)
    # A long job that ran over: what comes after it will be late.
    late = week.people.technicians[4].pk
    length_of = partial(_length_of, week)
    for key, visits in by_technician.items():
        visits.sort(key=lambda visit: visit.start or to_datetime(0))
        week.stamps += stamps_of(visits, week.now, week.random, overruns=key == late, tz=week.tz, length_of=length_of)


def _length_of(week: Week, visit: Visit) -> int:
    return week.length(visit.technician_id or 0, visit.order.job_type_id or 0, visit.duration_seconds or 3600)


def _backlog(week: Week) -> None:
    jobs = [job for job in JOBS if job.code != "trapped"]
    weights = np.array([job.share for job in jobs]) / sum(job.share for job in jobs)
    made = 0
    while made < BACKLOG:
        job = jobs[int(week.random.choice(len(jobs), p=weights))]
        site = week.sites[int(week.random.integers(len(week.sites)))]
        asset = _asset_for(week, site, job.fits)
        if asset is None:
            continue
        visit = _add(week, site, job, asset, day=None, promised_at=None)
        made += 1
        if made <= 9:
            day = week.today if made <= 4 else week.workday(1)
            first, last = ((14, 16), (12, 17), (14, 17), (15, 17))[made % 4] if made <= 4 else WINDOWS[made % 4]
            visit.promise_start, visit.promise_end = _at(week, day, time(first)), _at(week, day, time(last))
        elif made <= 14:
            visit.due = _at(week, week.workday(-1), time(17))
        else:
            visit.due = _at(week, week.today + timedelta(days=int(week.random.integers(1, 21))), time(17))


def _at(week: Week, day: date, at: time) -> datetime:
    return to_datetime(epoch(day, at, week.tz))


def _round_up(moment: int, step: int = 300) -> int:
    return -(-moment // step) * step
