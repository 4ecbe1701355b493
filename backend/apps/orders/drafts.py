"""Work that is not an order yet, as the visit it will be: what is offered for it is what is made."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any

from apps.catalogue.filling import Work
from apps.catalogue.models import JobType
from apps.customers import queries as customers
from apps.orders.models import Visit, WorkOrder
from foundation.moments import to_datetime, to_moment


@dataclass(frozen=True, kw_only=True)
class Draft:
    """A visit that is being promised: plain values, because another process is asked about it. Times are epoch seconds.

    `visit_id`: the visit that it is already; None for work whose order does not exist yet.
    """

    site_id: int
    duration_seconds: int | None
    needs: Mapping[str, int]
    priority: int
    crew: int = 1
    due: int | None = None
    earliest: int | None = None
    job_type_id: int | None = None
    parts: Mapping[str, int] = field(default_factory=dict)
    visit_id: int | None = None

    def as_json(self) -> dict[str, Any]:
        return {**asdict(self), "needs": dict(self.needs), "parts": dict(self.parts)}


def draft_of_work(work: Work, *, site_id: int, job_type_id: int | None) -> Draft:
    """A draft of work that has been asked for."""
    return Draft(
        site_id=site_id, job_type_id=job_type_id, duration_seconds=work.duration_seconds, needs=work.needs,
        priority=work.priority, crew=work.crew, due=to_moment(work.due), parts=work.parts,
    )  # fmt: skip


def draft_of_visit(visit: Visit) -> Draft:
    """A draft of a visit that exists; it is left out of the days that are looked at."""
    return Draft(
        site_id=visit.order.site_id, job_type_id=visit.order.job_type_id, duration_seconds=visit.duration_seconds,
        needs=visit.needs, priority=visit.priority, crew=visit.crew, due=to_moment(visit.due),
        earliest=to_moment(visit.earliest), parts=visit.takes, visit_id=visit.pk,
    )  # fmt: skip


def visit_of_draft(draft: Draft) -> Visit:
    """The visit as it would be made: nothing of it is in the database.

    Raises
    ------
    NotFound
        When the site is not there.
    """
    site = customers.site(draft.site_id)
    job = JobType.objects.filter(pk=draft.job_type_id).first() if draft.job_type_id is not None else None
    order = WorkOrder(id=0, number="", customer=site.customer, site=site, job_type=job, title=job.name if job else "")
    return Visit(
        id=draft.visit_id or 0, order=order, duration_seconds=draft.duration_seconds, needs=dict(draft.needs),
        priority=draft.priority, crew=draft.crew, takes=dict(draft.parts),
        due=None if draft.due is None else to_datetime(draft.due),
        earliest=None if draft.earliest is None else to_datetime(draft.earliest),
    )  # fmt: skip
