"""Lines of an order: what it costs, and so what its visits bring."""

from collections.abc import Sequence
from datetime import datetime
from math import ceil
from typing import Any

from django.db import transaction

from apps.orders.amounts import Kept, buyer_of, kept_lines, lines_for, share_worth
from apps.orders.commands.orders import lock_order
from apps.orders.models import WorkOrder
from apps.orders.work import usual_work
from apps.pricing.documents import Buyer, counted, discount_of, filled, holding, kept_discount
from apps.pricing.inputs import DiscountFields, LineFields
from apps.pricing.limits import discount_limit
from core.basics import Interval
from core.orders import OrderState
from core.pricing import Document, discount_given
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Rejected


@transaction.atomic
def set_lines(
    *, actor: Actor, now: datetime, order_id: int, version: int, lines: Sequence[LineFields],
    discounts: Sequence[DiscountFields] = (),
) -> WorkOrder:  # fmt: skip
    """Other lines for one order; its visits bring what they come to.

    Raises
    ------
    Rejected
        When it is billed or cancelled, an item is gone, or more is taken off than the actor may give.
    """
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    if OrderState(order.state) in (OrderState.BILLED, OrderState.CANCELLED):
        raise Rejected("The order is billed or cancelled: its lines stay as they are.", code="wrong_state")
    before = kept_lines(order)
    rows, off = filled(lines, buyer_of(order), before=before), [kept_discount(one) for one in discounts]
    check_limit(actor, buyer_of(order), rows, off)
    if (rows, off) == (order.lines, order.discounts):
        return order
    order.lines, order.discounts = rows, off
    return _save(actor, now, order, "changed the lines for this order")


@transaction.atomic
def reset_lines(*, actor: Actor, now: datetime, order_id: int, version: int) -> WorkOrder:
    """The lines that such an order would be made with: as its job type has them, priced as on the day it was made."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    visit = order.visits.order_by("part", "id").first()
    seconds = visit.duration_seconds if visit else None
    start = int(order.promise_start.timestamp()) if order.promise_start else None
    order.lines = lines_for(
        usual_work(order, "lines"), buyer_of(order), seconds=seconds, crew=visit.crew if visit else 1,
        needs=tuple(visit.needs) if visit else (), site=order.site,
        hours=None if start is None else Interval(start=start, end=start + (seconds or 3600)),
    )  # fmt: skip
    order.discounts = []
    return _save(actor, now, order, "set the lines back to what such work costs")


def add_lines(*, actor: Actor, now: datetime, order: WorkOrder, lines: Kept, discounts: Kept, sentence: str) -> None:
    """Put agreed lines behind those an order has. To be called in a transaction, with the order locked."""
    taken = {row["key"] for row in kept_lines(order)}
    renamed = []
    for row in lines:
        key, number = row["key"], 2
        while key in taken:
            key, number = f"{row['key'][:8]}-{number}", number + 1
        taken.add(key)
        renamed.append({**row, "key": key})
    order.lines, order.discounts = [*kept_lines(order), *renamed], [*order.discounts, *discounts]
    _save(actor, now, order, sentence)


def check_limit(actor: Actor, buyer: Buyer, rows: Kept, off: Kept) -> None:
    """Lines and discounts that take no more off than the actor may give by themselves. Raises Rejected."""
    held = holding([discount_of(row) for row in off], buyer.day)
    given = ceil(discount_given(Document(lines=counted(rows, buyer), discounts=held)))
    limit = discount_limit(actor)
    if given > limit:
        raise Rejected(
            f"That takes {given} % off, and you give {limit} % at most by yourself. Ask somebody who may.",
            field="discounts", code="discount_limit",
        )  # fmt: skip


def _save(actor: Actor, now: datetime, order: WorkOrder, sentence: str) -> WorkOrder:
    order.version += 1
    order.save(update_fields=["lines", "discounts", "version"])
    save_worth(order)
    audit.record(
        actor=actor, now=now, action="lines", entity="order", entity_id=order.pk, version=order.version,
        sentence=sentence, values={"lines": [_plain(row) for row in order.lines or ()]},
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
    return order


def save_worth(order: WorkOrder) -> None:
    """Let the visits bring what the lines do."""
    for visit in share_worth(order):
        visit.version += 1
        visit.save(update_fields=["worth", "version"])


def _plain(row: dict[str, Any]) -> str:
    return f"{row['quantity']} {row['wording']}"
