"""Reading the board: the days shown, and what waits beside them."""

from collections.abc import Collection, Mapping, Sequence, Set
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db.models import F

from apps.board.models import Reminder
from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.reach import visits_within
from apps.people.models import Account
from apps.scheduling.placed import placed_by_day
from apps.scheduling.schedule import Schedule, schedule
from core.basics import Interval
from core.orders import VisitState
from foundation.actors import Actor
from foundation.moments import to_datetime

Reminders = Mapping[tuple[int, date], Sequence[Reminder]]
# A month of everybody is looked at as figures, not as lines.
MOST_DAYS = 14


@dataclass(frozen=True, kw_only=True)
class Board:
    """What stands on the days shown; reminders by technician and date."""

    schedule: Schedule
    reminders: Reminders


def board(*, first: date, now: datetime, days: int = 1, technician_ids: Collection[int] | None = None) -> Board:
    """Days of everybody, or of some technicians, evaluated."""
    found = schedule(first=first, now=now, days=days, technician_ids=technician_ids)
    return Board(schedule=found, reminders=_reminders(found.hours, [lane.technician.id for lane in found.lanes]))


def _reminders(hours: Interval, ids: Collection[int]) -> dict[tuple[int, date], list[Reminder]]:
    tz = time_zone()
    found: dict[tuple[int, date], list[Reminder]] = {}
    within = (to_datetime(hours.start), to_datetime(hours.end))
    rows = Reminder.objects.filter(at__gte=within[0], at__lt=within[1], technician_id__in=ids)
    for row in rows.order_by("at", "id"):
        if row.technician_id is not None:
            found.setdefault((row.technician_id, row.at.astimezone(tz).date()), []).append(row)
    return found


def to_think_of(
    *, account_id: int | None, since: datetime | None = None, before: datetime | None = None, limit: int = 100
) -> list[Reminder]:  # fmt: skip
    """Reminders of people that are not done, the earliest first: one person's, or everybody's; those from a moment on
    and of before another one, or all."""
    rows = Reminder.objects.select_related("person").filter(person__isnull=False, done_at=None)
    rows = rows if account_id is None else rows.filter(person_id=account_id)
    rows = rows if since is None else rows.filter(at__gte=since)
    rows = rows if before is None else rows.filter(at__lt=before)
    return list(rows.order_by("at", "id")[:limit])


def reminders_on(technician_id: int, *, since: datetime, before: datetime) -> list[Reminder]:
    """What is to be thought of on a technician's line between two moments, and not done."""
    rows = Reminder.objects.filter(technician_id=technician_id, done_at=None, at__gte=since, at__lt=before)
    return list(rows.order_by("at", "id"))


def people_to_remind() -> list[tuple[int, str]]:
    """Number and name of everybody who comes in, at a desk or with a phone."""
    return list(Account.objects.filter(is_active=True).order_by("name", "id").values_list("id", "name"))


def reminders_about(about: str, about_id: int, *, limit: int = 100) -> list[Reminder]:
    """Reminders about a record: what is not done first, the earliest first."""
    rows = Reminder.objects.select_related("person").filter(about=about, about_id=about_id)
    return list(rows.order_by(F("done_at").asc(nulls_first=True), "at", "id")[:limit])


def backlog_reasons(visit: VisitLine, now: int, *, declined: Set[int] = frozenset()) -> list[str]:
    """Why a visit is in the backlog, the loudest first."""
    if visit.technician_id is not None:
        return ["standby"]
    reasons = []
    if visit.promise is not None:
        reasons.append("nobody")
    if visit.id in declined:
        reasons.append("declined")
    if (visit.due is not None and visit.due < now) or (visit.promise is not None and visit.promise.end < now):
        reasons.append("overdue")
    if visit.duration_seconds is None:
        reasons.append("no duration")
    if visit.standby is not None:
        reasons.append("standby")
    return reasons or ["unplaced"]


def unsent(*, actor: Actor, day: date, days: int = 1, technician_id: int | None = None) -> list[VisitLine]:
    """Placed visits of some days that nobody has been told about and that the actor may send."""
    ids = None if technician_id is None else [technician_id]
    by_day, _dates = placed_by_day(day, day + timedelta(days=days - 1), technician_ids=ids)
    found = [row for lines in by_day.values() for row in lines if row.state is VisitState.PLACED]
    mine = visits_within(actor, (row.id for row in found))
    return [row for row in found if row.id in mine]


# How far back it counts who worked together, and how often makes it worth saying.
TOGETHER_WEEKS, TOGETHER_LEAST = 26, 3


def often_together(*, now: datetime) -> list[tuple[tuple[int, ...], int]]:
    """Who went to visits together lately, and how often, the most frequent first."""
    return orders.went_together(since=now - timedelta(weeks=TOGETHER_WEEKS), least=TOGETHER_LEAST)
