"""What a technician holds and looks like: certificates, a photo."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from apps.people.commands.technicians import locked, tell
from apps.people.inputs import CertificateFields
from apps.people.models import Certificate, CertificateKind, Photo, Technician
from core.roles import Action
from foundation import files, pictures
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

# Dots along each side: as large as it is shown anywhere, on a dense screen.
PHOTO_SIDE = 256


@transaction.atomic
def set_certificates(
    *, actor: Actor, now: datetime, technician_id: int, version: int, certificates: Sequence[CertificateFields]
) -> Technician:
    """All certificates that a technician holds. What is placed stays, and says where one is missing.

    Raises
    ------
    Rejected
        For a kind that is not known, one of a kind and number twice, or a file that is not at hand.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    kinds = {row.code: row for row in CertificateKind.objects.filter(code__in=[row.code for row in certificates])}
    if unknown := [row.code for row in certificates if row.code not in kinds]:
        raise Rejected(f"There is no certificate “{unknown[0]}”.", field="certificates")
    named = [(row.code, row.number.strip().casefold()) for row in certificates]
    if len(set(named)) < len(named):
        twice = next(row for row in certificates if named.count((row.code, row.number.strip().casefold())) > 1)
        raise Rejected(f"{kinds[twice.code].name} stands there twice.", field="certificates")
    _take_up_files(actor, technician, certificates)
    Certificate.objects.filter(technician=technician).delete()
    Certificate.objects.bulk_create(
        Certificate(
            technician=technician, kind=kinds[row.code], number=row.number.strip(), valid_until=row.valid_until,
            file_id=row.file_id,
        )
        for row in certificates
    )  # fmt: skip
    technician.version += 1
    technician.save(update_fields=["version"])
    names = ", ".join(kinds[row.code].name for row in certificates) or "none"
    tell(actor, now, technician, f"set the certificates of {technician.name}: {names}")
    return technician


def _take_up_files(actor: Actor, technician: Technician, certificates: Sequence[CertificateFields]) -> None:
    own, ids = ("technician", technician.pk), [row.file_id for row in certificates if row.file_id is not None]
    if not files.are_at_hand(actor, ids, records=[own]):
        raise Rejected("A file of a certificate is not there any more: add it again.", field="certificates")
    files.take_up(actor=actor, ids=ids, to=own)


@transaction.atomic
def put_photo(*, actor: Actor, now: datetime, technician_id: int, content: bytes) -> None:
    """A photo in place of the drawing or the initials.

    Raises
    ------
    Rejected
        When it is no picture, or too large.
    """
    require(actor, Action.CHANGE_SETTINGS)
    picture = pictures.square(content, PHOTO_SIDE)
    technician = _there(technician_id)
    Photo.objects.update_or_create(technician=technician, defaults={"content": picture})
    tell(actor, now, technician, f"put another photo of {technician.name}")


@transaction.atomic
def remove_photo(*, actor: Actor, now: datetime, technician_id: int) -> None:
    """The drawing or the initials again."""
    require(actor, Action.CHANGE_SETTINGS)
    technician = _there(technician_id)
    if Photo.objects.filter(technician=technician).delete()[0]:
        tell(actor, now, technician, f"removed the photo of {technician.name}")


def _there(technician_id: int) -> Technician:
    technician = Technician.objects.select_for_update().filter(pk=technician_id).first()
    if technician is None:
        raise NotFound("There is no such technician.", code="no_technician")
    return technician
