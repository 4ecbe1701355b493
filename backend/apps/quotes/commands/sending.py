"""Showing a quote to the customer: what is shown is frozen."""

import secrets
from datetime import date, datetime
from typing import Any

from django.db import transaction

from apps.company.queries import company
from apps.pricing import commands as pricing
from apps.pricing.limits import discount_limit
from apps.pricing.models import NamedDiscount
from apps.pricing.queries import today
from apps.quotes.commands.locking import check_editable, lock_quote, take, tell
from apps.quotes.content import Letterhead, deposit_of, frozen_content, options_of
from apps.quotes.events import QuoteSent
from apps.quotes.models import Quote, QuoteVersion
from apps.quotes.presenting import money_words
from apps.quotes.queries import buyer_of
from apps.quotes.reach import check_written_by, discount_problem
from core.pricing import Document, totals
from core.quotes import QuoteState, QuoteStep, Terms, changes, digest, last_day, most_given, what_is_missing
from core.roles import Action
from foundation import events
from foundation.actors import Actor, require
from foundation.errors import Rejected


@transaction.atomic
def send_quote(
    *, actor: Actor, now: datetime, quote_id: int, version: int, how: str, email: str = "", origin: str = ""
) -> QuoteVersion:
    """Freeze a draft and hand it to the customer: by e-mail, on a screen that is turned to them, or on paper.

    A version that was sent before is replaced: it can no longer be approved.

    Parameters
    ----------
    origin
        Where the application is, like https://relay.example: what the e-mail leads to.

    Raises
    ------
    Rejected
        When something is missing, or more is taken off than the actor may give and nobody has agreed.
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote, Action.SEND_QUOTES)
    check_editable(quote)
    email = (email or quote.contact_email).strip()
    if how == "e-mail" and "@" not in email:
        raise Rejected("Say to which e-mail address.", field="email")
    if quote.site is None:
        raise Rejected("Say first for which site it is: there the work will be.", field="site_id")
    day = today()
    made = _frozen(actor, now, quote, day, how, email)
    _check_ready(actor, quote, day)
    before = quote.versions.order_by("-number").first()
    made.changes = _changes(before, made, quote) if before else []
    take(quote, QuoteStep.SEND)
    quote.revising, quote.sent_at, quote.valid_until = False, now, made.valid_until
    quote.closed_at, quote.why, quote.why_note = None, "", ""
    quote.contact_email = email or quote.contact_email
    quote.version += 1
    quote.save()
    quote.versions.filter(replaced_at=None).update(replaced_at=now)
    made.save()
    words = {
        "e-mail": f"sent version {made.number} to {email}",
        "shown": f"showed version {made.number} to the customer",
        "on paper": f"handed over version {made.number} on paper",
    }[how]
    tell(actor, now, quote, "send", words, gross=quote.gross)
    if how == "e-mail":
        events.publish(QuoteSent(version=made, origin=origin, at=now))
    return made


def _check_ready(actor: Actor, quote: Quote, day: date) -> None:
    options = options_of(quote.content, buyer_of(quote))
    missing = what_is_missing(options)
    rows = [row for option in quote.content["options"] for row in option["lines"]]
    missing += [f"“{row['wording']}” has no price." for row in rows if row["price"] is None]
    if missing:
        raise Rejected(missing[0], code="not_ready", field="options", reasons=missing)
    quote.given = most_given(options)
    found = options[0].totals()
    quote.net, quote.gross = found.net, found.gross
    if problem := discount_problem(actor, quote):
        raise Rejected(problem, code="discount_limit", field="discounts")
    for row in NamedDiscount.objects.filter(key__in=discount_keys(quote.content)).order_by("pk"):
        if problem := pricing.problem_of(row, day):
            raise Rejected(problem, code="discount_over", field="discounts")


def discount_keys(content: dict[str, Any]) -> set[str]:
    """The company's discounts that any of the options has."""
    found = set()
    for option in content["options"]:
        on_lines = [row["discount"] for row in option["lines"] if row.get("discount")]
        found |= {one["key"] for one in (*on_lines, *option["discounts"]) if one.get("key")}
    return found


def _frozen(actor: Actor, now: datetime, quote: Quote, day: date, how: str, email: str) -> QuoteVersion:
    buyer = buyer_of(quote)
    last = quote.versions.order_by("-number").values_list("number", flat=True).first() or 0
    valid_until = last_day(day, int(quote.content["days"]))
    ours, site = company(), quote.site
    head = Letterhead(
        number=quote.number, version=last + 1, title=quote.title, day=day, valid_until=valid_until,
        currency=ours.currency,
        company={
            "name": ours.name, "address": ours.address, "phone": ours.phone, "email": ours.email,
            "tax_number": ours.tax_number,
        },
        customer=quote.customer.name, contact=quote.contact_name, site=site.name if site else "",
        address=site.address if site else "", equipment=quote.asset.words if quote.asset else "", author=actor.name,
        with_tax=buyer.terms is None or buyer.terms.reads_with_tax,
    )  # fmt: skip
    content = frozen_content(quote.content, buyer, head)
    return QuoteVersion(
        quote=quote, number=last + 1, content=content, draft=quote.content, digest=digest(content), how=how,
        email=email if how == "e-mail" else "", sent_at=now, sent_by=actor.name, valid_until=valid_until,
        nonce=secrets.token_urlsafe(24),
    )  # fmt: skip


def _changes(before: QuoteVersion, after: QuoteVersion, quote: Quote) -> list[str]:
    buyer, currency = buyer_of(quote), after.content["currency"]
    one, two = options_of(before.content, buyer), options_of(after.content, buyer)
    return changes(
        one, two, money=lambda amount: money_words(amount, currency),
        terms=(_terms(before), _terms(after)),
    )  # fmt: skip


def _terms(version: QuoteVersion) -> Terms:
    content = version.content
    options = options_of(content, buyer_of(version.quote))
    gross = totals(Document(lines=options[0].lines, discounts=options[0].discounts)).gross if options else 0
    texts = tuple((name, content[name]) for name in ("scope", "terms"))
    return Terms(valid_until=version.valid_until, deposit=deposit_of(content).of(gross), texts=texts)


@transaction.atomic
def agree_discount(*, actor: Actor, now: datetime, quote_id: int, version: int) -> Quote:
    """Agree to what somebody took off a quote, as far as it goes now; for more they have to ask again.

    Raises
    ------
    Rejected
        When nothing is to be agreed to, or it is more than the actor may give.
    """
    require(actor, Action.ALLOW_DISCOUNTS)
    quote = lock_quote(quote_id, version)
    limit = discount_limit(actor)
    if quote.given > limit:
        raise Rejected(f"It takes {quote.given} % off; you agree to {limit} % at most.", code="discount_limit")
    if quote.given <= quote.agreed:
        raise Rejected("That was agreed to already.", code="agreed")
    quote.agreed, quote.agreed_by = quote.given, actor.name
    quote.version += 1
    quote.save(update_fields=["agreed", "agreed_by", "version"])
    tell(actor, now, quote, "agree", f"agreed to {quote.given} % off")
    return quote


@transaction.atomic
def revoke_address(*, actor: Actor, now: datetime, quote_id: int, version: int) -> Quote:
    """Let the address of what was sent lead nowhere: it went to the wrong person. The quote can be sent again.

    Raises
    ------
    Rejected
        When nothing is out.
    """
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote, Action.SEND_QUOTES)
    out = quote.versions.filter(revoked_at=None, replaced_at=None)
    if quote.state != QuoteState.SENT or not out.update(revoked_at=now):
        raise Rejected("There is no address that leads to it.", code="no_address")
    quote.revising = True
    quote.version += 1
    quote.save(update_fields=["revising", "version"])
    tell(actor, now, quote, "revoke", "took the address of what was sent back")
    return quote


@transaction.atomic
def withdraw(*, actor: Actor, now: datetime, quote_id: int, version: int, why: str, note: str = "") -> Quote:
    """Give a quote up; it can no longer be approved. `why`: for the list of what was lost."""
    quote = lock_quote(quote_id, version)
    check_written_by(actor, quote, Action.SEND_QUOTES if quote.state == QuoteState.SENT else Action.MAKE_QUOTES)
    if not why.strip():
        raise Rejected("Say why.", field="why")
    take(quote, QuoteStep.WITHDRAW)
    quote.revising, quote.closed_at, quote.why, quote.why_note = False, now, why.strip()[:60], note.strip()[:300]
    quote.version += 1
    quote.save()
    tell(actor, now, quote, "withdraw", f"withdrew the quote: {quote.why}", note=quote.why_note)
    return quote
