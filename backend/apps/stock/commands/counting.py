"""Counting a place: blind, while it goes on working; differences explained, and booked with a second person's yes."""

import secrets
from collections.abc import Mapping, Sequence
from datetime import datetime

from django.db import transaction

from apps.company.queries import company, settings
from apps.stock import queries
from apps.stock.commands.moving import move
from apps.stock.commands.places import nobodys
from apps.stock.inputs import Circumstances, Found
from apps.stock.models import CountLine, CountSheet, Level, Lot, Part, Piece, StockPlace
from core.pricing import digits_of
from core.roles import Action
from core.stock import (
    COUNTED,
    MOST,
    CountedLine,
    CountScope,
    Move,
    MoveReason,
    PlaceKind,
    Tracking,
    needs_second,
    sample,
)
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

SAMPLE_SIZE = 10


@transaction.atomic
def begin_count(
    *, actor: Actor, now: datetime, place_id: int, scope: CountScope, shelf: str = "", size: int = SAMPLE_SIZE
) -> CountSheet:
    """A sheet of what is to be counted at a place: everything, one shelf, or a sample nobody can foresee.

    Raises
    ------
    Rejected
        When nothing lies there, or a count of the place is going on.
    """
    require(actor, Action.MOVE_STOCK)
    place = queries.place(place_id)
    if place.what not in COUNTED:
        raise Rejected("Only depots and vans are counted.", field="place_id")
    if CountSheet.objects.filter(place=place, state__in=["open", "counted"]).exists():
        raise Rejected(f"{place.name} is being counted already: finish that count first.", code="counting")
    levels = Level.objects.select_related("part").filter(place=place, part__merged_into="")
    if scope is CountScope.SHELF:
        levels = levels.filter(shelf__iexact=shelf.strip())
    rows = list(levels.order_by("shelf", "part__name"))
    if scope is CountScope.SAMPLE:
        drawn = set(sample([row.part_id for row in rows], size=size, seed=secrets.token_hex(8)))
        rows = [row for row in rows if row.part_id in drawn]
    if not rows:
        raise Rejected("Nothing lies there by the books.", field="shelf")
    sheet = CountSheet.objects.create(
        place=place, scope=scope.value, shelf=shelf.strip(), begun_at=now, begun_by=actor.name, begun_by_id=actor.id
    )
    CountLine.objects.bulk_create(
        CountLine(sheet=sheet, part_id=row.part_id, shelf=row.shelf, on_books=row.quantity) for row in rows
    )
    _tell(actor, now, sheet, f"began to count {place.name}")
    return sheet


@transaction.atomic
def enter_found(*, actor: Actor, now: datetime, sheet_id: int, found: Sequence[Found]) -> CountSheet:
    """What was counted so far; counted again it is overwritten. What moved since counting began is taken into account
    with what is there on the books at this moment. A part that is not on the sheet is added to it.

    Raises
    ------
    Rejected
        When the sheet is not open any more, or a number cannot be.
    """
    require(actor, Action.MOVE_STOCK)
    sheet = _locked(sheet_id)
    _only(sheet, "open")
    parts = {row.code: row for row in Part.objects.filter(code__in=[one.code for one in found], merged_into="")}
    if unknown := [one.code for one in found if one.code not in parts]:
        raise Rejected(f"Unknown part: {unknown[0]}.", field="code")
    # In the order in which whoever moves parts locks levels.
    for one in sorted(found, key=lambda one: parts[one.code].pk):
        part = parts[one.code]
        serials = sorted({text.strip() for text in one.serials if text.strip()})
        if part.tracking == Tracking.SERIAL and len(serials) != one.quantity:
            raise Rejected(
                f"{part.name}: {one.quantity} counted, {len(serials)} serial numbers given.", field="serials"
            )
        if not 0 <= one.quantity <= MOST:
            raise Rejected(f"A quantity is 0 to {MOST:,}.", field="quantity")
        level = Level.objects.select_for_update().filter(place=sheet.place_id, part=part).first()
        now_on_books = level.quantity if level else 0
        line, _made = CountLine.objects.get_or_create(
            sheet=sheet, part=part, defaults={"on_books": now_on_books, "shelf": level.shelf if level else ""}
        )
        line.found, line.serials, line.moved = one.quantity, serials, now_on_books - line.on_books
        line.counted_at = now
        line.save(update_fields=["found", "serials", "moved", "counted_at"])
    sheet.version += 1
    sheet.save(update_fields=["version"])
    live.announce("stock", ids=[sheet.place_id])
    return sheet


@transaction.atomic
def finish_count(*, actor: Actor, now: datetime, sheet_id: int, version: int) -> CountSheet:
    """All is counted: from now on the differences are seen, and nothing is counted any more."""
    require(actor, Action.MOVE_STOCK)
    sheet = _locked(sheet_id, version)
    _only(sheet, "open")
    if (left := sheet.lines.filter(found=None).count()) > 0:
        raise Rejected(f"{left} part{'s are' if left > 1 else ' is'} not counted yet.", field="lines")
    sheet.state, sheet.counted_at, sheet.counted_by, sheet.counted_by_id = "counted", now, actor.name, actor.id
    return _kept(actor, now, sheet, f"counted {sheet.place.name}")


@transaction.atomic
def explain(
    *, actor: Actor, now: datetime, sheet_id: int, version: int, words: Mapping[str, str]
) -> CountSheet:  # fmt: skip
    """Why parts differ, by their code."""
    require(actor, Action.MOVE_STOCK)
    sheet = _locked(sheet_id, version)
    _only(sheet, "counted")
    for line in sheet.lines.select_related("part").filter(part__code__in=words):
        line.explanation = words[line.part.code].strip()[:200]
        line.save(update_fields=["explanation"])
    return _kept(actor, now, sheet, "explained differences")


@transaction.atomic
def book_count(*, actor: Actor, now: datetime, sheet_id: int, version: int) -> CountSheet:
    """Let the books say what was found.

    Raises
    ------
    Rejected
        When a difference is not explained, or is worth so much that somebody else than who counted has to agree
        (code "second_person").
    """
    require(actor, Action.MOVE_STOCK)
    sheet = _locked(sheet_id, version)
    _only(sheet, "counted")
    rows = list(sheet.lines.select_related("part").order_by("part_id"))
    for row in rows:
        if counted(row).difference and not row.explanation:
            raise Rejected(f"Say why {row.part.name} differs.", code="not_explained", field=row.part.code)
    if second_needed(rows) and actor.id == sheet.counted_by_id:
        raise Rejected("These differences are worth so much that somebody else has to book them.", code="second_person")
    moves = [one for row in rows for one in _moves(sheet.place, row)]
    move(
        actor=actor, now=now, moves=moves, how=Circumstances(note=f"count of {sheet.place.name}", below_zero=True),
        said=f"booked the count of {sheet.place.name}",
    )  # fmt: skip
    sheet.state, sheet.booked_at, sheet.booked_by = "booked", now, actor.name
    return _kept(actor, now, sheet, f"booked the count of {sheet.place.name}")


@transaction.atomic
def drop_count(*, actor: Actor, now: datetime, sheet_id: int, version: int) -> CountSheet:
    """Nothing of it is booked."""
    require(actor, Action.MOVE_STOCK)
    sheet = _locked(sheet_id, version)
    _only(sheet, "open", "counted")
    sheet.state = "dropped"
    return _kept(actor, now, sheet, f"dropped the count of {sheet.place.name}")


def counted(row: CountLine) -> CountedLine:
    """A line as the core counts it; what is not counted yet differs by nothing."""
    found = row.on_books + row.moved if row.found is None else row.found
    return CountedLine(part=row.part_id, on_books=row.on_books, moved=row.moved, found=found, cost=row.part.cost)


def second_needed(rows: Sequence[CountLine]) -> bool:
    """Whether somebody else than who counted has to book it."""
    limit = settings().stock_second_person * 10 ** digits_of(company().currency)
    return needs_second([counted(row) for row in rows], limit=limit)


def _moves(place: StockPlace, row: CountLine) -> list[Move]:
    """What lets the books say what was found of one part."""
    if row.part.tracking == Tracking.SERIAL:
        return _moves_of_pieces(place, row)
    difference = counted(row).difference
    if not difference:
        return []
    if row.part.tracking == Tracking.BATCH:
        return _moves_of_batches(place, row, difference)
    return [_move(place, row, abs(difference), more=difference > 0)]


def _moves_of_pieces(place: StockPlace, row: CountLine) -> list[Move]:
    there = set(Piece.objects.filter(place=place, part=row.part).values_list("serial", flat=True))
    found = set(row.serials)
    moves = []
    for serials, more in ((found - there, True), (there - found, False)):
        if serials:
            moves.append(_move(place, row, len(serials), more=more, serials=tuple(sorted(serials))))
    return moves


def _moves_of_batches(place: StockPlace, row: CountLine, difference: int) -> list[Move]:
    """What is missing is missing from the oldest batch; what is too many belongs to the newest."""
    lots = list(Lot.objects.filter(place=place, part=row.part).order_by("id"))
    if difference > 0:
        batch = lots[-1].batch if lots else "unknown"
        return [_move(place, row, difference, more=True, batch=batch)]
    moves, left = [], -difference
    for lot in lots:
        taken = min(left, max(0, lot.quantity))
        left -= taken
        if taken:
            moves.append(_move(place, row, taken, more=False, batch=lot.batch))
    return moves


def _move(
    place: StockPlace, row: CountLine, quantity: int, *, more: bool, serials: tuple[str, ...] = (), batch: str = ""
) -> Move:
    other = nobodys(PlaceKind.DIFFERENCE)
    source, target = (other, place) if more else (place, other)
    return Move(
        part=row.part_id, quantity=quantity, source=source.pk, target=target.pk, reason=MoveReason.COUNT,
        serials=serials, batch=batch,
    )  # fmt: skip


def _locked(sheet_id: int, version: int | None = None) -> CountSheet:
    rows = CountSheet.objects.select_for_update(of=("self",)).select_related(
        "place__depot", "place__vehicle", "place__technician"
    )
    sheet = rows.filter(pk=sheet_id).first()
    if sheet is None:
        raise NotFound("There is no such count.", code="no_count")
    if version is not None and sheet.version != version:
        raise Conflict("Somebody has gone on with this count meanwhile.", current_version=sheet.version)
    return sheet


def _only(sheet: CountSheet, *states: str) -> None:
    if sheet.state not in states:
        raise Rejected(f"This count is {sheet.state}.", code="wrong_state", field="state")


def _kept(actor: Actor, now: datetime, sheet: CountSheet, said: str) -> CountSheet:
    sheet.version += 1
    sheet.save()
    _tell(actor, now, sheet, said)
    return sheet


def _tell(actor: Actor, now: datetime, sheet: CountSheet, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="count", entity="count", entity_id=sheet.pk, version=sheet.version,
        sentence=said[:300],
    )  # fmt: skip
    live.announce("stock", ids=[sheet.place_id])
