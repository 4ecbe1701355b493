"""Parts that will go from one place to another, and when they have."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.db import transaction

from apps.stock import queries
from apps.stock.commands.moving import move
from apps.stock.inputs import Circumstances
from apps.stock.models import Level, Transfer
from core.roles import Action
from core.stock import USABLE, Move, MoveReason
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@dataclass(frozen=True, kw_only=True)
class Planned:
    """So many of a part from one place to another, there at a moment; why, and at which visit it is fetched."""

    code: str
    quantity: int
    source_id: int
    target_id: int
    at: datetime
    for_visit_id: int | None = None
    errand_id: int | None = None
    note: str = ""


@transaction.atomic
def plan_transfer(*, actor: Actor, now: datetime, planned: Planned, free: int | None = None) -> Transfer:
    """Promise parts of one place to another.

    Parameters
    ----------
    free
        How many are not spoken for where they come from, by whoever has counted all that is planned; None: what lies
        there less what is promised already.

    Raises
    ------
    Conflict
        When there are not so many free (any more).
    """
    require(actor, Action.MOVE_STOCK)
    source, target, part = (
        queries.place(planned.source_id), queries.place(planned.target_id), queries.part(planned.code),
    )  # fmt: skip
    if source.what not in USABLE or target.what not in USABLE or source.pk == target.pk:
        raise Rejected("Parts go between depots and vans.", field="target_id")
    # Whoever promises of the same level waits here, so that the last one is promised once.
    row = Level.objects.select_for_update().filter(place=source, part=part).first()
    has = row.quantity if row else 0
    promised = sum(Transfer.objects.filter(state="open", source=source, part=part).values_list("quantity", flat=True))
    left = has - promised if free is None else min(free, has - promised)
    if left < planned.quantity:
        raise Conflict(
            f"{source.name} has {max(0, left)} × {part.name} free (any more): {planned.quantity} wanted.",
            code="too_few",
        )  # fmt: skip
    made = Transfer.objects.create(
        part=part, quantity=planned.quantity, source=source, target=target, at=planned.at,
        for_visit_id=planned.for_visit_id, errand_id=planned.errand_id, note=planned.note[:200], made_at=now,
        made_by=actor.name,
    )  # fmt: skip
    _tell(actor, now, made, f"promised {made.quantity} × {part.name} of {source.name} to {target.name}")
    return made


@transaction.atomic
def complete_transfers(
    *, actor: Actor, now: datetime, transfer_ids: Sequence[int], key: UUID | None = None,
    serials: dict[int, Sequence[str]] | None = None, batches: dict[int, str] | None = None,
) -> list[Transfer]:  # fmt: skip
    """They are there: promised parts that changed hands become movements. One that is done already is left alone.

    Raises
    ------
    Conflict
        When one of them was dropped, or there is less than was promised.
    """
    rows = list(
        Transfer.objects.select_for_update(of=("self",)).select_related("part").filter(pk__in=transfer_ids)
        .order_by("id")
    )  # fmt: skip
    if len(rows) < len(set(transfer_ids)):
        raise NotFound("One of them is not there any more.", code="no_transfer")
    if dropped := [row for row in rows if row.state == "dropped"]:
        raise Conflict(f"{dropped[0].part.name}: this was called off.", code="called_off")
    due = [row for row in rows if row.state == "open"]
    moves = [
        Move(
            part=row.part_id, quantity=row.quantity, source=row.source_id, target=row.target_id,
            reason=MoveReason.TRANSFER, serials=tuple((serials or {}).get(row.pk, ())),
            batch=(batches or {}).get(row.pk, ""),
        )
        for row in due
    ]  # fmt: skip
    move(actor=actor, now=now, moves=moves, how=Circumstances(key=key))
    for row in due:
        row.state, row.ended_at, row.version = "done", now, row.version + 1
        row.save(update_fields=["state", "ended_at", "version"])
    return rows


@transaction.atomic
def drop_transfer(*, actor: Actor, now: datetime, transfer_id: int, version: int) -> Transfer:
    """Call it off: what was promised is free again.

    Raises
    ------
    Conflict
        When it was done, or changed, since it was seen.
    """
    require(actor, Action.MOVE_STOCK)
    row = Transfer.objects.select_for_update(of=("self",)).select_related("part").filter(pk=transfer_id).first()
    if row is None:
        raise NotFound("There is no such transfer.", code="no_transfer")
    if row.state == "done" or row.version != version:
        raise Conflict(f"{row.part.name}: it has changed hands already, or was changed.", current_version=row.version)
    if row.state == "open":
        row.state, row.ended_at, row.version = "dropped", now, row.version + 1
        row.save(update_fields=["state", "ended_at", "version"])
        _tell(actor, now, row, f"called off {row.quantity} × {row.part.name}")
    return row


def _tell(actor: Actor, now: datetime, row: Transfer, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="transfer", entity="stock place", entity_id=row.target_id, sentence=said[:300],
        transfer=row.pk,
    )  # fmt: skip
    live.announce("stock", ids=[row.source_id, row.target_id])
