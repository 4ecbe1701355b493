"""Writes: technicians, absences, crews, vehicles."""

from apps.people.commands.absences import note_absence, put_absence_back, remove_absence
from apps.people.commands.calendars import close_calendar, renew_calendar
from apps.people.commands.crews import change_crew, make_crew, put_crew_back, remove_crew
from apps.people.commands.days_off import ask_for_days, decline_days, grant_days, withdraw_days
from apps.people.commands.depots import merge_depot
from apps.people.commands.ends import keep_before_a_move
from apps.people.commands.papers import put_photo, remove_photo, set_certificates
from apps.people.commands.technicians import add_technician, change_technician, set_employment, set_skill, set_week
from apps.people.commands.terms import set_terms
from apps.people.commands.vehicles import set_vehicle

__all__ = [
    "add_technician",
    "ask_for_days",
    "change_crew",
    "change_technician",
    "close_calendar",
    "decline_days",
    "grant_days",
    "keep_before_a_move",
    "make_crew",
    "merge_depot",
    "note_absence",
    "put_absence_back",
    "put_crew_back",
    "put_photo",
    "remove_absence",
    "remove_crew",
    "remove_photo",
    "renew_calendar",
    "set_certificates",
    "set_employment",
    "set_skill",
    "set_terms",
    "set_vehicle",
    "set_week",
    "withdraw_days",
]
