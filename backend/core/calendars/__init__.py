"""Working time and service time: shifts, breaks, absences, service calendars and deadlines, in any time zone."""

from core.calendars.service import Hours, ServiceCalendar, deadline, service_seconds
from core.calendars.shifts import BreakRule, Shift, WeeklyShift, shift_on, week_of_rotation, working_date
from core.calendars.weeks import WEEKDAYS, problem_of_rotation
from core.calendars.wording import Style, day_words, local_time, time_words, use, window_words
from core.calendars.zones import day_interval, epoch, local_day, zone

__all__ = [
    "WEEKDAYS",
    "BreakRule",
    "Hours",
    "ServiceCalendar",
    "Shift",
    "Style",
    "WeeklyShift",
    "day_interval",
    "day_words",
    "deadline",
    "epoch",
    "local_day",
    "local_time",
    "problem_of_rotation",
    "service_seconds",
    "shift_on",
    "time_words",
    "use",
    "week_of_rotation",
    "window_words",
    "working_date",
    "zone",
]
