"""Tables of supply. Amounts are whole numbers of the currency's smallest unit."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned


class PurchaseOrder(Versioned):
    """Parts ordered from a supplier. A proposal becomes an order when somebody sends it."""

    STATES: ClassVar = [(word, word) for word in ("proposal", "ordered", "received in part", "received", "cancelled")]

    number = models.CharField(max_length=40, unique=True)
    supplier = models.ForeignKey("stock.Supplier", on_delete=models.PROTECT, related_name="orders")
    target = models.ForeignKey("stock.StockPlace", on_delete=models.PROTECT, related_name="+")
    state = models.CharField(max_length=16, choices=STATES, default="proposal")
    note = models.CharField(max_length=300, blank=True)
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=120)
    ordered_at = models.DateTimeField(null=True)
    ordered_by = models.CharField(max_length=120, blank=True)
    # When the supplier was written to: once, however often the job runs.
    mailed_at = models.DateTimeField(null=True)
    expected_on = models.DateField(null=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["state", "-id"], name="purchase_by_state")]
        constraints: ClassVar = [
            # What is proposed by itself is added to the proposal that is there.
            models.UniqueConstraint(
                fields=["supplier", "target"], condition=models.Q(state="proposal"), name="one_proposal_of_a_supplier"
            )
        ]


class PurchaseLine(models.Model):
    """A part of a purchase order: how many, at what price each (None: nobody knows), how many have come, and what the
    last of them cost. `by_itself`: it was proposed because of the levels."""

    order = models.ForeignKey(PurchaseOrder, on_delete=models.CASCADE, related_name="lines")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="+")
    quantity = models.PositiveIntegerField()
    price = models.BigIntegerField(null=True)
    received = models.PositiveIntegerField(default=0)
    paid = models.BigIntegerField(null=True)
    by_itself = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["order", "part"], name="one_line_of_a_part"),
            models.CheckConstraint(condition=models.Q(quantity__gt=0), name="orders_something"),
        ]
        indexes: ClassVar = [models.Index(fields=["part"], name="purchase_of_part")]


class PartRequest(Versioned):
    """A part that somebody in the field, or the office for them, asks for: how many, by when, whether the work cannot
    be done without it, whether a substitute will do, for which visit; and what became of it."""

    STATES: ClassVar = [(word, word) for word in ("asked", "promised", "ordered", "arrived", "handed over", "refused")]

    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="+")
    quantity = models.PositiveIntegerField()
    technician = models.ForeignKey("people.Technician", on_delete=models.PROTECT, related_name="part_requests")
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="part_requests")
    needed_by = models.DateTimeField(null=True)
    must = models.BooleanField(default=True)
    substitute_allowed = models.BooleanField(default=False)
    words = models.CharField(max_length=300, blank=True)
    state = models.CharField(max_length=12, choices=STATES, default="asked")
    answer = models.CharField(max_length=300, blank=True)
    transfer = models.ForeignKey("stock.Transfer", null=True, on_delete=models.SET_NULL, related_name="requests")
    line = models.ForeignKey(PurchaseLine, null=True, on_delete=models.SET_NULL, related_name="requests")
    asked_at = models.DateTimeField()
    asked_by = models.CharField(max_length=120)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [models.CheckConstraint(condition=models.Q(quantity__gt=0), name="asks_for_something")]
        indexes: ClassVar = [
            models.Index(
                fields=["needed_by"], condition=models.Q(state__in=["asked", "promised", "ordered", "arrived"]),
                name="request_not_ended",
            )
        ]  # fmt: skip


class Claim(Versioned):
    """A defective part under warranty, on its way back to the supplier until it is credited or replaced."""

    STATES: ClassVar = [(word, word) for word in ("set aside", "sent back", "credited", "replaced", "refused")]

    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="claims")
    quantity = models.PositiveIntegerField(default=1)
    serial = models.CharField(max_length=60, blank=True)
    batch = models.CharField(max_length=40, blank=True)
    supplier = models.ForeignKey("stock.Supplier", on_delete=models.PROTECT, related_name="claims")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="claims")
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="claims")
    warranty_until = models.DateField(null=True)
    because = models.CharField(max_length=200)
    state = models.CharField(max_length=10, choices=STATES, default="set aside")
    supplier_says = models.CharField(max_length=200, blank=True)
    credit = models.BigIntegerField(null=True)
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=120)
    sent_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class Loan(Versioned):
    """Something lent: a part (a tool is one, too) or a piece of equipment, to a customer's site or a technician; due
    back on a day. `fetch` is the visit that brings it back."""

    part = models.ForeignKey("stock.Part", null=True, on_delete=models.PROTECT, related_name="loans")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="loans")
    quantity = models.PositiveIntegerField(default=1)
    serial = models.CharField(max_length=60, blank=True)
    source = models.ForeignKey("stock.StockPlace", null=True, on_delete=models.PROTECT, related_name="+")
    site = models.ForeignKey("customers.Site", null=True, on_delete=models.PROTECT, related_name="loans")
    technician = models.ForeignKey("people.Technician", null=True, on_delete=models.PROTECT, related_name="loans")
    lent_at = models.DateTimeField()
    lent_by = models.CharField(max_length=120)
    due = models.DateField()
    calibrated_until = models.DateField(null=True)
    note = models.CharField(max_length=200, blank=True)
    reminded_at = models.DateTimeField(null=True)
    fetch = models.ForeignKey("orders.Visit", null=True, on_delete=models.SET_NULL, related_name="loans")
    returned_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                condition=models.Q(part__isnull=False, asset__isnull=True)
                | models.Q(part__isnull=True, asset__isnull=False),
                name="lends_one_thing",
            ),
            models.CheckConstraint(
                condition=models.Q(site__isnull=False, technician__isnull=True)
                | models.Q(site__isnull=True, technician__isnull=False),
                name="lends_to_one",
            ),
        ]
        indexes: ClassVar = [
            models.Index(fields=["due"], condition=models.Q(returned_at__isnull=True), name="loan_not_back")
        ]
