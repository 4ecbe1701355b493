"""What a company names: kinds of certificates."""

from datetime import datetime

from django.db import transaction

from apps.people.models import CertificateKind
from core.roles import Action
from foundation import audit
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.named import called


@transaction.atomic
def add_certificate_kind(*, actor: Actor, now: datetime, name: str) -> CertificateKind:
    """The kind of certificate of that name, made if there is none."""
    require(actor, Action.CHANGE_SETTINGS)
    if not name.strip():
        raise Rejected("A certificate needs a name.", field="name")
    found, made = called(CertificateKind, name.strip())
    if made:
        audit.record(
            actor=actor, now=now, action="make", entity="certificate", entity_id=found.pk,
            sentence=f"made the certificate {found.name}",
        )  # fmt: skip
    return found
