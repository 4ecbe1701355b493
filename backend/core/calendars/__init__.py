"""Working time and service time: shifts, breaks, absences, service calendars and deadlines, in any time zone."""

from core.calendars.service import Hours, ServiceCalendar, deadline, service_seconds
from core.calendars.shifts import BreakRule, Shift, WeeklyShift, shift_on, week_of_rotation, working_date
from core.calendars.weeks import WEEKDAYS, problem_of_rotation
from core.calendars.zones import day_interval, epoch, local_day, local_time, zone

__all__ = [
    "WEEKDAYS",
    "BreakRule",
    "Hours",
    "ServiceCalendar",
    "Shift",
    "WeeklyShift",
    "day_interval",
    "deadline",
    "epoch",
    "local_day",
    "local_time",
    "problem_of_rotation",
    "service_seconds",
    "shift_on",
    "week_of_rotation",
    "working_date",
    "zone",
]
