"""The worker's part: messages on their way out, each at least tried, none sent twice.

A message is claimed in one transaction, handed over outside of any, and what came of it is noted in another one. Who
dies in between leaves it claimed: it is found by `sweep` and handed over again, under the same key.
"""

from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Q
from django.db.models.functions import Coalesce

from apps.messages.gateways import Gateway, Undeliverable
from apps.messages.models import Message
from foundation import jobs, live

# The worker's task of that name is in tasks.py.
DELIVER = "messages.deliver"
MOST_TRIES = 5
# Who has claimed a message and not come back for so long is dead.
CLAIM_SECONDS = 60
# What is not on its way so long after it should have gone is taken up again.
LATE_SECONDS = 120


class NotThere(Exception):
    """The message is not (yet) in the database: try again."""


class NotTaken(Exception):
    """The service did not take the message this time: try again."""


def enqueue(message: Message, *, wait: int = 0) -> None:
    """Have it delivered once the transaction holds, `wait` seconds later."""
    jobs.after_commit(DELIVER, lock=f"{DELIVER} {message.pk}", wait=wait, message_id=message.pk)


def deliver(*, now: datetime, message_id: int, gateway: Gateway) -> Message | None:
    """Hand a message to the gateway. Does nothing when it was delivered, called back or is being delivered.

    Raises
    ------
    NotThere, NotTaken
        When it is to be tried again.
    """
    message = _claim(now, message_id)
    if message is None:
        return None
    try:
        reference = gateway.send(key=message.key, channel=message.channel, address=message.address, text=message.text)
    except Undeliverable as error:
        return _settle(message, state="failed", failure=str(error)[:200])
    except Exception as error:
        if message.attempts >= MOST_TRIES:
            return _settle(
                message, state="failed", failure=f"Tried {MOST_TRIES} times: {error or type(error).__name__}"[:200]
            )
        _settle(message, state="queued")
        raise NotTaken(str(error)) from error
    return _settle(message, state="delivered", delivered_at=now, reference=reference[:80], failure="")


def sweep(*, now: datetime) -> int:
    """Take up what should be on its way and is not: its job was lost, or who had it died. How many were found."""
    late = Message.objects.filter(
        Q(state="queued") | Q(state="sending", claimed_at__lt=now - timedelta(seconds=CLAIM_SECONDS))
    ).annotate(from_then=Coalesce("not_before", "written_at"))
    with transaction.atomic():
        found = list(late.filter(from_then__lt=now - timedelta(seconds=LATE_SECONDS)).order_by("id")[:500])
        for message in found:
            enqueue(message)
    return len(found)


@transaction.atomic
def _claim(now: datetime, message_id: int) -> Message | None:
    message = Message.objects.select_for_update().filter(pk=message_id).first()
    if message is None:
        raise NotThere(f"There is no message {message_id}.")
    held = message.claimed_at is not None and now - message.claimed_at < timedelta(seconds=CLAIM_SECONDS)
    if message.state not in ("queued", "sending") or (message.state == "sending" and held):
        return None
    message.state, message.claimed_at, message.attempts = "sending", now, message.attempts + 1
    message.save(update_fields=["state", "claimed_at", "attempts"])
    return message


@transaction.atomic
def _settle(message: Message, **values: object) -> Message:
    for name, value in values.items():
        setattr(message, name, value)
    # Whoever else has settled it meanwhile, under the same key, was right as well.
    Message.objects.filter(pk=message.pk, state="sending").update(**values)
    live.announce("message", ids=[message.pk])
    return message
