"""What a visit used."""

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction

from apps.people import queries as people
from apps.stock import queries
from apps.stock.commands.moving import move
from apps.stock.commands.places import place_of_site
from apps.stock.commands.tracking import lying
from apps.stock.inputs import Circumstances
from apps.stock.models import Level, Movement, Part, StockPlace
from core.stock import Move, MoveReason
from foundation import audit
from foundation.actors import Actor
from foundation.errors import Conflict, Rejected


@dataclass(frozen=True, kw_only=True)
class Used:
    """A finished visit: who led it, where, on what, and which parts it was to take, by code."""

    visit_id: int
    technician_id: int
    site_id: int
    asset_id: int | None
    parts: Mapping[str, int]


@dataclass(frozen=True, kw_only=True)
class UsedLine:
    """So many of one part, as somebody said on the spot; from the van they drive, or from `place_id`.

    `serials` and `batch` may be left out: then what lies there first is taken.
    """

    visit_id: int
    technician_id: int
    site_id: int
    asset_id: int | None
    code: str
    quantity: int
    serials: Sequence[str] = ()
    batch: str = ""
    place_id: int | None = None


def take(*, actor: Actor, now: datetime, used: Used, at: datetime | None = None) -> uuid.UUID | None:
    """Book what a visit used from the van of who led it; the name of the booking, None: nothing was booked.

    A van that nobody counts gives what it is asked for, and nothing is booked. Where there is less on the books than
    was used, what is there is booked, and the rest is noted: somebody has to count this van.
    """
    place = queries.van_place(people.technician(used.technician_id))
    return _take_from(actor, now, used, place, at) if place is not None and _is_counted(place) else None


def _is_counted(place: StockPlace) -> bool:
    return Level.objects.filter(place=place).exists()


@transaction.atomic
def _take_from(actor: Actor, now: datetime, used: Used, place: StockPlace, at: datetime | None) -> uuid.UUID | None:
    taken, lacking = _what_is_there(place, used.parts)
    booked = _book(actor, now, used, place, taken, at)
    if lacking:
        _note_lacking(actor, now, used.visit_id, place, lacking)
    return booked


def use(*, actor: Actor, now: datetime, line: UsedLine, at: datetime) -> uuid.UUID | None:
    """Book one line of what was used; the name of the booking, None: nothing was booked.

    What was built in is built in: where the books say something else, that is noted at the place, and nothing is
    refused.
    """
    place = queries.place(line.place_id) if line.place_id else queries.van_place(people.technician(line.technician_id))
    if place is None or not _is_counted(place):
        return None
    used = Used(
        visit_id=line.visit_id, technician_id=line.technician_id, site_id=line.site_id, asset_id=line.asset_id,
        parts={line.code: line.quantity},
    )  # fmt: skip
    if not line.serials and not line.batch:
        return _take_from(actor, now, used, place, at)
    part = queries.part(line.code)
    one = Move(
        part=part.pk, quantity=line.quantity, source=place.pk, target=0, reason=MoveReason.USE,
        serials=tuple(line.serials), batch=line.batch,
    )  # fmt: skip
    try:
        with transaction.atomic():
            return _book(actor, now, used, place, [(part, one)], at)
    except (Conflict, Rejected) as error:
        _note(actor, now, used.visit_id, place, f"used {line.quantity} × {part.name}: {error.sentence}", used.parts)
        return None


@transaction.atomic
def give_back(*, actor: Actor, now: datetime, booking: uuid.UUID, part_id: int, at: datetime) -> None:
    """What was booked of a part as used was not: it lies again where it was taken from. Other parts of the same booking
    stay used."""
    rows = list(Movement.objects.filter(key=booking, part=part_id, reason=MoveReason.USE).order_by("position"))
    moves = [
        Move(
            part=row.part_id, quantity=row.quantity, source=row.target_id, target=row.source_id,
            reason=MoveReason.RETURN, serials=tuple(row.serials), batch=row.batch,
        )
        for row in rows
    ]  # fmt: skip
    if moves:
        how = Circumstances(visit_id=rows[0].visit_id, happened_at=at, note="it was not used after all", undoes=True)
        move(actor=actor, now=now, moves=moves, how=how)


def _book(
    actor: Actor, now: datetime, used: Used, place: StockPlace, taken: Sequence[tuple[Part, Move]], at: datetime | None
) -> uuid.UUID | None:
    if not taken:
        return None
    words = ", ".join(f"{one.quantity} × {part.name}" for part, one in taken)
    site, key = place_of_site(used.site_id), uuid.uuid4()
    how = Circumstances(key=key, visit_id=used.visit_id, asset_id=used.asset_id, happened_at=at)
    moves = [_to(one, site.pk) for _part, one in taken]
    move(actor=actor, now=now, moves=moves, how=how, said=f"took {words} from {_from(place)}")
    return key


def _from(place: StockPlace) -> str:
    return "the van" if place.kind == "van" else place.name


def _note_lacking(
    actor: Actor, now: datetime, visit_id: int, place: StockPlace, lacking: Mapping[str, int]
) -> None:  # fmt: skip
    short = ", ".join(f"{number} × {name}" for name, number in lacking.items())
    _note(actor, now, visit_id, place, f"used {short} that {place.name} did not have on the books: count it", lacking)


def _note(
    actor: Actor, now: datetime, visit_id: int, place: StockPlace, sentence: str, parts: Mapping[str, int]
) -> None:  # fmt: skip
    audit.record(
        actor=actor, now=now, action="short", entity="stock place", entity_id=place.pk, sentence=sentence[:300],
        visit=visit_id, parts=dict(parts),
    )  # fmt: skip


def _to(one: Move, target: int) -> Move:
    return Move(
        part=one.part, quantity=one.quantity, source=one.source, target=target, reason=one.reason,
        serials=one.serials, batch=one.batch,
    )  # fmt: skip


def _what_is_there(
    place: StockPlace, parts: Mapping[str, int]
) -> tuple[list[tuple[Part, Move]], dict[str, int]]:  # fmt: skip
    """Moves of what lies there, with a stand-in target, and how many of what, by name, do not."""
    # Locked in the order of `move`, so that what is there now is still there when it is booked.
    levels = Level.objects.select_for_update(of=("self",)).select_related("part")
    rows = {row.part.code: row for row in levels.filter(place=place, part__code__in=parts).order_by("part_id")}
    names = {part.code: part.name for part in Part.objects.filter(code__in=parts)}
    taken: list[tuple[Part, Move]] = []
    lacking: dict[str, int] = {}
    for code, wanted in sorted(parts.items()):
        row = rows.get(code)
        there = max(0, row.quantity) if row else 0
        moves = _moves_of(row.part, place, min(there, wanted)) if row and there else []
        taken += [(row.part, one) for one in moves if row]
        if (left := wanted - sum(one.quantity for one in moves)) > 0:
            lacking[names.get(code, code)] = left
    return taken, lacking


def _moves_of(part: Part, place: StockPlace, quantity: int) -> list[Move]:
    """Which pieces they really were is said on the phone."""
    return [
        Move(
            part=part.pk, quantity=number, source=place.pk, target=0, reason=MoveReason.USE, serials=serials,
            batch=batch,
        )
        for number, serials, batch in lying(part, place, quantity)
    ]  # fmt: skip
