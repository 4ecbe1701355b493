"""What a dispatcher does on the board. Each can be undone."""

from collections.abc import Sequence
from datetime import date, datetime

from django.db import transaction

from apps.company.queries import time_zone
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.inputs import Placement, VisitFields
from apps.orders.lines import line_of
from apps.orders.models import Visit
from apps.people import queries as people
from apps.scheduling import judging
from apps.scheduling.locks import lock_places
from apps.scheduling.undoing import keep, placement_of, stored_fields
from core.calendars import local_time
from core.orders import Step
from core.roles import Action
from core.scheduling import Verdict
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.moments import to_datetime


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
    because: str = "",
) -> tuple[Visit, Verdict]:
    """Put a visit on a technician's day, or move it there.

    Parameters
    ----------
    because
        Why it goes there although it breaks a limit that a person may override; kept with the visit.

    Raises
    ------
    Rejected
        When the evaluator refuses it, or asks for a reason (code "reason_needed") and none is given.
    Conflict
        When the visit was changed since it was seen.
    """
    require(actor, Action.PLAN)
    technician = people.technician(technician_id)
    people.technicians_named(mates or ())
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    lock_places((person, start) for person in {technician_id, *(visit.mates if mates is None else mates)})
    verdict = judging.judge_placement(
        line=line_of(visit), technician_id=technician_id, start=start, now=now, mates=mates
    )
    if not verdict.allowed:
        raise Rejected(verdict.refusals[0] + ".", code="limit_broken", reasons=verdict.refusals)
    if verdict.questions and not because.strip():
        raise Rejected(
            f"{verdict.questions[0]}. Say why it goes there all the same.",
            code="reason_needed", field="because", reasons=verdict.questions,
        )  # fmt: skip
    before = placement_of(visit)
    when = local_time(start, time_zone())
    moved = "moved it" if before["technician_id"] else "placed it"
    sentence = f"{moved} to {technician.name}, {when}"
    why = f"{'; '.join(verdict.questions)}. All the same: {because.strip()}" if verdict.questions else ""
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit_id, version=version, step=Step.PLACE, sentence=sentence, note=why[:1000],
        placement=Placement(technician_id=technician_id, start=to_datetime(start), mates=mates),
    )  # fmt: skip
    said = f"{visit.order.number} {moved.removesuffix(' it')} to {technician.name}, {when}"
    keep(actor, now, visit, said, before)
    return visit, verdict


@transaction.atomic
def place_first(
    *, actor: Actor, now: datetime, visit_id: int, version: int, technician_id: int, day: date
) -> tuple[Visit, Verdict]:  # fmt: skip
    """Put a visit on a technician's day at the first time at which it fits without harm to anything.

    Raises
    ------
    Rejected
        When there is no such time; with what speaks against the technician, if anything does.
    """
    require(actor, Action.PLAN)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    start = judging.first_start(visit=visit, technician_id=technician_id, day=day, now=now)
    if start is None:
        name = people.technician(technician_id).name
        reasons = judging.fits(visit=visit, day=day).get(technician_id, [])
        raise Rejected(f"{name} has no room for it on that day.", code="no_room", reasons=reasons)
    return place(actor=actor, now=now, visit_id=visit_id, version=version, technician_id=technician_id, start=start)


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
        keep(actor, now, visit, f"{visit.order.number} changed", {"fields": stored_fields(before)})
    return visit


def stretch(*, actor: Actor, now: datetime, visit_id: int, version: int, seconds: int) -> Visit:
    """Give a visit another length."""
    visit = order_queries.visit(visit_id)
    fields = orders.fields_of(visit, duration_seconds=seconds)
    return edit(actor=actor, now=now, visit_id=visit_id, version=version, fields=fields)


def pin(*, actor: Actor, now: datetime, visit_id: int, version: int, pinned: bool) -> Visit:
    """Lock a visit where it is, or unlock it."""
    fields = orders.fields_of(order_queries.visit(visit_id), pinned=pinned)
    return edit(actor=actor, now=now, visit_id=visit_id, version=version, fields=fields)


@transaction.atomic
def step_for(
    *, actor: Actor, now: datetime, visit_id: int, version: int, step: Step, note: str, tell: str = ""
) -> Visit:
    """A field step stamped by the office for a technician, or a cancellation. Placing and sending have their own."""
    require(actor, Action.PLAN)
    if step in (Step.PLACE, Step.UNPLACE, Step.SEND):
        raise Rejected(f"“{step}” is not done this way.", code="wrong_step")
    if step is Step.CANCEL:
        return cancel(actor=actor, now=now, visit_id=visit_id, version=version, note=note, tell=tell)
    return orders.take_step(actor=actor, now=now, visit_id=visit_id, version=version, step=step, note=note)


@transaction.atomic
def cancel(*, actor: Actor, now: datetime, visit_id: int, version: int, note: str, tell: str = "") -> Visit:
    """Cancel a visit; a technician who was told is told, the customer reads `tell` (nothing: is not told). `note` is
    ours. Undone, it is open again and back in its place, not yet sent."""
    require(actor, Action.PLAN)
    before = placement_of(orders.lock_visit(actor=actor, visit_id=visit_id, version=version))
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit_id, version=version, step=Step.CANCEL, note=note,
        tell_customer=tell,
    )  # fmt: skip
    keep(actor, now, visit, f"{visit.order.number} cancelled", before | {"cancelled": note})
    return visit
