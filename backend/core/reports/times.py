"""Travel and work at a visit, made from what was stamped, for each of those who went.

The phone makes the same of the same stamps; `tests/core/reports/times.json` holds both to the same answers.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

Sort = Literal["travel", "work"]
SORTS: tuple[Sort, ...] = ("travel", "work")
# What is said of one day's visit is never longer.
LONGEST_MINUTES = 24 * 60


@dataclass(frozen=True, kw_only=True)
class Presence:
    """When somebody set out, was there and left (epoch seconds; None: not yet, or never stamped).

    `held`: stretches in which the visit was on hold, the last one open while it is.
    """

    departed: int | None = None
    arrived: int | None = None
    finished: int | None = None
    held: Sequence[tuple[int, int | None]] = ()


def minutes_of(presence: Presence, sort: Sort) -> int | None:
    """Whole minutes of travel, or of work without what was on hold; None: nothing can be made of the stamps (yet)."""
    begins, ends = (
        (presence.departed, presence.arrived) if sort == "travel" else (presence.arrived, presence.finished)
    )  # fmt: skip
    if begins is None or ends is None:
        return None
    seconds = max(0, ends - begins)
    if sort == "work":
        seconds -= sum(
            max(0, min(ends, ends if until is None else until) - max(begins, since)) for since, until in presence.held
        )
    return (max(0, seconds) + 30) // 60
