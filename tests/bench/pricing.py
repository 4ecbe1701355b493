"""Figures of money: totals and prices in the core, a quote on paper, and what an estimator waits for while typing."""

from datetime import date
from decimal import Decimal

from core.pricing import (
    Category,
    Discount,
    Document,
    Holder,
    Item,
    ItemKind,
    Line,
    PriceBook,
    PriceRow,
    Taxed,
    totals,
)
from tests.bench.figures import Figures
from tests.bench.http import Running, running

DAY = date(2026, 11, 30)
LINES, PRICES = 300, 20_000
RATES = [Taxed(category=Category.STANDARD, percent=Decimal(percent)) for percent in ("23", "13", "6")]


def pricing(figures: Figures) -> None:
    """The core alone."""
    off = Discount(name="Regular", percent=Decimal(5))
    lines = [
        Line(
            wording=f"Line {number}", quantity=Decimal(number % 7 + 1) / 4, unit_price=1_990 + 37 * number,
            tax=RATES[number % 3], discount=off if number % 5 == 0 else None,
        )
        for number in range(LINES)
    ]  # fmt: skip
    document = Document(lines=lines, discounts=[off])
    figures.take(f"pricing: totals of {LINES} lines", lambda: totals(document), repeat=50, wanted="< 5 ms")
    items = [
        Item(key=f"i{number}", kind=ItemKind.PART, wording=f"Part {number}", unit="C62", price=100, tax_code="full")
        for number in range(LINES)
    ]
    lists = [(Holder.LIST, key) for key in range(30)]
    holders = [(Holder.STANDARD, None), *lists, *((Holder.CUSTOMER, key) for key in range(36))]
    rows = [
        PriceRow(
            item=f"i{number % LINES}", holder=holder, holder_key=key, price=90 + number % 50,
            valid_from=date(2026, 1, 1),
        )
        for number in range(LINES)
        for holder, key in holders
    ][:PRICES]  # fmt: skip
    book = PriceBook(rows)

    def resolve() -> None:
        for item in items:
            book.price(item, Decimal(3), DAY, customer=7, list_=3)

    figures.take(f"pricing: {LINES} prices found among {len(rows)}", resolve, repeat=50, wanted="< 10 ms")


def quotes(figures: Figures) -> None:
    """Over HTTP, with the demo's data."""
    with running(days=0) as server:
        items = server.get("/pricing/items")
        typed = [
            {"key": f"l{number}", "item": items[number % len(items)]["key"], "quantity": 1 + number % 4}
            for number in range(40)
        ]
        body = {"customer_id": 1, "sets": [{"lines": typed[:20]}, {"lines": typed}]}
        figures.take(
            "quotes: figures after a keystroke, two ways with 20 and 40 lines",
            lambda: server.post("/figures", json=body), repeat=30, wanted="< 100 ms",
        )  # fmt: skip
        listed = {"filters": {}, "sort": "newest", "cursor": ""}
        figures.take("quotes: the list with its sums", lambda: server.post("/quotes/list", json=listed), repeat=15)
        path = _sent(server)
        figures.take(
            "quotes: on paper (PDF)", lambda: server.session.get(path, timeout=60), repeat=7, wanted="< 1500 ms"
        )


def _sent(server: Running) -> str:
    """Where the paper of a quote with several ways lies."""
    rows = server.post("/quotes/list", json={"filters": {"states": ["sent"]}, "sort": "value", "cursor": ""})["rows"]
    quote = server.get(f"/quotes/{rows[0]['id']}")
    return f"{server.url}/api/v1/quotes/{quote['id']}/versions/{quote['versions'][0]['id']}/pdf"
