"""A row of a set-up file on its way in."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from functools import partial
from typing import Any, TypedDict

from django.db import transaction

from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected


class Becomes(StrEnum):
    NEW = "new"
    CHANGE = "change"
    SAME = "same"
    REFUSED = "refused"


class How(TypedDict):
    """What every command takes."""

    actor: Actor
    now: datetime


@dataclass(frozen=True, kw_only=True)
class Hand:
    """Who brings it in, and when."""

    actor: Actor
    now: datetime

    @property
    def how(self) -> How:
        """As commands take it."""
        return {"actor": self.actor, "now": self.now}


@dataclass(kw_only=True)
class SetUpRow:
    """A line with its cells read: not there where the file has no such column, None where the cell is empty."""

    line: int
    cells: dict[str, Any]
    problems: list[str] = field(default_factory=list)
    becomes: Becomes = Becomes.REFUSED

    def get(self, name: str, kept: Any) -> Any:
        """What the file says; where it has no such column, what is kept."""
        return self.cells.get(name, kept)

    def text(self, name: str, kept: str = "") -> str:
        return str(self.get(name, kept) or "")


def each(rows: Sequence[SetUpRow], write: Callable[[SetUpRow], Becomes]) -> None:
    """Write each row by itself: one that is refused leaves nothing behind."""
    for row in rows:
        together([row], partial(write, row))


def together(rows: Sequence[SetUpRow], write: Callable[[], Becomes]) -> None:
    """Write rows that make one thing: all of them, or none."""
    if any(row.problems for row in rows):
        for row in rows:
            if not row.problems:
                row.problems.append("another line of the same is wrong")
        return
    try:
        with transaction.atomic():
            becomes = write()
    except (Rejected, Conflict, NotFound) as error:
        for row in rows:
            row.problems.append(str(error).rstrip("."))
        return
    for row in rows:
        row.becomes = becomes
