"""Placements in words: why here, and why not there."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum

from core.basics import minutes_in_words
from core.calendars import day_words, local_day
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN, fit_rules
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.problem import Problem
from core.scheduling.model.reasons import about
from core.scheduling.model.timetable import Kind, Timetable


def why_here(day: Day, before: Timetable, after: Timetable, visit: VisitSpec) -> tuple[str, ...]:
    """What speaks for (and against) a visit on a day, in short sentences, the weightiest first.

    Parameters
    ----------
    day
        The day with the visit on it.
    before, after
        Timetables of the day without and with it.
    """
    return tuple(_why_here(day, before, after, visit))


def _why_here(day: Day, before: Timetable, after: Timetable, visit: VisitSpec) -> Iterator[str]:
    times = after.stop(visit.id)
    assert times is not None
    window = next((w for w in visit.windows if w.holds(times.starts)), None)
    if window is not None:
        yield f"Inside the promise, {minutes_in_words(window.end - times.starts)} to spare"
    if visit.due is not None and times.ends > visit.due:
        yield f"Ends {minutes_in_words(times.ends - visit.due)} after it is due"
    extra = after.total(Kind.DRIVE) - before.total(Kind.DRIVE)
    yield f"{minutes_in_words(abs(extra))} {'more' if extra >= 0 else 'less'} driving, {_neighbours(day, visit)}"
    if after.ends is not None and day.shift is not None:
        left = day.shift.hours.end - after.ends
        yield (
            f"Back {minutes_in_words(left)} before the shift ends"
            if left >= 0
            else f"{minutes_in_words(-left)} of overtime"
        )
    wait = sum(s.seconds for s in after.stretches if s.kind is Kind.WAIT and s.visit_id == visit.id)
    if wait >= 10 * 60:
        yield f"{minutes_in_words(wait)} of waiting before it"
    pushed = [
        stop
        for stop in before.stops
        if (now := after.stop(stop.visit_id)) is not None and now.starts - stop.starts >= GRAIN
    ]
    if pushed:
        yield f"Pushes {len(pushed)} later visit{'s' if len(pushed) > 1 else ''}"
    yield from _hands(day, visit)


def _hands(day: Day, visit: VisitSpec) -> Iterator[str]:
    name = day.technician.name
    if day.technician.id in visit.preferred:
        yield f"{name} is preferred there"
    elif visit.preferred:
        yield "Not the preferred technician"
    if visit.last_technician == day.technician.id:
        yield f"{name} was there last time"
    if visit.area is not None and day.technician.areas and visit.area not in day.technician.areas:
        yield f"{visit.area} is not an area of {name}"
    if day.technician.id in visit.durations and visit.duration is not None:
        faster = visit.duration - visit.durations[day.technician.id]
        if abs(faster) >= 5 * 60:
            yield f"{name} usually takes {minutes_in_words(abs(faster))} {'less' if faster > 0 else 'more'}"


def _neighbours(day: Day, visit: VisitSpec) -> str:
    """ "between two visits in Millrace", "after the last visit", "first of the day"."""
    order = [stop.visit for stop in day.stops]
    at = next(i for i, other in enumerate(order) if other.id == visit.id)
    near = [order[i] for i in (at - 1, at + 1) if 0 <= i < len(order)]
    if not near:
        return "alone on that day"
    if len(near) == 2 and near[0].area == near[1].area and near[0].area is not None:
        return f"between two visits in {near[0].area}"
    if len(near) == 2:
        places = [other.area or "outside every area" for other in near]
        return f"between {places[0]} and {places[1]}"
    where = near[0].area or "outside every area"
    return f"after the last visit, in {where}" if at else f"before the first visit, in {where}"


class Hindrance(StrEnum):
    """What keeps a technician from a visit, as many may share it."""

    NEEDED = "needed"
    AREA = "area"
    NO_SHIFT = "no_shift"
    ABSENT = "absent"
    OVER = "over"
    NO_TIME = "no_time"
    NOT_THEM = "not_them"
    NO_LENGTH = "no_length"


@dataclass(frozen=True, kw_only=True)
class WhyNot:
    """Why a technician cannot take a visit: what keeps them first, what that is about, and all of it in words."""

    hindrance: Hindrance
    about: str = ""
    reasons: tuple[str, ...]


SHIFT_OVER = WhyNot(hindrance=Hindrance.OVER, reasons=("The shift is over",))


def why_not(problem: Problem, days: list[Day], visit: VisitSpec, *, thorough: bool = True) -> WhyNot:
    """Why none of a technician's days can take a visit: the limits that exclude.

    Parameters
    ----------
    days
        One technician's, as the playbook sees them.
    thorough
        Whether to find out what would break where it would break least, or only that there is no room.
    """
    playbook = problem.playbook
    visit = playbook.on_visit(visit)
    name = days[0].technician.name
    if visit.duration is None:
        said = "No duration yet: give one before planning it"
        return WhyNot(hindrance=Hindrance.NO_LENGTH, reasons=(said,))
    on_shift = [day for day in days if day.shift is not None]
    if not on_shift:
        return WhyNot(hindrance=Hindrance.NO_SHIFT, reasons=(f"{name} has no shift on these days",))
    fits: list[Broken] = []
    for day in on_shift:
        assert day.shift is not None
        broken = [
            b for b in fit_rules(day, Stop(visit=visit, start=day.shift.hours.start)) if playbook.setting(b.limit).on
        ]
        if not broken:
            return _no_room(problem, on_shift, visit) if thorough else _no_time(name)
        fits = broken
    return _hindered(fits[0], (found.sentence for found in fits))


def _no_time(name: str) -> WhyNot:
    return WhyNot(hindrance=Hindrance.NO_TIME, reasons=(f"{name} has no time for it then",))


def _no_room(problem: Problem, days: list[Day], visit: VisitSpec) -> WhyNot:
    """The technician could, but has no time: what breaks where it would break least."""
    best: list[Broken] | None = None
    where = days[0]
    for day in _days_of_promise(days, visit)[:1]:
        without = day.without(visit.id)
        now = problem.now_for(day)
        known = {(b.limit, b.visit_id) for b in evaluate_day(without, problem.travel, now=now).broken}
        for start in _tries(without, visit, now):
            found = evaluate_day(without.with_stop(Stop(visit=visit, start=start)), problem.travel, now=now)
            new = [
                b for b in found.broken if (b.limit, b.visit_id) not in known and problem.playbook.setting(b.limit).on
            ]
            if new and (best is None or _badness(new) < _badness(best)):
                best, where = new, day
    if best is None:
        return _no_time(days[0].technician.name)
    when = ""
    if len(days) > 1 and where.shift is not None:
        when = f"{day_words(local_day(where.shift.hours.start, where.tz))}: "
    labels = {stop.visit.id: stop.visit.label for stop in where.stops}
    return _hindered(best[0], (when + _about(broken, labels) for broken in best[:3]))


def _about(broken: Broken, labels: Mapping[int, str]) -> str:
    """The sentence, with the visit's name when it is about another visit of that day."""
    return str(about(labels.get(broken.visit_id or 0, ""), broken.why))


def _badness(broken: list[Broken]) -> tuple[int, int]:
    return (sum(found.limit is Limit.ABSENCE for found in broken), sum(max(found.seconds, 600) for found in broken))


def _days_of_promise(days: list[Day], visit: VisitSpec) -> list[Day]:
    """Days on which the visit may be at all; all of them when nothing was promised."""
    if not visit.windows:
        return days
    wanted = [
        day
        for day in days
        if day.shift and any(w.start <= day.shift.last_end and w.end >= day.shift.hours.start for w in visit.windows)
    ]
    return wanted or days[:1]


def _tries(day: Day, visit: VisitSpec, now: int | None) -> list[int]:
    """Starts worth trying: the beginnings of windows, and right after each stop."""
    assert day.shift is not None
    first = max(day.shift.hours.start, now or 0, visit.earliest or 0)
    starts = {max(first, stop.start + (stop.visit.duration or 0)) for stop in day.stops} | {first}
    for window in visit.windows:
        starts |= {max(first, window.start), max(first, window.end)}
    return sorted(starts)[:8]


def in_short(hindrances: Iterable[WhyNot]) -> tuple[str, ...]:
    """What keeps technicians out: what several share is counted, the most common first."""
    said = Counter(_GISTS[row.hindrance].format(about=row.about) for row in hindrances)
    return tuple(f"{count} of {said.total()} technicians: {gist}" for gist, count in said.most_common())


_GISTS: dict[Hindrance, str] = {
    Hindrance.NEEDED: "{about} is needed",
    Hindrance.AREA: "{about} is outside their areas",
    Hindrance.NO_SHIFT: "no shift then",
    Hindrance.ABSENT: "absent",
    Hindrance.OVER: "the shift is over",
    Hindrance.NO_TIME: "no time left for it",
    Hindrance.NOT_THEM: "not to be sent there",
    Hindrance.NO_LENGTH: "it has no duration yet",
}
_BY_LIMIT = {
    Limit.SKILL: Hindrance.NEEDED, Limit.CERTIFICATE: Hindrance.NEEDED, Limit.PARTS: Hindrance.NEEDED,
    Limit.AREA: Hindrance.AREA, Limit.ABSENCE: Hindrance.ABSENT,
    Limit.FORBIDDEN: Hindrance.NOT_THEM, Limit.REQUIRED: Hindrance.NOT_THEM, Limit.DURATION: Hindrance.NO_LENGTH,
}  # fmt: skip


def _hindered(broken: Broken, reasons: Iterable[str]) -> WhyNot:
    hindrance = _BY_LIMIT.get(broken.limit, Hindrance.NO_TIME)
    return WhyNot(hindrance=hindrance, about=broken.about, reasons=tuple(dict.fromkeys(reasons)))
