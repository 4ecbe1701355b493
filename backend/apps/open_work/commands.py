"""Open work from a file: what each row would make, and making it once somebody has looked."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import TypeVar

from django.db import transaction

from apps.catalogue.filling import filled_in
from apps.company.queries import area_at
from apps.customers.models import Customer, Site
from apps.customers.search import make_findable
from apps.open_work.matching import PlannedRow, match_rows
from apps.open_work.models import OpenWorkFile
from apps.orders.commands.complete import required
from apps.orders.commands.creating import BATCH, create_orders, would_be
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin
from apps.orders.work import title_of
from core.basics import Place
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime

Record = TypeVar("Record", Customer, Site)
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
    create_orders(
        actor=actor, now=now, new=[_new(planned, now) for planned in rows], sentence="made the order from a file"
    )


def _unsaved(rows: Iterable[Record | None]) -> list[Record]:
    """Each new record once, in order of appearance."""
    found: dict[int, Record] = {}
    for row in rows:
        if row is not None and row.pk is None:
            found[id(row)] = row
    return list(found.values())


def preview(text: str, *, now: datetime) -> list[PlannedRow]:
    """What every row of a file would make, match, or be refused for. Changes nothing.

    Raises
    ------
    Rejected
        When the file as a whole cannot be read.
    """
    rows, asked = match_rows(text, now=now), required()
    for planned in rows:
        if planned.accepted:
            try:
                would_be(_new(planned, now), asked)
            except (Rejected, NotFound) as error:
                planned.problems.append(str(error))
    return rows


def _new(planned: PlannedRow, now: datetime) -> NewOrder:
    row, customer, site, job = planned.row, planned.customer, planned.site, planned.job_type
    assert customer is not None  # it is an accepted row
    assert site is not None
    work = filled_in(
        job, since=now, duration_seconds=row.duration_seconds, needs=row.needs, priority=row.priority,
        due=to_datetime(row.due) if row.due else None,
    )  # fmt: skip
    fields = OrderFields(
        title=title_of(job, row.description), description=row.description, contact_name=row.contact,
        contact_phone=row.phone, source="import", po_number=row.po_number, priority=work.priority,
        payer_id=customer.payer_id, payer_address=customer.payer_address,
    )  # fmt: skip
    promise = row.promise
    return NewOrder(
        origin=Origin.FILE, customer=customer, site=site, job_type=job, fields=fields, work=work,
        promise=(to_datetime(promise.start), to_datetime(promise.end)) if promise else (None, None),
    )  # fmt: skip


def retire(*, now: datetime) -> int:
    """Throw away the contents of files that were brought in, and files whose preview nobody accepted; how many."""
    long_ago = now - timedelta(days=FILE_DAYS)
    emptied = OpenWorkFile.objects.filter(accepted_at__lt=long_ago).exclude(text="").update(text="")
    return emptied + OpenWorkFile.objects.filter(accepted_at__isnull=True, uploaded_at__lt=long_ago).delete()[0]
