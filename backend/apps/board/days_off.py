"""Days off that wait for an answer, with what granting them would mean."""

from collections.abc import Sequence
from dataclasses import dataclass

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people import days_off
from apps.people.commands.days_off import span_of
from apps.people.days_off import Allowance
from apps.people.models import Absence, DaysAsked
from core.basics import Interval
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class Effect:
    """What it means to grant days off: working days lost, visits that stand there (some of them promised), who else is
    away, and the holiday of the year with these days."""

    asked: DaysAsked
    working_days: int
    visits: Sequence[VisitLine]
    others: Sequence[str]
    allowance: Allowance

    @property
    def promised(self) -> int:
        return sum(row.promise is not None for row in self.visits)


def waiting() -> list[Effect]:
    """All that nobody has answered, by the first day."""
    return [effect_of(row) for row in days_off.waiting()]


def effect_of(row: DaysAsked) -> Effect:
    tz = time_zone()
    start, end = span_of(row)
    found = orders.visits_within(Interval(start=start, end=end), technician_ids=[row.technician_id])
    away = Absence.objects.filter(start__lt=to_datetime(end), end__gt=to_datetime(start))
    return Effect(
        asked=row, working_days=days_off.working_days_of(row, tz),
        visits=[visit for visit in found if not visit.state.is_ended],
        others=sorted(set(away.exclude(technician_id=row.technician_id).values_list("technician__name", flat=True))),
        allowance=days_off.allowance_of(row.technician_id, row.first_day.year, tz),
    )  # fmt: skip
