"""The list of orders as CSV (RFC 4180): what is shown, in the columns that are shown."""

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from datetime import datetime
from typing import Any

from apps.company.queries import time_zone
from apps.orders.listing import OrderLine, column_titles
from core.basics.tables import MARK, safe_cell
from foundation.errors import Rejected


def as_csv(lines: Iterable[OrderLine], columns: Sequence[str]) -> Iterator[str]:
    """Rows of a CSV file, the titles first.

    Raises
    ------
    Rejected
        For a column that is not there.
    """
    titles = column_titles()
    unknown = [column for column in columns if column not in titles]
    if unknown:
        raise Rejected(f"There is no column “{unknown[0]}”.", field="columns")
    return _rows(lines, columns, [titles[column] for column in columns])


def _rows(lines: Iterable[OrderLine], columns: Sequence[str], titles: list[str]) -> Iterator[str]:
    yield MARK + line_of(titles)
    for line in lines:
        yield line_of([_cell(line, column) for column in columns])


def line_of(cells: Sequence[str]) -> str:
    buffer = io.StringIO()
    csv.writer(buffer).writerow([safe_cell(cell) for cell in cells])
    return buffer.getvalue()


def _cell(line: OrderLine, column: str) -> str:
    if column == "promise":
        return _span(line.promise_start, line.promise_end)
    if column.startswith("extra."):
        return _plain(line.extra.get(column.removeprefix("extra.")))
    value = getattr(line, column)
    return _moment(value) if column in ("due", "made", "planned") else _plain(value)


def _plain(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return ", ".join(value) if isinstance(value, list) else str(value)


def _moment(value: int | None) -> str:
    if value is None:
        return ""
    return f"{datetime.fromtimestamp(value, time_zone()):%Y-%m-%d %H:%M}"


def _span(start: int | None, end: int | None) -> str:
    return f"{_moment(start)}–{_moment(end)[11:]}" if start is not None and end is not None else ""
