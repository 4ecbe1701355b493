"""Reminders on a technician's line."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.board.models import Reminder
from apps.people import queries as people
from apps.people.reach import check_technicians
from core.roles import Action
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime
from foundation.undo import Values, check_unchanged


@transaction.atomic
def remind(*, actor: Actor, now: datetime, technician_id: int, at: int, text: str) -> Reminder:
    """Put a reminder on a technician's line at a moment (epoch seconds)."""
    require(actor, Action.PLAN)
    technician = people.technician(technician_id)
    check_technicians(actor, [technician_id])
    reminder = Reminder(technician=technician, at=to_datetime(at), text=_checked(text), made_by=actor.name)
    reminder.save()
    _tell(actor, now, reminder, f"put a reminder on the line of {technician.name}", before={}, after=_values(reminder))
    return reminder


@transaction.atomic
def change_reminder(
    *, actor: Actor, now: datetime, reminder_id: int, version: int, at: int, text: str, done: bool
) -> Reminder:
    """Another moment or text; or it is done with, or not after all."""
    require(actor, Action.PLAN)
    reminder = _locked(actor, reminder_id)
    if reminder.version != version:
        raise Conflict("This reminder was changed by somebody else meanwhile.", code="stale")
    before = _values(reminder)
    reminder.at, reminder.text = to_datetime(at), _checked(text)
    if done != (reminder.done_at is not None):
        reminder.done_at = now if done else None
    reminder.version += 1
    reminder.save()
    said = "did what the reminder says" if done else "changed a reminder"
    _tell(actor, now, reminder, said, before=before, after=_values(reminder))
    return reminder


@transaction.atomic
def forget(*, actor: Actor, now: datetime, reminder_id: int) -> None:
    """Take a reminder off the line."""
    require(actor, Action.PLAN)
    reminder = _locked(actor, reminder_id)
    _tell(actor, now, reminder, "removed a reminder", before=_values(reminder), after={})
    reminder.delete()


def _locked(actor: Actor, reminder_id: int) -> Reminder:
    found = Reminder.objects.select_for_update().filter(pk=reminder_id, technician__isnull=False).first()
    if found is None or found.technician_id is None:
        raise NotFound("There is no such reminder (any more).", code="no_reminder")
    check_technicians(actor, [found.technician_id])
    return found


def _checked(text: str) -> str:
    if not text.strip():
        raise Rejected("Write what to think of.", field="text")
    return text.strip()


def put_reminder_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`."""
    found = Reminder.objects.filter(pk=key).first()
    check_unchanged(_values(found) if found else {}, expected)
    if found is not None and not wanted:
        forget(actor=actor, now=now, reminder_id=key)
        return key
    if found is None:
        asked = {name: wanted[name] for name in ("technician_id", "at", "text")}
        found = remind(actor=actor, now=now, **asked)
    if wanted["done"] != (found.done_at is not None) or expected:
        asked = {name: wanted[name] for name in ("at", "text", "done")}
        change_reminder(actor=actor, now=now, reminder_id=found.pk, version=found.version, **asked)
    return found.pk


def _values(reminder: Reminder) -> dict[str, Any]:
    return {
        "technician_id": reminder.technician_id, "at": int(reminder.at.timestamp()), "text": reminder.text,
        "done": reminder.done_at is not None,
    }  # fmt: skip


def _tell(actor: Actor, now: datetime, reminder: Reminder, sentence: str, *, before: Values, after: Values) -> None:
    audit.record(
        actor=actor, now=now, action="reminder", entity="technician", entity_id=reminder.technician_id or 0,
        sentence=sentence, text=reminder.text,
    )  # fmt: skip
    undo.record(
        actor=actor, now=now, subject="reminder", key=reminder.pk, sentence=sentence, before=before, after=after
    )
    live.announce("visit", technicians=[reminder.technician_id])
