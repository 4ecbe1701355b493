"""What an order's work consists of: the job type's tasks and checklist, or its own instead."""

from collections.abc import Sequence
from typing import Any, Literal

from apps.catalogue.models import JobType
from apps.company.queries import record_fields
from apps.orders.models import WorkOrder
from core.forms import Question, questions_from

# As a job type's edition calls them.
Kind = Literal["tasks", "questions"]
KINDS: dict[Kind, str] = {"tasks": "tasks", "questions": "checklist"}
_COMPARED = {
    "duration_seconds": "duration", "priority": "priority", "needs": "skills", "crew": "crew", "takes": "parts",
}  # fmt: skip
# Where a visit and a job type call the same thing differently.
_USUAL = {"takes": "parts"}


def title_of(job: JobType | None, description: str) -> str:
    """What an order is called if nobody says otherwise: its job type, else the first line of what is wrong."""
    if job is not None:
        return job.name
    first_line = description.strip().splitlines()[0]
    return first_line if len(first_line) <= 80 else f"{first_line[:79]}…"


def usual_work(order: WorkOrder, kind: Kind | Literal["lines"]) -> list[Any]:
    """What the job type says, in the edition that the order was made with."""
    found: list[Any] = (order.edition.content.get(kind) if order.edition else None) or []
    return found


def work_of(order: WorkOrder, kind: Kind) -> list[Any]:
    """Tasks as words in order, questions as core.forms stores them."""
    own: list[Any] | None = order.work.get(kind)
    return usual_work(order, kind) if own is None else own


def questions_of(order: WorkOrder, company: Sequence[Question] | None = None) -> tuple[Question, ...]:
    """The own fields of an order: the company's (None: read here), and those of the job type it was made with."""
    own = questions_from(order.edition.content.get("fields") or []) if order.edition else ()
    keys = {question.key for question in own}
    return (
        *own,
        *(
            question
            for question in (record_fields("order") if company is None else company)
            if question.key not in keys
        ),
    )


def overrides(order: WorkOrder) -> list[dict[str, Any]]:
    """What differs from the job type the order was made with: field, label, now, usual."""
    if order.edition is None:
        return []
    content = order.edition.content
    rows = []
    if order.title != content["name"]:
        rows.append({"field": "title", "label": "title", "now": order.title, "usual": content["name"]})
    rows += [
        {"field": kind, "label": label, "now": work_of(order, kind), "usual": usual_work(order, kind)}
        for kind, label in KINDS.items()
        if kind in order.work
    ]
    visit = order.visits.order_by("part", "id").first()
    for name, label in _COMPARED.items():
        known_as = _USUAL.get(name, name)
        if visit is None or known_as not in content:  # an edition from before there was such a thing
            continue
        usual = content[known_as]
        if getattr(visit, name) != usual:
            rows.append({"field": name, "label": label, "now": getattr(visit, name), "usual": usual})
    return rows
