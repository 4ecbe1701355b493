"""What a technician does on the phone."""

from datetime import datetime

from apps.field.doing import FIELD_STEPS
from apps.field.queries import goes_along
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.inputs import Deed
from apps.orders.models import Visit
from core.orders import Step
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import Rejected


def take_step(
    *, actor: Actor, now: datetime, visit_id: int, version: int | None, step: Step, note: str = "", deed: Deed
) -> Visit:
    """Take one step on an own visit: of the visit by whoever leads it, of their own part by who goes along.

    Raises
    ------
    Rejected
        When the step does not follow from the visit's state, or needs a note.
    Conflict
        When the visit is not any more as the technician saw it.
    NotFound
        When the visit is not (any more) this technician's.
    """
    require(actor, Action.WORK_IN_FIELD)
    if step not in FIELD_STEPS:
        raise Rejected(f"“{step}” is not done on the phone.", code="wrong_step")
    if orders.was_done(actor=actor, deed=deed, visit_id=visit_id, step=step):
        return order_queries.visit(visit_id)
    if goes_along(actor=actor, visit_id=visit_id):
        return orders.take_own_step(actor=actor, now=now, visit_id=visit_id, step=step, note=note, deed=deed)
    return orders.take_step(actor=actor, now=now, visit_id=visit_id, version=version, step=step, note=note, deed=deed)
