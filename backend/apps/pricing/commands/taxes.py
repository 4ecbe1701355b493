"""Tax codes."""

from datetime import datetime

from django.db import transaction

from apps.pricing.inputs import TaxFields
from apps.pricing.models import TaxCode
from apps.pricing.values import tax_code
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named.rows import key_for


@transaction.atomic
def put_tax_code(
    *, actor: Actor, now: datetime, fields: TaxFields, code_id: int | None = None, version: int = 0
) -> TaxCode:
    """A new tax code, or other rates of one that is known: documents that exist keep theirs.

    Raises
    ------
    Rejected
        When it cannot be, or another one has its name.
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = TaxCode(version=0) if code_id is None else _locked(code_id, version)
    row.name = " ".join(fields.name.split())
    if not row.name:
        raise Rejected("A tax code needs a name.", field="name")
    if TaxCode.objects.filter(name__iexact=row.name).exclude(pk=row.pk).exists():
        raise Rejected(f"There is a tax code called {row.name} already.", field="name")
    row.category, row.reason, row.retired = fields.category, fields.reason.strip(), fields.retired
    rates = sorted(fields.rates, key=lambda rate: rate[1])
    row.rates = [{"percent": f"{percent:f}", "valid_from": day.isoformat()} for percent, day in rates]
    row.key = row.key or key_for(row.name, set(TaxCode.objects.values_list("key", flat=True)))
    try:
        tax_code(row)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="rates") from error
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="tax code", entity="tax code", entity_id=row.pk, version=row.version,
        sentence=f"set the tax code {row.name}", rates=row.rates,
    )  # fmt: skip
    live.announce("pricing")
    return row


def _locked(code_id: int, version: int) -> TaxCode:
    row = TaxCode.objects.select_for_update().filter(pk=code_id).first()
    if row is None:
        raise NotFound("There is no such tax code.", code="no_tax_code")
    if row.version != version:
        raise Conflict(f"{row.name} was changed meanwhile. Look at it again.", current_version=row.version)
    return row
