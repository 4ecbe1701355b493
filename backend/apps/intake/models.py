"""Tables of intake."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class Request(Versioned):
    """A need as it came in. What the job type filled in may be overridden for this request only."""

    STATES: ClassVar = [("new", "new"), ("ordered", "ordered"), ("closed", "closed")]
    SOURCES: ClassVar = [(name, name) for name in ("phone", "e-mail", "web", "walk-in", "contract", "import")]

    state = models.CharField(max_length=10, choices=STATES, default="new", db_index=True)
    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="requests")
    site = models.ForeignKey("customers.Site", on_delete=models.PROTECT, related_name="requests")
    contact_name = models.CharField(max_length=120, blank=True)
    contact_phone = models.CharField(max_length=40, blank=True)
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="requests")
    job_type = models.ForeignKey("catalogue.JobType", null=True, on_delete=models.PROTECT, related_name="requests")
    what_is_wrong = models.TextField()
    source = models.CharField(max_length=10, choices=SOURCES, default="phone")
    priority = models.PositiveSmallIntegerField(default=3)
    duration_seconds = models.PositiveIntegerField(null=True)
    needs = models.JSONField(default=dict)
    promise_start = models.DateTimeField(null=True)
    promise_end = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    taken_at = models.DateTimeField()
    taken_by = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(priority__gte=1, priority__lte=5), name="request_priority"),
            models.CheckConstraint(
                condition=models.Q(promise_start__isnull=True, promise_end__isnull=True)
                | models.Q(promise_end__gt=models.F("promise_start")),
                name="request_promise_whole",
            ),
        ]

    @property
    def number(self) -> str:
        return f"R-{1000 + self.pk}"
