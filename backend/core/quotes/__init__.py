"""Quotes: what is offered, what can become of it, what a new version changes."""

from core.quotes.changes import Terms, changes
from core.quotes.deadlines import follow_up_day, is_over, last_day
from core.quotes.digest import digest
from core.quotes.offers import (
    MOST_OPTIONS,
    CannotBeChosen,
    Deposit,
    Option,
    chosen,
    most_given,
    what_is_missing,
)
from core.quotes.states import QuoteState, QuoteStep, after, may_be_edited, steps_from

__all__ = [
    "MOST_OPTIONS",
    "CannotBeChosen",
    "Deposit",
    "Option",
    "QuoteState",
    "QuoteStep",
    "Terms",
    "after",
    "changes",
    "chosen",
    "digest",
    "follow_up_day",
    "is_over",
    "last_day",
    "may_be_edited",
    "most_given",
    "steps_from",
    "what_is_missing",
]
