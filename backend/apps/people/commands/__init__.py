"""Writes: signing in, absences, crews."""

from apps.people.commands.absences import note_absence, remove_absence
from apps.people.commands.crews import change_crew, make_crew, remove_crew
from apps.people.commands.signing import sign_in, sign_out

__all__ = ["change_crew", "make_crew", "note_absence", "remove_absence", "remove_crew", "sign_in", "sign_out"]
