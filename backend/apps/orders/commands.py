"""Changing orders and visits. A step along the table of states is always `take_step`."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.intake import commands as intake
from apps.intake.models import Request
from apps.orders.events import VisitStepped
from apps.orders.models import Visit, VisitStamp, WorkOrder
from core.basics import Place
from core.orders import Step, VisitState, transition
from core.roles import Action, Role
from foundation import audit, events, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected

TOLD = frozenset({VisitState.SENT, VisitState.ACCEPTED})
# Steps after which what the technician was told is no longer true.
_TAKES_BACK = frozenset({Step.PLACE, Step.UNPLACE, Step.CANCEL, Step.MISS})


@dataclass(frozen=True, kw_only=True)
class Placement:
    """Who does a visit, and when it starts."""

    technician_id: int
    start: datetime


@transaction.atomic
def make_order(*, actor: Actor, now: datetime, request_id: int, version: int) -> WorkOrder:
    """Turn a request into a work order with one visit in the backlog, carrying everything over."""
    require(actor, Action.MAKE_ORDERS)
    request = intake.lock_new(request_id, version=version)
    order = WorkOrder.objects.create(
        customer_id=request.customer_id,
        site_id=request.site_id,
        asset_id=request.asset_id,
        job_type_id=request.job_type_id,
        request=request,
        title=_title(request),
        description=request.what_is_wrong,
        contact_name=request.contact_name,
        contact_phone=request.contact_phone,
        made_at=now,
    )
    visit = Visit.objects.create(
        order=order,
        duration_seconds=request.duration_seconds,
        needs=request.needs,
        priority=request.priority,
        promise_start=request.promise_start,
        promise_end=request.promise_end,
        due=request.due,
    )
    intake.mark_ordered(actor=actor, now=now, request=request)
    audit.record(actor=actor, now=now, action="make", entity="order", entity_id=order.pk, version=1)
    live.announce("visit", ids=[visit.pk])
    return order


def _title(request: Request) -> str:
    if request.job_type:
        return request.job_type.name
    first_line = request.what_is_wrong.strip().splitlines()[0]
    return first_line if len(first_line) <= 80 else f"{first_line[:79]}…"


def lock_visit(*, actor: Actor, visit_id: int, version: int) -> Visit:
    """The visit, locked for change, if it is as the actor saw it.

    Raises
    ------
    NotFound
        When it is not there, or not this technician's.
    Conflict
        When it was changed since; the sentence says by whom and how.
    """
    visit = (
        Visit.objects.select_for_update(of=("self",))
        .select_related("order__customer", "order__site__area", "order__job_type", "order__asset")
        .filter(pk=visit_id)
        .first()
    )
    own_only = actor.role == Role.TECHNICIAN
    if visit is None or (own_only and visit.technician_id != actor.technician_id):
        gone = "This visit is not yours (any more)." if own_only else "There is no such visit."
        raise NotFound(gone, code="no_visit")
    if visit.version != version:
        raise Conflict(_what_changed(visit, version), current_version=visit.version)
    return visit


def _what_changed(visit: Visit, seen: int) -> str:
    entries = audit.since("visit", visit.pk, seen)
    if not entries:
        return "This visit was changed meanwhile. It is shown as it is now."
    newest = entries[0]
    others = f" (and {len(entries) - 1} more change{'s' if len(entries) > 2 else ''})" if len(entries) > 1 else ""
    return f"{newest.actor_name} was faster: {newest.sentence or newest.action}{others}. Shown as it is now."


@transaction.atomic
def take_step(
    *, actor: Actor, now: datetime, visit_id: int, version: int, step: Step, note: str = "",
    placement: Placement | None = None, where: Place | None = None, sentence: str = "",
) -> Visit:  # fmt: skip
    """Take one step of the table of states: the only way a visit's state changes.

    Parameters
    ----------
    placement
        For the step "place": who and when.
    where
        Where the phone was, if it knew.
    sentence
        For the audit trail and for others' conflict messages; made from the step when left out.

    Raises
    ------
    NotPermitted, Rejected, Conflict, NotFound
    """
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    row = transition(step)
    if Role(actor.role) not in row.roles:
        raise NotPermitted(f"As {actor.role} you cannot {step} a visit.")
    state = VisitState(visit.state)
    if state not in row.sources:
        raise Rejected(
            f"A visit that is {_words(state)} cannot be {_PARTICIPLE[step]}.", code="wrong_state", field="state"
        )
    if row.needs_note and not note.strip():
        raise Rejected(_NOTE_WANTED.get(step, "Say why."), code="note_missing", field="note")
    if step is Step.DEPART or (step is Step.ARRIVE and state is VisitState.ACCEPTED):
        _only_one_under_way(visit)
    before_technician = visit.technician_id
    _apply(visit, step, row.target, now=now, note=note, placement=placement)
    visit.version += 1
    visit.save()
    VisitStamp.objects.create(
        visit=visit, step=step, at=now, actor_name=actor.name, note=note.strip(),
        lon=where.lon if where else None, lat=where.lat if where else None,
    )  # fmt: skip
    audit.record(
        actor=actor, now=now, action=step, entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=sentence or f"{_PARTICIPLE[step]} it", note=note.strip(),
    )  # fmt: skip
    lost = before_technician if state in TOLD and step in _TAKES_BACK else None
    events.publish(VisitStepped(visit=visit, step=step, at=now, note=note.strip(), told_technician_id=lost))
    live.announce("visit", ids=[visit.pk], technicians=[before_technician, visit.technician_id])
    return visit


_PARTICIPLE: dict[Step, str] = {
    Step.PLACE: "placed", Step.UNPLACE: "put back in the backlog", Step.SEND: "sent", Step.ACCEPT: "accepted",
    Step.DECLINE: "declined", Step.DEPART: "set out for", Step.ARRIVE: "arrived at", Step.HOLD: "put on hold",
    Step.RESUME: "resumed", Step.FINISH: "finished", Step.REVIEW: "reviewed", Step.MISS: "called missed",
    Step.CANCEL: "cancelled",
}  # fmt: skip
_NOTE_WANTED: dict[Step, str] = {
    Step.DECLINE: "Say why you decline.",
    Step.HOLD: "Say what you are waiting for.",
    Step.FINISH: "Say in a few words what was done.",
    Step.CANCEL: "Say why it is cancelled.",
}


def _words(state: VisitState) -> str:
    return state.value.replace("_", " ")


def _only_one_under_way(visit: Visit) -> None:
    """A technician is on one visit at a time; a held one may wait."""
    assert visit.technician_id is not None  # only what is accepted gets this far
    busy = (
        Visit.objects.filter(technician_id=visit.technician_id, state__in=[VisitState.EN_ROUTE, VisitState.ON_SITE])
        .exclude(pk=visit.pk)
        .select_related("order__site")
        .first()
    )
    if busy:
        raise Rejected(
            f"{busy.order.number} at {busy.order.site.name} is still under way: finish it or put it on hold first.",
            code="another_under_way",
        )


def _apply(
    visit: Visit, step: Step, target: VisitState, *, now: datetime, note: str, placement: Placement | None
) -> None:
    visit.state = target
    if step is Step.PLACE:
        if placement is None:
            raise Rejected("Say who and when.", field="placement")
        visit.technician_id, visit.start = placement.technician_id, placement.start
    elif target is VisitState.OPEN:
        visit.technician, visit.start = None, None
    elif step is Step.DEPART:
        visit.departed_at = now
    elif step is Step.ARRIVE:
        visit.arrived_at = now
    elif step is Step.FINISH:
        visit.finished_at = now
        visit.outcome = note.strip()


@dataclass(frozen=True, kw_only=True)
class VisitFields:
    """What can be edited on a visit, besides its placement and state."""

    duration_seconds: int | None
    priority: int
    needs: Mapping[str, int]
    promise: tuple[datetime, datetime] | None
    earliest: datetime | None
    due: datetime | None
    notes: str
    pinned: bool


@transaction.atomic
def change_visit(
    *, actor: Actor, now: datetime, visit_id: int, version: int, fields: VisitFields
) -> tuple[Visit, dict[str, Any]]:
    """Edit a visit; returns it with what it was before, by field.

    Raises
    ------
    Rejected
        When a value is impossible, or the visit is over and more than its notes would change.
    """
    require(actor, Action.CHANGE_VISITS)
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    before = field_values(visit)
    _check_fields(visit, fields)
    start, end = fields.promise or (None, None)
    wanted = {
        "duration_seconds": fields.duration_seconds, "priority": fields.priority, "needs": dict(fields.needs),
        "promise_start": start, "promise_end": end, "earliest": fields.earliest, "due": fields.due,
        "notes": fields.notes.strip(), "pinned": fields.pinned,
    }  # fmt: skip
    changed = {name: value for name, value in wanted.items() if getattr(visit, name) != value}
    if not changed:
        return visit, {}
    if VisitState(visit.state).is_ended and set(changed) - {"notes"}:
        raise Rejected(f"The visit is {_words(VisitState(visit.state))}: only its notes can still change.")
    for name, value in changed.items():
        setattr(visit, name, value)
    visit.version += 1
    visit.save()
    names = ", ".join(sorted({_FIELD_WORDS[name] for name in changed}))
    audit.record(
        actor=actor, now=now, action="change", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=f"changed its {names}", fields=sorted(changed),
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id])
    return visit, {name: before[name] for name in changed}


_FIELD_WORDS = {
    "duration_seconds": "duration", "priority": "priority", "needs": "skills", "promise_start": "promise",
    "promise_end": "promise", "earliest": "earliest start", "due": "due date", "notes": "notes", "pinned": "pin",
}  # fmt: skip


def field_values(visit: Visit) -> dict[str, Any]:
    return {name: getattr(visit, name) for name in _FIELD_WORDS}


def fields_of(visit: Visit, **changes: Any) -> VisitFields:
    """The visit's editable fields as they are, with some of them replaced."""
    values = field_values(visit) | changes
    start, end = values.pop("promise_start"), values.pop("promise_end")
    return VisitFields(**values, promise=(start, end) if start and end else None)


def _check_fields(visit: Visit, fields: VisitFields) -> None:
    if fields.promise and fields.promise[1] <= fields.promise[0]:
        raise Rejected("The promise must end after it begins.", field="promise")
    if fields.duration_seconds is None and visit.technician_id is not None:
        raise Rejected("A placed visit needs a duration.", field="duration")
    if fields.earliest and fields.due and fields.due < fields.earliest:
        raise Rejected("It cannot be due before it may start.", field="due")
    intake.check_needs(fields.needs)
