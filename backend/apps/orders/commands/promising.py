"""The promise: the arrival window that the customer was told."""

from datetime import datetime

from django.db import transaction

from apps.company.queries import time_zone
from apps.orders.commands.following import follow
from apps.orders.commands.steps import lock_visit
from apps.orders.events import TimePromised
from apps.orders.models import Visit
from core.basics import Interval
from core.calendars import window_words
from core.orders import VisitState
from core.roles import Action
from foundation import audit, events, live
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.moments import to_datetime


@transaction.atomic
def promise(*, actor: Actor, now: datetime, visit_id: int, version: int, window: Interval, tell: bool = True) -> Visit:
    """Write down what the customer was told, and tell them in writing.

    Whether it can be kept is for planning to say before: see apps.appointments.commands.booking.
    """
    require(actor, Action.OFFER_TIMES)
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    state = VisitState(visit.state)
    if state.is_ended or state.is_under_way:
        raise Rejected("It is too late to promise another time.", code="wrong_state")
    before = visit.promise
    visit.promise_start, visit.promise_end = to_datetime(window.start), to_datetime(window.end)
    visit.version += 1
    visit.save(update_fields=["promise_start", "promise_end", "version"])
    follow(visit.order_id)
    audit.record(
        actor=actor, now=now, action="promise", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=f"promised {_words(window)}" + (f", before it was {_words(before)}" if before else ""),
    )  # fmt: skip
    if tell:
        tell_promised(visit=visit, now=now)
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id])
    return visit


def tell_promised(*, visit: Visit, now: datetime) -> None:
    """Tell the customer in writing what was promised: where the visit is to be placed too, once it is."""
    events.publish(TimePromised(visit=visit, at=now))


def _words(window: Interval) -> str:
    return window_words(window, time_zone())
