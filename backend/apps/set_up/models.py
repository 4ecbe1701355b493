"""Tables of setting up."""

from typing import ClassVar

from django.db import models


class Archive(models.Model):
    """An archive that is made or brought in. It belongs to the installation, not to the company: it is in no archive,
    and who asked stands there by name."""

    STATES: ClassVar = [(word, word) for word in ("waiting", "running", "done", "failed")]

    # "out": made here; "in": brought here; "before": made before the example, to go back to.
    way = models.CharField(max_length=6, choices=[(word, word) for word in ("out", "in", "before")])
    state = models.CharField(max_length=10, choices=STATES, default="waiting")
    asked_at = models.DateTimeField()
    asked_by = models.CharField(max_length=120)
    moved_at = models.DateTimeField()
    failure = models.CharField(max_length=300, blank=True)
    content = models.FileField(upload_to="archives", null=True)
    size = models.BigIntegerField(default=0)
    rows = models.BigIntegerField(default=0)
