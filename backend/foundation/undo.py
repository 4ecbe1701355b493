"""What somebody did to a record, told so that it can be taken back and done again."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol

from foundation.actors import Actor
from foundation.errors import Conflict

# Values of a record as JSON; empty: it is not there.
Values = Mapping[str, Any]


@dataclass(frozen=True, kw_only=True)
class Undoable:
    """A record of a kind (`subject`) went from `before` to `after`. Published inside the transaction."""

    actor: Actor
    now: datetime
    subject: str
    key: int
    sentence: str
    before: Values
    after: Values


class PutBack(Protocol):
    """Makes a record what it was (`wanted`), if it still is what the change made of it (`expected`); returns its key.

    A record that had been removed is made anew, under another key.
    """

    def __call__(self, *, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int: ...


def check_unchanged(values: Values, expected: Values) -> None:
    """Nobody went on from there since.

    Raises
    ------
    Conflict
    """
    if dict(values) != dict(expected):
        raise Conflict("It has gone on since, so it stays as it is now.", code="gone_on")
