"""Tables of the phone: which phones there are, and what was recorded on them."""

import uuid
from typing import ClassVar

from django.db import models

from core.field import Choice, Outcome


class Phone(models.Model):
    """A device on which somebody works in the field. What it keeps is sealed with `key`, which the server gives to
    nobody but this person on this phone; signed out, it is given to nobody."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    account = models.ForeignKey("people.Account", on_delete=models.CASCADE, related_name="phones")
    name = models.CharField(max_length=80)
    key = models.BinaryField(max_length=32)
    # The session in which it was made known last: one that was signed out is known again only in another one.
    session = models.CharField(max_length=40, blank=True)
    made_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    signed_out_at = models.DateTimeField(null=True)
    signed_out_by = models.CharField(max_length=120, blank=True)


class FieldDeed(models.Model):
    """Something that was done in the field, as the phone told of it. Never edited but for what became of it.

    `id` was made on the phone: what comes a second time finds itself here. `happened_at` is the phone's time corrected
    by what it knew of the server's clock, `device_at` its own. `technician` is whose doing it was.
    """

    id = models.UUIDField(primary_key=True)
    phone = models.ForeignKey(Phone, on_delete=models.PROTECT, related_name="deeds")
    technician = models.ForeignKey("people.Technician", on_delete=models.PROTECT, related_name="+")
    number = models.PositiveIntegerField()
    kind = models.CharField(max_length=20)
    # None: of the day.
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="deeds")
    body = models.JSONField(default=dict)
    # The visit as it was seen: state and start (epoch seconds).
    based_on = models.JSONField(null=True)
    happened_at = models.DateTimeField()
    device_at = models.DateTimeField()
    received_at = models.DateTimeField()
    lon = models.FloatField(null=True)
    lat = models.FloatField(null=True)
    accuracy_metres = models.FloatField(null=True)
    outcome = models.CharField(max_length=8, choices=[(one.value, one.value) for one in Outcome])
    # Why it was refused or waits, or how what was done differs from what was told.
    sentence = models.CharField(max_length=400, blank=True)
    settled_at = models.DateTimeField(null=True)
    settled_by = models.CharField(max_length=120, blank=True)
    choice = models.CharField(max_length=8, blank=True, choices=[(one.value, one.value) for one in Choice])
    words = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["phone", "number"], name="a_phone_s_deeds_are_numbered")
        ]
        indexes: ClassVar = [
            models.Index(fields=["technician"], condition=models.Q(visit=None), name="deeds_of_days"),
            models.Index(fields=["visit", "received_at"], name="deeds_of_a_visit"),
            models.Index(
                fields=["received_at"], condition=models.Q(outcome="waiting", settled_at=None), name="deeds_that_wait"
            ),
        ]
