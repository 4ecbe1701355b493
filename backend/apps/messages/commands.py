"""Writing and delivering messages."""

from datetime import datetime
from typing import Literal

from django.db import transaction
from procrastinate.contrib.django import app as queue

from apps.messages.addressing import to_customer, to_technician
from apps.messages.drafts import Draft
from apps.messages.gateways import Gateway, Undeliverable
from apps.messages.models import Message
from apps.orders import queries as orders
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Rejected

# The worker's task of that name is in tasks.py.
DELIVER = "messages.deliver"


def write(draft: Draft, *, now: datetime) -> Message:
    """Write a message and ask the worker to deliver it once the transaction holds."""
    message = Message.objects.create(
        kind=draft.kind, channel=draft.channel, name=draft.name, address=draft.address, text=draft.text,
        visit=draft.visit, request=draft.request, written_at=now,
    )  # fmt: skip
    # The queue lies in the same database: the job appears exactly when the message does.
    queue.configure_task(DELIVER).defer(message_id=message.pk)
    live.announce("message", ids=[message.pk])
    return message


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


@transaction.atomic
def deliver(*, now: datetime, message_id: int, gateway: Gateway) -> Message | None:
    """Hand a queued message to the gateway. Does nothing when it was delivered already."""
    message = Message.objects.select_for_update().filter(pk=message_id, state="queued").first()
    if message is None:
        return None
    try:
        message.reference = gateway.send(channel=message.channel, address=message.address, text=message.text)
        message.state, message.delivered_at = "delivered", now
    except Undeliverable as error:
        message.state, message.reference = "failed", str(error)[:80]
    message.save(update_fields=["state", "delivered_at", "reference"])
    live.announce("message", ids=[message.pk])
    return message
