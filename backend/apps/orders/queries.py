"""Reading orders and visits."""

import time
from collections.abc import Iterable

from django.db.models import Q

from apps.orders.lines import VisitLine, lines_of
from apps.orders.models import Visit, VisitStamp
from core.basics import Interval
from core.learning import Learned, learn
from core.orders import VisitState
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


def open_visits(*, limit: int = 5000) -> list[VisitLine]:
    """The whole backlog, for planning."""
    return list(lines_of(Visit.objects.in_backlog().order_by("priority", "id")[:limit]))


# History changes slowly, and reading a year of it takes a moment.
LEARNED_FOR_SECONDS = 900
_learned: tuple[float, dict[str, Learned]] | None = None


def learned_durations() -> dict[str, Learned]:
    """What finished visits teach about each job type, by its name. Kept for a quarter of an hour."""
    global _learned
    if _learned is not None and time.monotonic() - _learned[0] < LEARNED_FOR_SECONDS:
        return _learned[1]
    finished = Visit.objects.filter(
        state__in=[VisitState.DONE, VisitState.REVIEWED], arrived_at__isnull=False, finished_at__isnull=False,
        technician__isnull=False, order__job_type__isnull=False,
    )  # fmt: skip
    samples: dict[str, list[tuple[int, int]]] = {}
    columns = ("order__job_type__name", "technician_id", "arrived_at", "finished_at")
    for name, technician_id, arrived, finished_at in finished.values_list(*columns):
        seconds = int((finished_at - arrived).total_seconds())
        if seconds > 0 and technician_id is not None:
            samples.setdefault(name, []).append((technician_id, seconds))
    found = {name: learned for name, rows in samples.items() if (learned := learn(rows)) is not None}
    _learned = (time.monotonic(), found)
    return found


def last_technicians(site_ids: Iterable[int]) -> dict[int, int]:
    """Who finished a visit at each site last."""
    rows = (
        Visit.objects.filter(
            order__site_id__in=set(site_ids),
            state__in=[VisitState.DONE, VisitState.REVIEWED],
            technician__isnull=False,
            finished_at__isnull=False,
        )
        .order_by("order__site_id", "-finished_at")
        .distinct("order__site_id")
        .values_list("order__site_id", "technician_id")
    )
    return {site_id: technician_id for site_id, technician_id in rows if technician_id is not None}


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
