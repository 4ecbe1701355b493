"""Writing and delivering messages."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Literal

from django.db import transaction

from apps.intake import commands as intake
from apps.messages import delivery
from apps.messages.addressing import again_to, stays_text, technicians_of, to_customer, to_technician
from apps.messages.drafts import Draft
from apps.messages.models import Call, Message, new_key
from apps.orders import queries as orders
from apps.orders.models import Visit
from apps.orders.reach import check_visit
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected


def write(draft: Draft, *, now: datetime, wait: int = 0) -> Message:
    """Write a message and have the worker deliver it once the transaction holds, `wait` seconds later.

    Until then it can be called back.
    """
    message = Message.objects.create(
        kind=draft.kind, channel=draft.channel, name=draft.name, address=draft.address, text=draft.text,
        visit=draft.visit, request=draft.request, quote=draft.quote,
        version=draft.visit.version if draft.visit else 0, written_at=now,
        not_before=now + timedelta(seconds=wait) if wait else None,
    )  # fmt: skip
    _remember_thread(message, now)
    delivery.enqueue(message, wait=wait)
    live.announce("message", ids=[message.pk])
    return message


def _remember_thread(message: Message, now: datetime) -> None:
    """What answers an e-mail of ours is known by what it answers, and belongs to the request this one is about."""
    request = message.request or (message.visit.order.request if message.visit else None)
    if message.channel == "e-mail" and request is not None:
        intake.remember_sent(now=now, message_id=message.message_id, request=request)


def call_back(*, now: datetime, visit: Visit, seen: int, led_to: int) -> None:
    """Call back what was written when the visit went from version `seen` to `led_to`. A customer who has it already is
    listed to be called; a technician who has it and goes all the same is told so. For the command that takes the
    change back, in its transaction.
    """
    rows = Message.objects.select_for_update().filter(visit=visit, version__gt=seen, version__lte=led_to)
    found = list(rows.order_by("id"))
    # Nobody has to be called about what is undone.
    Call.objects.filter(visit=visit, version__gt=seen, version__lte=led_to, done_at__isnull=True).delete()
    waiting = [row.pk for row in found if row.state == "queued"]
    Message.objects.filter(pk__in=waiting).update(state="withdrawn")
    heard = [row for row in found if row.state in ("sending", "delivered")]
    for row in heard:
        if row.kind == "customer":
            to_be_called(visit, now=now, why=f"This was sent and has been undone since: “{row.text}”")
    names = {row.name for row in heard if row.kind == "technician"}
    for hand in technicians_of(visit):
        draft = to_technician(hand, visit, stays_text(visit))
        if draft.name in names:
            write(draft, now=now)
    if waiting:
        live.announce("message", ids=waiting)


def to_be_called(visit: Visit, *, now: datetime, why: str) -> Call:
    """Put the customer of a visit on the list of those whom somebody has to call."""
    draft = to_customer(visit, "")
    # Asked for twice, they are called once.
    call, _made = Call.objects.get_or_create(
        visit=visit, version=visit.version, why=why if len(why) <= 300 else f"{why[:298]}…”", done_at=None,
        defaults={"name": draft.name, "phone": draft.address[:40], "made_at": now},
    )  # fmt: skip
    live.announce("message")
    return call


@transaction.atomic
def called(*, actor: Actor, now: datetime, call_id: int) -> Call:
    """Note that somebody was called. Twice counts once."""
    require(actor, Action.TAKE_REQUESTS)
    call = Call.objects.select_for_update(of=("self",)).select_related("visit__order").filter(pk=call_id).first()
    if call is None:
        raise NotFound("There is nobody to be called under this number.", code="no_call")
    if call.done_at is None:
        call.done_at, call.done_by = now, actor.name
        call.save(update_fields=["done_at", "done_by"])
        audit.record(
            actor=actor, now=now, action="call", entity="visit", entity_id=call.visit_id, version=call.visit.version,
            sentence=f"called {call.name}", note=call.why,
        )  # fmt: skip
        live.announce("message")
    return call


@transaction.atomic
def send_again(*, actor: Actor, now: datetime, message_id: int) -> Message:
    """Try a message that failed once more, to the number or address that is known now.

    Raises
    ------
    NotFound, Rejected
        When it did not fail, or there is still no address.
    """
    require(actor, Action.TAKE_REQUESTS)
    message = Message.objects.select_for_update(of=("self",)).filter(pk=message_id).first()
    if message is None:
        raise NotFound("There is no such message.", code="no_message")
    if message.state != "failed":
        raise Rejected(f"This message is {message.state}: only one that failed is sent again.", code="not_failed")
    message.channel, message.address = again_to(message)
    if not message.address:
        raise Rejected(f"Neither a phone number nor an e-mail address of {message.name} is known.", field="address")
    # Another message to the service: under the old key it might think it had refused it for good.
    message.key, message.state, message.attempts, message.failure = new_key(), "queued", 0, ""
    message.written_at, message.not_before = now, None
    message.save()
    _note(actor, now, message, f"sent the message to {message.name} again")
    delivery.enqueue(message)
    live.announce("message", ids=[message.pk])
    return message


def _note(actor: Actor, now: datetime, message: Message, sentence: str) -> None:
    about: Iterable[tuple[str, int | None]] = (
        ("visit", message.visit_id), ("request", message.request_id), ("quote", message.quote_id),
    )  # fmt: skip
    entity, key = next(((name, key) for name, key in about if key), ("message", message.pk))
    audit.record(actor=actor, now=now, action="send_again", entity=entity, entity_id=key or 0, sentence=sentence)


@transaction.atomic
def write_about(
    *, actor: Actor, now: datetime, visit_id: int, to: Literal["customer", "technician"], text: str
) -> Message:
    """Write a few words about a visit to its customer or to its technician; kept with the visit.

    Raises
    ------
    Rejected
        When nothing is written, or there is nobody whom it would reach.
    """
    require(actor, Action.CHANGE_VISITS)
    visit = orders.visit(visit_id)
    check_visit(actor, visit)
    if not text.strip():
        raise Rejected("Write something first.", field="text")
    if to == "technician" and visit.technician_id is None:
        raise Rejected("Nobody is assigned whom it would reach.", field="to")
    draft = (
        to_technician(visit.technician_id, visit, text.strip())
        if to == "technician" and visit.technician_id is not None
        else to_customer(visit, text.strip())
    )
    if not draft.address:
        raise Rejected(f"Neither a phone number nor an e-mail address of {draft.name} is known.", field="to")
    audit.record(
        actor=actor, now=now, action="write", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=f"wrote to {draft.name}", note=draft.text,
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk])
    return write(draft, now=now)
