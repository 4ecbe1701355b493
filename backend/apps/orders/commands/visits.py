"""Editing visits."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.intake import commands as intake
from apps.orders.amounts import has_prices
from apps.orders.commands.following import follow
from apps.orders.commands.steps import in_words, lock_visit
from apps.orders.inputs import VisitFields
from apps.orders.models import Visit
from apps.stock.queries import check_parts
from core.orders import VisitState
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Rejected


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
        "crew": visit.crew if fields.crew is None else fields.crew,
        "title": visit.title if fields.title is None else fields.title.strip(),
        "takes": visit.takes if fields.takes is None else dict(fields.takes), "worth": fields.worth,
    }  # fmt: skip
    changed = {name: value for name, value in wanted.items() if getattr(visit, name) != value}
    if "worth" in changed and has_prices(visit.order):
        raise Rejected("What the visit brings follows from the order's lines: change those.", field="worth")
    if not changed:
        return visit, {}
    if VisitState(visit.state).is_ended and set(changed) - {"notes"}:
        raise Rejected(f"The visit is {in_words(VisitState(visit.state))}: only its notes can still change.")
    for name, value in changed.items():
        setattr(visit, name, value)
    visit.mates = visit.mates[: visit.crew - 1]
    visit.version += 1
    visit.save()
    follow(visit.order_id)
    names = ", ".join(sorted({_FIELD_WORDS[name] for name in changed}))
    audit.record(
        actor=actor, now=now, action="change", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=f"changed its {names}", fields=sorted(changed),
        values={name: [_plain(before[name]), _plain(value)] for name, value in changed.items()},
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk], technicians=[visit.technician_id])
    return visit, {name: before[name] for name in changed}


_FIELD_WORDS = {
    "duration_seconds": "duration", "priority": "priority", "needs": "skills", "promise_start": "promise",
    "promise_end": "promise", "earliest": "earliest start", "due": "due date", "notes": "notes", "pinned": "pin",
    "crew": "crew", "title": "title", "takes": "parts", "worth": "worth",
}  # fmt: skip


def _plain(value: Any) -> Any:
    return int(value.timestamp()) if isinstance(value, datetime) else value


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
    if fields.crew is not None and not 1 <= fields.crew <= 8:
        raise Rejected("A crew has 1 to 8 members.", field="crew")
    intake.check_needs(fields.needs)
    check_parts(fields.takes or (), field="takes")
