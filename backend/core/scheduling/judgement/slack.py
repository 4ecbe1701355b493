"""Why a placed visit stands where it stands: what speaks for it, what holds it there, how far it can slip."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from core.basics import minutes_in_words
from core.calendars import local_time
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN
from core.scheduling.judgement.explaining import why_here
from core.scheduling.judgement.judge import is_new
from core.scheduling.model.day import Day, Stop
from core.scheduling.model.limits import Broken
from core.scheduling.model.reasons import about
from core.scheduling.model.timetable import Kind, StopTimes, Timetable

# Delays are tried in these steps, up to this one; less than a step is not worth a sentence.
STEP = 300
MOST = 4 * 3600


@dataclass(frozen=True, kw_only=True)
class Slack:
    """A visit on its day.

    Attributes
    ----------
    reasons : what speaks for it and against it there, the weightiest first.
    sooner : seconds by which it could begin earlier with everything before it as it is; `held` says what stops it then.
    later : seconds by which it could begin later before anything breaks that holds now, at most MOST;
        `beyond` says what would break next, and is empty where nothing does. None for both once it has begun.
    """

    reasons: tuple[str, ...]
    sooner: int | None
    held: str
    later: int | None
    beyond: str


def slack_of(day: Day, visit_id: int, travel: Travel, *, now: int | None = None) -> Slack:
    """Why a visit stands where it stands on a day that is planned.

    Parameters
    ----------
    day
        The day with the visit on it.
    now
        As for `evaluate_day`.

    Raises
    ------
    StopIteration
        When the visit is not on that day.
    """
    after = evaluate_day(day, travel, now=now)
    position = next(number for number, stop in enumerate(day.stops) if stop.visit.id == visit_id)
    stop = day.stops[position]
    reasons = why_here(day, evaluate_day(day.without(visit_id), travel, now=now), after, stop.visit)
    if stop.has_begun:
        return Slack(reasons=reasons, sooner=None, held="", later=None, beyond="")
    sooner, held = _sooner(day, position, after, now)
    later, beyond = _later(day, position, after, travel, now)
    return Slack(reasons=reasons, sooner=sooner, held=held, later=later, beyond=beyond)


def _sooner(day: Day, position: int, timetable: Timetable, now: int | None) -> tuple[int, str]:
    """The latest of all that it has to wait for decides."""
    times = timetable.stops[position]
    barrier, words = max(_barriers(day, position, timetable, now), key=lambda row: row[0])
    return max(0, times.starts - barrier), words


def _barriers(day: Day, position: int, timetable: Timetable, now: int | None) -> Iterator[tuple[int, str]]:
    """Moments before which it cannot begin, each with why."""
    stop, times = day.stops[position], timetable.stops[position]
    drive = f"the drive takes {minutes_in_words(times.drive_seconds)}"
    if position:
        before, ended = day.stops[position - 1].visit.label, timetable.stops[position - 1].ends
        rest = _rest_between(timetable, ended, times)
        pause = f" and the break {minutes_in_words(rest)}" if rest else ""
        reached = ended + times.drive_seconds + rest
        yield reached, f"{before} before it ends at {local_time(ended, day.tz)}, {drive}{pause}"
    elif day.shift is not None:
        begins = day.shift.hours.start
        yield begins + times.drive_seconds, f"the shift begins at {local_time(begins, day.tz)}, {drive}"
    if now is not None:
        yield now, f"it is {local_time(now, day.tz)}"
    window = next((row for row in stop.visit.windows if row.holds(times.starts)), None)
    if window is not None:
        yield window.start, f"the promise begins at {local_time(window.start, day.tz)}"
    opened = next((row for row in stop.visit.opening if row.holds(times.starts)), None)
    if opened is not None:
        yield opened.start, f"the site opens at {local_time(opened.start, day.tz)}"
    if stop.visit.earliest is not None:
        yield stop.visit.earliest, "nobody may come before that day"


def _rest_between(timetable: Timetable, ended: int, times: StopTimes) -> int:
    return sum(
        stretch.seconds
        for stretch in timetable.stretches
        if stretch.kind is Kind.BREAK and ended <= stretch.start < times.starts
    )


def _later(day: Day, position: int, plan: Timetable, travel: Travel, now: int | None) -> tuple[int, str]:
    """The longest delay in steps that breaks nothing new, and what the next step breaks."""
    room = 0
    for delay in range(STEP, MOST + 1, STEP):
        slipped = evaluate_day(
            _slipped(day, position, plan.stops[position].starts + delay, travel, now), travel, now=now
        )
        worse = [found for found in slipped.broken if is_new(found, plan.broken)]
        if worse:
            return room, _said(day, day.stops[position], worse[0])
        room = delay
    return room, ""


def _slipped(day: Day, position: int, start: int, travel: Travel, now: int | None) -> Day:
    """The day when this visit begins then: those after it keep their order and begin when they can."""

    def at(starts: Mapping[int, int]) -> Day:
        stops = [replace(stop, start=starts.get(number, stop.start)) for number, stop in enumerate(day.stops)]
        return replace(day, stops=tuple(stops))

    after = range(position + 1, len(day.stops))
    in_order = {position: start} | {n: max(day.stops[n].start, start + n - position) for n in after}
    pushed = evaluate_day(at(in_order), travel, now=now)
    return at({position: start} | {n: pushed.stops[n].starts for n in after})


def _said(day: Day, stop: Stop, found: Broken) -> str:
    """The limit with whom it is about, unless that is the visit itself."""
    others = (other.visit for other in day.stops if other.visit.id != stop.visit.id)
    return str(about(next((visit.label for visit in others if visit.id == found.visit_id), ""), found.why))


def slip_in_words(slack: Slack) -> tuple[str, ...]:
    """How far it could go either way, as sentences."""
    if slack.sooner is None or slack.later is None:
        return ()
    sooner = (
        f"Not sooner: {slack.held}"
        if slack.sooner < STEP
        else f"Could begin {minutes_in_words(slack.sooner)} sooner; then {slack.held}"
    )
    if slack.later >= MOST - GRAIN and not slack.beyond:
        return sooner, f"Could begin {minutes_in_words(MOST)} later and nothing would break"
    if slack.later < STEP:
        return sooner, f"Not later: {slack.beyond}"
    return sooner, f"Could begin {minutes_in_words(slack.later)} later; beyond that: {slack.beyond}"
