"""Working time: shifts from weekly patterns, breaks and absences in a company's time zone."""

from core.calendars.shifts import BreakRule, Shift, WeeklyShift, shift_on
from core.calendars.zones import day_interval, epoch, local_day, local_time, zone

__all__ = [
    "BreakRule",
    "Shift",
    "WeeklyShift",
    "day_interval",
    "epoch",
    "local_day",
    "local_time",
    "shift_on",
    "zone",
]
