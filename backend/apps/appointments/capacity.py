"""Hours free, promised and expected by area and day, and the work behind each figure."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from apps.company.queries import area_name, areas, time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.queries import EXPECTED_WEEKS, ShortNotice
from apps.people.queries import skill_names
from apps.scheduling.problems import Loaded, load_problem
from core.appointments.capacity import Outlooks, Worker, outlook, promised_work, workers
from core.scheduling import KEEP_PROMISES
from foundation.errors import Rejected


@dataclass(frozen=True, kw_only=True)
class Waiting:
    """Work that waits without a promise: how many visits, and how long they take together."""

    visits: int
    seconds: int


@dataclass(frozen=True, kw_only=True)
class Capacity:
    """Outlooks by area (name by id) and day and of the whole company; what waits without a promise by area ("": outside
    of all)."""

    areas: dict[int, str]
    days: list[date]
    outlooks: Outlooks
    waiting: dict[str, Waiting]

    @property
    def waiting_total(self) -> Waiting:
        rows = self.waiting.values()
        return Waiting(visits=sum(row.visits for row in rows), seconds=sum(row.seconds for row in rows))


def capacity(*, first: date, days: int, skill: str | None, now: datetime) -> Capacity:
    """Hours of some days; `skill` by key: only of those who have it, and of work that needs it."""
    problem, called = _load(first, days, now).problem, _called(skill)
    names = {area.pk: area.name for area in areas()}
    dates = [first + timedelta(days=number) for number in range(days)]
    expected = orders.short_notice_seconds(now=now, skill=skill)
    return Capacity(
        areas=names, days=dates, waiting=_waiting(skill),
        outlooks=outlook(problem, areas=list(names.values()), days=dates, skill=called, expected=expected),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Behind:
    """The work behind one figure.

    Attributes
    ----------
    workers : who works there that day; `area` is empty for the whole company.
    promised : what was promised for that day there and has no technician.
    expected : what came in at short notice on such a weekday, of which a usual day is the `weeks`th part.
    """

    area: str
    workers: list[Worker]
    promised: list[VisitLine]
    expected: list[ShortNotice]
    weeks: int = EXPECTED_WEEKS


def behind(*, day: date, area_id: int | None, skill: str | None, now: datetime) -> Behind:
    """What the figures of one area and day are made of; without an area those of the whole company."""
    area = area_name(area_id) if area_id is not None else ""
    loaded = _load(day, 1, now)
    names = [row.name for row in areas()]
    called = _called(skill)
    everybody = workers(loaded.problem, areas=names, skill=called)
    tz = time_zone()
    promised = [
        loaded.lines[visit.id]
        for (where, _day), visits in promised_work(loaded.problem, called).items()
        if not area or where == area
        for visit in visits
    ]
    expected = [
        row
        for row in orders.short_notice(now=now, skill=skill)
        if row.start.astimezone(tz).weekday() == day.weekday() and (not area or row.area == area)
    ]
    return Behind(
        area=area, workers=[worker for worker in everybody if not area or area in worker.areas], promised=promised,
        expected=expected,
    )  # fmt: skip


def _called(skill: str | None) -> str | None:
    """What the core knows a skill by, of which the key is given."""
    if skill is None:
        return None
    try:
        return skill_names()[skill]
    except KeyError as error:
        raise Rejected(f"Unknown skill: {skill}.", field="skill") from error


def _load(first: date, days: int, now: datetime) -> Loaded:
    return load_problem(first=first, days=days, playbook=KEEP_PROMISES, now=now, promised_only=True)


def _waiting(skill: str | None) -> dict[str, Waiting]:
    found: dict[str, Waiting] = {}
    for line in orders.open_visits():
        if line.promise is None and line.technician_id is None and (skill is None or skill in line.needs):
            known = found.get(line.area or "", Waiting(visits=0, seconds=0))
            seconds = (line.duration_seconds or 3600) * line.crew
            found[line.area or ""] = Waiting(visits=known.visits + 1, seconds=known.seconds + seconds)
    return found
