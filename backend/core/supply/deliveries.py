"""When what is ordered comes."""

from collections.abc import Collection
from datetime import date, timedelta

# Counted from Monday: nobody brings or takes in goods on a Saturday or Sunday.
_NOT_DELIVERED = (5, 6)


def delivery_day(ordered: date, days: int, *, holidays: Collection[date] = ()) -> date:
    """The day on which something ordered from a supplier comes that needs so many days: the next one on which goods
    are taken in, where that is a weekend or a holiday."""
    day = ordered + timedelta(days=days)
    while day.weekday() in _NOT_DELIVERED or day in holidays:
        day += timedelta(days=1)
    return day
