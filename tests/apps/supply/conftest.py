"""A company with a second depot, a supplier, and vans that are counted."""

from dataclasses import dataclass

import pytest

from apps.company.models import Depot
from apps.roads.queries import find_addresses
from apps.stock import commands as stock
from apps.stock.models import Level, Part, StockPlace, Substitute, Supplier
from tests.apps.conftest import lies


@dataclass
class Yard:
    """Places and whom we buy from."""

    north: StockPlace
    south: StockPlace
    ines: StockPlace
    ivor: StockPlace
    supplier: Supplier

    def has(self, place: StockPlace, code: str = "door-roller") -> int:
        return Level.objects.filter(place=place, part__code=code).values_list("quantity", flat=True).first() or 0


@pytest.fixture
def yard(world):
    """Both vans are counted and have nothing; there are rollers in the other depot only."""
    where = find_addresses("Kiln Lane 4, Kilnfield")[0].place
    south = Depot.objects.create(name="Kilnfield", address="Kiln Lane 4", lon=where.lon, lat=where.lat)
    supplier = Supplier.objects.create(name="Steyn Door Systems", days=3, email="orders@steyn.example")
    Part.objects.update(supplier=supplier, cost=11_00)
    place = lies(south, "door-roller", 8)
    ines, ivor = lies(world.ines, "door-roller", 0), lies(world.ivor, "door-roller", 0)
    return Yard(north=lies(world.ines.depot, "car-lamp", 5), south=place, ines=ines, ivor=ivor, supplier=supplier)


@pytest.fixture
def instead(world):
    """A light curtain does instead of a roller, for the tests' sake."""
    part, other = Part.objects.get(code="door-roller"), Part.objects.get(code="light-curtain")
    return Substitute.objects.create(part=part, other=other, rank=1)


def van_of(technician):
    return stock.place_of_van(technician)
