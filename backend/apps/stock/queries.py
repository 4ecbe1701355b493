"""Reading what lies where."""

import re
from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from uuid import UUID

from django.db import connection
from django.db.models import Case, Count, Exists, F, OuterRef, Prefetch, Q, Sum, When, prefetch_related_objects

from apps.company.queries import time_zone
from apps.people.models import Technician
from apps.stock.models import (
    CountLine,
    CountSheet,
    Fitted,
    Level,
    LevelAlarm,
    Lot,
    Movement,
    Part,
    Piece,
    StockPlace,
    Supplier,
    Transfer,
)
from core.calendars import local_day
from core.stock import COUNTED, Coming, Driver, PlaceKind, Supplies
from foundation.errors import NotFound, Rejected
from foundation.moments import to_moment
from foundation.named import names
from foundation.pages import Page, newest_first

OWNERS = ("depot", "vehicle", "technician", "site", "supplier")


def van_place(technician: Technician) -> StockPlace | None:
    """The van somebody drives, if anything ever lay on it."""
    of = {"vehicle_id": technician.vehicle_id} if technician.vehicle_id else {"technician_id": technician.pk}
    return StockPlace.objects.select_related(*OWNERS).filter(kind=PlaceKind.VAN, **of).first()


def van_of(technician_id: int) -> StockPlace | None:
    """The van that somebody drives, by their id."""
    return van_place(Technician.objects.get(pk=technician_id))


def van(technician: Technician) -> list[Level]:
    """What lies on a technician's van, by part; empty: nobody counts it."""
    place = van_place(technician)
    return [] if place is None else levels_at(place.pk)


def serials_at(place_id: int) -> dict[int, list[str]]:
    """The pieces with numbers that lie at a place, by id of the part."""
    found: defaultdict[int, list[str]] = defaultdict(list)
    rows = Piece.objects.filter(place=place_id).order_by("part_id", "serial")
    for part_id, serial in rows.values_list("part_id", "serial"):
        found[part_id].append(serial)
    return found


def levels_at(place_id: int) -> list[Level]:
    """The levels of a place, by part."""
    return list(Level.objects.select_related("part").filter(place=place_id).order_by("part__name"))


def place(place_id: int) -> StockPlace:
    """
    Raises
    ------
    NotFound
    """
    found = StockPlace.objects.select_related(*OWNERS).filter(pk=place_id).first()
    if found is None:
        raise NotFound("There is no such place for stock.", code="no_place")
    return found


def places(kinds: Collection[PlaceKind] = ()) -> list[StockPlace]:
    """Depots and vans, or places of other kinds, by kind and name."""
    wanted = [kind.value for kind in kinds or (PlaceKind.DEPOT, PlaceKind.VAN)]
    rows = StockPlace.objects.select_related(*OWNERS).filter(kind__in=wanted)
    return sorted(rows, key=as_counted)


def counted_places() -> set[int]:
    """The ids of all depots and vans."""
    kinds = [PlaceKind.DEPOT.value, PlaceKind.VAN.value]
    return set(StockPlace.objects.filter(kind__in=kinds).values_list("pk", flat=True))


def as_counted(place: StockPlace) -> tuple[str, list[tuple[int, str]]]:
    """By kind, then by name as people count: Van 2 comes before Van 10."""
    pieces = re.split(r"(\d+)", place.name.casefold())
    return place.kind, [(int(piece), "") if piece.isdigit() else (0, piece) for piece in pieces]


def driver_of(place: StockPlace) -> Technician | None:
    """Who drives a van; of several the first by name."""
    if place.technician_id is not None:
        return place.technician
    if place.vehicle_id is None:
        return None
    return Technician.objects.filter(vehicle=place.vehicle_id).order_by("name").first()


def parts() -> list[Part]:
    """All that were not merged into another, by name."""
    return list(Part.objects.filter(merged_into="").order_by("name"))


def part(code: str) -> Part:
    """
    Raises
    ------
    NotFound
    """
    rows = Part.objects.select_related("supplier", "item__tax", "photo").prefetch_related(
        "substitutes__other", "substitute_for__part"
    )
    found = rows.filter(code=code, merged_into="").first()
    if found is None:
        raise NotFound("There is no such part (any more).", code="no_part")
    return found


def part_now(code: str) -> Part:
    """The part of a code, or what it was merged into since somebody took that code along; see `part`."""
    into = Part.objects.filter(code=code).values_list("merged_into", flat=True).first()
    return part(into or code)


def part_called(name: str) -> Part | None:
    """The part of that name in any spelling."""
    found = Part.objects.filter(name__iexact=" ".join(name.split())).first()
    return Part.objects.get(code=found.merged_into) if found and found.merged_into else found


def part_names() -> dict[str, str]:
    """What each part is called, by its key."""
    return names(Part)


def with_names(quantities: Mapping[str, int]) -> list[tuple[str, int]]:
    """Quantities by key as those of names, by name."""
    known = part_names() if quantities else {}
    return sorted((known.get(code, code), quantity) for code, quantity in quantities.items())


def check_parts(codes: Iterable[str], *, field: str) -> None:
    """Raises Rejected with the first that is not a part's key."""
    wanted = set(codes)
    known = set(Part.objects.filter(code__in=wanted).values_list("code", flat=True)) if wanted else wanted
    for code in sorted(wanted - known):
        raise Rejected(f"Unknown part: {code}.", field=field)


def suppliers(*, retired: bool = False) -> list[Supplier]:
    rows = Supplier.objects.all() if retired else Supplier.objects.filter(retired=False)
    return list(rows.annotate(part_count=Count("parts")).order_by("name"))


def supplies(codes: Collection[str], *, takers: Mapping[str, Collection[int]] | None = None) -> Supplies:
    """What lies where of these parts, in four queries, whatever moved before.

    Parameters
    ----------
    takers
        By part, the technicians that are asked about: only what lies where they take it from. None: wherever it lies.
    """
    counted = StockPlace.objects.filter(kind__in=[PlaceKind.DEPOT.value, PlaceKind.VAN.value]).filter(
        Exists(Level.objects.filter(place=OuterRef("pk")))
    )
    rows = list(counted.values_list("pk", "kind", "depot_id", "vehicle_id", "technician_id"))
    if not rows:
        return Supplies()
    drivers = _drivers(rows)
    on_hand: dict[int, dict[str, int]] = {row[0]: {} for row in rows}
    found = _lying(on_hand, codes) if takers is None else _lying_for(takers, drivers)
    for place_id, code, quantity in found:
        if place_id in on_hand:
            on_hand[place_id][code] = quantity
    return Supplies(on_hand=on_hand, coming=_coming(codes), drivers=drivers)


_Lying = Iterable[tuple[int, str, int]]


def _lying(places: Collection[int], codes: Collection[str]) -> _Lying:
    rows = Level.objects.filter(place__in=list(places), part__code__in=list(codes))
    return rows.values_list("place_id", "part__code", "quantity")


def _lying_for(takers: Mapping[str, Collection[int]], drivers: Mapping[int, Driver]) -> _Lying:
    """Pair by pair of place and part: a company has a million of them, and a day takes a few thousand."""
    wanted = {
        (place, code)
        for code, people in takers.items()
        for key in people
        if (driver := drivers.get(key)) is not None
        for place in (driver.van, driver.depot)
        if place is not None
    }
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT level.place_id, part.code, level.quantity FROM unnest(%s::bigint[], %s::text[]) AS w(place, code) "
            "JOIN stock_part part ON part.code = w.code "
            "JOIN stock_level level ON level.place_id = w.place AND level.part_id = part.id",
            [[place for place, _ in wanted], [code for _, code in wanted]],
        )
        rows: list[tuple[int, str, int]] = cursor.fetchall()
    return rows


def _drivers(rows: Iterable[tuple[int, str, int | None, int | None, int | None]]) -> dict[int, Driver]:
    depots: dict[int, int] = {}
    vehicles: dict[int, int] = {}
    own: dict[int, int] = {}
    for place_id, _kind, depot_id, vehicle_id, technician_id in rows:
        for key, found in ((depot_id, depots), (vehicle_id, vehicles), (technician_id, own)):
            if key is not None:
                found[key] = place_id
    people = Technician.objects.values_list("pk", "vehicle_id", "depot_id", "depot__name", "starts_at_home")
    return {
        key: Driver(
            id=key, van=own.get(key) if vehicle is None else vehicles.get(vehicle), depot=depots.get(depot),
            depot_name=name, starts_at_home=at_home,
        )
        for key, vehicle, depot, name, at_home in people
    }  # fmt: skip


def _coming(codes: Collection[str]) -> tuple[Coming, ...]:
    rows = Transfer.objects.filter(state="open", part__code__in=list(codes)).select_related("part")
    tz = time_zone()
    return tuple(
        Coming(
            part=row.part.code, quantity=row.quantity, source=row.source_id, target=row.target_id,
            at=to_moment(row.at) or 0, day=local_day(to_moment(row.at) or 0, tz),
        )
        for row in rows.order_by("at", "id")
    )  # fmt: skip


def is_booked(key: UUID) -> bool:
    """Whether movements were booked under this key."""
    return Movement.objects.filter(key=key).exists()


def parts_booked(key: UUID) -> frozenset[int]:
    """The ids of the parts that were moved under a key."""
    return frozenset(Movement.objects.filter(key=key).values_list("part_id", flat=True))


def held_of(part_ids: Collection[int]) -> dict[int, int]:
    """How many of each part are ours, wherever they lie."""
    rows = Level.objects.filter(part__in=part_ids, place__kind__in=[kind.value for kind in COUNTED])
    return {key: number for key, number in rows.values_list("part").annotate(Sum("quantity")) if number}


def scanned(code: str) -> list[tuple[Part, str]]:
    """What a scanned code may mean, as parts and the serial number that was scanned: a barcode, a part's number, its
    supplier's number, or the serial number of a piece."""
    code = code.strip()
    if not code:
        return []
    exact = Q(gtin=code) | Q(gtin=code.lstrip("0")) | Q(number__iexact=code) | Q(code=code)
    rows = Part.objects.filter(merged_into="")
    found = list(rows.filter(exact)[:5]) or list(rows.filter(supplier_number__iexact=code)[:5])
    if found:
        return [(row, "") for row in found]
    return [(row.part, row.serial) for row in Piece.objects.select_related("part").filter(serial__iexact=code)[:5]]


def has_moved(part: Part) -> bool:
    return Movement.objects.filter(part=part).exists()


_AROUND = tuple(f"{end}__{owner}" for end in ("source", "target") for owner in OWNERS)


def movements(*, code: str = "", place_id: int | None = None, cursor: str = "") -> Page[Movement]:
    """Movements of a part, at a place, or all, in pages, the newest first."""
    rows = Movement.objects.select_related("part", "visit__order", *_AROUND)
    if code:
        rows = rows.filter(part__code=code)
    if place_id is not None:
        rows = rows.filter(Q(source=place_id) | Q(target=place_id))
    return newest_first(rows, cursor)


def movements_named(ids: Collection[int]) -> list[Movement]:
    """Movements by id, each with what it names: a few, so that the names cost less than a join of twelve tables."""
    rows = list(Movement.objects.filter(pk__in=ids).order_by("position"))
    places = StockPlace.objects.select_related(*OWNERS)
    prefetch_related_objects(rows, "part", "visit__order", Prefetch("source", places), Prefetch("target", places))
    return rows


def fitted(*, asset_id: int | None = None, site_id: int | None = None, limit: int = 200) -> list[Fitted]:
    """What is built in, the newest first, and what came out again after it."""
    rows = Fitted.objects.select_related("part", "site", "asset", "visit__order")
    rows = rows.filter(asset=asset_id) if asset_id is not None else rows.filter(site=site_id)
    return list(rows.order_by(F("removed_at").desc(nulls_first=True), "-since", "-id")[:limit])


@dataclass(frozen=True, kw_only=True)
class Lying:
    """Pieces or a batch that lie somewhere of ours."""

    place_id: int
    place: str
    batch: str
    serial: str
    quantity: int


@dataclass(frozen=True, kw_only=True)
class Whereabouts:
    """Where all of a part are: with us, and built in; and which batches of it are known."""

    lying: list[Lying]
    fitted: list[Fitted]
    batches: list[str]


def whereabouts(part: Part, *, batch: str = "", removed: bool = False) -> Whereabouts:
    """Where all of a part are, or of one batch of it; with what came out again, if that is asked for."""
    counted = [kind.value for kind in COUNTED]
    owners = [f"place__{owner}" for owner in OWNERS]
    pieces = Piece.objects.select_related("place", *owners).filter(part=part, place__kind__in=counted)
    lots = Lot.objects.select_related("place", *owners).filter(part=part, quantity__gt=0, place__kind__in=counted)
    built = Fitted.objects.select_related("part", "site", "asset", "visit__order").filter(part=part)
    known = {
        *Piece.objects.filter(part=part).values_list("batch", flat=True).distinct(),
        *Lot.objects.filter(part=part).values_list("batch", flat=True).distinct(),
        *Fitted.objects.filter(part=part).values_list("batch", flat=True).distinct(),
    }
    if batch:
        pieces, lots, built = pieces.filter(batch=batch), lots.filter(batch=batch), built.filter(batch=batch)
    if not removed:
        built = built.filter(removed_at=None)
    lying = [
        Lying(place_id=row.place_id, place=row.place.name, batch=row.batch, serial=row.serial, quantity=1)
        for row in pieces.order_by("serial")[:500]
    ] + [
        Lying(place_id=row.place_id, place=row.place.name, batch=row.batch, serial="", quantity=row.quantity)
        for row in lots.order_by("batch", "place_id")[:500]
    ]
    return Whereabouts(lying=lying, fitted=list(built.order_by("-since", "-id")[:500]), batches=sorted(known - {""}))


def drivers() -> dict[int, tuple[int, str]]:
    """Who drives each van, by its place: id and name; of several the first by name."""
    people = Technician.objects.order_by("-name").values_list("pk", "name", "vehicle_id")
    by_vehicle = {vehicle: (key, name) for key, name, vehicle in people if vehicle is not None}
    by_person = {key: (key, name) for key, name, _vehicle in people}
    rows = StockPlace.objects.filter(kind=PlaceKind.VAN).values_list("pk", "vehicle_id", "technician_id")
    found = {}
    for key, vehicle, technician in rows:
        who = by_vehicle.get(vehicle) if vehicle is not None else by_person.get(technician or 0)
        if who is not None:
            found[key] = who
    return found


def counts(*, limit: int = 30) -> list[CountSheet]:
    """The last counts, those that are going on first."""
    going_on = Case(When(state__in=["open", "counted"], then=0), default=1)
    rows = CountSheet.objects.select_related(*(f"place__{owner}" for owner in OWNERS))
    return list(rows.order_by(going_on, "-id")[:limit])


def count_sheet(sheet_id: int) -> CountSheet:
    """
    Raises
    ------
    NotFound
    """
    rows = CountSheet.objects.select_related(*(f"place__{owner}" for owner in OWNERS))
    found = rows.filter(pk=sheet_id).first()
    if found is None:
        raise NotFound("There is no such count.", code="no_count")
    return found


def count_lines(sheet: CountSheet) -> list[CountLine]:
    """By shelf and name, as one walks along."""
    return list(sheet.lines.select_related("part").order_by("shelf", "part__name"))


@dataclass(frozen=True, kw_only=True)
class StockMatter:
    """Something about stock that somebody should look at."""

    kind: str
    place_id: int
    place: str
    code: str
    part: str
    sentence: str


def matters() -> list[StockMatter]:
    """Levels that are not the sum of their movements, levels below zero, parts that were named in a hurry."""
    owners = [f"place__{owner}" for owner in OWNERS]
    alarms = LevelAlarm.objects.select_related("part", "place", *owners).order_by("id")[:50]
    low = Level.objects.select_related("part", "place", *owners).filter(quantity__lt=0).order_by("id")[:50]
    untidy = Part.objects.filter(untidy=True, merged_into="", retired=False).order_by("name")[:50]
    return [
        *(
            StockMatter(
                kind="wrong level", place_id=row.place_id, place=row.place.name, code=row.part.code,
                part=row.part.name, sentence=f"{row.kept} by the level, {row.summed} by its movements: count it",
            )
            for row in alarms
        ),
        *(
            StockMatter(
                kind="below zero", place_id=row.place_id, place=row.place.name, code=row.part.code,
                part=row.part.name, sentence=f"{row.quantity} on the books: count it",
            )
            for row in low
        ),
        *(
            StockMatter(
                kind="untidy", place_id=0, place="", code=row.code, part=row.name,
                sentence="named in a hurry: say what it is, or merge it",
            )
            for row in untidy
        ),
    ]  # fmt: skip
