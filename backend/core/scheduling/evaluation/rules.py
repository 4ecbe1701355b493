"""Which limits a timetable breaks, each with its reason."""

from collections.abc import Iterator, Sequence

from core.basics import Interval
from core.calendars import Shift, local_day
from core.scheduling.model.day import Day, Stop, TechnicianSpec
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.reasons import Code, Why, why
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
            code = Code.SKILL_TOO_LOW if level else Code.SKILL_MISSING
            reason = why(code, skill=skill, least=least, level=level, technician=technician.name)
            yield _broken(Limit.SKILL, stop, reason, about=f"{skill} {least}")
    if technician.areas and visit.area is not None and visit.area not in technician.areas:
        reason = why(Code.OUTSIDE_AREA, area=visit.area, technician=technician.name)
        yield _broken(Limit.AREA, stop, reason, about=visit.area)
    yield from _certificate_rules(day, stop)
    if technician.id in visit.forbidden:
        yield _broken(Limit.FORBIDDEN, stop, why(Code.REFUSED_THERE, technician=technician.name))
    if visit.required and technician.id not in visit.required:
        yield _broken(Limit.REQUIRED, stop, why(Code.OTHER_REQUIRED, technician=technician.name))
    if technician.load is not None:
        for part, wanted in visit.parts.items():
            if technician.load.has(part) < wanted:
                reason = why(Code.PARTS_MISSING, wanted=wanted, **_where(technician, part))
                yield _broken(Limit.PARTS, stop, reason, about=f"{wanted} × {part}")
    if visit.duration is None:
        yield _broken(Limit.DURATION, stop, why(Code.NO_LENGTH))


def fit_broken(day: Day, stop: Stop) -> Iterator[Broken]:
    """Of `fit_rules`, what the day's playbook asks for."""
    return (row for row in fit_rules(day, stop) if row.limit not in day.unasked)


def _parts_rules(day: Day, position: int, stop: Stop) -> Iterator[Broken]:
    """The visits before it take their parts first, and what is still to come is not there yet. Whether there is enough
    for it alone is asked in `fit_rules`."""
    load = day.technician.load
    if load is None:
        return
    for part, wanted in stop.visit.parts.items():
        if load.has(part) < wanted:
            continue
        there, left = load.by(part, stop.start), _left_for(day, position, stop, part)
        if left >= wanted:
            continue
        if there < wanted:
            comes = min(row.at for row in load.arrivals if row.part == part and row.at > stop.start)
            given = {"wanted": wanted, "part": part, "there": left, "at": comes}
            yield _broken(Limit.PARTS, stop, why(Code.PARTS_LATER, day.tz, **given))
        else:
            given = {"wanted": wanted, "spoken": there - left, **_where(day.technician, part)}
            yield _broken(Limit.PARTS, stop, why(Code.PARTS_TAKEN_BEFORE, **given))


def _left_for(day: Day, position: int, stop: Stop, part: str) -> int:
    """How many are there when a stop begins, after those before it took theirs: who found too few took what there
    was, as core.stock.reserve has it."""
    load = day.technician.load
    assert load is not None
    taken = 0
    for before in day.stops[:position]:
        taken += min(before.takes(part), max(0, load.by(part, before.start) - taken))
    return load.by(part, stop.start) - taken


def _where(technician: TechnicianSpec, part: str) -> dict[str, object]:
    """How many there are, and where, as the reasons say it."""
    load = technician.load
    assert load is not None
    on_van = load.van.get(part, 0) + sum(row.quantity for row in load.arrivals if row.part == part)
    where = f"{max(0, on_van)} on the van of {technician.name}"
    if load.depot:
        where += f" and {max(0, load.free.get(part, 0))} free at {load.depot}"
    return {"part": part, "has": load.has(part), "where": where}


def _certificate_rules(day: Day, stop: Stop) -> Iterator[Broken]:
    """A certificate counts for the whole of a shift on whose beginning it is valid."""
    technician = day.technician
    on = day.shift.hours.start if day.shift is not None else stop.start
    for name in sorted(stop.visit.certificates):
        valid_until = technician.certificates.get(name)
        if valid_until is None:
            reason = why(Code.CERTIFICATE_MISSING, certificate=name, technician=technician.name)
            yield _broken(Limit.CERTIFICATE, stop, reason, about=name)
        elif valid_until < on:
            given = {"certificate": name, "technician": technician.name, "until": valid_until}
            yield _broken(Limit.CERTIFICATE, stop, why(Code.CERTIFICATE_ENDS, day.tz, **given), about=name)


def _shift_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    if day.shift is None:
        yield _broken(Limit.SHIFT, stop, why(Code.NO_SHIFT, technician=day.technician.name))
        return
    hours = day.shift.hours
    if stop.start < hours.start:
        early = hours.start - stop.start
        yield _broken(Limit.SHIFT, stop, why(Code.BEFORE_SHIFT, day.tz, early=early, at=hours.start), early)
    over = times.ends - (day.shift.last_end if stop.visit.calls_out else day.shift.ordinary_end)
    if over < GRAIN:
        return
    if day.shift.on_call is None:
        reason = _past_the_shift(Code.ENDS_AFTER_SHIFT, day.shift, times.ends, day)
    elif stop.visit.calls_out:
        given = {"technician": day.technician.name, "at": day.shift.last_end, "past": over}
        reason = why(Code.AFTER_ON_CALL, day.tz, **given)
    else:
        reason = why(Code.ON_CALL_ONLY, day.tz, technician=day.technician.name, at=day.shift.on_call.start)
    yield _broken(Limit.OVERTIME, stop, reason, over)


def _past_the_shift(code: Code, shift: Shift, moment: int, day: Day) -> Why:
    ends = shift.hours.end
    return why(code, day.tz, past=moment - ends, at=ends, allowed=shift.overtime_limit)


def _absence_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    work = Interval(start=min(times.starts, stop.start), end=times.ends)
    for absence in day.absences:
        if absence.overlap(work):
            yield _broken(Limit.ABSENCE, stop, _absent(day, stop, absence), absence.overlap(work))


def _absent(day: Day, stop: Stop, absence: Interval) -> Why:
    given = {"technician": day.technician.name, "start": absence.start, "end": absence.end}
    if day.shift is not None and absence == day.shift.gap:
        return why(Code.SPLIT_SHIFT, day.tz, **given)
    if local_day(absence.end, day.tz) == local_day(stop.start, day.tz):
        return why(Code.ABSENT, day.tz, **given)
    code = Code.ABSENT_THAT_DAY if absence.start <= stop.start else Code.ABSENT_TO_THE_END
    return why(code, day.tz, **given)


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
        shared = before.ends - stop.start
        yield _broken(Limit.OVERLAP, stop, why(Code.OVERLAPS, visit=label, shared=shared), shared)
        return
    given = {"drive": times.drive_seconds, "at": times.arrives, "late": late}
    yield _broken(Limit.DRIVING, stop, why(Code.DRIVE_TOO_LONG_TO_FIT, day.tz, **given), late)


def _promise_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    windows = stop.visit.windows
    if not windows:
        return
    starts = times.starts if stop.actual.arrived is None else times.arrives
    if any(window.start - GRAIN < starts < window.end + GRAIN for window in windows):
        return
    window = min(windows, key=lambda w: max(w.start - starts, starts - w.end))
    promise = (window.start, window.end, starts)
    if starts > window.end:
        late = starts - window.end
        yield _broken(Limit.PROMISE, stop, why(Code.AFTER_PROMISE, day.tz, late=late, promise=promise), late)
    elif stop.actual.arrived is None:
        early = window.start - starts
        yield _broken(Limit.PROMISE, stop, why(Code.BEFORE_PROMISE, day.tz, early=early, promise=promise), early)


def _opening_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    opening = stop.visit.opening
    if not opening or any(hours.start <= times.starts and times.ends <= hours.end for hours in opening):
        return
    today = [hours for hours in opening if local_day(hours.start, day.tz) == local_day(times.starts, day.tz)]
    if not today:
        yield _broken(Limit.OPENING, stop, why(Code.CLOSED_THAT_DAY))
        return
    hours = min(today, key=lambda h: max(h.start - times.starts, times.ends - h.end))
    outside = max(hours.start - times.starts, times.ends - hours.end)
    reason = why(Code.OPEN_ONLY, day.tz, hours=(hours.start, hours.end, times.starts))
    yield _broken(Limit.OPENING, stop, reason, outside)


def _due_rules(day: Day, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    visit = stop.visit
    if visit.due is not None and times.ends > visit.due:
        late = times.ends - visit.due
        yield _broken(Limit.DUE, stop, why(Code.AFTER_DUE, late=late), late)
    if visit.earliest is not None and stop.start < visit.earliest:
        reason = why(Code.BEFORE_EARLIEST, day.tz, earliest=visit.earliest)
        yield _broken(Limit.EARLIEST, stop, reason, visit.earliest - stop.start)


def _long_drive_rules(day: Day, position: int, stop: Stop, times: StopTimes) -> Iterator[Broken]:
    over = times.drive_seconds - (times.drive_seconds if day.longest_drive is None else day.longest_drive)
    if position and over > 0 and not stop.has_begun:
        reason = why(Code.LONG_DRIVE, drive=times.drive_seconds, most=day.longest_drive or 0)
        yield _broken(Limit.LONG_DRIVE, stop, reason, over)


def day_rules(day: Day, stretches: Sequence[Stretch], *, rested: bool) -> Iterator[Broken]:
    """Limits of the day as a whole."""
    shift = day.shift
    if shift is None or not stretches:
        return
    home = stretches[-1].end
    worked_until = max((s.end for s in stretches if s.kind is Kind.WORK), default=home)
    called_out = any(stop.visit.calls_out for stop in day.stops)
    allowed = shift.last_end if called_out else shift.ordinary_end
    if home - allowed >= GRAIN and worked_until - allowed < GRAIN:
        yield Broken(
            limit=Limit.OVERTIME,
            visit_id=None,
            why=_past_the_shift(Code.HOME_AFTER_SHIFT, shift, home, day),
            seconds=home - allowed,
        )
    if not rested and shift.rest is not None and home > shift.rest.end:
        given = {"rest": shift.rest_seconds, "start": shift.rest.start, "end": shift.rest.end}
        yield Broken(limit=Limit.BREAK, visit_id=None, why=why(Code.NO_BREAK, day.tz, **given))
    planned = [stop for stop in day.stops if stop.actual.finished is None]
    if day.most_visits is not None and len(day.stops) > day.most_visits and planned:
        reason = why(Code.TOO_MANY_VISITS, visits=len(day.stops), most=day.most_visits)
        yield Broken(limit=Limit.CAPACITY, visit_id=None, why=reason)


def _broken(limit: Limit, stop: Stop, reason: Why, seconds: int = 0, *, about: str = "") -> Broken:
    return Broken(limit=limit, visit_id=stop.visit.id, why=reason, seconds=seconds, about=about)
