"""What an order must have before it is made, and before it is closed."""

from dataclasses import dataclass

from apps.company.queries import record_fields, settings
from apps.orders.models import WorkOrder
from apps.orders.work import questions_of
from core.forms import Question, unanswered
from foundation.errors import Rejected


@dataclass(frozen=True, kw_only=True)
class Required:
    """What the company asks of every order: names of parts ("asset", "contact", ...) and its own fields."""

    names: tuple[str, ...]
    fields: tuple[Question, ...]


def required() -> Required:
    """Read once, also where thousands of orders are checked."""
    return Required(names=tuple(settings().required), fields=record_fields("order"))


def check_complete(order: WorkOrder, asked: Required) -> None:
    """What the company, the customer and the job type need before there is an order.

    Raises
    ------
    Rejected
        With the first thing that is missing; `field` says which.
    """
    has = {
        "asset": order.asset_id, "contact": order.contact_name, "phone": order.contact_phone, "source": order.source,
        "job type": order.job_type_id,
    }  # fmt: skip
    for name in asked.names:
        if not has[name]:
            raise Rejected(
                f"The company needs the {name} of every order.", code="missing", field=name.replace(" ", "_")
            )
    payer = order.payer or order.customer
    if payer.needs_po_number and order.billing == "billable" and not order.po_number:
        raise Rejected(f"{payer.name} needs a purchase-order number on every order.", code="missing", field="po_number")
    missing = unanswered(questions_of(order, asked.fields), order.extra, to="create")
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
