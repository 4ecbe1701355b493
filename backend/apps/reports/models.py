"""Tables of visit reports: what was done at a visit, piece by piece, by whom and when."""

import uuid
from typing import ClassVar

from django.contrib.postgres.fields import ArrayField
from django.db import models

from core.reports import LONGEST_MINUTES, SORTS, Ended


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


class UsedPart(Piece):
    """So many of a part were used; none of it (0): it was planned, and was not needed.

    Its name was made on the phone. `source` is the van or depot it was taken from, None: elsewhere, in words.
    `booking` is the name of its movements in stock; None: nothing was booked, for nobody counts there, or nothing was
    there on the books.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="+")
    quantity = models.PositiveIntegerField()
    serials = ArrayField(models.CharField(max_length=60), default=list, blank=True)
    batch = models.CharField(max_length=40, blank=True)
    source = models.ForeignKey("stock.StockPlace", null=True, on_delete=models.PROTECT, related_name="+")
    elsewhere = models.CharField(max_length=120, blank=True)
    booking = models.UUIDField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["visit"], name="parts_of_a_visit")]


class RemovedPart(Piece):
    """A part that came out at a visit, and what becomes of it. `part` None: it is none of ours; `words` says what."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    part = models.ForeignKey("stock.Part", null=True, on_delete=models.PROTECT, related_name="+")
    words = models.CharField(max_length=200, blank=True)
    quantity = models.PositiveIntegerField(default=1)
    serial = models.CharField(max_length=60, blank=True)
    what = models.CharField(max_length=12, choices=[(name, name) for name in ("defective", "kept", "thrown away")])
    because = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["visit"], name="removed_at_a_visit")]


class SaidTime(Piece):
    """How long somebody travelled or worked, where the stamps do not tell it. `technician` is whose time it is."""

    sort = models.CharField(max_length=6, choices=[(name, name) for name in SORTS])
    minutes = models.PositiveSmallIntegerField()
    reason = models.CharField(max_length=200)
    said_by = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["visit", "technician", "sort"], name="one_time_of_a_sort"),
            models.CheckConstraint(condition=models.Q(minutes__lte=LONGEST_MINUTES), name="no_visit_of_days"),
        ]


class Charge(Piece):
    """Something that is charged besides work and parts. `item` is the key of an item of the price list, empty: none.
    `quantity` in thousandths of its unit."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    item = models.CharField(max_length=40, blank=True)
    words = models.CharField(max_length=200)
    quantity = models.PositiveIntegerField(default=1000)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["visit"], name="charges_of_a_visit")]


class Mileage(Piece):
    """How far somebody drove for a visit, by what they read off. Metres."""

    metres = models.PositiveIntegerField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["visit", "technician"], name="one_mileage_of_a_person")
        ]


class NothingMore(Piece):
    """Somebody said that of parts, times or charges there is nothing more to record: what stands there is all."""

    OF = ("parts", "time", "charges")
    of = models.CharField(max_length=8, choices=[(name, name) for name in OF])

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["visit", "of"], name="nothing_more_is_said_once")]


class SentReport(models.Model):
    """A report that somebody sends to an address. `mailed_at` None: the letter is on its way to be written."""

    visit = models.ForeignKey("orders.Visit", on_delete=models.PROTECT, related_name="+")
    address = models.EmailField()
    at = models.DateTimeField()
    by = models.CharField(max_length=120)
    mailed_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["visit", "-id"], name="sent_reports_of_a_visit")]
