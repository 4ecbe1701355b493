"""HTTP: quotes that are written in the field, by whoever is at the visit."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.orders import queries as orders
from apps.orders.schemas import VersionIn
from apps.quotes import commands, queries, schemas
from apps.quotes.details import detail
from apps.quotes.reach import check_at_visit, check_written_by
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.schemas import Key

router = Router()
FIELD = Needs(Action.WORK_IN_FIELD)


@router.get("/field/visits/{int:visit_id}/quotes", response=list[schemas.QuoteRowOut], auth=FIELD)
def at_visit(request: HttpRequest, visit_id: Key) -> list[schemas.QuoteRowOut]:
    """Quotes that were written during a visit."""
    actor = actor_of(request)
    check_at_visit(actor, orders.visit(visit_id))
    return [schemas.QuoteRowOut.of(row) for row in queries.quotes_at_visit(visit_id) if row.author_id == actor.id]


@router.post("/field/visits/{int:visit_id}/quotes", response={201: schemas.QuoteOut}, auth=FIELD)
def make(request: HttpRequest, visit_id: Key, body: schemas.QuoteNewIn) -> Status[schemas.QuoteOut]:
    """Begin a quote for more work where one is."""
    actor = actor_of(request)
    row = commands.make_quote(actor=actor, now=clock.now(), new=body.new(visit_id=visit_id))
    return Status(201, detail(row.pk, actor))


@router.get("/field/quotes/{int:quote_id}", response=schemas.QuoteOut, auth=FIELD)
def one(request: HttpRequest, quote_id: Key) -> schemas.QuoteOut:
    """A quote of one's own."""
    actor = actor_of(request)
    check_written_by(actor, queries.quote(quote_id))
    return detail(quote_id, actor)


@router.put("/field/quotes/{int:quote_id}", response=schemas.QuoteOut, auth=FIELD)
def change(request: HttpRequest, quote_id: Key, body: schemas.QuoteChangeIn) -> schemas.QuoteOut:
    """Change a draft of one's own."""
    actor = actor_of(request)
    fields = body.fields(sees_costs=may(actor, Action.SEE_MARGIN))
    commands.change_quote(actor=actor, now=clock.now(), quote_id=quote_id, version=body.version, fields=fields)
    return detail(quote_id, actor)


@router.post("/field/quotes/{int:quote_id}/show", response=schemas.QuoteOut, auth=FIELD)
def show(request: HttpRequest, quote_id: Key, body: schemas.QuoteSendIn) -> schemas.QuoteOut:
    """Freeze it, to be read and signed on the screen that is turned to the customer."""
    actor = actor_of(request)
    commands.send_quote(
        actor=actor, now=clock.now(), quote_id=quote_id, version=body.version, how="shown", email=body.email
    )
    return detail(quote_id, actor)


@router.post("/field/quotes/{int:quote_id}/revise", response=schemas.QuoteOut, auth=FIELD)
def revise(request: HttpRequest, quote_id: Key, body: VersionIn) -> schemas.QuoteOut:
    """Begin a new version of one's own."""
    actor = actor_of(request)
    commands.revise(actor=actor, now=clock.now(), quote_id=quote_id, version=body.version)
    return detail(quote_id, actor)
