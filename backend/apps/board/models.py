"""Tables of the board."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


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
    """Something to think of at a moment: on a technician's day, or for somebody in the office. It takes no
    time and stops nothing. `about` names the record it is about ("quote", "order"), if it is about one.
    """

    technician = models.ForeignKey("people.Technician", null=True, on_delete=models.CASCADE, related_name="reminders")
    person = models.ForeignKey("people.Account", null=True, on_delete=models.CASCADE, related_name="reminders")
    about = models.CharField(max_length=10, blank=True)
    about_id = models.BigIntegerField(null=True)
    at = models.DateTimeField()
    text = models.CharField(max_length=200)
    made_by = models.CharField(max_length=120)
    done_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["at"], name="reminder_at"),
            models.Index(fields=["about", "about_id"], condition=~models.Q(about=""), name="reminder_about"),
            models.Index(
                fields=["person", "at"], condition=models.Q(done_at__isnull=True, person__isnull=False),
                name="reminder_is_due",
            ),
        ]  # fmt: skip
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(technician__isnull=False) | models.Q(person__isnull=False),
                name="reminder_is_somebodys",
            )
        ]
