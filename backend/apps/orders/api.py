"""HTTP: making orders, reading visits."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.orders import commands, queries
from apps.orders.schemas import OrderIn, OrderOut, VisitDetailOut
from core.orders import VisitState, steps_from
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key

router = Router()


@router.post("/orders", response={201: OrderOut}, auth=Needs(Action.MAKE_ORDERS))
def make_order(request: HttpRequest, body: OrderIn) -> Status[OrderOut]:
    """Turn a request into a work order with a visit in the backlog."""
    order = commands.make_order(
        actor=actor_of(request), now=clock.now(), request_id=body.request_id, version=body.version
    )
    return Status(201, OrderOut.of(order))


@router.get("/visits/{visit_id}", response=VisitDetailOut, auth=Needs(Action.SEE_ORDERS))
def visit(request: HttpRequest, visit_id: Key) -> VisitDetailOut:
    """All about a visit: what happened, who goes, and what may be done next."""
    found = queries.visit(visit_id)
    steps = steps_from(VisitState(found.state), actor_of(request).actions)
    return VisitDetailOut.build(
        found, queries.visit_events(visit_id), queries.assignments(visit_id), queries.history(visit_id), steps
    )
