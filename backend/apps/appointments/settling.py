"""A visit placed on another day than its customer was promised: that is settled before anybody is told."""

from dataclasses import dataclass
from datetime import time
from typing import Literal

from apps.company.queries import settings, time_zone
from apps.orders.commands import fields_of
from apps.orders.inputs import VisitFields
from apps.orders.models import Visit
from core.basics import Interval
from core.calendars import day_words, epoch, local_day, local_time, window_words
from foundation.moments import to_datetime

# The promise is kept, and only the technician is told; the customer agreed to another one; the customer is asked first.
How = Literal["keep", "changed", "ask"]
HALF_AN_HOUR = 1800


@dataclass(frozen=True, kw_only=True)
class PlacedElsewhere:
    """What was promised, when the plan begins, and the window that would be promised for then."""

    promise: Interval
    start: int
    window: Interval

    @property
    def sentence(self) -> str:
        tz = time_zone()
        at = f"{day_words(local_day(self.start, tz))} {local_time(self.start, tz)}"
        return f"promised {_window(self.promise)}, placed {at}"


def placed_elsewhere(visit: Visit) -> PlacedElsewhere | None:
    """None: it has no promise, no place, or stands on a day that was promised."""
    promise = visit.promise
    if promise is None or visit.start is None:
        return None
    tz, start = time_zone(), int(visit.start.timestamp())
    if local_day(promise.start, tz) <= local_day(start, tz) <= local_day(promise.end, tz):
        return None
    return PlacedElsewhere(promise=promise, start=start, window=window_around(start))


def fields_agreed(visit: Visit, elsewhere: PlacedElsewhere) -> VisitFields:
    """The visit's fields with the promise for where it stands now."""
    start, end = to_datetime(elsewhere.window.start), to_datetime(elsewhere.window.end)
    return fields_of(visit, promise_start=start, promise_end=end)


def window_around(start: int) -> Interval:
    """The company's window into which a start falls, else half an hour either side of it."""
    tz = time_zone()
    day = local_day(start, tz)
    spans: list[tuple[time, time]] = settings().window_times()
    windows = (Interval(start=epoch(day, first, tz), end=epoch(day, last, tz)) for first, last in spans)
    around = Interval(start=start - HALF_AN_HOUR, end=start + HALF_AN_HOUR)
    return next((window for window in windows if window.start <= start < window.end), around)


def _window(promise: Interval) -> str:
    return window_words(promise, time_zone())
