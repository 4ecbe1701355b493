"""Numbers of orders, requests, quotes, parts and purchase orders, in the company's pattern; none is given twice."""

from datetime import datetime

from django.db import connection

from apps.company.queries import settings, time_zone
from core.company import fill_in

_PATTERNS = {
    "order": ("order_number", 1001), "request": ("request_number", 1001), "quote": ("quote_number", 1001),
    "part": ("part_number", 10001), "purchase": ("purchase_number", 1001),
}  # fmt: skip


def take_numbers(name: str, count: int, *, now: datetime) -> list[str]:
    """The next `count` numbers of a kind, see the patterns. Two transactions never get the same one."""
    own = settings()
    pattern = getattr(own, _PATTERNS[name][0])
    first = own.order_number_next if name == "order" else _PATTERNS[name][1]
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO foundation_counter (name, last) VALUES (%s, %s) "
            "ON CONFLICT (name) DO UPDATE SET last = GREATEST(foundation_counter.last + %s, EXCLUDED.last) "
            "RETURNING last",
            [name, first + count - 1, count],
        )
        last = cursor.fetchone()[0]
    year = str(now.astimezone(time_zone()).year)
    return [fill_in(pattern, {"number": str(n), "year": year}) for n in range(last - count + 1, last + 1)]


def take_number(name: str, *, now: datetime) -> str:
    return take_numbers(name, 1, now=now)[0]
