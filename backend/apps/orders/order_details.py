"""All about one order."""

from collections import Counter

from django.db.models import QuerySet
from django.db.models.functions import Coalesce

from apps.catalogue.models import JobTypeEdition
from apps.orders.models import SavedView, Visit, VisitLink, WorkOrder
from core.orders import VisitState
from foundation import audit
from foundation.errors import NotFound
from foundation.models import AuditEntry
from foundation.pages import Page


def order(order_id: int) -> WorkOrder:
    found = (
        WorkOrder.objects.select_related("customer", "site__area", "asset", "payer", "job_type", "edition", "request")
        .prefetch_related("more_assets")
        .filter(pk=order_id)
        .first()
    )
    if found is None:
        raise NotFound("There is no such order.", code="no_order")
    return found


def visits_of(order_id: int) -> list[Visit]:
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(order_id=order_id)
    return list(rows.order_by("part", "id"))


def parts_of(order_id: int) -> dict[str, int]:
    """What the visits of an order take from vans, all together."""
    wanted: Counter[str] = Counter()
    for takes in Visit.objects.filter(order_id=order_id).order_by("part", "id").values_list("takes", flat=True):
        wanted.update(takes)
    return dict(wanted)


def links_of(order_id: int) -> list[VisitLink]:
    return list(VisitLink.objects.filter(first__order_id=order_id).order_by("id"))


def timeline(row: WorkOrder, *, cursor: str = "") -> Page[AuditEntry]:
    """Everything that happened to the order, its visits and the request it came from, the newest first."""
    visits = list(Visit.objects.filter(order=row).values_list("pk", flat=True))
    request = [] if row.request_id is None else [row.request_id]
    return audit.of({"order": [row.pk], "visit": visits, "request": request}, cursor)


def saved_views(page: str, *, account_id: int) -> QuerySet[SavedView]:
    """One's own views and the shared ones, by name."""
    rows = SavedView.objects.select_related("owner").filter(page=page)
    return (rows.filter(owner_id=account_id) | rows.filter(shared=True)).order_by("name", "id")


def work_done_on(asset_id: int, *, limit: int = 6) -> list[Visit]:
    """The last finished visits on an asset: who, when, what was done."""
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(
        state__in=[VisitState.DONE, VisitState.REVIEWED]
    )  # fmt: skip
    mine = rows.filter(order__asset_id=asset_id) | rows.filter(order__more_assets=asset_id)
    return list(mine.distinct().order_by("-finished_at")[:limit])


def work_done_at(site_id: int, *, limit: int = 6) -> list[Visit]:
    """The last finished visits at a site."""
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(order__site_id=site_id)
    return list(rows.filter(state__in=[VisitState.DONE, VisitState.REVIEWED]).order_by("-finished_at")[:limit])


def open_at(site_id: int, *, limit: int = 12) -> list[Visit]:
    """Visits at a site that are not done yet, soonest first: what was asked for already."""
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(order__site_id=site_id)
    ended = [VisitState.DONE, VisitState.REVIEWED, VisitState.CANCELLED, VisitState.MISSED]
    soonest = Coalesce("start", "promise_start", "due")
    return list(rows.exclude(state__in=ended).order_by(soonest.asc(nulls_last=True), "id")[:limit])


def visits_at(customer_id: int, *, limit: int = 30) -> list[Visit]:
    """Visits at a customer's sites: those still to come first, soonest first, then the past ones, newest first."""
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(order__customer_id=customer_id)
    ended = [VisitState.DONE, VisitState.REVIEWED, VisitState.CANCELLED, VisitState.MISSED]
    soonest = Coalesce("start", "promise_start", "due")
    ahead = rows.exclude(state__in=ended).order_by(soonest.asc(nulls_last=True), "id")[:limit]
    latest = Coalesce("finished_at", "start")
    past = rows.filter(state__in=ended).order_by(latest.desc(nulls_last=True), "-id")[:limit]
    return [*ahead, *past][:limit]


def newest_edition(row: WorkOrder) -> JobTypeEdition | None:
    """The job type's edition of today, to say that the order was made with an older one."""
    if row.job_type_id is None:
        return None
    return JobTypeEdition.objects.filter(job_type_id=row.job_type_id).order_by("-number").first()
