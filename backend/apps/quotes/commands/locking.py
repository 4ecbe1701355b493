"""A quote, locked as it was seen; and what every command says of what it did."""

from datetime import datetime
from typing import Any

from apps.quotes.models import Quote, QuoteVersion
from core.quotes import QuoteStep, after, may_be_edited
from foundation import audit, live
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected

_IN_WORDS = {
    QuoteStep.SEND: "sent", QuoteStep.REVISE: "revised", QuoteStep.WITHDRAW: "withdrawn",
    QuoteStep.APPROVE: "approved", QuoteStep.REFUSE: "refused", QuoteStep.EXPIRE: "expired",
}  # fmt: skip


def lock_quote(quote_id: int, version: int | None = None) -> Quote:
    """The quote, locked. Whoever saw another version than it has now is told so.

    Raises
    ------
    NotFound, Conflict
    """
    rows = Quote.objects.select_for_update(of=("self",)).select_related(
        "customer__payer", "site__area", "job_type", "extra_work_on", "request", "author"
    )
    found = rows.filter(pk=quote_id).first()
    if found is None:
        raise NotFound("There is no such quote.", code="no_quote")
    if version is not None and found.version != version:
        newest = audit.since("quote", quote_id, version)
        who = f"{newest[0].actor_name} was faster: {newest[0].sentence}." if newest else "It was changed meanwhile."
        raise Conflict(f"{who} Shown as it is now.", current_version=found.version)
    return found


def lock_version(nonce: str) -> QuoteVersion:
    """The version behind an address, with its quote locked.

    Raises
    ------
    NotFound
    """
    found = QuoteVersion.objects.filter(nonce=nonce).first()
    if found is None:
        raise NotFound("There is no quote at this address.", code="no_quote")
    found.quote = lock_quote(found.quote_id)
    found.refresh_from_db(fields=["revoked_at", "replaced_at", "first_seen_at", "seen_count"])
    return found


def take(quote: Quote, step: QuoteStep) -> None:
    """Let a quote go on by a step. Not saved.

    Raises
    ------
    Rejected
        When it cannot be taken from where the quote is.
    """
    state = after(quote.state_now, step, revising=quote.revising)
    if state is None:
        raise Rejected(f"{quote.number} is {quote.state}: it cannot be {_IN_WORDS[step]}.", code="wrong_state")
    quote.state = state


def check_editable(quote: Quote) -> None:
    """Raises Rejected for what was sent: a new version replaces it."""
    if not may_be_edited(quote.state_now, revising=quote.revising):
        raise Rejected(
            f"{quote.number} is {quote.state}: what was sent is never edited. Make a new version.", code="wrong_state"
        )


def tell(actor: Actor, now: datetime, quote: Quote, action: str, sentence: str, **changes: Any) -> None:
    """Into the audit trail, and to all screens."""
    audit.record(
        actor=actor, now=now, action=action, entity="quote", entity_id=quote.pk, version=quote.version,
        sentence=sentence, **changes,
    )  # fmt: skip
    live.announce("quote", ids=[quote.pk])
