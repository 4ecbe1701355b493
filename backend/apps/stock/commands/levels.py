"""Counting one part at a place, where it lies, and how many ought to."""

from datetime import datetime

from django.db import transaction

from apps.people import queries as people
from apps.stock import queries
from apps.stock.commands.moving import move
from apps.stock.commands.parts import named_part
from apps.stock.commands.places import nobodys, place_of_van
from apps.stock.inputs import Circumstances, LevelFields
from apps.stock.models import Level, Part, StockPlace
from core.roles import Action
from core.stock import MOST, Move, MoveReason, PlaceKind, Tracking
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.undo import Values, check_unchanged


@transaction.atomic
def count(
    *, actor: Actor, now: datetime, technician_id: int, part_name: str, quantity: int | None, version: int | None
) -> Level | None:
    """Say how many of a part lie on a technician's van.

    Parameters
    ----------
    quantity
        None: the van does not carry this part any more.
    version
        Of the level that was seen; None: the part was not on the list.

    Raises
    ------
    Conflict
        When somebody counted, or a visit took some, since.
    """
    require(actor, Action.MOVE_STOCK)
    technician = people.technician(technician_id)
    if not part_name.strip():
        raise Rejected("Say which part.", field="part")
    known = queries.part_called(part_name)
    if known is None and quantity is None:
        return None
    place = place_of_van(technician)
    part = known or named_part(actor, now, part_name.strip())
    return _count(actor, now, place, part, quantity, version, whose=f"the van of {technician.name}")


@transaction.atomic
def count_at(
    *, actor: Actor, now: datetime, place_id: int, code: str, quantity: int | None, version: int | None
) -> Level | None:
    """The same at any place."""
    require(actor, Action.MOVE_STOCK)
    place, part = queries.place(place_id), queries.part(code)
    return _count(actor, now, place, part, quantity, version, whose=place.name)


def _count(
    actor: Actor, now: datetime, place: StockPlace, part: Part, quantity: int | None, version: int | None, *, whose: str
) -> Level | None:
    if quantity is not None and not 0 <= quantity <= MOST:
        raise Rejected(f"A quantity is 0 to {MOST:,}.", field="quantity")
    if part.tracking != Tracking.PLAIN and quantity:
        raise Rejected(f"{part.name} is kept by {part.tracking}: book it in, or count it on a sheet.", field="part")
    row = Level.objects.select_for_update().filter(place=place, part=part).first()
    if (row.version if row else None) != version:
        raise Conflict(
            f"{part.name}: {row.quantity} on {_short(place)} by now. Shown as it is."
            if row
            else f"{part.name} is not on the list of {_short(place, this=True)} any more.",
            current_version=row.version if row else None,
        )
    if row is None and quantity is None:
        return None
    before = None if row is None else row.quantity
    said = f"counted {quantity} × {part.name} on {whose}"
    if quantity is None:
        said = f"took {part.name} off the list of {whose}"
    correct(actor, now, place, part, (quantity or 0) - (before or 0), said=said)
    kept = _kept(place, part, quantity)
    values = {"part": part.code, "quantity": before}
    undo.record(
        actor=actor, now=now, subject="stock", key=place.pk, sentence=said,
        before=values, after=values | {"quantity": quantity},
    )  # fmt: skip
    return kept


def _short(place: StockPlace, *, this: bool = False) -> str:
    if place.what is PlaceKind.VAN:
        return "this van" if this else "the van"
    return place.name


def correct(
    actor: Actor, now: datetime, place: StockPlace, part: Part, difference: int, *, said: str, note: str = ""
) -> None:
    """Book what a count found too many or too few."""
    if difference == 0:
        _note(actor, now, place, said)
        return
    other = nobodys(PlaceKind.DIFFERENCE)
    source, target = (other, place) if difference > 0 else (place, other)
    one = Move(part=part.pk, quantity=abs(difference), source=source.pk, target=target.pk, reason=MoveReason.COUNT)
    # What is missing may be missing from less than nothing: counting puts that right.
    move(actor=actor, now=now, moves=[one], how=Circumstances(note=note, below_zero=True), said=said)


def _kept(place: StockPlace, part: Part, quantity: int | None) -> Level | None:
    """The level after counting: what is carried with nothing of it there stays on the list."""
    rows = Level.objects.filter(place=place, part=part)
    if quantity is None:
        rows.delete()
        return None
    row, _made = rows.get_or_create(defaults={"place": place, "part": part})
    return row


def _note(actor: Actor, now: datetime, place: StockPlace, said: str) -> None:
    audit.record(actor=actor, now=now, action="move", entity="stock place", entity_id=place.pk, sentence=said[:300])
    live.announce("stock", ids=[place.pk])


def put_count_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`; the key is the place's. What was counted is counted again as it was: movements stay."""
    part = Part.objects.get(code=expected["part"])
    found = Level.objects.filter(place=key, part=part).first()
    check_unchanged({"part": expected["part"], "quantity": found.quantity if found else None}, expected)
    version = found.version if found else None
    count_at(actor=actor, now=now, place_id=key, code=part.code, version=version, quantity=wanted["quantity"])
    return key


@transaction.atomic
def set_level(
    *, actor: Actor, now: datetime, place_id: int, code: str, version: int | None, fields: LevelFields
) -> Level:
    """Where at a place a part lies, and between which levels it is kept.

    Raises
    ------
    Rejected
        When the target is below the least level, or one of the two is missing.
    Conflict
        When somebody changed it, or parts moved, since it was seen.
    """
    require(actor, Action.MOVE_STOCK)
    place, part = queries.place(place_id), queries.part(code)
    if place.what not in (PlaceKind.DEPOT, PlaceKind.VAN):
        raise NotFound("Levels are kept in depots and on vans.", code="no_level")
    if (fields.least is None) != (fields.target is None):
        raise Rejected("Give both the least level and the target, or neither.", field="target")
    if fields.least is not None and fields.target is not None and fields.target < fields.least:
        raise Rejected("The target is not below the least level.", field="target")
    row = Level.objects.select_for_update().filter(place=place, part=part).first()
    if row is not None and version is not None and row.version != version:
        raise Conflict(f"{part.name} at {place.name} has changed since. Shown as it is.", current_version=row.version)
    row = row or Level(place=place, part=part, version=0)
    before = {"shelf": row.shelf, "least": row.least, "target": row.target}
    row.shelf, row.least, row.target = " ".join(fields.shelf.split()), fields.least, fields.target
    row.by_hand, row.version = True, row.version + 1
    row.save()
    audit.record(
        actor=actor, now=now, action="level", entity="stock place", entity_id=place.pk, version=row.version,
        sentence=f"set the levels of {part.name} at {place.name}"[:300], before=before,
        after={"shelf": row.shelf, "least": row.least, "target": row.target},
    )  # fmt: skip
    live.announce("stock", ids=[place.pk])
    return row
