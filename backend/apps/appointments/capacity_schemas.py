"""Wire shapes of the capacity outlook. Seconds throughout."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from ninja import Schema

from apps.appointments.capacity import Behind, Capacity, Waiting
from apps.intake.schemas import PromiseOut
from core.appointments.capacity import Outlook, Worker


class OutlookOut(Schema):
    """`left` may be negative: more promised and expected than people have time for."""

    day: date
    shifts: int
    free: int
    promised: int
    expected: int
    left: int


class AreaOutlookOut(Schema):
    """`waiting_*`: work that waits there without a promise."""

    area_id: int | None
    area: str
    days: list[OutlookOut]
    waiting_visits: int
    waiting_seconds: int


class CapacityOut(Schema):
    """Areas by name; `total` is the whole company with what lies outside of all areas (its area is "", without id)."""

    areas: list[AreaOutlookOut]
    total: AreaOutlookOut


class WorkerOut(Schema):
    """Somebody who works that day: seconds of work, of that taken, and what of both counts here; shared over so many
    areas."""

    technician_id: int
    name: str
    working: int
    taken: int
    working_here: int
    taken_here: int
    areas: int


class PromisedOut(Schema):
    visit_id: int
    number: str
    title: str
    site: str
    promise: PromiseOut
    seconds: int


class ShortNoticeOut(Schema):
    order_id: int
    number: str
    site: str
    start: int
    seconds: int


class BehindOut(Schema):
    """`expected` came in at short notice on such weekdays of the last `weeks` weeks; a usual day is one part of it."""

    workers: list[WorkerOut]
    promised: list[PromisedOut]
    expected: list[ShortNoticeOut]
    weeks: int


def capacity_out(found: Capacity) -> dict[str, Any]:
    """The fields of CapacityOut."""
    none = Waiting(visits=0, seconds=0)
    return {
        "areas": [
            _row(key, area, {day: found.outlooks.areas[area, day] for day in found.days}, found.waiting.get(area, none))
            for key, area in found.areas.items()
        ],
        "total": _row(None, "", found.outlooks.total, found.waiting_total),
    }


def _row(key: int | None, area: str, days: Mapping[date, Outlook], waiting: Waiting) -> dict[str, Any]:
    cells = [
        {
            "day": day, "shifts": cell.shifts, "free": cell.free, "promised": cell.promised,
            "expected": cell.expected, "left": cell.left,
        }
        for day, cell in days.items()
    ]  # fmt: skip
    return {
        "area_id": key, "area": area, "days": cells, "waiting_visits": waiting.visits,
        "waiting_seconds": waiting.seconds,
    }  # fmt: skip


def behind_out(found: Behind) -> dict[str, Any]:
    """The fields of BehindOut."""
    return {
        "workers": [_worker(worker, found.area) for worker in found.workers],
        "promised": [
            {
                "visit_id": line.id, "number": line.number, "title": line.title, "site": line.site,
                "promise": line.promise and {"start": line.promise.start, "end": line.promise.end},
                "seconds": (line.duration_seconds or 3600) * line.crew,
            }
            for line in found.promised
        ],
        "expected": [
            {
                "order_id": row.order_id, "number": row.number, "site": row.site, "start": int(row.start.timestamp()),
                "seconds": row.seconds,
            }
            for row in found.expected
        ],
        "weeks": found.weeks,
    }  # fmt: skip


def _worker(worker: Worker, area: str) -> dict[str, Any]:
    working, taken = worker.share(area) if area else (worker.working, worker.taken)
    return {
        "technician_id": worker.technician_id, "name": worker.name, "working": worker.working, "taken": worker.taken,
        "working_here": working, "taken_here": taken, "areas": len(worker.areas),
    }  # fmt: skip
