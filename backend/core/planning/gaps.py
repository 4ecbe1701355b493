"""Free time on a technician's day."""

from dataclasses import dataclass

from core.basics import Interval
from core.planning.problem import Day

LEAST_GAP = 1800


@dataclass(frozen=True, kw_only=True)
class Gap:
    """A stretch in which nothing is planned, with the visits before and after it; driving is not taken off."""

    technician_id: int
    hours: Interval
    after: int | None
    before: int | None


def gaps_of(day: Day, *, now: int | None = None) -> list[Gap]:
    """Stretches of half an hour and more of a shift, from `now` on, in which nothing is planned."""
    if day.shift is None:
        return []
    found: list[Gap] = []
    at, last = max(day.shift.hours.start, now or 0), None

    def leave(end: int, before: int | None) -> None:
        if end - at >= LEAST_GAP:
            hours = Interval(start=at, end=end)
            found.append(Gap(technician_id=day.technician.id, hours=hours, after=last, before=before))

    for stop in sorted(day.stops, key=lambda stop: stop.start):
        leave(stop.start, stop.visit.id)
        at = max(at, stop.start + (stop.visit.duration or 0))
        last = stop.visit.id
    leave(day.shift.hours.end, None)
    return found
