"""Reminders of somebody in the office: about a quote or an order, or about nothing that is known here."""

from datetime import datetime

from django.db import transaction

from apps.board.models import Reminder
from apps.orders.models import WorkOrder
from apps.people.models import Account
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, may, require
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected
from foundation.moments import to_datetime


def remind_person(
    *, account_id: int, at: int, text: str, about: str = "", about_id: int | None = None, made_by: str
) -> Reminder:  # fmt: skip
    """A reminder that follows from something that happened; a technician's stands on the technician's line too. To be
    called in its transaction."""
    technician_id = Account.objects.filter(pk=account_id).values_list("technician", flat=True).first()
    row = Reminder.objects.create(
        person_id=account_id, technician_id=technician_id, at=to_datetime(at), text=text[:200], about=about,
        about_id=about_id, made_by=made_by,
    )  # fmt: skip
    live.announce("reminder", ids=[row.pk], technicians=[technician_id])
    return row


@transaction.atomic
def think_of(
    *, actor: Actor, now: datetime, account_id: int | None, at: int, text: str, about: str, about_id: int | None
) -> Reminder:  # fmt: skip
    """Put a reminder before somebody (None: before oneself), at a moment (epoch seconds).

    Raises
    ------
    Rejected
        Without words, or for somebody who does not come in any more.
    NotFound
        When there is no such order.
    """
    require(actor, Action.SEE_ORDERS)
    whose = account_id or actor.id
    if not Account.objects.filter(pk=whose, is_active=True).exists():
        raise Rejected("Choose somebody who comes in.", field="account_id")
    if about == "order" and not WorkOrder.objects.filter(pk=about_id or 0).exists():
        raise NotFound("There is no such order.", code="no_order")
    row = remind_person(
        account_id=whose, at=at, text=_checked(text), about=about, about_id=about_id, made_by=actor.name
    )
    _tell(actor, now, row, f"put a reminder: {row.text}")
    return row


@transaction.atomic
def settle_reminder(
    *, actor: Actor, now: datetime, reminder_id: int, version: int, at: int, text: str, done: bool
) -> Reminder:
    """Another moment or text, or done with. One's own, or anybody's for whoever plans.

    Raises
    ------
    NotFound, NotPermitted, Conflict, Rejected
    """
    require(actor, Action.SEE_ORDERS)
    row = Reminder.objects.select_for_update().filter(pk=reminder_id, person__isnull=False).first()
    if row is None:
        raise NotFound("There is no such reminder (any more).", code="no_reminder")
    if row.person_id != actor.id and not may(actor, Action.PLAN):
        raise NotPermitted("This reminder is somebody else's.")
    if row.version != version:
        raise Conflict("This reminder was changed by somebody else meanwhile.", current_version=row.version)
    row.at, row.text = to_datetime(at), _checked(text)
    if done != (row.done_at is not None):
        row.done_at = now if done else None
    row.version += 1
    row.save()
    _tell(actor, now, row, f"did: {row.text}" if done else f"changed a reminder: {row.text}")
    live.announce("reminder", ids=[row.pk])
    return row


def _checked(text: str) -> str:
    if not text.strip():
        raise Rejected("Write what to think of.", field="text")
    return text.strip()[:200]


def _tell(actor: Actor, now: datetime, row: Reminder, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="reminder", entity=row.about or "account",
        entity_id=row.about_id or row.person_id or 0, sentence=sentence[:300],
    )  # fmt: skip
