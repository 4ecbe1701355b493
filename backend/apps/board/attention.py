"""What somebody in the office should look at now: counted in the bar, opened from there, announced once."""

import threading
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import working_dates
from apps.scheduling.schedule import Schedule, safety, schedule, times_of
from core.calendars import local_day, local_time, window_words
from core.scheduling import Lamp
from foundation import audit
from foundation.snapshot import one_moment

Kind = Literal["declined", "nobody", "broken"]
# What nothing was written about for so long is still the same; the clock makes promises break by itself.
KEPT_SECONDS = 30


@dataclass(frozen=True, kw_only=True)
class Matter:
    """One thing to look at. `key` stays the same as long as the matter does: who has seen it is not told again."""

    kind: Kind
    key: str
    visit_id: int
    label: str
    sentence: str


@dataclass(frozen=True, kw_only=True)
class _Known:
    mark: tuple[int, int]
    at: float
    matters: tuple[Matter, ...]


_lock = threading.Lock()
_known: _Known | None = None


def attention(*, now: datetime) -> tuple[Matter, ...]:
    """Declined visits, promises with nobody, and promises of today that the day as it goes will not keep; the loudest
    first."""
    global _known
    mark = audit.mark()
    with _lock:
        known = _known
        if known and known.mark == mark and 0 <= now.timestamp() - known.at < KEPT_SECONDS:
            return known.matters
        with one_moment():
            matters = tuple(_found(now))
        _known = _Known(mark=mark, at=now.timestamp(), matters=matters)
    return matters


def _found(now: datetime) -> Iterator[Matter]:
    tz = time_zone()
    moment = int(now.timestamp())
    first = today = local_day(moment, tz)
    # Until the last of them is over, last night's shifts are looked at, too.
    if working_dates(today, today, tz).last_end(today - timedelta(days=1)) > moment:
        first = today - timedelta(days=1)
    yield from _breaking(schedule(first=first, days=(today - first).days + 1, now=now), tz)
    waiting = sorted(orders.open_visits(), key=lambda line: line.promise.start if line.promise else moment)
    declined = orders.declines_of([line.id for line in waiting])
    for line in waiting:
        if (said := declined.get(line.id)) is not None:
            why = f": {said.note}" if said.note else ""
            yield _matter("declined", line, f"declined by {said.actor_name}{why}", version=line.version)
        elif line.promise is not None:
            passed = " has passed" if line.promise.end < moment else ""
            yield _matter("nobody", line, f"promised {window_words(line.promise, tz)}{passed}, and nobody is assigned")


def _breaking(today: Schedule, tz: ZoneInfo) -> Iterator[Matter]:
    lamps = safety(today)
    times = times_of(today.lanes)
    why = {
        row.visit_id: str(row.why)
        for lane in today.lanes for day in lane.days for row in day.timetable.broken if row.visit_id is not None
    }  # fmt: skip
    names = {lane.technician.id: lane.technician.name for lane in today.lanes}
    for line in today.visits:
        if lamps[line.id][0] is not Lamp.BROKEN or line.arrived is not None or line.promise is None:
            continue
        starts = times[line.id].starts if line.id in times else None
        would = (
            f"would start {local_time(starts, tz)}" if starts and not line.promise.holds(starts) else why.get(line.id)
        )
        name = names.get(line.technician_id or 0, "")
        yield _matter(
            "broken", line, f"promised {window_words(line.promise, tz)}, {would or 'will not be kept'} ({name})"
        )


def _matter(kind: Kind, line: VisitLine, sentence: str, *, version: int | None = None) -> Matter:
    key = f"{kind} {line.id}" if version is None else f"{kind} {line.id} {version}"
    return Matter(kind=kind, key=key, visit_id=line.id, label=f"{line.number} {line.site}", sentence=sentence)
