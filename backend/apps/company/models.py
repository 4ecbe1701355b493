"""Tables of the company."""

from django.db import models

from foundation.models import Versioned


class Company(Versioned):
    """The one company this installation works for."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=60)
    currency = models.CharField(max_length=3, default="EUR")


class Area(models.Model):
    """A polygon in which some technicians work."""

    name = models.CharField(max_length=60, unique=True)
    polygon = models.JSONField()


class Depot(models.Model):
    name = models.CharField(max_length=60, unique=True)
    address = models.CharField(max_length=200)
    lon = models.FloatField()
    lat = models.FloatField()
