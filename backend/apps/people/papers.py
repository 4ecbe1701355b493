"""What is about to run out: certificates of who works here, and inspections of what they drive."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Q

from apps.company.queries import time_zone
from apps.people.models import Certificate, Vehicle
from core.calendars import day_words, local_day
from foundation import clock

# So many days before something ends it is pointed at.
WARN_DAYS = 30


@dataclass(frozen=True, kw_only=True)
class RunningOut:
    """`key` stays the same as long as it is the same end. `technician_id`: whose it is; `vehicle`: of which."""

    key: str
    label: str
    sentence: str
    technician_id: int | None = None
    vehicle: str | None = None


def running_out() -> list[RunningOut]:
    """What has ended or ends within thirty days, the first to end first."""
    today = local_day(int(clock.now().timestamp()), time_zone())
    found = [*_certificates(today), *_inspections(today)]
    return [row for _end, row in sorted(found, key=lambda pair: (pair[0], pair[1].label))]


def _certificates(today: date) -> Iterator[tuple[date, RunningOut]]:
    here = Q(technician__employed_until__isnull=True) | Q(technician__employed_until__gte=today)
    rows = Certificate.objects.select_related("kind", "technician").filter(
        here, valid_until__lte=today + timedelta(days=WARN_DAYS)
    )
    for row in rows:
        if row.valid_until is None:
            continue
        ends = "ran out" if row.valid_until < today else "runs out"
        yield row.valid_until, RunningOut(
            key=f"certificate {row.pk} {row.valid_until}", label=row.technician.name,
            sentence=f"{row.kind.name} {ends} on {_said(row.valid_until, today)}", technician_id=row.technician_id,
        )  # fmt: skip


def _inspections(today: date) -> Iterator[tuple[date, RunningOut]]:
    rows = Vehicle.objects.filter(retired=False, merged_into="", inspection_due__lte=today + timedelta(days=WARN_DAYS))
    for row in rows:
        if row.inspection_due is None:
            continue
        due = "was due" if row.inspection_due < today else "is due"
        plate = f" ({row.plate})" if row.plate else ""
        yield row.inspection_due, RunningOut(
            key=f"inspection {row.code} {row.inspection_due}", label=f"{row.name}{plate}",
            sentence=f"the inspection {due} on {_said(row.inspection_due, today)}", vehicle=row.code,
        )  # fmt: skip


def _said(day: date, today: date) -> str:
    return day_words(day, year=day.year != today.year)
