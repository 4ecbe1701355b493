"""What lies where for planning: what is planned, what lies in depots and on vans, put together once for all who ask."""

from collections.abc import Collection, Iterable, Sequence
from datetime import date, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.takings import Taking
from apps.people.working_days import working_dates
from apps.stock.queries import supplies
from core.calendars import local_day
from core.scheduling.model.vans import Vans, sources
from core.stock import Need, Supplies, reserve
from foundation import clock

# Where it makes no difference what lies where.
NOT_COUNTED = Vans()


def vans_for(lines: Iterable[VisitLine], *, but: Collection[int] = ()) -> Vans:
    """What lies where of the parts that these visits take, with all that is planned having spoken for its own.

    Parameters
    ----------
    lines
        The visits that are looked at, as they are or as they would be. If none of them takes a part, no van matters,
        and nothing is read.
    but
        Visits that are asked about: they may come to lie elsewhere, so they speak for nothing yet.
    """
    lines = list(lines)
    parts = {part for line in lines for part in line.takes}
    if not parts:
        return NOT_COUNTED
    there = supplies(parts)
    if not there.on_hand:
        return NOT_COUNTED
    told = {line.id for line in lines}
    planned = [row for row in orders.takings(parts) if row.visit_id not in told and row.visit_id not in but]
    planned += [taking for line in lines if line.id not in but and (taking := _taking(line)) is not None]
    return reserved_by(planned, there, parts)


def reserved_by(planned: Sequence[Taking], there: Supplies, parts: Collection[str]) -> Vans:
    """Let what is planned speak for its parts."""
    days = _days_of(planned)
    begun = orders.begun(planned, now=clock.now())
    needs = [
        Need(
            visit=row.visit_id, technician=row.technician_id, day=days[row.visit_id], start=row.order, parts=row.takes,
            sources=sources(there.drivers.get(row.technician_id), days[row.visit_id], begun),
        )
        for row in planned
    ]  # fmt: skip
    return Vans(
        parts=frozenset(parts), supplies=there, reserved=reserve(needs, there.on_hand, there.coming), begun=begun
    )


def _days_of(planned: Sequence[Taking]) -> dict[int, date]:
    """The working day of each visit."""
    if not planned:
        return {}
    tz = time_zone()
    first = local_day(min(row.start for row in planned), tz) - timedelta(days=1)
    dates = working_dates(first, local_day(max(row.start for row in planned), tz), tz)
    return {row.visit_id: dates.of(row.technician_id, row.start) for row in planned}


def _taking(line: VisitLine) -> Taking | None:
    """What a visit will still take; whoever leads takes it along."""
    if line.technician_id is None or line.start is None or not line.takes or line.finished is not None:
        return None
    return Taking(
        visit_id=line.id, technician_id=line.technician_id, start=line.start,
        order=line.arrived or line.departed or line.start, takes=line.takes,
    )  # fmt: skip
