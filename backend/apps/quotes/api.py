"""HTTP: quotes in the office."""

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from apps.accounts.letters import origin_of
from apps.board import commands as board
from apps.board.office_schemas import OfficeReminderIn, OfficeReminderOut
from apps.customers.schemas import NoteIn
from apps.orders.schemas import VersionIn
from apps.quotes import commands, queries, schemas
from apps.quotes.details import detail
from apps.quotes.presenting import quote_pdf
from core.roles import Action
from foundation import audit, clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.audit_schemas import EntriesOut
from foundation.pages import Cursor
from foundation.schemas import Key

router = Router()
SEE, MAKE, SEND = Needs(Action.SEE_ORDERS), Needs(Action.MAKE_QUOTES), Needs(Action.SEND_QUOTES)


def _shown(request: HttpRequest, quote_id: int) -> schemas.QuoteOut:
    return detail(quote_id, actor_of(request))


@router.post("/quotes/list", response=schemas.QuotesOut, auth=SEE)
def listed(request: HttpRequest, body: schemas.QuoteListIn) -> schemas.QuotesOut:
    """A page of quotes, with what each waits for, and sums per state. By POST, because filters can be many."""
    filters = body.filters.filters()
    page = queries.listed(filters, sort=body.sort, cursor=body.cursor)
    first = not body.cursor
    return schemas.QuotesOut(
        total=page.total, next=page.next, rows=[schemas.QuoteRowOut.of(row, page) for row in page.rows],
        sums=schemas.state_sums(queries.pipeline(filters)) if first else [],
        won=schemas.reasons_out(queries.reasons(filters, won=True)) if first else [],
        lost=schemas.reasons_out(queries.reasons(filters, won=False)) if first else [],
    )  # fmt: skip


@router.get("/quotes/of/customer/{int:customer_id}", response=list[schemas.QuoteRowOut], auth=SEE)
def of_customer(request: HttpRequest, customer_id: Key) -> list[schemas.QuoteRowOut]:
    """A customer's quotes, the newest first."""
    return [schemas.QuoteRowOut.of(row) for row in queries.quotes_of_customer(customer_id)]


@router.get("/quotes/of/order/{int:order_id}", response=list[schemas.QuoteRowOut], auth=SEE)
def of_order(request: HttpRequest, order_id: Key) -> list[schemas.QuoteRowOut]:
    """The quote an order came from, and those for more work on it."""
    return [schemas.QuoteRowOut.of(row) for row in queries.quotes_of_order(order_id)]


@router.post("/quotes", response={201: schemas.QuoteOut}, auth=MAKE)
def make(request: HttpRequest, body: schemas.QuoteNewIn) -> Status[schemas.QuoteOut]:
    """Begin a quote: for a customer or site, from a request, or for more work on an order."""
    row = commands.make_quote(actor=actor_of(request), now=clock.now(), new=body.new())
    return Status(201, _shown(request, row.pk))


@router.get("/quotes/{int:quote_id}", response=schemas.QuoteOut, auth=SEE)
def one(request: HttpRequest, quote_id: Key) -> schemas.QuoteOut:
    """All about a quote."""
    return _shown(request, quote_id)


@router.put("/quotes/{int:quote_id}", response=schemas.QuoteOut, auth=MAKE)
def change(request: HttpRequest, quote_id: Key, body: schemas.QuoteChangeIn) -> schemas.QuoteOut:
    """Change a draft."""
    actor = actor_of(request)
    fields = body.fields(sees_costs=may(actor, Action.SEE_MARGIN))
    commands.change_quote(actor=actor, now=clock.now(), quote_id=quote_id, version=body.version, fields=fields)
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/send", response=schemas.QuoteOut, auth=SEND)
def send(request: HttpRequest, quote_id: Key, body: schemas.QuoteSendIn) -> schemas.QuoteOut:
    """Freeze it and hand it to the customer."""
    commands.send_quote(
        actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version, how=body.how,
        email=body.email, origin=origin_of(request),
    )  # fmt: skip
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/revise", response=schemas.QuoteOut, auth=MAKE)
def revise(request: HttpRequest, quote_id: Key, body: VersionIn) -> schemas.QuoteOut:
    """Begin a new version of what was sent."""
    commands.revise(actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version)
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/withdraw", response=schemas.QuoteOut, auth=MAKE)
def withdraw(request: HttpRequest, quote_id: Key, body: schemas.WithdrawIn) -> schemas.QuoteOut:
    """Give it up, with the reason."""
    commands.withdraw(
        actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version, why=body.why, note=body.note
    )
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/revoke", response=schemas.QuoteOut, auth=SEND)
def revoke(request: HttpRequest, quote_id: Key, body: VersionIn) -> schemas.QuoteOut:
    """Let the address that was sent lead nowhere."""
    commands.revoke_address(actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version)
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/agree", response=schemas.QuoteOut, auth=Needs(Action.ALLOW_DISCOUNTS))
def agree(request: HttpRequest, quote_id: Key, body: VersionIn) -> schemas.QuoteOut:
    """Agree to the discount somebody else gave."""
    commands.agree_discount(actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version)
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/approve", response=schemas.QuoteOut, auth=SEND)
def approve_on_paper(request: HttpRequest, quote_id: Key, body: schemas.OnPaperIn) -> schemas.QuoteOut:
    """Note that the customer agreed by word or on paper: it becomes an order."""
    commands.approve_on_paper(
        actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version, option=body.option,
        ticked=body.ticked, name=body.name,
    )  # fmt: skip
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/order", response=schemas.QuoteOut, auth=Needs(Action.MAKE_ORDERS))
def make_order(request: HttpRequest, quote_id: Key, body: VersionIn) -> schemas.QuoteOut:
    """Make the order of one that was approved, where it could not be made at once."""
    commands.make_order_of(actor=actor_of(request), now=clock.now(), quote_id=quote_id, version=body.version)
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/surveys", response=schemas.QuoteOut, auth=MAKE)
def survey(request: HttpRequest, quote_id: Key, body: schemas.SurveyIn) -> schemas.QuoteOut:
    """Another visit to look at the place."""
    commands.ask_for_survey(
        actor=actor_of(request), now=clock.now(), quote_id=quote_id, what=body.what, minutes=body.minutes
    )
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/questions/{int:question_id}", response=schemas.QuoteOut, auth=SEND)
def answer(request: HttpRequest, quote_id: Key, question_id: Key, body: schemas.QuestionAnswerIn) -> schemas.QuoteOut:
    """Answer what the customer asked."""
    commands.answer_question(
        actor=actor_of(request), now=clock.now(), quote_id=quote_id, question_id=question_id, text=body.text
    )
    return _shown(request, quote_id)


@router.post("/quotes/{int:quote_id}/reminders", response={201: OfficeReminderOut}, auth=SEE)
def remind(request: HttpRequest, quote_id: Key, body: OfficeReminderIn) -> Status[OfficeReminderOut]:
    """Something to think of about a quote."""
    row = queries.quote(quote_id)
    made = board.think_of(
        actor=actor_of(request), now=clock.now(), account_id=body.account_id, at=body.at, text=body.text,
        about="quote", about_id=row.pk,
    )  # fmt: skip
    return Status(201, OfficeReminderOut.of(made))


@router.get("/quotes/{int:quote_id}/timeline", response=EntriesOut, auth=SEE)
def timeline(request: HttpRequest, quote_id: Key, cursor: Cursor = "") -> EntriesOut:
    """Everything that happened to it."""
    return EntriesOut.of(queries.timeline(queries.quote(quote_id).pk, cursor=cursor))


@router.post("/quotes/{int:quote_id}/notes", response={201: None}, auth=SEE)
def note(request: HttpRequest, quote_id: Key, body: NoteIn) -> Status[None]:
    """A note on a quote."""
    row = queries.quote(quote_id)
    audit.note(actor=actor_of(request), now=clock.now(), entity="quote", entity_id=row.pk, text=body.text)
    return Status(201, None)


@router.get("/quotes/{int:quote_id}/versions/{int:version_id}/pdf", response={200: bytes}, auth=SEE)
def pdf(request: HttpRequest, quote_id: Key, version_id: Key) -> HttpResponse:
    """A version on paper, as the customer reads it."""
    row = queries.version_of(quote_id, version_id)
    answer = HttpResponse(quote_pdf(row), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{row.quote.number}-{row.number}.pdf"'
    return answer
