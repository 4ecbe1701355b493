"""Tables of the catalogue."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class JobType(Versioned):
    """A template of a work order. `needs` is the least level (1-5) by skill name."""

    code = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=80)
    duration_seconds = models.PositiveIntegerField(null=True)
    priority = models.PositiveSmallIntegerField(default=3)
    needs = models.JSONField(default=dict)
    advice = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(priority__gte=1, priority__lte=5), name="job_priority_1_to_5")
        ]
