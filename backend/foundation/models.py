"""Tables of the foundation."""

from typing import ClassVar

from django.db import models


class Versioned(models.Model):
    """A record with a version: whoever changes it says which one they saw."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class AuditEntry(models.Model):
    """Who did what to which record, and what changed. Never edited."""

    at = models.DateTimeField()
    actor_id = models.BigIntegerField(null=True)
    actor_name = models.CharField(max_length=120)
    action = models.CharField(max_length=60)
    entity = models.CharField(max_length=40)
    entity_id = models.BigIntegerField()
    version = models.PositiveIntegerField(default=0)
    sentence = models.CharField(max_length=300, blank=True)
    changes = models.JSONField(default=dict)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["entity", "entity_id", "-id"])]


class ClockShift(models.Model):
    """How far the application's clock runs from the machine's. One row; only heeded in a demo."""

    seconds = models.BigIntegerField(default=0)


class StoredFile(models.Model):
    """A file that belongs to a record: a photo, a letter, what came with an e-mail."""

    record = models.CharField(max_length=40)
    record_id = models.BigIntegerField()
    name = models.CharField(max_length=200)
    media_type = models.CharField(max_length=100)
    size = models.PositiveIntegerField()
    content = models.FileField(upload_to="files/%Y/%m")
    at = models.DateTimeField()
    by = models.CharField(max_length=120)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["record", "record_id"])]


class Counter(models.Model):
    """A count that is never given twice."""

    name = models.CharField(max_length=40, unique=True)
    last = models.BigIntegerField(default=0)


class AnsweredCall(models.Model):
    """A creating call by its key: what was asked (a hash), and the answer; no status: it is being done. See `once`."""

    account_id = models.BigIntegerField()
    key = models.CharField(max_length=100)
    asked = models.CharField(max_length=64)
    at = models.DateTimeField(db_index=True)
    status = models.PositiveSmallIntegerField(null=True)
    media_type = models.CharField(max_length=100, blank=True)
    answer = models.TextField(blank=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["account_id", "key"], name="answered_once")]


class UndoEntry(models.Model):
    """Something that was done and can be undone: the values of a record (`subject` and `key`) before it and after it,
    see `undo`; empty ones: it was not there.

    It led from version `seen` of the record to `led_to`. `version` is the one from which it can be undone, or done
    again: it moves on as changes after it are taken back. Records without versions are told by their values.
    """

    at = models.DateTimeField()
    actor_id = models.BigIntegerField()
    # The screen it was done at: undoing there takes back what was done there.
    screen = models.CharField(max_length=40, blank=True)
    subject = models.CharField(max_length=20)
    key = models.BigIntegerField()
    version = models.PositiveIntegerField(default=0)
    seen = models.PositiveIntegerField(default=0)
    led_to = models.PositiveIntegerField(default=0)
    sentence = models.CharField(max_length=300)
    before = models.JSONField()
    after = models.JSONField(default=dict)
    # What one intention did is undone together: the id of the first of its entries.
    intention = models.BigIntegerField(null=True, db_index=True)
    undone = models.BooleanField(default=False)
    # Undone, and nothing else was done since: it can be done again.
    redoable = models.BooleanField(default=False)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["actor_id", "-id"], name="undo_of_actor"),
            models.Index(fields=["subject", "key"], name="undo_of_record"),
        ]
