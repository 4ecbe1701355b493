"""Tables of day logs."""

import uuid
from typing import ClassVar

from django.db import models


class DayLog(models.Model):
    """A technician's day. `day` is the working day: a night shift belongs to the one on which it began.

    `began_typed`, `ended_typed`: the time was typed afterwards, not stamped. `checks`: answers to the company's
    questions about the vehicle, by key. Odometers are whole kilometres, as read off.
    """

    technician = models.ForeignKey("people.Technician", on_delete=models.PROTECT, related_name="day_logs")
    day = models.DateField()
    began_at = models.DateTimeField(null=True)
    began_typed = models.BooleanField(default=False)
    began_lon = models.FloatField(null=True)
    began_lat = models.FloatField(null=True)
    ended_at = models.DateTimeField(null=True)
    ended_typed = models.BooleanField(default=False)
    vehicle = models.ForeignKey("people.Vehicle", null=True, on_delete=models.PROTECT, related_name="day_logs")
    odometer_began = models.PositiveIntegerField(null=True)
    odometer_ended = models.PositiveIntegerField(null=True)
    checks = models.JSONField(default=dict)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["technician", "day"], name="one_log_of_a_day")]
        indexes: ClassVar = [models.Index(fields=["day"], name="day_logs_of_a_day")]


class Pause(models.Model):
    """A break. `until` None: it goes on."""

    log = models.ForeignKey(DayLog, on_delete=models.CASCADE, related_name="pauses")
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["log"], condition=models.Q(until=None), name="one_pause_at_a_time"),
        ]


class Fuel(models.Model):
    """What was filled in: thousandths of a litre, and what it cost in the currency's smallest unit.

    Its name was made on the phone, and is the name of the receipt's photo, too; `size` 0: there is none.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    log = models.ForeignKey(DayLog, on_delete=models.CASCADE, related_name="fuel")
    at = models.DateTimeField()
    millilitres = models.PositiveIntegerField()
    amount = models.PositiveIntegerField()
    size = models.PositiveIntegerField(default=0)
    receipt = models.ForeignKey("foundation.StoredFile", null=True, on_delete=models.PROTECT, related_name="+")


class Explained(models.Model):
    """What somebody said when they were asked about something missing or odd; see core.daylogs."""

    log = models.ForeignKey(DayLog, on_delete=models.CASCADE, related_name="explained")
    key = models.CharField(max_length=40)
    words = models.CharField(max_length=300)
    at = models.DateTimeField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["log", "key"], name="explained_once")]
