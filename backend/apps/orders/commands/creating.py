"""The visits of a new order, and what ties them: the one place where visits are made, wherever the work comes from."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from apps.catalogue.filling import Work
from apps.orders.models import Visit, VisitLink, WorkOrder
from core.orders.sequences import parts_from, shared_worth

Promise = tuple[datetime | None, datetime | None]
NONE_YET: Promise = (None, None)


def new_visits(
    order: WorkOrder, work: Work, content: Mapping[str, Any], *, promise: Promise = NONE_YET
) -> list[Visit]:  # fmt: skip
    """The visits of an order, not saved: the first one as the work is, those after it as the job type says.

    Parameters
    ----------
    content
        Of the edition of the job type that the order is made with; empty: no job type.
    promise
        Of the first visit.
    """
    parts = parts_from(content.get("visits") or ())
    worths = shared_worth(work.worth, [work.duration_seconds, *(part.seconds for part in parts)])
    first = Visit(
        order=order, duration_seconds=work.duration_seconds, needs=dict(work.needs), priority=work.priority,
        promise_start=promise[0], promise_end=promise[1], due=work.due, crew=work.crew,
        title=order.title if parts else "", takes=dict(work.parts), worth=worths[0],
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


def new_links(visits: Sequence[Visit], content: Mapping[str, Any]) -> list[VisitLink]:
    """What ties an order's visits, once they are saved."""
    parts = parts_from(content.get("visits") or ())
    return [
        VisitLink(
            kind=tie.kind, first=visits[tie.to - 1], second=visits[number], least=tie.least, greatest=tie.greatest
        )
        for number, part in enumerate(parts, start=1)
        for tie in part.ties
    ]
