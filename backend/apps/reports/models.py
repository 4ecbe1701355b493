"""Tables of visit reports: what was done at a visit, piece by piece, by whom and when."""

import uuid
from typing import ClassVar

from django.db import models

from core.reports import Ended


class Piece(models.Model):
    """Something recorded at a visit. `at`: when it was done there."""

    visit = models.ForeignKey("orders.Visit", on_delete=models.PROTECT, related_name="+")
    technician = models.ForeignKey("people.Technician", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        abstract = True


class Looked(Piece):
    """Somebody looked at what there is to know before the work."""

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["visit", "technician"], name="looked_once")]


class DoneTask(Piece):
    """A task of the order that is done. `words`: the task's own, by which it is known."""

    words = models.CharField(max_length=500)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["visit", "words"], name="a_task_is_done_once")]


class FormAnswer(Piece):
    """An answer of the form. `asset`: where it was measured, if the order has one. `label`: as it was asked."""

    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="+")
    key = models.CharField(max_length=40)
    label = models.CharField(max_length=200)
    value = models.JSONField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["visit", "key"], name="a_question_has_one_answer")]
        indexes: ClassVar = [models.Index(fields=["asset", "key", "at"], name="answers_of_an_asset")]


class VisitNote(Piece):
    """What somebody wrote down for themselves, for the office, or for the customer. It stays where it was written."""

    FOR = ("self", "office", "customer")
    reader = models.CharField(max_length=8, choices=[(name, name) for name in FOR])
    text = models.TextField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["visit", "technician", "reader"], name="one_note_for_each_reader")
        ]


class Picture(Piece):
    """A photo or a signature taken at a visit. Its name was made on the phone; `file` comes after what was recorded of
    it, when there is a signal good enough.

    `question` is the question of the form that it answers, if it answers one. `original` is the photo that this one was
    drawn on: it stays as it was, and is shown again when the drawing is left out.
    """

    KINDS = ("photo", "signature")
    PAIRS = ("", "before", "after")
    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    kind = models.CharField(max_length=10, choices=[(name, name) for name in KINDS])
    caption = models.CharField(max_length=300, blank=True)
    pair = models.CharField(max_length=6, blank=True, choices=[(name, name) for name in PAIRS])
    question = models.CharField(max_length=40, blank=True)
    size = models.PositiveIntegerField()
    media_type = models.CharField(max_length=40)
    file = models.ForeignKey("foundation.StoredFile", null=True, on_delete=models.PROTECT, related_name="+")
    original = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="drawings")
    removed = models.BooleanField(default=False)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["visit", "at"], name="pictures_of_a_visit")]


class WorkAccepted(Piece):
    """How the customer took the work: signed, refused, or was not there. What is said later of a visit stands last."""

    ended = models.CharField(max_length=8, choices=[(one.value, one.value) for one in Ended])
    name = models.CharField(max_length=120, blank=True)
    rating = models.PositiveSmallIntegerField(null=True)
    words = models.CharField(max_length=1000, blank=True)
    signature = models.ForeignKey(Picture, null=True, on_delete=models.PROTECT, related_name="+")
    # What the customer saw when they signed, in words: the work may change afterwards.
    shown = models.JSONField(default=list)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(rating=None) | models.Q(rating__gte=1, rating__lte=5), name="a_rating_is_1_to_5"
            )
        ]
        indexes: ClassVar = [models.Index(fields=["visit", "at"], name="acceptances_of_a_visit")]
