"""Parts: what is known of each besides its name."""

from collections.abc import Sequence
from datetime import datetime

from django.db import IntegrityError, transaction

from apps.company.numbers import take_number
from apps.pricing.models import Item
from apps.stock.inputs import PartFields, SubstituteFields
from apps.stock.models import Movement, Part, Substitute, Supplier
from core.pricing import UNITS
from core.roles import Action
from core.stock import gtin
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.models import StoredFile
from foundation.named import called
from foundation.named.rows import key_for


@transaction.atomic
def name_parts(*, actor: Actor, now: datetime, names: Sequence[str]) -> list[Part]:
    """The parts of these names in their order. One that is not known yet is made from its name, and listed for somebody
    who looks after stock."""
    require(actor, Action.CHANGE_VISITS)
    if not all(name.strip() for name in names):
        raise Rejected("A part needs a name.", field="names")
    return [named_part(actor, now, name.strip()) for name in names]


def named_part(actor: Actor, now: datetime, name: str) -> Part:
    """The part of that name; made if there is none."""
    part, made = called(Part, name)
    if made:
        part.number, part.untidy = _free_number(now), True
        part.save(update_fields=["number", "untidy"])
        _tell(actor, now, part, "make", f"named the part {part.name}")
    return part


@transaction.atomic
def put_part(
    *, actor: Actor, now: datetime, fields: PartFields, code: str | None = None, version: int = 0
) -> Part:  # fmt: skip
    """A new part, or another name, supplier, barcode of one that is known.

    Raises
    ------
    Rejected
        When something about it cannot be.
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.MOVE_STOCK)
    row = Part(version=0) if code is None else _locked(code, version)
    new = row.pk is None
    row.name = _name(row, fields.name)
    row.number = _number(row, fields.number, now)
    row.gtin = _gtin(row, fields.gtin)
    row.tracking = _tracking(row, fields)
    row.unit, row.supplier = _unit(fields.unit), _supplier(fields.supplier_id)
    row.item = _item(row, fields.item)
    if fields.cost is not None:
        row.cost = fields.cost
    row.supplier_number, row.warranty_months = fields.supplier_number.strip(), fields.warranty_months
    row.hazardous, row.oversized, row.retired = fields.hazardous, fields.oversized, fields.retired
    row.fits = sorted({" ".join(text.split()) for text in fields.fits if text.strip()})
    row.untidy = False
    row.code = row.code or key_for(row.name, set(Part.objects.values_list("code", flat=True)))
    row.version += 1
    try:
        with transaction.atomic():
            row.save()
    except IntegrityError as error:
        raise Conflict("Somebody else is adding the same part. Look again.") from error
    if fields.substitutes is not None:
        _put_substitutes(row, fields.substitutes)
    if row.item is not None and row.cost is not None and row.item.cost != row.cost:
        Item.objects.filter(pk=row.item.pk).update(cost=row.cost)
    _tell(actor, now, row, "make" if new else "change", f"{'added' if new else 'changed'} the part {row.name}")
    return row


@transaction.atomic
def set_photo(*, actor: Actor, now: datetime, code: str, version: int, file_id: int | None) -> Part:
    """Its picture, from the files that were uploaded to it; None: no picture.

    Raises
    ------
    Rejected
        When that file is not the part's, or no picture.
    """
    require(actor, Action.MOVE_STOCK)
    row = _locked(code, version)
    photo = None
    if file_id is not None:
        photo = StoredFile.objects.filter(pk=file_id, record="part", record_id=row.pk).first()
        if photo is None or not photo.media_type.startswith("image/"):
            raise Rejected("That is no picture of this part.", field="file_id")
    row.photo, row.version = photo, row.version + 1
    row.save(update_fields=["photo", "version"])
    _tell(actor, now, row, "change", f"{'gave' if photo else 'took'} {row.name} {'a' if photo else 'its'} picture")
    return row


def _locked(code: str, version: int) -> Part:
    row = Part.objects.select_for_update().filter(code=code, merged_into="").first()
    if row is None:
        raise NotFound("There is no such part (any more).", code="no_part")
    if row.version != version:
        newest = audit.since("part", row.pk, version)
        who = newest[0].actor_name if newest else "Somebody"
        raise Conflict(f"{who} changed {row.name} meanwhile. Look at it again.", current_version=row.version)
    return row


def _name(row: Part, name: str) -> str:
    name = " ".join(name.split())
    if not name:
        raise Rejected("A part needs a name.", field="name")
    if (twin := Part.objects.filter(name__iexact=name).exclude(pk=row.pk).first()) is not None:
        raise Rejected(f"There is a part called {twin.name} already.", field="name")
    return name


def _number(row: Part, number: str, now: datetime) -> str:
    number = number.strip() or row.number or _free_number(now)
    twin = Part.objects.filter(number__iexact=number).exclude(pk=row.pk).first()
    if twin is not None:
        raise Rejected(f"{twin.name} has the number {number}.", field="number")
    return number


def _free_number(now: datetime) -> str:
    """The next number that nobody has given by hand."""
    number = take_number("part", now=now)
    while Part.objects.filter(number__iexact=number).exists():
        number = take_number("part", now=now)
    return number


def _gtin(row: Part, text: str) -> str:
    if not text.strip():
        return ""
    try:
        found = gtin(text)
    except ValueError as error:
        raise Rejected(f"{error}.", field="gtin") from error
    twin = Part.objects.filter(gtin=found).exclude(pk=row.pk).first()
    if twin is not None:
        raise Rejected(f"{twin.name} has the GTIN {found}.", field="gtin")
    return found


def _tracking(row: Part, fields: PartFields) -> str:
    """What was moved without serial numbers has none: they cannot begin in the middle."""
    if row.pk and fields.tracking != row.tracking and Movement.objects.filter(part=row.pk).exists():
        raise Rejected(
            f"{row.name} has been moved already, so it stays {row.tracking}. Add another part for it.",
            field="tracking",
        )  # fmt: skip
    return fields.tracking.value


def _unit(unit: str) -> str:
    if unit not in UNITS:
        raise Rejected("Choose a unit.", field="unit")
    return unit


def _supplier(supplier_id: int | None) -> Supplier | None:
    if supplier_id is None:
        return None
    found = Supplier.objects.filter(pk=supplier_id).first()
    if found is None:
        raise Rejected("That supplier is not there any more.", field="supplier_id")
    return found


def _item(row: Part, key: str) -> Item | None:
    if not key:
        return None
    found = Item.objects.filter(key=key).first()
    if found is None:
        raise Rejected("That item of the price list is not there any more.", field="item")
    twin = Part.objects.filter(item=found).exclude(pk=row.pk).first()
    if twin is not None:
        raise Rejected(f"{found.wording} is the price of {twin.name}.", field="item")
    return found


def _put_substitutes(row: Part, wanted: Sequence[SubstituteFields]) -> None:
    others = {part.code: part for part in Part.objects.filter(code__in=[one.code for one in wanted])}
    if unknown := sorted({one.code for one in wanted} - others.keys()):
        raise Rejected(f"Unknown part: {unknown[0]}.", field="substitutes")
    if row.code in others:
        raise Rejected("A part does not stand in for itself.", field="substitutes")
    Substitute.objects.filter(part=row).delete()
    Substitute.objects.bulk_create(
        Substitute(part=row, other=others[code], rank=one.rank, both_ways=one.both_ways)
        for code, one in {one.code: one for one in wanted}.items()
    )


def _tell(actor: Actor, now: datetime, part: Part, action: str, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action=action, entity="part", entity_id=part.pk, version=part.version, sentence=sentence
    )
    live.announce("stock")
