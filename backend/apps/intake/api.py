"""HTTP: requests."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Header, Query, Router, Status

from apps.company.queries import company
from apps.customers.schemas import NoteIn
from apps.intake import commands, queries
from apps.intake.commands.alarms import device_named
from apps.intake.mailbox import mailbox
from apps.intake.schemas import (
    AlarmIn,
    AlarmOut,
    AlarmTakenOut,
    AnswerIn,
    CloseIn,
    CompleteIn,
    FormIn,
    FormOut,
    FormTakenOut,
    JoinIn,
    MailAgainOut,
    MailUnreadOut,
    OrderDetailsIn,
    RequestDetailOut,
    RequestIn,
    RequestOut,
    RequestsOut,
)
from core.roles import Action
from foundation import audit, clock
from foundation.access import Needs, actor_of
from foundation.audit_schemas import EntriesOut
from foundation.origin import client_network
from foundation.pages import Cursor
from foundation.schemas import AskedKey, Key

router = Router()
State = Annotated[Literal["new", "quoted", "ordered", "closed"] | None, Query()]


@router.get("/requests", response=RequestsOut, auth=Needs(Action.SEE_ORDERS))
def requests(
    request: HttpRequest, state: State = None, customer_id: AskedKey | None = None, site_id: AskedKey | None = None,
    cursor: Cursor = "",
) -> RequestsOut:  # fmt: skip
    """Requests: new ones the most pressing first, others the newest first."""
    page = queries.requests(state=state, customer_id=customer_id, site_id=site_id, cursor=cursor)
    return RequestsOut(rows=[RequestOut.of(row) for row in page.rows], next=page.next)


@router.get("/requests/{request_id}", response=RequestDetailOut, auth=Needs(Action.SEE_ORDERS))
def one_request(request: HttpRequest, request_id: Key) -> RequestDetailOut:
    """One request, with what may be about the same."""
    row = queries.request(request_id)
    return RequestDetailOut(
        **RequestOut.of(row).dict(),
        details=OrderDetailsIn.model_validate(row.details),
        payer_name=queries.payer_name(row),
        alike=[RequestOut.of(other) for other in queries.alike(row)],
        readings=[AlarmOut.of(alarm) for alarm in queries.alarms(request_id)],
    )


@router.get("/requests/{request_id}/history", response=EntriesOut, auth=Needs(Action.SEE_ORDERS))
def history(request: HttpRequest, request_id: Key, cursor: Cursor = "") -> EntriesOut:
    """Everything that happened to a request, the newest first."""
    return EntriesOut.of(queries.history(queries.request(request_id).pk, cursor=cursor))


@router.post("/requests", response={201: RequestOut}, auth=Needs(Action.TAKE_REQUESTS))
def take_request(request: HttpRequest, body: RequestIn) -> Status[RequestOut]:
    """Note a need."""
    row = commands.take_request(actor=actor_of(request), now=clock.now(), site_id=body.site_id, wanted=body.wanted())
    return Status(201, RequestOut.of(row))


@router.put("/requests/{request_id}", response=RequestOut, auth=Needs(Action.TAKE_REQUESTS))
def complete_request(request: HttpRequest, request_id: Key, body: CompleteIn) -> RequestOut:
    """Fill in who, where and what of a request that came from outside."""
    row = commands.complete_request(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, site_id=body.site_id,
        wanted=body.wanted(),
    )  # fmt: skip
    return RequestOut.of(row)


@router.post("/requests/{request_id}/close", response=RequestOut, auth=Needs(Action.TAKE_REQUESTS))
def close_request(request: HttpRequest, request_id: Key, body: CloseIn) -> RequestOut:
    """End a request that needs no order."""
    row = commands.close_request(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, reason=body.reason
    )
    return RequestOut.of(row)


@router.post("/requests/{request_id}/join", response=RequestOut, auth=Needs(Action.TAKE_REQUESTS))
def join_requests(request: HttpRequest, request_id: Key, body: JoinIn) -> RequestOut:
    """Join a request into another one that is about the same."""
    row = commands.join_requests(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, into_id=body.into_id
    )
    return RequestOut.of(row)


@router.post("/requests/{request_id}/answer", response={201: None}, auth=Needs(Action.TAKE_REQUESTS))
def answer_request(request: HttpRequest, request_id: Key, body: AnswerIn) -> Status[None]:
    """Write back to who sent it."""
    commands.answer_request(actor=actor_of(request), now=clock.now(), request_id=request_id, text=body.text)
    return Status(201, None)


@router.post("/requests/{request_id}/notes", response={201: None}, auth=Needs(Action.TAKE_REQUESTS))
def note(request: HttpRequest, request_id: Key, body: NoteIn) -> Status[None]:
    """A note on a request."""
    queries.request(request_id)
    audit.note(actor=actor_of(request), now=clock.now(), entity="request", entity_id=request_id, text=body.text)
    return Status(201, None)


@router.get("/intake/mail", response=list[MailUnreadOut], auth=Needs(Action.SEE_ORDERS))
def unread_mail(request: HttpRequest) -> list[MailUnreadOut]:
    """E-mail that could not be read, and why; the newest first."""
    return [MailUnreadOut.of(row) for row in queries.unread_mail()]


@router.get("/intake/mail/{unread_id}", response={200: bytes}, auth=Needs(Action.TAKE_REQUESTS))
def raw_mail(request: HttpRequest, unread_id: Key) -> HttpResponse:
    """The e-mail as it came, to be read with another program."""
    row = queries.unread_mail_of(unread_id)
    answer = HttpResponse(mailbox().read_aside(row.key), content_type="application/octet-stream")
    answer["Content-Disposition"] = 'attachment; filename="message.eml"'
    return answer


@router.post("/intake/mail/{unread_id}/again", response=MailAgainOut, auth=Needs(Action.TAKE_REQUESTS))
def read_mail_again(request: HttpRequest, unread_id: Key) -> MailAgainOut:
    """Try once more to read an e-mail."""
    made = commands.read_again(actor=actor_of(request), now=clock.now(), mailbox=mailbox(), unread_id=unread_id)
    return MailAgainOut(request=made.number if made else None)


@router.post("/intake/mail/{unread_id}/settle", response={204: None}, auth=Needs(Action.TAKE_REQUESTS))
def settle_mail(request: HttpRequest, unread_id: Key) -> Status[None]:
    """Somebody has dealt with it."""
    commands.settle(actor=actor_of(request), now=clock.now(), unread_id=unread_id)
    return Status(204, None)


@router.get("/intake/form", response=FormOut, auth=None)
def form(request: HttpRequest) -> FormOut:
    """A public form to fill in; it counts once."""
    return FormOut(form=commands.new_form(now=clock.now()), company=company().name)


@router.post("/intake/form", response={201: FormTakenOut}, auth=None)
def send_form(request: HttpRequest, body: FormIn) -> Status[FormTakenOut]:
    """What somebody wrote on the public form."""
    row = commands.send_form(
        now=clock.now(), origin=client_network(request), trap=body.website, **body.dict(exclude={"website"})
    )
    return Status(201, FormTakenOut(number=row.number))


@router.post("/intake/alarms", response={201: AlarmTakenOut}, auth=None)
def alarm(request: HttpRequest, body: AlarmIn, authorization: Annotated[str, Header()] = "") -> Status[AlarmTakenOut]:
    """What a connected device reports, with "Authorization: Bearer <token>"."""
    device = device_named(authorization.removeprefix("Bearer ").strip())
    row, new = commands.receive_alarm(now=clock.now(), device=device, reading=body.reading())
    return Status(201, AlarmTakenOut(request=row.number, new=new))
