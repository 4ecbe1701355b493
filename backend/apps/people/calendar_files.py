"""Absences from a calendar file (iCalendar, RFC 5545): each event is one."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import icalendar
from django.db import transaction

from apps.company.queries import time_zone
from apps.people.commands import note_absence
from core.calendars import day_interval
from foundation.actors import Actor
from foundation.errors import Rejected, RelayError

MOST_EVENTS, LARGEST = 500, 2**20


@dataclass(frozen=True, kw_only=True)
class Event:
    """One event of the file: its words, from when until when (epoch seconds), and why it is not taken."""

    words: str
    start: int | None
    end: int | None
    problem: str = ""


def bring_in(*, actor: Actor, now: datetime, technician_id: int, content: bytes, kind: str, sure: bool) -> list[Event]:
    """Take the events of a file as somebody's absences; those that are there already, or cannot be, are told.

    Parameters
    ----------
    sure
        Whether it is meant; otherwise all is taken back, and only what would come of each event is told.

    Raises
    ------
    Rejected
        When it is no calendar.
    """
    if len(content) > LARGEST:
        raise Rejected("The file is larger than 1 MB: split it.", field="file")
    events = _read(content, time_zone())
    with transaction.atomic():
        found = [_note(event, actor, now, technician_id, kind) for event in events]
        if not sure:
            transaction.set_rollback(True)
    return found


def _note(event: Event, actor: Actor, now: datetime, technician_id: int, kind: str) -> Event:
    if event.problem or event.start is None or event.end is None:
        return event
    try:
        with transaction.atomic():
            note_absence(
                actor=actor, now=now, technician_id=technician_id, start=event.start, end=event.end,
                reason=event.words[:120], kind=kind,
            )  # fmt: skip
    except RelayError as error:
        return Event(words=event.words, start=event.start, end=event.end, problem=str(error))
    return event


def _read(content: bytes, tz: ZoneInfo) -> list[Event]:
    try:
        calendar = icalendar.Calendar.from_ical(content)
    except (ValueError, IndexError, KeyError) as error:
        raise Rejected("This is no calendar file (.ics).", field="file") from error
    rows = list(_events(calendar, tz))
    if not rows:
        raise Rejected("There is no event in this file.", field="file")
    if len(rows) > MOST_EVENTS:
        raise Rejected(f"More than {MOST_EVENTS} events: split the file.", field="file")
    return sorted(rows, key=lambda row: (row.start or 0, row.words))


def _events(calendar: Any, tz: ZoneInfo) -> Iterator[Event]:
    for row in calendar.walk("VEVENT"):
        words = str(row.get("summary", "")).strip() or "absent"
        try:
            start, end = _span(row, tz)
        except (AttributeError, TypeError, ValueError, OverflowError):
            yield Event(words=words, start=None, end=None, problem="When it begins cannot be read.")
            continue
        repeats = "It repeats: write each time as an event of its own." if row.get("rrule") else ""
        yield Event(words=words, start=start, end=end, problem=repeats)


def _span(row: Any, tz: ZoneInfo) -> tuple[int, int]:
    """Whole days by the company's clock; an end is the day after the last one. Times without a zone are its own."""
    first = row.decoded("dtstart")
    last = row.decoded("dtend") if row.get("dtend") else None
    if last is None:
        whole = timedelta(days=1) if not isinstance(first, datetime) else timedelta(hours=1)
        last = first + (row.decoded("duration") if row.get("duration") else whole)
    return _moment(first, tz), _moment(last, tz)


def _moment(value: date | datetime, tz: ZoneInfo) -> int:
    if not isinstance(value, datetime):
        return day_interval(value, tz).start
    return int((value if value.tzinfo else value.replace(tzinfo=tz)).timestamp())
