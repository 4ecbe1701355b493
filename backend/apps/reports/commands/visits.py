"""At whose visit something is recorded, and telling the others of it."""

from datetime import datetime

from apps.orders.models import Assignment, Visit
from apps.reports.inputs import Doing
from core.orders import OrderState
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

# What was reviewed or billed is not added to any more without somebody at the office.
_CLOSED = frozenset({OrderState.REVIEWED, OrderState.BILLED, OrderState.CANCELLED})


def visit_of(actor: Actor, doing: Doing) -> Visit:
    """The visit, locked: what is recorded of one visit is written down one after the other.

    Raises
    ------
    NotPermitted
    NotFound
        When the visit is not (any more) whose doing this was.
    Rejected
        When the order has been reviewed, billed or cancelled.
    """
    if actor.technician_id != doing.technician_id:
        require(actor, Action.CHANGE_VISITS)  # somebody at the office lets it count
    else:
        require(actor, Action.WORK_IN_FIELD)
    rows = Visit.objects.select_for_update(of=("self",)).select_related("order__edition", "order__asset")
    visit = rows.filter(pk=doing.visit_id).first()
    goes = Assignment.objects.filter(visit=doing.visit_id, technician=doing.technician_id).exists()
    if visit is None or not goes:
        raise NotFound("This visit is not yours (any more).", code="no_visit")
    if OrderState(visit.order.state) in _CLOSED:
        raise Rejected(f"The order is {visit.order.state}: its report is closed.", code="report_closed")
    return visit


def tell(actor: Actor, now: datetime, visit: Visit, sentence: str) -> None:
    """Note who recorded what, and let open pages look again."""
    audit.record(actor=actor, now=now, action="report", entity="report", entity_id=visit.pk, sentence=sentence[:300])
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id, *visit.mates])
