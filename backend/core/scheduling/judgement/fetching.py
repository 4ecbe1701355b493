"""A stop to fetch something before a visit: where on the day it costs least, and whether it is in time."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from core.basics import Interval
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.judgement.judge import Verdict, judge
from core.scheduling.model.day import Arrival, Day, Stop, VisitSpec
from core.scheduling.model.timetable import Timetable

# The number of a stop that is not there yet.
ERRAND = -1


@dataclass(frozen=True, kw_only=True)
class Fetching:
    """Somewhere something can be fetched.

    place : index into the travel matrix.
    within : when it can be had there, epoch seconds; None: at any hour.
    seconds : how long it takes.
    """

    place: int
    seconds: int
    within: Interval | None = None
    label: str = "Fetch parts"


@dataclass(frozen=True, kw_only=True)
class Fetched:
    """A stop on the day that fetches it.

    start, ends : when, epoch seconds.
    added : seconds of the day it takes, work and more driving together.
    metres : so much farther.
    in_time : nothing that holds now breaks, and the visit it is for finds its parts.
    verdict : what the stop means for the day.
    """

    start: int
    ends: int
    added: int
    metres: int
    in_time: bool
    verdict: Verdict


def fetch_before(
    day: Day, visit_id: int, what: tuple[str, int], at: Fetching, travel: Travel, *, now: int | None = None
) -> Fetched | None:
    """The stop before a visit that fetches so many of a part with the least harm, and then the least driving.

    Parameters
    ----------
    what
        The part and how many.
    now
        On the day that is running: nothing begins before.

    Returns
    -------
    Fetched or None
        None: there is no moment before the visit at which somebody could be there.
    """
    before = evaluate_day(day, travel, now=now)
    found = [
        _tried(day, Stop(visit=_errand(at), start=start), visit_id, what, travel, before, now)
        for start in _starts(day, before, visit_id, at, travel, now)
    ]
    return min(found, key=lambda row: (not row.in_time, row.added, row.start), default=None)


def _errand(at: Fetching) -> VisitSpec:
    opening = () if at.within is None else (at.within,)
    return VisitSpec(id=ERRAND, label=at.label, place=at.place, duration=at.seconds, opening=opening)


def _starts(
    day: Day, before: Timetable, visit_id: int, at: Fetching, travel: Travel, now: int | None
) -> Iterator[int]:  # fmt: skip
    """When one would be there, after each stop that comes before the visit, or from the start of the shift."""
    if day.shift is None:
        return
    place, free = day.start_place, day.shift.hours.start
    rows: Sequence[tuple[int, int, bool]] = [
        (stop.visit.place, times.ends, stop.has_begun and stop.actual.finished is None)
        for stop in day.stops
        if (times := before.stop(stop.visit.id)) is not None
    ]
    behind = [stop.visit.id for stop in day.stops].index(visit_id)
    for number in range(behind + 1):
        if number:
            place, free, _under_way = rows[number - 1]
        leaves = free if now is None else max(free, now)
        arrives = leaves + travel.leg(place, at.place, leaves).seconds
        start = arrives if at.within is None else max(arrives, at.within.start)
        if at.within is None or start + at.seconds <= at.within.end:
            yield start


def _tried(
    day: Day, errand: Stop, visit_id: int, what: tuple[str, int], travel: Travel, before: Timetable, now: int | None
) -> Fetched:
    load, (part, quantity) = day.technician.load, what
    ends = errand.start + (errand.visit.duration or 0)
    carried = day
    if load is not None:
        brought = Arrival(at=ends, part=part, quantity=quantity)
        technician = replace(day.technician, load=replace(load, arrivals=(*load.arrivals, brought)))
        carried = replace(day, technician=technician)
    verdict = judge(carried, errand, travel, now=now, before=evaluate_day(carried, travel, now=now))
    after = verdict.timetable
    times, stops = after.stop(visit_id), [row.visit_id for row in after.stops]
    held = times is not None and stops.index(ERRAND) < stops.index(visit_id) and ends <= times.starts
    lacking = any(row.visit_id == visit_id and row.limit.value == "parts" for row in after.broken)
    return Fetched(
        start=errand.start, ends=ends, added=verdict.extra_drive_seconds + (errand.visit.duration or 0),
        metres=_metres(after) - _metres(before), in_time=held and not lacking and verdict.is_plain, verdict=verdict,
    )  # fmt: skip


def _metres(timetable: Timetable) -> int:
    return sum(row.metres for row in timetable.stretches)
