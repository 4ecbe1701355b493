"""Files of customers, sites, contacts and assets: from text to rows whose every cell is checked."""

import csv
import io
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

import vobject

MAX_ROWS = 60_000
# Needed columns have a star. Own fields may follow as extra.<key>; unknown columns are named and left out.
COLUMNS: Mapping[str, tuple[str, ...]] = {
    "customers": ("name*", "phone", "email", "payer", "needs_po_number", "tags"),
    "sites": ("customer*", "name", "address*", "lon", "lat", "access_notes"),
    "contacts": ("customer*", "name*", "role", "phone", "email", "site"),
    "assets": (
        "customer*", "site*", "kind*", "make", "model", "serial", "installed_on", "warranty_until", "state",
    ),
}  # fmt: skip
_LONGEST = {"name": 160, "customer": 160, "site": 160, "address": 240, "access_notes": 400, "phone": 40, "email": 254,
            "role": 60, "kind": 80, "make": 80, "model": 80, "serial": 60, "payer": 160}  # fmt: skip
_YES, _NO = {"yes", "y", "true", "1", "x"}, {"", "no", "n", "false", "0"}


class BadFile(ValueError):
    """The file as a whole cannot be read; the text says why."""


@dataclass(kw_only=True)
class FileRow:
    """One line of a file: its cells by column, and what is wrong with them."""

    line: int
    cells: dict[str, Any]
    problems: list[str] = field(default_factory=list)


def read_rows(kind: str, text: str) -> tuple[list[FileRow], list[str]]:
    """Rows of a CSV file with a header line, separated by commas or semicolons; and columns that were not known.

    Raises
    ------
    BadFile
        When it is empty, too long, or a needed column is missing.
    """
    first = text.split("\n", 1)[0]
    separator = ";" if first.count(";") > first.count(",") else ","
    reader = csv.reader(io.StringIO(text.replace("\x00", "")), delimiter=separator)
    try:
        titles = [title.strip().casefold() for title in next(reader)]
    except StopIteration as error:
        raise BadFile("The file is empty.") from error
    names = [name.rstrip("*") for name in COLUMNS[kind]]
    missing = [name[:-1] for name in COLUMNS[kind] if name.endswith("*") and name[:-1] not in titles]
    if missing:
        raise BadFile(f"The first row must name the column {', '.join(missing)}; it names {', '.join(titles[:12])}.")
    unknown = [title for title in titles if title and title not in names and not title.startswith("extra.")]
    return list(_rows(kind, reader, titles, set(unknown))), unknown


def _rows(kind: str, reader: Iterator[list[str]], titles: list[str], unknown: set[str]) -> Iterator[FileRow]:
    count = 0
    try:
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            count += 1
            if count > MAX_ROWS:
                raise BadFile(f"More than {MAX_ROWS} rows: split the file.")
            known = {t: c.strip() for t, c in zip(titles, cells, strict=False) if t and t not in unknown}
            yield _checked(kind, FileRow(line=reader.line_num, cells=known))  # type: ignore[attr-defined]
    except csv.Error as error:
        raise BadFile(f"Line {reader.line_num} cannot be read: {error}.") from error  # type: ignore[attr-defined]


def _checked(kind: str, row: FileRow) -> FileRow:
    cells = row.cells
    for name in COLUMNS[kind]:
        if name.endswith("*") and not cells.get(name[:-1]):
            row.problems.append(f"{name[:-1]} is empty")
    for name, longest in _LONGEST.items():
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
    try:
        row.cells[name] = date.fromisoformat(text)
    except ValueError:
        row.problems.append(f"{name} “{text}” is no date like 2026-11-23")


def _yes_no(row: FileRow, name: str) -> None:
    text = row.cells[name].casefold()
    if text not in _YES | _NO:
        row.problems.append(f"{name} is yes or no, not “{text}”")
    row.cells[name] = text in _YES


def read_vcards(text: str) -> tuple[list[FileRow], list[str]]:
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
            rows.append(_checked("contacts", FileRow(line=number, cells=cells)))
    except Exception as error:  # the library raises many kinds, all of them about the file
        raise BadFile(f"This is no vCard file: {error}.") from error
    if not rows:
        raise BadFile("There is no contact in this file.")
    if len(rows) > MAX_ROWS:
        raise BadFile(f"More than {MAX_ROWS} contacts: split the file.")
    return rows, []


def _value(card: Any, name: str) -> str:
    found = getattr(card, name, None)
    return str(found.value).strip() if found is not None and found.value else ""
