"""Tables of customers."""

from typing import ClassVar

from django.contrib.postgres.indexes import GinIndex
from django.db import models

from foundation.models import Versioned


class Customer(Versioned):
    """A person or company we work for."""

    name = models.CharField(max_length=160)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    # Digits of the phone only: callers and files write numbers in many ways.
    phone_digits = models.CharField(max_length=40, blank=True, db_index=True)

    class Meta:
        indexes: ClassVar = [GinIndex(name="customer_name_trigrams", fields=["name"], opclasses=["gin_trgm_ops"])]

    def save(self, *args: object, **kwargs: object) -> None:
        self.phone_digits = digits_of(self.phone)
        super().save(*args, **kwargs)  # type: ignore[arg-type]


class Contact(models.Model):
    """A person at a customer."""

    customer = models.ForeignKey(Customer, on_delete=models.CASCADE, related_name="contacts")
    name = models.CharField(max_length=120)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)


class Site(Versioned):
    """A place we go to. `area` is None outside every area."""

    customer = models.ForeignKey(Customer, on_delete=models.PROTECT, related_name="sites")
    name = models.CharField(max_length=160)
    address = models.CharField(max_length=240)
    lon = models.FloatField()
    lat = models.FloatField()
    area = models.ForeignKey("company.Area", null=True, on_delete=models.SET_NULL, related_name="sites")
    access_notes = models.CharField(max_length=400, blank=True)

    class Meta:
        indexes: ClassVar = [
            GinIndex(name="site_address_trigrams", fields=["address"], opclasses=["gin_trgm_ops"]),
            GinIndex(name="site_name_trigrams", fields=["name"], opclasses=["gin_trgm_ops"]),
        ]


class Asset(Versioned):
    """A piece of equipment at a site."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="assets")
    kind = models.CharField(max_length=80)
    make = models.CharField(max_length=80, blank=True)
    model = models.CharField(max_length=80, blank=True)
    serial = models.CharField(max_length=60, blank=True)
    installed_on = models.DateField(null=True)

    class Meta:
        indexes: ClassVar = [GinIndex(name="asset_serial_trigrams", fields=["serial"], opclasses=["gin_trgm_ops"])]


def digits_of(phone: str) -> str:
    return "".join(letter for letter in phone if letter.isdigit())
