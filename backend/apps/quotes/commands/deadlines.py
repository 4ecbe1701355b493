"""What happens to quotes by itself: they run out, and their author is reminded to ask."""

from datetime import datetime, time

from django.db import transaction

from apps.board import commands as board
from apps.board.models import Reminder
from apps.company.queries import settings, time_zone
from apps.pricing.queries import day_of
from apps.quotes.commands.locking import lock_quote, take, tell
from apps.quotes.models import Quote
from core.calendars import epoch
from core.quotes import QuoteState, QuoteStep, follow_up_day, is_over
from foundation.outside import Outside

_CLOCK = Outside(name="the calendar")
# Reminders that come by themselves begin like this; who was reminded once is not reminded again.
FOLLOW_UP = "Ask"
# So many are done in one go; the next comes within minutes.
AT_ONCE = 200


def expire_overdue(*, now: datetime) -> int:
    """Let quotes expire whose last day is over; how many. Safe to run twice."""
    day, count = day_of(now), 0
    overdue = Quote.objects.filter(state=QuoteState.SENT, valid_until__lt=day).order_by("pk")
    for key in overdue.values_list("pk", flat=True)[:AT_ONCE]:
        count += _expire(now, key)
    return count


@transaction.atomic
def _expire(now: datetime, quote_id: int) -> bool:
    quote = lock_quote(quote_id)
    if quote.state != QuoteState.SENT or quote.valid_until is None or not is_over(quote.valid_until, day_of(now)):
        return False
    take(quote, QuoteStep.EXPIRE)
    quote.closed_at, quote.why, quote.revising = now, "expired", False
    quote.version += 1
    quote.save()
    tell(_CLOCK, now, quote, "expire", "let it expire: nobody answered in time")
    return True


def follow_up(*, now: datetime) -> int:
    """Remind authors to ask about what they sent some days ago; how many reminders. Safe to run twice."""
    days, day = settings().quote_follow_up_days, day_of(now)
    if not days:
        return 0
    known = Reminder.objects.filter(about="quote", text__startswith=FOLLOW_UP).values("about_id")
    waiting = Quote.objects.filter(state=QuoteState.SENT, sent_at__lt=now, valid_until__gte=day).exclude(pk__in=known)
    count = 0
    for quote in waiting.select_related("customer").order_by("pk")[:AT_ONCE]:
        if quote.sent_at is None or quote.valid_until is None:
            continue
        due = follow_up_day(day_of(quote.sent_at), days, quote.valid_until)
        if due is not None and due <= day:
            count += _remind(now, quote)
    return count


@transaction.atomic
def _remind(now: datetime, quote: Quote) -> bool:
    locked = lock_quote(quote.pk)
    known = Reminder.objects.filter(about="quote", about_id=quote.pk, text__startswith=FOLLOW_UP)
    if locked.state != QuoteState.SENT or known.exists():
        return False
    name = locked.contact_name or locked.customer.name
    board.remind_person(
        account_id=locked.author_id, at=epoch(day_of(now), time(9), time_zone()), about="quote",
        about_id=locked.pk, text=f"{FOLLOW_UP} {name} about {locked.number} “{locked.title}”"[:200],
        made_by="the calendar",
    )  # fmt: skip
    return True
