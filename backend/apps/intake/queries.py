"""Reading requests."""

from django.db.models import Count, F, QuerySet
from django.db.models.functions import Coalesce

from apps.customers.models import Customer
from apps.intake.models import Alarm, MailUnread, Request
from foundation import audit
from foundation.errors import NotFound
from foundation.models import AuditEntry
from foundation.pages import Page, in_order, newest_first


def _whole() -> QuerySet[Request]:
    rows = Request.objects.select_related("customer", "site__area", "asset", "job_type", "joined_into", "order")
    return rows.annotate(alarm_count=Count("alarms", distinct=True), joined_count=Count("joined", distinct=True))


def request(request_id: int) -> Request:
    found = _whole().filter(pk=request_id).first()
    if found is None:
        raise NotFound("There is no such request.", code="no_request")
    return found


def requests(
    *, state: str | None = None, customer_id: int | None = None, site_id: int | None = None, cursor: str = ""
) -> Page[Request]:
    """New ones by urgency and deadline, those that wait longest first; others the newest first."""
    rows = _whole()
    if customer_id is not None:
        rows = rows.filter(customer_id=customer_id)
    if site_id is not None:
        rows = rows.filter(site_id=site_id)
    if state == "new":
        pressing = Coalesce("due", "promise_end").asc(nulls_last=True)
        return in_order(rows.filter(state="new").order_by("priority", pressing, F("taken_at"), "id"), cursor)
    return newest_first(rows.filter(state=state) if state else rows, cursor)


def alike(request_: Request, *, limit: int = 6) -> list[Request]:
    """Other open requests that may be about the same: same asset, else same site, customer or sender."""
    rows = _whole().filter(state__in=["new", "ordered"]).exclude(pk=request_.pk)
    if request_.site_id is not None:
        rows = rows.filter(site_id=request_.site_id)
    elif request_.customer_id:
        rows = rows.filter(customer_id=request_.customer_id)
    elif request_.from_email:
        rows = rows.filter(from_email__iexact=request_.from_email)
    else:
        return []
    return sorted(rows.order_by("-id")[:limit], key=lambda row: row.asset_id != request_.asset_id)


def payer_name(request_: Request) -> str:
    """Of the payer that was kept with a request, if one was."""
    key = request_.details.get("payer_id")
    return Customer.objects.filter(pk=key).values_list("name", flat=True).first() or "" if key else ""


def alarms(request_id: int) -> list[Alarm]:
    return list(Alarm.objects.filter(request_id=request_id).order_by("-at")[:50])


def history(request_id: int, *, cursor: str = "") -> Page[AuditEntry]:
    return audit.of({"request": [request_id]}, cursor)


def unread_mail(*, limit: int = 100) -> list[MailUnread]:
    """What could not be read and nobody has dealt with, the newest first."""
    return list(MailUnread.objects.filter(settled_at__isnull=True).order_by("-id")[:limit])


def unread_mail_of(unread_id: int) -> MailUnread:
    found = MailUnread.objects.filter(pk=unread_id).first()
    if found is None:
        raise NotFound("There is no such e-mail.", code="no_mail")
    return found
