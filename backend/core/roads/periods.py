"""Periods of the day: within one, the speed on a class of road does not change."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from enum import IntEnum
from itertools import pairwise
from zoneinfo import ZoneInfo

from core.calendars import epoch


class Period(IntEnum):
    NIGHT = 0
    MORNING_PEAK = 1
    DAY = 2
    EVENING_PEAK = 3
    EVENING = 4


PERIODS = tuple(Period)
# Where each period begins on the wall clock; before the first, it is night.
BEGINNINGS: tuple[tuple[time, Period], ...] = (
    (time(6, 30), Period.MORNING_PEAK),
    (time(9, 0), Period.DAY),
    (time(16, 0), Period.EVENING_PEAK),
    (time(18, 30), Period.EVENING),
    (time(22, 0), Period.NIGHT),
)
# Share of the free speed that is left, by class of road, in the order of PERIODS.
SPEED_SHARE: dict[str, tuple[float, ...]] = {
    "bridge": (1.0, 0.40, 0.75, 0.40, 0.95),
    "ring": (1.0, 0.60, 0.90, 0.60, 1.0),
    "main": (1.0, 0.60, 0.80, 0.55, 0.95),
    "street": (1.0, 0.75, 0.85, 0.75, 0.95),
    "lane": (1.0, 0.95, 1.0, 0.95, 1.0),
}


@dataclass
class PeriodClock:
    """Which period a moment falls in, and until when.

    The periods of the days asked for are kept, so a look-up is a search among a handful of numbers.
    """

    tz: ZoneInfo

    def __post_init__(self) -> None:
        self._days: dict[int, list[tuple[int, int, Period]]] = {}

    def at(self, moment: int) -> tuple[Period, int]:
        """The period at `moment` and the epoch second at which it ends."""
        for _start, end, period in self._around(moment):
            if moment < end:
                return period, end
        raise AssertionError("a day's periods reach past the day")

    def _around(self, moment: int) -> list[tuple[int, int, Period]]:
        key = moment // 86_400
        if key not in self._days:
            self._days[key] = [row for row in self._spans(key) if row[1] > key * 86_400]
        return self._days[key]

    def _spans(self, utc_day: int) -> Iterator[tuple[int, int, Period]]:
        first = datetime.fromtimestamp(utc_day * 86_400, self.tz).date() - timedelta(days=1)
        marks = [
            (epoch(first + timedelta(days=offset), at, self.tz), period)
            for offset in range(4)
            for at, period in BEGINNINGS
        ]
        for (start, period), (end, _next) in pairwise(marks):
            yield start, end, period
