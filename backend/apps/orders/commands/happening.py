"""What happened to a visit, written down as an event, and what each of those who go did themselves."""

import uuid
from collections.abc import Collection
from datetime import datetime, timedelta
from typing import Any

from apps.orders.inputs import Deed
from apps.orders.models import Assignment, Visit, VisitEvent
from core.orders import Step
from foundation.actors import Actor
from foundation.errors import Rejected
from foundation.moments import to_moment

NOW = Deed()
# A phone's clock may run ahead by so much.
AHEAD = timedelta(minutes=5)
_TIMES = {
    Step.ACCEPT: "accepted_at", Step.DEPART: "departed_at", Step.ARRIVE: "arrived_at", Step.FINISH: "finished_at",
}  # fmt: skip
# After these nobody has accepted anything: what was accepted is not so any more.
_ANEW = frozenset({Step.PLACE, Step.UNPLACE, Step.DECLINE, Step.REOPEN})


def is_known(deed: Deed, visit: Visit, step: Step) -> bool:
    """Whether this very deed was sent before.

    Raises
    ------
    Rejected
        When its key belongs to another one.
    """
    known = VisitEvent.objects.filter(key=deed.key).first() if deed.key else None
    if known is not None and (known.visit_id, known.step) != (visit.pk, step):
        raise Rejected("This key was given to something else already.", code="key_used", field="key")
    return known is not None


def was_done(*, actor: Actor, deed: Deed, visit_id: int, step: Step) -> bool:
    """Whether this person sent this very deed before. Asked before it is looked at whose the visit is: what was
    declined is nobody's, and its answer may have been lost.

    Raises
    ------
    Rejected
        When the key belongs to another deed.
    """
    known = VisitEvent.objects.filter(key=deed.key).first() if deed.key else None
    if known is not None and (known.visit_id, known.step, known.actor_id) != (visit_id, step, actor.id):
        raise Rejected("This key was given to something else already.", code="key_used", field="key")
    return known is not None


def times_of(row: Visit | Assignment) -> list[datetime]:
    """What happened of it already."""
    return [at for at in (row.departed_at, row.arrived_at, row.finished_at) if at is not None]


def happened_at(before: Collection[datetime], deed: Deed, now: datetime) -> datetime:
    """When it was done: never in the future, never before what came before it.

    Raises
    ------
    Rejected
    """
    if deed.happened_at is None:
        return now
    if deed.happened_at > now + AHEAD:
        raise Rejected("That moment is still to come.", code="in_the_future", field="happened_at")
    if before and deed.happened_at < max(before):
        raise Rejected("Something that comes before it happened later.", code="out_of_order", field="happened_at")
    return min(deed.happened_at, now)


def plan_of(visit: Visit) -> dict[str, Any]:
    """Who goes and when, as an event keeps it."""
    return {"technician_id": visit.technician_id, "mates": list(visit.mates), "start": to_moment(visit.start)}


def who_goes(visit: Visit) -> tuple[int, ...]:
    """Who goes: whoever leads, then those who go along."""
    return () if visit.technician_id is None else (visit.technician_id, *visit.mates)


def note_of_lead(visit: Visit, step: Step, at: datetime) -> None:
    """What a step of the visit says of those who go: it is the doing of whoever leads."""
    rows = Assignment.objects.filter(visit=visit)
    if step in _ANEW:
        rows.update(accepted_at=None, departed_at=None, arrived_at=None, finished_at=None)
    elif step in _TIMES:
        rows.filter(leads=True).update(**{_TIMES[step]: at})
    if step is Step.FINISH:
        # The work is over: whoever is still there leaves with it.
        rows.filter(arrived_at__isnull=False, finished_at__isnull=True).update(finished_at=at)


def note_of_mate(assignment: Assignment, step: Step, at: datetime) -> None:
    """Somebody who goes along accepted, set out, arrived or left."""
    setattr(assignment, _TIMES[step], at)
    assignment.save(update_fields=[_TIMES[step]])


def record(
    actor: Actor, now: datetime, visit: Visit, step: Step, *, at: datetime, note: str, deed: Deed,
    before: dict[str, Any], technician_id: int | None,
) -> None:  # fmt: skip
    """Write the event down."""
    VisitEvent.objects.create(
        key=deed.key or uuid.uuid4(), visit=visit, step=step, technician_id=technician_id or visit.technician_id,
        actor_id=actor.id, actor_name=actor.name, happened_at=at, recorded_at=now, note=note.strip(),
        lon=deed.where.lon if deed.where else None, lat=deed.where.lat if deed.where else None,
        accuracy_metres=deed.accuracy_metres, before=before, after=plan_of(visit),
    )  # fmt: skip
