"""How days and times of day are said. The company chooses a style; a process works for one company and has one."""

from dataclasses import dataclass
from datetime import date, datetime, time
from zoneinfo import ZoneInfo

from core.basics import Interval


@dataclass(frozen=True, kw_only=True)
class Style:
    """With twelve hours "2:05 pm" instead of "14:05"; with the month first "Mon Nov 23" instead of "Mon 23 Nov"."""

    twelve_hours: bool = False
    month_first: bool = False


_style = Style()


def use(style: Style) -> None:
    """Say days and times in this style from now on."""
    global _style
    _style = style


def time_words(at: time | datetime) -> str:
    """A time of day as "14:05"."""
    if not _style.twelve_hours:
        return at.strftime("%H:%M")
    return f"{at.hour % 12 or 12}:{at.minute:02} {'am' if at.hour < 12 else 'pm'}"


def local_time(moment: int, tz: ZoneInfo) -> str:
    """A moment as "14:05" on the wall clock."""
    return time_words(datetime.fromtimestamp(moment, tz))


def window_words(window: Interval, tz: ZoneInfo) -> str:
    """An interval within a day as "Mon 23 Nov 10:00–12:00"."""
    start, end = window.start, window.end
    return f"{day_words(datetime.fromtimestamp(start, tz))} {local_time(start, tz)}–{local_time(end, tz)}"


def day_words(day: date, *, weekday: bool = True, year: bool = False) -> str:
    """A day as "Mon 23 Nov"; with the year "Mon 23 Nov 2026"."""
    words = f"{day:%b} {day.day}" if _style.month_first else f"{day.day} {day:%b}"
    if year:
        words += f"{',' if _style.month_first else ''} {day.year}"
    return f"{day:%a} {words}" if weekday else words
