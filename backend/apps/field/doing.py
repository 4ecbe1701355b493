"""What a deed does: one function for each kind of deed that a phone knows."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from pydantic import Field, ValidationError

from apps.field.bodies import Body, Kind, Shapeless
from apps.field.entering import ENTRY_KINDS
from apps.field.inputs import SentDeed
from apps.field.logging_day import DAY_KINDS
from apps.field.reporting import REPORT_KINDS
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.inputs import Deed
from core.field import placed_in_time
from core.orders import Step
from foundation.actors import Actor
from foundation.moments import to_datetime
from foundation.schemas import Text

FIELD_STEPS = frozenset({Step.ACCEPT, Step.DECLINE, Step.DEPART, Step.ARRIVE, Step.HOLD, Step.RESUME, Step.FINISH})


class _StepBody(Body):
    step: Step
    note: Text = Field("", max_length=2000)


def do(*, actor: Actor, now: datetime, sent: SentDeed) -> str:
    """Do what a deed says was done; a sentence where what was done differs from what was told, else nothing.

    Raises
    ------
    Shapeless
        When it never can be done.
    NotFound, NotPermitted, Rejected, Conflict
        When it contradicts what the records say now.
    """
    kind = _KINDS.get(sent.kind)
    if kind is None:
        raise Shapeless(f"Nobody knows what “{sent.kind}” is.")
    shape, function = kind
    try:
        body = shape.model_validate(dict(sent.body))
    except ValidationError as error:
        first = error.errors()[0]
        raise Shapeless(f"{'.'.join(str(part) for part in first['loc']) or sent.kind}: {first['msg']}") from error
    return function(actor, now, sent, body)


def _step(actor: Actor, now: datetime, sent: SentDeed, body: Any) -> str:
    """A step on an own visit: of the visit by whoever leads it, of their own part by who goes along."""
    if body.step not in FIELD_STEPS:
        raise Shapeless(f"“{body.step}” is not done on the phone.")
    if sent.visit_id is None:
        raise Shapeless("A step belongs to a visit.")
    at = _when(sent, now)
    deed = Deed(
        key=sent.id, based_on=sent.based_on, happened_at=at, where=sent.where, accuracy_metres=sent.accuracy_metres
    )
    if orders.was_done(actor=actor, deed=deed, visit_id=sent.visit_id, step=body.step):
        return ""
    if order_queries.goes_along(sent.visit_id, actor.technician_id or 0):
        orders.take_own_step(actor=actor, now=now, visit_id=sent.visit_id, step=body.step, note=body.note, deed=deed)
    else:
        orders.take_step(
            actor=actor, now=now, visit_id=sent.visit_id, version=None, step=body.step, note=body.note, deed=deed
        )
    return "" if at == sent.happened_at else "Its time was out of order and was moved."


def _when(sent: SentDeed, now: datetime) -> datetime:
    """When it happened, behind what is known of the visit already."""
    visit = order_queries.bare_visit(sent.visit_id or 0)
    known = [at for at in (visit.departed_at, visit.arrived_at, visit.finished_at) if at is not None]
    after = int(max(known).timestamp()) if known else None
    placed = placed_in_time(int(sent.happened_at.timestamp()), after=after, now=int(now.timestamp()))
    return to_datetime(placed.at) if placed.moved else sent.happened_at


_KINDS: Mapping[str, Kind] = {"step": (_StepBody, _step), **REPORT_KINDS, **ENTRY_KINDS, **DAY_KINDS}


def step_of(kind: str, body: Mapping[str, Any]) -> Step | None:
    """The step that a deed takes, if it takes one."""
    return Step(body["step"]) if kind == "step" and body.get("step") in FIELD_STEPS else None
