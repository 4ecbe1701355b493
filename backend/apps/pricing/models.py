"""Tables of pricing. Amounts are whole numbers of the currency's smallest unit."""

from typing import ClassVar

from django.db import models
from django.db.models.functions import Lower

from core.pricing import UNITS, Category, ItemKind
from foundation.models import Versioned

LONGEST_KEY = 40


class TaxCode(Versioned):
    """How something is taxed. `rates` is [{percent, valid_from}], the percent as text; see core.pricing.TaxCode."""

    key = models.CharField(max_length=LONGEST_KEY, unique=True)
    name = models.CharField(max_length=60)
    category = models.CharField(max_length=20, choices=[(row.value, row.value) for row in Category])
    reason = models.CharField(max_length=120, blank=True)
    rates = models.JSONField(default=list)
    retired = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="tax_code_has_its_name")]


class Item(Versioned):
    """An entry of the price list; see core.pricing.Item. Lines hold its key."""

    key = models.CharField(max_length=LONGEST_KEY, unique=True)
    kind = models.CharField(max_length=12, choices=[(row.value, row.value) for row in ItemKind])
    wording = models.CharField(max_length=200)
    unit = models.CharField(max_length=3, choices=list(UNITS.items()))
    price = models.BigIntegerField()
    cost = models.BigIntegerField(null=True)
    effort = models.PositiveIntegerField(null=True)  # thousandths of a labour-hour
    tax = models.ForeignKey(TaxCode, on_delete=models.PROTECT, related_name="items")
    retired = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("wording"), name="item_has_its_wording")]
        verbose_name_plural = "items"


class PriceList(Versioned):
    """Prices that differ from the standard ones, for the customers that belong to it."""

    name = models.CharField(max_length=60)
    retired = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="price_list_has_its_name")]


class Price(models.Model):
    """What an item costs on a list, or a customer, or else everybody: from a day on and until before another one, for
    at least so many."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="prices")
    list = models.ForeignKey(PriceList, null=True, on_delete=models.CASCADE, related_name="prices")
    customer = models.ForeignKey("customers.Customer", null=True, on_delete=models.CASCADE, related_name="prices")
    price = models.BigIntegerField()
    valid_from = models.DateField()
    valid_until = models.DateField(null=True)
    least = models.DecimalField(max_digits=12, decimal_places=3, default=0)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(list__isnull=True) | models.Q(customer__isnull=True), name="price_of_one_holder"
            ),
            models.UniqueConstraint(
                fields=["item", "list", "customer", "least", "valid_from"], nulls_distinct=False,
                name="one_price_from_a_day_on",
            ),
        ]  # fmt: skip


class CustomerTerms(models.Model):
    """What a customer pays by: its list, whether it reads prices with tax, and why it pays none."""

    customer = models.OneToOneField(
        "customers.Customer", primary_key=True, on_delete=models.CASCADE, related_name="terms"
    )
    list = models.ForeignKey(PriceList, null=True, on_delete=models.PROTECT, related_name="customers")
    reads_with_tax = models.BooleanField(default=False)
    exempt_reason = models.CharField(max_length=120, blank=True)
    exempt_number = models.CharField(max_length=60, blank=True)
    exempt_until = models.DateField(null=True)


class NamedDiscount(Versioned):
    """A discount the company gives under a name: percent or an amount, until a day (the last one), or so many times.

    `given` counts the documents that were agreed with it.
    """

    key = models.CharField(max_length=LONGEST_KEY, unique=True)
    name = models.CharField(max_length=80)
    percent = models.DecimalField(max_digits=6, decimal_places=3, default=0)
    amount = models.BigIntegerField(default=0)
    valid_until = models.DateField(null=True)
    times = models.PositiveIntegerField(null=True)
    given = models.PositiveIntegerField(default=0)
    retired = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="discount_has_its_name")]
        verbose_name = "discount"


class Charging(Versioned):
    """How labour and journeys are charged where nothing else is said; one row. Items are named by key.

    `skill_items` is the labour item by key of the skill. `surcharges` are {name, percent, week, holidays}: hours like
    "18:00-22:00" by weekday (an end before the start lies on the next day), and whether public holidays count whole.
    `travel` is {way, rate, least, otherwise, flat}: amounts in smallest units, `flat` by area.
    """

    labour_item = models.CharField(max_length=LONGEST_KEY, blank=True)
    skill_items = models.JSONField(default=dict)
    step_minutes = models.PositiveSmallIntegerField(default=15)
    least_minutes = models.PositiveSmallIntegerField(default=0)
    surcharges = models.JSONField(default=list)
    travel_item = models.CharField(max_length=LONGEST_KEY, blank=True)
    travel = models.JSONField(default=dict)
