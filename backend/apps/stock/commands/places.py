"""Places of stock, made when something first comes to lie there."""

from typing import Any

from apps.people.models import Technician
from apps.stock.models import StockPlace
from core.stock import PlaceKind

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
