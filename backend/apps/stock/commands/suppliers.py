"""Suppliers of parts."""

from datetime import datetime

from django.db import transaction

from apps.stock.inputs import SupplierFields
from apps.stock.models import Supplier
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

MOST_DAYS = 365


@transaction.atomic
def put_supplier(
    *, actor: Actor, now: datetime, fields: SupplierFields, supplier_id: int | None = None, version: int = 0
) -> Supplier:
    """A new supplier, or another address or delivery time of one that is known.

    Raises
    ------
    Rejected
        Without a name, or with that of another one.
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.ORDER_PARTS)
    row = Supplier(version=0) if supplier_id is None else _locked(supplier_id, version)
    did = "changed" if row.pk else "added"
    name = " ".join(fields.name.split())
    if not name:
        raise Rejected("A supplier needs a name.", field="name")
    if Supplier.objects.filter(name__iexact=name).exclude(pk=row.pk).exists():
        raise Rejected(f"There is a supplier called {name} already.", field="name")
    if not 0 <= fields.days <= MOST_DAYS:
        raise Rejected(f"A delivery takes 0 to {MOST_DAYS} days.", field="days")
    row.name, row.email, row.phone, row.days = name, fields.email.strip(), fields.phone.strip(), fields.days
    row.our_number, row.note, row.retired = fields.our_number.strip(), fields.note.strip(), fields.retired
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="supplier", entity="supplier", entity_id=row.pk, version=row.version,
        sentence=f"{did} the supplier {name}",
    )  # fmt: skip
    live.announce("stock")
    return row


def _locked(supplier_id: int, version: int) -> Supplier:
    row = Supplier.objects.select_for_update().filter(pk=supplier_id).first()
    if row is None:
        raise NotFound("There is no such supplier.", code="no_supplier")
    if row.version != version:
        raise Conflict(f"{row.name} was changed meanwhile. Look at it again.", current_version=row.version)
    return row
