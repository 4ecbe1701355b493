"""HTTP: the outbox."""

from datetime import date
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.messages import commands, previews, queries
from apps.messages.previews import Preview
from apps.messages.schemas import LetterIn, MessageOut, SendingOut
from apps.planning.reach import checked
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import AskedKey, Key

router = Router()


@router.get("", response=list[MessageOut], auth=Needs(Action.SEE_MESSAGES))
def outbox(request: HttpRequest, visit_id: Annotated[int | None, Query(ge=1, le=2**62)] = None) -> list[MessageOut]:
    """Messages to technicians and customers, the newest first."""
    return [MessageOut.of(row) for row in queries.outbox(visit_id=visit_id)]


@router.get("/preview", response=list[SendingOut], auth=Needs(Action.PLAN))
def preview(
    request: HttpRequest, day: date, days: Annotated[int, Query(ge=1, le=14)] = 1, technician_id: AskedKey | None = None
) -> list[Preview]:
    """What sending everything of some days would write, of everybody or of one technician."""
    return previews.of_days(day=checked(day), days=days, technician_id=technician_id)


@router.get("/preview/{visit_id}", response=list[SendingOut], auth=Needs(Action.PLAN))
def preview_one(request: HttpRequest, visit_id: Key) -> list[Preview]:
    """What sending one visit would write."""
    return previews.of_visit(visit_id)


@router.post("/visits/{visit_id}", response={201: MessageOut}, auth=Needs(Action.CHANGE_VISITS))
def write_about(request: HttpRequest, visit_id: Key, body: LetterIn) -> Status[MessageOut]:
    """Write a few words about a visit."""
    message = commands.write_about(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, to=body.to, text=body.text
    )
    return Status(201, MessageOut.of(message))
