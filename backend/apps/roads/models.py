"""Tables of roads."""

from typing import ClassVar

from django.db import models


class RegionFile(models.Model):
    """An extract of OpenStreetMap that was brought in from the interface, and how far it is. It belongs to the
    installation, as the region itself does."""

    STATES: ClassVar = [(word, word) for word in ("waiting", "running", "done", "failed")]

    name = models.CharField(max_length=300)
    path = models.CharField(max_length=600)
    # Whether we keep the file ourselves, and throw it away at the end.
    sent = models.BooleanField(default=False)
    state = models.CharField(max_length=10, choices=STATES, default="waiting")
    step = models.CharField(max_length=60, blank=True)
    share = models.FloatField(default=0)
    report = models.JSONField(default=list)
    failure = models.CharField(max_length=300, blank=True)
    asked_at = models.DateTimeField()
    asked_by = models.CharField(max_length=120)
    moved_at = models.DateTimeField()
