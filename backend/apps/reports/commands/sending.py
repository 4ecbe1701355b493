"""Sending a report to whoever is to have it."""

from collections.abc import Sequence
from datetime import datetime

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.mail import EmailMessage
from django.core.validators import validate_email
from django.db import transaction

from apps.company.queries import company
from apps.orders.models import Visit
from apps.reports.commands.visits import tell, visit_of
from apps.reports.inputs import Doing
from apps.reports.models import Picture, SentReport
from apps.reports.papers import report_pdf
from core.roles import Action
from foundation import audit, files, jobs, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.models import StoredFile

SEND_REPORT = "reports.send"
MOST_ADDRESSES = 10
# So long a report waits for pictures that are still on the phone.
PATIENCE_SECONDS = 12 * 3600


@transaction.atomic
def send_report(*, actor: Actor, now: datetime, visit_id: int, addresses: Sequence[str]) -> list[SentReport]:
    """The report goes to these addresses by e-mail once this holds, as it is then.

    Raises
    ------
    Rejected
        When one is no address, or there are too many.
    NotFound
    """
    require(actor, Action.CHANGE_VISITS)
    visit = Visit.objects.select_related("order").filter(pk=visit_id).first()
    if visit is None:
        raise NotFound("There is no such visit.", code="no_visit")
    rows = _wanted(actor.name, now, visit, addresses)
    audit.record(
        actor=actor, now=now, action="send", entity="report", entity_id=visit.pk,
        sentence=f"sends the report to {', '.join(row.address for row in rows)}"[:300],
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id, *visit.mates])
    return rows


@transaction.atomic
def send_from_field(*, actor: Actor, now: datetime, doing: Doing, addresses: Sequence[str]) -> None:
    """The same, by whoever was there."""
    visit = visit_of(actor, doing)
    rows = _wanted(actor.name, now, visit, addresses)
    tell(actor, now, visit, f"sends the report to {', '.join(row.address for row in rows)}")


def _wanted(by: str, now: datetime, visit: Visit, addresses: Sequence[str]) -> list[SentReport]:
    wanted = list(dict.fromkeys(address.strip() for address in addresses if address.strip()))
    if not 1 <= len(wanted) <= MOST_ADDRESSES:
        raise Rejected(f"Choose 1 to {MOST_ADDRESSES} addresses.", field="addresses")
    for address in wanted:
        try:
            validate_email(address)
        except ValidationError as error:
            raise Rejected(f"“{address}” is no e-mail address.", field="addresses") from error
    rows = [SentReport.objects.create(visit=visit, address=address, at=now, by=by) for address in wanted]
    for row in rows:
        _enqueue(row)
        jobs.after_commit(SEND_REPORT, lock=f"{SEND_REPORT} {row.pk} late", wait=PATIENCE_SECONDS, sent_id=row.pk)
    return rows


def _enqueue(row: SentReport) -> None:
    jobs.after_commit(SEND_REPORT, lock=f"{SEND_REPORT} {row.pk}", sent_id=row.pk)


def pictures_have_come(visit_id: int) -> None:
    """What waited for the last picture of a visit is sent now."""
    if not _is_whole(visit_id):
        return
    for row in SentReport.objects.filter(visit=visit_id, mailed_at=None):
        _enqueue(row)


def _is_whole(visit_id: int) -> bool:
    """Whether all pictures that were told of have come."""
    return not Picture.objects.filter(visit=visit_id, removed=False, file=None).exists()


def mail_report(*, actor: Actor, now: datetime, sent_id: int) -> bool:
    """Write the letter with the report; whether it was written. To be called outside of any transaction.

    A report whose pictures are still on the phone waits for them, but not for ever: they may never come.

    Safe to run twice: what was mailed is not mailed again; who dies between the letter and the note of it writes the
    same letter again, under the same Message-ID (RFC 5322), by which mail programs know it.
    """
    rows = SentReport.objects.select_related("visit__order__customer")
    row = rows.filter(pk=sent_id, mailed_at=None).first()
    if row is None or (not _is_whole(row.visit_id) and (now - row.at).total_seconds() < PATIENCE_SECONDS):
        return False
    label, content = report_pdf(row.visit_id)
    text = f"The report of our visit is attached.\n\n{row.visit.order.title}\n\n{company().name}"
    letter = EmailMessage(
        f"Report {label}", text, to=[row.address],
        headers={"Message-ID": f"<report-{row.pk}-{row.at:%Y%m%d%H%M%S}@{settings.MAIL_DOMAIN}>"},
    )  # fmt: skip
    letter.attach(f"Report {label.replace('/', '-')}.pdf", content, "application/pdf")
    letter.send()
    if SentReport.objects.filter(pk=sent_id, mailed_at=None).update(mailed_at=now):
        _keep(actor, now, row, label, content)
    live.announce("visit", ids=[row.visit_id])
    return True


@transaction.atomic
def _keep(actor: Actor, now: datetime, row: SentReport, label: str, content: bytes) -> None:
    """What was sent is kept with the order and with the customer: once, however many it went to."""
    order, name = row.visit.order, f"Report {label.replace('/', '-')} {row.at:%Y-%m-%d %H.%M}.pdf"
    if StoredFile.objects.filter(record="order", record_id=order.pk, name=name).exists():
        return
    kept = files.keep(
        actor=actor, now=now, record="order", record_id=order.pk, name=name, content=content,
        media_type="application/pdf",
    )  # fmt: skip
    files.also_for(kept, ("customer", order.customer_id))
