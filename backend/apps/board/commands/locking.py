"""Lock or unlock all of an order, or all that is placed on some days, in one step."""

from datetime import date, datetime

from django.db import transaction

from apps.board.commands.placing import pin
from apps.orders import order_details
from apps.orders.reach import visits_within
from apps.scheduling.placed import placed_by_day
from core.orders import VisitState
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.undo import one_intention


@transaction.atomic
def lock_order(*, actor: Actor, now: datetime, order_id: int, pinned: bool) -> int:
    """Lock, or unlock, every visit of an order that has a place and is not over; how many that were."""
    require(actor, Action.PLAN)
    found = [row for row in order_details.visits_of(order_id) if row.start is not None]
    return _pin_all(actor, now, [(row.pk, row.version, row.pinned, row.state) for row in found], pinned)


@transaction.atomic
def lock_days(*, actor: Actor, now: datetime, first: date, last: date, technician_id: int | None, pinned: bool) -> int:
    """Lock, or unlock, what is placed on some days, of everybody or of one technician; how many visits that were."""
    require(actor, Action.PLAN)
    ids = None if technician_id is None else [technician_id]
    by_day, _dates = placed_by_day(first, last, technician_ids=ids)
    found = [row for lines in by_day.values() for row in lines]
    return _pin_all(actor, now, [(row.id, row.version, row.pinned, row.state) for row in found], pinned)


def _pin_all(actor: Actor, now: datetime, rows: list[tuple[int, int, bool, str]], pinned: bool) -> int:
    mine = visits_within(actor, (row[0] for row in rows))
    wanted = [row for row in rows if row[0] in mine and row[2] != pinned and not VisitState(row[3]).is_ended]
    if not wanted:
        raise Rejected(f"There is nothing to {'lock' if pinned else 'unlock'}.", code="nothing_done")
    with one_intention():
        for visit_id, version, _pinned, _state in wanted:
            pin(actor=actor, now=now, visit_id=visit_id, version=version, pinned=pinned)
    return len(wanted)
