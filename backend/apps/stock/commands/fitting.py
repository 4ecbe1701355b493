"""What was built in where, since when, and when it came out again."""

from collections.abc import Collection, Mapping

from dateutil.relativedelta import relativedelta
from django.db.models import QuerySet

from apps.stock.inputs import Circumstances
from apps.stock.models import Fitted, Movement, Part, StockPlace
from core.stock import MoveReason, PlaceKind


def fit_and_remove(made: Collection[Movement], places: Mapping[int, StockPlace], how: Circumstances) -> None:
    """Note what movements build in at a site, or bring back from there."""
    for row in made:
        source, target = places[row.source_id], places[row.target_id]
        if row.reason == MoveReason.USE and target.what is PlaceKind.SITE:
            _fit(row, target, how.asset_id)
        elif row.reason in (MoveReason.RETURN, MoveReason.DEFECT) and source.what is PlaceKind.SITE:
            _unfit(row) if how.undoes else _remove(row, source, how.asset_id)


def _fit(row: Movement, site: StockPlace, asset_id: int | None) -> None:
    months = Part.objects.values_list("warranty_months", flat=True).get(pk=row.part_id)
    until = row.happened_at.date() + relativedelta(months=months) if months else None
    pieces = [(serial, 1) for serial in row.serials] or [("", row.quantity)]
    Fitted.objects.bulk_create(
        Fitted(
            part_id=row.part_id, quantity=quantity, serial=serial, batch=row.batch, site_id=site.site_id or 0,
            asset_id=asset_id, since=row.happened_at, visit_id=row.visit_id, warranty_until=until,
        )
        for serial, quantity in pieces
    )  # fmt: skip


def _unfit(row: Movement) -> None:
    """What this visit built in last was not built in after all; what was there before it stays."""
    rows = Fitted.objects.select_for_update().filter(part_id=row.part_id, visit=row.visit_id, removed_at=None)
    if row.serials:
        rows.filter(serial__in=row.serials).delete()
        return
    left = row.quantity
    for fitted in rows.filter(batch=row.batch).order_by("-since", "-id"):
        if left <= 0:
            break
        taken = min(left, fitted.quantity)
        left -= taken
        if taken == fitted.quantity:
            fitted.delete()
        else:
            fitted.quantity -= taken
            fitted.save(update_fields=["quantity"])


def _remove(row: Movement, site: StockPlace, asset_id: int | None) -> None:
    """By serial number where there is one; else those that were built in first."""
    rows = Fitted.objects.select_for_update().filter(part_id=row.part_id, site=site.site, removed_at=None)
    if row.serials:
        _end(rows.filter(serial__in=row.serials), row)
        return
    if asset_id is not None:
        rows = rows.filter(asset_id=asset_id)
    left = row.quantity
    for fitted in rows.order_by("since", "id"):
        if left <= 0:
            break
        if fitted.quantity > left:
            fitted.quantity -= left
            fitted.save(update_fields=["quantity"])
            Fitted.objects.create(
                part_id=fitted.part_id, quantity=left, batch=fitted.batch, site_id=fitted.site_id,
                asset_id=fitted.asset_id, since=fitted.since, visit_id=fitted.visit_id,
                warranty_until=fitted.warranty_until, removed_at=row.happened_at, removed_visit_id=row.visit_id,
                removed_because=row.note,
            )  # fmt: skip
            break
        left -= fitted.quantity
        _end(Fitted.objects.filter(pk=fitted.pk), row)


def _end(rows: QuerySet[Fitted], row: Movement) -> None:
    rows.update(removed_at=row.happened_at, removed_visit_id=row.visit_id, removed_because=row.note)
