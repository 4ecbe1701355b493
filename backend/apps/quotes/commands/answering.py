"""What else the customer does at the address: looks, asks, refuses. And what we answer."""

from datetime import datetime

from django.db import transaction

from apps.board import commands as board
from apps.pricing.queries import today
from apps.quotes.commands.locking import lock_quote, lock_version, take, tell
from apps.quotes.events import QuoteAnswered, QuoteAsked
from apps.quotes.models import Answer, Question
from apps.quotes.queries import standing
from apps.quotes.reach import check_written_by
from core.quotes import QuoteStep
from core.roles import Action
from foundation import events
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected, TryAgain
from foundation.outside import Outside

# More than these wait for an answer only where a machine asks.
MOST_QUESTIONS = 10


@transaction.atomic
def mark_seen(*, now: datetime, nonce: str) -> None:
    """Somebody opened the address. The first time is told to its author."""
    version = lock_version(nonce)
    if version.revoked_at is not None:
        return
    first = version.first_seen_at is None
    version.first_seen_at = version.first_seen_at or now
    version.seen_count += 1
    version.save(update_fields=["first_seen_at", "seen_count"])
    if first:
        tell(Outside(name="the customer"), now, version.quote, "seen", f"opened version {version.number}")


@transaction.atomic
def refuse(*, now: datetime, nonce: str, name: str, why: str, note: str, address: str) -> Answer:
    """The customer says no, and why. Said again, nothing more happens.

    Raises
    ------
    NotFound, Conflict, Rejected
    """
    version = lock_version(nonce)
    quote = version.quote
    known = Answer.objects.filter(version=version, approved=False).first()
    if known is not None:
        return known
    if problem := standing(version, quote, day=today()):
        raise Conflict(problem, code="not_open")
    if not name.strip():
        raise Rejected("Write your name.", field="name")
    take(quote, QuoteStep.REFUSE)
    answer = Answer.objects.create(
        version=version, approved=False, at=now, name=name.strip()[:120], address=address, why=why.strip()[:60],
        note=note.strip()[:1000],
    )  # fmt: skip
    quote.closed_at, quote.revising, quote.chance = now, False, 0
    quote.why, quote.why_note = answer.why or "no reason given", answer.note[:300]
    quote.version += 1
    quote.save()
    tell(Outside(name=f"{answer.name} (customer)"), now, quote, "refuse", f"refused it: {quote.why}", note=answer.note)
    events.publish(QuoteAnswered(answer=answer, at=now))
    return answer


@transaction.atomic
def ask(*, now: datetime, nonce: str, name: str, text: str) -> Question:
    """A question about what stands at an address; it lands with the author, as something to think of today.

    Raises
    ------
    NotFound, Rejected
    TryAgain
        When so many wait that nobody can have asked them all.
    """
    version = lock_version(nonce)
    quote = version.quote
    if version.revoked_at is not None:
        raise Conflict("This quote was withdrawn. Call us if you have questions.", code="not_open")
    if len(text.strip()) < 3:
        raise Rejected("Write what you would like to know.", field="text")
    if not name.strip():
        raise Rejected("Write your name, so that we know who asks.", field="name")
    waiting = Question.objects.filter(version__quote=quote, answered_at=None)
    if waiting.count() >= MOST_QUESTIONS:
        raise TryAgain("Several of your questions wait for us already. Call us, please.", code="too_many", status=429)
    question = Question.objects.create(version=version, at=now, name=name.strip()[:120], text=text.strip()[:2000])
    tell(Outside(name=f"{question.name} (customer)"), now, quote, "ask", "asked a question", note=question.text)
    board.remind_person(
        account_id=quote.author_id, at=int(now.timestamp()), about="quote", about_id=quote.pk,
        text=f"{question.name} asks about {quote.number}: {question.text}"[:200], made_by=question.name,
    )  # fmt: skip
    events.publish(QuoteAsked(question=question, at=now))
    return question


@transaction.atomic
def answer_question(*, actor: Actor, now: datetime, quote_id: int, question_id: int, text: str) -> Question:
    """Write back to who asked; it stands at the address, and goes by e-mail where there is one.

    Raises
    ------
    NotFound, Rejected
    """
    quote = lock_quote(quote_id)
    check_written_by(actor, quote, Action.SEND_QUOTES)
    question = Question.objects.select_related("version").filter(pk=question_id, version__quote=quote).first()
    if question is None:
        raise NotFound("There is no such question.", code="no_question")
    if not text.strip():
        raise Rejected("Write an answer.", field="text")
    if question.answered_at is not None:
        raise Conflict(f"{question.answered_by} has answered already.", code="answered")
    question.answer, question.answered_at, question.answered_by = text.strip()[:2000], now, actor.name
    question.save()
    question.version.quote = quote
    tell(actor, now, quote, "answer", f"answered {question.name}", note=question.answer)
    events.publish(QuoteAsked(question=question, at=now))
    return question
