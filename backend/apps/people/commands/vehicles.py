"""Vehicles: what is known of each besides its name."""

from datetime import datetime

from django.db import transaction

from apps.company.models import Depot
from apps.people.inputs import VehicleFields
from apps.people.models import Vehicle
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def set_vehicle(*, actor: Actor, now: datetime, code: str, version: int, fields: VehicleFields) -> Vehicle:
    """Another plate, depot, inspection or cost.

    Raises
    ------
    Conflict
        When somebody else changed the vehicle since it was seen.
    Rejected
        For a plate that another vehicle has, or a depot that is not there.
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = Vehicle.objects.select_for_update().filter(code=code, merged_into="").first()
    if row is None:
        raise NotFound("There is no such vehicle.", code="no_vehicle")
    if row.version != version:
        raise Conflict(f"{row.name} was changed meanwhile. Look at it again.", current_version=row.version)
    plate = " ".join(fields.plate.upper().split())
    twin = Vehicle.objects.filter(plate=plate, merged_into="").exclude(pk=row.pk).first() if plate else None
    if twin is not None:
        raise Rejected(f"{twin.name} has the plate {plate}.", field="plate")
    if fields.depot_id is not None and not Depot.objects.filter(pk=fields.depot_id).exists():
        raise Rejected("That depot is not there any more.", field="depot_id")
    row.plate, row.depot_id = plate, fields.depot_id
    row.inspection_due, row.cost_per_km = fields.inspection_due, fields.cost_per_km
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="change", entity="vehicle", entity_id=row.pk, version=row.version,
        sentence=f"changed the vehicle {row.name}",
    )  # fmt: skip
    live.announce("names")
    return row
