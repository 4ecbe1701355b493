"""Movements that are booked by hand."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from django.db import transaction

from apps.stock.commands.moving import move
from apps.stock.commands.places import nobodys, place_of_supplier
from apps.stock.inputs import ByHand, Circumstances
from apps.stock.models import Movement, Part
from core.roles import Action
from core.stock import Move, MoveReason, PlaceKind
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

# By hand parts are transferred, thrown away, or taken in without a purchase order; all else has a command of its own.
BY_HAND = frozenset({MoveReason.TRANSFER, MoveReason.SCRAP, MoveReason.RECEIPT})


@transaction.atomic
def book_by_hand(
    *, actor: Actor, now: datetime, reason: MoveReason, rows: Sequence[ByHand], source_id: int | None,
    target_id: int | None, note: str = "", key: UUID | None = None,
) -> list[Movement]:  # fmt: skip
    """Book what somebody moved, threw away (no target) or took in (no source: from each part's supplier).

    Raises
    ------
    Rejected
        When a place is missing, or the reason has a command of its own.
    """
    require(actor, Action.MOVE_STOCK)
    if reason not in BY_HAND:
        raise Rejected(f"A {reason.value} is not booked by hand.", field="reason")
    parts = {row.code: row for row in Part.objects.filter(code__in=[one.code for one in rows], merged_into="")}
    for one in rows:
        if one.code not in parts:
            raise NotFound(f"There is no part {one.code} (any more).", code="no_part")
    if reason is MoveReason.SCRAP:
        target_id = nobodys(PlaceKind.SCRAP).pk
        if not note.strip():
            raise Rejected("Say why it is thrown away.", field="note")
    moves = []
    for one in rows:
        part = parts[one.code]
        source = source_id if reason is not MoveReason.RECEIPT else _supplier_of(part)
        if source is None or target_id is None:
            raise Rejected("Say from where and to where.", field="target_id")
        try:
            moves.append(
                Move(
                    part=part.pk, quantity=one.quantity, source=source, target=target_id, reason=reason,
                    serials=tuple(one.serials), batch=one.batch,
                )
            )  # fmt: skip
        except ValueError as error:
            raise Rejected(f"{part.name}: {error}", field="quantity") from error
    costs = {parts[one.code].pk: one.cost for one in rows if one.cost is not None}
    return move(actor=actor, now=now, moves=moves, how=Circumstances(key=key, note=note.strip(), unit_costs=costs))


def _supplier_of(part: Part) -> int:
    if part.supplier_id is None:
        raise Rejected(f"{part.name} has no supplier: choose one first, or count it.", field="supplier_id")
    return place_of_supplier(part.supplier_id).pk
