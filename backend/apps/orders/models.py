"""Tables of orders."""

from typing import ClassVar

from django.db import models

from core.basics import Interval
from core.orders import VisitState
from foundation.models import Versioned


class WorkOrder(Versioned):
    """What is to be done for a customer at a site."""

    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="orders")
    site = models.ForeignKey("customers.Site", on_delete=models.PROTECT, related_name="orders")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="orders")
    job_type = models.ForeignKey("catalogue.JobType", null=True, on_delete=models.PROTECT, related_name="orders")
    request = models.OneToOneField("intake.Request", null=True, on_delete=models.PROTECT, related_name="order")
    title = models.CharField(max_length=160)
    description = models.TextField(blank=True)
    contact_name = models.CharField(max_length=120, blank=True)
    contact_phone = models.CharField(max_length=40, blank=True)
    made_at = models.DateTimeField()

    @property
    def number(self) -> str:
        return f"W-{1000 + self.pk}"


class VisitQuerySet(models.QuerySet["Visit"]):
    def with_whereabouts(self) -> "VisitQuerySet":
        """Order, customer, site, area, job type and asset in the same query."""
        joined = self.select_related("order__customer", "order__site__area", "order__job_type", "order__asset")
        return joined.defer("order__site__area__polygon")

    def starting_within(self, stretch: Interval) -> "VisitQuerySet":
        from foundation.moments import to_datetime

        return self.filter(start__gte=to_datetime(stretch.start), start__lt=to_datetime(stretch.end))

    def on_somebodys_day(self) -> "VisitQuerySet":
        return self.filter(technician__isnull=False, start__isnull=False).exclude(
            state__in=[VisitState.CANCELLED, VisitState.MISSED]
        )

    def in_backlog(self) -> "VisitQuerySet":
        return self.filter(state=VisitState.OPEN)


class Visit(Versioned):
    """One trip to the order's site. It is placed when it has a technician and a start."""

    order = models.ForeignKey(WorkOrder, on_delete=models.PROTECT, related_name="visits")
    state = models.CharField(max_length=12, choices=[(s.value, s.value) for s in VisitState], default="open")
    duration_seconds = models.PositiveIntegerField(null=True)
    needs = models.JSONField(default=dict)
    priority = models.PositiveSmallIntegerField(default=3)
    promise_start = models.DateTimeField(null=True)
    promise_end = models.DateTimeField(null=True)
    earliest = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    notes = models.TextField(blank=True)
    pinned = models.BooleanField(default=False)
    technician = models.ForeignKey("people.Technician", null=True, on_delete=models.PROTECT, related_name="visits")
    start = models.DateTimeField(null=True)
    departed_at = models.DateTimeField(null=True)
    arrived_at = models.DateTimeField(null=True)
    finished_at = models.DateTimeField(null=True)
    outcome = models.TextField(blank=True)

    objects = VisitQuerySet.as_manager()

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["technician", "start"]),
            models.Index(fields=["start"]),
            models.Index(fields=["state"]),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(technician__isnull=True, start__isnull=True)
                | models.Q(technician__isnull=False, start__isnull=False),
                name="placed_wholly_or_not",
            ),
            models.CheckConstraint(
                condition=models.Q(promise_start__isnull=True, promise_end__isnull=True)
                | models.Q(promise_end__gt=models.F("promise_start")),
                name="visit_promise_whole",
            ),
            models.CheckConstraint(condition=models.Q(priority__gte=1, priority__lte=5), name="visit_priority"),
        ]

    @property
    def promise(self) -> Interval | None:
        if self.promise_start is None or self.promise_end is None:
            return None
        return Interval(start=int(self.promise_start.timestamp()), end=int(self.promise_end.timestamp()))


class VisitStamp(models.Model):
    """One step of a visit: who, when, and where if the phone knew."""

    visit = models.ForeignKey(Visit, on_delete=models.CASCADE, related_name="stamps")
    step = models.CharField(max_length=12)
    at = models.DateTimeField()
    actor_name = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    lon = models.FloatField(null=True)
    lat = models.FloatField(null=True)


class OpenWorkFile(models.Model):
    """A file of open work, kept between its preview and its acceptance."""

    name = models.CharField(max_length=200)
    text = models.TextField()
    uploaded_at = models.DateTimeField()
    uploaded_by = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    accepted_at = models.DateTimeField(null=True)
    made = models.PositiveIntegerField(default=0)
