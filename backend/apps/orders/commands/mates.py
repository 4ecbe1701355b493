"""What somebody who goes along does for themselves: the visit's own state follows whoever leads."""

from dataclasses import replace
from datetime import datetime

from django.db import transaction

from apps.orders.commands.happening import NOW, happened_at, is_known, note_of_mate, plan_of, record, times_of
from apps.orders.commands.steps import check_start, in_words, locked_visit, take_step
from apps.orders.inputs import Deed
from apps.orders.models import Assignment, Visit
from core.orders import Step, VisitState, own_steps
from foundation import audit, live
from foundation.actors import Actor
from foundation.errors import NotFound, Rejected

_SAID = {Step.ACCEPT: "accepted to go along", Step.DEPART: "set out", Step.ARRIVE: "arrived", Step.FINISH: "left"}


@transaction.atomic
def take_own_step(*, actor: Actor, now: datetime, visit_id: int, step: Step, note: str = "", deed: Deed = NOW) -> Visit:
    """Accept, decline, set out, arrive or leave, as somebody who goes along.

    The visit's version stays: what one of a crew does never stands in the way of what another does.

    Raises
    ------
    NotFound
        When the technician does not go along (any more).
    Conflict
        When the visit was moved to another time since it was seen.
    Rejected
        When the step does not follow, or needs a note.
    """
    visit = locked_visit(actor, visit_id)
    if is_known(deed, visit, step):
        return visit
    rows = Assignment.objects.filter(visit=visit, leads=False)
    own = next((row for row in rows if row.technician_id == actor.technician_id), None)
    if own is None:
        raise NotFound("You do not go along to this visit (any more).", code="no_visit")
    check_start(visit, deed)
    if step not in own_steps(VisitState(visit.state), own.part):
        raise Rejected(
            f"That does not follow: the visit is {in_words(VisitState(visit.state))}.", code="wrong_state", field="step"
        )
    if step is Step.DECLINE:
        # How far whoever leads is by now does not matter to who declines.
        return take_step(
            actor=actor, now=now, visit_id=visit_id, version=visit.version, step=step, note=note,
            deed=replace(deed, based_on=None),
        )  # fmt: skip
    at = happened_at(times_of(own), deed, now)
    note_of_mate(own, step, at)
    record(actor, now, visit, step, at=at, note=note, deed=deed, before=plan_of(visit), technician_id=own.technician_id)
    audit.record(
        actor=actor, now=now, action=step, entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=_SAID[step], note=note.strip(),
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id, *visit.mates])
    return visit
