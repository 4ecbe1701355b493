"""HTTP: parts, and what lies where."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.people import queries as people
from apps.stock import commands, queries
from apps.stock import schemas as shapes
from apps.stock.models import Part
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key

router = Router()


@router.get("/technicians/{int:technician_id}/van", response=list[shapes.VanPartOut], auth=Needs(Action.SEE_STOCK))
def van(request: HttpRequest, technician_id: Key) -> list[shapes.VanPartOut]:
    """What lies on a technician's van, by part; empty: nobody counts it."""
    return [shapes.VanPartOut.of(row) for row in queries.van(people.technician(technician_id))]


@router.put("/technicians/{int:technician_id}/van", response=list[shapes.VanPartOut], auth=Needs(Action.MOVE_STOCK))
def count(request: HttpRequest, technician_id: Key, body: shapes.CountIn) -> list[shapes.VanPartOut]:
    """Say how many of a part lie on a van; the van as it is then."""
    commands.count(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, part_name=body.part,
        quantity=body.quantity, version=body.version,
    )  # fmt: skip
    return [shapes.VanPartOut.of(row) for row in queries.van(people.technician(technician_id))]


@router.get("/parts", response=list[shapes.PartOut], auth=Needs(Action.SEE_ORDERS))
def parts(request: HttpRequest) -> list[Part]:
    """The parts that are known, to choose from while typing."""
    return queries.parts()


@router.post("/parts", response={201: list[shapes.PartOut]}, auth=Needs(Action.CHANGE_VISITS))
def name_parts(request: HttpRequest, body: shapes.PartsIn) -> Status[list[Part]]:
    """The parts of these names, in order; those that are not known yet are made."""
    return Status(201, commands.name_parts(actor=actor_of(request), now=clock.now(), names=body.names))
