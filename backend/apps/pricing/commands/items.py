"""The price list."""

from datetime import datetime

from django.db import transaction

from apps.pricing import values
from apps.pricing.inputs import ItemFields
from apps.pricing.models import Item, TaxCode
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named.rows import key_for


@transaction.atomic
def put_item(*, actor: Actor, now: datetime, fields: ItemFields, item_id: int | None = None, version: int = 0) -> Item:
    """A new item, or another price, cost or wording of one that is known: documents that exist keep theirs.

    Raises
    ------
    Rejected
        When it cannot be, or another one has its wording.
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = Item(version=0) if item_id is None else _locked(item_id, version)
    before = row.price if row.pk else None
    row.wording = " ".join(fields.wording.split())
    if Item.objects.filter(wording__iexact=row.wording).exclude(pk=row.pk).exists():
        raise Rejected(f"There is an item called “{row.wording}” already.", field="wording")
    row.tax = _tax(fields.tax)
    row.kind, row.unit, row.retired = fields.kind, fields.unit, fields.retired
    row.price, row.cost, row.effort = fields.price, fields.cost, fields.effort
    row.key = row.key or key_for(row.wording, set(Item.objects.values_list("key", flat=True)))
    try:
        values.item(row)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="wording") from error
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="item", entity="item", entity_id=row.pk, version=row.version,
        sentence=f"{'added' if before is None else 'changed'} {row.wording} on the price list"[:300],
        price=[before, row.price],
    )  # fmt: skip
    live.announce("pricing")
    return row


def _tax(key: str) -> TaxCode:
    found = TaxCode.objects.filter(key=key).first()
    if found is None:
        raise Rejected("Choose a tax code.", field="tax")
    return found


def _locked(item_id: int, version: int) -> Item:
    row = Item.objects.select_for_update(of=("self",)).select_related("tax").filter(pk=item_id).first()
    if row is None:
        raise NotFound("There is no such item.", code="no_item")
    if row.version != version:
        raise Conflict(f"{row.wording} was changed meanwhile. Look at it again.", current_version=row.version)
    return row
