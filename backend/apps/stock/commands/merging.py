"""Two parts that are one: whoever holds the key of the first holds that of the second from then on."""

from datetime import datetime

from django.db import transaction

from apps.stock.commands.moving import move
from apps.stock.commands.places import nobodys
from apps.stock.inputs import Circumstances
from apps.stock.models import Fitted, Level, Part, Substitute, Transfer
from core.roles import Action
from core.stock import Move, MoveReason, PlaceKind, Tracking
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named.uses import uses_of


@transaction.atomic
def merge_parts(*, actor: Actor, now: datetime, code: str, version: int, into: str) -> Part:
    """Make two into one; answers the one that is kept. What lies anywhere of the first is booked as the second: its
    movements stay what they were.

    Raises
    ------
    Conflict
        When the first was changed since it was seen.
    Rejected
        When they cannot be one: the same, or of pieces with numbers and without.
    """
    require(actor, Action.MOVE_STOCK)
    if code == into:
        raise Rejected("That is the same one: choose another to merge it into.", field="into")
    rows = {row.code: row for row in Part.objects.filter(code__in=[code, into])}
    gone, kept = rows.get(code), rows.get(into)
    if gone is None or kept is None or gone.merged_into or kept.merged_into:
        raise NotFound("There is no such part (any more).", code="no_part")
    if gone.tracking != Tracking.PLAIN or kept.tracking != Tracking.PLAIN:
        raise Rejected("Parts with serial numbers or batches are not merged.", field="into")
    _move_levels(actor, now, gone, kept)
    # Parts are locked after levels, as everywhere.
    gone = Part.objects.select_for_update().get(pk=gone.pk)
    if gone.version != version:
        raise Conflict(f"{gone.name} was changed meanwhile. Look at it again.", current_version=gone.version)
    for use in uses_of(Part):
        use.replace(gone.code, kept.code)
    Transfer.objects.filter(part=gone, state="open").update(part=kept)
    Fitted.objects.filter(part=gone).update(part=kept)
    Substitute.objects.filter(part=gone).delete()
    Substitute.objects.filter(other=gone).delete()
    Part.objects.filter(merged_into=gone.code).update(merged_into=kept.code)
    gone.merged_into, gone.retired, gone.untidy, gone.version = kept.code, True, False, gone.version + 1
    gone.gtin, gone.item = "", None
    gone.save()
    audit.record(
        actor=actor, now=now, action="merge", entity="part", entity_id=gone.pk, version=gone.version,
        sentence=f"merged the part {gone.name} into {kept.name}"[:300],
    )  # fmt: skip
    live.announce("stock")
    live.announce("names")
    return kept


def _move_levels(actor: Actor, now: datetime, gone: Part, kept: Part) -> None:
    other = nobodys(PlaceKind.DIFFERENCE).pk
    moves = []
    for level in Level.objects.filter(part=gone).order_by("place_id"):
        out, back = (level.place_id, other) if level.quantity > 0 else (other, level.place_id)
        if level.quantity:
            number = abs(level.quantity)
            moves += [
                Move(part=gone.pk, quantity=number, source=out, target=back, reason=MoveReason.COUNT),
                Move(part=kept.pk, quantity=number, source=back, target=out, reason=MoveReason.COUNT),
            ]
    move(
        actor=actor, now=now, moves=moves, said=f"booked {gone.name} as {kept.name}"[:300],
        how=Circumstances(note=f"{gone.name} is {kept.name}"[:200], below_zero=True),
    )  # fmt: skip
    for level in Level.objects.filter(part=gone):
        twin = Level.objects.filter(place=level.place_id, part=kept).first()
        if twin is None:
            Level.objects.create(place_id=level.place_id, part=kept, shelf=level.shelf, least=level.least,
                                 target=level.target, by_hand=level.by_hand)  # fmt: skip
        elif twin.least is None and level.least is not None:
            twin.least, twin.target, twin.shelf = level.least, level.target, twin.shelf or level.shelf
            twin.save(update_fields=["least", "target", "shelf"])
    Level.objects.filter(part=gone).delete()
