"""Tables of stock. Amounts are whole numbers of the currency's smallest unit, quantities whole numbers of the part's
unit."""

import uuid
from typing import ClassVar

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.db.models.functions import Lower

from core.pricing import UNITS
from core.stock import CountScope, MoveReason, PlaceKind, Tracking
from foundation.models import Versioned
from foundation.named import Named

PIECE = "C62"
LONGEST_NUMBER = 40


class Supplier(Versioned):
    """Whom parts are bought from. `days`: from ordering to having it. `our_number`: what they know us by."""

    name = models.CharField(max_length=120)
    email = models.EmailField(blank=True)
    phone = models.CharField(max_length=40, blank=True)
    days = models.PositiveSmallIntegerField(default=3)
    our_number = models.CharField(max_length=40, blank=True)
    note = models.CharField(max_length=300, blank=True)
    retired = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="supplier_has_its_name")]


class Part(Named):
    """Something that visits take, that lies somewhere, and that is bought and sold.

    Job types and visits hold its `code`; `number` is what people call it by. `cost` is the moving average of what one
    was bought for; the price is the item's. `untidy`: it was made from nothing but a name, and somebody should look at
    it. `fits`: makes and models of equipment, as "Norrvik T4".
    """

    number = models.CharField(max_length=LONGEST_NUMBER, unique=True, null=True)
    unit = models.CharField(max_length=3, choices=list(UNITS.items()), default=PIECE)
    supplier = models.ForeignKey(Supplier, null=True, on_delete=models.PROTECT, related_name="parts")
    supplier_number = models.CharField(max_length=60, blank=True)
    cost = models.BigIntegerField(null=True)
    item = models.OneToOneField("pricing.Item", null=True, on_delete=models.SET_NULL, related_name="part")
    gtin = models.CharField(max_length=14, blank=True)
    photo = models.ForeignKey("foundation.StoredFile", null=True, on_delete=models.SET_NULL, related_name="+")
    tracking = models.CharField(max_length=13, choices=[(row.value, row.value) for row in Tracking], default="plain")
    hazardous = models.BooleanField(default=False)
    oversized = models.BooleanField(default=False)
    fits = ArrayField(models.CharField(max_length=160), default=list, blank=True)
    warranty_months = models.PositiveSmallIntegerField(null=True)
    untidy = models.BooleanField(default=False)

    class Meta(Named.Meta):
        verbose_name = "part"
        constraints: ClassVar = [
            *Named.Meta.constraints,
            models.UniqueConstraint(fields=["gtin"], condition=~models.Q(gtin=""), name="gtin_of_one_part"),
        ]
        indexes: ClassVar = [GinIndex(name="part_name_trigrams", fields=["name"], opclasses=["gin_trgm_ops"])]

    @property
    def barcode(self) -> str:
        """What its label says."""
        return self.gtin or self.number or self.code


class Substitute(models.Model):
    """`other` does instead of `part`, the lower `rank` first; both ways: `part` does instead of `other` as well."""

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="substitutes")
    other = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="substitute_for")
    rank = models.PositiveSmallIntegerField(default=1)
    both_ways = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["part", "other"], name="one_substitute_of_a_kind"),
            models.CheckConstraint(condition=~models.Q(part=models.F("other")), name="no_substitute_for_itself"),
        ]


class StockPlace(Versioned):
    """Where parts lie. A van belongs to its vehicle, and goes with it to whoever drives it; of who has no vehicle it is
    the technician's own. Of each other kind it says whose it is."""

    kind = models.CharField(max_length=16, choices=[(row.value, row.value) for row in PlaceKind])
    depot = models.OneToOneField("company.Depot", null=True, on_delete=models.PROTECT, related_name="stock")
    vehicle = models.OneToOneField("people.Vehicle", null=True, on_delete=models.PROTECT, related_name="stock")
    technician = models.OneToOneField("people.Technician", null=True, on_delete=models.CASCADE, related_name="stock")
    site = models.OneToOneField("customers.Site", null=True, on_delete=models.PROTECT, related_name="stock")
    supplier = models.OneToOneField(Supplier, null=True, on_delete=models.PROTECT, related_name="stock")

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="place_of_its_kind",
                condition=(
                    models.Q(kind="depot", depot__isnull=False)
                    | models.Q(kind="van", vehicle__isnull=False, technician__isnull=True)
                    | models.Q(kind="van", vehicle__isnull=True, technician__isnull=False)
                    | models.Q(kind="customer site", site__isnull=False)
                    | models.Q(kind="supplier", supplier__isnull=False)
                    | models.Q(kind__in=["in transit", "set aside", "scrap", "count difference"])
                ),
            ),
            # Of what is nobody's there is one.
            models.UniqueConstraint(
                fields=["kind"],
                condition=models.Q(kind__in=["in transit", "set aside", "scrap", "count difference"]),
                name="one_place_of_nobodys",
            ),
        ]

    @property
    def what(self) -> PlaceKind:
        return PlaceKind(self.kind)

    @property
    def name(self) -> str:
        """What people call it."""
        for owner in (self.depot, self.vehicle, self.site, self.supplier):
            if owner is not None:
                return str(owner.name)
        if self.technician is not None:
            return f"Van of {self.technician.name}"
        return self.kind[:1].upper() + self.kind[1:]


class Level(Versioned):
    """How many of a part lie at a place: the sum of its movements, kept beside them, and equal to it.

    Below `least` it is ordered or brought, up to `target`; `by_hand`: somebody set them, so nothing proposes others.
    """

    place = models.ForeignKey(StockPlace, on_delete=models.CASCADE, related_name="levels")
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="levels")
    quantity = models.IntegerField(default=0)
    shelf = models.CharField(max_length=20, blank=True)
    least = models.PositiveIntegerField(null=True)
    target = models.PositiveIntegerField(null=True)
    by_hand = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["place", "part"], name="one_level_of_a_part"),
            models.CheckConstraint(
                condition=models.Q(least__isnull=True, target__isnull=True)
                | models.Q(least__isnull=False, target__gte=models.F("least")),
                name="target_not_below_least",
            ),
        ]
        indexes: ClassVar = [
            models.Index(fields=["part"], name="level_of_part"),
            models.Index(fields=["place"], condition=models.Q(quantity__lt=0), name="level_below_zero"),
        ]


class Movement(models.Model):
    """So many of a part from one place to another, with why. Never edited, never deleted: what is wrong is moved back.

    `key` is given by whoever sends it, so that sending it twice does nothing; what moves together has the same key,
    each with its position. `unit_cost` is what one piece cost then.
    """

    key = models.UUIDField(default=uuid.uuid4)
    position = models.PositiveSmallIntegerField(default=0)
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="movements")
    quantity = models.PositiveIntegerField()
    source = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="+", db_index=False)
    target = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="+", db_index=False)
    reason = models.CharField(max_length=8, choices=[(row.value, row.value) for row in MoveReason])
    serials = ArrayField(models.CharField(max_length=60), default=list, blank=True)
    batch = models.CharField(max_length=40, blank=True)
    unit_cost = models.BigIntegerField(null=True)
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField()
    actor_id = models.BigIntegerField(null=True)
    actor_name = models.CharField(max_length=120)
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="movements",
                              db_index=False)  # fmt: skip
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["key", "position"], name="moved_once"),
            models.CheckConstraint(condition=models.Q(quantity__gt=0), name="moves_something"),
            models.CheckConstraint(condition=~models.Q(source=models.F("target")), name="moves_somewhere"),
        ]
        indexes: ClassVar = [
            models.Index(fields=["part", "-id"], name="movement_of_part"),
            models.Index(fields=["source", "-id"], name="movement_from"),
            models.Index(fields=["target", "-id"], name="movement_to"),
            models.Index(fields=["visit"], condition=models.Q(visit__isnull=False), name="movement_of_visit"),
            models.Index(fields=["happened_at"], condition=models.Q(reason="use"), name="movement_use"),
        ]


class Piece(models.Model):
    """One piece of a part with serial numbers, and where it is now."""

    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="pieces")
    serial = models.CharField(max_length=60)
    batch = models.CharField(max_length=40, blank=True)
    place = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="pieces")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["part", "serial"], name="one_piece_of_a_serial")]
        indexes: ClassVar = [
            GinIndex(name="piece_serial_trigrams", fields=["serial"], opclasses=["gin_trgm_ops"]),
            models.Index(fields=["part", "batch"], name="piece_of_batch"),
        ]


class Lot(models.Model):
    """How many of a batch lie at a place."""

    place = models.ForeignKey(StockPlace, on_delete=models.CASCADE, related_name="lots")
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="lots")
    batch = models.CharField(max_length=40)
    quantity = models.IntegerField(default=0)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["place", "part", "batch"], name="one_lot_of_a_batch")]


class Fitted(models.Model):
    """A part that was built in: into which equipment (None: not said), since when, from which visit; and when it came
    out again. `quantity` is one where the part has serial numbers."""

    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="fitted")
    quantity = models.PositiveIntegerField(default=1)
    serial = models.CharField(max_length=60, blank=True)
    batch = models.CharField(max_length=40, blank=True)
    site = models.ForeignKey("customers.Site", on_delete=models.PROTECT, related_name="fitted")
    asset = models.ForeignKey("customers.Asset", null=True, on_delete=models.PROTECT, related_name="fitted")
    since = models.DateTimeField()
    visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="+")
    warranty_until = models.DateField(null=True)
    removed_at = models.DateTimeField(null=True)
    removed_visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.PROTECT, related_name="+")
    removed_because = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["part", "batch"], name="fitted_batch")]


class Transfer(Versioned):
    """Parts that will go from one place to another: promised, fetched or handed over by somebody. Done, it is a
    movement.

    `for_visit` is why; `errand` is the visit at which it is fetched (None: before the shift, or by whoever brings it).
    `at` is when it is there.
    """

    STATES: ClassVar = [(word, word) for word in ("open", "done", "dropped")]

    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="transfers")
    quantity = models.PositiveIntegerField()
    source = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="transfers_out")
    target = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="transfers_in")
    at = models.DateTimeField()
    state = models.CharField(max_length=8, choices=STATES, default="open")
    for_visit = models.ForeignKey("orders.Visit", null=True, on_delete=models.SET_NULL, related_name="transfers")
    errand = models.ForeignKey("orders.Visit", null=True, on_delete=models.SET_NULL, related_name="errand_transfers")
    note = models.CharField(max_length=200, blank=True)
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=120)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(quantity__gt=0), name="transfers_something"),
            models.CheckConstraint(condition=~models.Q(source=models.F("target")), name="transfers_somewhere"),
        ]
        indexes: ClassVar = [models.Index(fields=["at"], condition=models.Q(state="open"), name="transfer_open")]


class CountSheet(Versioned):
    """A count of a place: what is on it is counted without knowing what the books say."""

    STATES: ClassVar = [(word, word) for word in ("open", "counted", "booked", "dropped")]

    place = models.ForeignKey(StockPlace, on_delete=models.PROTECT, related_name="counts")
    scope = models.CharField(max_length=10, choices=[(row.value, row.value) for row in CountScope])
    shelf = models.CharField(max_length=20, blank=True)
    state = models.CharField(max_length=8, choices=STATES, default="open")
    begun_at = models.DateTimeField()
    begun_by = models.CharField(max_length=120)
    begun_by_id = models.BigIntegerField()
    counted_at = models.DateTimeField(null=True)
    counted_by = models.CharField(max_length=120, blank=True)
    counted_by_id = models.BigIntegerField(null=True)
    booked_at = models.DateTimeField(null=True)
    booked_by = models.CharField(max_length=120, blank=True)


class CountLine(models.Model):
    """A part of a count. `on_books` is what the books said when the count began, `moved` what came and went until it
    was counted, `found` what lay there (None: not counted yet)."""

    sheet = models.ForeignKey(CountSheet, on_delete=models.CASCADE, related_name="lines")
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="+")
    shelf = models.CharField(max_length=20, blank=True)
    on_books = models.IntegerField()
    moved = models.IntegerField(default=0)
    found = models.PositiveIntegerField(null=True)
    serials = ArrayField(models.CharField(max_length=60), default=list, blank=True)
    counted_at = models.DateTimeField(null=True)
    explanation = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["sheet", "part"], name="counted_once_on_a_sheet")]


class LevelAlarm(models.Model):
    """A level that the nightly check found different from the sum of its movements."""

    place = models.ForeignKey(StockPlace, on_delete=models.CASCADE, related_name="+")
    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="+")
    kept = models.IntegerField()
    summed = models.IntegerField()
    found_at = models.DateTimeField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["place", "part"], name="one_alarm_of_a_level")]
