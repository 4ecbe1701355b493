"""What commands of the board take and answer."""

from dataclasses import dataclass
from datetime import date
from typing import Literal

Kind = Literal["day", "give", "shift", "unplace", "cancel", "send", "lock", "unlock"]


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What is to be done to each visit.

    `day`: the date they move to, at their own times; for "give" the technician, at the first time that fits on the
    visit's own day (or on `day`); for "shift" the seconds; for "cancel" the reason, and with `tell` what
    customers read, words in braces filled in; `because` where limits ask for one.
    """

    kind: Kind
    day: date | None = None
    technician_id: int | None = None
    seconds: int = 0
    because: str = ""
    tell: str = ""


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """What becomes of one visit. `problem` is why nothing does; `warnings` is what it costs."""

    visit_id: int
    label: str
    sentence: str
    problem: str = ""
    asks: bool = False
    warnings: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Move:
    """Where a visit goes that gives way; without a technician: back to the backlog."""

    visit_id: int
    version: int
    technician_id: int | None = None
    start: int | None = None
