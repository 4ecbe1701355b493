"""Where orders and their visits are made, whatever the work came from."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db.models import Max

from apps.catalogue.commands import content_of, edition
from apps.catalogue.models import JobType, JobTypeEdition
from apps.company.numbers import take_numbers
from apps.orders.amounts import buyer_of, hours_of, lines_for, travel_is_flat, worth_of
from apps.orders.commands.complete import Required, check_complete, required
from apps.orders.commands.fields import check_files, write
from apps.orders.inputs import NewOrder
from apps.orders.models import Visit, VisitLink, WorkOrder
from apps.orders.reach import check_order
from apps.orders.work import questions_of
from apps.pricing.documents import Buyer
from apps.pricing.queries import with_own_prices
from core.forms import file_answers
from core.orders.sequences import parts_from, shared_worth
from foundation import audit, files, live
from foundation.actors import Actor

# Rows of one insert: the server takes 65,535 values in a statement.
BATCH = 1000


def create_order(*, actor: Actor, now: datetime, new: NewOrder, sentence: str) -> WorkOrder:
    """Make an order with its visits in the backlog. To be called in a transaction.

    Parameters
    ----------
    sentence
        What its history says of its making.

    Raises
    ------
    Rejected, NotFound
        When a value cannot be, or something that the company, the customer or the job type needs is missing; `field`
        says what.
    """
    return create_orders(actor=actor, now=now, new=[new], sentence=sentence)[0]


def create_orders(*, actor: Actor, now: datetime, new: Sequence[NewOrder], sentence: str) -> list[WorkOrder]:
    """Make many orders, all or none; otherwise like `create_order`."""
    asked = required()
    editions = {job: edition(job, now=now, by=actor.name) for job in {one.job_type for one in new if one.job_type}}
    orders = [checked(one, editions[one.job_type] if one.job_type else None, asked) for one in new]
    for order, number in zip(orders, take_numbers("order", len(orders), now=now), strict=True):
        check_order(actor, order)
        order.number, order.made_at, order.made_by = number, now, actor.name
        check_files(actor, order, {}, also=[("request", order.request_id)] if order.request_id else [])
    _price(orders, new)
    WorkOrder.objects.bulk_create(orders, batch_size=BATCH)
    for order, one in zip(orders, new, strict=True):
        files.take_up(
            actor=actor, ids=file_answers(questions_of(order, asked.fields), order.extra), to=("order", order.pk)
        )
        if one.fields.more_asset_ids:
            order.more_assets.set(one.fields.more_asset_ids)
    visits = _create_visits(orders, new)
    audit.record_each(
        actor=actor, now=now, action="make", entity="order", ids=[order.pk for order in orders], sentence=sentence
    )
    live.announce("visit", ids=[visit.pk for visit in visits] if len(orders) == 1 else [])
    return orders


def _price(orders: Sequence[WorkOrder], new: Sequence[NewOrder]) -> None:
    """Give each order its lines. Those made alike are counted once: most customers pay what everybody does."""
    known: dict[tuple[Any, ...], list[dict[str, Any]]] = {}
    special = with_own_prices({order.payer_id or order.customer_id for order in orders})
    flat = travel_is_flat()
    for order, one in zip(orders, new, strict=True):
        if one.lines is not None:
            order.lines, order.discounts = list(one.lines), list(one.discounts)
            continue
        hours, work, buyer = hours_of(one), one.work, buyer_of(order)
        if buyer.customer_id not in special:
            buyer = Buyer(day=buyer.day)
        where = order.site.area_id if flat else order.site_id
        alike = (order.edition_id, buyer, where, work.duration_seconds, work.crew, tuple(work.needs), hours)
        if alike not in known:
            known[alike] = lines_for(
                _content(order).get("lines") or (), buyer, seconds=work.duration_seconds, crew=work.crew,
                needs=tuple(work.needs), site=order.site, hours=hours,
            )  # fmt: skip
        order.lines = known[alike]


def would_be(new: NewOrder, asked: Required) -> WorkOrder:
    """The order as it would be made; nothing of it is saved. Raises what `create_order` would."""
    return checked(new, edition_now(new.job_type) if new.job_type else None, asked)


def edition_now(job: JobType) -> JobTypeEdition:
    """The edition that an order made now would keep, not saved."""
    return JobTypeEdition(job_type=job, number=job.version, content=content_of(job))


def checked(new: NewOrder, kept: JobTypeEdition | None, asked: Required) -> WorkOrder:
    """The order, without number and not saved, if it can be made."""
    order = WorkOrder(
        customer=new.customer, site=new.site, job_type=new.job_type, edition=kept, request=new.request,
        origin=new.origin, promise_start=new.promise[0], promise_end=new.promise[1], due=new.work.due,
    )  # fmt: skip
    write(order, new.fields)
    if not new.ours:
        check_complete(order, asked)
    return order


def _create_visits(orders: Sequence[WorkOrder], new: Sequence[NewOrder]) -> list[Visit]:
    made = [_visits(order, one) for order, one in zip(orders, new, strict=True)]
    Visit.objects.bulk_create([visit for visits in made for visit in visits], batch_size=BATCH)
    links = (_links(visits, _content(order)) for visits, order in zip(made, orders, strict=True))
    VisitLink.objects.bulk_create([link for some in links for link in some], batch_size=BATCH)
    return [visit for visits in made for visit in visits]


def _content(order: WorkOrder) -> Mapping[str, Any]:
    return order.edition.content if order.edition else {}


def _visits(order: WorkOrder, new: NewOrder) -> list[Visit]:
    """The first visit as the work is, those after it as the job type says."""
    work = new.work
    parts = parts_from(_content(order).get("visits") or ())
    worths = shared_worth(_worth(order, work.worth), [work.duration_seconds, *(part.seconds for part in parts)])
    first = Visit(
        order=order, duration_seconds=work.duration_seconds, needs=dict(work.needs), priority=work.priority,
        promise_start=new.promise[0], promise_end=new.promise[1], due=work.due, crew=work.crew,
        title=order.title if parts else "", takes=dict(work.parts), worth=worths[0], earliest=new.earliest,
    )  # fmt: skip
    further = [
        Visit(
            order=order, part=number, title=part.title, duration_seconds=part.seconds,
            needs=dict(part.needs if part.needs is not None else work.needs), priority=work.priority, crew=part.crew,
            due=work.due, worth=worths[number - 1],
        )
        for number, part in enumerate(parts, start=2)
    ]  # fmt: skip
    return [first, *further]


def _worth(order: WorkOrder, usual: int | None) -> int | None:
    """What its lines bring; what such work usually brings where they have no prices."""
    found = worth_of(order.lines or (), order.discounts, buyer_of(order)) if order.made_at else None
    return usual if found is None else found


def _links(visits: Sequence[Visit], content: Mapping[str, Any]) -> Iterable[VisitLink]:
    parts = parts_from(content.get("visits") or ())
    for number, part in enumerate(parts, start=1):
        for tie in part.ties:
            yield VisitLink(
                kind=tie.kind, first=visits[tie.to - 1], second=visits[number], least=tie.least, greatest=tie.greatest
            )


def add_visit_to(
    order: WorkOrder, *, title: str, seconds: int | None, needs: Mapping[str, int], crew: int
) -> Visit:  # fmt: skip
    """A further visit of an order, after those it has: in the backlog, as urgent as the order, due with the first."""
    last = order.visits.aggregate(last=Max("part"))["last"] or 0
    first = order.visits.order_by("part", "id").first()
    if last == 1 and first is not None and not first.title:
        first.title = order.title
        first.version += 1
        first.save(update_fields=["title", "version"])
    return Visit.objects.create(
        order=order, part=last + 1, title=title, duration_seconds=seconds, needs=dict(needs), priority=order.priority,
        crew=crew, due=first.due if first else None,
    )  # fmt: skip
