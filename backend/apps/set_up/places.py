"""Depots, skills and vehicles from a file."""

from collections.abc import Sequence
from typing import TypeVar

from apps.company import commands as company
from apps.company.models import Depot
from apps.people import commands as people
from apps.people.inputs import VehicleFields
from apps.people.models import Skill, Vehicle
from apps.roads.queries import find_addresses
from apps.set_up.rows import Becomes, Hand, SetUpRow, each
from core.basics import Place
from foundation.errors import Rejected
from foundation.named import commands as naming


def write_depots(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name: who has it already is changed."""

    def write(row: SetUpRow) -> Becomes:
        known = Depot.objects.filter(name__iexact=row.text("name")).first()
        address, place = row.text("address"), _place(row, known)
        if known is None:
            company.add_depot(**hand.how, name=row.text("name"), address=address, place=place)
            return Becomes.NEW
        if (known.address, Place(known.lon, known.lat)) == (address, place):
            return Becomes.SAME
        company.change_depot(
            **hand.how, depot_id=known.pk, version=known.version, name=known.name, address=address, place=place
        )
        return Becomes.CHANGE

    each(rows, write)


def _place(row: SetUpRow, known: Depot | None) -> Place:
    lon, lat = row.get("lon", None), row.get("lat", None)
    if lon is not None and lat is not None:
        return Place(lon, lat)
    if known is not None and known.address == row.text("address"):
        return Place(known.lon, known.lat)
    return found_at(row.text("address"))


def found_at(address: str) -> Place:
    """Where an address is.

    Raises
    ------
    Rejected
        When the map does not know it.
    """
    found = find_addresses(address)
    if not found:
        raise Rejected(f"“{address}” is not on the map: give its longitude and latitude")
    return found[0].place


def write_skills(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name, in any spelling."""

    def write(row: SetUpRow) -> Becomes:
        known = Skill.objects.filter(name__iexact=row.text("name"), retired=False).exists()
        naming.add(Skill, **hand.how, name=row.text("name"))
        return Becomes.SAME if known else Becomes.NEW

    each(rows, write)


def write_vehicles(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name; columns that are not there stay as they are."""
    depots = {row.name.casefold(): row.pk for row in Depot.objects.all()}

    def write(row: SetUpRow) -> Becomes:
        known = Vehicle.objects.filter(name__iexact=row.text("name"), merged_into="").exists()
        vehicle = naming.add(Vehicle, **hand.how, name=row.text("name"))
        depot_id = vehicle.depot_id
        if "depot" in row.cells:
            depot_id = of_name(depots, row.text("depot"), "depot")
        fields = VehicleFields(
            plate=row.text("plate", vehicle.plate), depot_id=depot_id,
            inspection_due=row.get("inspection_due", vehicle.inspection_due),
            cost_per_km=row.get("cost_per_km", vehicle.cost_per_km),
        )  # fmt: skip
        kept = VehicleFields(
            plate=vehicle.plate, depot_id=vehicle.depot_id, inspection_due=vehicle.inspection_due,
            cost_per_km=vehicle.cost_per_km,
        )  # fmt: skip
        if fields == kept:
            return Becomes.SAME if known else Becomes.NEW
        people.set_vehicle(**hand.how, code=vehicle.code, version=vehicle.version, fields=fields)
        return Becomes.CHANGE if known else Becomes.NEW

    each(rows, write)


Id = TypeVar("Id", int, str)


def of_name(known: dict[str, Id], name: str, what: str) -> Id | None:
    """The key of what is called so; None for no name.

    Raises
    ------
    Rejected
        When nothing is.
    """
    if not name:
        return None
    if name.casefold() not in known:
        raise Rejected(f"There is no {what} {name}: bring it in first")
    return known[name.casefold()]


def of_names(known: dict[str, Id], names: Sequence[str], what: str) -> list[Id]:
    """The keys of what is called so, in this order."""
    keys = (of_name(known, name, what) for name in names)
    return [key for key in keys if key is not None]
