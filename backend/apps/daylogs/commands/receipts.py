"""Photos of receipts: told of with the fuel, and taken in when they have come."""

from datetime import datetime
from uuid import UUID

from django.db import transaction

from apps.daylogs.models import Fuel
from core.roles import Action
from foundation import files, live, parts
from foundation.actors import Actor, require
from foundation.errors import NotFound


def is_receipt(picture_id: UUID) -> bool:
    """Whether a picture is the receipt of some fuel."""
    return Fuel.objects.filter(pk=picture_id, size__gt=0).exists()


@transaction.atomic
def add_piece(*, actor: Actor, now: datetime, picture_id: UUID, at: int, content: bytes) -> int:
    """A piece of a receipt's photo, which begins at so many bytes; how much of it is here now. May come twice.

    Raises
    ------
    NotFound
        When nobody has told of it, or it is somebody else's.
    Conflict
        When pieces before it are missing.
    Rejected
        When it is more than was told, or no picture that can be read.
    """
    require(actor, Action.WORK_IN_FIELD)
    rows = Fuel.objects.select_for_update(of=("self",)).select_related("log")
    row = rows.filter(pk=picture_id, log__technician=actor.technician_id).first()
    if row is None:
        raise NotFound("Nobody has told of this picture yet.", code="no_picture")
    if row.receipt_id is not None:
        return row.size
    length, photo = parts.add_to_picture(actor=actor, key=str(picture_id), at=at, content=content, size=row.size)
    if photo is not None:
        row.receipt = files.keep(
            actor=actor, now=now, record="day log", record_id=row.log_id, name=f"receipt-{row.at:%Y%m%d-%H%M%S}.jpg",
            content=photo, media_type="image/jpeg",
        )  # fmt: skip
        row.save(update_fields=["receipt"])
        live.announce("day log", ids=[row.log_id], technicians=[row.log.technician_id])
    return length
