"""Tables of the catalogue."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class JobType(Versioned):
    """A template of a work order, as it is now; orders keep the edition they were made with.

    `needs` is the least level (1-5) by key of the skill, `certificates` are keys of papers that whoever goes must hold
    on that day (also for orders made before: the law does not ask when an order was made), `tasks` are sentences in
    order, `questions` the checklist and `fields` what an order of this type is asked besides (both core.forms).
    `parts` is a quantity by key, `lines` are kept as `apps.pricing.documents` does. `worth` is what such an order
    usually brings where its lines have no prices, and `wanted_per_hour` what a labour-hour of it is to bring (None: as
    the company wants), in whole units of the company's currency. `terms` are those of its quotes, if it has its own.
    `visits` are further visits after the first, see core.orders.sequences. `steps` are those of the work at
    a visit, see core.reports (none: the usual ones). `offers` overrides the company's settings
    for offering a time.
    """

    code = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=80)
    duration_seconds = models.PositiveIntegerField(null=True)
    priority = models.PositiveSmallIntegerField(default=3)
    needs = models.JSONField(default=dict)
    certificates = models.JSONField(default=list)
    advice = models.CharField(max_length=300, blank=True)
    crew = models.PositiveSmallIntegerField(default=1)
    tasks = models.JSONField(default=list)
    questions = models.JSONField(default=list)
    fields = models.JSONField(default=list)
    parts = models.JSONField(default=dict)
    lines = models.JSONField(default=list)
    worth = models.PositiveIntegerField(null=True)
    wanted_per_hour = models.PositiveIntegerField(null=True)
    terms = models.TextField(blank=True)
    visits = models.JSONField(default=list)
    steps = models.JSONField(default=list)
    respond_minutes = models.PositiveIntegerField(null=True)
    resolve_minutes = models.PositiveIntegerField(null=True)
    promise_minutes = models.PositiveIntegerField(null=True)
    offers = models.JSONField(default=dict)
    retired = models.BooleanField(default=False)
    # One that was merged into another is retired for good; whoever names it means the other one.
    merged_into = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="merged")

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(priority__gte=1, priority__lte=5), name="job_priority_1_to_5")
        ]


class JobTypeEdition(models.Model):
    """A job type as it was from one change to the next. Never edited."""

    job_type = models.ForeignKey(JobType, on_delete=models.PROTECT, related_name="editions")
    number = models.PositiveIntegerField()
    content = models.JSONField()
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["job_type", "number"], name="one_edition_per_number")]
