"""What was used at a visit, and what came out."""

from datetime import datetime
from uuid import UUID, uuid5

from django.db import transaction

from apps.orders.events import VisitStepped
from apps.orders.models import Visit
from apps.reports.commands.visits import tell, visit_of
from apps.reports.inputs import Doing, RemovedPartFields, UsedPartFields
from apps.reports.models import RemovedPart, UsedPart
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.models import Part
from core.orders import Step
from core.stock import MOST, Tracking
from foundation.actors import Actor
from foundation.errors import Rejected

# Phones make the same name for the line of a planned part (features/field/work/parts/planned.ts): whoever says first
# whether it was used, there is one line.
PLANNED = UUID("0f3b9a52-6a2d-4b0e-9c7e-2f1d1f0a7c11")


def planned_line(visit_id: int, code: str) -> UUID:
    """The name of the line of a planned part."""
    return uuid5(PLANNED, f"{visit_id} {code}")


@transaction.atomic
def use_part(*, actor: Actor, now: datetime, doing: Doing, fields: UsedPartFields) -> None:
    """So many of a part were used; none: one that was planned was not needed. Said again, the last stands.

    Raises
    ------
    Rejected
        When the quantity cannot be, or serial numbers do not fit it.
    NotFound
        When there is no such part, or no such place.
    """
    visit = visit_of(actor, doing)
    part = stock_queries.part_now(fields.code)
    _check(part, fields)
    known = UsedPart.objects.filter(pk=fields.id).first()
    if known is not None and known.visit_id != visit.pk:
        raise Rejected("This line belongs to another visit.", code="key_used")
    if known is not None and known.booking is not None:
        stock.give_back(actor=actor, now=now, booking=known.booking, part_id=known.part_id, at=doing.at)
    booking = _booked(actor, now, doing, visit, part, fields) if fields.quantity and not fields.elsewhere else None
    UsedPart.objects.update_or_create(
        id=fields.id,
        defaults={
            "visit": visit, "technician_id": doing.technician_id, "at": doing.at, "part": part,
            "quantity": fields.quantity, "serials": list(fields.serials), "batch": fields.batch,
            "source_id": _source(doing, fields), "elsewhere": fields.elsewhere.strip(), "booking": booking,
        },
    )  # fmt: skip
    tell(actor, now, visit, f"used {fields.quantity} × {part.name}" if fields.quantity else f"did not use {part.name}")


def _check(part: Part, fields: UsedPartFields) -> None:
    if not 0 <= fields.quantity <= MOST:
        raise Rejected(f"A quantity is 0 to {MOST:,}.", field="quantity")
    if fields.serials and part.tracking != Tracking.SERIAL:
        raise Rejected(f"{part.name} has no serial numbers.", field="serials")
    if fields.serials and len(set(fields.serials)) != fields.quantity:
        raise Rejected(f"{fields.quantity} serial numbers are needed, each once.", field="serials")


def _source(doing: Doing, fields: UsedPartFields) -> int | None:
    if fields.place_id is not None:
        return stock_queries.place(fields.place_id).pk
    van = None if fields.elsewhere.strip() else stock_queries.van_of(doing.technician_id)
    return van.pk if van else None


def _booked(actor: Actor, now: datetime, doing: Doing, visit: Visit, part: Part, fields: UsedPartFields) -> UUID | None:
    line = stock.UsedLine(
        visit_id=visit.pk, technician_id=doing.technician_id, site_id=visit.order.site_id,
        asset_id=visit.order.asset_id, code=part.code, quantity=fields.quantity, serials=fields.serials,
        batch=fields.batch, place_id=fields.place_id,
    )  # fmt: skip
    return stock.use(actor=actor, now=now, line=line, at=doing.at)


@transaction.atomic
def drop_part(*, actor: Actor, now: datetime, doing: Doing, line_id: UUID) -> None:
    """A line was a mistake: what was booked with it lies again where it was taken from."""
    visit = visit_of(actor, doing)
    row = UsedPart.objects.filter(pk=line_id, visit=visit).select_related("part").first()
    if row is None:
        return
    if row.booking is not None:
        stock.give_back(actor=actor, now=now, booking=row.booking, part_id=row.part_id, at=doing.at)
    row.delete()
    tell(actor, now, visit, f"took {row.part.name} off the parts used")


@transaction.atomic
def remove_part(*, actor: Actor, now: datetime, doing: Doing, fields: RemovedPartFields) -> Visit | None:
    """A part came out, and what becomes of it. The visit; None: this was recorded before.

    Raises
    ------
    Rejected
        When nobody can know what came out.
    """
    visit = visit_of(actor, doing)
    if RemovedPart.objects.filter(pk=fields.id).exists():
        return None
    if not fields.code and not fields.words.strip():
        raise Rejected("Say what came out.", field="words")
    if not 1 <= fields.quantity <= MOST:
        raise Rejected(f"A quantity is 1 to {MOST:,}.", field="quantity")
    part = stock_queries.part_now(fields.code) if fields.code else None
    RemovedPart.objects.create(
        id=fields.id, visit=visit, technician_id=doing.technician_id, at=doing.at, part=part,
        words=fields.words.strip(), quantity=fields.quantity, serial=fields.serial.strip(), what=fields.what,
        because=fields.because.strip(),
    )  # fmt: skip
    tell(actor, now, visit, f"took {fields.quantity} × {part.name if part else fields.words.strip()} out")
    return visit


def on_stepped(event: VisitStepped) -> None:
    """With the end of the work, what was planned and nobody spoke of counts as used: the van is lighter by it."""
    visit = event.visit
    if event.step is not Step.FINISH or not visit.takes or visit.technician_id is None or visit.finished_at is None:
        return
    spoken_of = set(UsedPart.objects.filter(visit=visit).values_list("part__code", flat=True))
    left = {code: quantity for code, quantity in visit.takes.items() if code not in spoken_of}
    if not left:
        return
    used = stock.Used(
        visit_id=visit.pk, technician_id=visit.technician_id, parts=left, site_id=visit.order.site_id,
        asset_id=visit.order.asset_id,
    )  # fmt: skip
    booking = stock.take(actor=event.actor, now=event.at, used=used, at=visit.finished_at)
    booked = stock_queries.parts_booked(booking) if booking else frozenset()
    van = stock_queries.van_of(visit.technician_id)
    UsedPart.objects.bulk_create(
        UsedPart(
            id=planned_line(visit.pk, part.code), visit=visit, technician_id=visit.technician_id,
            at=visit.finished_at, part=part, quantity=left[part.code], source=van,
            booking=booking if part.pk in booked else None,
        )
        for part in Part.objects.filter(code__in=left)
    )  # fmt: skip
