"""Tables of the company."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned
from foundation.named import Named


class Company(Versioned):
    """The one company this installation works for."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=60)
    currency = models.CharField(max_length=3, default="EUR")
    # As they stand on what customers get in their hands.
    address = models.CharField(max_length=300, blank=True)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    tax_number = models.CharField(max_length=40, blank=True)
    # Two letters (ISO 3166-1), and the part of the country as the calendar of public holidays names it.
    country = models.CharField(max_length=2, blank=True)
    region = models.CharField(max_length=40, blank=True)
    # What differs from the defaults of core.company.Settings.
    settings = models.JSONField(default=dict)


class Logo(models.Model):
    """The company's own sign, as a PNG that we wrote ourselves."""

    company = models.OneToOneField(Company, on_delete=models.CASCADE, related_name="logo")
    content = models.BinaryField()
    mark = models.CharField(max_length=16)


class StandingAreas(models.Manager["Area"]):
    """Those that were not taken off the map."""

    def get_queryset(self) -> models.QuerySet["Area"]:
        return super().get_queryset().filter(removed_at__isnull=True)


class Area(Versioned):
    """A polygon in which some technicians work. One that was taken off the map stays as a row, with who worked there,
    so that it can be put back."""

    name = models.CharField(max_length=60)
    polygon = models.JSONField()
    removed_at = models.DateTimeField(null=True)

    objects = StandingAreas()
    ever = models.Manager()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["name"], condition=models.Q(removed_at__isnull=True), name="one_area_of_a_name"
            )
        ]


class RecordFields(Versioned):
    """The fields a company has added to one kind of record, as questions of core.forms; of a vehicle, what is asked
    about it every morning."""

    RECORDS: ClassVar = ("customer", "site", "asset", "order", "vehicle")

    record = models.CharField(max_length=10, choices=[(name, name) for name in RECORDS], unique=True)
    questions = models.JSONField(default=list)


class Depot(Versioned):
    """Where technicians' days begin and end."""

    name = models.CharField(max_length=60, unique=True)
    address = models.CharField(max_length=200)
    lon = models.FloatField()
    lat = models.FloatField()
    # No longer offered; who begins there goes on.
    retired = models.BooleanField(default=False)


class Tag(Named):
    """A word to mark customers and orders with."""


class Holiday(models.Model):
    """A day on which nobody has a shift."""

    day = models.DateField(unique=True)
    name = models.CharField(max_length=60)
