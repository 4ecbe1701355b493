"""Lists that grow come in pages: a page says where the next one begins, and nothing when there is none."""

import json
from base64 import urlsafe_b64decode, urlsafe_b64encode
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any, Generic, TypeVar

from django.core.exceptions import ValidationError
from django.db.models import Model, Q, QuerySet
from ninja import Query

from foundation.errors import Rejected

Row = TypeVar("Row", bound=Model)
PAGE = 100
# Where a page begins, as the one before it said; left out: the first one.
Cursor = Annotated[str, Query(max_length=40)]


@dataclass(frozen=True, kw_only=True)
class Page(Generic[Row]):
    """Some rows of a list. `next` is where the following ones begin; None: there are no more."""

    rows: list[Row]
    next: str | None


def newest_first(rows: QuerySet[Row], cursor: str, *, size: int = PAGE, order: Any = "-pk") -> Page[Row]:
    """By number, the newest first: what comes in between two pages moves nothing.

    Parameters
    ----------
    order
        The same order said otherwise, where the index of numbers is not the way to the rows.
    """
    rows = rows.order_by(order)
    found = list((rows.filter(pk__lt=_number(cursor)) if cursor else rows)[: size + 1])
    return Page(rows=found[:size], next=str(found[size - 1].pk) if len(found) > size else None)


def in_order(rows: QuerySet[Row], cursor: str, *, size: int = PAGE) -> Page[Row]:
    """In the order that they have, which may change meanwhile: the cursor counts those that were seen."""
    seen = _number(cursor) if cursor else 0
    found = list(rows[seen : seen + size + 1])
    return Page(rows=found[:size], next=str(seen + size) if len(found) > size else None)


def sorted_by(
    rows: QuerySet[Row], keys: Sequence[str], cursor: str, *, size: int = PAGE
) -> tuple[list[int], str | None]:  # fmt: skip
    """Numbers of the rows of a page, and where the next one begins; a deep one takes as long as the first.

    Parameters
    ----------
    keys
        As for `order_by`, unique together. What goes up may be empty, and comes last then; what goes down may not.
    """
    names = [key.lstrip("-") for key in keys]
    rows = rows.order_by(*keys)
    if cursor:
        try:
            rows = rows.filter(_beyond(keys, _place(cursor, len(keys))))
        except (ValueError, TypeError, KeyError, ValidationError) as error:
            raise Rejected("This is no place in the list. Begin anew.", code="bad_cursor", field="cursor") from error
    found = list(rows.values_list("pk", *names)[: size + 1])
    last = found[size - 1][1:] if len(found) > size else None
    return [row[0] for row in found[:size]], None if last is None else _written(last)


def _beyond(keys: Sequence[str], values: Sequence[Any]) -> Q:
    """What comes after a row with these values."""
    found, same = Q(), Q()
    for key, value in zip(keys, values, strict=True):
        name = key.lstrip("-")
        if key.startswith("-"):
            found |= same & Q(**{f"{name}__lt": value})
        elif value is not None:
            found |= same & (Q(**{f"{name}__gt": value}) | Q(**{f"{name}__isnull": True}))
        same &= Q(**{name: value}) if value is not None else Q(**{f"{name}__isnull": True})
    first, value = keys[0], values[0]
    # Says nothing new, but lets an index begin there.
    return found & Q(**{f"{first[1:]}__lte": value}) if first.startswith("-") else found


def _written(values: Iterable[Any]) -> str:
    plain = [{"at": value.isoformat()} if isinstance(value, datetime) else value for value in values]
    return urlsafe_b64encode(json.dumps(plain).encode()).decode()


def _place(cursor: str, length: int) -> list[Any]:
    """Raises ValueError, TypeError or KeyError for what `_written` did not write."""
    plain = json.loads(urlsafe_b64decode(cursor.encode()))
    values = [datetime.fromisoformat(one["at"]) if isinstance(one, dict) else one for one in plain]
    if len(values) != length or not all(isinstance(one, datetime | str | int | None) for one in values):
        raise ValueError(cursor)
    return values


def _number(cursor: str) -> int:
    if not (cursor.isascii() and cursor.isdigit() and len(cursor) < 19):
        raise Rejected("This is no place in the list. Begin anew.", code="bad_cursor", field="cursor")
    return int(cursor)
