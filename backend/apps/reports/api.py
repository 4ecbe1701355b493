"""HTTP: reports of visits, as the office reads them."""

from typing import Annotated
from uuid import UUID

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Query, Router

from apps.orders import order_details
from apps.orders import queries as orders
from apps.reports import commands, lately, queries
from apps.reports.papers import report_pdf
from apps.reports.schemas import LatelyOut, ReaderOut, ReportOut, ReportSendingIn, ReportSendingOut, SentReportOut
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import NotFound
from foundation.file_api import as_pdf, handed_out
from foundation.schemas import Key

router = Router()
OFFICE = Needs(Action.SEE_ORDERS)


@router.get("/reports/of-visit/{visit_id}", response=ReportOut, auth=OFFICE)
def of_visit(request: HttpRequest, visit_id: Key) -> ReportOut:
    """What was done at a visit so far."""
    return ReportOut.of(queries.report(orders.visit(visit_id), reader=None))


@router.get("/reports/of-order/{order_id}", response=list[ReportOut], auth=OFFICE)
def of_order(request: HttpRequest, order_id: Key) -> list[ReportOut]:
    """The reports of all visits of an order."""
    order_details.order(order_id)
    return [ReportOut.of(found) for found in queries.of_order(order_id)]


@router.get("/reports/of-visit/{visit_id}/paper", response={200: bytes}, auth=OFFICE)
def paper(request: HttpRequest, visit_id: Key) -> HttpResponse:
    """The report as the customer reads it, as PDF."""
    label, content = report_pdf(visit_id)
    return as_pdf(f"Report {label.replace('/', '-')}", content)


@router.get("/reports/of-visit/{visit_id}/sending", response=ReportSendingOut, auth=OFFICE)
def sending(request: HttpRequest, visit_id: Key) -> ReportSendingOut:
    """To whom the report was sent, and who else might want it."""
    return _sending(visit_id)


@router.post("/reports/of-visit/{visit_id}/sending", response=ReportSendingOut, auth=Needs(Action.CHANGE_VISITS))
def send(request: HttpRequest, visit_id: Key, body: ReportSendingIn) -> ReportSendingOut:
    """Send the report by e-mail."""
    commands.send_report(actor=actor_of(request), now=clock.now(), visit_id=visit_id, addresses=body.addresses)
    return _sending(visit_id)


def _sending(visit_id: int) -> ReportSendingOut:
    visit = orders.visit(visit_id)
    return ReportSendingOut(
        sent=[SentReportOut.of(row) for row in queries.sent(visit_id)],
        readers=[ReaderOut(name=name, address=address) for name, address in queries.readers(visit)],
    )


@router.get("/reports/lately", response=list[LatelyOut], auth=OFFICE)
def what_happened(
    request: HttpRequest,
    asset_id: Annotated[int | None, Query(ge=1, le=2**62)] = None,
    site_id: Annotated[int | None, Query(ge=1, le=2**62)] = None,
    visit_id: Annotated[int | None, Query(ge=1, le=2**62)] = None,
) -> list[LatelyOut]:
    """What happened lately in at most five lines: where a visit goes, at a piece of equipment, or at a site."""
    if visit_id is not None:
        found = lately.lines_for(orders.visit(visit_id))
    else:
        found = lately.lines_at(asset_id=asset_id, site_id=site_id)
    return [LatelyOut.of(line) for line in found]


@router.get("/reports/pictures/{picture_id}", response={200: bytes}, auth=OFFICE)
def picture(request: HttpRequest, picture_id: UUID) -> FileResponse:
    """A photo or signature itself."""
    found = queries.picture(picture_id)
    if found is None or found.file is None:
        raise NotFound("This picture is still on the phone.", code="no_picture")
    return handed_out(found.file)
