"""HTTP: the catalogue."""

from django.http import HttpRequest
from ninja import Router

from apps.catalogue import queries
from apps.catalogue.models import JobType
from apps.catalogue.schemas import JobTypeOut
from core.roles import Action
from foundation.access import Needs

router = Router()


@router.get("/job-types", response=list[JobTypeOut], auth=Needs(Action.SEE_ORDERS))
def job_types(request: HttpRequest) -> list[JobType]:
    """All job types, the most urgent first."""
    return queries.job_types()
