"""Tables of customers."""

from typing import ClassVar

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVector, SearchVectorField
from django.db import models
from django.db.models.functions import Upper

from foundation.models import Versioned


class Customer(Versioned):
    """A person or company we work for.

    The payer is the customer itself, another customer (`payer`) or a typed `payer_address`. `extra` holds the answers
    to the company's own fields. A customer that was merged into another one stays as a row that leads there.
    """

    name = models.CharField(max_length=160)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    # The phone in one notation (E.164 where it is a number at all): callers and files write numbers in many ways.
    phone_key = models.CharField(max_length=40, blank=True, db_index=True)
    payer = models.ForeignKey("self", null=True, blank=True, on_delete=models.PROTECT, related_name="pays_for")
    payer_address = models.CharField(max_length=300, blank=True)
    needs_po_number = models.BooleanField(default=False)
    tags = ArrayField(models.CharField(max_length=40), default=list, blank=True)
    extra = models.JSONField(default=dict)
    merged_into = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="merged")
    # Stands for ourselves: stops to fetch parts are orders of it, and nobody is told of them but our own people.
    is_us = models.BooleanField(default=False)

    class Meta:
        indexes: ClassVar = [
            GinIndex(name="customer_name_trigrams", fields=["name"], opclasses=["gin_trgm_ops"]),
            models.Index(Upper("email"), name="customer_email"),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(payer__isnull=True) | models.Q(payer_address=""), name="one_payer_only"
            ),
            models.UniqueConstraint(fields=["is_us"], condition=models.Q(is_us=True), name="we_are_one_customer"),
        ]


class Contact(Versioned):
    """A person at a customer, or at one of its sites."""

    CHANNELS: ClassVar = [("text", "text"), ("e-mail", "e-mail"), ("call", "call")]

    customer = models.ForeignKey(Customer, on_delete=models.CASCADE, related_name="contacts")
    site = models.ForeignKey("Site", null=True, on_delete=models.SET_NULL, related_name="contacts")
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=60, blank=True)
    phone = models.CharField(max_length=40, blank=True)
    phone_key = models.CharField(max_length=40, blank=True, db_index=True)
    email = models.EmailField(blank=True)
    channel = models.CharField(max_length=6, choices=CHANNELS, default="text")

    class Meta:
        indexes: ClassVar = [models.Index(Upper("email"), name="contact_email")]


class Site(Versioned):
    """A place we go to. `area` is None outside every area; `opening` is seven spans, empty: always open.

    Where technicians are `required`, nobody else is sent.
    """

    customer = models.ForeignKey(Customer, on_delete=models.PROTECT, related_name="sites")
    name = models.CharField(max_length=160)
    address = models.CharField(max_length=240)
    lon = models.FloatField()
    lat = models.FloatField()
    area = models.ForeignKey("company.Area", null=True, on_delete=models.SET_NULL, related_name="sites")
    access_notes = models.CharField(max_length=400, blank=True)
    opening = ArrayField(models.CharField(max_length=11, blank=True), default=list, blank=True)
    preferred = models.ManyToManyField("people.Technician", related_name="preferred_at", blank=True)
    refused = models.ManyToManyField("people.Technician", related_name="refused_at", blank=True)
    required = models.ManyToManyField("people.Technician", related_name="required_at", blank=True)
    extra = models.JSONField(default=dict)

    class Meta:
        indexes: ClassVar = [
            GinIndex(name="site_address_trigrams", fields=["address"], opclasses=["gin_trgm_ops"]),
            GinIndex(name="site_name_trigrams", fields=["name"], opclasses=["gin_trgm_ops"]),
        ]


class Asset(Versioned):
    """A piece of equipment at a site; parts of it may be assets themselves."""

    STATES: ClassVar = [(name, name) for name in ("in service", "out of service", "removed")]

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="assets")
    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="parts")
    kind = models.CharField(max_length=80)
    make = models.CharField(max_length=80, blank=True)
    model = models.CharField(max_length=80, blank=True)
    serial = models.CharField(max_length=60, blank=True)
    installed_on = models.DateField(null=True)
    warranty_until = models.DateField(null=True)
    state = models.CharField(max_length=14, choices=STATES, default="in service")
    extra = models.JSONField(default=dict)

    class Meta:
        indexes: ClassVar = [GinIndex(name="asset_serial_trigrams", fields=["serial"], opclasses=["gin_trgm_ops"])]

    @property
    def words(self) -> str:
        return " ".join(filter(None, [self.kind, self.make, self.model, self.serial]))


class Findable(models.Model):
    """What a customer can be found by, one row for the customer and for each contact, site and asset.

    Kept by `apps.customers.search`. `text` is folded: small letters, without accents, phones in one notation.
    """

    customer = models.ForeignKey(Customer, on_delete=models.CASCADE, related_name="findables")
    site = models.ForeignKey(Site, null=True, on_delete=models.CASCADE, related_name="+")
    asset = models.ForeignKey(Asset, null=True, on_delete=models.CASCADE, related_name="+")
    contact = models.ForeignKey(Contact, null=True, on_delete=models.CASCADE, related_name="+")
    text = models.TextField()
    vector = models.GeneratedField(
        expression=SearchVector("text", config="simple"), output_field=SearchVectorField(), db_persist=True
    )

    class Meta:
        indexes: ClassVar = [
            GinIndex(name="findable_trigrams", fields=["text"], opclasses=["gin_trgm_ops"]),
            GinIndex(name="findable_words", fields=["vector"]),
        ]


class FindableWord(models.Model):
    """A word that stands in what customers are found by: among these the one is looked for that a misspelt word meant.
    Words that went out of use stay; nothing is found by them."""

    word = models.CharField(max_length=80, unique=True)


class Merge(models.Model):
    """Two customers made one: what moved, so that it can be undone."""

    kept = models.ForeignKey(Customer, on_delete=models.CASCADE, related_name="+")
    gone = models.ForeignKey(Customer, on_delete=models.CASCADE, related_name="+")
    # {"app.Model.field": [ids that pointed at `gone`]}; and what the kept one took over, by field: before and after.
    moved = models.JSONField()
    taken = models.JSONField()
    at = models.DateTimeField()
    by = models.CharField(max_length=120)
    undone = models.BooleanField(default=False)


class CustomerFile(models.Model):
    """A file of customers, sites, contacts or assets that is read in, in the background."""

    KINDS: ClassVar = [(name, name) for name in ("customers", "sites", "contacts", "assets")]
    STATES: ClassVar = [
        (name, name) for name in ("reading", "columns", "read", "importing", "stopped", "done", "failed")
    ]

    kind = models.CharField(max_length=10, choices=KINDS)
    name = models.CharField(max_length=200)
    text = models.TextField()
    state = models.CharField(max_length=10, choices=STATES, default="reading")
    share = models.FloatField(default=0)
    counts = models.JSONField(default=dict)
    rows = models.JSONField(default=list)
    failure = models.CharField(max_length=300, blank=True)
    uploaded_at = models.DateTimeField()
    uploaded_by = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    # Which of our columns each heading means ("" for none); versions of what would change, by line, as it was read.
    columns = models.JSONField(default=dict)
    seen = models.JSONField(default=dict)
    read_at = models.DateTimeField(null=True)
    # So many rows are behind it; what became of them, and which of them were refused.
    position = models.PositiveIntegerField(default=0)
    outcome = models.JSONField(default=dict)
    refused = models.JSONField(default=list)
    stop_asked = models.BooleanField(default=False)
    moved_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class ColumnChoice(models.Model):
    """Which column somebody said a heading of a file means; it counts for the next file."""

    kind = models.CharField(max_length=10)
    heading = models.CharField(max_length=120)
    column = models.CharField(max_length=60, blank=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["kind", "heading"], name="one_column_for_a_heading")]
