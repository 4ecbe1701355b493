"""Tables of intake."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class Request(Versioned):
    """A need as it came in. What the job type filled in may be overridden for this request only.

    Who and where are not known yet for some that come by e-mail or from the web page; `from_name`, `from_phone` and
    `from_email` are what the sender said. A request that was joined into another one is closed and leads there.
    """

    STATES: ClassVar = [(name, name) for name in ("new", "quoted", "ordered", "closed")]
    CHANNELS: ClassVar = [(name, name) for name in ("phone", "web", "e-mail", "alarm", "import")]

    number = models.CharField(max_length=40, unique=True)
    state = models.CharField(max_length=10, choices=STATES, default="new", db_index=True)
    channel = models.CharField(max_length=8, choices=CHANNELS, default="phone")
    customer = models.ForeignKey("customers.Customer", null=True, on_delete=models.PROTECT, related_name="requests")
    site = models.ForeignKey("customers.Site", null=True, on_delete=models.PROTECT, related_name="requests")
    from_name = models.CharField(max_length=160, blank=True)
    from_phone = models.CharField(max_length=40, blank=True)
    from_email = models.CharField(max_length=254, blank=True)
    from_address = models.CharField(max_length=240, blank=True)
    contact_name = models.CharField(max_length=120, blank=True)
    contact_phone = models.CharField(max_length=40, blank=True)
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="requests")
    job_type = models.ForeignKey("catalogue.JobType", null=True, on_delete=models.PROTECT, related_name="requests")
    what_is_wrong = models.TextField()
    source = models.CharField(max_length=40, default="phone")
    priority = models.PositiveSmallIntegerField(default=3)
    duration_seconds = models.PositiveIntegerField(null=True)
    needs = models.JSONField(default=dict)
    # What is known of the order to come, as fields of apps.orders.inputs.OrderFields.
    details = models.JSONField(default=dict)
    promise_start = models.DateTimeField(null=True)
    promise_end = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    taken_at = models.DateTimeField()
    taken_by = models.CharField(max_length=120)
    joined_into = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="joined")
    closed_because = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(priority__gte=1, priority__lte=5), name="request_priority"),
            models.CheckConstraint(
                condition=models.Q(promise_start__isnull=True, promise_end__isnull=True)
                | models.Q(promise_end__gt=models.F("promise_start")),
                name="request_promise_whole",
            ),
        ]


class Alarm(models.Model):
    """What a connected device reported. Repeated alarms of one asset belong to one request."""

    asset = models.ForeignKey("customers.Asset", on_delete=models.CASCADE, related_name="alarms")
    request = models.ForeignKey(Request, null=True, on_delete=models.CASCADE, related_name="alarms")
    kind = models.CharField(max_length=40)
    text = models.CharField(max_length=300, blank=True)
    value = models.FloatField(null=True)
    unit = models.CharField(max_length=20, blank=True)
    at = models.DateTimeField()
    # Who reported it, and its own number of the message, so that one sent twice counts once. Another device may use
    # the same number.
    device = models.CharField(max_length=80, default="")
    reference = models.CharField(max_length=80)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["device", "asset", "reference"], name="alarm_counts_once")
        ]


class DeviceKey(models.Model):
    """The token by which a device service is known; only its digest is kept."""

    name = models.CharField(max_length=80, unique=True)
    digest = models.CharField(max_length=64, unique=True)
    active = models.BooleanField(default=True)


class MailSeen(models.Model):
    """An e-mail that was read in, so that it is read once."""

    message_id = models.CharField(max_length=250, unique=True)
    request = models.ForeignKey(Request, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()


class MailUnread(models.Model):
    """An e-mail that could not be read, and why. It stays in the mailbox, under `key`."""

    key = models.CharField(max_length=250)
    sender = models.CharField(max_length=200, blank=True)
    subject = models.CharField(max_length=200, blank=True)
    size = models.BigIntegerField()
    why = models.CharField(max_length=300)
    at = models.DateTimeField()
    settled_at = models.DateTimeField(null=True)
    settled_by = models.CharField(max_length=120, blank=True)


class FormSent(models.Model):
    """A public form that was sent in: each form counts once, and not too many come from one address."""

    form = models.CharField(max_length=80, unique=True)
    origin = models.CharField(max_length=64)
    at = models.DateTimeField(db_index=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["origin", "-at"])]
