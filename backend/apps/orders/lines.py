"""A visit as a line of a list: plain values, because a board has thousands of them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from apps.orders.models import Visit, VisitQuerySet
from core.basics import Interval, Place
from core.orders import VisitState
from foundation.moments import to_moment


@dataclass(frozen=True, kw_only=True, slots=True)
class VisitLine:
    """What the board, the backlog and the phone show of a visit. Times are epoch seconds."""

    id: int
    version: int
    order_id: int
    state: VisitState
    title: str
    job_type: str | None
    job_type_id: int | None
    certificates: tuple[str, ...]
    customer: str
    site: str
    site_id: int
    address: str
    place: Place
    area: str | None
    priority: int
    duration_seconds: int | None
    needs: Mapping[str, int]
    promise: Interval | None
    earliest: int | None
    due: int | None
    technician_id: int | None
    start: int | None
    pinned: bool
    departed: int | None
    arrived: int | None
    finished: int | None
    order_number: str
    part: int
    part_title: str
    crew: int
    mates: tuple[int, ...]
    standby: Mapping[str, Any] | None
    opening: tuple[str, ...]
    noted: bool
    takes: Mapping[str, int]
    worth: int | None

    @property
    def number(self) -> str:
        """The order's number; with the visit's own behind it where the order has several."""
        return self.order_number if self.part == 1 and not self.part_title else f"{self.order_number}/{self.part}"


# In the order in which `_line` takes them.
_COLUMNS = (
    "id", "version", "order_id", "state", "order__title", "order__job_type__name",
    "order__job_type_id", "order__job_type__certificates", "order__customer__name",
    "order__site__name", "order__site_id",
    "order__site__address", "order__site__lon", "order__site__lat", "order__site__area__name",
    "priority", "duration_seconds", "needs", "promise_start", "promise_end", "earliest", "due", "technician_id",
    "start", "pinned", "departed_at", "arrived_at", "finished_at", "order__number", "part", "title", "crew", "mates",
    "standby", "order__site__opening", "notes", "order__technician_note", "takes", "worth",
)  # fmt: skip


def lines_of(rows: VisitQuerySet) -> Iterator[VisitLine]:
    """Fetch the rows as lines, in one query."""
    return (_line(*values) for values in rows.values_list(*_COLUMNS))


def line_of(visit: Visit) -> VisitLine:
    """A visit that has been fetched whole, as a line."""
    order, site = visit.order, visit.order.site
    return _line(
        visit.pk, visit.version, visit.order_id, visit.state, order.title,
        order.job_type.name if order.job_type else None, order.job_type_id,
        order.job_type.certificates if order.job_type else None, order.customer.name, site.name, site.pk, site.address,
        site.lon, site.lat, site.area.name if site.area else None, visit.priority, visit.duration_seconds, visit.needs,
        visit.promise_start, visit.promise_end, visit.earliest, visit.due, visit.technician_id, visit.start,
        visit.pinned, visit.departed_at, visit.arrived_at, visit.finished_at, order.number, visit.part, visit.title,
        visit.crew, visit.mates, visit.standby, site.opening, visit.notes, order.technician_note, visit.takes,
        visit.worth,
    )  # fmt: skip


def _line(
    id_: int, version: int, order_id: int, state: str, title: str, job_type: str | None,
    job_type_id: int | None, certificates: list[str] | None, customer: str, site: str,
    site_id: int, address: str, lon: float, lat: float, area: str | None, priority: int, duration: int | None,
    needs: dict[str, Any], promise_start: datetime | None, promise_end: datetime | None, earliest: datetime | None,
    due: datetime | None, technician_id: int | None, start: datetime | None, pinned: bool,
    departed: datetime | None, arrived: datetime | None, finished: datetime | None, order_number: str, part: int,
    part_title: str, crew: int, mates: list[int], standby: dict[str, Any] | None, opening: list[str],
    notes: str, technician_note: str, takes: dict[str, int], worth: int | None,
) -> VisitLine:  # fmt: skip
    promise = None
    if promise_start is not None and promise_end is not None:
        promise = Interval(start=int(promise_start.timestamp()), end=int(promise_end.timestamp()))
    return VisitLine(
        id=id_, version=version, order_id=order_id, state=VisitState(state), title=part_title or title,
        job_type=job_type, job_type_id=job_type_id, certificates=tuple(certificates or ()),
        customer=customer, site=site, site_id=site_id, address=address, place=Place(lon, lat), area=area,
        priority=priority, duration_seconds=duration, needs=needs, promise=promise, earliest=to_moment(earliest),
        due=to_moment(due), technician_id=technician_id, start=to_moment(start), pinned=pinned,
        departed=to_moment(departed), arrived=to_moment(arrived), finished=to_moment(finished),
        order_number=order_number, part=part, part_title=part_title, crew=crew, mates=tuple(mates), standby=standby,
        opening=tuple(opening), noted=bool(notes or technician_note), takes=takes, worth=worth,
    )  # fmt: skip
