"""How far ahead and back planning looks."""

from datetime import date

from foundation.errors import Rejected

# Far enough for any plan; beyond it, times no longer fit what the wire allows.
FIRST_DAY, LAST_DAY = date(2001, 1, 1), date(2099, 12, 1)


def checked(day: date) -> date:
    """The day, if planning reaches it.

    Raises
    ------
    Rejected
    """
    if not FIRST_DAY <= day <= LAST_DAY:
        raise Rejected("That day is out of reach.", field="day")
    return day
