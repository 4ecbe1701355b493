"""Things lent: to whom, until when, reminded of, fetched back."""

from datetime import date, datetime, timedelta

from django.db import transaction

from apps.catalogue.filling import Work
from apps.company.queries import settings, time_zone
from apps.customers.models import Asset, Site
from apps.orders.commands.creating import create_order
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin, Visit
from apps.people import queries as people
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.inputs import Circumstances
from apps.stock.models import StockPlace
from apps.supply.events import LoanDue
from apps.supply.inputs import LoanFields
from apps.supply.models import Loan
from core.calendars import local_day
from core.orders import VisitState
from core.roles import Action
from core.stock import Move, MoveReason
from foundation import audit, events, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def lend(*, actor: Actor, now: datetime, fields: LoanFields) -> Loan:
    """Lend something.

    Raises
    ------
    Rejected
        When nothing or nobody is named, it is due before today, or its calibration ends before it is due.
    Conflict
        When it does not lie there.
    """
    require(actor, Action.MOVE_STOCK)
    today = local_day(int(now.timestamp()), time_zone())
    if fields.due < today:
        raise Rejected("It cannot be due before today.", field="due")
    if (fields.site_id is None) == (fields.technician_id is None):
        raise Rejected("Say to whom: a site, or a technician.", field="site_id")
    if bool(fields.code) == (fields.asset_id is not None):
        raise Rejected("Say what: a part, or a piece of equipment.", field="code")
    if fields.calibrated_until is not None and fields.calibrated_until < today:
        raise Rejected("Its calibration has run out: have it calibrated first.", field="calibrated_until")
    loan = Loan(
        quantity=fields.quantity, serial=fields.serial.strip(), due=fields.due, lent_at=now, lent_by=actor.name,
        calibrated_until=fields.calibrated_until, note=fields.note.strip()[:200], site_id=_site(fields.site_id),
        technician=people.technician(fields.technician_id) if fields.technician_id else None,
    )  # fmt: skip
    if fields.code:
        _lend_part(actor, now, loan, fields)
    else:
        loan.asset = _asset(fields.asset_id or 0)
    loan.save()
    _tell(actor, now, loan, f"lent {what_of(loan)} to {whom_of(loan)}")
    return loan


def _lend_part(actor: Actor, now: datetime, loan: Loan, fields: LoanFields) -> None:
    loan.part = stock_queries.part(fields.code)
    loan.source = stock_queries.place(fields.source_id or 0)
    _move(actor, now, loan, loan.source, borrower_of(loan), fields.quantity)


def borrower_of(loan: Loan) -> StockPlace:
    """Where it lies while it is lent: the site, or the technician's van."""
    if loan.site_id is not None:
        return stock.place_of_site(loan.site_id)
    assert loan.technician is not None
    return stock.place_of_van(loan.technician)


def _move(actor: Actor, now: datetime, loan: Loan, source: StockPlace, target: StockPlace, quantity: int) -> None:
    if loan.part is None:
        return
    one = Move(
        part=loan.part.pk, quantity=quantity, source=source.pk, target=target.pk, reason=MoveReason.LOAN,
        serials=(loan.serial,) if loan.serial else (),
    )  # fmt: skip
    stock.move(actor=actor, now=now, moves=[one], how=Circumstances(note=loan.note or "on loan"))


@transaction.atomic
def bring_back(*, actor: Actor, now: datetime, loan_id: int, version: int, place_id: int | None) -> Loan:
    """It is back: in the depot or on the van where it is put."""
    require(actor, Action.MOVE_STOCK)
    loan = locked_loan(loan_id, version)
    if loan.returned_at is not None:
        return loan
    if loan.part is not None:
        target = stock_queries.place(place_id) if place_id else loan.source
        if target is None:
            raise Rejected("Say where it was put.", field="place_id")
        _move(actor, now, loan, borrower_of(loan), target, loan.quantity)
    loan.returned_at = now
    return _kept(actor, now, loan, f"{what_of(loan)} is back from {whom_of(loan)}")


@transaction.atomic
def extend(*, actor: Actor, now: datetime, loan_id: int, version: int, due: date) -> Loan:
    """Another day on which it is due; whoever has it is reminded anew."""
    require(actor, Action.MOVE_STOCK)
    loan = locked_loan(loan_id, version)
    if due < local_day(int(now.timestamp()), time_zone()):
        raise Rejected("It cannot be due before today.", field="due")
    loan.due, loan.reminded_at = due, None
    return _kept(actor, now, loan, f"{what_of(loan)} is due on {due.isoformat()}")


@transaction.atomic
def fetch_back(*, actor: Actor, now: datetime, loan_id: int, version: int) -> Loan:
    """A visit that brings it back, in the backlog; due with the loan, or today where that is over. There is one at a
    time."""
    require(actor, Action.MAKE_ORDERS)
    loan = locked_loan(loan_id, version)
    if loan.site_id is None:
        raise Rejected("A technician brings it back: no visit is needed.", field="site_id")
    if loan.returned_at is not None:
        raise Conflict("It is back already.", current_version=loan.version)
    if loan.fetch is not None and not VisitState(loan.fetch.state).is_ended:
        raise Conflict("There is a visit for it already.", code="fetched_already", current_version=loan.version)
    site = Site.objects.select_related("customer").get(pk=loan.site_id)
    what = what_of(loan)
    order = create_order(
        actor=actor, now=now, sentence=f"made to fetch {what} back",
        new=NewOrder(
            origin=Origin.OFFICE, customer=site.customer, site=site, job_type=None, lines=(), ours=True,
            fields=OrderFields(title=f"Fetch {what} back"[:160], billing="not billable", description=loan.note),
            work=Work(
                duration_seconds=60 * settings().stock_fetch_minutes, needs={}, priority=4, crew=1, parts={}, worth=0,
                due=_end_of(max(loan.due, local_day(int(now.timestamp()), time_zone()))),
            ),
        ),
    )  # fmt: skip
    loan.fetch = Visit.objects.get(order=order)
    return _kept(actor, now, loan, f"has {what} fetched from {whom_of(loan)}")


def _end_of(day: date) -> datetime:
    return datetime.combine(day + timedelta(days=1), datetime.min.time(), tzinfo=time_zone())


def remind_borrowers(*, now: datetime) -> int:
    """Remind of what is due today or was due before, each once until it is extended; how many. Safe to run twice."""
    today = local_day(int(now.timestamp()), time_zone())
    ids = Loan.objects.filter(returned_at=None, reminded_at=None, due__lte=today).values_list("pk", flat=True)
    count = 0
    for key in list(ids[:500]):
        with transaction.atomic():
            rows = Loan.objects.select_for_update(of=("self",)).select_related("part", "asset", "site", "technician")
            loan = rows.filter(pk=key, returned_at=None, reminded_at=None).first()
            if loan is None:
                continue
            loan.reminded_at = now
            loan.save(update_fields=["reminded_at"])
            words = f"{what_of(loan)} was due back on {loan.due.isoformat()}"
            events.publish(LoanDue(loan=loan, words=words, at=now))
            count += 1
    return count


def what_of(loan: Loan) -> str:
    """ "1 × Crane hook", "the door drive OR-12"."""
    if loan.part is not None:
        return f"{loan.quantity} × {loan.part.name}" + (f" {loan.serial}" if loan.serial else "")
    return loan.asset.words if loan.asset is not None else "it"


def whom_of(loan: Loan) -> str:
    return loan.site.name if loan.site is not None else loan.technician.name if loan.technician is not None else ""


def locked_loan(loan_id: int, version: int) -> Loan:
    rows = Loan.objects.select_for_update(of=("self",)).select_related(
        "part", "asset", "site", "technician", "source", "fetch"
    )
    loan = rows.filter(pk=loan_id).first()
    if loan is None:
        raise NotFound("There is no such loan.", code="no_loan")
    if loan.version != version:
        raise Conflict("It was changed meanwhile. Look at it again.", current_version=loan.version)
    return loan


def _site(site_id: int | None) -> int | None:
    if site_id is not None and not Site.objects.filter(pk=site_id).exists():
        raise NotFound("There is no such site.", code="no_site")
    return site_id


def _asset(asset_id: int) -> Asset:
    # Of two who lend it at once one is told.
    found = Asset.objects.select_for_update().filter(pk=asset_id).first()
    if found is None:
        raise NotFound("There is no such equipment.", code="no_asset")
    if Loan.objects.filter(asset=found, returned_at=None).exists():
        raise Conflict("It is lent already.", code="lent_already")
    return found


def _kept(actor: Actor, now: datetime, loan: Loan, said: str) -> Loan:
    loan.version += 1
    loan.save()
    _tell(actor, now, loan, said)
    return loan


def _tell(actor: Actor, now: datetime, loan: Loan, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="loan", entity="loan", entity_id=loan.pk, version=loan.version,
        sentence=said[:300],
    )  # fmt: skip
    live.announce("stock", technicians=[loan.technician_id])
