"""Levels as they are used: on hand, reserved, free, coming - for lists, for pages, and for what is ordered."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta

from django.db.models import F, Sum

from apps.company.queries import holidays_between
from apps.orders import queries as orders
from apps.scheduling.vans import NOT_COUNTED, reserved_by
from apps.stock.models import Level, Part, Supplier
from apps.stock.queries import supplies
from apps.supply.models import PurchaseLine
from core.scheduling.model.vans import Vans
from core.stock import PlaceKind, wanted
from core.supply import delivery_day

# Days off beyond the day on which something would come that are looked at.
LONGEST_PAUSE = 31


@dataclass(frozen=True, kw_only=True)
class Coming:
    """So many of a part that are ordered for a place, expected on a day (None: nobody knows), by which order."""

    quantity: int
    expected_on: date | None
    order_id: int
    number: str


@dataclass(kw_only=True)
class Figures:
    """What is true of a part at a place, or of all places together."""

    on_hand: int = 0
    reserved: int = 0
    coming: list[Coming] = field(default_factory=list)

    @property
    def free(self) -> int:
        return self.on_hand - self.reserved

    @property
    def coming_quantity(self) -> int:
        return sum(row.quantity for row in self.coming)

    @property
    def next_on(self) -> date | None:
        """The day on which the first of it is expected."""
        return min((row.expected_on for row in self.coming if row.expected_on is not None), default=None)


def planned(parts: Collection[str] | None = None) -> Vans:
    """All that is planned, having spoken for its parts; of some parts only, where no others are asked about."""
    takings = orders.takings(parts)
    takers: defaultdict[str, set[int]] = defaultdict(set)
    for row in takings:
        for part in row.takes:
            takers[part].add(row.technician_id)
    known = takers.keys() if parts is None else parts
    there = supplies(known, takers=takers)
    return reserved_by(takings, there, known) if there.on_hand else NOT_COUNTED


def figures(
    levels: Iterable[Level], *, vans: Vans | None = None, coming: Mapping[tuple[int, int], list[Coming]] | None = None
) -> dict[tuple[int, int], Figures]:
    """By place and part. The levels come with their parts."""
    levels = list(levels)
    reserved = (vans or planned({row.part.code for row in levels})).reserved
    on_the_way = coming_by_place() if coming is None else coming
    found: defaultdict[tuple[int, int], Figures] = defaultdict(Figures)
    for row in levels:
        key = (row.place_id, row.part_id)
        found[key] = Figures(
            on_hand=row.quantity, reserved=reserved.at(row.place_id, row.part.code), coming=on_the_way.get(key, [])
        )
    return found


def coming_by_place(part_ids: Collection[int] | None = None) -> dict[tuple[int, int], list[Coming]]:
    """What is ordered and has not come yet, by place and part, the first expected first."""
    rows = PurchaseLine.objects.filter(
        order__state__in=["ordered", "received in part"], received__lt=F("quantity")
    ).select_related("order")
    if part_ids is not None:
        rows = rows.filter(part__in=part_ids)
    found: defaultdict[tuple[int, int], list[Coming]] = defaultdict(list)
    for row in rows.order_by(F("order__expected_on").asc(nulls_last=True), "id"):
        found[row.order.target_id, row.part_id].append(
            Coming(
                quantity=row.quantity - row.received, expected_on=row.order.expected_on, order_id=row.order_id,
                number=row.order.number,
            )
        )  # fmt: skip
    return dict(found)


def short() -> list[tuple[Level, int]]:
    """What has fallen below its least level in a depot, counting what is coming and what is spoken for, and how many
    would fill it up; of parts that have a supplier."""
    rows = Level.objects.filter(
        place__kind=PlaceKind.DEPOT.value, least__isnull=False, part__retired=False, part__supplier__isnull=False,
        part__merged_into="",
    ).select_related("part__supplier", "place__depot")  # fmt: skip
    known = list(rows.order_by("place_id", "part_id"))
    counted = figures(known)
    found = []
    for row in known:
        own = counted[row.place_id, row.part_id]
        number = wanted(
            on_hand=own.on_hand, coming=own.coming_quantity, reserved=own.reserved, least=row.least, target=row.target
        )
        if number:
            found.append((row, number))
    return found


@dataclass(frozen=True, kw_only=True)
class PartRow:
    """A part of the list, with what is true of it in all depots and vans together; below : at how many depots it has
    fallen below its least level."""

    part: Part
    figures: Figures
    below: int


def part_rows(parts: Collection[Part], places: Collection[int]) -> list[PartRow]:
    """Parts with their figures over some places, given by their ids. Levels are summed by the database, which has a
    million of them; only those with a least level are looked at one by one."""
    ids = set(places)
    codes = {row.pk: row.code for row in parts}
    levels = Level.objects.filter(place__in=ids, part__in=codes)
    reserved, coming = planned(set(codes.values())).reserved, coming_by_place(codes)
    by_code = {code: part for part, code in codes.items()}
    sums: defaultdict[int, Figures] = defaultdict(Figures)
    for part, quantity in levels.order_by().values_list("part_id").annotate(Sum("quantity")):
        sums[part].on_hand = quantity
    for draw in reserved.draws:
        if draw.place in ids and draw.part in by_code:
            sums[by_code[draw.part]].reserved += draw.quantity
    for (place, part), expected in coming.items():
        if place in ids:
            sums[part].coming += expected
    below: defaultdict[int, int] = defaultdict(int)
    kept = levels.filter(least__isnull=False).values_list("place_id", "part_id", "quantity", "least")
    for place, part, quantity, least in kept:
        own = Figures(on_hand=quantity, reserved=reserved.at(place, codes[part]), coming=coming.get((place, part), []))
        below[part] += least is not None and own.free + own.coming_quantity < least
    return [PartRow(part=part, figures=sums[part.pk], below=below[part.pk]) for part in parts]


def comes_on(supplier: Supplier, ordered: date) -> date:
    """When what is ordered from a supplier on a day is expected."""
    latest = ordered + timedelta(days=supplier.days + LONGEST_PAUSE)
    return delivery_day(ordered, supplier.days, holidays=holidays_between(ordered, latest).keys())
