"""Making and changing work orders."""

from collections.abc import Collection, Mapping
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.catalogue.commands import edition
from apps.catalogue.filling import Work
from apps.catalogue.models import JobTypeEdition
from apps.company.numbers import take_number
from apps.company.queries import settings
from apps.customers.models import Asset, Customer
from apps.intake import commands as intake
from apps.intake.models import Request
from apps.orders.commands.creating import new_links, new_visits
from apps.orders.commands.following import follow
from apps.orders.inputs import OrderFields
from apps.orders.models import Visit, VisitLink, WorkOrder
from apps.orders.work import KINDS, overrides, questions_of
from core.forms import check_answers, file_answers, unanswered
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
    if request.site is None or request.customer is None:
        raise Rejected("Say first for which customer and site it is.", code="missing", field="site")
    kept = edition(request.job_type, now=now, by=actor.name) if request.job_type else None
    order = WorkOrder(
        number=take_number("order", now=now), customer=request.customer, site=request.site, request=request,
        job_type=request.job_type, edition=kept, made_at=now, made_by=actor.name,
    )  # fmt: skip
    fields = _from_request(request, details or {})
    _write(order, fields)
    _check_files(actor, order, {}, also=[("request", request.pk)])
    _check_complete(order)
    order.save()
    files.take_up(actor=actor, ids=file_answers(questions_of(order), order.extra), to=("order", order.pk))
    order.more_assets.set(fields.more_asset_ids)
    _make_visits(order, request, kept)
    follow(order.pk)
    intake.mark_ordered(actor=actor, now=now, request=request, order_id=order.pk)
    audit.record(
        actor=actor, now=now, action="make", entity="order", entity_id=order.pk, version=1,
        sentence=f"made the order from {request.number}",
    )  # fmt: skip
    live.announce("visit", ids=list(order.visits.values_list("pk", flat=True)))
    return order


def _from_request(request: Request, details: Mapping[str, Any]) -> OrderFields:
    known = {
        "title": _title(request), "description": request.what_is_wrong, "asset_id": request.asset_id,
        "payer_id": request.customer.payer_id if request.customer else None,
        "payer_address": request.customer.payer_address if request.customer else "",
        "contact_name": request.contact_name, "contact_phone": request.contact_phone, "source": request.source,
        "priority": request.priority,
    }  # fmt: skip
    return OrderFields(**{**known, **request.details, **details})


def _title(request: Request) -> str:
    if request.job_type:
        return request.job_type.name
    first_line = request.what_is_wrong.strip().splitlines()[0]
    return first_line if len(first_line) <= 80 else f"{first_line[:79]}…"


def _make_visits(order: WorkOrder, request: Request, kept: JobTypeEdition | None) -> None:
    content = kept.content if kept else {}
    work = Work(
        duration_seconds=request.duration_seconds, needs=request.needs, priority=request.priority, due=request.due,
        crew=content.get("crew", 1), parts=content.get("parts") or {}, worth=content.get("worth"),
    )  # fmt: skip
    visits = new_visits(order, work, content, promise=(request.promise_start, request.promise_end))
    Visit.objects.bulk_create(visits)
    VisitLink.objects.bulk_create(new_links(visits, content))


@transaction.atomic
def change_order(*, actor: Actor, now: datetime, order_id: int, version: int, fields: OrderFields) -> WorkOrder:
    """Change an order.

    Raises
    ------
    Conflict
        When it was changed since it was seen; the sentence says by whom and how.
    """
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(order_id, version)
    before = _values(order)
    _write(order, fields)
    _check_files(actor, order, before["extra"], also=[("order", order.pk)])
    _check_complete(order)
    files.take_up(actor=actor, ids=file_answers(questions_of(order), order.extra), to=("order", order.pk))
    more = set(fields.more_asset_ids)
    assets_before = set(order.more_assets.values_list("pk", flat=True))
    changed = {name: [before[name], value] for name, value in _values(order).items() if before[name] != value}
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


def lock_order(order_id: int, version: int) -> WorkOrder:
    """The order, locked, as it was seen."""
    order = (
        WorkOrder.objects.select_for_update(of=("self",))
        .select_related("customer", "site", "edition", "payer", "job_type")
        .filter(pk=order_id)
        .first()
    )
    if order is None:
        raise NotFound("There is no such order.", code="no_order")
    if order.version != version:
        newest = audit.since("order", order_id, version)
        who = f"{newest[0].actor_name} was faster: {newest[0].sentence}." if newest else "It was changed meanwhile."
        raise Conflict(f"{who} Shown as it is now.", current_version=order.version)
    return order


def _values(order: WorkOrder) -> dict[str, Any]:
    names = OrderFields.__dataclass_fields__.keys() - {"more_asset_ids"}
    return {name: getattr(order, name) for name in names}


def _write(order: WorkOrder, fields: OrderFields) -> None:
    if not fields.title.strip():
        raise Rejected("An order needs a title.", field="title")
    if fields.billing not in dict(WorkOrder.BILLING):
        raise Rejected(f"An order cannot be “{fields.billing}”.", field="billing")
    if not 1 <= fields.priority <= 5:
        raise Rejected("A priority is 1 (highest) to 5.", field="priority")
    payer_id = None if fields.payer_id == order.customer_id else fields.payer_id
    if payer_id is not None and fields.payer_address.strip():
        raise Rejected("The payer is another customer or a typed address, not both.", field="payer")
    if payer_id is not None and not Customer.objects.filter(pk=payer_id).exists():
        raise NotFound("There is no such payer.", code="no_customer")
    wanted = {key for key in (fields.asset_id, *fields.more_asset_ids) if key is not None}
    if wanted - set(Asset.objects.filter(site_id=order.site_id, pk__in=wanted).values_list("pk", flat=True)):
        raise Rejected("An asset of the order must be at its site.", field="asset")
    values = {name: value.strip() if isinstance(value, str) else value for name, value in asdict(fields).items()}
    values.pop("more_asset_ids")
    values |= {"payer_id": payer_id, "tags": list(dict.fromkeys(fields.tags)), "extra": _extra(order, fields.extra)}
    for name, value in values.items():
        setattr(order, name, value)


def _extra(order: WorkOrder, answers: Mapping[str, Any]) -> dict[str, Any]:
    questions = questions_of(order)
    known = {question.key: question for question in questions}
    clean, problems = check_answers(questions, {key: value for key, value in answers.items() if key in known})
    for key, problem in problems.items():
        raise Rejected(f"{known[key].label}: {problem}.", field=f"extra.{key}")
    # Answers to fields that are no longer asked for are kept: nothing vanishes.
    return {**{key: value for key, value in order.extra.items() if key not in known}, **clean}


def _check_files(
    actor: Actor, order: WorkOrder, before: Mapping[str, Any], *, also: Collection[tuple[str, int]]
) -> None:
    """A picture that is an answer was kept for this order: nobody points at somebody else's."""
    for key, question in file_answers(questions_of(order), order.extra).items():
        if before.get(question.key) != key and not files.are_at_hand(actor, [key], records=also):
            raise Rejected(
                f"{question.label}: the picture is not there any more. Choose it again.", field=f"extra.{question.key}"
            )


def _check_complete(order: WorkOrder) -> None:
    """What the company, the customer and the job type need before there is an order."""
    needed = {
        "asset": order.asset_id, "contact": order.contact_name, "phone": order.contact_phone, "source": order.source,
        "job type": order.job_type_id,
    }  # fmt: skip
    for name in settings().required:
        if not needed[name]:
            raise Rejected(
                f"The company needs the {name} of every order.", code="missing", field=name.replace(" ", "_")
            )
    payer = order.payer or order.customer
    if payer.needs_po_number and order.billing == "billable" and not order.po_number:
        raise Rejected(f"{payer.name} needs a purchase-order number on every order.", code="missing", field="po_number")
    missing = unanswered(questions_of(order), order.extra, to="create")
    if missing:
        raise Rejected(f"{missing[0].label} is needed.", code="missing", field=f"extra.{missing[0].key}")


def check_closable(order: WorkOrder) -> None:
    """Own fields that are needed to close are answered.

    Raises
    ------
    Rejected
        With the first one that is missing.
    """
    missing = unanswered(questions_of(order), order.extra, to="close")
    if missing:
        raise Rejected(
            f"{missing[0].label} is needed before {order.number} is closed.", code="missing",
            field=f"extra.{missing[0].key}",
        )  # fmt: skip


@transaction.atomic
def restore(*, actor: Actor, now: datetime, order_id: int, version: int, name: str) -> WorkOrder:
    """Set one overridden value back to what the job type said when the order was made."""
    require(actor, Action.MAKE_ORDERS)
    order = lock_order(order_id, version)
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
