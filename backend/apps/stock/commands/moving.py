"""Booking movements: the only way a level changes."""

import uuid
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from django.db.models import Q

from apps.company.queries import settings
from apps.stock.commands.costing import follow_costs
from apps.stock.commands.fitting import fit_and_remove
from apps.stock.commands.tracking import move_lots, move_pieces
from apps.stock.inputs import PLAINLY, Circumstances
from apps.stock.models import Level, Movement, Part, StockPlace
from core.stock import Key, Move, PlaceKind, TooFew, book, check_tracking, check_way, touched
from core.stock.parts import Tracking
from foundation import audit, live
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected

_OWNERS = ("depot", "vehicle", "technician", "site", "supplier")


@dataclass(frozen=True, kw_only=True)
class _Around:
    """The rows that moves speak of."""

    places: Mapping[int, StockPlace]
    parts: Mapping[int, Part]

    @property
    def kinds(self) -> dict[int, PlaceKind]:
        return {key: place.what for key, place in self.places.items()}


@transaction.atomic
def move(
    *, actor: Actor, now: datetime, moves: Sequence[Move], how: Circumstances = PLAINLY, said: str = ""
) -> list[Movement]:
    """Book movements together: all of them, or none. Who may is asked by the command that calls this.

    Levels are locked by place and part in their order, and nothing else is locked before them: two who take the last
    one wait for each other, and the second one is told.

    Parameters
    ----------
    said
        For the audit trail, after who did it; made from the moves when left out.

    Raises
    ------
    Rejected
        When parts do not go that way, or serial numbers or a batch are missing.
    Conflict
        When there is less than is to be taken.
    NotFound
        When a place or a part is not there.
    """
    if not moves:
        return []
    around = _around(moves)
    _check(moves, around)
    levels = _locked(touched(moves, around.kinds))
    if how.key is not None and (known := list(Movement.objects.filter(key=how.key).order_by("position"))):
        return known
    below = settings().stock_below_zero if how.below_zero is None else how.below_zero
    try:
        after = book({key: row.quantity for key, row in levels.items()}, moves, around.kinds, below_zero=below)
    except TooFew as few:
        raise _too_few(few, around) from few
    _keep(levels, after)
    move_pieces(moves, around.parts, around.places)
    move_lots(moves, around.parts, around.kinds)
    made = _write(actor, now, moves, how, around)
    fit_and_remove(made, around.places, how)
    follow_costs(moves, how.unit_costs, around.kinds)
    _tell(actor, now, made, around, said or _in_words(made, around))
    return made


def _around(moves: Sequence[Move]) -> _Around:
    place_ids = {place for move in moves for place in (move.source, move.target)}
    places = StockPlace.objects.select_related(*_OWNERS).in_bulk(place_ids)
    parts = Part.objects.in_bulk({move.part for move in moves})
    if len(places) < len(place_ids):
        raise NotFound("There is no such place for stock.", code="no_place")
    if len(parts) < len({move.part for move in moves}):
        raise NotFound("There is no such part.", code="no_part")
    return _Around(places=places, parts=parts)


def _check(moves: Sequence[Move], around: _Around) -> None:
    kinds = around.kinds
    for one in moves:
        try:
            check_way(one, kinds[one.source], kinds[one.target])
            check_tracking(one, Tracking(around.parts[one.part].tracking))
        except ValueError as error:
            raise Rejected(f"{around.parts[one.part].name}: {error}", code="not_that_way", field="quantity") from error


def _locked(keys: Sequence[Key]) -> dict[Key, Level]:
    """The levels, locked in their order; those that were never there are made. One that somebody takes off a list
    meanwhile is made again: a movement without its level would be lost."""
    wanted = Q()
    for place, part in keys:
        wanted |= Q(place_id=place, part_id=part)
    found: dict[Key, Level] = {}
    while len(found) < len(keys):
        there = set(Level.objects.filter(wanted).values_list("place_id", "part_id"))
        new = [Level(place_id=place, part_id=part, version=0) for place, part in keys if (place, part) not in there]
        if new:
            Level.objects.bulk_create(new, ignore_conflicts=True)
        rows = Level.objects.select_for_update().filter(wanted).order_by("place_id", "part_id")
        found = {(row.place_id, row.part_id): row for row in rows}
    return found


def _too_few(few: TooFew, around: _Around) -> Conflict:
    name, place = around.parts[few.part].name, around.places[few.place].name
    there = f"only {few.has} × {name} at {place}" if few.has > 0 else f"no {name} at {place}"
    return Conflict(f"There is {there} (any more): {few.wanted} wanted.", code="too_few")


def _keep(levels: Mapping[Key, Level], after: Mapping[Key, int]) -> None:
    changed = []
    for key, row in levels.items():
        if after[key] != row.quantity or row.version == 0:
            row.quantity, row.version = after[key], row.version + 1
            changed.append(row)
    Level.objects.bulk_update(changed, ["quantity", "version"])


def _write(
    actor: Actor, now: datetime, moves: Sequence[Move], how: Circumstances, around: _Around
) -> list[Movement]:  # fmt: skip
    key = how.key or uuid.uuid4()
    return Movement.objects.bulk_create(
        Movement(
            key=key, position=position, part_id=one.part, quantity=one.quantity, source_id=one.source,
            target_id=one.target, reason=one.reason, serials=list(one.serials), batch=one.batch,
            unit_cost=how.unit_costs.get(one.part, around.parts[one.part].cost),
            happened_at=how.happened_at or now, recorded_at=now, actor_id=actor.id, actor_name=actor.name,
            visit_id=how.visit_id, note=how.note[:200],
        )
        for position, one in enumerate(moves)
    )  # fmt: skip


def _in_words(made: Collection[Movement], around: _Around) -> str:
    rows = list(made)
    what = ", ".join(f"{row.quantity} × {around.parts[row.part_id].name}" for row in rows[:5])
    more = f" and {len(rows) - 5} more" if len(rows) > 5 else ""
    source, target = around.places[rows[0].source_id].name, around.places[rows[0].target_id].name
    return f"moved {what}{more} from {source} to {target} ({rows[0].reason})"


def _tell(actor: Actor, now: datetime, made: Collection[Movement], around: _Around, said: str) -> None:
    places = {key for row in made for key in (row.source_id, row.target_id)}
    for key in sorted(place for place in places if around.places[place].what in (PlaceKind.DEPOT, PlaceKind.VAN)):
        audit.record(
            actor=actor, now=now, action="move", entity="stock place", entity_id=key, sentence=said[:300],
            parts={around.parts[row.part_id].code: row.quantity for row in made},
        )  # fmt: skip
    live.announce("stock", ids=places)
