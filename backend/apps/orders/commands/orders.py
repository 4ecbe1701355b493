"""Making and changing work orders."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.catalogue.filling import Work
from apps.intake import commands as intake
from apps.intake.models import Request
from apps.orders.commands.complete import check_complete, required
from apps.orders.commands.creating import create_order
from apps.orders.commands.fields import check_files, values_of, write
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin, Visit, WorkOrder
from apps.orders.reach import check_order
from apps.orders.work import KINDS, overrides, questions_of, title_of
from core.forms import file_answers
from core.roles import Action
from foundation import audit, files, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def make_order(
    *, actor: Actor, now: datetime, request_id: int, version: int, details: Mapping[str, Any] | None = None
) -> WorkOrder:
    """Turn a request into a work order with its visits in the backlog, carrying everything over.

    Parameters
    ----------
    details
        Fields of OrderFields that are known already, besides what the request says.

    Raises
    ------
    Rejected
        When something that the company, the customer or the job type needs is missing; `field` says what.
    """
    require(actor, Action.MAKE_ORDERS)
    request = intake.lock_new(request_id, version=version)
    order = create_order(
        actor=actor,
        now=now,
        new=_from_request(request, details or {}),
        sentence=f"made the order from {request.number}",
    )
    intake.mark_ordered(actor=actor, now=now, request=request, order_id=order.pk)
    return order


def _from_request(request: Request, details: Mapping[str, Any]) -> NewOrder:
    customer, site, job = request.customer, request.site, request.job_type
    if site is None or customer is None:
        raise Rejected("Say first for which customer and site it is.", code="missing", field="site")
    known = {
        "title": title_of(job, request.what_is_wrong), "description": request.what_is_wrong,
        "asset_id": request.asset_id, "payer_id": customer.payer_id, "payer_address": customer.payer_address,
        "contact_name": request.contact_name, "contact_phone": request.contact_phone, "source": request.source,
        "priority": request.priority,
    }  # fmt: skip
    work = Work(
        duration_seconds=request.duration_seconds, needs=request.needs, priority=request.priority, due=request.due,
        crew=job.crew if job else 1, parts=job.parts if job else {}, worth=job.worth if job else None,
    )  # fmt: skip
    return NewOrder(
        origin=Origin.REQUEST, request=request, customer=customer, site=site, job_type=job, work=work,
        fields=OrderFields(**{**known, **request.details, **details}),
        promise=(request.promise_start, request.promise_end),
    )  # fmt: skip


@transaction.atomic
def change_order(*, actor: Actor, now: datetime, order_id: int, version: int, fields: OrderFields) -> WorkOrder:
    """Change an order.

    Raises
    ------
    Conflict
        When it was changed since it was seen; the sentence says by whom and how.
    """
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    before = values_of(order)
    write(order, fields)
    check_files(actor, order, before["extra"], also=[("order", order.pk)])
    check_complete(order, required())
    files.take_up(actor=actor, ids=file_answers(questions_of(order), order.extra), to=("order", order.pk))
    more = set(fields.more_asset_ids)
    assets_before = set(order.more_assets.values_list("pk", flat=True))
    changed = {name: [before[name], value] for name, value in values_of(order).items() if before[name] != value}
    if more != assets_before:
        order.more_assets.set(more)
        changed["more_assets"] = [sorted(assets_before), sorted(more)]
    if not changed:
        return order
    order.version += 1
    order.save()
    names = ", ".join(dict.fromkeys(_WORDS.get(name, name.replace("_", " ")) for name in changed))
    audit.record(
        actor=actor, now=now, action="change", entity="order", entity_id=order.pk, version=order.version,
        sentence=f"changed {names}", values=changed,
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
    return order


_WORDS = {"payer_id": "payer", "payer_address": "payer", "asset_id": "asset", "more_assets": "further assets",
          "po_number": "purchase-order number", "extra": "own fields", "invoice_text": "text on the invoice",
          "technician_note": "note to the technician"}  # fmt: skip


def lock_order(actor: Actor, order_id: int, version: int) -> WorkOrder:
    """The order, locked, as it was seen, if it is in the actor's reach."""
    order = (
        WorkOrder.objects.select_for_update(of=("self",))
        .select_related("customer", "site__area", "edition", "payer", "job_type")
        .filter(pk=order_id)
        .first()
    )
    if order is None:
        raise NotFound("There is no such order.", code="no_order")
    check_order(actor, order)
    if order.version != version:
        newest = audit.since("order", order_id, version)
        who = f"{newest[0].actor_name} was faster: {newest[0].sentence}." if newest else "It was changed meanwhile."
        raise Conflict(f"{who} Shown as it is now.", current_version=order.version)
    return order


@transaction.atomic
def restore(*, actor: Actor, now: datetime, order_id: int, version: int, name: str) -> WorkOrder:
    """Set one overridden value back to what the job type said when the order was made."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(actor, order_id, version)
    usual = {row["field"]: row for row in overrides(order)}
    if name not in usual:
        raise Rejected("That is as the job type has it.", field=name)
    if name == "title":
        order.title = usual[name]["usual"]
    elif name in KINDS:
        order.work = {kind: rows for kind, rows in order.work.items() if kind != name}
    else:
        visit = order.visits.select_for_update().order_by("part", "id")[0]
        setattr(visit, name, usual[name]["usual"])
        if name == "duration_seconds" and visit.technician_id is not None and visit.duration_seconds is None:
            raise Rejected("A placed visit needs a duration.", field=name)
        visit.mates = visit.mates[: visit.crew - 1]
        visit.version += 1
        visit.save()
        if name == "priority":
            order.priority = visit.priority
        _note_on_visit(actor, now, visit, name)
    order.version += 1
    order.save()
    audit.record(
        actor=actor, now=now, action="restore", entity="order", entity_id=order.pk, version=order.version,
        sentence=f"set {usual[name]['label']} back to what the job type says",
        values={name: [usual[name]["now"], usual[name]["usual"]]},
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
    return order


def _note_on_visit(actor: Actor, now: datetime, visit: Visit, name: str) -> None:
    audit.record(
        actor=actor, now=now, action="change", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=f"set its {name.removesuffix('_seconds')} back to what the job type says",
    )  # fmt: skip
