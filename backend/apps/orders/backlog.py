"""The backlog: work without a place, filtered and sorted; and placed work whose customer would come forward."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from django.db.models import F, Q, QuerySet

from apps.company.queries import time_zone
from apps.orders.lines import VisitLine, lines_of
from apps.orders.models import Visit
from apps.orders.queries import declines_of, mentions
from core.basics import Place, straight_metres
from core.calendars import day_interval
from core.orders import VisitState
from foundation.errors import Rejected
from foundation.moments import to_datetime

MOST = 5000
# A promise nobody keeps is the loudest; then what is due first, then what matters most.
_PRESSING = ("promise_start", "priority", "due", "id")
SORTS: Mapping[str, tuple[str, ...]] = {
    "pressing": _PRESSING,
    "priority": ("priority", *_PRESSING),
    "due": ("due", *_PRESSING),
    "newest": ("-order__made_at", "-id"),
    "oldest": ("order__made_at", "id"),
    "longest": ("-duration_seconds", *_PRESSING),
    "shortest": ("duration_seconds", *_PRESSING),
    "worth": ("-worth", *_PRESSING),
    "nearest": _PRESSING,
}


@dataclass(frozen=True, kw_only=True)
class BacklogFilters:
    """What is looked for; what is left out is not asked for. `near` and `metres` go together."""

    text: str = ""
    priorities: tuple[int, ...] = ()
    area_ids: tuple[int, ...] = ()
    job_type_ids: tuple[int, ...] = ()
    skill: str = ""
    states: tuple[VisitState, ...] = ()
    due_by: date | None = None
    tag: str = ""
    customer_id: int | None = None
    # Only what nobody was promised a time for, and that has no place.
    unpromised: bool = False
    near: Place | None = None
    metres: int | None = None
    extra: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Backlog:
    """`total` is all that is open; `declined` are ids of visits that a technician gave back."""

    total: int
    lines: list[VisitLine]
    declined: frozenset[int]


def backlog(filters: BacklogFilters | None = None, *, sort: str = "pressing", limit: int = MOST) -> Backlog:
    """Open visits, and those that would come forward, the most pressing first unless sorted otherwise."""
    if sort not in SORTS:
        raise Rejected(f"The backlog cannot be sorted by “{sort}”.", field="sort")
    wanted = filters or BacklogFilters()
    open_ = Visit.objects.in_backlog()
    forward = Q(standby__isnull=False, state__in=[VisitState.PLACED, VisitState.SENT, VisitState.ACCEPTED])
    rows = _filtered(Visit.objects.filter(Q(state=VisitState.OPEN) | forward), wanted)
    keys = [F(key[1:]).desc(nulls_last=True) if key[0] == "-" else F(key).asc(nulls_last=True) for key in SORTS[sort]]
    lines = list(lines_of(rows.order_by(*keys)[:limit]))
    if wanted.near is not None:
        far = {line.id: straight_metres(wanted.near, line.place) for line in lines}
        if wanted.metres is not None:
            lines = [line for line in lines if far[line.id] <= wanted.metres]
        if sort == "nearest":
            lines.sort(key=lambda line: far[line.id])
    declined = declines_of([line.id for line in lines if line.state is VisitState.OPEN])
    return Backlog(total=open_.count(), lines=lines, declined=frozenset(declined))


def _filtered(rows: QuerySet[Visit], wanted: BacklogFilters) -> Any:
    for word in wanted.text.split():
        rows = rows.filter(mentions(word))
    plain: dict[str, Any] = {
        "priority__in": wanted.priorities, "order__site__area_id__in": wanted.area_ids,
        "order__job_type_id__in": wanted.job_type_ids, "needs__has_key": wanted.skill,
        "state__in": wanted.states,
        "order__tags__contains": [wanted.tag] if wanted.tag else [], "order__customer_id": wanted.customer_id,
        "order__extra__contains": dict(wanted.extra),
    }  # fmt: skip
    rows = rows.filter(**{name: value for name, value in plain.items() if value})
    if wanted.unpromised:
        rows = rows.filter(promise_start__isnull=True, state=VisitState.OPEN)
    if wanted.due_by is not None:
        end = to_datetime(day_interval(wanted.due_by + timedelta(days=1), time_zone()).start)
        rows = rows.filter(Q(due__lt=end) | Q(promise_start__lt=end))
    return rows
