"""Whether a customer on the standby list would come forward to a time."""

from collections.abc import Mapping
from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars import local_day

NOON = 12


def would_come(conditions: Mapping[str, Any], time: Interval, *, now: int, tz: ZoneInfo) -> bool:
    """Whether the conditions allow a visit that begins within `time`.

    Parameters
    ----------
    conditions
        not_before (ISO date), weekdays (0 is Monday), part ("morning", "afternoon"), notice_minutes; what is left
        out does not matter to the customer.
    now
        Epoch second from which the notice counts.
    """
    day = local_day(time.start, tz)
    not_before = conditions.get("not_before")
    if not_before and day < date.fromisoformat(not_before):
        return False
    weekdays = conditions.get("weekdays")
    if weekdays and day.weekday() not in weekdays:
        return False
    first, last = (datetime.fromtimestamp(moment, tz) for moment in (time.start, time.end))
    part = conditions.get("part", "")
    if (part == "morning" and first.hour >= NOON) or (part == "afternoon" and last.hour < NOON):
        return False
    return time.end > now + 60 * int(conditions.get("notice_minutes") or 0)
