"""Ties between two visits."""

from dataclasses import dataclass
from enum import StrEnum


class LinkKind(StrEnum):
    AFTER = "after"
    TOGETHER = "together"
    SAME_TECHNICIAN = "same_technician"


@dataclass(frozen=True, kw_only=True)
class Link:
    """A tie between two visits.

    AFTER: `second` starts when `first` has ended, at least `least` and at most `greatest` seconds later.
    TOGETHER: both start at once. SAME_TECHNICIAN: the same technician does both.
    """

    kind: LinkKind
    first: int
    second: int
    least: int = 0
    greatest: int | None = None

    def __post_init__(self) -> None:
        if self.first == self.second:
            raise ValueError("a visit cannot be linked to itself")
        if self.greatest is not None and self.greatest < self.least:
            raise ValueError("the greatest gap cannot be shorter than the least")
