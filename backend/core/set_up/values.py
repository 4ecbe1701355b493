"""What a cell of a set-up file says, read into a value. Each reader raises ValueError with what is wrong, in words."""

import re
from collections.abc import Sequence
from datetime import date, time
from decimal import Decimal, InvalidOperation

from core.basics.tables import read_day
from core.calendars import WEEKDAYS
from core.pricing import UNITS, Category, ItemKind
from core.stock import Tracking

_YES, _NO = {"yes", "y", "true", "1", "x"}, {"no", "n", "false", "0"}
_SHORT = [name[:3].casefold() for name in WEEKDAYS]


def day(text: str) -> date:
    if (found := read_day(text)) is None:
        raise ValueError(f"“{text}” is no date like 2026-11-23 or 23.11.2026")
    return found


def clock_time(text: str) -> time:
    """Like 8, 8:30, 08.30 or 0830."""
    parts = re.fullmatch(r"(\d{1,2})(?:[:.]?(\d{2}))?(?::00)?", text)
    if parts is None or int(parts[1]) > 24 or int(parts[2] or 0) > 59 or (parts[1] == "24" and int(parts[2] or 0)):
        raise ValueError(f"“{text}” is no time like 8:30")
    return time(int(parts[1]) % 24, int(parts[2] or 0))


def whole(text: str) -> int:
    if not re.fullmatch(r"\d{1,5}", text):
        raise ValueError(f"“{text}” is no whole number")
    return int(text)


def degrees(text: str) -> float:
    try:
        found = float(text.replace(",", "."))
    except ValueError:
        raise ValueError(f"“{text}” is no number") from None
    if not -180 <= found <= 180:
        raise ValueError(f"“{text}” is no longitude or latitude")
    return found


def amount(text: str) -> Decimal:
    """An amount of money with at most two decimals."""
    try:
        found = Decimal(text.replace(",", "."))
    except InvalidOperation:
        raise ValueError(f"“{text}” is no amount like 42.50") from None
    if not found.is_finite() or found < 0 or found >= 1_000_000 or found != round(found, 2):
        raise ValueError(f"“{text}” is no amount like 42.50")
    return round(found, 2)


def yes_no(text: str) -> bool:
    if text.casefold() not in _YES | _NO:
        raise ValueError(f"“{text}” is neither yes nor no")
    return text.casefold() in _YES


def names(text: str) -> tuple[str, ...]:
    """Names between commas, each once."""
    return tuple(dict.fromkeys(name.strip() for name in text.split(",") if name.strip()))


def levels(text: str) -> dict[str, int]:
    """Skills with their levels, like "Door drives 3, Rescue 1"; without a level: 1."""
    found = {}
    for part in names(text):
        parts = re.fullmatch(r"(.*?)[\s:]+(\d+)", part)
        name, level = (parts[1].strip(), int(parts[2])) if parts else (part, 1)
        if not 1 <= level <= 5:
            raise ValueError(f"“{part}”: a level is 1 to 5")
        found[name] = level
    return found


def weekdays(text: str) -> tuple[int, ...]:
    """Days like "Mon-Fri", "Sat" or "Mon, Wed, Fri" (0 = Monday)."""
    found: set[int] = set()
    for part in names(text):
        ends = [_weekday(end) for end in re.split(r"\s*[-–]\s*", part)]
        if len(ends) > 2 or ends[0] > ends[-1]:
            raise ValueError(f"“{part}” are no days like Mon-Fri")
        found |= set(range(ends[0], ends[-1] + 1))
    return tuple(sorted(found))


def _weekday(text: str) -> int:
    name = text.strip().casefold()
    if len(name) < 2 or (name[:3] not in _SHORT and name not in {short[:2] for short in _SHORT}):
        raise ValueError(f"“{text}” is no day of the week like Mon")
    return next(number for number, short in enumerate(_SHORT) if short.startswith(name[:3]))


def days_in_words(days: Sequence[int]) -> str:
    """Weekdays as `weekdays` reads them."""
    words = [WEEKDAYS[number][:3] for number in days]
    together = len(days) > 2 and list(days) == list(range(days[0], days[-1] + 1))
    return f"{words[0]}-{words[-1]}" if together else ", ".join(words)


def item_kind(text: str) -> ItemKind:
    try:
        return ItemKind(text.casefold())
    except ValueError:
        raise ValueError(f"“{text}” is none of {', '.join(ItemKind)}") from None


def tracking(text: str) -> Tracking:
    try:
        return Tracking(text.casefold())
    except ValueError:
        raise ValueError(f"“{text}” is none of {', '.join(Tracking)}") from None


def email(text: str) -> str:
    if not re.fullmatch(r"[^@\s]+@[^@\s]+\.[^@\s]+", text) or len(text) > 254:
        raise ValueError(f"“{text}” is no e-mail address")
    return text


def tax_category(text: str) -> Category:
    try:
        return Category(text.casefold())
    except ValueError:
        raise ValueError(f"“{text}” is none of {', '.join(Category)}") from None


def unit(text: str) -> str:
    """A code of UN/ECE Recommendation 20, or the word for it."""
    by_name = {name.casefold(): code for code, name in UNITS.items()}
    code = by_name.get(text.casefold(), text.upper())
    if code not in UNITS:
        raise ValueError(f"“{text}” is no unit like {', '.join(UNITS.values())}")
    return code


def percent(text: str) -> Decimal:
    return _decimal(text.rstrip("% "), most=Decimal("99.99"), digits=2, like="a percentage like 23")


def share(text: str) -> Decimal:
    """A percentage up to the whole: "5" or "12,5"."""
    return _decimal(text, most=Decimal(100), digits=3, like="5 or 12.5")


def thousandths(text: str) -> int:
    """Hours like 1.25 as thousandths."""
    return int(_decimal(text, most=Decimal(9999), digits=3, like="hours like 1.25") * 1000)


def _decimal(text: str, *, most: Decimal, digits: int, like: str) -> Decimal:
    try:
        found = Decimal(text.replace(",", "."))
    except InvalidOperation:
        raise ValueError(f"“{text}” is not {like}") from None
    if not found.is_finite() or not 0 <= found <= most or found != round(found, digits):
        raise ValueError(f"“{text}” is not {like}")
    return found
