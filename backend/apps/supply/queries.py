"""Reading supply: the list of parts, places, who has something near, what waits."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db.models import F, Q, QuerySet, Sum

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.people.models import Technician
from apps.people.working_days import working_days
from apps.roads.queries import travel_among
from apps.stock import queries as stock_queries
from apps.stock.models import Level, Movement, Part, StockPlace
from apps.stock.queries import as_counted, counted_places
from apps.supply.levels import Figures, PartRow, coming_by_place, figures, part_rows, planned, short
from apps.supply.models import Claim, Loan, PartRequest, PurchaseOrder
from apps.supply.tonight import tonight
from apps.supply.ways import substitutes_of
from core.basics import Place
from core.calendars import day_words, local_day
from core.stock import MoveReason, PlaceKind, Threshold, proposed
from foundation.errors import NotFound
from foundation.pages import Page, in_order

MOST_PRESSING = 50
WAITING = ("asked", "promised", "ordered", "arrived")


@dataclass(frozen=True, kw_only=True)
class PartFilter:
    """Which parts of the list: by words, supplier, and what is the matter with them."""

    text: str = ""
    supplier_id: int | None = None
    only: str = ""
    sort: str = "name"


_SORTS = {"name": ("name", "id"), "number": ("number", "id"), "supplier": ("supplier__name", "name", "id")}


def part_page(asked: PartFilter, cursor: str) -> tuple[list[PartRow], str | None, int]:
    """A page of parts with their figures over all depots and vans, where the next begins, and how many there are."""
    rows = filtered(asked)
    page: Page[Part] = in_order(rows.order_by(*_SORTS.get(asked.sort, _SORTS["name"])), cursor)
    return part_rows(page.rows, counted_places()), page.next, rows.count()


def filtered(asked: PartFilter) -> QuerySet[Part]:
    """The parts that are asked for."""
    rows = Part.objects.select_related("supplier", "item").filter(merged_into="")
    for word in asked.text.split():
        rows = rows.filter(
            Q(name__icontains=word) | Q(number__icontains=word) | Q(gtin__startswith=word)
            | Q(supplier_number__icontains=word) | Q(fits__icontains=word)
        )  # fmt: skip
    if asked.supplier_id is not None:
        rows = rows.filter(supplier=asked.supplier_id)
    if asked.only == "below":
        return rows.filter(pk__in=[level.part_id for level, _number in short()])
    if asked.only == "untidy":
        return rows.filter(untidy=True, retired=False)
    if asked.only == "retired":
        return rows.filter(retired=True)
    rows = rows.filter(retired=False)
    if asked.only in ("hazardous", "oversized"):
        return rows.filter(**{asked.only: True})
    if asked.only == "tracked":
        return rows.exclude(tracking="plain")
    return rows


def levels_of(part: Part) -> list[tuple[Level, Figures]]:
    """A part in every place where it lies, is kept, or is coming to; depots first."""
    owners = [f"place__{owner}" for owner in ("depot", "vehicle", "technician")]
    rows = list(Level.objects.select_related("part", "place", *owners).filter(part=part))
    coming = coming_by_place([part.pk])
    counted = figures(rows, coming=coming)
    there = {row.place_id for row in rows}
    for place_id, _part in coming:
        if place_id not in there:
            place = StockPlace.objects.select_related("depot", "vehicle", "technician").get(pk=place_id)
            rows.append(Level(place=place, part=part, version=0))
            counted[place_id, part.pk] = Figures(coming=coming[place_id, part.pk])
    rows.sort(key=lambda row: as_counted(row.place))
    return [(row, counted[row.place_id, part.pk]) for row in rows]


@dataclass(frozen=True, kw_only=True)
class Proposed:
    """What a year's use proposes for a part at a place."""

    level: Level
    used: int
    threshold: Threshold


def thresholds(place: StockPlace, *, now: datetime) -> list[Proposed]:
    """Least and target of every part at a place, by what left it in a year; a depot is filled up by suppliers, a van
    by its depot, which takes a day."""
    since = now - timedelta(days=365)
    gone = Movement.objects.filter(
        source=place, happened_at__gte=since, reason__in=[MoveReason.USE, MoveReason.TRANSFER]
    )
    used = dict(gone.values_list("part_id").annotate(Sum("quantity")))
    rows = Level.objects.select_related("part__supplier").filter(place=place, part__retired=False)
    found = []
    for row in rows.order_by("part__name"):
        days = (row.part.supplier.days if row.part.supplier else 3) if place.what is PlaceKind.DEPOT else 1
        number = used.get(row.part_id, 0)
        found.append(Proposed(level=row, used=number, threshold=proposed(used=number, supplier_days=days)))
    return found


@dataclass(frozen=True, kw_only=True)
class Holder:
    """Somebody, or a depot, that has a part free; `seconds` of driving from there to where it is needed. `substitute`:
    the name of what does instead, where that is what they have."""

    place: StockPlace
    technician: str
    free: int
    seconds: int | None
    substitute: str


def who_has(part: Part, *, near: Place, now: datetime, substitutes: bool = True) -> list[Holder]:
    """Who has a part free at the moment, the nearest by road first; what does instead after it."""
    vans = planned()
    tz = time_zone()
    today = local_day(int(now.timestamp()), tz)
    known = orders.last_phone_places(since=now - timedelta(hours=12))
    begins = {row.id: row.start_place for row in working_days(today, tz)}
    people = {row.pk: row for row in Technician.objects.select_related("vehicle")}
    owner = {row.van: row.id for row in vans.supplies.drivers.values() if row.van is not None}
    asked = [(part, "")] + ([(other, other.name) for other, _rank in substitutes_of(part)] if substitutes else [])
    rows = Level.objects.select_related("place__depot", "place__vehicle", "place__technician", "part").filter(
        part__in=[one.pk for one, _name in asked], quantity__gt=0,
        place__kind__in=[PlaceKind.DEPOT.value, PlaceKind.VAN.value],
    )  # fmt: skip
    names = {one.pk: name for one, name in asked}
    found: list[tuple[Level, int, Place | None, str]] = []
    for row in rows:
        free = row.quantity - vans.reserved.at(row.place_id, row.part.code)
        if free <= 0:
            continue
        place, who = _where(row.place, owner, known, begins, people)
        found.append((row, free, place, who))
    travel = travel_among([near, *(place for _row, _free, place, _who in found if place is not None)])
    seconds = {
        place: travel.leg(travel.index[place], travel.index[near], int(now.timestamp())).seconds
        for _row, _free, place, _who in found
        if place is not None
    }
    holders = [
        Holder(
            place=row.place,
            technician=who,
            free=free,
            seconds=seconds[place] if place is not None else None,
            substitute=names[row.part_id],
        )
        for row, free, place, who in found
    ]
    return sorted(holders, key=lambda row: (bool(row.substitute), row.seconds is None, row.seconds or 0))


def _where(
    place: StockPlace, owner: Mapping[int, int], known: dict[int, tuple[Place, int]], begins: dict[int, Place],
    people: dict[int, Technician],
) -> tuple[Place | None, str]:  # fmt: skip
    """Where a depot is; where a van was last heard of, else where its day begins; and who drives it."""
    if place.depot is not None:
        return Place(place.depot.lon, place.depot.lat), ""
    technician = owner.get(place.pk) or place.technician_id
    if technician is None:
        drivers = [row.pk for row in people.values() if row.vehicle_id == place.vehicle_id]
        technician = drivers[0] if drivers else None
    if technician is None:
        return None, ""
    at = known.get(technician)
    return (at[0] if at else begins.get(technician)), people[technician].name


def part_requests(*, ended: bool = False, limit: int = 200) -> list[PartRequest]:
    """What is asked for: what must be there and soonest first; or what has ended, the newest first."""
    rows = PartRequest.objects.select_related(
        "part", "technician", "visit__order", "transfer__source__depot", "transfer__source__vehicle",
        "transfer__source__technician", "line__order",
    )  # fmt: skip
    if ended:
        return list(rows.exclude(state__in=WAITING).order_by("-ended_at", "-id")[:limit])
    return list(
        rows.filter(state__in=WAITING).order_by("-must", F("needed_by").asc(nulls_last=True), "asked_at", "id")[:limit]
    )


def asked_for(visit_id: int) -> list[PartRequest]:
    """What was asked for from a visit, in the order of asking."""
    rows = PartRequest.objects.filter(visit=visit_id).select_related("part")
    return list(rows.order_by("asked_at", "id"))


def part_request(request_id: int) -> PartRequest:
    """
    Raises
    ------
    NotFound
    """
    rows = PartRequest.objects.select_related("part", "technician__depot", "visit__order__site", "line__order")
    found = rows.filter(pk=request_id).first()
    if found is None:
        raise NotFound("There is no such request for a part.", code="no_part_request")
    return found


def purchase_orders(*, states: Sequence[str] = (), cursor: str = "") -> Page[PurchaseOrder]:
    """Purchase orders, the newest first."""
    rows = PurchaseOrder.objects.select_related("supplier", "target__depot").prefetch_related("lines__part")
    rows = rows.filter(state__in=states) if states else rows
    return in_order(rows.order_by("-id"), cursor)


def purchase_order(order_id: int) -> PurchaseOrder:
    """
    Raises
    ------
    NotFound
    """
    rows = PurchaseOrder.objects.select_related("supplier", "target__depot").prefetch_related("lines__part")
    found = rows.filter(pk=order_id).first()
    if found is None:
        raise NotFound("There is no such purchase order.", code="no_purchase_order")
    return found


def claims(*, ended: bool = False, limit: int = 200) -> list[Claim]:
    """Claims that are followed, the oldest first; or those that are settled, the newest first."""
    rows = Claim.objects.select_related("part", "supplier", "asset")
    if ended:
        return list(rows.filter(ended_at__isnull=False).order_by("-ended_at")[:limit])
    return list(rows.filter(ended_at=None).order_by("made_at", "id")[:limit])


def loans(*, returned: bool = False, limit: int = 200) -> list[Loan]:
    """What is lent, what is due first first; or what is back, the newest first."""
    rows = Loan.objects.select_related(
        "part", "asset", "site", "technician", "source__depot", "source__vehicle", "source__technician", "fetch__order"
    )
    if returned:
        return list(rows.filter(returned_at__isnull=False).order_by("-returned_at")[:limit])
    return list(rows.filter(returned_at=None).order_by("due", "id")[:limit])


@dataclass(frozen=True, kw_only=True)
class SupplyCounts:
    """What waits in each part of supply."""

    day: date
    missing: int
    asked: int
    late: int
    proposals: int
    overdue: int
    aside: int
    below: int


def next_working_day(now: datetime) -> date:
    """The next day on which somebody works; tomorrow where nobody does for a fortnight."""
    tz = time_zone()
    tomorrow = local_day(int(now.timestamp()), tz) + timedelta(days=1)
    for number in range(14):
        day = tomorrow + timedelta(days=number)
        if any(row.shift is not None and row.shift.hours.seconds for row in working_days(day, tz)):
            return day
    return tomorrow


def counts(*, now: datetime) -> SupplyCounts:
    """What waits: each number is that of the list it stands for."""
    today, day = local_day(int(now.timestamp()), time_zone()), next_working_day(now)
    going = PurchaseOrder.objects.filter(state__in=["ordered", "received in part"])
    return SupplyCounts(
        day=day, missing=sum(row.missing for row in tonight(day)),
        asked=PartRequest.objects.filter(state="asked").count(), late=going.filter(expected_on__lt=today).count(),
        proposals=PurchaseOrder.objects.filter(state="proposal", lines__isnull=False).distinct().count(),
        overdue=Loan.objects.filter(returned_at=None, due__lt=today).count(),
        aside=Claim.objects.filter(ended_at=None).count(), below=len({row.part_id for row, _number in short()}),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Pressing:
    """Something about supply that somebody should look at now: an order that is late (`order_id`), or a level that
    cannot be (`place_id`)."""

    key: str
    label: str
    sentence: str
    order_id: int | None = None
    place_id: int | None = None


def pressing(*, now: datetime, orders: bool) -> list[Pressing]:
    """Late orders, for who may see them (`orders`), then levels below zero and levels that are not the sum of their
    movements."""
    today = local_day(int(now.timestamp()), time_zone())
    late = PurchaseOrder.objects.filter(state__in=["ordered", "received in part"], expected_on__lt=today)
    rows = late.select_related("supplier").order_by("expected_on", "id")[:MOST_PRESSING] if orders else []
    found = [
        Pressing(
            key=f"late {row.pk} {row.expected_on}", order_id=row.pk, label=f"{row.number} {row.supplier.name}",
            sentence=f"was expected on {day_words(row.expected_on)} and has not all come",
        )
        for row in rows if row.expected_on is not None
    ]  # fmt: skip
    return found + [
        Pressing(
            key=f"{row.kind} {row.place_id} {row.code} {row.sentence}", place_id=row.place_id,
            label=f"{row.part}, {row.place}", sentence=row.sentence,
        )
        for row in stock_queries.matters() if row.place_id
    ]  # fmt: skip
