"""What the field has stamped by now, for the visits of one technician in order of their start."""

from collections.abc import Callable, Iterator
from datetime import date
from zoneinfo import ZoneInfo

import numpy as np

from apps.orders.models import Assignment, Visit, VisitEvent
from core.calendars import local_day
from core.orders import Step, VisitState
from foundation.moments import to_datetime

OUTCOMES = (
    "Done as ordered, tested on all floors.",
    "Cleaned, greased, adjusted. No findings.",
    "Replaced the worn part, runs quietly again.",
    "Reset and watched for twenty minutes: no more faults.",
)


def stamps_of(
    visits: list[Visit], now: int, random: np.random.Generator, *, overruns: bool, tz: ZoneInfo,
    length_of: Callable[[Visit], int],
) -> Iterator[VisitEvent]:  # fmt: skip
    """Set each visit's state and times by what the clock says, and give the stamps that led there.

    `length_of`: seconds that whoever goes is expected to take.
    """
    today = local_day(now, tz)
    busy_until = 0
    first_today = True
    for visit in visits:
        if visit.start is None:
            continue
        start = int(visit.start.timestamp())
        day = local_day(start, tz)
        if day > today:
            yield from _ahead(visit, now, random, day, today)
            continue
        begun = max(start + int(random.integers(-4, 6)) * 60, busy_until + 300)
        length = int(length_of(visit) * random.uniform(0.85, 1.08))
        if overruns and day == today and first_today:
            length *= 4
        first_today = first_today and day != today
        busy_until = begun + length
        yield from _by_now(visit, begun, begun + length, now, random)


def _ahead(visit: Visit, now: int, random: np.random.Generator, day: date, today: date) -> Iterator[VisitEvent]:
    """Tomorrow is mostly sent; what lies further ahead is only placed.

    Counted in working days, and the dice are thrown for each: the same world comes out on a Monday and on a Friday.
    """
    sent = random.random() < 0.45
    if sent and np.busday_count(today, day) <= 3:
        visit.state = VisitState.SENT
        yield _stamp(visit, Step.SEND, now - 7200, "Dora Quill")
        if random.random() < 0.5:
            visit.state = VisitState.ACCEPTED
            yield _stamp(visit, Step.ACCEPT, now - 3600)


def _by_now(visit: Visit, begun: int, ended: int, now: int, random: np.random.Generator) -> Iterator[VisitEvent]:
    yield _stamp(visit, Step.SEND, begun - 50_000, "Dora Quill")
    visit.state = VisitState.SENT
    left = begun - int(random.integers(6, 15)) * 60
    if left > now + 3 * 3600 and random.random() < 0.4:
        return
    visit.state = VisitState.ACCEPTED
    yield _stamp(visit, Step.ACCEPT, begun - 46_000)
    if left > now:
        return
    visit.state, visit.departed_at = VisitState.EN_ROUTE, to_datetime(left)
    yield _stamp(visit, Step.DEPART, left)
    if begun > now:
        return
    visit.state, visit.arrived_at = VisitState.ON_SITE, to_datetime(begun)
    yield _stamp(visit, Step.ARRIVE, begun)
    if ended > now:
        if random.random() < 0.12:
            visit.state = VisitState.ON_HOLD
            yield _stamp(visit, Step.HOLD, now - 600, note="Waiting for the caretaker with the key.")
        return
    visit.state, visit.finished_at = VisitState.DONE, to_datetime(ended)
    visit.outcome = OUTCOMES[int(random.integers(len(OUTCOMES)))]
    yield _stamp(visit, Step.FINISH, ended, note=visit.outcome)


def _stamp(visit: Visit, step: Step, at: int, by: str = "", note: str = "") -> VisitEvent:
    name = by or (visit.technician.name if visit.technician else "")
    return VisitEvent(
        visit=visit, step=step, technician=visit.technician, happened_at=to_datetime(at), recorded_at=to_datetime(at),
        actor_name=name, note=note,
    )  # fmt: skip


_TIMES = {
    Step.ACCEPT: "accepted_at", Step.DEPART: "departed_at", Step.ARRIVE: "arrived_at", Step.FINISH: "finished_at",
}  # fmt: skip


def parts_from_events(events: list[VisitEvent]) -> None:
    """What those who lead did themselves, as the events tell it; the database has made a row for each of them."""
    rows = {row.visit_id: row for row in Assignment.objects.filter(leads=True, visit__in={e.visit_id for e in events})}
    for event in events:
        if event.step in _TIMES and event.visit_id in rows:
            setattr(rows[event.visit_id], _TIMES[Step(event.step)], event.happened_at)
    Assignment.objects.bulk_update(rows.values(), list(_TIMES.values()), batch_size=500)
