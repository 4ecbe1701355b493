"""A customer on the standby list comes forward into a gap."""

from datetime import datetime

from django.db import transaction

from apps.board.commands.placing import place
from apps.orders import commands as orders
from apps.orders.models import Visit
from apps.scheduling.undoing import keep
from core.basics import Interval
from core.roles import Action
from core.scheduling import Verdict
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.moments import to_moment
from foundation.undo import one_intention

# A window that moves begins on the half hour before the work does.
GRID = 1800


@transaction.atomic
@one_intention()
def bring_forward(
    *, actor: Actor, now: datetime, visit_id: int, version: int, technician_id: int, start: int
) -> tuple[Visit, Verdict]:
    """Place a standby visit earlier than was promised: its window moves along and the customer is told of the new one.

    The visit is off the standby list then. All of it is undone in one step.

    Raises
    ------
    Rejected
        When the customer is not on the standby list, or the evaluator refuses the place.
    """
    require(actor, Action.PLAN)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    if visit.standby is None:
        raise Rejected("This customer is not on the standby list (any more).", code="not_on_standby")
    before = visit.standby
    visit = orders.set_standby(
        actor=actor, now=now, visit_id=visit_id, version=version, standby=None, sentence="brought it forward"
    )
    keep(actor, now, visit, f"{visit.order.number} brought forward", {"standby": before})
    promised_before = visit.promise is not None
    if visit.promise is not None:
        promised = {"promise_start": to_moment(visit.promise_start), "promise_end": to_moment(visit.promise_end)}
        window = _moved(visit.promise, start)
        visit = orders.promise(
            actor=actor, now=now, visit_id=visit_id, version=visit.version, window=window, tell=False
        )
        keep(actor, now, visit, f"{visit.order.number} promised earlier", {"fields": promised})
    placed, verdict = place(
        actor=actor, now=now, visit_id=visit_id, version=visit.version, technician_id=technician_id, start=start
    )  # fmt: skip
    if promised_before:
        orders.tell_promised(visit=placed, now=now)
    return placed, verdict


def _moved(promise: Interval, start: int) -> Interval:
    begins = start - start % GRID
    return Interval(start=begins, end=begins + promise.seconds)
