"""Taking proposed levels over."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from apps.stock import queries as stock_queries
from apps.stock.models import Level
from apps.supply.queries import thresholds
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require


@transaction.atomic
def accept_thresholds(*, actor: Actor, now: datetime, place_id: int, codes: Sequence[str]) -> int:
    """Let least and target levels at a place be what a year's use proposes; how many changed. They stay proposals of
    the computation: another year proposes others."""
    require(actor, Action.MOVE_STOCK)
    place, wanted, changed = stock_queries.place(place_id), set(codes), 0
    list(Level.objects.select_for_update().filter(place=place).order_by("place_id", "part_id"))
    for row in thresholds(place, now=now):
        level, found = row.level, row.threshold
        if level.part.code not in wanted or (level.least, level.target) == (found.least, found.target):
            continue
        level.least, level.target = (found.least, found.target) if found.target else (None, None)
        level.by_hand, level.version = False, level.version + 1
        level.save(update_fields=["least", "target", "by_hand", "version"])
        changed += 1
    if changed:
        audit.record(
            actor=actor, now=now, action="level", entity="stock place", entity_id=place.pk,
            sentence=f"took {changed} proposed levels over at {place.name}"[:300],
        )  # fmt: skip
        live.announce("stock", ids=[place.pk])
    return changed
