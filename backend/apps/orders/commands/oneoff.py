"""A job that is agreed already: one form, one order, without a request before it."""

from dataclasses import replace
from datetime import datetime

from django.db import transaction

from apps.intake.commands import check_needs
from apps.orders.commands.creating import create_order
from apps.orders.commands.pricing import check_limit
from apps.orders.commands.sequences import spread_over_days
from apps.orders.inputs import OneOff
from apps.orders.models import WorkOrder
from apps.orders.one_offs import amounts, lengths, read
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import Rejected


@transaction.atomic
def make_one_off(*, actor: Actor, now: datetime, asked: OneOff) -> WorkOrder:
    """Make the order with its lines, its visits in the backlog, spread over its days.

    Raises
    ------
    Rejected, NotFound, NotPermitted
        When something cannot be or is missing; `field` says what.
    """
    require(actor, Action.MAKE_ORDERS)
    found = read(asked, now)
    check_needs(asked.needs or {})
    if not found.new.fields.title:
        raise Rejected("Say what is to be done: a title, or the job type.", field="title")
    rows, off = amounts(asked, found)
    check_limit(actor, found.buyer, rows, off)
    order = create_order(
        actor=actor, now=now, new=replace(found.new, lines=rows, discounts=off), sentence="made the order as agreed"
    )
    if len(lengths(found.new.work, asked.days)) > 1:
        first = order.visits.order_by("part", "id")[0]
        order = spread_over_days(
            actor=actor, now=now, order_id=order.pk, version=order.version, visit_id=first.pk, days=asked.days
        )
    return order
