"""Files of depots, people, prices, stock and more: from text to rows whose every cell is checked."""

from collections.abc import Callable, Mapping, Sequence
from enum import StrEnum
from typing import Any

from core.basics.tables import FileRow, guess_columns, heading, headings_of, read_table
from core.calendars import WEEKDAYS
from core.set_up import values

MAX_ROWS = 3_000


class SetUpKind(StrEnum):
    DEPOTS = "depots"
    SKILLS = "skills"
    VEHICLES = "vehicles"
    PEOPLE = "people"
    SHIFTS = "shifts"
    TAX_CODES = "tax-codes"
    ITEMS = "items"
    LIST_PRICES = "list-prices"
    DISCOUNTS = "discounts"
    RATES = "rates"
    SURCHARGES = "surcharges"
    SUPPLIERS = "suppliers"
    PARTS = "parts"
    LEVELS = "levels"


# Columns of a week, Monday first.
DAYS = tuple(name[:3].casefold() for name in WEEKDAYS)

Reader = Callable[[str], Any]


def _text(longest: int) -> Reader:
    def read(text: str) -> str:
        if len(text) > longest:
            raise ValueError(f"longer than {longest} characters")
        return text

    return read


# By column; needed ones have a star.
COLUMNS: Mapping[SetUpKind, Mapping[str, Reader]] = {
    SetUpKind.DEPOTS: {
        "name*": _text(60), "address*": _text(240), "lon": values.degrees, "lat": values.degrees,
    },
    SetUpKind.SKILLS: {"name*": _text(80)},
    SetUpKind.VEHICLES: {
        "name*": _text(80), "plate": _text(20), "depot": _text(60), "inspection_due": values.day,
        "cost_per_km": values.amount,
    },
    SetUpKind.PEOPLE: {
        "name*": _text(120), "phone": _text(40), "email": _text(254), "depot*": _text(60), "areas": values.names,
        "skills": values.levels, "employed_from": values.day, "employed_until": values.day, "vehicle": _text(80),
        "home": _text(240), "home_lon": values.degrees, "home_lat": values.degrees, "starts_at_home": values.yes_no,
        "ends_at_home": values.yes_no, "cost_per_hour": values.amount,
    },
    SetUpKind.ITEMS: {
        "kind*": values.item_kind, "wording*": _text(200), "unit": values.unit, "price*": _text(20), "cost": _text(20),
        "labour_hours": values.thousandths, "tax*": _text(60), "retired": values.yes_no,
    },
    SetUpKind.LIST_PRICES: {
        "list*": _text(60), "item*": _text(200), "price*": _text(20), "from_day": values.day, "least": values.amount,
    },
    SetUpKind.DISCOUNTS: {
        "name*": _text(80), "percent": values.share, "amount": _text(20), "until_day": values.day,
        "times": values.whole,
    },
    SetUpKind.RATES: {"skill": _text(80), "item*": _text(200)},
    SetUpKind.SURCHARGES: {
        "name*": _text(60), "percent*": values.amount, **dict.fromkeys(DAYS, _text(60)), "holidays": values.yes_no,
    },
    SetUpKind.SUPPLIERS: {
        "name*": _text(120), "email": values.email, "phone": _text(40), "days": values.whole, "our_number": _text(40),
        "note": _text(300), "retired": values.yes_no,
    },
    SetUpKind.PARTS: {
        "name*": _text(120), "number": _text(40), "unit": values.unit, "supplier": _text(120),
        "supplier_number": _text(60), "cost": _text(20), "item": _text(200), "gtin": _text(14),
        "tracking": values.tracking, "hazardous": values.yes_no, "oversized": values.yes_no, "fits": values.names,
        "warranty_months": values.whole, "retired": values.yes_no,
    },
    SetUpKind.LEVELS: {
        "place*": _text(120), "part*": _text(120), "shelf": _text(20), "least": values.whole, "target": values.whole,
        "quantity": values.whole,
    },
    SetUpKind.TAX_CODES: {
        "name*": _text(60), "category*": values.tax_category, "percent": values.percent, "from_day": values.day,
        "reason": _text(120),
    },
    SetUpKind.SHIFTS: {
        "technician*": _text(120), "from_day": values.day, "week": values.whole, "days*": values.weekdays,
        "start*": values.clock_time, "end": values.clock_time, "gap_start": values.clock_time,
        "gap_end": values.clock_time, "on_call_until": values.clock_time, "break_minutes": values.whole,
        "break_earliest": values.clock_time, "break_latest": values.clock_time, "overtime_minutes": values.whole,
    },
}  # fmt: skip
# Two lines of each kind, as they may be filled in.
EXAMPLES: Mapping[SetUpKind, Sequence[Mapping[str, str]]] = {
    SetUpKind.DEPOTS: ({"name": "North yard", "address": "Harbour Road 1", "lon": "-8.61", "lat": "41.15"},),
    SetUpKind.SKILLS: ({"name": "Door drives"}, {"name": "Rescue"}),
    SetUpKind.VEHICLES: (
        {
            "name": "Van 1", "plate": "IR-01", "depot": "North yard", "inspection_due": "2027-05-01",
            "cost_per_km": "0.42",
        },
    ),
    SetUpKind.PEOPLE: (
        {
            "name": "Rui Vale", "phone": "+351 296 111 222", "email": "rui@vale.example", "depot": "North yard",
            "skills": "Door drives 3, Rescue 1", "vehicle": "Van 1", "cost_per_hour": "41.50",
        },
    ),
    SetUpKind.SHIFTS: (
        {
            "technician": "Rui Vale", "days": "Mon-Fri", "start": "08:00", "end": "16:00", "break_minutes": "30",
            "break_earliest": "11:00", "break_latest": "14:00", "overtime_minutes": "60",
        },
        {"technician": "Rui Vale", "days": "Sat", "start": "08:00", "on_call_until": "20:00"},
    ),
    SetUpKind.TAX_CODES: (
        {"name": "Full rate", "category": "standard", "percent": "23", "from_day": "2026-01-01"},
        {"name": "Training", "category": "exempt", "reason": "Vocational training"},
    ),
    SetUpKind.ITEMS: (
        {
            "kind": "labour", "wording": "Hour of a fitter", "unit": "HUR", "price": "58.00", "cost": "31.50",
            "tax": "Full rate",
        },
        {
            "kind": "fixed price", "wording": "Yearly check of a door", "price": "140.00", "labour_hours": "1.25",
            "tax": "Full rate",
        },
    ),
    SetUpKind.LIST_PRICES: (
        {"list": "Harbour", "item": "Hour of a fitter", "price": "54.50", "from_day": "2027-01-01"},
        {"list": "Harbour", "item": "Hour of a fitter", "price": "52.00", "from_day": "2027-01-01", "least": "8"},
    ),
    SetUpKind.DISCOUNTS: (
        {"name": "Regular customer", "percent": "5"},
        {"name": "First order", "amount": "25.00", "until_day": "2027-03-31", "times": "20"},
    ),
    SetUpKind.RATES: ({"item": "Hour of a fitter"}, {"skill": "Rescue", "item": "Hour of a rescuer"}),
    SetUpKind.SURCHARGES: (
        {"name": "Evening", "percent": "50", **dict.fromkeys(DAYS[:5], "18:00-22:00")},
        {"name": "Sunday and holidays", "percent": "100", "sun": "00:00-24:00", "holidays": "yes"},
    ),
    SetUpKind.SUPPLIERS: (
        {"name": "Harbour Supplies", "email": "orders@harbour.example", "days": "4", "our_number": "20417"},
    ),
    SetUpKind.PARTS: (
        {
            "name": "Drive belt 12 mm", "number": "B-12", "supplier": "Harbour Supplies", "supplier_number": "77-120",
            "cost": "18.40", "tracking": "plain", "warranty_months": "12",
        },
    ),
    SetUpKind.LEVELS: (
        {"place": "North yard", "part": "B-12", "shelf": "C 4", "least": "4", "target": "10", "quantity": "7"},
        {"place": "Van 1", "part": "B-12", "least": "1", "target": "2", "quantity": "2"},
    ),
}  # fmt: skip
_ALSO: Mapping[str, tuple[str, ...]] = {
    "name": ("technician", "full name", "depot", "skill", "vehicle", "depot name", "supplier name", "part name"),
    "technician": ("name", "person", "full name"),
    "phone": ("telephone", "mobile", "phone number"),
    "email": ("e mail", "mail", "email address"),
    "lon": ("longitude",), "lat": ("latitude",),
    "plate": ("number plate", "registration", "licence plate"),
    "start": ("from", "begin"), "end": ("to", "until"),
    "from_day": ("valid from", "from day on"),
    "wording": ("name", "item", "description", "text"), "tax": ("tax code", "vat code"),
    "percent": ("rate", "tax rate"), "labour_hours": ("effort", "hours"),
    "number": ("part number", "part no", "our part number"), "gtin": ("ean", "upc", "barcode"),
    "supplier_number": ("supplier part number", "order number"), "item": ("price list item",),
    "place": ("depot", "vehicle", "van", "location"), "part": ("part number", "part name"),
    "shelf": ("bin", "bin location"), "least": ("minimum", "min"), "target": ("maximum", "max"),
    "quantity": ("on hand", "stock", "counted"), "days": ("day", "weekday", "weekdays", "delivery days"),
}  # fmt: skip


def columns_of(kind: SetUpKind) -> list[str]:
    return [name.rstrip("*") for name in COLUMNS[kind]]


def guess(kind: SetUpKind, headings: Sequence[str]) -> dict[str, str]:
    """Which of our columns each heading means; "" for none."""
    columns = columns_of(kind)
    known = {heading(word): name for name, words in _ALSO.items() if name in columns for word in words}
    return guess_columns(headings, columns, known=known, remembered={})


def read_set_up(kind: SetUpKind, text: str) -> tuple[list[FileRow], list[str]]:
    """Rows of a CSV file, and the headings that mean no column.

    A column that the file does not have is not in the cells; a cell that is empty is None.

    Raises
    ------
    BadFile
        When the file as a whole cannot be read.
    """
    meant = guess(kind, headings_of(text))
    needed = [name[:-1] for name in COLUMNS[kind] if name.endswith("*")]
    rows = read_table(text, meant, needed=needed, most=MAX_ROWS)
    readers = {name.rstrip("*"): reader for name, reader in COLUMNS[kind].items()}
    for row in rows:
        _check(row, readers, needed)
    return rows, [title for title, name in meant.items() if not name and title]


def _check(row: FileRow, readers: Mapping[str, Reader], needed: Sequence[str]) -> None:
    for name, text in row.cells.items():
        if not text:
            row.cells[name] = None
            if name in needed:
                row.problems.append(f"{name} is empty")
            continue
        try:
            row.cells[name] = readers[name](text)
        except ValueError as error:
            row.problems.append(f"{name}: {error}")
    for name in needed:
        if name not in row.cells:  # a line that ends before it
            row.problems.append(f"{name} is empty")
