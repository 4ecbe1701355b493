"""Tables as people bring them: from spreadsheets, in whatever character set, separator and way of writing a date."""

import csv
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

SEPARATORS = (",", ";", "\t")
# A cell that begins like this is a formula to a spreadsheet.
_FORMULA = ("=", "@", "\t", "\r", "+", "-")
_PLAIN_NUMBER = re.compile(r"[+-][\d\s().,/-]*\d")
# So that a spreadsheet reads it as what it is: UTF-8.
MARK = "\ufeff"


class BadFile(ValueError):
    """The file as a whole cannot be read; the text says why."""


class MissingColumns(BadFile):
    """No heading means a column that is needed: somebody may know which one does."""


@dataclass(kw_only=True)
class FileRow:
    """One line of a file: its cells by column, what is wrong with them, and the cells as they stood there."""

    line: int
    cells: dict[str, Any]
    problems: list[str] = field(default_factory=list)
    written: list[str] = field(default_factory=list)


def decode(data: bytes) -> str:
    """Text of a file: UTF-8 or UTF-16 by its byte-order mark, UTF-16 without one by its zero bytes, UTF-8, or else
    the Western character set of spreadsheets (Windows-1252)."""
    for mark, name in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            return data.decode(name, errors="replace")
    head = data[:2000]
    if len(head) >= 4 and head.count(0) > len(head) // 4:
        return data.decode("utf-16-le" if head[1::2].count(0) > head[::2].count(0) else "utf-16-be", errors="replace")
    for name in ("utf-8", "cp1252"):
        try:
            return data.decode(name)
        except UnicodeDecodeError:
            continue
    return data.decode("latin-1")


def separator_of(first_line: str) -> str:
    """Comma, semicolon or tab: what the first line has most of."""
    return max(SEPARATORS, key=first_line.count)


def read_day(text: str) -> date | None:
    """A day as 2026-11-23 or 23.11.2026, with dots, slashes or hyphens; None when it is none."""
    text = text.strip()
    parts = re.fullmatch(r"(\d{4})-(\d{1,2})-(\d{1,2})", text) or re.fullmatch(
        r"(?P<d>\d{1,2})[./-](?P<m>\d{1,2})[./-](?P<y>\d{4})", text
    )
    if parts is None:
        return None
    year, month, day = ("y", "m", "d") if "y" in parts.groupdict() else (1, 2, 3)
    try:
        return date(int(parts[year]), int(parts[month]), int(parts[day]))
    except ValueError:
        return None


def safe_cell(text: str) -> str:
    """Text that a spreadsheet shows and does not compute. Numbers and phone numbers stay as they are."""
    return f"'{text}" if text.startswith(_FORMULA) and not _PLAIN_NUMBER.fullmatch(text) else text


def plain_cell(text: str) -> str:
    """What a cell said before `safe_cell`."""
    return text[1:] if len(text) > 1 and text[0] == "'" and text[1:].startswith(_FORMULA) else text


def heading(text: str) -> str:
    """A heading as it is compared: small letters, one space between words."""
    return " ".join(re.findall(r"[^\W_]+", text.casefold()))


def guess_columns(
    headings: Sequence[str], columns: Sequence[str], *, known: dict[str, str], remembered: dict[str, str]
) -> dict[str, str]:
    """Which column each heading of a file means; "" for none. No column is meant twice.

    Parameters
    ----------
    columns
        Names of ours.
    known
        Column by other words for it, as `heading` writes them.
    remembered
        Column ("" for leave out) by headings that somebody has decided on before.
    """
    own = {heading(name): name for name in columns}
    found: dict[str, str] = {}
    for title in headings:
        key = heading(title)
        choices = (remembered.get(key), own.get(key), known.get(key), title if title in columns else None)
        wanted = next((choice for choice in choices if choice is not None), "")
        found[title] = wanted if wanted in columns and wanted not in found.values() else ""
    return found


def headings_of(text: str) -> list[str]:
    """The headings of a CSV file, as they stand there.

    Raises
    ------
    BadFile
        When it is empty or no text.
    """
    first = next((line for line in text.splitlines() if line.strip()), "")
    if not first:
        raise BadFile("The file is empty.")
    if sum(not (letter.isprintable() or letter.isspace()) for letter in first[:400]) > 4:
        raise BadFile("This is not a text file: save it as CSV.")
    try:
        return [title.strip() for title in next(csv.reader([first], delimiter=separator_of(first)))]
    except csv.Error as error:
        raise BadFile(f"The first line cannot be read: {error}.") from error


def read_table(text: str, columns: Mapping[str, str], *, needed: Sequence[str], most: int) -> list[FileRow]:
    """Rows of a CSV file with a line of headings, separated by commas, semicolons or tabs; empty lines are left out.

    Parameters
    ----------
    columns
        Which column each heading means, "" for none.
    needed
        Columns that some heading must mean.
    most
        So many rows are read at most.

    Raises
    ------
    BadFile
        When it is empty or too long; MissingColumns when no heading means one that is needed.
    """
    headings = headings_of(text)
    titles = [columns.get(title, "") for title in headings]
    missing = [name for name in needed if name not in titles]
    if missing:
        named = ", ".join(title for title in headings[:12] if title) or "nothing"
        raise MissingColumns(f"Say which column is {' and which is '.join(missing)}; the first line names {named}.")
    body = text.replace("\x00", "").lstrip("\r\n")
    reader = csv.reader(io.StringIO(body), delimiter=separator_of(body.split("\n", 1)[0]))
    next(reader)
    rows: list[FileRow] = []
    try:
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            if len(rows) == most:
                raise BadFile(f"More than {most:,} rows: split the file.")
            known = {title: plain_cell(cell.strip()) for title, cell in zip(titles, cells, strict=False) if title}
            rows.append(FileRow(line=reader.line_num, cells=known, written=cells))
    except csv.Error as error:
        raise BadFile(f"Line {reader.line_num} cannot be read: {error}.") from error
    return rows
