"""HTTP: technicians' days, as the office reads them."""

from typing import Annotated
from uuid import UUID

from django.http import FileResponse, HttpRequest
from ninja import Query, Router

from apps.company.queries import time_zone
from apps.daylogs import queries
from apps.daylogs.schemas import OfficeDayOut
from apps.people import queries as people
from core.calendars import local_day
from core.roles import Action
from foundation import clock
from foundation.access import Needs
from foundation.errors import NotFound
from foundation.file_api import handed_out
from foundation.schemas import Key

router = Router()
OFFICE = Needs(Action.SEE_ORDERS)


@router.get("/day-logs/of-technician/{technician_id}", response=list[OfficeDayOut], auth=OFFICE)
def of_technician(
    request: HttpRequest, technician_id: Key, days: Annotated[int, Query(ge=1, le=31)] = 14
) -> list[OfficeDayOut]:
    """Somebody's last days, the newest first; those of which there is nothing to say are left out."""
    people.technician(technician_id)
    today = local_day(int(clock.now().timestamp()), time_zone())
    found = queries.days_of(technician_id, queries.last_days(today, days))
    return [OfficeDayOut.of(day) for day in found if day.log is not None or day.visits]


@router.get("/day-logs/receipts/{fuel_id}", response={200: bytes}, auth=OFFICE)
def receipt(request: HttpRequest, fuel_id: UUID) -> FileResponse:
    """The photo of a receipt."""
    found = queries.receipt(fuel_id)
    if found is None or found.receipt is None:
        raise NotFound("This photo is still on the phone.", code="no_picture")
    return handed_out(found.receipt)
