"""What is picked at the depot for somebody's day, and what is left there."""

from collections.abc import Sequence
from datetime import date, datetime
from uuid import UUID

from django.db import transaction

from apps.people import queries as people
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.inputs import Circumstances
from apps.stock.models import Part, StockPlace
from apps.supply.inputs import Picked
from apps.supply.tonight import on_van, tonight
from core.roles import Action
from core.stock import Move, MoveReason
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def pick(
    *, actor: Actor, now: datetime, technician_id: int, day: date, picked: Sequence[Picked], key: UUID | None = None
) -> int:
    """What was picked goes from the depot onto the van; how many kinds of parts.

    Parameters
    ----------
    key
        Under which it is sent: sent again, nothing is booked twice.

    Raises
    ------
    Rejected
        When nothing was picked, or somebody starts at no depot that day.
    Conflict
        When less lies there than was picked.
    """
    require(actor, Action.MOVE_STOCK)
    if key is not None and stock_queries.is_booked(key):
        return len(picked)
    found = next((row for row in tonight(day) if row.person.id == technician_id), None)
    if found is None or found.depot is None:
        raise Rejected("Nothing is taken along from a depot on that day (any more).", code="no_depot")
    if not picked:
        raise Rejected("Nothing was picked.", field="picked")
    van = stock.place_of_van(people.technician(technician_id))
    promised = [row.transfer_id for row in picked if row.transfer_id is not None]
    if promised:
        stock.complete_transfers(
            actor=actor, now=now, transfer_ids=promised,
            serials={row.transfer_id: row.serials for row in picked if row.transfer_id is not None},
            batches={row.transfer_id: row.batch for row in picked if row.transfer_id is not None},
        )  # fmt: skip
    plain = [row for row in picked if row.transfer_id is None]
    stock.move(
        actor=actor, now=now, moves=_moves(plain, found.depot, van), how=Circumstances(key=key, note=f"for {day}"),
    )  # fmt: skip
    return len(picked)


@transaction.atomic
def leave_at_depot(*, actor: Actor, now: datetime, place_id: int, codes: Sequence[str]) -> int:
    """Bring what a van does not use to the depot of who drives it; how many kinds of parts.

    Raises
    ------
    Conflict
        When one of them is not proposed (any more): it was used, or something planned takes it.
    """
    require(actor, Action.MOVE_STOCK)
    van = stock_queries.place(place_id)
    driver = stock_queries.driver_of(van)
    if driver is None:
        raise Rejected("Nobody drives this van: choose a driver first.", code="no_driver")
    wanted = [row for row in on_van(van, now=now) if row.level.part.code in codes]
    if needed := [row.level.part.name for row in wanted if not row.leave]:
        raise Conflict(f"{needed[0]} is needed on {van.name} (again). Shown as it is.", code="needed")
    depot = stock.place_of_depot(driver.depot_id)
    moves = [
        Move(
            part=row.level.part_id, quantity=number, source=van.pk, target=depot.pk, reason=MoveReason.TRANSFER,
            serials=serials, batch=batch,
        )
        for row in wanted
        for number, serials, batch in stock.lying(row.level.part, van, row.level.quantity)
    ]  # fmt: skip
    stock.move(actor=actor, now=now, moves=moves, how=Circumstances(note="not used"))
    return len(wanted)


def _moves(picked: Sequence[Picked], depot: StockPlace, van: StockPlace) -> list[Move]:
    parts = {row.code: row for row in Part.objects.filter(code__in=[one.code for one in picked])}
    if missing := [one.code for one in picked if one.code not in parts]:
        raise NotFound(f"There is no part {missing[0]}.", code="no_part")
    try:
        return [
            Move(
                part=parts[one.code].pk, quantity=one.quantity, source=depot.pk, target=van.pk,
                reason=MoveReason.TRANSFER, serials=tuple(one.serials), batch=one.batch,
            )
            for one in picked
        ]  # fmt: skip
    except ValueError as error:
        raise Rejected(str(error), field="picked") from error
