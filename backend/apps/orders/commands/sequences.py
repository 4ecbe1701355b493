"""Several visits of one order, and the links between them."""

from collections.abc import Mapping
from datetime import datetime

from django.db import transaction

from apps.orders.commands.creating import add_visit_to
from apps.orders.commands.following import follow
from apps.orders.commands.orders import lock_order
from apps.orders.commands.pricing import save_worth
from apps.orders.models import Visit, VisitLink, WorkOrder
from core.orders import VisitState
from core.orders.links import Link, LinkKind
from core.orders.sequences import MOST_DAYS, Linked, day_lengths, day_title, link_problem
from core.roles import Action
from core.scheduling.model.links import GREATEST_NIGHT, LEAST_NIGHT
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.moments import to_moment

_TIED = {
    LinkKind.AFTER: "comes after", LinkKind.TOGETHER: "starts with",
    LinkKind.SAME_TECHNICIAN: "has the same technician as",
}  # fmt: skip


@transaction.atomic
def add_visit(
    *, actor: Actor, now: datetime, order_id: int, version: int, title: str, duration_seconds: int | None,
    needs: Mapping[str, int] | None = None, crew: int = 1,
) -> Visit:  # fmt: skip
    """Another visit of an order, in the backlog."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    if not title.strip():
        raise Rejected("Say what this visit is for.", field="title")
    visit = add_visit_to(order, title=title.strip(), seconds=duration_seconds, needs=needs or {}, crew=crew)
    _tell(actor, now, order, f"added the visit {visit.label} {visit.title}")
    return visit


@transaction.atomic
def remove_visit(*, actor: Actor, now: datetime, order_id: int, version: int, visit_id: int) -> WorkOrder:
    """Take a visit that nobody was told of off an order; one that somebody knows of is cancelled instead."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    visit = order.visits.filter(pk=visit_id).first()
    if visit is None:
        raise NotFound("This order has no such visit.", code="no_visit")
    if order.visits.count() == 1:
        raise Rejected("An order has at least one visit.", field="visit")
    if visit.state != VisitState.OPEN:
        raise Rejected(f"{visit.label} is {visit.state.replace('_', ' ')}: cancel it instead.", field="visit")
    label = f"{visit.label} {visit.title}"
    visit.delete()
    _tell(actor, now, order, f"removed the visit {label}")
    return order


@transaction.atomic
def link_visits(
    *, actor: Actor, now: datetime, order_id: int, version: int, kind: LinkKind, first_id: int, second_id: int,
    least: int = 0, greatest: int | None = None,
) -> VisitLink:  # fmt: skip
    """Tie two visits of an order.

    Raises
    ------
    Rejected
        When that closes a ring, is the wrong way round, or is there already; with the reason.
    """
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    visits = {visit.pk: visit for visit in order.visits.select_related("order")}
    if first_id not in visits or second_id not in visits:
        raise NotFound("This order has no such visit.", code="no_visit")
    try:
        link = Link(kind=kind, first=first_id, second=second_id, least=least, greatest=greatest)
    except ValueError as error:
        raise Rejected(f"{str(error).capitalize()}.", code="link", field="link") from error
    problem = link_problem(link, {key: linked(visit) for key, visit in visits.items()}, links_of(order.pk))
    if problem:
        raise Rejected(f"{problem}.", code="link", field="link")
    row = VisitLink.objects.create(kind=kind, first_id=first_id, second_id=second_id, least=least, greatest=greatest)
    _tell(actor, now, order, f"{visits[second_id].label} {_TIED[kind]} {visits[first_id].label}")
    return row


@transaction.atomic
def unlink_visits(*, actor: Actor, now: datetime, order_id: int, version: int, link_id: int) -> WorkOrder:
    """Undo a link."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    link = VisitLink.objects.select_related("first__order", "second__order").filter(pk=link_id, first__order=order)
    row = link.first()
    if row is None:
        raise NotFound("There is no such link (any more).", code="no_link")
    sentence = f"took the link from {row.first.label} to {row.second.label} away"
    row.delete()
    _tell(actor, now, order, sentence)
    return order


@transaction.atomic
def turn_link(*, actor: Actor, now: datetime, order_id: int, version: int, link_id: int) -> WorkOrder:
    """Turn a link round: what came second comes first. All as it was when that cannot be."""
    row = VisitLink.objects.filter(pk=link_id, first__order_id=order_id).first()
    if row is None:
        raise NotFound("There is no such link (any more).", code="no_link")
    order = unlink_visits(actor=actor, now=now, order_id=order_id, version=version, link_id=link_id)
    link_visits(
        actor=actor, now=now, order_id=order_id, version=order.version, kind=LinkKind(row.kind),
        first_id=row.second_id, second_id=row.first_id, least=row.least, greatest=row.greatest,
    )  # fmt: skip
    return order


@transaction.atomic
def spread_over_days(
    *, actor: Actor, now: datetime, order_id: int, version: int, visit_id: int, days: int
) -> WorkOrder:
    """Make one visit several on following days by the same technicians, sharing its length among them."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    visit = order.visits.select_for_update(of=("self",)).select_related("order").filter(pk=visit_id).first()
    if visit is None:
        raise NotFound("This order has no such visit.", code="no_visit")
    if visit.state != VisitState.OPEN:
        raise Rejected("Only a visit in the backlog can be spread over days.", field="visit")
    if not visit.duration_seconds:
        raise Rejected("Give it a duration first.", field="duration")
    if not 2 <= days <= MOST_DAYS:
        raise Rejected(f"Over 2 to {MOST_DAYS} days.", field="days")
    name, before = visit.title or order.title, visit
    first, *further = day_lengths(visit.duration_seconds, days)
    if not further:
        raise Rejected("It is too short to be spread over days.", field="days")
    visit.title, visit.duration_seconds = day_title(name, 1)[:120], first
    visit.version += 1
    visit.save()
    follows = list(VisitLink.objects.filter(first=visit, kind=LinkKind.AFTER))
    for number, seconds in enumerate(further, start=2):
        part = add_visit_to(
            order, title=day_title(name, number)[:120], seconds=seconds, needs=visit.needs, crew=visit.crew
        )
        VisitLink.objects.create(
            kind=LinkKind.AFTER, first=before, second=part, least=LEAST_NIGHT, greatest=GREATEST_NIGHT
        )
        VisitLink.objects.create(kind=LinkKind.SAME_TECHNICIAN, first=before, second=part)
        before = part
    # What came after the whole comes after its last day.
    for link in follows:
        link.first = before
        link.save(update_fields=["first"])
    _tell(actor, now, order, f"spread {visit.label} over {days} days")
    return order


def linked(visit: Visit) -> Linked:
    """A visit as a link sees it."""
    state = VisitState(visit.state)
    due = to_moment(visit.due)
    latest = to_moment(visit.promise_end) or (due - (visit.duration_seconds or 0) if due is not None else None)
    return Linked(
        label=" ".join(filter(None, [visit.label, visit.title])), seconds=visit.duration_seconds,
        earliest=to_moment(visit.promise_start) or to_moment(visit.earliest), latest=latest,
        start=to_moment(visit.start), begun=state.is_under_way or state.is_ended, over=state.is_ended,
    )  # fmt: skip


def links_of(order_id: int) -> list[Link]:
    rows = VisitLink.objects.filter(first__order_id=order_id).order_by("id")
    return [link_of(row) for row in rows]


def link_of(row: VisitLink) -> Link:
    return Link(
        kind=LinkKind(row.kind), first=row.first_id, second=row.second_id, least=row.least, greatest=row.greatest
    )


def _tell(actor: Actor, now: datetime, order: WorkOrder, sentence: str) -> None:
    order.version += 1
    order.save(update_fields=["version"])
    follow(order.pk)
    save_worth(order)
    audit.record(
        actor=actor, now=now, action="sequence", entity="order", entity_id=order.pk, version=order.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
