"""A stop to fetch something before a visit: where on the day it costs least, and whether it is in time."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from core.basics import Interval
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN
from core.scheduling.judgement.judge import Verdict, judge
from core.scheduling.model.day import Arrival, Day, Stop, VisitSpec
from core.scheduling.model.limits import Limit
from core.scheduling.model.timetable import Timetable

# A customer who was told a time without a window expects somebody half an hour either side of it.
UNNOTICED = 15 * 60
# Visits that begin later begin on these marks.
STEP = 300
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
    moved : visits after it that would begin later, with their new starts, in the order of the day.
    """

    start: int
    ends: int
    added: int
    metres: int
    in_time: bool
    verdict: Verdict
    moved: tuple[tuple[int, int], ...] = ()


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
    return min(found, key=lambda row: (not row.in_time, row.added, len(row.moved), row.start), default=None)


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
        start = -(-(arrives if at.within is None else max(arrives, at.within.start)) // GRAIN) * GRAIN
        if at.within is None or start + at.seconds <= at.within.end:
            yield start


def _tried(
    day: Day, errand: Stop, visit_id: int, what: tuple[str, int], travel: Travel, before: Timetable, now: int | None
) -> Fetched:
    """The stop at a start: with everything else at its time, and where that does not do, with what comes after it a
    little later."""
    carried = _carrying(day, errand, what)
    found = _judged(carried, carried, errand, visit_id, travel, before, now)
    if found.in_time:
        return found
    moved = _slid(carried, errand, travel)
    if not moved:
        return found
    later = carried
    for stop in carried.stops:
        if stop.visit.id in moved:
            later = later.with_stop(replace(stop, start=moved[stop.visit.id]))
    slid = _judged(carried, later, errand, visit_id, travel, before, now)
    return replace(slid, moved=tuple(moved.items())) if slid.in_time else found


def _carrying(day: Day, errand: Stop, what: tuple[str, int]) -> Day:
    """The day as it is once the parts are fetched."""
    load, (part, quantity) = day.technician.load, what
    if load is None:
        return day
    brought = Arrival(at=errand.start + (errand.visit.duration or 0), part=part, quantity=quantity)
    return replace(day, technician=replace(day.technician, load=replace(load, arrivals=(*load.arrivals, brought))))


def _judged(
    day: Day, later: Day, errand: Stop, visit_id: int, travel: Travel, before: Timetable, now: int | None
) -> Fetched:
    ends = errand.start + (errand.visit.duration or 0)
    verdict = judge(later, errand, travel, now=now, before=evaluate_day(day, travel, now=now))
    after = verdict.timetable
    times, stops = after.stop(visit_id), [row.visit_id for row in after.stops]
    held = times is not None and stops.index(ERRAND) < stops.index(visit_id) and ends <= times.starts
    lacking = any(row.visit_id == visit_id and row.limit is Limit.PARTS for row in after.broken)
    return Fetched(
        start=errand.start, ends=ends, added=verdict.extra_drive_seconds + (errand.visit.duration or 0),
        metres=after.metres - before.metres, in_time=held and not lacking and verdict.is_plain, verdict=verdict,
    )  # fmt: skip


def _may_begin(stop: Stop, later: int) -> bool:
    """Whether a stop may begin later without anybody being told anew: nothing holds it, and a customer who was told is
    told the same window, or as little later as nobody waits for."""
    visit = stop.visit
    if visit.locked or stop.has_begun:
        return False
    if not visit.told:
        return True
    return any(window.holds(later) for window in visit.windows) if visit.windows else later - stop.start <= UNNOTICED


def _slid(day: Day, errand: Stop, travel: Travel) -> dict[int, int]:
    """Which stops have to begin later so that the errand fits before them, and when. What stands fast stays, and
    whether all fits then is for the evaluator to say."""
    moved: dict[int, int] = {}
    place, free = day.start_place, errand.start
    for stop in day.with_stop(errand).stops:
        visit, start = stop.visit, stop.start
        if (start, visit.id) > (errand.start, ERRAND):
            arrives = free + travel.leg(place, visit.place, free).seconds
            later = max(start, -(-arrives // STEP) * STEP)
            if later > start and _may_begin(stop, later):
                start = moved[visit.id] = later
        place, free = visit.place, start + (visit.seconds_for(day.technician.id) or 0)
    return moved
