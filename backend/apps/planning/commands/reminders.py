"""Reminders on a technician's line."""

from datetime import datetime

from django.db import transaction

from apps.people import queries as people
from apps.planning.models import Reminder
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime


@transaction.atomic
def remind(*, actor: Actor, now: datetime, technician_id: int, at: int, text: str) -> Reminder:
    """Put a reminder on a technician's line at a moment (epoch seconds)."""
    require(actor, Action.PLAN)
    technician = people.technician(technician_id)
    reminder = Reminder(technician=technician, at=to_datetime(at), text=_checked(text), made_by=actor.name)
    reminder.save()
    _tell(actor, now, reminder, f"put a reminder on the line of {technician.name}")
    return reminder


@transaction.atomic
def change_reminder(
    *, actor: Actor, now: datetime, reminder_id: int, version: int, at: int, text: str, done: bool
) -> Reminder:
    """Another moment or text; or it is done with, or not after all."""
    require(actor, Action.PLAN)
    reminder = _locked(reminder_id)
    if reminder.version != version:
        raise Conflict("This reminder was changed by somebody else meanwhile.", code="stale")
    reminder.at, reminder.text = to_datetime(at), _checked(text)
    if done != (reminder.done_at is not None):
        reminder.done_at = now if done else None
    reminder.version += 1
    reminder.save()
    _tell(actor, now, reminder, "did what the reminder says" if done else "changed a reminder")
    return reminder


@transaction.atomic
def forget(*, actor: Actor, now: datetime, reminder_id: int) -> None:
    """Take a reminder off the line."""
    require(actor, Action.PLAN)
    reminder = _locked(reminder_id)
    _tell(actor, now, reminder, "removed a reminder")
    reminder.delete()


def _locked(reminder_id: int) -> Reminder:
    found = Reminder.objects.select_for_update().filter(pk=reminder_id).first()
    if found is None:
        raise NotFound("There is no such reminder (any more).", code="no_reminder")
    return found


def _checked(text: str) -> str:
    if not text.strip():
        raise Rejected("Write what to think of.", field="text")
    return text.strip()


def _tell(actor: Actor, now: datetime, reminder: Reminder, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="reminder", entity="technician", entity_id=reminder.technician_id,
        sentence=sentence, text=reminder.text,
    )  # fmt: skip
    live.announce("visit", technicians=[reminder.technician_id])
