"""HTTP: reports of visits, as the office reads them."""

from typing import Annotated
from uuid import UUID

from django.http import FileResponse, HttpRequest
from ninja import Query, Router

from apps.orders import order_details
from apps.orders import queries as orders
from apps.reports import lately, queries
from apps.reports.schemas import LatelyOut, ReportOut
from core.roles import Action
from foundation.access import Needs
from foundation.errors import NotFound
from foundation.file_api import handed_out
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
