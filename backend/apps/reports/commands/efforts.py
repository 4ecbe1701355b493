"""What a visit took besides parts: times where the stamps do not tell them, charges, kilometres."""

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.db import transaction

from apps.orders.models import Assignment
from apps.people import queries as people
from apps.pricing.models import Item
from apps.reports.commands.visits import tell, visit_of
from apps.reports.inputs import ChargeFields, Doing, TimeFields
from apps.reports.models import Charge, Mileage, NothingMore, SaidTime
from core.reports import LONGEST_MINUTES
from foundation.actors import Actor
from foundation.errors import NotFound, Rejected

MOST_THOUSANDTHS = 100_000_000
FURTHEST_METRES = 2_000_000


@transaction.atomic
def say_time(*, actor: Actor, now: datetime, doing: Doing, fields: TimeFields) -> None:
    """Say how long somebody of the crew travelled or worked, and why the stamps do not tell it; or take that back.

    Raises
    ------
    Rejected
        Without a reason, or when no day is so long.
    NotFound
        When they do not go to this visit.
    """
    visit = visit_of(actor, doing)
    whose = Assignment.objects.filter(visit=visit, technician=fields.technician_id).select_related("technician").first()
    if whose is None:
        raise NotFound("They do not go to this visit.", code="no_visit")
    about: dict[str, Any] = {"visit": visit, "technician_id": fields.technician_id, "sort": fields.sort}
    if fields.minutes is None:
        SaidTime.objects.filter(**about).delete()
        tell(actor, now, visit, f"let the stamps tell the {fields.sort} of {whose.technician.name}")
        return
    if not 0 <= fields.minutes <= LONGEST_MINUTES:
        raise Rejected("That is longer than a day.", field="minutes")
    if not fields.reason.strip():
        raise Rejected("Say why the stamps do not tell it.", field="reason")
    who = people.technician(doing.technician_id)
    said = {"at": doing.at, "minutes": fields.minutes, "reason": fields.reason.strip(), "said_by": who.name}
    SaidTime.objects.update_or_create(**about, defaults=said)
    words = f"said that the {fields.sort} of {whose.technician.name} was {fields.minutes} min"
    tell(actor, now, visit, f"{words}: {fields.reason.strip()}")


@transaction.atomic
def put_charge(*, actor: Actor, now: datetime, doing: Doing, fields: ChargeFields) -> None:
    """Charge something besides work and parts. Said again, the last stands.

    Raises
    ------
    Rejected
        When nobody can know what for, or how much.
    """
    visit = visit_of(actor, doing)
    item = Item.objects.filter(key=fields.item).first() if fields.item else None
    if fields.item and item is None:
        raise Rejected("The price list has no such item (any more).", code="no_item", field="item")
    words = fields.words.strip() or (item.wording if item else "")
    if not words:
        raise Rejected("Say what is charged.", field="words")
    if not 1 <= fields.quantity <= MOST_THOUSANDTHS:
        raise Rejected("A quantity is more than 0.", field="quantity")
    known = Charge.objects.filter(pk=fields.id).first()
    if known is not None and known.visit_id != visit.pk:
        raise Rejected("This line belongs to another visit.", code="key_used")
    said = {
        "visit": visit, "technician_id": doing.technician_id, "at": doing.at, "item": fields.item,
        "words": words[:200], "quantity": fields.quantity,
    }  # fmt: skip
    Charge.objects.update_or_create(id=fields.id, defaults=said)
    tell(actor, now, visit, f"put “{words}” on the charges")


@transaction.atomic
def drop_charge(*, actor: Actor, now: datetime, doing: Doing, line_id: UUID) -> None:
    """A charge was a mistake."""
    visit = visit_of(actor, doing)
    row = Charge.objects.filter(pk=line_id, visit=visit).first()
    if row is not None:
        row.delete()
        tell(actor, now, visit, f"took “{row.words}” off the charges")


@transaction.atomic
def set_mileage(*, actor: Actor, now: datetime, doing: Doing, metres: int | None) -> None:
    """How far somebody drove for this visit; None: nothing is said of it."""
    visit = visit_of(actor, doing)
    about: dict[str, Any] = {"visit": visit, "technician_id": doing.technician_id}
    if metres is None:
        Mileage.objects.filter(**about).delete()
        tell(actor, now, visit, "took the kilometres away")
        return
    if not 0 <= metres <= FURTHEST_METRES:
        raise Rejected("Nobody drives so far for a visit.", field="metres")
    Mileage.objects.update_or_create(**about, defaults={"at": doing.at, "metres": metres})
    tell(actor, now, visit, f"drove {metres / 1000:.1f} km")


@transaction.atomic
def nothing_more(
    *, actor: Actor, now: datetime, doing: Doing, of: Literal["parts", "time", "charges"], said: bool
) -> None:
    """Say that what is recorded of parts, times or charges is all; or take that back."""
    visit = visit_of(actor, doing)
    if said:
        about = {"technician_id": doing.technician_id, "at": doing.at}
        NothingMore.objects.get_or_create(visit=visit, of=of, defaults=about)
    else:
        NothingMore.objects.filter(visit=visit, of=of).delete()
    tell(actor, now, visit, f"{'said' if said else 'no longer says'} that of {of} there is nothing more to record")
