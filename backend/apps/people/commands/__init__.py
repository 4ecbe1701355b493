"""Writes: signing in, absences, crews."""

from apps.people.commands.absences import note_absence, put_absence_back, remove_absence
from apps.people.commands.calendars import close_calendar, renew_calendar
from apps.people.commands.crews import change_crew, make_crew, put_crew_back, remove_crew
from apps.people.commands.signing import sign_in, sign_out

__all__ = [
    "change_crew",
    "close_calendar",
    "make_crew",
    "note_absence",
    "put_absence_back",
    "put_crew_back",
    "remove_absence",
    "remove_crew",
    "renew_calendar",
    "sign_in",
    "sign_out",
]
