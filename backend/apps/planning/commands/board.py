"""What a dispatcher does on the board. Each command leaves a Change that can be undone."""

from collections.abc import Iterator, Sequence
from datetime import date, datetime
from typing import Any

from django.db import connection, transaction

from apps.company.queries import time_zone
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.commands import Placement, VisitFields
from apps.orders.models import Visit
from apps.people import queries as people
from apps.planning import queries
from apps.planning.models import Change
from core.calendars import local_time
from core.orders import Step
from core.planning import Verdict
from core.roles import Action
from foundation import audit
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime, to_moment

_DATES = ("promise_start", "promise_end", "earliest", "due")


@transaction.atomic
def place(
    *,
    actor: Actor,
    now: datetime,
    visit_id: int,
    version: int,
    technician_id: int,
    start: int,
    mates: Sequence[int] | None = None,
) -> tuple[Visit, Verdict]:
    """Put a visit on a technician's day, or move it there.

    Raises
    ------
    Rejected
        When the evaluator refuses it; with all its reasons.
    Conflict
        When the visit was changed since it was seen.
    """
    require(actor, Action.PLAN)
    technician = people.technician(technician_id)
    people.technicians_named(mates or ())
    _lock_day(technician_id, start)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    verdict = queries.judge_placement(visit=visit, technician_id=technician_id, start=start, now=now)
    if not verdict.allowed:
        raise Rejected(verdict.refusals[0] + ".", code="limit_broken", reasons=verdict.refusals)
    before = placement_of(visit)
    when = local_time(start, time_zone())
    moved = "moved it" if before["technician_id"] else "placed it"
    sentence = f"{moved} to {technician.name}, {when}"
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit_id, version=version, step=Step.PLACE, sentence=sentence,
        placement=Placement(technician_id=technician_id, start=to_datetime(start), mates=mates),
    )  # fmt: skip
    keep(actor, now, visit, f"{visit.order.number} {moved.removesuffix(' it')} to {technician.name}, {when}", before)
    return visit, verdict


def _lock_day(technician_id: int, start: int) -> None:
    """One placement at a time on a technician's day, so that each is judged on what is really there."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [technician_id % 2**31, start // 86_400 % 2**31])


@transaction.atomic
def unplace(*, actor: Actor, now: datetime, visit_id: int, version: int) -> Visit:
    """Take a visit off its technician's day, back to the backlog."""
    require(actor, Action.PLAN)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    if visit.pinned:
        raise Rejected("It is pinned: take the pin out first.", code="limit_broken")
    before = placement_of(visit)
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit_id, version=version, step=Step.UNPLACE,
        sentence="put it back in the backlog",
    )  # fmt: skip
    keep(actor, now, visit, f"{visit.order.number} put back in the backlog", before)
    return visit


@transaction.atomic
def edit(*, actor: Actor, now: datetime, visit_id: int, version: int, fields: VisitFields) -> Visit:
    """Edit a visit's details beside the board."""
    visit, before = orders.change_visit(actor=actor, now=now, visit_id=visit_id, version=version, fields=fields)
    if before:
        stored = {name: to_moment(value) if name in _DATES else value for name, value in before.items()}
        keep(actor, now, visit, f"{visit.order.number} changed", {"fields": stored})
    return visit


@transaction.atomic
def send(*, actor: Actor, now: datetime, visit_id: int, version: int) -> Visit:
    """Tell the technician and the customer. What was told cannot be untold: no undo."""
    require(actor, Action.PLAN)
    return orders.take_step(
        actor=actor, now=now, visit_id=visit_id, version=version, step=Step.SEND, sentence="sent it"
    )


@transaction.atomic
def send_day(*, actor: Actor, now: datetime, day: date) -> int:
    """Send every placed visit of a day; returns how many."""
    require(actor, Action.PLAN)
    unsent = queries.unsent(day=day)
    for visit in unsent:
        send(actor=actor, now=now, visit_id=visit.id, version=visit.version)
    return len(unsent)


@transaction.atomic
def step_for(*, actor: Actor, now: datetime, visit_id: int, version: int, step: Step, note: str) -> Visit:
    """A field step stamped by the office for a technician, or a cancellation. Placing and sending have their own."""
    require(actor, Action.PLAN)
    if step in (Step.PLACE, Step.UNPLACE, Step.SEND):
        raise Rejected(f"“{step}” is not done this way.", code="wrong_step")
    return orders.take_step(actor=actor, now=now, visit_id=visit_id, version=version, step=step, note=note)


def undo(*, actor: Actor, now: datetime, change_id: int | None = None) -> tuple[Visit, str]:
    """Take back one's own last change (or a given one): the visit, and what was undone.

    What was done in one step - an accepted proposal - is taken back in one step, wholly or not at all.

    Raises
    ------
    NotFound
        When there is nothing to undo.
    Conflict
        When a visit went on since: was sent, moved by somebody, accepted.
    """
    require(actor, Action.PLAN)
    rows = Change.objects.filter(actor_id=actor.id, undone=False)
    change = (rows.filter(pk=change_id) if change_id else rows).order_by("-id").first()
    if change is None:
        raise NotFound("There is nothing to undo.", code="nothing_to_undo")
    together = [change] if change.step is None else list(rows.filter(step=change.step).order_by("-id"))
    # Marked before the attempt, and kept if it fails: it must not block the undoing of what came before it.
    marked = Change.objects.filter(pk__in=[row.pk for row in together], undone=False).update(undone=True)
    if marked < len(together):
        raise NotFound("That was undone already.", code="nothing_to_undo")
    with transaction.atomic():
        restored = list(_undo_all(actor, now, together))
    sentence = change.sentence if len(together) == 1 else f"{len(together)} changes of a proposal"
    return restored[0], sentence


def _undo_all(actor: Actor, now: datetime, changes: Sequence[Change]) -> Iterator[Visit]:
    """Newest first. A visit that one step changed twice is, after the first undoing, as the change before left it."""
    versions: dict[int, int] = {}
    for change in changes:
        change.version = versions.get(change.visit_id, change.version)
        restored = _undo_one(actor, now, change)
        versions[change.visit_id] = restored.version
        yield restored


def _undo_one(actor: Actor, now: datetime, change: Change) -> Visit:
    visit = order_queries.visit(change.visit_id)
    if visit.version != change.version:
        newest = audit.since("visit", visit.pk, change.version)
        who = f": {newest[0].actor_name} {newest[0].sentence}" if newest else ""
        raise Conflict(f"Not undone, {visit.order.number} has gone on since{who}.", code="gone_on")
    restored = _restore(actor, now, visit, change.before)
    # The change before this one now leads to the visit as it is.
    Change.objects.filter(visit=visit, undone=False, version=change.version - 1).update(version=restored.version)
    return restored


def _restore(actor: Actor, now: datetime, visit: Visit, before: dict[str, Any]) -> Visit:
    if "fields" in before:
        changes = {
            name: to_datetime(value) if name in _DATES and value is not None else value
            for name, value in before["fields"].items()
        }
        fields = orders.fields_of(visit, **changes)
        visit, _ = orders.change_visit(actor=actor, now=now, visit_id=visit.pk, version=visit.version, fields=fields)
        return visit
    if before["technician_id"] is None:
        return orders.take_step(
            actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.UNPLACE,
            sentence="undid placing it",
        )  # fmt: skip
    return orders.take_step(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.PLACE,
        sentence="put it back where it was",
        placement=Placement(
            technician_id=before["technician_id"], start=to_datetime(before["start"]), mates=before.get("mates"),
        ),
    )  # fmt: skip


def placement_of(visit: Visit) -> dict[str, Any]:
    return {"technician_id": visit.technician_id, "start": to_moment(visit.start), "mates": visit.mates}


def keep(
    actor: Actor, now: datetime, visit: Visit, sentence: str, before: dict[str, Any], *, step: int | None = None
) -> Change:
    return Change.objects.create(
        at=now, actor_id=actor.id, visit=visit, version=visit.version, sentence=sentence, before=before, step=step
    )
