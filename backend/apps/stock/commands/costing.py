"""What a part costs on average, after more of it has come in."""

from collections.abc import Mapping, Sequence

from django.db.models import Sum

from apps.pricing.models import Item
from apps.stock.models import Level, Part
from core.stock import COUNTED, Move, MoveReason, PlaceKind, average_after

_OURS = [kind.value for kind in COUNTED]


def follow_costs(moves: Sequence[Move], unit_costs: Mapping[int, int], kinds: Mapping[int, PlaceKind]) -> None:
    """Let the average, and what the price list says it costs us, follow what receipts cost. Parts are locked after
    levels, in their order."""
    receipts = sorted((one for one in moves if one.reason is MoveReason.RECEIPT), key=lambda one: one.part)
    for one in receipts:
        if one.part not in unit_costs or kinds[one.source] is not PlaceKind.SUPPLIER:
            continue
        part = Part.objects.select_for_update().get(pk=one.part)
        held = Level.objects.filter(part=part, place__kind__in=_OURS).aggregate(all=Sum("quantity"))["all"] or 0
        part.cost = average_after(
            cost=part.cost, held=held - one.quantity, quantity=one.quantity, unit_cost=unit_costs[one.part]
        )
        part.save(update_fields=["cost"])
        if part.item_id is not None:
            Item.objects.filter(pk=part.item_id).update(cost=part.cost)
