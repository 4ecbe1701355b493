"""Small named worlds for the core's tests: numbers that can be checked by hand."""

from dataclasses import dataclass, field
from datetime import date, time
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from core.basics import Interval
from core.calendars import Shift, epoch
from core.roads import Leg
from core.roads.travel import TravelTables
from core.scheduling import Actual, Day, Stop, TechnicianSpec, VisitSpec

TZ = ZoneInfo("Atlantic/Azores")
MONDAY = date(2026, 11, 23)
MINUTE = 60
PLACES = 16
HOUR = 3600


def at(hours: int, minutes: int = 0, *, day: date = MONDAY) -> int:
    return epoch(day, time(hours, minutes), TZ)


@dataclass
class TableTravel:
    """Driving from a table of minutes; places that are not in it are `default` minutes apart."""

    minutes: dict[tuple[int, int], int] = field(default_factory=dict)
    default: int = 10

    def leg(self, origin: int, destination: int, _departs: int) -> Leg:
        if origin == destination:
            return Leg(0, 0, False)
        minutes = self.minutes.get((origin, destination), self.default)
        return Leg(minutes * MINUTE, minutes * 600, False)

    def tables(self, *, start: int, end: int) -> TravelTables:
        """Enough places for any of these worlds."""
        legs = [[self.leg(one, two, start) for two in range(PLACES)] for one in range(PLACES)]
        return TravelTables(
            seconds=np.array([[[leg.seconds for leg in row] for row in legs]], dtype=np.int32),
            metres=np.array([[leg.metres for leg in row] for row in legs], dtype=np.int32),
            spans=np.array([[-(1 << 40), 1 << 40, 0]], dtype=np.int64),
        )


DEPOT = 0


def shift(start: int = 8, end: int = 16, *, rest: bool = False, overtime: int = 0, on_call: int | None = None) -> Shift:
    """`on_call`: until that hour."""
    window = Interval(start=at(11, 30), end=at(14)) if rest else None
    return Shift(
        hours=Interval(start=at(start), end=at(end)),
        rest=window,
        rest_seconds=30 * MINUTE if rest else 0,
        overtime_limit=overtime * MINUTE,
        on_call=None if on_call is None else Interval(start=at(end), end=at(on_call)),
    )


def ines(**skills: int) -> TechnicianSpec:
    return TechnicianSpec(id=1, name="Ines Falk", skills=skills or {"Door drives": 3}, areas=frozenset({"Millrace"}))


def visit(number: int, *, minutes: int | None = 60, place: int | None = None, **more: Any) -> VisitSpec:
    more.setdefault("area", "Millrace")
    return VisitSpec(
        id=number,
        label=f"W-{number}",
        place=number if place is None else place,
        duration=None if minutes is None else minutes * MINUTE,
        **more,
    )


def stop(number: int, start: int, *, actual: Actual | None = None, **more: Any) -> Stop:
    return Stop(visit=visit(number, **more), start=start, actual=actual or Actual())


def day(*stops: Stop, shift_: Shift | None = None, **more: Any) -> Day:
    more.setdefault("technician", ines())
    return Day(tz=TZ, shift=shift_ or shift(), start_place=DEPOT, end_place=DEPOT, stops=stops, **more)
