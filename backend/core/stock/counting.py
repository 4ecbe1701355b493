"""Counts: what was found against what was on the books."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum


class CountScope(StrEnum):
    """What of a place is counted."""

    WHOLE = "everything"
    SHELF = "one shelf"
    SAMPLE = "a sample"


@dataclass(frozen=True, kw_only=True)
class CountedLine:
    """A part at a place: how many were on the books when counting began, how many moved in (or out, below zero) since
    until it was counted, how many were found."""

    part: int
    on_books: int
    moved: int
    found: int
    cost: int | None

    @property
    def expected(self) -> int:
        return self.on_books + self.moved

    @property
    def difference(self) -> int:
        return self.found - self.expected

    @property
    def worth(self) -> int:
        """What the difference is worth, in smallest units; below zero it is lost."""
        return self.difference * (self.cost or 0)


def total_worth(lines: Sequence[CountedLine]) -> int:
    """What is wrong in either direction: a piece too many does not make up for one that is missing."""
    return sum(abs(line.worth) for line in lines)


def needs_second(lines: Sequence[CountedLine], *, limit: int) -> bool:
    """Whether somebody else has to agree before the differences are booked. Above the limit; what has no cost does not
    count for nothing: a difference of it needs a second person too."""
    return total_worth(lines) > limit or any(line.difference and line.cost is None for line in lines)


def sample(parts: Sequence[int], *, size: int, seed: str) -> list[int]:
    """Which parts are counted by surprise: chosen by a seed nobody can guess from the last time, the same for the same
    seed."""
    drawn = sorted(parts, key=lambda part: hashlib.sha256(f"{seed} {part}".encode()).hexdigest())
    return sorted(drawn[:size])
