"""Where days begin and end, from a day on: what was before that day stays as it was."""

from collections.abc import Iterable
from datetime import date, datetime

from apps.company.events import DepotMoves
from apps.company.queries import time_zone
from apps.people.models import FormerEnds, Technician
from core.calendars import local_day
from foundation.errors import Rejected


def keep_ends(technicians: Iterable[Technician], *, until: date) -> None:
    """Keep where these technicians' days begin and end for the days before `until`; called before that changes.

    What was to hold only from a later day on is given up with it.
    """
    for technician in technicians:
        kept = technician.former_ends.filter(until__gte=until).order_by("until")
        held = kept.first() or _now(technician)
        kept.delete()
        held.pk, held.until = None, until
        held.save(force_insert=True)


def checked_from(valid_from: date | None, now: datetime) -> date:
    """The day from which something holds: today when none is named.

    Raises
    ------
    Rejected
        For a day that is over.
    """
    today = local_day(int(now.timestamp()), time_zone())
    if valid_from is not None and valid_from < today:
        raise Rejected("What was driven stays as it was: begin today or later.", field="valid_from")
    return valid_from or today


def keep_before_a_move(event: DepotMoves) -> None:
    """Days before today go on beginning where the depot was."""
    keep_ends(Technician.objects.select_related("depot").filter(depot_id=event.depot_id), until=event.until)


def _now(technician: Technician) -> FormerEnds:
    depot = technician.depot
    start, end = (
        (technician.home_lon, technician.home_lat) if at_home else (depot.lon, depot.lat)
        for at_home in (technician.starts_at_home, technician.ends_at_home)
    )
    return FormerEnds(
        technician=technician, depot=depot.name, start_lon=start[0] or 0.0, start_lat=start[1] or 0.0,
        end_lon=end[0] or 0.0, end_lat=end[1] or 0.0,
    )  # fmt: skip
