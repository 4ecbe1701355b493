"""A work order on paper (PDF)."""

import base64
from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string

from apps.company.queries import company, logo, logo_mark, time_zone
from apps.orders import order_details
from apps.orders.models import Visit, WorkOrder
from apps.orders.work import questions_of, work_of
from apps.people.queries import technicians_named
from apps.stock.queries import with_names
from core.basics import minutes_in_words
from core.calendars import day_words, time_words
from core.forms import questions_from
from foundation.papers import font


def work_order_pdf(order_id: int) -> tuple[str, bytes]:
    """Number and PDF of a work order.

    Raises
    ------
    NotFound
    """
    order = order_details.order(order_id)
    return order.number, work_orders_pdf([order_id])


def work_orders_pdf(order_ids: Sequence[int], *, tell: Callable[[float], None] | None = None) -> bytes:
    """Work orders on paper, one after the other, each on pages of its own; `tell` hears how far it is (0-1).

    Raises
    ------
    NotFound
    """
    from weasyprint import HTML  # it takes a second to load, and only printing needs it

    rendered = []
    for number, key in enumerate(order_ids, start=1):
        page = render_to_string("orders/work_order.html", _words(order_details.order(key)))
        rendered.append(HTML(string=page, base_url=str(settings.ROOT)).render())
        if tell:
            tell(number / len(order_ids))
    first, *others = rendered
    pages = [*first.pages, *(page for other in others for page in other.pages)]
    found: bytes = first.copy(pages).write_pdf()
    return found


def _words(order: WorkOrder) -> dict[str, Any]:
    payer = order.payer.name if order.payer else order.payer_address or order.customer.name
    ours = company()
    return {
        "order": order,
        "company": ours.name,
        "reach": " · ".join(filter(None, [" ".join(ours.address.split()), ours.phone, ours.email])),
        "logo": base64.b64encode(logo()).decode() if logo_mark() else "",
        "payer": payer,
        "due": _moment(order.due),
        "assets": [*([order.asset] if order.asset else []), *order.more_assets.all()],
        "visits": [_visit(visit) for visit in order_details.visits_of(order.pk)],
        "fields": [(q.label, order.extra[q.key]) for q in questions_of(order) if q.key in order.extra],
        "tasks": work_of(order, "tasks"),
        "questions": questions_from(work_of(order, "questions")),
        "parts": with_names(order_details.parts_of(order.pk)),
        "font": font(),
    }


def _visit(visit: Visit) -> dict[str, str]:
    technicians = [key for key in (visit.technician_id, *visit.mates) if key is not None]
    names = technicians_named(technicians)
    promise = ""
    if visit.promise_start is not None and visit.promise_end is not None:
        promise = f"{_stamp(visit.promise_start)}–{time_words(visit.promise_end.astimezone(time_zone()))}"
    return {
        "label": visit.label,
        "title": visit.title,
        "when": _stamp(visit.start) if visit.start else "not placed yet",
        "who": ", ".join(names[key] for key in technicians),
        "length": minutes_in_words(visit.duration_seconds) if visit.duration_seconds else "not known yet",
        "promise": promise,
        "crew": f"{visit.crew} together" if visit.crew > 1 else "1",
        "due": _moment(visit.due),
    }


def _moment(at: datetime | None) -> str:
    return _stamp(at) if at else ""


def _stamp(at: datetime) -> str:
    local = at.astimezone(time_zone())
    return f"{day_words(local)} {time_words(local)}"
