"""Places of stock, made when something first comes to lie there."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.models import Depot
from apps.people.models import Technician, Vehicle
from apps.stock.models import StockPlace
from core.roles import Action
from core.stock import PlaceKind
from foundation import audit, live
from foundation.actors import Actor, require

_ALL = ("depot", "vehicle", "technician", "site", "supplier")


def place_of_depot(depot_id: int) -> StockPlace:
    return _made(kind=PlaceKind.DEPOT, depot_id=depot_id)


def place_of_van(technician: Technician) -> StockPlace:
    """The van somebody drives; of who has no vehicle, a place of their own."""
    if technician.vehicle_id is not None:
        return _made(kind=PlaceKind.VAN, vehicle_id=technician.vehicle_id)
    return _made(kind=PlaceKind.VAN, technician_id=technician.pk)


def place_of_vehicle(vehicle_id: int) -> StockPlace:
    return _made(kind=PlaceKind.VAN, vehicle_id=vehicle_id)


def place_of_site(site_id: int) -> StockPlace:
    return _made(kind=PlaceKind.SITE, site_id=site_id)


def place_of_supplier(supplier_id: int) -> StockPlace:
    return _made(kind=PlaceKind.SUPPLIER, supplier_id=supplier_id)


def nobodys(kind: PlaceKind) -> StockPlace:
    """The one place of a kind that belongs to nobody."""
    return _made(kind=kind)


def _made(**of: Any) -> StockPlace:
    place, _made_now = StockPlace.objects.select_related(*_ALL).get_or_create(**of)
    return place


@transaction.atomic
def open_places(*, actor: Actor, now: datetime) -> int:
    """Let every depot and vehicle that is in use be a place of stock; how many were not one before."""
    require(actor, Action.MOVE_STOCK)
    depots = Depot.objects.filter(retired=False, stock=None).values_list("pk", flat=True)
    vehicles = Vehicle.objects.filter(retired=False, merged_into="", stock=None).values_list("pk", flat=True)
    rows = [StockPlace(kind=PlaceKind.DEPOT, depot_id=key) for key in depots]
    rows += [StockPlace(kind=PlaceKind.VAN, vehicle_id=key) for key in vehicles]
    if rows:
        StockPlace.objects.bulk_create(rows, ignore_conflicts=True)
        audit.record(
            actor=actor, now=now, action="open", entity="stock place", entity_id=0,
            sentence=f"opened {len(rows)} places for stock",
        )  # fmt: skip
        live.announce("stock")
    return len(rows)
