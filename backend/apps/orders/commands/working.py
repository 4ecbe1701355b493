"""Changing what is to be done for one order, without touching its job type."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.orders.commands.orders import lock_order
from apps.orders.models import WorkOrder
from apps.orders.work import KINDS, Kind, usual_work, work_of
from core.forms import questions_from, stored
from core.orders import OrderState
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Rejected

_OVER = frozenset({OrderState.DONE, OrderState.REVIEWED, OrderState.BILLED, OrderState.CANCELLED})


@transaction.atomic
def change_work(
    *, actor: Actor, now: datetime, order_id: int, version: int, tasks: Sequence[str],
    questions: Sequence[Mapping[str, Any]],
) -> WorkOrder:  # fmt: skip
    """Give an order tasks and a checklist of its own; what is as the job type has it stays tied to that.

    Parameters
    ----------
    questions
        As core.forms stores them.

    Raises
    ------
    Rejected
        When the order is over, or a question cannot be asked like that.
    """
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    if OrderState(order.state) in _OVER:
        raise Rejected("The order is over: what was to be done stays as it was.", code="wrong_state")
    wanted: dict[Kind, list[Any]] = {
        "tasks": [task.strip() for task in tasks if task.strip()],
        "questions": _checked(questions),
    }
    changed = {
        KINDS[kind]: [work_of(order, kind), rows] for kind, rows in wanted.items() if rows != work_of(order, kind)
    }
    if not changed:
        return order
    was = {name: rows for name, rows in order.work.items() if name not in KINDS}
    order.work = was | {kind: rows for kind, rows in wanted.items() if rows != usual_work(order, kind)}
    order.version += 1
    order.save(update_fields=["work", "version"])
    audit.record(
        actor=actor, now=now, action="change", entity="order", entity_id=order.pk, version=order.version,
        sentence=f"changed the {' and the '.join(changed)} for this order", values=changed,
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
    return order


def _checked(questions: Sequence[Mapping[str, Any]]) -> list[dict[str, Any]]:
    try:
        return stored(questions_from(questions))
    except (ValueError, TypeError) as error:
        sentence = str(error)
        raise Rejected(f"{sentence[0].upper()}{sentence[1:]}.", field="questions") from error
