"""Papers of supply: pick lists for the depot, purchase orders for the supplier."""

import csv
import io
from collections.abc import Sequence
from datetime import date
from typing import Any

from apps.company.queries import company
from apps.stock.labels import CodeKind, code_image
from apps.supply.models import PurchaseOrder
from apps.supply.tonight import VanOfDay, tonight
from core.basics.tables import MARK, safe_cell
from core.calendars import day_words
from core.pricing import UNITS, plain_text
from foundation.errors import NotFound
from foundation.papers import pdf


def pick_list_pdf(day: date, *, technician_id: int | None = None) -> bytes:
    """What is picked for a day, a page for each van, by shelf, with boxes to tick and codes to scan.

    Raises
    ------
    NotFound
        When there is nothing to pick.
    """
    vans = [row for row in tonight(day) if row.picks and technician_id in (None, row.person.id)]
    if not vans:
        raise NotFound("There is nothing to pick for that day.", code="nothing_to_pick")
    pages = [_page(row) for row in sorted(vans, key=lambda row: row.person.name)]
    return pdf("supply/pick_list.html", {"company": company().name, "day": day_words(day), "pages": pages})


def _page(row: VanOfDay) -> dict[str, Any]:
    return {
        "who": row.person.name, "van": row.van.name if row.van else "", "depot": row.depot.name if row.depot else "",
        "picks": [
            {
                "shelf": pick.shelf, "quantity": pick.quantity, "unit": _unit(pick.part.unit), "name": pick.part.name,
                "number": pick.part.number, "note": pick.note, "tracking": pick.part.tracking,
                "hazardous": pick.part.hazardous, "oversized": pick.part.oversized,
                "image": code_image(pick.part.barcode, CodeKind.BARS),
            }
            for pick in row.picks
        ],
        "missing": [f"{part.missing} × {part.part.name}" for part in row.parts if part.missing],
    }  # fmt: skip


def _unit(code: str) -> str:
    return "" if code == "C62" else UNITS.get(code, code)


def purchase_pdf(order: PurchaseOrder) -> bytes:
    """An order as its supplier reads it."""
    ours, lines = company(), _lines(order)
    known = [line["total"] for line in lines if line["total"] is not None]
    return pdf(
        "supply/purchase_order.html",
        {
            "company": ours.name, "address": " ".join(ours.address.split()), "email": ours.email, "order": order,
            "where": order.target.depot, "lines": lines, "currency": ours.currency,
            "expected": day_words(order.expected_on, year=True) if order.expected_on else "",
            "total": plain_text(sum(known), ours.currency) if len(known) == len(lines) else "",
        },
    )  # fmt: skip


def purchase_csv(order: PurchaseOrder) -> str:
    """The same as a table."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["order", "line", "their_number", "our_number", "gtin", "name", "quantity", "unit", "price"])
    for number, line in enumerate(_lines(order), start=1):
        cells = [
            order.number, str(number), line["their_number"], line["number"], line["gtin"], line["name"],
            str(line["quantity"]), line["code"], line["price"],
        ]  # fmt: skip
        writer.writerow([safe_cell(cell) for cell in cells])
    return MARK + buffer.getvalue()


def _lines(order: PurchaseOrder) -> Sequence[dict[str, Any]]:
    currency = company().currency
    return [
        {
            "their_number": row.part.supplier_number, "number": row.part.number or "", "gtin": row.part.gtin,
            "name": row.part.name, "quantity": row.quantity, "unit": _unit(row.part.unit), "code": row.part.unit,
            "price": "" if row.price is None else plain_text(row.price, currency),
            "total": None if row.price is None else row.price * row.quantity,
            "total_words": "" if row.price is None else plain_text(row.price * row.quantity, currency),
        }
        for row in order.lines.select_related("part").order_by("part__name")
    ]  # fmt: skip
