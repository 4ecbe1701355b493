"""Until when a quote holds, and when to ask again."""

from datetime import date, timedelta


def last_day(sent: date, days: int) -> date:
    """The last day on which it can be approved; sent today for one day, it is tomorrow."""
    return sent + timedelta(days=days)


def is_over(valid_until: date, today: date) -> bool:
    return today > valid_until


def follow_up_day(sent: date, days: int, valid_until: date) -> date | None:
    """When to ask the customer again; None: never, or it would be after the quote has run out."""
    if days <= 0:
        return None
    day = sent + timedelta(days=days)
    return None if day > valid_until else day
