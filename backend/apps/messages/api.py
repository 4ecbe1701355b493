"""HTTP: the outbox."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from apps.messages import queries
from apps.messages.schemas import MessageOut
from core.roles import Action
from foundation.access import Needs

router = Router()


@router.get("", response=list[MessageOut], auth=Needs(Action.SEE_MESSAGES))
def outbox(request: HttpRequest, visit_id: Annotated[int | None, Query(ge=1, le=2**62)] = None) -> list[MessageOut]:
    """Messages to technicians and customers, the newest first."""
    return [MessageOut.of(row) for row in queries.outbox(visit_id=visit_id)]
