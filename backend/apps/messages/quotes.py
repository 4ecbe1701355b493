"""What customers are told about quotes. Who got one by e-mail hears by e-mail."""

from apps.company.queries import company
from apps.messages.commands import write
from apps.messages.drafts import Draft
from apps.quotes.events import QuoteAnswered, QuoteAsked, QuoteSent
from apps.quotes.models import Quote, QuoteVersion
from core.calendars import day_words


def on_sent(event: QuoteSent) -> None:
    """The address at which a quote is read, and until when it can be approved."""
    version = event.version
    quote = version.quote
    until = day_words(version.valid_until, weekday=False, year=True)
    newer = "a new version of our quote" if version.number > 1 else "our quote"
    text = (
        f"{company().name}: {newer} {quote.number}, “{quote.title}”. Read it, ask us, and approve it here until "
        f"{until}:\n{event.origin}/quote/{version.nonce}"
    )
    write(_letter(quote, version.email, text), now=event.at)


def on_answered(event: QuoteAnswered) -> None:
    """Thanks for what was agreed, and what comes next; with the fingerprint of what was signed."""
    answer, version = event.answer, event.answer.version
    quote = version.quote
    if not answer.approved or not (email := _email(version)):
        return
    text = (
        f"{company().name}: thank you, {answer.name}. You approved our quote {quote.number}, “{quote.title}”. "
        f"We call you to agree on a time. What you signed can be read at the address we sent you; its fingerprint is "
        f"{answer.digest}."
    )
    write(_letter(quote, email, text), now=event.at)


def on_asked(event: QuoteAsked) -> None:
    """The answer to a question; the question itself is the author's to answer."""
    question = event.question
    if question.answered_at is None or not (email := _email(question.version)):
        return
    quote = question.version.quote
    text = f"{company().name}, about our quote {quote.number}: you asked “{question.text}”\n\n{question.answer}"
    write(_letter(quote, email, text), now=event.at)


def _email(version: QuoteVersion) -> str:
    return version.email or version.quote.contact_email


def _letter(quote: Quote, email: str, text: str) -> Draft:
    name = quote.contact_name or quote.customer.name
    return Draft(kind="customer", channel="e-mail", name=name[:160], address=email, text=text, quote=quote)
