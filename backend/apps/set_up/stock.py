"""Suppliers, parts and levels from files."""

from collections.abc import Sequence

from apps.company.queries import company
from apps.pricing.models import Item
from apps.set_up.rows import Becomes, Hand, SetUpRow, each
from apps.stock import commands
from apps.stock.inputs import LevelFields, PartFields, SupplierFields
from apps.stock.models import PIECE, Level, Part, StockPlace, Supplier
from apps.stock.queries import part_called, places
from core.pricing import amount_of
from core.stock import Tracking
from foundation.errors import Rejected

USUAL_DAYS = 3


def write_suppliers(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name; columns that are not in the file stay as they are."""

    def write(row: SetUpRow) -> Becomes:
        known = Supplier.objects.filter(name__iexact=row.text("name")).first()
        kept = _supplier_of(known) if known else SupplierFields(name=row.text("name"))
        days = row.get("days", kept.days)
        fields = SupplierFields(
            name=kept.name, email=row.text("email", kept.email), phone=row.text("phone", kept.phone),
            days=USUAL_DAYS if days is None else days, our_number=row.text("our_number", kept.our_number),
            note=row.text("note", kept.note), retired=bool(row.get("retired", kept.retired)),
        )  # fmt: skip
        if known is None:
            commands.put_supplier(**hand.how, fields=fields)
            return Becomes.NEW
        if fields == kept:
            return Becomes.SAME
        commands.put_supplier(**hand.how, fields=fields, supplier_id=known.pk, version=known.version)
        return Becomes.CHANGE

    each(rows, write)


def _supplier_of(row: Supplier) -> SupplierFields:
    return SupplierFields(
        name=row.name, email=row.email, phone=row.phone, days=row.days, our_number=row.our_number, note=row.note,
        retired=row.retired,
    )  # fmt: skip


def write_parts(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By number where the file has one, else by name; what does instead of a part is not in the file, and stays."""
    currency = company().currency

    def write(row: SetUpRow) -> Becomes:
        known = _known(row)
        kept = _part_of(known) if known else PartFields(name=row.text("name"))
        fields = _part_fields(row, kept, currency)
        if known is None:
            commands.put_part(**hand.how, fields=fields)
            return Becomes.NEW
        if fields == kept and not known.untidy:
            return Becomes.SAME
        commands.put_part(**hand.how, fields=fields, code=known.code, version=known.version)
        return Becomes.CHANGE

    each(rows, write)


def _known(row: SetUpRow) -> Part | None:
    if number := row.text("number"):
        found = Part.objects.filter(number__iexact=number, merged_into="").first()
        if found is not None:
            return found
    named = part_called(row.text("name"))
    if named is not None and number and named.number and not named.untidy:
        raise Rejected(f"{named.name} has the number {named.number}")
    return named


def _part_of(row: Part) -> PartFields:
    return PartFields(
        name=row.name, number=row.number or "", unit=row.unit, supplier_id=row.supplier_id,
        supplier_number=row.supplier_number, cost=row.cost, item=row.item.key if row.item else "", gtin=row.gtin,
        tracking=Tracking(row.tracking), hazardous=row.hazardous, oversized=row.oversized, fits=tuple(row.fits),
        warranty_months=row.warranty_months, retired=row.retired,
    )  # fmt: skip


def _part_fields(row: SetUpRow, kept: PartFields, currency: str) -> PartFields:
    cost = row.text("cost")
    fits = row.get("fits", kept.fits) or ()
    return PartFields(
        name=row.text("name"), number=row.text("number", kept.number) or kept.number,
        unit=row.get("unit", kept.unit) or PIECE, supplier_id=_supplier(row, kept),
        supplier_number=row.text("supplier_number", kept.supplier_number),
        cost=_amount(cost, currency) if cost else kept.cost, item=_item(row, kept), gtin=row.text("gtin", kept.gtin),
        tracking=row.get("tracking", kept.tracking) or Tracking.PLAIN,
        hazardous=bool(row.get("hazardous", kept.hazardous)), oversized=bool(row.get("oversized", kept.oversized)),
        fits=tuple(sorted({" ".join(text.split()) for text in fits})),
        warranty_months=row.get("warranty_months", kept.warranty_months),
        retired=bool(row.get("retired", kept.retired)),
    )  # fmt: skip


def _supplier(row: SetUpRow, kept: PartFields) -> int | None:
    if "supplier" not in row.cells:
        return kept.supplier_id
    if not (name := row.text("supplier")):
        return None
    found = Supplier.objects.filter(name__iexact=name).first()
    if found is None:
        raise Rejected(f"there is no supplier “{name}”: bring in suppliers first")
    return found.pk


def _item(row: SetUpRow, kept: PartFields) -> str:
    if "item" not in row.cells:
        return kept.item
    if not (wording := row.text("item")):
        return ""
    found = Item.objects.filter(wording__iexact=wording).first()
    if found is None:
        raise Rejected(f"“{wording}” is not on the price list: bring that in first")
    return found.key


def _amount(text: str, currency: str) -> int:
    try:
        return amount_of(text, currency)
    except ValueError as error:
        raise Rejected(str(error)) from error


def write_levels(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By place and part: where it lies, and how many ought to. A quantity is what was counted there: the difference is
    booked as that of a count."""
    commands.open_places(**hand.how)
    by_name = {place.name.casefold(): place for place in places()}

    def write(row: SetUpRow) -> Becomes:
        place = by_name.get(row.text("place").casefold())
        if place is None:
            raise Rejected(f"“{row.text('place')}” is no depot and no vehicle")
        part = Part.objects.filter(number__iexact=row.text("part"), merged_into="").first()
        part = part or part_called(row.text("part"))
        if part is None:
            raise Rejected(f"there is no part “{row.text('part')}”: bring in parts first")
        known = Level.objects.filter(place=place, part=part).first()
        changed = _lay_down(hand, row, place, part, known)
        changed |= _counted(hand, row, place, part)
        if not changed and known is not None:
            return Becomes.SAME
        return Becomes.NEW if known is None else Becomes.CHANGE

    each(rows, write)


def _lay_down(hand: Hand, row: SetUpRow, place: StockPlace, part: Part, known: Level | None) -> bool:
    """Where it lies and between which levels, where that is another than before."""
    kept = LevelFields(shelf=known.shelf, least=known.least, target=known.target) if known else LevelFields()
    fields = LevelFields(
        shelf=row.text("shelf", kept.shelf), least=row.get("least", kept.least), target=row.get("target", kept.target)
    )
    if fields == kept and known is not None:
        return False
    version = known.version if known else None
    commands.set_level(**hand.how, place_id=place.pk, code=part.code, version=version, fields=fields)
    return True


def _counted(hand: Hand, row: SetUpRow, place: StockPlace, part: Part) -> bool:
    quantity = row.get("quantity", None)
    level = Level.objects.get(place=place, part=part)
    if quantity is None or quantity == level.quantity:
        return False
    commands.count_at(**hand.how, place_id=place.pk, code=part.code, quantity=quantity, version=level.version)
    return True
