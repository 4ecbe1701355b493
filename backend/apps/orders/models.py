"""Tables of orders."""

import uuid
from typing import ClassVar

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.db.models import Func, Value
from django.db.models.functions import Cast, Concat, Lower

from core.basics import Interval
from core.orders import OrderState, Part, VisitState
from core.orders.links import LinkKind
from foundation.models import Versioned

_TEXT = models.TextField()
_ANSWERS = Cast(Func(models.F("extra"), Value("$.*"), function="jsonb_path_query_array"), _TEXT)


class Origin(models.TextChoices):
    """What an order came from."""

    REQUEST = "request"
    QUOTE = "quote"
    OFFICE = "office"  # one job, agreed and made at once
    FILE = "file"
    UNKNOWN = ""  # made before this was kept


class WorkOrder(Versioned):
    """What is to be done for a customer at a site.

    The payer is the customer, another customer, or a typed address. `edition` is the job type as it was when the order
    was made; what differs from it was overridden for this order. `state` follows from the visits.
    """

    BILLING: ClassVar = [(name, name) for name in ("billable", "not billable", "contract")]

    number = models.CharField(max_length=40, unique=True)
    state = models.CharField(max_length=10, choices=[(s.value, s.value) for s in OrderState], default="open")
    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="orders")
    site = models.ForeignKey("customers.Site", on_delete=models.PROTECT, related_name="orders")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="orders")
    more_assets = models.ManyToManyField("customers.Asset", related_name="also_on", blank=True)
    payer = models.ForeignKey("customers.Customer", null=True, on_delete=models.PROTECT, related_name="paid_orders")
    payer_address = models.CharField(max_length=300, blank=True)
    job_type = models.ForeignKey("catalogue.JobType", null=True, on_delete=models.PROTECT, related_name="orders")
    edition = models.ForeignKey("catalogue.JobTypeEdition", null=True, on_delete=models.PROTECT, related_name="orders")
    origin = models.CharField(max_length=10, choices=Origin, default=Origin.UNKNOWN, blank=True)
    request = models.OneToOneField("intake.Request", null=True, on_delete=models.PROTECT, related_name="order")
    title = models.CharField(max_length=160)
    description = models.TextField(blank=True)
    contact_name = models.CharField(max_length=120, blank=True)
    contact_phone = models.CharField(max_length=40, blank=True)
    source = models.CharField(max_length=40, blank=True)
    billing = models.CharField(max_length=12, choices=BILLING, default="billable")
    po_number = models.CharField(max_length=60, blank=True)
    priority = models.PositiveSmallIntegerField(default=3)
    tags = ArrayField(models.CharField(max_length=40), default=list, blank=True)
    technician_note = models.TextField(blank=True)
    invoice_text = models.TextField(blank=True)
    extra = models.JSONField(default=dict)
    # Tasks and questions where this order has its own instead of the edition's; see apps.orders.work.
    work = models.JSONField(default=dict)
    # Lines with their prices and discounts on the whole, see apps.pricing.documents. None: from before there were any.
    lines = models.JSONField(null=True)
    discounts = models.JSONField(default=list)
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=120, blank=True)
    # Of the next visit that is not over; they follow from the visits, like the state.
    promise_start = models.DateTimeField(null=True)
    promise_end = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)

    # What it is found by: number, title, purchase order, description, and the answers (not the keys) in the company's
    # own fields.
    words = models.GeneratedField(
        expression=Lower(
            Concat(
                "number", Value(" "), "title", Value(" "), "po_number", Value(" "), "description", Value(" "), _ANSWERS,
                output_field=_TEXT,
            )
        ),
        output_field=_TEXT, db_persist=True,
    )  # fmt: skip

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["-made_at", "-id"]),
            models.Index(fields=["promise_start", "id"]),
            models.Index(fields=["due", "id"]),
            models.Index(fields=["state", "-id"]),
            models.Index(fields=["customer", "-id"]),
            models.Index(fields=["site", "-id"]),
            GinIndex(name="order_words_trigrams", fields=["words"], opclasses=["gin_trgm_ops"]),
            GinIndex(name="order_extra", fields=["extra"], opclasses=["jsonb_path_ops"]),
            GinIndex(name="order_tags", fields=["tags"]),
        ]


# What is settled grows for ever; whoever looks for the rest says so, and an index leads past it.
NOT_SETTLED = tuple(
    state.value for state in VisitState if state not in (VisitState.REVIEWED, VisitState.CANCELLED, VisitState.MISSED)
)


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
    # Which visit of its order this is, and what it is for where the order has several.
    part = models.PositiveSmallIntegerField(default=1)
    title = models.CharField(max_length=120, blank=True)
    # How many go together; `mates` are those who go with the technician. See Assignment for what each of them did.
    crew = models.PositiveSmallIntegerField(default=1)
    mates = ArrayField(models.BigIntegerField(), default=list, blank=True)
    # Parts it takes from the van: quantity by key. What it brings, in whole units of the company's currency.
    takes = models.JSONField(default=dict)
    worth = models.PositiveIntegerField(null=True)
    # Conditions under which the customer would come forward; None: not on standby.
    standby = models.JSONField(null=True)

    objects = VisitQuerySet.as_manager()

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["technician", "start"]),
            models.Index(fields=["start"]),
            models.Index(fields=["state"]),
            # Small ones, for what is asked of all visits at once.
            models.Index(fields=["-start", "-id"], condition=models.Q(state__in=NOT_SETTLED), name="visit_not_settled"),
            models.Index(fields=["finished_at"], condition=~models.Q(mates=[]), name="visit_went_together"),
            models.Index(
                fields=["technician", "start"],
                condition=models.Q(finished_at__isnull=True) & ~models.Q(takes={}),
                name="visit_will_take",
            ),
            GinIndex(name="visit_mates", fields=["mates"]),
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
    def label(self) -> str:
        """The order's number; with the visit's own behind it where the order has several."""
        return self.order.number if self.part == 1 and not self.title else f"{self.order.number}/{self.part}"

    @property
    def promise(self) -> Interval | None:
        if self.promise_start is None or self.promise_end is None:
            return None
        return Interval(start=int(self.promise_start.timestamp()), end=int(self.promise_end.timestamp()))


class VisitLink(models.Model):
    """A tie between two visits, see core.scheduling.Link. Gaps are seconds."""

    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in LinkKind])
    first = models.ForeignKey(Visit, on_delete=models.CASCADE, related_name="links_out")
    second = models.ForeignKey(Visit, on_delete=models.CASCADE, related_name="links_in")
    least = models.PositiveIntegerField(default=0)
    greatest = models.PositiveIntegerField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["kind", "first", "second"], name="one_link_of_a_kind"),
            models.CheckConstraint(condition=~models.Q(first=models.F("second")), name="no_link_to_itself"),
        ]


class SavedView(models.Model):
    """Filters, columns and order of a list, under a name; one's own, or shared with everybody."""

    page = models.CharField(max_length=20)
    name = models.CharField(max_length=60)
    owner = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    shared = models.BooleanField(default=False)
    query = models.JSONField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["page", "owner", "name"], name="one_view_of_a_name")]


class Assignment(models.Model):
    """One person's part in a visit: whether they lead it, and what they themselves said and did.

    Who goes is the visit's `technician` and `mates`; these rows follow from them by a trigger of the database, so that
    the two cannot differ whoever writes. Times are None until they happened.
    """

    visit = models.ForeignKey(Visit, on_delete=models.CASCADE, related_name="assignments")
    technician = models.ForeignKey("people.Technician", on_delete=models.PROTECT, related_name="assignments")
    leads = models.BooleanField()
    accepted_at = models.DateTimeField(null=True)
    departed_at = models.DateTimeField(null=True)
    arrived_at = models.DateTimeField(null=True)
    finished_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["visit", "technician"], name="assigned_once"),
            models.UniqueConstraint(fields=["visit"], condition=models.Q(leads=True), name="one_leads"),
        ]

    @property
    def part(self) -> Part:
        return Part(
            leads=self.leads, accepted=self.accepted_at is not None, departed=self.departed_at is not None,
            arrived=self.arrived_at is not None, finished=self.finished_at is not None,
        )  # fmt: skip


class VisitEvent(models.Model):
    """What happened to a visit. Never edited: what is told of hours, places and promises is read from here.

    `key` is given by whoever sends it, so that sending it twice does nothing. `technician` is whose doing it was in
    the field, whoever stamped it. `before` and `after` are the plan: technician_id, mates, start (epoch seconds).
    """

    key = models.UUIDField(unique=True, default=uuid.uuid4)
    visit = models.ForeignKey(Visit, on_delete=models.CASCADE, related_name="events")
    step = models.CharField(max_length=12)
    technician = models.ForeignKey("people.Technician", null=True, on_delete=models.PROTECT, related_name="+")
    actor_id = models.BigIntegerField(null=True)
    actor_name = models.CharField(max_length=120)
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField()
    note = models.TextField(blank=True)
    lon = models.FloatField(null=True)
    lat = models.FloatField(null=True)
    accuracy_metres = models.FloatField(null=True)
    before = models.JSONField(default=dict)
    after = models.JSONField(default=dict)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["happened_at"], name="event_happened")]


class LearnedLength(models.Model):
    """How long work of a job type takes, and whom, as finished visits teach; see core.learning. Made anew every night,
    so that whoever asks for a length on one day is given the same one.

    `own` is [seconds, visits] by technician.
    """

    job_type = models.OneToOneField("catalogue.JobType", primary_key=True, on_delete=models.CASCADE)
    mean = models.FloatField()
    spread = models.FloatField()
    count = models.PositiveIntegerField()
    own = models.JSONField(default=dict)
