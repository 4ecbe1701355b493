"""Writing and delivering messages."""

from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from procrastinate.contrib.django import app as queue

from apps.intake.models import Request
from apps.messages.gateways import Gateway, Undeliverable
from apps.messages.models import Message
from apps.orders.models import Visit
from foundation import live

# The worker's task of that name is in tasks.py.
DELIVER = "messages.deliver"


@dataclass(frozen=True, kw_only=True)
class Draft:
    """A message before it is written."""

    kind: str
    channel: str
    name: str
    address: str
    text: str
    visit: Visit | None = None
    request: Request | None = None


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
