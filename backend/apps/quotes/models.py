"""Tables of quotes. Amounts are whole numbers of the currency's smallest unit."""

from typing import ClassVar

from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.db.models import Value
from django.db.models.functions import Concat, Lower

from core.quotes import QuoteState
from foundation.models import Versioned

_TEXT = models.TextField()


class Quote(Versioned):
    """What is offered to a customer. `content` is the draft, see apps.quotes.content; what was sent is in its versions.

    `revising`: a new version is being written, while the one that was sent can still be approved. `extra_work_on`: the
    order it would be added to; `order` is what it became. `visit` is the one in the field during which it was made.
    `net` and `gross` are of the first way to do it; `given` is the highest discount in whole percent, `agreed` up to
    where somebody has agreed to it.
    """

    number = models.CharField(max_length=40, unique=True)
    state = models.CharField(max_length=10, choices=[(s.value, s.value) for s in QuoteState], default="draft")
    revising = models.BooleanField(default=False)
    title = models.CharField(max_length=160)
    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="quotes")
    site = models.ForeignKey("customers.Site", null=True, on_delete=models.PROTECT, related_name="quotes")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="quotes")
    job_type = models.ForeignKey("catalogue.JobType", null=True, on_delete=models.PROTECT, related_name="quotes")
    request = models.ForeignKey("intake.Request", null=True, on_delete=models.PROTECT, related_name="quotes")
    extra_work_on = models.ForeignKey(
        "orders.WorkOrder", null=True, on_delete=models.PROTECT, related_name="quotes_for_more"
    )
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="quotes")
    order = models.OneToOneField("orders.WorkOrder", null=True, on_delete=models.PROTECT, related_name="quote")
    author = models.ForeignKey("people.Account", on_delete=models.PROTECT, related_name="quotes")
    contact_name = models.CharField(max_length=120, blank=True)
    contact_email = models.EmailField(blank=True)
    contact_phone = models.CharField(max_length=40, blank=True)
    content = models.JSONField()
    note = models.TextField(blank=True)
    chance = models.PositiveSmallIntegerField(default=50)
    net = models.BigIntegerField(default=0)
    gross = models.BigIntegerField(default=0)
    given = models.PositiveSmallIntegerField(default=0)
    agreed = models.PositiveSmallIntegerField(default=0)
    agreed_by = models.CharField(max_length=120, blank=True)
    made_at = models.DateTimeField()
    sent_at = models.DateTimeField(null=True)
    valid_until = models.DateField(null=True)
    closed_at = models.DateTimeField(null=True)
    why = models.CharField(max_length=60, blank=True)
    why_note = models.CharField(max_length=300, blank=True)

    words = models.GeneratedField(
        expression=Lower(Concat("number", Value(" "), "title", Value(" "), "contact_name", output_field=_TEXT)),
        output_field=_TEXT, db_persist=True,
    )  # fmt: skip

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["state", "-id"]),
            models.Index(fields=["customer", "-id"]),
            models.Index(fields=["valid_until"], condition=models.Q(state="sent"), name="quote_runs_out"),
            GinIndex(name="quote_words_trigrams", fields=["words"], opclasses=["gin_trgm_ops"]),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(chance__lte=100), name="chance_in_percent"),
        ]

    @property
    def state_now(self) -> QuoteState:
        return QuoteState(self.state)


class QuoteVersion(models.Model):
    """What was shown to the customer, word for word and cent for cent; never edited.

    `content` is all the customer reads, `digest` its fingerprint; `draft` is what it was made from, with costs. `nonce`
    is part of its address: without it, or once it is revoked or replaced, the address leads nowhere.
    """

    HOW: ClassVar = [(name, name) for name in ("e-mail", "shown", "on paper")]

    quote = models.ForeignKey(Quote, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveSmallIntegerField()
    content = models.JSONField()
    draft = models.JSONField()
    digest = models.CharField(max_length=64)
    changes = models.JSONField(default=list)
    how = models.CharField(max_length=10, choices=HOW)
    email = models.EmailField(blank=True)
    sent_at = models.DateTimeField()
    sent_by = models.CharField(max_length=120)
    valid_until = models.DateField()
    nonce = models.CharField(max_length=32, unique=True)
    revoked_at = models.DateTimeField(null=True)
    replaced_at = models.DateTimeField(null=True)
    first_seen_at = models.DateTimeField(null=True)
    seen_count = models.PositiveIntegerField(default=0)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["quote", "number"], name="one_version_of_a_number")]


class Answer(models.Model):
    """What the customer said to a version: approved, or refused. One for each quote that is approved.

    `signed` is what was signed, whole: choices, amounts, name, time, address, and the digest of the version; `digest`
    is its fingerprint. `drawing` is the signature as a picture (PNG), if it was drawn.
    """

    version = models.OneToOneField(QuoteVersion, on_delete=models.PROTECT, related_name="answer")
    approved = models.BooleanField()
    at = models.DateTimeField()
    name = models.CharField(max_length=120)
    address = models.CharField(max_length=60, blank=True)
    why = models.CharField(max_length=60, blank=True)
    note = models.CharField(max_length=1000, blank=True)
    signed = models.JSONField(default=dict)
    drawing = models.BinaryField(null=True)
    digest = models.CharField(max_length=64, blank=True)
    paper = models.ForeignKey("foundation.StoredFile", null=True, on_delete=models.SET_NULL, related_name="+")


class Question(models.Model):
    """Something the customer asked about a version; it waits for its author until somebody has answered."""

    version = models.ForeignKey(QuoteVersion, on_delete=models.CASCADE, related_name="questions")
    at = models.DateTimeField()
    name = models.CharField(max_length=120)
    text = models.CharField(max_length=2000)
    answer = models.CharField(max_length=2000, blank=True)
    answered_at = models.DateTimeField(null=True)
    answered_by = models.CharField(max_length=120, blank=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["at"], name="question_waits", condition=models.Q(answered_at__isnull=True))
        ]


class Survey(models.Model):
    """A visit that looks at the place before the quote."""

    quote = models.ForeignKey(Quote, on_delete=models.CASCADE, related_name="surveys")
    visit = models.OneToOneField("orders.Visit", on_delete=models.CASCADE, related_name="survey")
