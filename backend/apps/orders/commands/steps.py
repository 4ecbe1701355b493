"""Steps of visits along the table of states: always `take_step`."""

from datetime import datetime

from django.db import transaction

from apps.orders.commands.following import follow
from apps.orders.commands.orders import check_closable
from apps.orders.events import Told, VisitStepped
from apps.orders.inputs import Placement
from apps.orders.models import Visit, VisitStamp
from apps.stock import commands as stock
from core.basics import Place
from core.orders import Step, VisitState, transition
from core.roles import Role
from foundation import audit, events, live
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected

TOLD = frozenset({VisitState.SENT, VisitState.ACCEPTED})
# Steps after which what the technician was told is no longer true.
_TAKES_BACK = frozenset({Step.PLACE, Step.UNPLACE, Step.CANCEL, Step.MISS})


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
        raise Conflict(_what_changed(actor, visit, version), current_version=visit.version)
    return visit


def _what_changed(actor: Actor, visit: Visit, seen: int) -> str:
    entries = audit.since("visit", visit.pk, seen)
    if not entries:
        return "This visit was changed meanwhile. It is shown as it is now."
    newest = entries[0]
    if all(entry.actor_id == actor.id for entry in entries):
        return f"You have done something with it already: {newest.sentence or newest.action}. Shown as it is now."
    others = f" (and {len(entries) - 1} more change{'s' if len(entries) > 2 else ''})" if len(entries) > 1 else ""
    return f"{newest.actor_name} was faster: {newest.sentence or newest.action}{others}. Shown as it is now."


@transaction.atomic
def take_step(
    *, actor: Actor, now: datetime, visit_id: int, version: int, step: Step, note: str = "",
    placement: Placement | None = None, where: Place | None = None, sentence: str = "", tell_customer: str = "",
    tells: Told = "everybody",
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
    tell_customer
        For the step "cancel": what the customer is to read of it; `note` is ours. Nothing: they are not told.
    tells
        For the step "send": who is told.

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
            f"A visit that is {in_words(state)} cannot be {_PARTICIPLE[step]}.", code="wrong_state", field="state"
        )
    if row.needs_note and not note.strip():
        raise Rejected(_NOTE_WANTED.get(step, "Say why."), code="note_missing", field="note")
    if step is Step.DEPART or (step is Step.ARRIVE and state is VisitState.ACCEPTED):
        _only_one_under_way(visit)
    if step is Step.REVIEW:
        check_closable(visit.order)
    before_technician, before_mates = visit.technician_id, list(visit.mates)
    _apply(visit, step, row.target, now=now, note=note, placement=placement)
    visit.version += 1
    visit.save()
    follow(visit.order_id)
    if step is Step.FINISH and visit.takes and visit.technician_id is not None:
        stock.take(actor=actor, now=now, technician_id=visit.technician_id, parts=visit.takes, visit_id=visit.pk)
    VisitStamp.objects.create(
        visit=visit, step=step, at=now, actor_name=actor.name, note=note.strip(),
        lon=where.lon if where else None, lat=where.lat if where else None,
    )  # fmt: skip
    audit.record(
        actor=actor, now=now, action=step, entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=sentence or f"{_PARTICIPLE[step]} it", note=note.strip(),
    )  # fmt: skip
    lost = before_technician if state in TOLD and step in _TAKES_BACK else None
    events.publish(
        VisitStepped(
            visit=visit,
            step=step,
            at=now,
            note=note.strip(),
            told_technician_id=lost,
            told_mates=tuple(before_mates) if lost else (),
            tell_customer=tell_customer.strip(),
            tells=tells,
        )
    )
    live.announce(
        "visit", ids=[visit.pk], technicians=[before_technician, visit.technician_id, *before_mates, *visit.mates]
    )
    return visit


_PARTICIPLE: dict[Step, str] = {
    Step.PLACE: "placed", Step.UNPLACE: "put back in the backlog", Step.SEND: "sent", Step.ACCEPT: "accepted",
    Step.DECLINE: "declined", Step.DEPART: "set out for", Step.ARRIVE: "arrived at", Step.HOLD: "put on hold",
    Step.RESUME: "resumed", Step.FINISH: "finished", Step.REVIEW: "reviewed", Step.MISS: "called missed",
    Step.CANCEL: "cancelled", Step.REOPEN: "opened again",
}  # fmt: skip
_NOTE_WANTED: dict[Step, str] = {
    Step.DECLINE: "Say why you decline.",
    Step.HOLD: "Say what you are waiting for.",
    Step.FINISH: "Say in a few words what was done.",
    Step.CANCEL: "Say why it is cancelled.",
}


def in_words(state: VisitState) -> str:
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
        mates = visit.mates if placement.mates is None else placement.mates
        if placement.mates is not None:
            visit.crew = max(visit.crew, len(set(placement.mates) - {placement.technician_id}) + 1)
        visit.mates = [mate for mate in mates if mate != placement.technician_id][: visit.crew - 1]
    elif target is VisitState.OPEN:
        visit.technician, visit.start, visit.mates = None, None, []
    elif step is Step.DEPART:
        visit.departed_at = now
    elif step is Step.ARRIVE:
        visit.arrived_at = now
    elif step is Step.FINISH:
        visit.finished_at = now
        visit.outcome = note.strip()
