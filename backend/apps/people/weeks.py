"""The weeks of a technician: which shifts hold from which day on."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, fields
from datetime import date, datetime

from django.db.models import Q

from apps.company.queries import time_zone
from apps.people.inputs import ShiftFields
from apps.people.models import WeeklyShiftRow
from core.calendars import local_day, week_of_rotation

_SHIFT = tuple(field.name for field in fields(ShiftFields))


@dataclass(frozen=True, kw_only=True)
class Week:
    """Shifts that hold from a day on, until before another one; None: for good. `current` is which of the weeks in turn
    today lies in, or the first day they hold."""

    valid_from: date
    valid_until: date | None
    weeks: int
    current: int
    shifts: Sequence[ShiftFields]


def weeks_of(technician_id: int, *, now: datetime) -> list[Week]:
    """Today's week and those to come, in order. A stretch without any shift is none."""
    today = local_day(int(now.timestamp()), time_zone())
    rows = WeeklyShiftRow.objects.filter(
        Q(valid_until__isnull=True) | Q(valid_until__gt=today), technician_id=technician_id
    )
    found: defaultdict[tuple[date, date | None, int], list[ShiftFields]] = defaultdict(list)
    for since, until, weeks, *shift in rows.order_by("valid_from", "week", "weekday").values_list(
        "valid_from", "valid_until", "weeks", *_SHIFT
    ):
        found[since, until, weeks].append(ShiftFields(**dict(zip(_SHIFT, shift, strict=True))))
    return [
        Week(
            valid_from=since, valid_until=until, weeks=weeks, shifts=shifts,
            current=week_of_rotation(max(today, since), since, weeks),
        )
        for (since, until, weeks), shifts in found.items()
    ]  # fmt: skip
