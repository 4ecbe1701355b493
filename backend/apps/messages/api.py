"""HTTP: the outbox."""

from datetime import date
from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.company.queries import settings
from apps.messages import commands, previews, queries
from apps.messages.drafts import Draft
from apps.messages.previews import Preview
from apps.messages.schemas import CallOut, DraftOut, LetterIn, MessageOut, OutboxOut, SendingOut, WordsOut
from apps.scheduling.horizon import checked
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.pages import Cursor
from foundation.schemas import AskedKey, Key

router = Router()
State = Annotated[Literal["queued", "sending", "delivered", "failed", "withdrawn"] | None, Query()]


@router.get("/messages", response=OutboxOut, auth=Needs(Action.SEE_MESSAGES))
def outbox(
    request: HttpRequest, visit_id: Annotated[int | None, Query(ge=1, le=2**62)] = None, state: State = None,
    cursor: Cursor = "",
) -> OutboxOut:  # fmt: skip
    """Messages to technicians and customers, the newest first."""
    page = queries.outbox(visit_id=visit_id, state=state, cursor=cursor)
    rows = [MessageOut.of(row) for row in page.rows]
    return OutboxOut(rows=rows, next=page.next, failed=queries.failed_count())


@router.post("/messages/{message_id}/again", response=MessageOut, auth=Needs(Action.TAKE_REQUESTS))
def send_again(request: HttpRequest, message_id: Key) -> MessageOut:
    """Try a message that failed once more, to the address that is known now."""
    commands.send_again(actor=actor_of(request), now=clock.now(), message_id=message_id)
    return MessageOut.of(queries.message(message_id))


@router.get("/messages/preview", response=list[SendingOut], auth=Needs(Action.PLAN))
def preview(
    request: HttpRequest, day: date, days: Annotated[int, Query(ge=1, le=14)] = 1, technician_id: AskedKey | None = None
) -> list[Preview]:
    """What sending everything of some days would write, of everybody or of one technician."""
    return previews.of_days(actor=actor_of(request), day=checked(day), days=days, technician_id=technician_id)


@router.get("/messages/preview/{visit_id}", response=list[SendingOut], auth=Needs(Action.PLAN))
def preview_one(request: HttpRequest, visit_id: Key) -> list[Preview]:
    """What sending one visit would write."""
    return previews.of_visit(visit_id)


@router.get("/messages/cancelling", response=WordsOut, auth=Needs(Action.PLAN))
def cancelling_text(request: HttpRequest) -> WordsOut:
    """What customers usually read when visits are cancelled, its words in braces not filled in yet."""
    return WordsOut(text=settings().message_cancelled)


@router.get("/messages/cancelling/{visit_id}", response=DraftOut, auth=Needs(Action.PLAN))
def cancelling(request: HttpRequest, visit_id: Key) -> Draft:
    """What the customer would usually read when this visit is cancelled."""
    return previews.of_cancelling(visit_id)


@router.get("/messages/calls", response=list[CallOut], auth=Needs(Action.SEE_MESSAGES))
def calls(request: HttpRequest) -> list[CallOut]:
    """Who has to be called by a person, who waits longest first."""
    return [CallOut.of(row) for row in queries.open_calls()]


@router.post("/messages/calls/{call_id}/done", response=CallOut, auth=Needs(Action.TAKE_REQUESTS))
def called(request: HttpRequest, call_id: Key) -> CallOut:
    """Somebody was called."""
    return CallOut.of(commands.called(actor=actor_of(request), now=clock.now(), call_id=call_id))


@router.post("/visits/{visit_id}/messages", response={201: MessageOut}, auth=Needs(Action.CHANGE_VISITS))
def write_about(request: HttpRequest, visit_id: Key, body: LetterIn) -> Status[MessageOut]:
    """Write a few words about a visit."""
    message = commands.write_about(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, to=body.to, text=body.text
    )
    return Status(201, MessageOut.of(message))
