"""Shifts from a file: all lines of somebody from one day on are their weeks."""

from collections.abc import Sequence
from datetime import date
from functools import partial

from apps.company.queries import time_zone
from apps.people import commands
from apps.people.inputs import ShiftFields
from apps.people.models import Technician
from apps.people.weeks import weeks_of
from apps.set_up.rows import Becomes, Hand, SetUpRow, together
from core.calendars import local_day
from foundation.errors import Rejected


def write_shifts(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """Weeks in turn are numbered from 1. Without a day they begin today, or on the first day of who comes later."""
    groups: dict[tuple[str, date | None], list[SetUpRow]] = {}
    for row in rows:
        since = row.cells.get("from_day")
        key = row.text("technician").casefold(), since if isinstance(since, date) else None
        groups.setdefault(key, []).append(row)
    for (name, since), lines in groups.items():
        together(lines, partial(_set, hand, name, since, lines))


def _set(hand: Hand, name: str, since: date | None, lines: Sequence[SetUpRow]) -> Becomes:
    person = Technician.objects.defer("portrait").filter(name__iexact=name).first()
    if person is None:
        raise Rejected(f"There is no technician {lines[0].text('technician')}: bring people in first")
    shifts = [shift for line in lines for shift in _shifts(line)]
    weeks = max(shift.week for shift in shifts) + 1
    if weeks > 1 and since is None:
        raise Rejected("Weeks in turn need the day on which the first one begins: fill in from_day")
    today = local_day(int(hand.now.timestamp()), time_zone())
    begins = since or max(today, person.employed_from or today)
    held = [week for week in weeks_of(person.pk, now=hand.now) if week.valid_until is None]
    for week in held:
        began = week.valid_from == begins or (weeks == 1 and week.valid_from < begins)
        if began and week.weeks == weeks and _same(week.shifts, shifts):
            return Becomes.SAME
    commands.set_week(
        **hand.how, technician_id=person.pk, version=person.version, shifts=shifts, valid_from=begins, weeks=weeks
    )
    return Becomes.CHANGE if held else Becomes.NEW


def _same(one: Sequence[ShiftFields], other: Sequence[ShiftFields]) -> bool:
    return sorted(one, key=_place) == sorted(other, key=_place)


def _place(shift: ShiftFields) -> tuple[int, int]:
    return shift.week, shift.weekday


def _shifts(row: SetUpRow) -> list[ShiftFields]:
    start, end, on_call = row.cells["start"], row.get("end", None), row.get("on_call_until", None)
    if end is None and on_call is None:
        raise Rejected("The end is missing: say until when, or until when on call")
    week = row.get("week", None) or 1
    minutes = (row.get("break_minutes", None) or 0) if end is not None else 0
    if minutes and not (row.get("break_earliest", None) and row.get("break_latest", None)):
        raise Rejected("Between which times is the break?")
    return [
        ShiftFields(
            weekday=weekday, week=week - 1, start=start, end=end if end is not None else start,
            gap_start=row.get("gap_start", None), gap_end=row.get("gap_end", None), on_call_until=on_call,
            rest_minutes=minutes, rest_earliest=row.cells["break_earliest"] if minutes else None,
            rest_latest=row.cells["break_latest"] if minutes else None,
            overtime_minutes=(row.get("overtime_minutes", None) or 0) if end is not None else 0,
        )
        for weekday in row.cells["days"]
    ]  # fmt: skip
