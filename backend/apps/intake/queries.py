"""Reading requests."""

from django.db.models import QuerySet

from apps.intake.models import Request
from foundation.errors import NotFound


def _whole() -> QuerySet[Request]:
    return Request.objects.select_related("customer", "site__area", "asset", "job_type")


def request(request_id: int) -> Request:
    found = _whole().filter(pk=request_id).first()
    if found is None:
        raise NotFound("There is no such request.", code="no_request")
    return found


def requests(*, state: str | None = None, limit: int = 100) -> list[Request]:
    """The newest first."""
    rows = _whole().order_by("-id")
    return list((rows.filter(state=state) if state else rows)[:limit])
