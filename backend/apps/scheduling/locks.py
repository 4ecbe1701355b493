"""Locks of planning, always in one order, so that two commands wait for each other and never both: visits by their
ids, then working days by technician and date."""

from collections.abc import Iterable
from datetime import date, timedelta

from django.db import connection

from apps.company.queries import time_zone
from apps.orders.models import Visit
from core.calendars import day_interval, local_day

# A shift that began in the evening is over so many seconds after midnight.
NIGHT_SECONDS = 12 * 3600

Place = tuple[int, int]


def lock_visits(ids: Iterable[int]) -> None:
    """Nobody else changes these visits until this transaction ends."""
    wanted = sorted(set(ids))
    list(Visit.objects.select_for_update().filter(pk__in=wanted).order_by("pk").values_list("pk", flat=True))


def lock_places(places: Iterable[Place]) -> None:
    """One placement at a time on a technician's working day, so that each is judged on what is really there.

    Parameters
    ----------
    places
        Technician and moment, epoch seconds.
    """
    keys = sorted({(technician_id, day) for technician_id, start in places for day in _days_of(start)})
    with connection.cursor() as cursor:
        for technician_id, day in keys:
            cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [technician_id % 2**31, day.toordinal()])


def _days_of(start: int) -> Iterable[date]:
    """The working days a moment may belong to, by the company's clock: before noon also the night before."""
    tz = time_zone()
    day = local_day(start, tz)
    at_night = start - day_interval(day, tz).start < NIGHT_SECONDS
    return (day - timedelta(days=1), day) if at_night else (day,)
