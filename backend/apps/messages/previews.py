"""What would be written if something were sent now: to be read before it goes."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date

from apps.appointments.settling import PlacedElsewhere, placed_elsewhere
from apps.board.queries import unsent
from apps.company.queries import settings
from apps.messages.addressing import to_customer
from apps.messages.drafts import Draft
from apps.messages.listeners import Letterhead, customer_text, letterhead, sending
from apps.orders import queries as orders
from apps.orders.models import Visit
from foundation.actors import Actor
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class Preview:
    """The messages that sending one visit writes. `again`: it was sent before, and has changed since.

    `elsewhere`: it stands on another day than promised; the drafts are those for the window promised for then.
    """

    visit_id: int
    label: str
    site: str
    again: bool
    drafts: tuple[Draft, ...]
    elsewhere: PlacedElsewhere | None = None


def of_days(*, actor: Actor, day: date, days: int, technician_id: int | None = None) -> list[Preview]:
    """For every visit that sending these days would send, in the order of their starts."""
    lines = unsent(actor=actor, day=day, days=days, technician_id=technician_id)
    return _previews([line.id for line in lines])


def of_visit(visit_id: int) -> list[Preview]:
    """For one visit; none when it has no place yet."""
    visit = orders.visit(visit_id)
    return [] if visit.technician_id is None else _previews([visit_id])


def of_cancelling(visit_id: int) -> Draft:
    """What the company usually writes to the customer when a visit is cancelled, to be changed before it goes."""
    visit = orders.visit(visit_id)
    return to_customer(visit, customer_text(visit, settings().message_cancelled))


def _previews(ids: Collection[int]) -> list[Preview]:
    before = orders.sent_before(ids)
    rows = {visit.pk: visit for visit in orders.visits_named(ids)}
    head = letterhead(rows.values())
    return [_preview(rows[key], head, again=key in before) for key in ids if key in rows]


def _preview(visit: Visit, head: Letterhead, *, again: bool) -> Preview:
    elsewhere = placed_elsewhere(visit)
    if elsewhere is not None:
        visit.promise_start = to_datetime(elsewhere.window.start)
        visit.promise_end = to_datetime(elsewhere.window.end)
    return Preview(
        visit_id=visit.pk, label=visit.label, site=visit.order.site.name, again=again, elsewhere=elsewhere,
        drafts=tuple(sending(visit, head)),
    )  # fmt: skip
