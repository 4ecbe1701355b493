"""Reading what lies where."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from uuid import UUID

from django.db.models import Exists, OuterRef, Q, Sum

from apps.company.queries import time_zone
from apps.people.models import Technician
from apps.stock.models import Level, Movement, Part, Piece, StockPlace, Supplier, Transfer
from core.calendars import local_day
from core.stock import COUNTED, Coming, Driver, PlaceKind, Supplies
from foundation.errors import NotFound, Rejected
from foundation.moments import to_moment
from foundation.named import names

OWNERS = ("depot", "vehicle", "technician", "site", "supplier")


def van_place(technician: Technician) -> StockPlace | None:
    """The van somebody drives, if anything ever lay on it."""
    of = {"vehicle_id": technician.vehicle_id} if technician.vehicle_id else {"technician_id": technician.pk}
    return StockPlace.objects.select_related(*OWNERS).filter(kind=PlaceKind.VAN, **of).first()


def van(technician: Technician) -> list[Level]:
    """What lies on a technician's van, by part; empty: nobody counts it."""
    place = van_place(technician)
    return [] if place is None else levels_at(place.pk)


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
    return sorted(rows, key=lambda row: (row.kind, row.name))


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
    return list(rows.order_by("name"))


def supplies(codes: Collection[str]) -> Supplies:
    """What lies where of these parts, in four queries, whatever moved before."""
    counted = StockPlace.objects.filter(kind__in=[PlaceKind.DEPOT.value, PlaceKind.VAN.value]).filter(
        Exists(Level.objects.filter(place=OuterRef("pk")))
    )
    rows = list(counted.values_list("pk", "kind", "depot_id", "vehicle_id", "technician_id"))
    if not rows:
        return Supplies()
    on_hand: dict[int, dict[str, int]] = {row[0]: {} for row in rows}
    wanted = Level.objects.filter(place__in=list(on_hand), part__code__in=list(codes))
    for place_id, code, quantity in wanted.values_list("place_id", "part__code", "quantity"):
        on_hand[place_id][code] = quantity
    return Supplies(on_hand=on_hand, coming=_coming(codes), drivers=_drivers(rows))


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


def by_place(levels: Iterable[Level]) -> dict[int, list[Level]]:
    """Levels grouped by where they are."""
    found: dict[int, list[Level]] = defaultdict(list)
    for level in levels:
        found[level.place_id].append(level)
    return dict(found)
