"""Writing an order's own values, by the same rules wherever they come from."""

from collections.abc import Collection, Mapping
from dataclasses import asdict
from typing import Any

from apps.company.models import Tag
from apps.customers.models import Asset, Customer
from apps.orders.inputs import OrderFields
from apps.orders.models import WorkOrder
from apps.orders.work import questions_of
from core.forms import check_answers, file_answers
from foundation import files
from foundation.actors import Actor
from foundation.errors import NotFound, Rejected
from foundation.named import resolved


def values_of(order: WorkOrder) -> dict[str, Any]:
    names = OrderFields.__dataclass_fields__.keys() - {"more_asset_ids"}
    return {name: getattr(order, name) for name in names}


def write(order: WorkOrder, fields: OrderFields) -> None:
    """Check the values and put them on the order, which is not saved.

    Raises
    ------
    Rejected, NotFound
        For a value that cannot be; `field` says which.
    """
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
    values |= {
        "payer_id": payer_id, "tags": resolved(Tag, fields.tags, field="tags"), "extra": _extra(order, fields.extra)
    }  # fmt: skip
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


def check_files(
    actor: Actor, order: WorkOrder, before: Mapping[str, Any], *, also: Collection[tuple[str, int]]
) -> None:
    """A picture that is an answer was kept for this order: nobody points at somebody else's."""
    for key, question in file_answers(questions_of(order), order.extra).items():
        if before.get(question.key) != key and not files.are_at_hand(actor, [key], records=also):
            raise Rejected(
                f"{question.label}: the picture is not there any more. Choose it again.", field=f"extra.{question.key}"
            )
