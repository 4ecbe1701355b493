"""Tables of planning."""

from typing import ClassVar

from django.db import models


class Change(models.Model):
    """Something a dispatcher did on the board that can be undone: the visit's values before it.

    `version` is the visit's version after it; undoing is only right while that is still so.
    """

    at = models.DateTimeField()
    actor_id = models.BigIntegerField()
    visit = models.ForeignKey("orders.Visit", on_delete=models.CASCADE, related_name="changes")
    version = models.PositiveIntegerField()
    sentence = models.CharField(max_length=300)
    before = models.JSONField()
    undone = models.BooleanField(default=False)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["actor_id", "-id"])]
