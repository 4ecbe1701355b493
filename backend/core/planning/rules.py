"""Which limits a timetable breaks, each with its reason in words."""

from collections.abc import Iterator, Sequence

from core.basics import Interval, minutes_in_words
from core.calendars import local_day, local_time
from core.planning.limits import Broken, Limit
from core.planning.problem import Day, Stop
from core.planning.timetable import StopTimes, Stretch

# Earlier than this is not worth a word: a minute is the grain of every screen.
GRAIN = 60
# Lateness below this is within what nobody can plan: traffic lights, a second ring at the door.
LATE_GRAIN = 3 * 60


def stop_rules(
    day: Day, position: int, stop: Stop, times: StopTimes, all_times: Sequence[StopTimes]
) -> Iterator[Broken]:
    """Limits broken at one stop. What is already finished is past judging, but for its promise."""
    if stop.actual.finished is None:
        yield from fit_rules(day, stop)
        yield from _shift_rules(day, stop, times)
        yield from _absence_rules(day, stop, times)
        yield from _order_rules(day, position, stop, times, all_times)
        yield from _due_rules(day, stop, times)
    yield from _promise_rules(day, stop, times)


def fit_rules(day: Day, stop: Stop) -> Iterator[Broken]:
    """Limits that hold between a visit and a technician, whatever the time of day."""
    visit, technician = stop.visit, day.technician
    for skill, least in visit.needs.items():
        level = technician.skills.get(skill, 0)
        if level < least:
            has = f"{technician.name} has level {level}" if level else f"{technician.name} has none"
            yield _broken(Limit.SKILL, stop, f"{skill} {least} needed, {has}")
    if technician.areas and visit.area is not None and visit.area not in technician.areas:
        yield _broken(Limit.AREA, stop, f"{visit.area} is not an area of {technician.name}")
    if visit.duration is None:
        yield _broken(Limit.DURATION, stop, "No duration yet: give one before placing it")


def _shift_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    name = day.technician.name
    if day.shift is None:
        yield _broken(Limit.SHIFT, stop, f"{name} has no shift that day")
        return
    hours = day.shift.hours
    if stop.start < hours.start:
        at = local_time(hours.start, day.tz)
        early = hours.start - stop.start
        yield _broken(Limit.SHIFT, stop, f"{minutes_in_words(early)} before the shift starts at {at}", early)
    over = times.ends - day.shift.last_end
    if over >= GRAIN:
        at = local_time(hours.end, day.tz)
        limit = minutes_in_words(day.shift.overtime_limit)
        past = minutes_in_words(times.ends - hours.end)
        allowed = f"only {limit} overtime allowed" if day.shift.overtime_limit else "no overtime allowed"
        yield _broken(Limit.SHIFT, stop, f"Ends {past} after the shift at {at}; {allowed}", over)


def _absence_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    work = Interval(start=min(times.starts, stop.start), end=times.ends)
    for absence in day.absences:
        if absence.overlap(work):
            until = local_time(absence.end, day.tz)
            if local_day(absence.end, day.tz) != local_day(stop.start, day.tz):
                until = "the end of the day"
            sentence = f"{day.technician.name} is absent from {local_time(absence.start, day.tz)} to {until}"
            if absence.start <= stop.start and until == "the end of the day":
                sentence = f"{day.technician.name} is absent that day"
            yield _broken(Limit.ABSENCE, stop, sentence, absence.overlap(work))


def _order_rules(
    day: Day, position: int, stop: Stop, times: StopTimes, all_times: Sequence[StopTimes]
) -> Iterator[Broken]:
    """Started later than planned: because two visits overlap, or because the drive does not fit."""
    late = times.starts - stop.start
    if stop.actual.arrived is not None or late < LATE_GRAIN:
        return
    before = all_times[position - 1] if position else None
    if before is not None and before.ends - stop.start >= LATE_GRAIN:
        label = day.stops[position - 1].visit.label
        shared = minutes_in_words(before.ends - stop.start)
        yield _broken(Limit.OVERLAP, stop, f"Overlaps {label} by {shared}", before.ends - stop.start)
        return
    at = local_time(times.arrives, day.tz)
    drive = minutes_in_words(times.drive_seconds)
    yield _broken(
        Limit.DRIVING, stop, f"The {drive} drive does not fit: there at {at}, {minutes_in_words(late)} late", late
    )


def _promise_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    promise = stop.visit.promise
    if promise is None:
        return
    starts = times.starts if stop.actual.arrived is None else times.arrives
    if starts - promise.end >= GRAIN:
        late, window = starts - promise.end, window_in_words(promise, starts, day)
        yield _broken(Limit.PROMISE, stop, f"{minutes_in_words(late)} after the promise {window}", late)
    elif promise.start - starts >= GRAIN and stop.actual.arrived is None:
        early, window = promise.start - starts, window_in_words(promise, starts, day)
        yield _broken(Limit.PROMISE, stop, f"{minutes_in_words(early)} before the promise {window}", early)


def _due_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    visit = stop.visit
    if visit.due is not None and times.ends > visit.due:
        late = times.ends - visit.due
        yield _broken(Limit.DUE, stop, f"Ends {minutes_in_words(late)} after it is due", late)
    if visit.earliest is not None and stop.start < visit.earliest:
        when = f"{local_day(visit.earliest, day.tz):%a %-d %b} {local_time(visit.earliest, day.tz)}"
        yield _broken(Limit.DUE, stop, f"May not start before {when}", visit.earliest - stop.start)


def day_rules(day: Day, stretches: Sequence[Stretch], *, rested: bool) -> list[Broken]:
    """Limits of the day as a whole."""
    shift = day.shift
    if rested or shift is None or shift.rest is None or not stretches:
        return []
    if stretches[-1].end < shift.rest.end:
        return []
    length = minutes_in_words(shift.rest_seconds)
    window = f"{local_time(shift.rest.start, day.tz)} and {local_time(shift.rest.end, day.tz)}"
    return [Broken(limit=Limit.BREAK, visit_id=None, sentence=f"No room for the {length} break between {window}")]


def window_in_words(promise: Interval, seen_from: int, day: Day) -> str:
    """ "10:00-12:00", with the day when it is another one."""
    words = f"{local_time(promise.start, day.tz)}–{local_time(promise.end, day.tz)}"
    promised = local_day(promise.start, day.tz)
    return words if promised == local_day(seen_from, day.tz) else f"{promised:%a %-d %b} {words}"


def _broken(limit: Limit, stop: Stop, sentence: str, seconds: int = 0) -> Broken:
    return Broken(limit=limit, visit_id=stop.visit.id, sentence=sentence, seconds=seconds)
