"""Steps of visits along the table of states: always `take_step`."""

from datetime import datetime

from django.db import transaction

from apps.orders import reach
from apps.orders.commands.complete import check_closable
from apps.orders.commands.following import follow
from apps.orders.commands.happening import NOW, happened_at, is_known, note_of_lead, plan_of, record, times_of, who_goes
from apps.orders.events import Told, VisitStepped
from apps.orders.inputs import Deed, Placement
from apps.orders.models import Visit
from apps.people.reach import check_technicians
from core.orders import Step, Transition, VisitState, transition
from core.roles import Action
from foundation import audit, events, live
from foundation.actors import Actor, may
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected
from foundation.moments import to_moment

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
    visit = locked_visit(actor, visit_id)
    _check_version(actor, visit, version)
    return visit


def locked_visit(actor: Actor, visit_id: int) -> Visit:
    """The visit, locked for change, whatever its version, if it is in the actor's reach."""
    visit = (
        Visit.objects.select_for_update(of=("self",))
        .select_related("order__customer", "order__site__area", "order__job_type", "order__asset")
        .filter(pk=visit_id)
        .first()
    )
    if visit is None:
        own = actor.reach.technician is not None
        raise NotFound("This visit is not yours (any more)." if own else "There is no such visit.", code="no_visit")
    reach.check_visit(actor, visit)
    return visit


def _check_version(actor: Actor, visit: Visit, version: int) -> None:
    if visit.version != version:
        raise Conflict(_what_changed(actor, visit, version), current_version=visit.version)


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
    *, actor: Actor, now: datetime, visit_id: int, version: int | None, step: Step, note: str = "",
    placement: Placement | None = None, deed: Deed = NOW, sentence: str = "", tell_customer: str = "",
    tells: Told = "everybody",
) -> Visit:  # fmt: skip
    """Take one step of the table of states: the only way a visit's state changes.

    Parameters
    ----------
    version
        The one that was seen; None only where the deed says what it is based on.
    placement
        For the step "place": who and when.
    deed
        When and where it was done, and the name under which it is sent: one that is known does nothing.
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
    visit = locked_visit(actor, visit_id)
    if is_known(deed, visit, step):
        return visit
    if version is not None:
        _check_version(actor, visit, version)
    _check_base(visit, deed, version)
    state, at = VisitState(visit.state), happened_at(times_of(visit), deed, now)
    row = _checked(actor, visit, step, note)
    if placement is not None:
        check_technicians(actor, (placement.technician_id, *(placement.mates or ())))
    before, technicians = plan_of(visit), who_goes(visit)
    lost = _untrue_for(actor, step, technicians) if state in TOLD else ()
    _apply(visit, step, row.target, at=at, note=note, placement=placement)
    visit.version += 1
    visit.save()
    follow(visit.order_id)
    note_of_lead(visit, step, at)
    record(actor, now, visit, step, at=at, note=note, deed=deed, before=before, technician_id=before["technician_id"])
    audit.record(
        actor=actor, now=now, action=step, entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=sentence or f"{_PARTICIPLE[step]} it", note=note.strip(),
    )  # fmt: skip
    events.publish(
        VisitStepped(
            visit=visit, step=step, at=now, actor=actor, note=note.strip(), told=lost,
            tell_customer=tell_customer.strip(), tells=tells,
        )
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk], technicians=[*technicians, *who_goes(visit)])
    return visit


def _check_base(visit: Visit, deed: Deed, version: int | None) -> None:
    """Where a deed says what it is based on, that is what has to be so still."""
    if deed.based_on is None:
        if version is None:
            raise Rejected("Say which version was seen, or what it is based on.", field="version")
        return
    if visit.state != deed.based_on.state:
        raise Conflict(
            f"This visit is {in_words(VisitState(visit.state))} now, not {in_words(deed.based_on.state)}.",
            code="not_as_seen", current_version=visit.version,
        )  # fmt: skip
    check_start(visit, deed)


def check_start(visit: Visit, deed: Deed) -> None:
    """Nobody accepts, or sets out to, another time than they saw.

    Raises
    ------
    Conflict
    """
    base = deed.based_on
    if base is not None and base.start is not None and to_moment(visit.start) != base.start:
        raise Conflict(
            "This visit has been moved to another time since. Look at it again.", code="not_as_seen",
            current_version=visit.version,
        )  # fmt: skip


def _checked(actor: Actor, visit: Visit, step: Step, note: str) -> Transition:
    row, state = transition(step), VisitState(visit.state)
    if row.actions.isdisjoint(actor.actions):
        raise NotPermitted(f"As {actor.role_name} you cannot {step} a visit.")
    for_all = may(actor, Action.CHANGE_VISITS) or step in (Step.DECLINE, Step.REVIEW)
    if not for_all and actor.technician_id != visit.technician_id:
        raise NotPermitted("Whoever leads the visit does this.", code="not_the_lead")
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
    return row


def _untrue_for(actor: Actor, step: Step, technicians: tuple[int, ...]) -> tuple[int, ...]:
    """Who was told what is not so any more. Who declines knows it themselves."""
    if step in _TAKES_BACK:
        return technicians
    return tuple(who for who in technicians if who != actor.technician_id) if step is Step.DECLINE else ()


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
    visit: Visit, step: Step, target: VisitState, *, at: datetime, note: str, placement: Placement | None
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
        # What has happened stays with its events; whoever goes next has not set out yet.
        visit.departed_at, visit.arrived_at = None, None
    elif step is Step.DEPART:
        visit.departed_at = at
    elif step is Step.ARRIVE:
        visit.arrived_at = at
    elif step is Step.FINISH:
        visit.finished_at = at
        visit.outcome = note.strip()
