"""Tables of messages."""

import uuid
from typing import ClassVar

from django.conf import settings
from django.db import models


def new_key() -> str:
    return uuid.uuid4().hex


class Message(models.Model):
    """One message to one person: written with what it tells about, delivered by the worker.

    `key` goes to the gateway with it: whatever is handed over twice under one key is sent once. A message that waits
    until `not_before` can be called back until then; `version` is the version of the visit it tells about.
    """

    KINDS: ClassVar = [("technician", "technician"), ("customer", "customer")]
    CHANNELS: ClassVar = [("push", "push"), ("text", "text"), ("e-mail", "e-mail")]
    STATES: ClassVar = [(name, name) for name in ("queued", "sending", "delivered", "failed", "withdrawn")]

    kind = models.CharField(max_length=10, choices=KINDS)
    channel = models.CharField(max_length=6, choices=CHANNELS)
    name = models.CharField(max_length=160)
    address = models.CharField(max_length=254, blank=True)
    text = models.TextField()
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.SET_NULL, related_name="messages")
    version = models.PositiveIntegerField(default=0)
    request = models.ForeignKey("intake.Request", null=True, on_delete=models.SET_NULL, related_name="messages")
    quote = models.ForeignKey("quotes.Quote", null=True, on_delete=models.SET_NULL, related_name="messages")
    written_at = models.DateTimeField()
    not_before = models.DateTimeField(null=True)
    key = models.CharField(max_length=32, unique=True, default=new_key)
    state = models.CharField(max_length=10, choices=STATES, default="queued")
    attempts = models.PositiveSmallIntegerField(default=0)
    claimed_at = models.DateTimeField(null=True)
    delivered_at = models.DateTimeField(null=True)
    reference = models.CharField(max_length=80, blank=True)
    failure = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["-written_at"]),
            # The few that are still on their way: looked through every minute.
            models.Index(
                fields=["written_at"], name="message_under_way", condition=models.Q(state__in=["queued", "sending"])
            ),
            models.Index(fields=["-id"], name="message_failed", condition=models.Q(state="failed")),
        ]

    @property
    def message_id(self) -> str:
        """Under which an e-mail goes out (RFC 5322, 3.6.4): what answers it names it."""
        return f"<{self.key}@{settings.MAIL_DOMAIN}>"


class Call(models.Model):
    """Somebody who has to be called by a person: what they were told is no longer so, or no message reaches them."""

    visit = models.ForeignKey("orders.Visit", on_delete=models.CASCADE, related_name="calls")
    # The version of the visit that made it necessary.
    version = models.PositiveIntegerField(default=0)
    name = models.CharField(max_length=160)
    phone = models.CharField(max_length=40, blank=True)
    why = models.CharField(max_length=300)
    made_at = models.DateTimeField()
    done_at = models.DateTimeField(null=True)
    done_by = models.CharField(max_length=120, blank=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["made_at"], name="call_open", condition=models.Q(done_at__isnull=True))
        ]
