"""What an order's work consists of: the job type's tasks, checklist and lines, or its own instead."""

from typing import Any, Literal

from apps.orders.models import WorkOrder

# As a job type's edition calls them.
Kind = Literal["tasks", "questions", "lines"]
KINDS: dict[Kind, str] = {"tasks": "tasks", "questions": "checklist", "lines": "lines"}


def usual_work(order: WorkOrder, kind: Kind) -> list[Any]:
    """What the job type says, in the edition that the order was made with."""
    found: list[Any] = (order.edition.content.get(kind) if order.edition else None) or []
    return found


def work_of(order: WorkOrder, kind: Kind) -> list[Any]:
    """Tasks as words in order, questions as core.forms stores them, lines as {description, quantity}."""
    own: list[Any] | None = order.work.get(kind)
    return usual_work(order, kind) if own is None else own
