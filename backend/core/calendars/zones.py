"""From wall-clock times in an IANA time zone to absolute seconds and back."""

from datetime import date, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from core.basics import Interval


@lru_cache(maxsize=64)
def zone(name: str) -> ZoneInfo:
    """The zone of that IANA name.

    Raises
    ------
    ValueError
        When there is no such zone.
    """
    try:
        return ZoneInfo(name)
    except (KeyError, OSError, ValueError) as error:
        raise ValueError(f"no such time zone: {name}") from error


def epoch(day: date, at: time, tz: ZoneInfo) -> int:
    """Epoch seconds of a wall-clock time.

    Where the clock was put back, the first of the two moments; where it was put forward, a time
    that was skipped counts as if the clock had not moved yet (so 01:30 becomes 02:30).
    """
    return int(datetime.combine(day, at, tzinfo=tz).replace(fold=0).timestamp())


def local_day(moment: int, tz: ZoneInfo) -> date:
    return datetime.fromtimestamp(moment, tz).date()


def day_interval(day: date, tz: ZoneInfo) -> Interval:
    """Midnight to midnight: 23 or 25 hours on the days the clock changes."""
    return Interval(start=epoch(day, time(), tz), end=epoch(day + timedelta(days=1), time(), tz))
