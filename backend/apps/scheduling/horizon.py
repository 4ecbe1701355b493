"""How far ahead and back planning looks, and at whom."""

from datetime import date
from typing import Annotated

from ninja import Query

from foundation.errors import Rejected

# Far enough for any plan; beyond it, times no longer fit what the wire allows.
FIRST_DAY, LAST_DAY = date(2001, 1, 1), date(2099, 12, 1)

# Ids in an address, separated by commas; empty: everybody.
Numbers = Annotated[str, Query(pattern=r"^([1-9]\d{0,17}(,[1-9]\d{0,17})*)?$", max_length=4000)]


def named(numbers: str) -> list[int] | None:
    """The ids that were named; None: everybody."""
    return [int(number) for number in numbers.split(",")] if numbers else None


def checked(day: date) -> date:
    """The day, if planning reaches it.

    Raises
    ------
    Rejected
    """
    if not FIRST_DAY <= day <= LAST_DAY:
        raise Rejected("That day is out of reach.", field="day")
    return day
