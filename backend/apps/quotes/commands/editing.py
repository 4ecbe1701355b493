"""Writing quotes."""

from datetime import datetime
from decimal import Decimal
from typing import Any

from django.db import transaction

from apps.catalogue.models import JobType
from apps.company.numbers import take_number
from apps.company.queries import settings
from apps.customers import queries as customers
from apps.intake.models import Request
from apps.orders.models import Visit, WorkOrder
from apps.orders.work import title_of
from apps.pricing.documents import line_fields
from apps.quotes import content as contents
from apps.quotes.commands.locking import check_editable, lock_quote, take, tell
from apps.quotes.inputs import ContentFields, NewQuote, OptionFields, QuoteFields
from apps.quotes.models import Quote
from apps.quotes.queries import buyer_of, files_at_hand
from apps.quotes.reach import check_at_visit, check_written_by
from core.quotes import QuoteStep, most_given
from core.roles import Action
from foundation import files
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

CHANCE = 50


@transaction.atomic
def make_quote(*, actor: Actor, now: datetime, new: NewQuote) -> Quote:
    """A draft for a customer, carrying over what is known from a request, an order or a visit; with the lines of its
    job type.

    Raises
    ------
    Rejected
        When nobody knows for whom it is.
    """
    quote = _begun(new)
    if quote.visit is not None:
        check_at_visit(actor, quote.visit)
    else:
        require(actor, Action.MAKE_QUOTES)
    quote.author_id, quote.made_at = actor.id, now
    own = settings()
    scope = new.scope.strip() or (quote.request.what_is_wrong if quote.request else "")
    terms = quote.job_type.terms if quote.job_type and quote.job_type.terms else own.quote_terms
    fields = ContentFields(
        scope=scope, introduction=own.quote_introduction, closing=own.quote_closing, terms=terms,
        days=own.quote_days, deposit_percent=Decimal(own.quote_deposit), options=[_first_option(quote)],
    )  # fmt: skip
    quote.content = contents.kept(fields, buyer_of(quote))
    _count(quote)
    quote.title = new.title.strip() or title_of(quote.job_type, scope or "Quote")
    quote.number = take_number("quote", now=now)
    quote.save()
    for kind, key in (("request", quote.request_id), ("order", quote.extra_work_on_id)):
        if key is not None:
            files.carry_over((kind, key), to=("quote", quote.pk))
    tell(actor, now, quote, "make", f"began the quote{_from(quote)}")
    return quote


def _begun(new: NewQuote) -> Quote:
    """For whom and where: as it is said, else as it is with what the quote begins with."""
    visit = _one(Visit.objects.select_related("order__customer", "order__site"), new.visit_id, "visit")
    order = visit.order if visit else _one(WorkOrder.objects.select_related("customer"), new.order_id, "order")
    request = _one(Request.objects.select_related("customer"), new.request_id, "request")
    job = _one(JobType.objects.filter(retired=False), new.job_type_id, "job type")
    source = order or request
    site_id = new.site_id or (source.site_id if source else None)
    site = customers.site(site_id) if site_id is not None else None
    customer_id = site.customer_id if site else new.customer_id or (source.customer_id if source else None)
    if customer_id is None:
        raise Rejected("Say first for which customer it is.", field="customer_id", code="missing")
    asset_id = new.asset_id or (source.asset_id if source else None)
    if asset_id is not None and site is not None:
        customers.asset_at(site, asset_id)
    customer = customers.customer(customer_id)
    who = order or request
    return Quote(
        customer=customer, site=site, asset_id=asset_id, request=request, visit=visit, extra_work_on=order,
        job_type=job or (request.job_type if request else None), chance=CHANCE,
        contact_name=(who.contact_name if who else "") or "", contact_email=customer.email,
        contact_phone=(who.contact_phone if who else "") or customer.phone,
    )  # fmt: skip


def _one(rows: Any, key: int | None, what: str) -> Any:
    if key is None:
        return None
    found = rows.filter(pk=key).first()
    if found is None:
        raise NotFound(f"There is no such {what} (any more).", code=f"no_{what.replace(' ', '_')}")
    return found


def _first_option(quote: Quote) -> OptionFields:
    """As the job type has it."""
    job = quote.job_type
    if job is None:
        return OptionFields(key="a")
    return OptionFields(
        key="a", name=job.name, lines=[line_fields(row, number) for number, row in enumerate(job.lines)],
        duration_seconds=job.duration_seconds, crew=job.crew,
    )  # fmt: skip


def _from(quote: Quote) -> str:
    if quote.visit is not None:
        return f" during {quote.visit.label}"
    source = quote.request or quote.extra_work_on
    return f" from {source.number}" if source else ""


@transaction.atomic
def change_quote(*, actor: Actor, now: datetime, quote_id: int, version: int, fields: QuoteFields) -> Quote:
    """Change a draft, or the version that is to replace one that was sent. Prices that nobody typed are looked up anew.

    Raises
    ------
    Conflict
        When it was changed since it was seen.
    Rejected
        When it was sent, or something cannot be; with the field.
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote)
    check_editable(quote)
    before = dict(quote.content)
    _write(quote, fields)
    quote.content = contents.kept(fields.content, buyer_of(quote), before=before)
    if foreign := set(fields.content.pictures) - files_at_hand(quote.pk):
        raise Rejected(f"File {sorted(foreign)[0]} is not a file of this quote, nor of its surveys.", field="pictures")
    _count(quote)
    if quote.given > quote.agreed:
        quote.agreed, quote.agreed_by = 0, ""
    quote.version += 1
    quote.save()
    changed = sorted(name for name, value in quote.content.items() if before.get(name) != value)
    tell(actor, now, quote, "change", f"changed {', '.join(changed) or 'its details'}"[:300])
    return quote


def _write(quote: Quote, fields: QuoteFields) -> None:
    if not fields.title.strip():
        raise Rejected("A quote needs a title.", field="title")
    if not 0 <= fields.chance <= 100:
        raise Rejected("A chance is 0 to 100 percent.", field="chance")
    if fields.contact_email and "@" not in fields.contact_email:
        raise Rejected("This is no e-mail address.", field="contact_email")
    site = customers.site(fields.site_id) if fields.site_id is not None else None
    if site is not None and site.customer_id != quote.customer_id:
        raise Rejected("This site belongs to another customer.", field="site_id")
    if fields.asset_id is not None:
        if site is None:
            raise Rejected("Choose the site first.", field="site_id")
        customers.asset_at(site, fields.asset_id)
    quote.site, quote.asset_id, quote.job_type_id = site, fields.asset_id, fields.job_type_id
    if fields.job_type_id is not None and not JobType.objects.filter(pk=fields.job_type_id).exists():
        raise Rejected("There is no such job type (any more).", field="job_type_id")
    if not fields.extra_work:
        quote.extra_work_on = None
    quote.title, quote.note, quote.chance = fields.title.strip(), fields.note.strip(), fields.chance
    quote.contact_name, quote.contact_email = fields.contact_name.strip(), fields.contact_email.strip()
    quote.contact_phone = fields.contact_phone.strip()


def _count(quote: Quote) -> None:
    """What lists show: the first way to do it, and the highest discount of all."""
    options = contents.options_of(quote.content, buyer_of(quote))
    found = options[0].totals() if options else None
    quote.net, quote.gross = (found.net, found.gross) if found else (0, 0)
    quote.given = most_given(options)


@transaction.atomic
def revise(*, actor: Actor, now: datetime, quote_id: int, version: int) -> Quote:
    """Begin a new version of what was sent, refused, expired or withdrawn; prices that nobody typed are today's.

    The one that was sent can still be approved until the new one is sent.
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote)
    take(quote, QuoteStep.REVISE)
    quote.revising = quote.state == "sent"
    quote.content = contents.kept(contents.typed(quote.content), buyer_of(quote), before=quote.content)
    _count(quote)
    quote.closed_at, quote.why, quote.why_note = None, "", ""
    quote.version += 1
    quote.save()
    tell(actor, now, quote, "revise", "began a new version")
    return quote
