"""Tables of scheduling."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class PlaybookRow(Versioned):
    """A playbook: limits and aims as JSON, see playbooks.py. One is the default."""

    name = models.CharField(max_length=60, unique=True)
    limits = models.JSONField(default=dict)
    aims = models.JSONField(default=dict)
    is_default = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["is_default"], condition=models.Q(is_default=True), name="one_default_playbook"
            )
        ]


class RunState(models.TextChoices):
    QUEUED = "queued"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class PlanningRun(models.Model):
    """One computation that makes a proposal: its scope, how far it is, and what came out."""

    kind = models.CharField(max_length=10)
    first_day = models.DateField()
    days = models.PositiveSmallIntegerField(default=1)
    technician = models.ForeignKey("people.Technician", null=True, on_delete=models.CASCADE)
    visit_ids = models.JSONField(default=list)
    playbook_name = models.CharField(max_length=60)
    limits = models.JSONField()
    aims = models.JSONField()
    seconds = models.FloatField()
    seed = models.PositiveIntegerField(default=1)
    state = models.CharField(max_length=8, choices=RunState.choices, default=RunState.QUEUED)
    share = models.FloatField(default=0)
    iterations = models.PositiveIntegerField(default=0)
    cost = models.FloatField(null=True)
    stop_asked = models.BooleanField(default=False)
    tries = models.PositiveSmallIntegerField(default=0)
    failure = models.CharField(max_length=300, blank=True)
    proposal = models.JSONField(null=True)
    asked_by = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    asked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    accepted_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["-id"], name="newest_run")]
