"""Telling technicians and customers what is placed. What was told cannot be untold: no undo."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime

from django.db import transaction

from apps.appointments.settling import How, PlacedElsewhere, fields_agreed, placed_elsewhere
from apps.board import queries
from apps.orders import commands as orders
from apps.orders.events import CustomerToCall, Told
from apps.orders.models import Visit
from core.orders import Step
from core.roles import Action
from foundation import audit, events
from foundation.actors import Actor, require
from foundation.errors import Rejected


@dataclass(frozen=True, kw_only=True)
class Sent:
    """How many visits were sent, of how many the customer is asked first, and how many are left to be settled."""

    sent: int
    asked: int
    left: int


@transaction.atomic
def send(*, actor: Actor, now: datetime, visit_id: int, version: int, how: How | None = None) -> Visit:
    """Tell the technician and the customer.

    Parameters
    ----------
    how
        What becomes of the promise of a visit that stands on another day.

    Raises
    ------
    Rejected
        When it stands on another day than promised and nobody says how that is settled (code "promise_elsewhere").
    """
    require(actor, Action.PLAN)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    elsewhere = placed_elsewhere(visit)
    if elsewhere is None:
        return _send(actor, now, visit)
    if how is None:
        raise Rejected(
            f"{visit.label} is {elsewhere.sentence}: settle the promise first.", code="promise_elsewhere", field="how"
        )
    if how == "ask":
        return _ask(actor, now, visit, elsewhere)
    if how == "keep":
        return _send(actor, now, visit, tells="technicians")
    fields = fields_agreed(visit, elsewhere)
    agreed, _before = orders.change_visit(actor=actor, now=now, visit_id=visit_id, version=version, fields=fields)
    return _send(actor, now, agreed)


def _send(actor: Actor, now: datetime, visit: Visit, *, tells: Told = "everybody") -> Visit:
    said = "sent it" if tells == "everybody" else "sent it to the technician; the promise stays"
    return orders.take_step(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.SEND, sentence=said, tells=tells
    )


def _ask(actor: Actor, now: datetime, visit: Visit, elsewhere: PlacedElsewhere) -> Visit:
    events.publish(CustomerToCall(visit=visit, why=f"Ask whether the other day suits: {elsewhere.sentence}", at=now))
    audit.record(
        actor=actor, now=now, action="ask", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence="has the customer asked about the other day before it is sent",
    )  # fmt: skip
    return visit


@transaction.atomic
def send_day(
    *, actor: Actor, now: datetime, day: date, days: int = 1, technician_id: int | None = None,
    settled: Mapping[int, How] | None = None,
) -> Sent:  # fmt: skip
    """Send every placed visit of some days, of everybody or of one technician.

    Parameters
    ----------
    settled
        By visit, what becomes of the promise of those that stand on another day; whose is not settled is left.
    """
    require(actor, Action.PLAN)
    known = settled or {}
    sent = asked = left = 0
    for line in queries.unsent(actor=actor, day=day, days=days, technician_id=technician_id):
        visit = orders.lock_visit(actor=actor, visit_id=line.id, version=line.version)
        how = known.get(line.id)
        if placed_elsewhere(visit) is not None and how is None:
            left += 1
            continue
        send(actor=actor, now=now, visit_id=line.id, version=line.version, how=how)
        asked += how == "ask"
        sent += how != "ask"
    return Sent(sent=sent, asked=asked, left=left)
