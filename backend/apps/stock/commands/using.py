"""What a finished visit used."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction

from apps.people import queries as people
from apps.stock import queries
from apps.stock.commands.moving import move
from apps.stock.commands.places import place_of_site
from apps.stock.commands.tracking import lying
from apps.stock.inputs import Circumstances
from apps.stock.models import Level, Part, StockPlace
from core.stock import Move, MoveReason
from foundation import audit
from foundation.actors import Actor


@dataclass(frozen=True, kw_only=True)
class Used:
    """A finished visit: who led it, where, on what, and which parts it was to take, by code."""

    visit_id: int
    technician_id: int
    site_id: int
    asset_id: int | None
    parts: Mapping[str, int]


def take(*, actor: Actor, now: datetime, used: Used, at: datetime | None = None) -> None:
    """Book what a visit used from the van of who led it; part of the step that finishes it.

    A van that nobody counts gives what it is asked for, and nothing is booked. Where there is less on the books than
    was used, what is there is booked, and the rest is noted: somebody has to count this van.
    """
    technician = people.technician(used.technician_id)
    place = queries.van_place(technician)
    if place is None or not Level.objects.filter(place=place).exists():
        return
    with transaction.atomic():
        taken, lacking = _what_is_there(place, used.parts)
        if taken:
            words = ", ".join(f"{one.quantity} × {part.name}" for part, one in taken)
            site = place_of_site(used.site_id)
            move(
                actor=actor, now=now, moves=[_to(one, site.pk) for _part, one in taken],
                how=Circumstances(visit_id=used.visit_id, asset_id=used.asset_id, happened_at=at),
                said=f"took {words} from the van",
            )  # fmt: skip
        if lacking:
            short = ", ".join(f"{number} × {name}" for name, number in lacking.items())
            audit.record(
                actor=actor, now=now, action="short", entity="stock place", entity_id=place.pk,
                sentence=f"used {short} that {place.name} did not have on the books: count it"[:300],
                visit=used.visit_id, parts=lacking,
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
