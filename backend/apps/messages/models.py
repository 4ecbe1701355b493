"""Tables of messages."""

from typing import ClassVar

from django.db import models


class Message(models.Model):
    """One message to one person: written with what it tells about, delivered by the worker."""

    KINDS: ClassVar = [("technician", "technician"), ("customer", "customer")]
    CHANNELS: ClassVar = [("push", "push"), ("text", "text"), ("e-mail", "e-mail")]
    STATES: ClassVar = [("queued", "queued"), ("delivered", "delivered"), ("failed", "failed")]

    kind = models.CharField(max_length=10, choices=KINDS)
    channel = models.CharField(max_length=6, choices=CHANNELS)
    name = models.CharField(max_length=160)
    address = models.CharField(max_length=254, blank=True)
    text = models.TextField()
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.SET_NULL, related_name="messages")
    request = models.ForeignKey("intake.Request", null=True, on_delete=models.SET_NULL, related_name="messages")
    written_at = models.DateTimeField()
    state = models.CharField(max_length=10, choices=STATES, default="queued")
    delivered_at = models.DateTimeField(null=True)
    reference = models.CharField(max_length=80, blank=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["-written_at"])]
