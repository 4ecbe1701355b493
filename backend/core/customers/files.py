"""Files of customers, sites, contacts and assets: from text to rows whose every cell is checked."""

from collections.abc import Mapping, Sequence
from typing import Any

import vobject

from core.basics.tables import BadFile, FileRow, guess_columns, heading, read_day, read_table

MAX_ROWS = 60_000
# Needed columns have a star. Own fields may follow as extra.<key>; a heading that means none is left out.
COLUMNS: Mapping[str, tuple[str, ...]] = {
    "customers": ("name*", "phone", "email", "payer", "needs_po_number", "tags"),
    "sites": ("customer*", "name", "address*", "lon", "lat", "access_notes"),
    "contacts": ("customer*", "name*", "role", "phone", "email", "site"),
    "assets": (
        "customer*", "site*", "kind*", "make", "model", "serial", "installed_on", "warranty_until", "state",
    ),
}  # fmt: skip
# Other words that people write over these columns.
_ALSO: Mapping[str, tuple[str, ...]] = {
    "name": ("company", "company name", "customer name", "full name", "site name", "contact name", "contact"),
    "customer": ("company", "company name", "customer name", "account", "client"),
    "phone": ("telephone", "tel", "phone number", "mobile", "telephone number", "phone no"),
    "email": ("e mail", "mail", "e mail address", "email address"),
    "payer": ("billed to", "invoice to", "bill to"),
    "needs_po_number": ("po number needed", "purchase order needed", "po needed"),
    "tags": ("tag", "labels"),
    "address": ("street", "street address", "site address", "full address"),
    "lon": ("longitude", "lng", "x"), "lat": ("latitude", "y"),
    "access_notes": ("access", "notes", "how to get in"),
    "role": ("title", "job title", "position", "function"),
    "site": ("site name", "location", "place"),
    "kind": ("type", "asset type", "equipment", "equipment type"),
    "make": ("manufacturer", "brand", "maker"),
    "model": ("model number", "type designation"),
    "serial": ("serial number", "serial no", "sn", "s n"),
    "installed_on": ("installed", "installation date", "installed date", "year installed"),
    "warranty_until": ("warranty", "warranty end", "warranty ends", "under warranty until"),
    "state": ("status", "condition"),
}  # fmt: skip
_LONGEST = {"name": 160, "customer": 160, "site": 160, "address": 240, "access_notes": 400, "phone": 40, "email": 254,
            "role": 60, "kind": 80, "make": 80, "model": 80, "serial": 60, "payer": 160}  # fmt: skip
_LONGEST_OF_CONTACT = {"name": 120}
_YES, _NO = {"yes", "y", "true", "1", "x"}, {"", "no", "n", "false", "0"}


def columns_of(kind: str, extra: Sequence[str] = ()) -> list[str]:
    """Names of the columns of a kind of file; `extra` are the keys of own fields."""
    return [name.rstrip("*") for name in COLUMNS[kind]] + [f"extra.{key}" for key in extra]


def needed_columns(kind: str) -> list[str]:
    return [name[:-1] for name in COLUMNS[kind] if name.endswith("*")]


def guess(kind: str, headings: Sequence[str], *, extra: Sequence[str], remembered: dict[str, str]) -> dict[str, str]:
    """Which of our columns each heading means; "" for none."""
    columns = columns_of(kind, extra)
    known = {heading(word): name for name, words in _ALSO.items() if name in columns for word in words}
    return guess_columns(headings, columns, known=known, remembered=remembered)


def read_rows(kind: str, text: str, columns: Mapping[str, str]) -> list[FileRow]:
    """Rows of a CSV file with a line of headings, separated by commas, semicolons or tabs.

    Parameters
    ----------
    columns
        Which column each heading means, see `guess`.

    Raises
    ------
    BadFile
        When it is empty or too long; MissingColumns when no heading means one that is needed.
    """
    return [_checked(kind, row) for row in read_table(text, columns, needed=needed_columns(kind), most=MAX_ROWS)]


def _checked(kind: str, row: FileRow) -> FileRow:
    cells = row.cells
    for name in needed_columns(kind):
        if not cells.get(name):
            row.problems.append(f"{name} is empty")
    for name, longest in {**_LONGEST, **(_LONGEST_OF_CONTACT if kind == "contacts" else {})}.items():
        if len(str(cells.get(name, ""))) > longest:
            row.problems.append(f"{name} is longer than {longest} characters")
    if cells.get("email") and "@" not in cells["email"]:
        row.problems.append(f"“{cells['email']}” is no e-mail address")
    for name in ("lon", "lat"):
        _number(row, name, 180 if name == "lon" else 90)
    if (cells.get("lon") is None) != (cells.get("lat") is None) and not row.problems:
        row.problems.append("lon and lat belong together")
    for name in ("installed_on", "warranty_until"):
        _date(row, name)
    if "needs_po_number" in cells:
        _yes_no(row, "needs_po_number")
    if "tags" in cells:
        cells["tags"] = [tag.strip() for tag in cells["tags"].split(",") if tag.strip()]
        if any(len(tag) > 40 for tag in cells["tags"]):
            row.problems.append("a tag is longer than 40 characters")
    return row


def _number(row: FileRow, name: str, most: float) -> None:
    text = row.cells.get(name)
    if not text:
        row.cells[name] = None
        return
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        row.problems.append(f"{name} “{text}” is no number")
        return
    if not -most <= value <= most:
        row.problems.append(f"{name} must lie between -{most:g} and {most:g}")
    row.cells[name] = value


def _date(row: FileRow, name: str) -> None:
    text = row.cells.get(name)
    if not text:
        row.cells[name] = None
        return
    row.cells[name] = read_day(text)
    if row.cells[name] is None:
        row.problems.append(f"{name} “{text}” is no date like 2026-11-23 or 23.11.2026")


def _yes_no(row: FileRow, name: str) -> None:
    text = row.cells[name].casefold()
    if text not in _YES | _NO:
        row.problems.append(f"{name} is yes or no, not “{text}”")
    row.cells[name] = text in _YES


def read_vcards(text: str) -> list[FileRow]:
    """Contacts of a vCard file (RFC 6350 and older): the organisation is the customer.

    Raises
    ------
    BadFile
    """
    rows: list[FileRow] = []
    try:
        for number, card in enumerate(vobject.readComponents(text, ignoreUnreadable=True), start=1):
            if card.name != "VCARD":
                continue
            org = getattr(card, "org", None)
            cells = {
                "name": _value(card, "fn"), "customer": str(org.value[0]) if org and org.value else "",
                "role": _value(card, "title"), "phone": _value(card, "tel"), "email": _value(card, "email"), "site": "",
            }  # fmt: skip
            rows.append(_checked("contacts", FileRow(line=number, cells=cells, written=list(cells.values()))))
    except Exception as error:  # the library raises many kinds, all of them about the file
        raise BadFile(f"This is no vCard file: {error}.") from error
    if not rows:
        raise BadFile("There is no contact in this file.")
    if len(rows) > MAX_ROWS:
        raise BadFile(f"More than {MAX_ROWS:,} contacts: split the file.")
    return rows


def _value(card: Any, name: str) -> str:
    found = getattr(card, name, None)
    return str(found.value).strip() if found is not None and found.value else ""
