"""A visit as a line of a list: plain values, because a board has thousands of them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import BigIntegerField, F, Func

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


def _moment(column: str) -> Func:
    """A time as epoch seconds, counted by the database: to read thousands of them as text costs more than all else."""
    template = "FLOOR(EXTRACT(EPOCH FROM %(expressions)s))::bigint"
    return Func(F(column), template=template, output_field=BigIntegerField())


# In the order in which `_line` takes them.
_COLUMNS: tuple[str | Func, ...] = (
    "id", "version", "order_id", "state", "order__title", "order__job_type__name",
    "order__job_type_id", "order__job_type__certificates", "order__customer__name",
    "order__site__name", "order__site_id",
    "order__site__address", "order__site__lon", "order__site__lat", "order__site__area__name",
    "priority", "duration_seconds", "needs", _moment("promise_start"), _moment("promise_end"), _moment("earliest"),
    _moment("due"), "technician_id", _moment("start"), "pinned", _moment("departed_at"), _moment("arrived_at"),
    _moment("finished_at"), "order__number", "part", "title", "crew", "mates",
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
        to_moment(visit.promise_start), to_moment(visit.promise_end), to_moment(visit.earliest), to_moment(visit.due),
        visit.technician_id, to_moment(visit.start), visit.pinned, to_moment(visit.departed_at),
        to_moment(visit.arrived_at), to_moment(visit.finished_at), order.number, visit.part, visit.title,
        visit.crew, visit.mates, visit.standby, site.opening, visit.notes, order.technician_note, visit.takes,
        visit.worth,
    )  # fmt: skip


def _line(
    id_: int, version: int, order_id: int, state: str, title: str, job_type: str | None,
    job_type_id: int | None, certificates: list[str] | None, customer: str, site: str,
    site_id: int, address: str, lon: float, lat: float, area: str | None, priority: int, duration: int | None,
    needs: dict[str, Any], promise_start: int | None, promise_end: int | None, earliest: int | None,
    due: int | None, technician_id: int | None, start: int | None, pinned: bool,
    departed: int | None, arrived: int | None, finished: int | None, order_number: str, part: int,
    part_title: str, crew: int, mates: list[int], standby: dict[str, Any] | None, opening: list[str],
    notes: str, technician_note: str, takes: dict[str, int], worth: int | None,
) -> VisitLine:  # fmt: skip
    promise = None
    if promise_start is not None and promise_end is not None:
        promise = Interval(start=promise_start, end=promise_end)
    return VisitLine(
        id=id_, version=version, order_id=order_id, state=VisitState(state), title=part_title or title,
        job_type=job_type, job_type_id=job_type_id, certificates=tuple(certificates or ()),
        customer=customer, site=site, site_id=site_id, address=address, place=Place(lon, lat), area=area,
        priority=priority, duration_seconds=duration, needs=needs, promise=promise, earliest=earliest,
        due=due, technician_id=technician_id, start=start, pinned=pinned, departed=departed, arrived=arrived,
        finished=finished,
        order_number=order_number, part=part, part_title=part_title, crew=crew, mates=tuple(mates), standby=standby,
        opening=tuple(opening), noted=bool(notes or technician_note), takes=takes, worth=worth,
    )  # fmt: skip
