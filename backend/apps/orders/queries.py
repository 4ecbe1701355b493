"""Reading orders and visits."""

from django.db.models import Q

from apps.orders.lines import VisitLine, lines_of
from apps.orders.models import Visit, VisitStamp
from core.basics import Interval
from foundation import audit
from foundation.errors import NotFound
from foundation.models import AuditEntry


def visit(visit_id: int) -> Visit:
    found = Visit.objects.with_whereabouts().select_related("technician").filter(pk=visit_id).first()
    if found is None:
        raise NotFound("There is no such visit.", code="no_visit")
    return found


def visits_within(stretch: Interval, *, technician_id: int | None = None) -> list[VisitLine]:
    """Placed visits that start in a stretch of time, of everybody or of one technician."""
    rows = Visit.objects.on_somebodys_day().starting_within(stretch)
    if technician_id is not None:
        rows = rows.filter(technician_id=technician_id)
    return list(lines_of(rows.order_by("start", "id")))


def backlog(*, text: str = "", limit: int = 200) -> tuple[list[VisitLine], int]:
    """Open visits, the most pressing first, and how many there are in all."""
    rows = Visit.objects.in_backlog()
    for word in text.split():
        rows = rows.filter(_mentions(word))
    total = rows.count()
    # A promise nobody keeps is the loudest; then what is due first, then what matters most.
    ordered = rows.order_by("promise_start", "priority", "due", "id")
    return list(lines_of(ordered[:limit])), total


def _mentions(word: str) -> Q:
    found = (
        Q(order__title__icontains=word)
        | Q(order__customer__name__icontains=word)
        | Q(order__site__name__icontains=word)
        | Q(order__site__address__icontains=word)
        | Q(order__site__area__name__icontains=word)
    )
    digits = word.lower().removeprefix("w-")
    if digits.isdigit() and 1000 <= int(digits) < 2**62:
        found |= Q(order_id=int(digits) - 1000)
    return found


def stamps(visit_id: int) -> list[VisitStamp]:
    return list(VisitStamp.objects.filter(visit_id=visit_id).order_by("id"))


def history(visit_id: int) -> list[AuditEntry]:
    return audit.latest("visit", visit_id)
