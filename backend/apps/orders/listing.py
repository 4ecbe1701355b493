"""The list of orders: filters, sorting, a page of rows, and everything for export."""

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from itertools import islice
from typing import Any

from django.db.models import Exists, OuterRef, Q, QuerySet

from apps.company.queries import record_fields, tag_names, time_zone
from apps.customers.models import Findable
from apps.customers.search import fold
from apps.orders.models import Visit, WorkOrder
from apps.people.queries import technicians_named
from core.calendars import day_interval
from core.orders import VisitState
from foundation.errors import Rejected
from foundation.moments import to_datetime, to_moment
from foundation.pages import sorted_by

PAGE = 100
SORTS: Mapping[str, tuple[str, ...]] = {
    "newest": ("-made_at", "-id"),
    "oldest": ("made_at", "id"),
    "promise": ("promise_start", "id"),
    "due": ("due", "id"),
    "priority": ("priority", "-id"),
    "customer": ("customer__name", "-id"),
    "number": ("id",),
}


@dataclass(frozen=True, kw_only=True)
class Filters:
    """What is looked for; what is left out is not asked for. Days are the company's."""

    text: str = ""
    states: tuple[str, ...] = ()
    job_type_ids: tuple[int, ...] = ()
    area_ids: tuple[int, ...] = ()
    priorities: tuple[int, ...] = ()
    tags: tuple[str, ...] = ()
    billing: str = ""
    source: str = ""
    customer_id: int | None = None
    site_id: int | None = None
    technician_id: int | None = None
    made_from: date | None = None
    made_until: date | None = None
    promised_from: date | None = None
    promised_until: date | None = None
    trouble: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict)


TROUBLES = ("nobody", "overdue", "no duration", "standby", "unsent")


@dataclass(frozen=True, kw_only=True, slots=True)
class OrderLine:
    """A row of the list. Times are epoch seconds; `tags` are names, as they are read."""

    id: int
    number: str
    state: str
    title: str
    job_type: str | None
    customer_id: int
    customer: str
    site: str
    address: str
    area: str | None
    priority: int
    billing: str
    po_number: str
    source: str
    tags: list[str]
    made: int
    made_by: str
    promise_start: int | None
    promise_end: int | None
    due: int | None
    extra: dict[str, Any]
    # Who goes to its visits, and when the first of them that is not over begins (of what is over: the last).
    technicians: list[str]
    planned: int | None


_COLUMNS = (
    "id", "number", "state", "title", "job_type__name", "customer_id", "customer__name", "site__name",
    "site__address", "site__area__name", "priority", "billing", "po_number", "source", "tags", "made_at", "made_by",
    "promise_start", "promise_end", "due", "extra",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Listed:
    """A page of orders. `total` of all is counted with the first page; `next`: see foundation.pages."""

    rows: list[OrderLine]
    total: int | None
    next: str | None


def orders(filters: Filters, *, now: datetime, sort: str = "newest", cursor: str = "") -> Listed:
    """A page of orders."""
    rows = narrowed(filters, now)
    # Numbers first: customers and sites are joined to the page that is shown, not to all that come before it.
    ids, following = sorted_by(rows, _keys(sort), cursor, size=PAGE)
    by_id = {line.id: line for line in _lines(WorkOrder.objects.filter(pk__in=ids))}
    return Listed(rows=[by_id[key] for key in ids], total=None if cursor else rows.count(), next=following)


def every_order(filters: Filters, *, now: datetime, sort: str = "newest") -> Iterator[OrderLine]:
    """All of them, for export, a few thousand at a time."""
    return _lines(narrowed(filters, now).order_by(*_keys(sort)), chunk=2000)


def _keys(sort: str) -> tuple[str, ...]:
    if sort not in SORTS:
        raise Rejected(f"Orders cannot be sorted by “{sort}”.", field="sort")
    return SORTS[sort]


def _lines(rows: QuerySet[WorkOrder], *, chunk: int = PAGE) -> Iterator[OrderLine]:
    values = rows.values_list(*_COLUMNS)
    found = values.iterator(chunk_size=chunk)
    tags = tag_names()
    while some := list(islice(found, chunk)):
        plans = _plans([row[0] for row in some])
        for row in some:
            *plain, made, made_by, start, end, due, extra = row
            names = OrderLine.__slots__[: len(plain)]
            technicians, planned = plans.get(row[0], ([], None))
            known = dict(zip(names, plain, strict=True))
            known["tags"] = [tags.get(code, code) for code in known["tags"]]
            yield OrderLine(
                **known, made=int(made.timestamp()), made_by=made_by,
                promise_start=to_moment(start), promise_end=to_moment(end), due=to_moment(due), extra=extra,
                technicians=technicians, planned=planned,
            )  # fmt: skip


def _plans(ids: Collection[int]) -> dict[int, tuple[list[str], int | None]]:
    """Who goes and when, by order."""
    rows = Visit.objects.filter(order_id__in=ids, start__isnull=False).exclude(state=VisitState.CANCELLED)
    columns = rows.order_by("order_id", "start", "id").values_list(
        "order_id", "start", "state", "technician_id", "mates"
    )
    visits: dict[int, list[tuple[datetime, bool, list[int]]]] = {}
    for order, start, state, lead, mates in columns:
        technicians = [*([] if lead is None else [lead]), *mates]
        if start is not None:
            visits.setdefault(order, []).append((start, VisitState(state).is_ended, technicians))
    names = technicians_named({who for own in visits.values() for _start, _over, goes in own for who in goes})
    found = {}
    for order, own in visits.items():
        ahead = [start for start, over, _technicians in own if not over]
        going = dict.fromkeys(technician for _start, _over, those in own for technician in those)
        found[order] = ([names[technician] for technician in going], to_moment(ahead[0] if ahead else own[-1][0]))
    return found


def narrowed(filters: Filters, now: datetime) -> QuerySet[WorkOrder]:
    """The orders that filters leave."""
    rows = WorkOrder.objects.all()
    for typed in filters.text.lower().split():
        rows = rows.filter(_mentions(fold(typed), typed))
    plain: dict[str, Any] = {
        "state__in": filters.states, "job_type_id__in": filters.job_type_ids, "site__area_id__in": filters.area_ids,
        "priority__in": filters.priorities, "tags__contains": list(filters.tags), "billing": filters.billing,
        "source": filters.source, "customer_id": filters.customer_id, "site_id": filters.site_id,
        "extra__contains": dict(filters.extra),
    }  # fmt: skip
    rows = rows.filter(**{name: value for name, value in plain.items() if value})
    if filters.technician_id is not None:
        goes = Q(technician_id=filters.technician_id) | Q(mates__contains=[filters.technician_id])
        rows = rows.filter(Exists(Visit.objects.filter(goes, order_id=OuterRef("pk"))))
    rows = _between(rows, "made_at", filters.made_from, filters.made_until)
    rows = _between(rows, "promise_start", filters.promised_from, filters.promised_until)
    return rows.filter(_trouble(filters.trouble, now)) if filters.trouble else rows


def _between(rows: QuerySet[WorkOrder], name: str, first: date | None, last: date | None) -> QuerySet[WorkOrder]:
    tz = time_zone()
    if first is not None:
        rows = rows.filter(**{f"{name}__gte": to_datetime(day_interval(first, tz).start)})
    if last is not None:
        rows = rows.filter(**{f"{name}__lt": to_datetime(day_interval(last + timedelta(days=1), tz).start)})
    return rows


def _trouble(trouble: str, now: datetime) -> Q:
    """What is wrong with an order, as the backlog says it."""
    open_ = ("draft", "open", "planned", "under_way")
    visits = Visit.objects.filter(order_id=OuterRef("pk"))
    if trouble == "nobody":
        return Q(Exists(visits.filter(state=VisitState.OPEN, promise_start__isnull=False)))
    if trouble == "overdue":
        return Q(state__in=open_) & (Q(due__lt=now) | Q(promise_end__lt=now))
    if trouble == "no duration":
        return Q(Exists(visits.filter(state=VisitState.OPEN, duration_seconds__isnull=True)))
    if trouble == "standby":
        return Q(Exists(visits.filter(standby__isnull=False)))
    if trouble == "unsent":
        return Q(Exists(visits.filter(state=VisitState.PLACED)))
    raise Rejected(f"There is no trouble called “{trouble}”.", field="trouble")


def _mentions(word: str, typed: str) -> Q:
    """Number, title, purchase order, description, own fields, customer, site, address, serial: what holds the word."""
    found = list(Findable.objects.filter(text__contains=word).values_list("customer_id", "site_id", "asset_id"))
    sites = {site for _customer, site, _asset in found if site is not None}
    customers = {customer for customer, site, asset in found if site is None and asset is None}
    # Each by an index of its own: the three in one OR would read every order.
    own = WorkOrder.objects.filter(Q(words__contains=word) | Q(words__contains=typed)).values("pk")
    theirs = WorkOrder.objects.filter(customer_id__in=customers).values("pk")
    there = WorkOrder.objects.filter(site_id__in=sites).values("pk")
    return Q(pk__in=own.union(theirs, there))


def column_titles() -> dict[str, str]:
    """Every column of the list and of its export, the company's own fields too."""
    own = {f"extra.{question.key}": question.label for question in record_fields("order")}
    return {
        "number": "Number", "state": "State", "title": "Title", "job_type": "Job type", "customer": "Customer",
        "site": "Site", "address": "Address", "area": "Area", "priority": "Priority", "promise": "Promise",
        "technicians": "Technician", "planned": "Planned", "due": "Due", "billing": "Billing",
        "po_number": "PO number", "source": "Source", "tags": "Tags", "made": "Made", "made_by": "Made by", **own,
    }  # fmt: skip
