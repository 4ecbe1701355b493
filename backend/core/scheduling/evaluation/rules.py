"""Which limits a timetable breaks, each with its reason in words."""

from collections.abc import Iterator, Sequence

from core.basics import Interval, minutes_in_words
from core.calendars import Shift, local_day, local_time
from core.scheduling.model.day import Day, Stop
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.timetable import Kind, StopTimes, Stretch

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
        yield from _parts_rules(day, position, stop)
        yield from _shift_rules(day, stop, times)
        yield from _absence_rules(day, stop, times)
        yield from _order_rules(day, position, stop, times, all_times)
        yield from _opening_rules(day, stop, times)
        yield from _due_rules(day, stop, times)
        yield from _long_drive_rules(day, position, stop, times)
    yield from _promise_rules(day, stop, times)


def fit_rules(day: Day, stop: Stop) -> Iterator[Broken]:
    """Limits that hold between a visit and a technician, whatever the time of day."""
    visit, technician = stop.visit, day.technician
    for skill, least in visit.needs.items():
        level = technician.skills.get(skill, 0)
        if level < least:
            owned = f"{technician.name} has level {level}" if level else f"{technician.name} has none"
            yield _broken(Limit.SKILL, stop, f"{skill} {least} needed, {owned}", about=f"{skill} {least}")
    if technician.areas and visit.area is not None and visit.area not in technician.areas:
        yield _broken(Limit.AREA, stop, f"{visit.area} is not an area of {technician.name}", about=visit.area)
    yield from _certificate_rules(day, stop)
    if technician.id in visit.forbidden:
        yield _broken(Limit.FORBIDDEN, stop, f"{technician.name} is not to be sent there")
    if visit.required and technician.id not in visit.required:
        yield _broken(Limit.REQUIRED, stop, f"Somebody else is required there, not {technician.name}")
    if technician.parts is not None:
        for part, wanted in visit.parts.items():
            has = technician.parts.get(part, 0)
            if has < wanted:
                said = f"{wanted} × {part} needed, {has} on the van of {technician.name}"
                yield _broken(Limit.PARTS, stop, said, about=f"{wanted} × {part}")
    if visit.duration is None:
        yield _broken(Limit.DURATION, stop, "No duration yet: give one before placing it")


def fit_broken(day: Day, stop: Stop) -> Iterator[Broken]:
    """Of `fit_rules`, what the day's playbook asks for."""
    return (row for row in fit_rules(day, stop) if row.limit not in day.unasked)


def _parts_rules(day: Day, position: int, stop: Stop) -> Iterator[Broken]:
    """The visits before it take their parts first. Whether the van has enough for it alone is asked in `fit_rules`."""
    van = day.technician.parts
    if van is None:
        return
    for part, wanted in stop.visit.parts.items():
        has = van.get(part, 0)
        spoken = sum(before.takes(part) for before in day.stops[:position])
        if wanted <= has < wanted + spoken:
            there = f"{has} on the van of {day.technician.name}, {spoken} of them for visits before it"
            yield _broken(Limit.PARTS, stop, f"{wanted} × {part} needed, {there}")


def _certificate_rules(day: Day, stop: Stop) -> Iterator[Broken]:
    """A certificate counts for the whole of a shift on whose beginning it is valid."""
    technician = day.technician
    on = day.shift.hours.start if day.shift is not None else stop.start
    for name in sorted(stop.visit.certificates):
        valid_until = technician.certificates.get(name)
        if valid_until is None:
            said = f"{name} needed, {technician.name} has no such certificate"
            yield _broken(Limit.CERTIFICATE, stop, said, about=name)
        elif valid_until < on:
            until = f"{local_day(valid_until, day.tz):%-d %b %Y}"
            yield _broken(
                Limit.CERTIFICATE, stop, f"{name} of {technician.name} is valid until {until} only", about=name
            )


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
        yield _broken(Limit.OVERTIME, stop, f"Ends {_past_the_shift(day.shift, times.ends, day)}", over)


def _past_the_shift(shift: Shift, moment: int, day: Day) -> str:
    limit = minutes_in_words(shift.overtime_limit)
    allowed = f"only {limit} overtime allowed" if shift.overtime_limit else "no overtime allowed"
    past = minutes_in_words(moment - shift.hours.end)
    return f"{past} after the shift at {local_time(shift.hours.end, day.tz)}; {allowed}"


def _absence_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    work = Interval(start=min(times.starts, stop.start), end=times.ends)
    for absence in day.absences:
        if absence.overlap(work) and day.shift is not None and absence == day.shift.gap:
            begins, ends = (local_time(moment, day.tz) for moment in (absence.start, absence.end))
            sentence = f"{day.technician.name} does not work from {begins} to {ends}, between two parts of the shift"
            yield _broken(Limit.ABSENCE, stop, sentence, absence.overlap(work))
        elif absence.overlap(work):
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
    windows = stop.visit.windows
    if not windows:
        return
    starts = times.starts if stop.actual.arrived is None else times.arrives
    if any(window.start - GRAIN < starts < window.end + GRAIN for window in windows):
        return
    window = min(windows, key=lambda w: max(w.start - starts, starts - w.end))
    words = window_in_words(window, starts, day)
    if starts > window.end:
        late = starts - window.end
        yield _broken(Limit.PROMISE, stop, f"{minutes_in_words(late)} after the promise {words}", late)
    elif stop.actual.arrived is None:
        early = window.start - starts
        yield _broken(Limit.PROMISE, stop, f"{minutes_in_words(early)} before the promise {words}", early)


def _opening_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    opening = stop.visit.opening
    if not opening or any(hours.start <= times.starts and times.ends <= hours.end for hours in opening):
        return
    today = [hours for hours in opening if local_day(hours.start, day.tz) == local_day(times.starts, day.tz)]
    if not today:
        yield _broken(Limit.OPENING, stop, "The site is closed that day")
        return
    hours = min(today, key=lambda h: max(h.start - times.starts, times.ends - h.end))
    open_ = window_in_words(hours, times.starts, day)
    outside = max(hours.start - times.starts, times.ends - hours.end)
    yield _broken(Limit.OPENING, stop, f"The site is open {open_} only", outside)


def _due_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    visit = stop.visit
    if visit.due is not None and times.ends > visit.due:
        late = times.ends - visit.due
        yield _broken(Limit.DUE, stop, f"Ends {minutes_in_words(late)} after it is due", late)
    if visit.earliest is not None and stop.start < visit.earliest:
        when = f"{local_day(visit.earliest, day.tz):%a %-d %b} {local_time(visit.earliest, day.tz)}"
        yield _broken(Limit.EARLIEST, stop, f"May not start before {when}", visit.earliest - stop.start)


def _long_drive_rules(day: Day, position: int, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    over = times.drive_seconds - (times.drive_seconds if day.longest_drive is None else day.longest_drive)
    if position and over > 0 and not stop.has_begun:
        most = day.longest_drive // 60 if day.longest_drive is not None else 0
        sentence = f"{times.drive_seconds // 60} min of driving from the visit before, at most {most}"
        yield _broken(Limit.LONG_DRIVE, stop, sentence, over)


def day_rules(day: Day, stretches: Sequence[Stretch], *, rested: bool) -> Iterator[Broken]:
    """Limits of the day as a whole."""
    shift = day.shift
    if shift is None or not stretches:
        return
    home = stretches[-1].end
    worked_until = max((s.end for s in stretches if s.kind is Kind.WORK), default=home)
    if home - shift.last_end >= GRAIN and worked_until - shift.last_end < GRAIN:
        yield Broken(
            limit=Limit.OVERTIME,
            visit_id=None,
            sentence=f"Back {_past_the_shift(shift, home, day)}",
            seconds=home - shift.last_end,
        )
    if not rested and shift.rest is not None and home > shift.rest.end:
        length = minutes_in_words(shift.rest_seconds)
        window = f"{local_time(shift.rest.start, day.tz)} and {local_time(shift.rest.end, day.tz)}"
        sentence = f"No room for the {length} break between {window}"
        yield Broken(limit=Limit.BREAK, visit_id=None, sentence=sentence)
    planned = [stop for stop in day.stops if stop.actual.finished is None]
    if day.most_visits is not None and len(day.stops) > day.most_visits and planned:
        sentence = f"{len(day.stops)} visits, at most {day.most_visits} a day"
        yield Broken(limit=Limit.CAPACITY, visit_id=None, sentence=sentence)


def window_in_words(promise: Interval, seen_from: int, day: Day) -> str:
    """ "10:00-12:00", with the day when it is another one."""
    words = f"{local_time(promise.start, day.tz)}–{local_time(promise.end, day.tz)}"
    promised = local_day(promise.start, day.tz)
    return words if promised == local_day(seen_from, day.tz) else f"{promised:%a %-d %b} {words}"


def _broken(limit: Limit, stop: Stop, sentence: str, seconds: int = 0, *, about: str = "") -> Broken:
    return Broken(limit=limit, visit_id=stop.visit.id, sentence=sentence, seconds=seconds, about=about)
