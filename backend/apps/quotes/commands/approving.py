"""The customer says yes: what was signed is kept for good, and becomes work."""

from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from apps.catalogue.filling import filled_in
from apps.intake import commands as intake
from apps.intake.models import Request
from apps.orders import commands as orders
from apps.orders.commands.creating import add_visit_to, create_order
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin, WorkOrder
from apps.pricing.commands import give_discounts
from apps.pricing.queries import today
from apps.quotes.commands.locking import lock_quote, lock_version, take, tell
from apps.quotes.commands.sending import discount_keys
from apps.quotes.events import QuoteAnswered
from apps.quotes.inputs import Approval
from apps.quotes.models import Answer, Quote, QuoteVersion
from apps.quotes.presenting import options, quote_pdf, total_of
from apps.quotes.queries import current_version, standing
from apps.quotes.reach import check_written_by
from core.orders import OrderState
from core.quotes import CannotBeChosen, QuoteStep, chosen, digest
from core.roles import Action
from foundation import events, files, jobs
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected
from foundation.outside import Outside

# The worker's task of that name is in tasks.py.
FILE_PAPER = "quotes.file_paper"
# A drawn signature is a small picture.
LARGEST_DRAWING = 90_000
_PNG = b"\x89PNG\r\n\x1a\n"


@transaction.atomic
def approve(*, now: datetime, nonce: str, approval: Approval) -> Answer:
    """The customer signs what stands at an address, without an account. Signed again with the same, nothing more
    happens.

    Raises
    ------
    NotFound
        When there is nothing at that address.
    Conflict
        When the quote cannot be approved any more, or is not what was read; the sentence is for the customer.
    Rejected
        When something is missing.
    """
    version = lock_version(nonce)
    quote = version.quote
    known = Answer.objects.filter(version=version).first()
    if known is not None and known.approved and _same(known, approval):
        return known
    if problem := standing(version, quote, day=today()):
        raise Conflict(problem, code="not_open")
    _check(version, approval)
    actor = Outside(name=f"{approval.name.strip()} (customer)")
    return _approve(actor, now, version, approval)


@transaction.atomic
def approve_on_paper(
    *, actor: Actor, now: datetime, quote_id: int, version: int, option: str, ticked: list[str], name: str
) -> Answer:
    """The customer agreed by word or on paper, and somebody of ours notes it; the paper is kept with its files.

    Raises
    ------
    Rejected, Conflict
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote, Action.SEND_QUOTES)
    sent = current_version(quote)
    if sent is None:
        raise Rejected(f"{quote.number} is {quote.state}: send it first.", code="wrong_state")
    sent.quote = quote
    if problem := standing(sent, quote, day=today()):
        raise Conflict(problem, code="not_open")
    if not name.strip():
        raise Rejected("Say who agreed.", field="name")
    approval = Approval(
        option=option, ticked=ticked, name=name, drawing=None, digest=sent.digest,
        gross=_gross(sent, option, ticked), accepts_terms=True, address=f"noted by {actor.name}"[:60], at=now,
    )  # fmt: skip
    return _approve(actor, now, sent, approval)


def _gross(version: QuoteVersion, option: str, ticked: list[str]) -> int:
    try:
        return total_of(version, option, ticked).totals.gross
    except CannotBeChosen as error:
        raise Rejected(str(error), field="option") from error


def _check(version: QuoteVersion, approval: Approval) -> None:
    """What was signed is what was read, to the cent."""
    if approval.digest != version.digest:
        raise Conflict("This quote has changed since you opened it. Load the page again.", code="changed")
    if not approval.name.strip():
        raise Rejected("Write your name.", field="name")
    if not approval.accepts_terms:
        raise Rejected("Accept the terms first.", field="accepts_terms")
    gross = _gross(version, approval.option, list(approval.ticked))
    if gross != approval.gross:
        raise Conflict("The total is another one than was shown. Load the page again.", code="other_total")
    drawing = approval.drawing
    if drawing is not None and (not drawing.startswith(_PNG) or len(drawing) > LARGEST_DRAWING):
        raise Rejected("The signature could not be read. Sign again, or write your name only.", field="drawing")


def _same(known: Answer, approval: Approval) -> bool:
    return (known.signed.get("option"), known.signed.get("ticked"), known.name) == (
        approval.option, sorted(approval.ticked), approval.name.strip(),
    )  # fmt: skip


def _approve(actor: Actor, now: datetime, version: QuoteVersion, approval: Approval) -> Answer:
    quote = version.quote
    take(quote, QuoteStep.APPROVE)
    signed = {
        "quote": quote.number, "version": version.number, "version_digest": version.digest,
        "option": approval.option, "ticked": sorted(approval.ticked), "gross": approval.gross,
        "name": approval.name.strip(), "address": approval.address, "at": int(now.timestamp()),
        "drawn": approval.drawing is not None,
    }  # fmt: skip
    answer = Answer.objects.create(
        version=version, approved=True, at=now, name=approval.name.strip()[:120], address=approval.address,
        signed=signed, drawing=approval.drawing, digest=digest(signed),
    )  # fmt: skip
    found = total_of(version, approval.option, approval.ticked).totals
    quote.net, quote.gross, quote.chance = found.net, found.gross, 100
    quote.closed_at, quote.why, quote.revising = now, "", False
    quote.version += 1
    give_discounts(discount_keys({"options": [_option(version, approval.option)]}))
    tell(actor, now, quote, "approve", f"approved version {version.number}", digest=answer.digest, gross=found.gross)
    _become_work(actor, now, quote, version, answer)
    quote.save()
    jobs.after_commit(FILE_PAPER, lock=f"{FILE_PAPER} {answer.pk}", answer_id=answer.pk)
    events.publish(QuoteAnswered(answer=answer, at=now))
    return answer


def _become_work(actor: Actor, now: datetime, quote: Quote, version: QuoteVersion, answer: Answer) -> None:
    """The order; where something stands in its way that is no matter of the customer's, the approval holds all the
    same, and the office makes the order."""
    try:
        with transaction.atomic():
            quote.order = _order(actor, now, quote, version, answer)
    except Rejected as error:
        quote.why_note = f"No order yet: {error.sentence}"[:300]
        tell(actor, now, quote, "no order", quote.why_note)


@transaction.atomic
def make_order_of(*, actor: Actor, now: datetime, quote_id: int, version: int) -> Quote:
    """Make the order of a quote that was approved, where that could not be done at once.

    Raises
    ------
    Rejected
        When it was not approved, has its order, or something is still missing.
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote, Action.MAKE_ORDERS)
    answer = Answer.objects.select_related("version").filter(version__quote=quote, approved=True).first()
    if answer is None or quote.order_id is not None:
        raise Rejected("There is no order to make of it.", code="wrong_state")
    quote.order = _order(actor, now, quote, answer.version, answer)
    quote.why_note = ""
    quote.version += 1
    quote.save()
    tell(actor, now, quote, "order", f"made {quote.order.number} of it")
    return quote


def _option(version: QuoteVersion, key: str) -> dict[str, Any]:
    return next(dict(option) for option in version.draft["options"] if option["key"] == key)


def _agreed_lines(quote: Quote, version: QuoteVersion, answer: Answer) -> list[dict[str, Any]]:
    """The lines that were bought, at the prices that were signed; no later list reaches them."""
    key, ticked = answer.signed["option"], set(answer.signed["ticked"])
    bought = {line.key for line in chosen(options(version), key, ticked).bought(ticked)}
    return [
        {**row, "optional": False, "chosen": False, "typed": True, "source": f"quote {quote.number}"}
        for row in _option(version, key)["lines"]
        if row["key"] in bought
    ]


def _order(actor: Actor, now: datetime, quote: Quote, version: QuoteVersion, answer: Answer) -> WorkOrder:
    option = _option(version, answer.signed["option"])
    lines = _agreed_lines(quote, version, answer)
    discounts = [{**row, "valid_until": None} for row in option["discounts"]]
    if quote.extra_work_on_id is not None:
        return _extra_work(actor, now, quote, option, lines, discounts)
    assert quote.site is not None
    request = _open_request(quote.request_id)
    job, more = quote.job_type, request.details if request else {}
    work = filled_in(job, since=now, duration_seconds=option["duration_seconds"], crew=option["crew"])
    several = len(version.content["options"]) > 1 and option["name"]
    fields = OrderFields(**{
        "source": request.source if request else "", **more,
        "title": f"{quote.title}: {option['name']}"[:160] if several else quote.title,
        "description": "\n".join(filter(None, [version.content["scope"], option["summary"]])),
        "asset_id": quote.asset_id, "payer_id": quote.customer.payer_id,
        "payer_address": quote.customer.payer_address, "contact_name": quote.contact_name,
        "contact_phone": quote.contact_phone, "priority": request.priority if request else work.priority,
        "technician_note": quote.content.get("technician_note", ""),
    })  # fmt: skip
    made = create_order(
        actor=actor, now=now, sentence=f"made the order from {quote.number}",
        new=NewOrder(
            origin=Origin.QUOTE, customer=quote.customer, site=quote.site, job_type=job, fields=fields, work=work,
            request=request, lines=lines, discounts=discounts,
            promise=(request.promise_start, request.promise_end) if request else (None, None),
        ),
    )  # fmt: skip
    if request is not None:
        intake.mark_ordered(actor=actor, now=now, request=request, order_id=made.pk)
    files.carry_over(("quote", quote.pk), to=("order", made.pk))
    return made


def _open_request(request_id: int | None) -> Request | None:
    """The request it came from, if no order was made of it otherwise; locked."""
    if request_id is None:
        return None
    return Request.objects.select_for_update().filter(pk=request_id, state="new").first()


def _extra_work(
    actor: Actor, now: datetime, quote: Quote, option: dict[str, Any], lines: list[dict[str, Any]],
    discounts: list[dict[str, Any]],
) -> WorkOrder:  # fmt: skip
    """More lines and another visit for an order that is still open."""
    orders_there = WorkOrder.objects.select_for_update(of=("self",)).select_related("site__area", "customer", "edition")
    order = orders_there.get(pk=quote.extra_work_on_id or 0)
    if OrderState(order.state) in (OrderState.BILLED, OrderState.CANCELLED):
        raise Rejected(f"{order.number} is {order.state}: make an order of its own.", code="wrong_state")
    needs = quote.job_type.needs if quote.job_type else {}
    add_visit_to(
        order, title=quote.title[:120], seconds=option["duration_seconds"], needs=needs, crew=option["crew"] or 1
    )
    orders.follow(order.pk)
    orders.add_lines(
        actor=actor, now=now, order=order, lines=lines, discounts=discounts,
        sentence=f"added the work of {quote.number}",
    )  # fmt: skip
    return order


def file_paper(*, now: datetime, answer_id: int) -> bool:
    """Keep what was signed as a PDF with the quote; done once, however often it is asked for."""
    answer = Answer.objects.select_related("version__quote").filter(pk=answer_id).first()
    if answer is None:
        raise NotFound("There is no such answer (yet).", code="no_answer")
    if answer.paper_id is not None:
        return False
    content = quote_pdf(answer.version, answer)  # outside the transaction: it takes a second
    with transaction.atomic():
        locked = Answer.objects.select_for_update().get(pk=answer_id)
        if locked.paper_id is not None:
            return False
        quote = answer.version.quote
        locked.paper = files.keep(
            actor=Outside(name=answer.name), now=now, record="quote", record_id=quote.pk,
            name=f"{quote.number}-{answer.version.number}-signed.pdf", content=content, media_type="application/pdf",
        )  # fmt: skip
        locked.save(update_fields=["paper"])
    return True


def file_missing_papers(*, now: datetime) -> int:
    """Ask once more for papers whose job was lost on its way; how many."""
    late = Answer.objects.filter(
        approved=True, paper=None, at__lt=now - timedelta(minutes=5), at__gt=now - timedelta(days=2)
    )
    keys = list(late.order_by("pk").values_list("pk", flat=True)[:50])
    for key in keys:
        jobs.after_commit(FILE_PAPER, lock=f"{FILE_PAPER} {key}", answer_id=key)
    return len(keys)
