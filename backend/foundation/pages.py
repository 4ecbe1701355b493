"""Lists that grow come in pages: a page says where the next one begins, and nothing when there is none."""

from dataclasses import dataclass
from typing import Annotated, Generic, TypeVar

from django.db.models import Model, QuerySet
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


def newest_first(rows: QuerySet[Row], cursor: str, *, size: int = PAGE) -> Page[Row]:
    """By number, the newest first: what comes in between two pages moves nothing."""
    rows = rows.order_by("-pk")
    found = list((rows.filter(pk__lt=_number(cursor)) if cursor else rows)[: size + 1])
    return Page(rows=found[:size], next=str(found[size - 1].pk) if len(found) > size else None)


def in_order(rows: QuerySet[Row], cursor: str, *, size: int = PAGE) -> Page[Row]:
    """In the order that they have, which may change meanwhile: the cursor counts those that were seen."""
    seen = _number(cursor) if cursor else 0
    found = list(rows[seen : seen + size + 1])
    return Page(rows=found[:size], next=str(seen + size) if len(found) > size else None)


def _number(cursor: str) -> int:
    if not (cursor.isascii() and cursor.isdigit() and len(cursor) < 19):
        raise Rejected("This is no place in the list. Begin anew.", code="bad_cursor", field="cursor")
    return int(cursor)
