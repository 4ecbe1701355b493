"""HTTP: the company."""

from typing import Any

from django.http import HttpRequest
from ninja import Router

from apps.company import queries
from apps.company.schemas import CompanyOut
from core.roles import Action
from foundation.access import Needs

router = Router()


@router.get("", response=CompanyOut, auth=Needs(Action.USE))
def company(request: HttpRequest) -> dict[str, Any]:
    """Name, time zone, areas and depots."""
    found = queries.company()
    return {
        "name": found.name,
        "time_zone": found.time_zone,
        "currency": found.currency,
        "areas": queries.areas(),
        "depots": queries.depots(),
    }
