"""Reading day logs."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from apps.company.queries import record_fields
from apps.daylogs.models import DayLog, Fuel, Pause
from apps.orders.models import Assignment
from apps.people.models import Technician, Vehicle
from apps.scheduling.placed import placed_on
from core.daylogs import DayFacts, OddEntry, Stretch, Summary, VisitOfDay, odd_entries, summary
from core.forms import unanswered
from core.orders import VisitState
from foundation.moments import to_moment

# So many days back it is still asked about what is odd.
ASKED_DAYS = 3
_OVER = frozenset({VisitState.DONE, VisitState.REVIEWED, VisitState.CANCELLED, VisitState.MISSED})


@dataclass(frozen=True, kw_only=True)
class OwnVisit:
    """A visit of the day, by its id, and one's own part in it."""

    id: int
    row: VisitOfDay


@dataclass(frozen=True, kw_only=True)
class Day:
    """All of somebody's day. `log` None: nothing was said of it yet."""

    technician: Technician
    day: date
    log: DayLog | None
    visits: Sequence[OwnVisit]

    @property
    def vehicle(self) -> Vehicle | None:
        """What is driven: as it was said, else the usual one."""
        return (self.log.vehicle if self.log else None) or self.technician.vehicle

    @property
    def facts(self) -> DayFacts:
        log = self.log
        visits = [visit.row for visit in self.visits]
        if log is None:
            return DayFacts(visits=visits, drives=self.vehicle is not None)
        questions = record_fields("vehicle")
        return DayFacts(
            began=to_moment(log.began_at), ended=to_moment(log.ended_at),
            pauses=[Stretch(since=to_moment(one.since) or 0, until=to_moment(one.until)) for one in pauses_of(log)],
            odometer_began=log.odometer_began, odometer_ended=log.odometer_ended, drives=self.vehicle is not None,
            checks_open=len(unanswered(questions, log.checks, to="close")),
            fuel_without_receipt=sum(1 for row in fuel_of(log) if not row.size), visits=visits,
        )  # fmt: skip

    @property
    def summary(self) -> Summary:
        return summary(self.facts)

    @property
    def odd(self) -> tuple[OddEntry, ...]:
        """What nobody has explained yet."""
        said = {row.key for row in self.log.explained.all()} if self.log else set()
        return tuple(row for row in odd_entries(self.facts) if row.key not in said)


def pauses_of(log: DayLog) -> list[Pause]:
    return sorted(log.pauses.all(), key=lambda row: row.since)


def fuel_of(log: DayLog) -> list[Fuel]:
    return sorted(log.fuel.all(), key=lambda row: row.at)


def day_of(technician_id: int, day: date) -> Day:
    """Somebody's day, with their visits in order."""
    return days_of(technician_id, [day])[0]


def days_of(technician_id: int, days: Sequence[date]) -> list[Day]:
    """The same of several days."""
    technician = Technician.objects.select_related("vehicle").get(pk=technician_id)
    rows = DayLog.objects.filter(technician=technician_id, day__in=days)
    logs = {log.day: log for log in rows.select_related("vehicle").prefetch_related("pauses", "fuel", "explained")}
    return [
        Day(technician=technician, day=day, log=logs.get(day), visits=_visits(technician_id, day)) for day in days
    ]  # fmt: skip


def _visits(technician_id: int, day: date) -> list[OwnVisit]:
    lines = placed_on(day, technician_ids=[technician_id])
    parts = Assignment.objects.filter(technician=technician_id, visit__in=[line.id for line in lines])
    own = {row.visit_id: row for row in parts.select_related("visit__order")}
    return [
        OwnVisit(
            id=line.id,
            row=VisitOfDay(
                label=own[line.id].visit.label, departed=to_moment(own[line.id].departed_at),
                arrived=to_moment(own[line.id].arrived_at), finished=to_moment(own[line.id].finished_at),
                over=line.state in _OVER or own[line.id].finished_at is not None,
            ),
        )
        for line in lines
        if line.id in own
    ]  # fmt: skip


def unanswered_before(technician_id: int, day: date) -> list[Day]:
    """The last few days before one of which something is odd and not explained, the newest first."""
    days = [day - timedelta(days=back) for back in range(1, ASKED_DAYS + 1)]
    return [found for found in days_of(technician_id, days) if found.odd]


def last_days(until: date, count: int) -> list[date]:
    """So many days up to one, the newest first."""
    return [until - timedelta(days=back) for back in range(count)]


def vehicles() -> list[Vehicle]:
    """What may be driven, by name."""
    return list(Vehicle.objects.filter(retired=False, merged_into="").order_by("name"))


def receipt(fuel_id: UUID) -> Fuel | None:
    return Fuel.objects.filter(pk=fuel_id).select_related("receipt", "log").first()
