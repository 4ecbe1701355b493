"""Tables of planning."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class Change(models.Model):
    """Something a dispatcher did on the board that can be undone: the values before it and after it, of a visit or
    of another record (`subject` and `key`, see commands.restoring); empty ones: it was not there.

    It led from version `seen` of the visit to `led_to`. `version` is the one from which it can be undone, or done
    again: it moves on as changes after it are taken back.
    """

    at = models.DateTimeField()
    actor_id = models.BigIntegerField()
    # The screen it was done at: undoing there takes back what was done there.
    screen = models.CharField(max_length=40, blank=True)
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.CASCADE, related_name="changes")
    subject = models.CharField(max_length=20, blank=True)
    key = models.BigIntegerField(default=0)
    version = models.PositiveIntegerField(default=0)
    seen = models.PositiveIntegerField(default=0)
    led_to = models.PositiveIntegerField(default=0)
    sentence = models.CharField(max_length=300)
    before = models.JSONField()
    after = models.JSONField(default=dict)
    # Changes made in one step (an accepted proposal) are undone in one step: the id of the first of them.
    step = models.BigIntegerField(null=True, db_index=True)
    undone = models.BooleanField(default=False)
    # Undone, and nothing else was done since: it can be done again.
    redoable = models.BooleanField(default=False)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["actor_id", "-id"])]
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(visit__isnull=False, subject="")
                | models.Q(visit__isnull=True) & ~models.Q(subject=""),
                name="change_of_a_visit_or_another_record",
            )
        ]


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
        indexes: ClassVar = [models.Index(fields=["-id"])]


class Printout(models.Model):
    """Papers that take longer than one waits for: made by the worker, fetched when they are done."""

    STATES: ClassVar = [(name, name) for name in ("waiting", "printing", "done", "failed")]

    day = models.DateField()
    state = models.CharField(max_length=8, choices=STATES, default="waiting")
    share = models.FloatField(default=0)
    pages_of = models.PositiveIntegerField(default=0)
    failure = models.CharField(max_length=300, blank=True)
    content = models.FileField(upload_to="printouts/%Y/%m", null=True)
    asked_by = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    asked_at = models.DateTimeField()


class Reminder(Versioned):
    """Something to think of at a moment of a technician's day. It takes no time and stops nothing."""

    technician = models.ForeignKey("people.Technician", on_delete=models.CASCADE, related_name="reminders")
    at = models.DateTimeField()
    text = models.CharField(max_length=200)
    made_by = models.CharField(max_length=120)
    done_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["at"])]
