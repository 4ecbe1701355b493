"""Photos and signatures: told of first, and taken in when they have come."""

from datetime import datetime
from uuid import UUID

from django.db import transaction

from apps.reports.commands.sending import pictures_have_come
from apps.reports.commands.visits import tell, visit_of
from apps.reports.inputs import Doing, PictureFields
from apps.reports.models import Picture
from core.roles import Action
from foundation import files, live, parts, pictures
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

MEDIA = {"image/jpeg": "jpg", "image/png": "png", "image/webp": "webp"}


@transaction.atomic
def tell_of_picture(*, actor: Actor, now: datetime, doing: Doing, fields: PictureFields) -> None:
    """A picture was taken, or what is told of it has changed. It comes itself later.

    Raises
    ------
    Rejected
        When it is too large, or no picture.
    """
    visit = visit_of(actor, doing)
    if fields.media_type not in MEDIA:
        raise Rejected("A photo is a JPEG, PNG or WebP.", code="no_picture")
    if not 0 < fields.size <= pictures.LARGEST:
        raise Rejected(f"A picture has at most {pictures.LARGEST // 1024 // 1024} MB.", code="too_large")
    known = Picture.objects.filter(pk=fields.id).first()
    if known is not None and known.visit_id != visit.pk:
        raise Rejected("This picture belongs to another visit.", code="key_used")
    told = {"caption": fields.caption.strip(), "pair": fields.pair}
    if known is not None:
        Picture.objects.filter(pk=known.pk).update(**told)
        return
    if fields.original is not None and not Picture.objects.filter(pk=fields.original, visit=visit).exists():
        raise Rejected("The photo that was drawn on is not of this visit.", code="no_picture")
    Picture.objects.create(
        id=fields.id, original_id=fields.original, visit=visit, technician_id=doing.technician_id, at=doing.at,
        kind=fields.kind, size=fields.size, media_type=fields.media_type, question=fields.question, **told,
    )  # fmt: skip
    tell(actor, now, visit, f"took a {fields.kind}")


@transaction.atomic
def remove_picture(*, actor: Actor, now: datetime, doing: Doing, picture_id: UUID) -> None:
    """Leave a photo out of the report. Signatures stay."""
    visit = visit_of(actor, doing)
    if Picture.objects.filter(pk=picture_id, visit=visit, kind="photo").update(removed=True):
        tell(actor, now, visit, "left a photo out")
        pictures_have_come(visit.pk)


@transaction.atomic
def add_piece(*, actor: Actor, now: datetime, picture_id: UUID, at: int, content: bytes) -> int:
    """A piece of a picture, which begins at so many bytes; how much of it is here now. May come twice, also at once.

    With the last piece the picture is taken into the report.

    Raises
    ------
    NotFound
        When nobody has told of it yet.
    Conflict
        When pieces before it are missing: `current_version` is how much is here.
    Rejected
        When it is more than was told, or no picture that can be read.
    """
    require(actor, Action.WORK_IN_FIELD)
    # Locked: two pages of one phone may send the same piece, and one after the other it is passed over.
    rows = Picture.objects.select_for_update(of=("self",)).select_related("visit")
    known = rows.filter(pk=picture_id, technician=actor.technician_id).first()
    if known is None:
        raise NotFound("Nobody has told of this picture yet.", code="no_picture")
    if known.file_id is not None:
        return known.size
    length, picture = parts.add_to_picture(actor=actor, key=str(picture_id), at=at, content=content, size=known.size)
    if picture is not None:
        _take_in(actor, now, known, picture)
    return length


def _take_in(actor: Actor, now: datetime, row: Picture, content: bytes) -> None:
    row.file = files.keep(
        actor=actor, now=now, record="visit", record_id=row.visit_id,
        name=f"{row.kind}-{row.at:%Y%m%d-%H%M%S}.{MEDIA[row.media_type]}", content=content, media_type=row.media_type,
    )  # fmt: skip
    row.save(update_fields=["file"])
    pictures_have_come(row.visit_id)
    live.announce("visit", ids=[row.visit_id], technicians=[row.visit.technician_id, *row.visit.mates])
