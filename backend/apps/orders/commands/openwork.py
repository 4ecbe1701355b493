"""Bringing in open work from a file that was looked at."""

from collections.abc import Iterable, Mapping
from datetime import datetime, timedelta
from typing import Any, TypeVar

from django.db import transaction

from apps.catalogue.commands import edition
from apps.catalogue.filling import Work, filled_in
from apps.company.numbers import take_numbers
from apps.company.queries import area_at
from apps.customers.models import Customer, Site
from apps.customers.search import make_findable
from apps.orders.commands.creating import NONE_YET, new_links, new_visits
from apps.orders.models import OpenWorkFile, Visit, VisitLink, WorkOrder
from apps.orders.openwork import PlannedRow, preview
from core.basics import Place
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime

Record = TypeVar("Record", Customer, Site)
# Rows of one insert: the server takes 65,535 values in a statement.
BATCH = 1000
# Files are kept so long after they were brought in, or looked at and left.
FILE_DAYS = 30


@transaction.atomic
def keep_file(*, actor: Actor, now: datetime, name: str, text: str) -> OpenWorkFile:
    """Keep a file until its accepted rows are made."""
    require(actor, Action.IMPORT)
    return OpenWorkFile.objects.create(
        name=name[:200].replace("\x00", ""), text=text, uploaded_at=now, uploaded_by_id=actor.id
    )


@transaction.atomic
def accept_file(*, actor: Actor, now: datetime, file_id: int) -> int:
    """Make all accepted rows of a kept file, all or none; returns how many visits were made.

    Raises
    ------
    Conflict
        When the file was accepted before.
    """
    require(actor, Action.IMPORT)
    file = OpenWorkFile.objects.select_for_update().filter(pk=file_id).first()
    if file is None:
        raise NotFound("That file is not here (any more). Choose it again.", code="no_file")
    if file.accepted_at is not None:
        raise Conflict(f"“{file.name}” was already brought in: {file.made} visits.", code="already_accepted")
    rows = [planned for planned in preview(file.text, now=now) if planned.accepted]
    if not rows:
        raise Rejected("No row of this file can be brought in.", code="nothing_to_make")
    _make(rows, now, actor)
    file.accepted_at, file.made = now, len(rows)
    file.save(update_fields=["accepted_at", "made"])
    audit.record(
        actor=actor, now=now, action="import", entity="file", entity_id=file.pk, name=file.name, made=len(rows)
    )
    live.announce("visit")
    return len(rows)


def _make(rows: list[PlannedRow], now: datetime, actor: Actor) -> None:
    Customer.objects.bulk_create(_unsaved(planned.customer for planned in rows), batch_size=BATCH)
    sites = _unsaved(planned.site for planned in rows)
    for site in sites:
        site.customer = site.customer  # takes over the key its customer has just been given
        site.area = area_at(Place(site.lon, site.lat))
    Site.objects.bulk_create(sites, batch_size=BATCH)
    make_findable(planned.customer.pk for planned in rows if planned.customer)
    numbers = take_numbers("order", len(rows), now=now)
    orders = [_order(planned, now, actor, number) for planned, number in zip(rows, numbers, strict=True)]
    WorkOrder.objects.bulk_create(orders, batch_size=BATCH)
    made = [_visits(planned, order, now) for planned, order in zip(rows, orders, strict=True)]
    Visit.objects.bulk_create((visit for visits in made for visit in visits), batch_size=BATCH)
    links = [new_links(visits, _content(order)) for visits, order in zip(made, orders, strict=True)]
    VisitLink.objects.bulk_create((link for some in links for link in some), batch_size=BATCH)


def _unsaved(rows: Iterable[Record | None]) -> list[Record]:
    """Each new record once, in order of appearance."""
    found: dict[int, Record] = {}
    for row in rows:
        if row is not None and row.pk is None:
            found[id(row)] = row
    return list(found.values())


def _order(planned: PlannedRow, now: datetime, actor: Actor, number: str) -> WorkOrder:
    row, job = planned.row, planned.job_type
    title = job.name if job else row.description.splitlines()[0][:80]
    promise, work = row.promise, _work(planned, now)
    return WorkOrder(
        number=number, customer=planned.customer, site=planned.site, job_type=job, title=title,
        description=row.description,
        contact_phone=row.phone, made_at=now, made_by=actor.name, source="import",
        edition=edition(job, now=now, by=actor.name) if job else None,
        priority=work.priority,
        payer_id=planned.customer.payer_id if planned.customer else None,
        payer_address=planned.customer.payer_address if planned.customer else "",
        promise_start=to_datetime(promise.start) if promise else None,
        promise_end=to_datetime(promise.end) if promise else None, due=work.due,
    )  # fmt: skip


def _visits(planned: PlannedRow, order: WorkOrder, now: datetime) -> list[Visit]:
    promise = planned.row.promise
    window = (to_datetime(promise.start), to_datetime(promise.end)) if promise else NONE_YET
    return new_visits(order, _work(planned, now), _content(order), promise=window)


def _work(planned: PlannedRow, now: datetime) -> Work:
    """The row, with what its job type and the company fill in."""
    row = planned.row
    return filled_in(
        planned.job_type, since=now, duration_seconds=row.duration_seconds, needs=row.needs, priority=row.priority,
        due=to_datetime(row.due) if row.due else None,
    )  # fmt: skip


def _content(order: WorkOrder) -> Mapping[str, Any]:
    return order.edition.content if order.edition else {}


def retire(*, now: datetime) -> int:
    """Throw away the contents of files that were brought in, and files whose preview nobody accepted; how many."""
    long_ago = now - timedelta(days=FILE_DAYS)
    emptied = OpenWorkFile.objects.filter(accepted_at__lt=long_ago).exclude(text="").update(text="")
    return emptied + OpenWorkFile.objects.filter(accepted_at__isnull=True, uploaded_at__lt=long_ago).delete()[0]
