"""Reasons as data, and the one place where they become words."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from string import Formatter
from typing import Any
from zoneinfo import ZoneInfo

from core.basics import minutes_in_words
from core.calendars import day_words, local_day, local_time


class Code(StrEnum):
    """What a reason is. Each asks for its own parameters, by the names in its template."""

    SKILL_MISSING = "skill_missing"
    SKILL_TOO_LOW = "skill_too_low"
    OUTSIDE_AREA = "outside_area"
    CERTIFICATE_MISSING = "certificate_missing"
    CERTIFICATE_ENDS = "certificate_ends"
    REFUSED_THERE = "refused_there"
    OTHER_REQUIRED = "other_required"
    PARTS_MISSING = "parts_missing"
    PARTS_TAKEN_BEFORE = "parts_taken_before"
    PARTS_LATER = "parts_later"
    PARTS_USED_UP = "parts_used_up"
    PARTS_ELSEWHERE = "parts_elsewhere"
    PARTS_NOWHERE = "parts_nowhere"
    NO_LENGTH = "no_length"
    NO_SHIFT = "no_shift"
    BEFORE_SHIFT = "before_shift"
    ENDS_AFTER_SHIFT = "ends_after_shift"
    HOME_AFTER_SHIFT = "home_after_shift"
    ON_CALL_ONLY = "on_call_only"
    AFTER_ON_CALL = "after_on_call"
    SPLIT_SHIFT = "split_shift"
    ABSENT = "absent"
    ABSENT_TO_THE_END = "absent_to_the_end"
    ABSENT_THAT_DAY = "absent_that_day"
    OVERLAPS = "overlaps"
    DRIVE_TOO_LONG_TO_FIT = "drive_too_long_to_fit"
    HAS_PASSED = "has_passed"
    AFTER_PROMISE = "after_promise"
    BEFORE_PROMISE = "before_promise"
    CLOSED_THAT_DAY = "closed_that_day"
    OPEN_ONLY = "open_only"
    AFTER_DUE = "after_due"
    BEFORE_EARLIEST = "before_earliest"
    LONG_DRIVE = "long_drive"
    NO_BREAK = "no_break"
    TOO_MANY_VISITS = "too_many_visits"
    CREW_SIZE = "crew_size"
    CREW_APART = "crew_apart"
    OTHER_TECHNICIANS = "other_technicians"
    FOLLOWS_UNPLANNED = "follows_unplanned"
    STARTS_WITH_UNPLANNED = "starts_with_unplanned"
    STARTS_APART = "starts_apart"
    TOO_EARLY_AFTER = "too_early_after"
    TOO_LATE_AFTER = "too_late_after"
    LOCKED = "locked"
    UNDER_WAY = "under_way"
    OVER = "over"
    PINNED = "pinned"
    SENT = "sent"
    NOT_TO_BE_PLANNED = "not_to_be_planned"
    OUT_OF_REACH = "out_of_reach"
    TIED_ELSEWHERE = "tied_elsewhere"
    OWN_LENGTH = "own_length"
    INSIDE_PROMISE = "inside_promise"
    MORE_DRIVING = "more_driving"
    LESS_DRIVING = "less_driving"
    MORE_DRIVING_FOR = "more_driving_for"
    LESS_DRIVING_FOR = "less_driving_for"
    BACK_IN_TIME = "back_in_time"
    OVERTIME = "overtime"
    DRIVING_GUESSED = "driving_guessed"
    PUSHES_ONE = "pushes_one"
    PUSHES = "pushes"
    ABOUT = "about"


# A parameter's format: `length` seconds, `clock` and `day` moments, `date` a moment with its year, `window` two moments
# and the one they are seen from, `minutes` seconds as whole minutes, `begun` a reason for the middle of a sentence.
TEMPLATES: Mapping[Code, str] = {
    Code.SKILL_MISSING: "{skill} {least} needed, {technician} has none",
    Code.SKILL_TOO_LOW: "{skill} {least} needed, {technician} has level {level}",
    Code.OUTSIDE_AREA: "{area} is not an area of {technician}",
    Code.CERTIFICATE_MISSING: "{certificate} needed, {technician} has no such certificate",
    Code.CERTIFICATE_ENDS: "{certificate} of {technician} is valid until {until:date} only",
    Code.REFUSED_THERE: "{technician} is not to be sent there",
    Code.OTHER_REQUIRED: "Somebody else is required there, not {technician}",
    Code.PARTS_MISSING: "{wanted} × {part} needed, {where}",
    Code.PARTS_TAKEN_BEFORE: "{wanted} × {part} needed, {where}, {spoken} of them for visits before it",
    Code.PARTS_LATER: "{wanted} × {part} needed, {there} there by then: more comes at {at:clock}",
    Code.PARTS_USED_UP: "{technician} would use {used} × {part}, {has} there to take along",
    Code.PARTS_ELSEWHERE: "{part}: {place} has {has} free, {detour:minutes} min off the route at {at:clock}",
    Code.PARTS_NOWHERE: "{part} is on nobody's way in time",
    Code.NO_LENGTH: "No duration yet: give one before placing it",
    Code.NO_SHIFT: "{technician} has no shift that day",
    Code.BEFORE_SHIFT: "{early:length} before the shift starts at {at:clock}",
    Code.ENDS_AFTER_SHIFT: "Ends {past:length} after the shift at {at:clock}; {allowed:overtime}",
    Code.HOME_AFTER_SHIFT: "Back {past:length} after the shift at {at:clock}; {allowed:overtime}",
    Code.ON_CALL_ONLY: "{technician} is on call from {at:clock}: for work of priority 1 only",
    Code.AFTER_ON_CALL: "{technician} is on call until {at:clock}: {past:length} too long",
    Code.SPLIT_SHIFT: "{technician} does not work from {start:clock} to {end:clock}, between two parts of the shift",
    Code.ABSENT: "{technician} is absent from {start:clock} to {end:clock}",
    Code.ABSENT_TO_THE_END: "{technician} is absent from {start:clock} to the end of the day",
    Code.ABSENT_THAT_DAY: "{technician} is absent that day",
    Code.OVERLAPS: "Overlaps {visit} by {shared:length}",
    Code.DRIVE_TOO_LONG_TO_FIT: "The {drive:length} drive does not fit: there at {at:clock}, {late:length} late",
    Code.HAS_PASSED: "{start:clock} has passed",
    Code.AFTER_PROMISE: "{late:length} after the promise {promise:window}",
    Code.BEFORE_PROMISE: "{early:length} before the promise {promise:window}",
    Code.CLOSED_THAT_DAY: "The site is closed that day",
    Code.OPEN_ONLY: "The site is open {hours:window} only",
    Code.AFTER_DUE: "Ends {late:length} after it is due",
    Code.BEFORE_EARLIEST: "May not start before {earliest:day} {earliest:clock}",
    Code.LONG_DRIVE: "{drive:minutes} min of driving from the visit before, at most {most:minutes}",
    Code.NO_BREAK: "No room for the {rest:length} break between {start:clock} and {end:clock}",
    Code.TOO_MANY_VISITS: "{visits} visits, at most {most} a day",
    Code.CREW_SIZE: "{visit} takes {wanted}, {going} go there",
    Code.CREW_APART: "{visit}: the crew does not start together",
    Code.OTHER_TECHNICIANS: "{visit} needs the same technicians as {other}",
    Code.FOLLOWS_UNPLANNED: "{visit} comes after {other}, which is not planned",
    Code.STARTS_WITH_UNPLANNED: "{visit} starts with {other}, which is not planned",
    Code.STARTS_APART: "{visit} starts {apart:length} apart from {other}",
    Code.TOO_EARLY_AFTER: "{visit} starts {early:length} too early after {other}",
    Code.TOO_LATE_AFTER: "{visit} starts {late:length} too late after {other}",
    Code.LOCKED: "It is locked",
    Code.UNDER_WAY: "It is {state}: what is under way does not move",
    Code.OVER: "It is {state}",
    Code.PINNED: "It is pinned: take the pin out first",
    Code.SENT: "It was sent",
    Code.NOT_TO_BE_PLANNED: "It is not one of those to be planned",
    Code.OUT_OF_REACH: "{problem}",
    Code.TIED_ELSEWHERE: "It is tied to {other}, which is planned elsewhere",
    Code.OWN_LENGTH: "{own:length} of work by the visits {technician} has done, usually {usual:length}",
    Code.INSIDE_PROMISE: "Inside the promise, {room:length} to spare",
    Code.MORE_DRIVING: "{extra:length} more driving: {before:minutes} min before it, {after:minutes} after",
    Code.LESS_DRIVING: "{extra:length} less driving: {before:minutes} min before it, {after:minutes} after",
    Code.MORE_DRIVING_FOR: "{extra:length} more driving for {technician}",
    Code.LESS_DRIVING_FOR: "{extra:length} less driving for {technician}",
    Code.BACK_IN_TIME: "Back {left:length} before the shift ends",
    Code.OVERTIME: "{over:length} of overtime",
    Code.DRIVING_GUESSED: "No road leads there on the map: driving is a guess",
    Code.PUSHES_ONE: "Pushes 1 later visit",
    Code.PUSHES: "Pushes {visits} later visits",
    Code.ABOUT: "{about}: {reason:begun}",
}


@dataclass(frozen=True)
class Why:
    """A reason: what it is, of whom and how much. Moments and lengths among `given` are in seconds."""

    code: Code
    given: Mapping[str, Any] = field(default_factory=dict)
    tz: ZoneInfo | None = None

    def __str__(self) -> str:
        return _Words(self.tz).vformat(TEMPLATES[self.code], (), self.given)

    def __hash__(self) -> int:
        return hash((self.code, str(self)))

    def as_json(self) -> dict[str, Any]:
        """Code and parameters, for whoever words it in another way."""
        given = {name: value.as_json() if isinstance(value, Why) else value for name, value in self.given.items()}
        return {"code": self.code.value, "given": given}


def why(code: Code, tz: ZoneInfo | None = None, /, **given: Any) -> Why:
    return Why(code=code, given=given, tz=tz)


def about(name: str, reason: Why) -> Why:
    """The reason with whom it is about before it; without a name as it is."""
    return Why(code=Code.ABOUT, given={"about": name, "reason": reason}) if name else reason


def begun(sentence: str) -> str:
    """For the middle of a sentence; a name or a number stays as it is."""
    first = sentence.split(" ", 1)[0]
    named = any(sign.isupper() or sign.isdigit() for sign in first[1:])
    return sentence if named else sentence[:1].lower() + sentence[1:]


class _Words(Formatter):
    """Parameters as they are said, on the wall clock of a zone."""

    def __init__(self, tz: ZoneInfo | None) -> None:
        self.tz = tz

    def format_field(self, value: Any, format_spec: str) -> str:
        if format_spec in _MOMENTS:
            assert self.tz is not None
            return _MOMENTS[format_spec](value, self.tz)
        return _PLAIN[format_spec](value) if format_spec in _PLAIN else str(value)


def _window(value: tuple[int, int, int], tz: ZoneInfo) -> str:
    """ "10:00-12:00", with the day when it is another one than the third moment's."""
    start, end, seen_from = value
    words, day = f"{local_time(start, tz)}–{local_time(end, tz)}", local_day(start, tz)
    return words if day == local_day(seen_from, tz) else f"{day_words(day)} {words}"


_MOMENTS: Mapping[str, Callable[[Any, ZoneInfo], str]] = {
    "clock": local_time,
    "day": lambda moment, tz: day_words(local_day(moment, tz)),
    "date": lambda moment, tz: day_words(local_day(moment, tz), weekday=False, year=True),
    "window": _window,
}
_PLAIN: Mapping[str, Callable[[Any], str]] = {
    "length": minutes_in_words,
    "minutes": lambda seconds: str(seconds // 60),
    "overtime": lambda s: f"only {minutes_in_words(s)} overtime allowed" if s else "no overtime allowed",
    "begun": lambda reason: begun(str(reason)),
}
