"""Pieces with serial numbers and batches, moved with the movements that name them."""

from collections.abc import Mapping, Sequence

from apps.stock.models import Lot, Part, Piece, StockPlace
from core.stock import COUNTED, Move, PlaceKind, Tracking
from foundation.errors import Conflict, Rejected


def move_pieces(moves: Sequence[Move], parts: Mapping[int, Part], places: Mapping[int, StockPlace]) -> None:
    """Let each named piece lie where its movement brings it. A piece is in one place at a time.

    Raises
    ------
    Conflict
        When a piece is not where it is to be taken from, or is to come in and is here already.
    """
    for one in moves:
        if parts[one.part].tracking != Tracking.SERIAL:
            continue
        rows = Piece.objects.select_for_update(of=("self",)).select_related("place")
        known = {row.serial: row for row in rows.filter(part=one.part, serial__in=one.serials).order_by("serial")}
        counted = places[one.source].what in COUNTED
        for serial in sorted(one.serials):
            row = known.get(serial)
            _check_piece(parts[one.part], serial, row, places[one.source], counted=counted)
            if row is None:
                Piece.objects.create(part_id=one.part, serial=serial, batch=one.batch, place_id=one.target)
            else:
                row.place_id, row.batch = one.target, one.batch or row.batch
                row.save(update_fields=["place", "batch"])


def _check_piece(part: Part, serial: str, row: Piece | None, source: StockPlace, *, counted: bool) -> None:
    if counted and (row is None or row.place_id != source.pk):
        at = f"is at {row.place.name}" if row is not None else "is not known"
        raise Conflict(f"{part.name} {serial} {at}, not at {source.name}.", code="piece_elsewhere")
    if source.what is PlaceKind.SITE and row is not None and row.place_id != source.pk:
        raise Conflict(f"{part.name} {serial} is at {row.place.name}, not at {source.name}.", code="piece_elsewhere")
    if not counted and row is not None and row.place.what in COUNTED:
        raise Conflict(f"{part.name} {serial} is at {row.place.name} already.", code="piece_there")


def lying(part: Part, place: StockPlace, quantity: int) -> list[tuple[int, tuple[str, ...], str]]:
    """So many of a part as they lie at a place, at most as many as there are: quantity, serial numbers, batch. Of
    pieces with numbers the first by number; of batches what came in first."""
    if part.tracking == Tracking.SERIAL:
        pieces = Piece.objects.filter(part=part, place=place).order_by("serial").values_list("serial", flat=True)
        serials = tuple(pieces[:quantity])
        return [(len(serials), serials, "")] if serials else []
    if part.tracking == Tracking.PLAIN:
        return [(quantity, (), "")]
    found: list[tuple[int, tuple[str, ...], str]] = []
    for lot in Lot.objects.filter(part=part, place=place, quantity__gt=0).order_by("id"):
        taken = min(quantity, lot.quantity)
        quantity -= taken
        if taken:
            found.append((taken, (), lot.batch))
    return found


def move_lots(moves: Sequence[Move], parts: Mapping[int, Part], kinds: Mapping[int, PlaceKind]) -> None:
    """Keep how many of a batch lie where.

    Raises
    ------
    Rejected
        When there are not so many of the batch.
    """
    for one in moves:
        if parts[one.part].tracking != Tracking.BATCH:
            continue
        if kinds[one.source] in COUNTED:
            lot = _lot(one.source, one.part, one.batch)
            if lot.quantity < one.quantity:
                raise Rejected(
                    f"There are {lot.quantity} × {parts[one.part].name} of batch {one.batch} there, "
                    f"{one.quantity} wanted.",
                    code="too_few_of_batch", field="batch",
                )  # fmt: skip
            lot.quantity -= one.quantity
            lot.save(update_fields=["quantity"])
        if kinds[one.target] in COUNTED:
            lot = _lot(one.target, one.part, one.batch)
            lot.quantity += one.quantity
            lot.save(update_fields=["quantity"])


def _lot(place: int, part: int, batch: str) -> Lot:
    Lot.objects.bulk_create([Lot(place_id=place, part_id=part, batch=batch)], ignore_conflicts=True)
    return Lot.objects.select_for_update().get(place_id=place, part_id=part, batch=batch)
